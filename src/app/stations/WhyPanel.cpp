// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/WhyPanel.h"

#include "app/stations/Fields.h"
#include "job/SheetSteps.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace thinline::app {

WhyPanel::WhyPanel(Workbench& bench, QWidget* parent) : QWidget(parent), m_bench(bench) {
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(2);
    m_words = sentenceLabel();
    m_words->setObjectName("help");
    lines->addWidget(m_words);
    m_ways = new QVBoxLayout;
    m_ways->setSpacing(0);
    lines->addLayout(m_ways);
    setVisible(false);
}

void WhyPanel::ask() {
    const auto sheets = m_bench.made().sheets;
    if (!sheets || m_bench.isBehind() || sheets == m_askedOf)
        return;
    m_askedOf = sheets;
    m_asker.start(tr("Laying the pieces in other ways"),
                  [this, state = m_bench.state()](const base::Progress& progress) -> Task::Conclusion {
                      auto found = job::otherLayouts(state, progress);
                      return [this, of = state.made.sheets, found = std::move(found)] {
                          if (found && of == m_askedOf)
                              show(*found);
                      };
                  });
}

void WhyPanel::stop() {
    if (!m_asker.isRunning())
        return;
    m_asker.stop();
    m_askedOf.reset();
}

void WhyPanel::show(const std::vector<sheets::Alternative>& found) {
    while (QLayoutItem* item = m_ways->takeAt(0)) {
        item->widget()->deleteLater();
        delete item;
    }
    const design::Stack* work = m_bench.work();
    const auto sheets = m_bench.made().sheets;
    if (!work || !sheets)
        return setVisible(false);
    QStringList deciding;
    constexpr int kShown = 2, kWays = 1; // the runner-up; the batch tool tells all
    for (const sheets::Alternative& one : found) {
        const QString words =
            text(sheets::alternativeText(one, sheets::effortOf(*sheets), *work, m_bench.job().unit));
        if (!one.isAWay()) {
            deciding << words;
        } else if (m_ways->count() < kWays) {
            auto* row = new QWidget;
            auto* lines = new QVBoxLayout(row);
            lines->setContentsMargins(0, 0, 0, 0);
            lines->setSpacing(0);
            lines->addWidget(sentenceLabel(capitalised(words), "help"));
            auto* link = linkButton(tr("Take this way"), tr("Take this way: %1").arg(words));
            connect(link, &QPushButton::clicked, this, [this, kind = one.kind] {
                m_bench.act(tr("Lay the pieces another way"), job::withWay(m_bench.job(), kind));
            });
            lines->addWidget(link, 0, Qt::AlignLeft);
            m_ways->addWidget(row);
        }
    }
    const QString sentence = capitalised(deciding.mid(0, kShown).join(QStringLiteral("; ")));
    m_words->setText(sentence);
    m_words->setVisible(!sentence.isEmpty());
    setVisible(!found.empty());
}

} // namespace thinline::app
