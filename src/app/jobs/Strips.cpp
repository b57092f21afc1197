// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/jobs/Strips.h"

#include "app/settings/Theme.h"
#include "app/stations/Fields.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>

namespace thinline::app {

NoticeStrip::NoticeStrip(QWidget* parent) : QFrame(parent), m_text(sentenceLabel()) {
    setObjectName("notice");
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(20, 6, 12, 6);
    m_text->setTextInteractionFlags(Qt::TextSelectableByMouse);
    auto* close = linkButton(tr("Close"), tr("Close this message (Esc)"));
    line->addWidget(m_text, 1);
    line->addWidget(close);
    connect(close, &QPushButton::clicked, this, &QWidget::hide);
    hide();
}

void NoticeStrip::tell(const QString& sentence, bool isProblem) {
    m_isProblem = isProblem;
    m_text->setText(sentence);
    m_text->setStyleSheet(isProblem ? "color: " + theme().spoils.name() : QString());
    show();
}

void NoticeStrip::hideNote() {
    if (!m_isProblem)
        hide();
}

BusyStrip::BusyStrip(Workbench& bench, QWidget* parent)
    : QFrame(parent), m_text(new QLabel), m_bar(new QProgressBar) {
    setObjectName("notice");
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(20, 4, 12, 4);
    m_bar->setTextVisible(false);
    m_bar->setFixedHeight(4);
    m_bar->setRange(0, 1000);
    auto* stop = linkButton(tr("Stop"), tr("Stop what is being done; nothing changes (Esc)"));
    line->addWidget(m_text);
    line->addWidget(m_bar, 1);
    line->addWidget(stop);
    hide();
    m_delay.setSingleShot(true);
    m_delay.setInterval(200); // short work flashes nothing
    connect(&m_delay, &QTimer::timeout, this, [this, &bench] { setVisible(bench.isBusy()); });
    connect(stop, &QPushButton::clicked, &bench, &Workbench::stop);
    connect(&bench, &Workbench::busyChanged, this, [this, &bench] {
        m_text->setText(bench.running().title());
        m_bar->setValue(0);
        if (bench.isBusy())
            m_delay.start();
        else
            hide();
    });
    connect(&bench, &Workbench::progressed, this, [this, &bench](double fraction, const QString& doing) {
        m_text->setText(bench.running().title() + ": " + doing);
        m_bar->setValue(static_cast<int>(fraction * 1000));
    });
}

} // namespace thinline::app
