// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/ChecklistDialog.h"

#include "app/stations/Fields.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace thinline::app {

ChecklistDialog::ChecklistDialog(const QString& title, const job::Checklist& list, QWidget* parent)
    : QDialog(parent) {
    setWindowTitle(title);
    auto* body = new QWidget;
    auto* column = new QVBoxLayout(body);
    column->setContentsMargins(0, 0, 12, 0);
    column->setSpacing(6);
    for (const job::Checklist::Part& part : list.parts) {
        column->addWidget(headingLabel(text(part.heading)));
        for (const std::string& words : part.lines) {
            // A check box does not go on in the next line; a label beside it does.
            auto* box = new QCheckBox;
            box->setAccessibleName(text(words));
            auto* line = new QHBoxLayout;
            line->setSpacing(6);
            line->addWidget(box, 0, Qt::AlignTop);
            line->addWidget(sentenceLabel(text(words)), 1);
            column->addLayout(line);
            m_boxes.append(box);
            connect(box, &QCheckBox::toggled, this, &ChecklistDialog::count);
        }
        column->addSpacing(6);
    }
    column->addStretch(1);
    m_left = new QLabel;
    m_left->setObjectName("soft");
    auto* file = linkButton(tr("Write those of all loads…"),
                            tr("Write the checklists of all loads as text, to print"));
    auto* done = new QPushButton(tr("Done"));
    done->setObjectName("main");
    auto* last = new QHBoxLayout;
    last->addWidget(m_left);
    last->addWidget(file);
    last->addStretch(1);
    last->addWidget(done);
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(20, 16, 20, 16);
    lines->setSpacing(12);
    lines->addWidget(scrolled(body), 1);
    lines->addLayout(last);
    resize(620, 620);
    connect(file, &QPushButton::clicked, this, &ChecklistDialog::wantsFile);
    connect(done, &QPushButton::clicked, this, &QDialog::accept);
    count();
}

void ChecklistDialog::count() {
    const auto open =
        std::count_if(m_boxes.begin(), m_boxes.end(), [](const QCheckBox* box) { return !box->isChecked(); });
    m_left->setText(open == 0 ? tr("All done") : tr("%1 of %2 to do").arg(open).arg(m_boxes.size()));
}

} // namespace thinline::app
