// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/PageView.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace thinline::app {

PageView::PageView(QSize most, QWidget* parent) : QWidget(parent) {
    m_page = new QLabel;
    m_page->setAccessibleName(tr("Page"));
    m_page->setAlignment(Qt::AlignCenter);
    m_page->setFrameShape(QFrame::StyledPanel);
    m_page->setFixedSize(most + QSize(4, 4));
    m_number = new QLabel;
    m_number->setAlignment(Qt::AlignCenter);
    m_earlier = new QPushButton(tr("Page before"));
    m_later = new QPushButton(tr("Next page"));
    auto* turn = new QHBoxLayout;
    turn->addWidget(m_earlier);
    turn->addWidget(m_number, 1);
    turn->addWidget(m_later);
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->addWidget(m_page);
    lines->addLayout(turn);
    lines->addStretch(1);
    for (const auto& [button, by] : {std::pair{m_earlier, -1}, std::pair{m_later, 1}})
        connect(button, &QPushButton::clicked, this, [this, by = by] {
            turnTo(m_shown + by);
            emit turned(m_shown);
        });
    tellNumber();
}

void PageView::setCount(int pages) {
    m_count = pages;
    turnTo(m_shown);
}

void PageView::turnTo(int page) {
    m_shown = std::clamp(page, 0, std::max(0, m_count - 1));
    tellNumber();
}

void PageView::setRemark(const QString& remark) {
    m_remark = remark;
    tellNumber();
}

void PageView::tellNumber() {
    m_earlier->setEnabled(m_shown > 0);
    m_later->setEnabled(m_shown + 1 < m_count);
    m_number->setText(m_count > 0 ? tr("page %1 of %2%3").arg(m_shown + 1).arg(m_count).arg(m_remark)
                                  : QString());
}

void PageView::showImage(const QImage& image) {
    m_page->setPixmap(QPixmap::fromImage(image));
}

void PageView::showWords(const QString& words) {
    m_page->setPixmap({});
    m_page->setText(words);
}

} // namespace thinline::app
