// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Rows are built only when the steps are others. Steps never change in place (a changed one is another pointer), so the
// comparison is of pointers, and a click elsewhere costs nothing here.
#include "app/stations/StepList.h"

#include "app/stations/Fields.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace thinline::app {

StepList::StepList(Look look, QWidget* parent) : QWidget(parent), m_look(std::move(look)) {
    m_lines = new QVBoxLayout(this);
    m_lines->setContentsMargins(0, 0, 0, 0);
    m_lines->setSpacing(2);
}

void StepList::show(const job::Steps& steps) {
    if (steps == m_shown)
        return;
    m_shown = steps;
    m_rows = 0;
    emptyLayout(m_lines);
    for (size_t i = 0; i < steps.size(); ++i) {
        const Shown shown = m_look(*steps[i]);
        if (shown == Shown::Not)
            continue;
        ++m_rows;
        auto* row = new QWidget;
        auto* line = new QHBoxLayout(row);
        line->setContentsMargins(0, 0, 0, 0);
        line->setSpacing(4);
        line->addWidget(sentenceLabel(tr("%1. %2").arg(i + 1).arg(text(job::stepText(*steps[i])))), 1);
        if (shown == Shown::ToOpen) {
            auto* open = linkButton(tr("Open"), tr("Open step %1 again").arg(i + 1));
            connect(open, &QPushButton::clicked, this, [this, i] { emit opened(i); });
            line->addWidget(open);
        }
        auto* out = linkButton(tr("Take out"), tr("Take step %1 out").arg(i + 1));
        connect(out, &QPushButton::clicked, this, [this, i] { emit takenOut(i); });
        line->addWidget(out);
        m_lines->addWidget(row);
    }
}

} // namespace thinline::app
