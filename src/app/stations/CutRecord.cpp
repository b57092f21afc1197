// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What is answered is entered at once and can be taken back with a click, because the next load waits and nobody fills in a
// form beside a machine. Card that did not go through lies on the mat still: its sheets leave the drawer with the answer
// that ends the load, whatever that is.
#include "app/stations/CutRecord.h"

#include "app/stations/Fields.h"
#include "document/Drawer.h"
#include "job/DrawerSteps.h"
#include "logbook/OfLoad.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include <cmath>

namespace thinline::app {
namespace {

using logbook::Logbook;
using Came = logbook::Outcome;

QVBoxLayout* columnIn(QWidget* widget) {
    auto* out = new QVBoxLayout(widget);
    out->setContentsMargins(0, 0, 0, 0);
    out->setSpacing(2);
    return out;
}

} // namespace

// ---- what was learnt -------------------------------------------------------------------------------------------

LearntLine::LearntLine(QWidget* parent) : QWidget(parent), m_words(sentenceLabel({}, "soft")) {
    auto* column = columnIn(this);
    column->addWidget(m_words);
    m_take = linkButton({}, tr("Cut as the logbook says"));
    m_take->hide();
    hide();
    connect(m_take, &QPushButton::clicked, this, [this] {
        if (m_learnt)
            emit taken(m_learnt->forceGf, m_learnt->passes);
    });
}

void LearntLine::ask(const std::string& path, const design::Stock* stock, const design::Machine& machine,
                     const design::Setting& setting, const std::string& mat) {
    if (!stock) {
        m_reader.stop();
        m_asked = {};
        m_learnt = {};
        m_take->hide();
        return hide();
    }
    Question question{*stock, machine, setting, mat};
    if (m_asked == question)
        return;
    m_asked = std::move(question);
    m_reader.start(
        tr("Looking into the logbook"),
        [this, path, one = *stock, machine, setting, mat](const base::Progress&) -> Task::Conclusion {
            const auto nothing = [this] {
                m_learnt = {};
                m_take->hide();
                hide();
                emit found();
            };
            const auto book = Logbook::open(path, Logbook::Open::Existing);
            if (!book)
                return nothing;
            const auto learnt = logbook::learnt(*book, one, machine, setting);
            const auto wear = book->wear(machine.id, setting.blade, mat);
            if (!learnt || !*learnt || !wear)
                return nothing;
            return [this, learnt = **learnt, wear = *wear, setting] {
                m_learnt = learnt;
                constexpr double kMmPerM = 1000;
                m_words->setText(tr("%1. Blade and mat have cut %2 and %3 m.")
                                     .arg(capitalised(text(learnt.reason)))
                                     .arg(wear.bladeMm / kMmPerM, 0, 'f', 1)
                                     .arg(wear.matMm / kMmPerM, 0, 'f', 1));
                m_take->setText(tr("Cut at %1 gf").arg(std::lround(learnt.forceGf)));
                m_take->setVisible(std::abs(learnt.forceGf - setting.forceGf) > 0.5 ||
                                   learnt.passes != setting.passes);
                show();
                emit found();
            };
        });
}

// ---- what came of it -------------------------------------------------------------------------------------------

CutRecord::CutRecord(Workbench& bench, base::FileStore& store, QWidget* parent)
    : QWidget(parent), m_bench(bench), m_store(store), m_words(sentenceLabel({}, "soft")) {
    auto* column = columnIn(this);
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    const std::array words{tr("clean"), tr("not through"), tr("torn"), tr("other")};
    const std::array outcomes{Came::Clean, Came::NotThrough, Came::Torn, Came::Other};
    for (std::size_t i = 0; i < words.size(); ++i) {
        auto* button = new QPushButton(words[i]);
        button->setObjectName("word");
        button->setAccessibleName(tr("Enter: %1").arg(words[i]));
        button->setToolTip(tr("Enter into the logbook what came of this load"));
        connect(button, &QPushButton::clicked, this, [this, outcome = outcomes[i]] { answer(outcome); });
        row->addWidget(button);
        m_answers.append(button);
    }
    column->addLayout(row);
    m_isOfTile = new QCheckBox(tr("of the test tile"));
    column->addWidget(m_isOfTile);
    auto* said = new QHBoxLayout;
    m_back = linkButton(tr("Take back"), tr("Take the last entry out of the logbook"));
    said->addWidget(m_words, 1);
    said->addWidget(m_back, 0, Qt::AlignTop);
    column->addLayout(said);
    m_words->hide();
    m_back->hide();
    m_isOfTile->hide();
    connect(m_back, &QPushButton::clicked, this, &CutRecord::takeBack);
}

void CutRecord::askAbout(std::shared_ptr<const design::CutPlan> plan, std::size_t at) {
    const bool isOther = plan != m_plan || at != m_at;
    m_plan = std::move(plan);
    m_at = at;
    const bool isThere = m_plan && m_at < m_plan->loads.size();
    for (QPushButton* button : m_answers)
        button->setEnabled(isThere);
    const bool hasTile = isThere && m_plan->loads[m_at].tile;
    m_isOfTile->setVisible(hasTile);
    if (!hasTile)
        m_isOfTile->setChecked(false);
    if (isOther) {
        m_words->hide();
        m_back->hide();
    }
}

void CutRecord::say(const QString& sentence) {
    m_words->setText(sentence);
    m_words->setVisible(!sentence.isEmpty());
}

void CutRecord::answer(Came outcome) {
    if (!m_plan || m_at >= m_plan->loads.size() || m_writer.isRunning())
        return;
    const bool isOfTile = m_isOfTile->isChecked();
    m_writer.start(tr("Entering it"),
                   [this, outcome, isOfTile, plan = m_plan, at = m_at, state = m_bench.state(),
                    path = m_bench.logbookPath(), drawerPath = m_bench.drawerPath(),
                    &store = m_store](const base::Progress&) -> Task::Conclusion {
                       struct Done {
                           std::vector<std::string> ids;
                           std::string told;
                           sheets::Rests rests;
                           bool areSheetsGone = false;
                       };
                       const auto enter = [&]() -> base::Result<Done> {
                           base::Result<std::vector<logbook::Entry>> entries =
                               logbook::entriesOf(state, *plan, at, outcome);
                           if (isOfTile) {
                               const auto tile = logbook::tileEntryOf(state, *plan, at, outcome);
                               if (!tile)
                                   return tile.error();
                               entries = std::vector{*tile};
                           }
                           if (!entries)
                               return entries.error();
                           auto opened = Logbook::open(path, Logbook::Open::OrBegin);
                           if (!opened)
                               return opened.error();
                           Logbook book = opened.take();
                           Done out;
                           const auto added = book.add(*entries);
                           if (!added)
                               return added.error();
                           for (const logbook::Entry& entry : *added)
                               out.ids.push_back(entry.id);
                           if (isOfTile || outcome == Came::NotThrough)
                               return out;
                           const auto drawer = document::readDrawer(store, drawerPath);
                           if (!drawer)
                               return out; // nothing is kept there, so nothing was counted
                           const design::Load& load = state.made.sheets->loads[plan->loads[at].load];
                           out.rests = sheets::restsOf(load, *state.made.work());
                           const auto now =
                               job::withoutSheetsOf(*drawer, load, state.job.plan.scraps, out.rests);
                           if (now.told.empty())
                               return out;
                           if (const auto kept = document::writeDrawer(store, drawerPath, now.drawer); !kept)
                               out.told = "The drawer could not be changed: " + kept.error().message;
                           else {
                               out.told = now.told;
                               out.areSheetsGone = true;
                           }
                           return out;
                       };
                       const auto done = enter();
                       return [this, done, outcome, load = state.made.sheets->loads[plan->loads[at].load],
                               scraps = state.job.plan.scraps] {
                           if (!done) {
                               m_back->hide();
                               return say(text(done.error().message));
                           }
                           m_last = {done->ids, load, scraps, done->rests, done->areSheetsGone};
                           m_back->show();
                           say(tr("Entered. %1")
                                   .arg(outcome == Came::NotThrough
                                            ? tr("Run the same cut again before you unload.")
                                            : text(done->told)));
                           emit entered();
                       };
                   });
}

void CutRecord::takeBack() {
    m_writer.start(tr("Taking it back"),
                   [this, last = m_last, path = m_bench.logbookPath(), drawerPath = m_bench.drawerPath(),
                    &store = m_store](const base::Progress&) -> Task::Conclusion {
                       const auto undo = [&]() -> base::Status {
                           auto opened = Logbook::open(path, Logbook::Open::Existing);
                           if (!opened)
                               return opened.error();
                           Logbook book = opened.take();
                           for (const std::string& id : last.ids)
                               if (auto gone = book.remove(id); !gone)
                                   return gone;
                           if (!last.areSheetsGone)
                               return base::Done{};
                           const auto drawer = document::readDrawer(store, drawerPath);
                           if (!drawer)
                               return drawer.error();
                           return document::writeDrawer(store, drawerPath,
                                                        job::withSheetsOf(*drawer, last.load, last.scraps, last.rests).drawer);
                       };
                       const auto undone = undo();
                       return [this, undone] {
                           m_back->hide();
                           say(undone ? tr("Taken back.") : text(undone.error().message));
                           emit entered();
                       };
                   });
}

} // namespace thinline::app
