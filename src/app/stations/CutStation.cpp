// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/CutStation.h"

#include "app/bench/Scenes.h"
#include "app/stations/MachineDialog.h"
#include "app/stations/RegisterDialog.h"
#include "cutplan/Settings.h"
#include "design/PartNames.h"
#include "job/Catalogue.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSlider>
#include <QSpinBox>
#include <QVBoxLayout>

#include <array>
#include <cmath>

namespace thinline::app {
namespace {

constexpr int kWaySteps = 1000;
constexpr int kFrameMs = 16;
constexpr std::array kSpeeds{1.0, 10.0, 60.0};

QComboBox* choice(const QString& name) {
    auto* out = new QComboBox;
    out->setAccessibleName(name);
    return out;
}

} // namespace

CutStation::CutStation(Workbench& bench, base::FileStore& store, QWidget* parent)
    : StationPanel(Station::Cut, bench,
                   {tr("What happens on the machine?"), tr("Run it here first, on card that costs nothing."),
                    tr("Run the load")},
                   parent),
      m_store(store) {
    buildMachine();
    buildLoad();
    buildWay();
    buildFiles();
    m_note = addNote();
    m_note->setObjectName("warning");
    m_clock.setInterval(kFrameMs);
    connect(&m_clock, &QTimer::timeout, this, &CutStation::step);
    connect(mainButton(), &QPushButton::clicked, this, &CutStation::goOn);
}

void CutStation::buildMachine() {
    m_machine = choice(tr("Machine"));
    for (const design::Machine& machine : bench().catalogue().machines)
        m_machine->addItem(text(machine.name), text(machine.id));
    auto* more =
        linkButton(tr("Tools, lines…"), tr("Say what the machine has, and what it does not do itself"));
    auto* row = new QWidget;
    auto* line = new QHBoxLayout(row);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(4);
    line->addWidget(m_machine, 1);
    line->addWidget(more);
    controls()->addWidget(row);
    connect(m_machine, &QComboBox::activated, this, [this](int index) {
        const design::Machine* chosen =
            bench().catalogue().machine(m_machine->itemData(index).toString().toStdString());
        if (chosen)
            takeMachine([machine = *chosen](design::Machine& now) { now = machine; },
                        tr("Choose the machine"));
    });
    const auto show = [this] {
        auto* dialog = new MachineDialog(bench(), this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        dialog->open();
    };
    connect(more, &QPushButton::clicked, this, show);
    offer(tr("Say what the machine has"), {}, show);
    m_printed = linkButton(tr("A printed page…"),
                           tr("Where its marks were seen, and how far blade and sensor are apart"));
    controls()->addWidget(m_printed, 0, Qt::AlignLeft);
    const auto showPrinted = [this] {
        auto* dialog = new RegisterDialog(bench(), m_store, this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        dialog->open();
    };
    connect(m_printed, &QPushButton::clicked, this, showPrinted);
    offer(tr("Find a printed page"), {}, showPrinted);
}

void CutStation::buildLoad() {
    m_loads = choice(tr("Load"));
    m_loads->setToolTip(tr("In the order that needs fewest changes of tools"));
    addRow(tr("In order"), m_loads, 168);
    connect(m_loads, &QComboBox::activated, this, &CutStation::chooseLoad);
    m_stocks = choice(tr("Stock"));
    m_stockRow = addRow(tr("Stock"), m_stocks, 168);
    connect(m_stocks, &QComboBox::activated, this, &CutStation::showSetting);
    m_blade = choice(tr("Blade"));
    for (const design::ToolKind kind : {design::ToolKind::ShallowBlade, design::ToolKind::SteepBlade})
        m_blade->addItem(text(design::toolName(kind)), static_cast<int>(kind));
    m_force = numberField(tr("Force"), 1, static_cast<int>(design::kMostGf), tr(" gf"));
    m_passes = numberField(tr("Passes"), 1, design::kMostPasses, tr(" ×"));
    m_blade->setToolTip(tr("The blade that cuts this stock"));
    m_force->setToolTip(tr("With how much force, in gram-force"));
    m_passes->setToolTip(tr("How often it goes over every line"));
    auto* both = new QWidget;
    auto* line = new QHBoxLayout(both);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(4);
    line->addWidget(m_blade, 5);
    line->addWidget(m_force, 4);
    line->addWidget(m_passes, 3);
    controls()->addWidget(both);
    m_through = numberField(tr("Force through the carrier"), 1, static_cast<int>(design::kMostGf), tr(" gf"));
    m_through->setToolTip(tr("For what is cut through the carrier too; try it on a small square"));
    m_throughRow = addRow(tr("Through the carrier"), m_through, 110);
    m_reason = addNote();
    m_usual = linkButton(tr("As proposed"), tr("Cut this stock as proposed"));
    auto* others =
        linkButton(tr("Out of card…"), tr("Cut from another stock what was to be cut from this one"));
    auto* under = new QWidget;
    auto* links = new QHBoxLayout(under);
    links->setContentsMargins(0, 0, 0, 0);
    links->setSpacing(0);
    links->addWidget(others);
    links->addWidget(m_usual);
    links->addStretch();
    m_learnt = new LearntLine;
    controls()->addWidget(m_learnt);
    links->insertWidget(0, m_learnt->takeButton());
    connect(m_learnt, &LearntLine::found, this, &CutStation::showReason);
    controls()->addWidget(under);
    connect(others, &QPushButton::clicked, this,
            [this, others] { offerOthers(others->mapToGlobal(QPoint(0, others->height()))); });
    connect(m_learnt, &LearntLine::taken, this, [this](double forceGf, int passes) {
        auto setting = job::settingOf(bench().job(), stockId());
        if (!setting)
            return;
        design::Setting now = *setting;
        now.forceGf = forceGf;
        now.passes = passes;
        if (const auto job = job::withSetting(bench().job(), stockId(), now))
            bench().act(tr("Cut as the logbook says"), *job);
    });
    connect(m_blade, &QComboBox::activated, this, &CutStation::takeSetting);
    connect(m_force, &QSpinBox::valueChanged, this, &CutStation::takeSetting);
    connect(m_passes, &QSpinBox::valueChanged, this, &CutStation::takeSetting);
    connect(m_through, &QSpinBox::valueChanged, this, &CutStation::takeSetting);
    connect(m_usual, &QPushButton::clicked, this, [this] {
        if (const auto job = job::withSetting(bench().job(), stockId(), {}))
            bench().act(tr("Cut as proposed"), *job);
    });
}

void CutStation::buildWay() {
    addHeading(tr("Along the way"));
    m_way = new QSlider(Qt::Horizontal);
    m_way->setRange(0, kWaySteps);
    m_way->setAccessibleName(tr("How far the load is cut"));
    controls()->addWidget(m_way);
    m_now = addNote();
    m_speed = new WordChoice({tr("as it is"), tr("10 times"), tr("60 times")});
    m_speed->choose(1);
    m_speed->setToolTip(tr("How fast it runs here"));
    controls()->addWidget(m_speed);
    m_whatIf = choice(tr("What if"));
    m_whatIf->addItems({tr("nothing goes wrong"), tr("the blade is dull"), tr("the mat holds no more"),
                        tr("the sheet lies 1 mm askew")});
    m_whatIf->setToolTip(tr("To learn from, at no cost in card"));
    addRow(tr("What if"), m_whatIf, 188);
    connect(m_whatIf, &QComboBox::activated, this, [this] {
        begin();
        judge();
    });
    connect(m_way, &QSlider::valueChanged, this, [this](int value) {
        if (m_timeline)
            m_tool.goTo(m_timeline->seconds() * value / kWaySteps);
        showWay();
        emit choiceChanged();
    });
}

// ---- the plan -----------------------------------------------------------------------------------------------------

void CutStation::setActive(bool isActive) {
    m_isActive = isActive;
    bench().wantSheets(isActive);
    if (isActive)
        return refresh();
    const bool wasPlanning = m_planner.isRunning();
    m_clock.stop();
    m_planner.stop();
    m_judge.stop();
    if (wasPlanning)
        m_plannedFor = nullptr; // what is shown is of an earlier wish: to be planned once more
}

const design::PlannedLoad* CutStation::load() const {
    return m_plan && m_at < static_cast<int>(m_plan->loads.size()) ? &m_plan->loads[static_cast<size_t>(m_at)]
                                                                   : nullptr;
}

std::string CutStation::stockId() const {
    return m_stocks->currentData().toString().toStdString();
}

void CutStation::refresh() {
    m_printed->setVisible(!bench().job().print.stocks.empty());
    const auto sheets = bench().made().sheets;
    showMachine();
    const bool isOther = m_plannedFor != sheets || !(m_plannedBy == bench().job().cut) ||
                         m_plannedFolds != bench().job().plan.foldsAs;
    if (isOther && m_plannedFor != sheets) {
        m_clock.stop();
        m_plan = nullptr;
        m_timeline = nullptr;
        m_tool.show(nullptr, nullptr);
    }
    if (m_isActive && sheets && !bench().isBehind() && isOther)
        makePlan();
    showLoads();
}

/// Has a worker plan what the job now says.
void CutStation::makePlan() {
    m_plannedFor = bench().made().sheets;
    m_plannedBy = bench().job().cut;
    m_plannedFolds = bench().job().plan.foldsAs;
    m_planner.start(tr("Planning the cuts"),
                    [this, state = bench().state()](const base::Progress& progress) -> Task::Conclusion {
                        auto plan = job::planned(state, progress);
                        return [this, plan = std::move(plan)] {
                            if (!plan) {
                                m_plan = nullptr;
                                if (plan.error().code != base::Code::Cancelled)
                                    tell(m_note, text(plan.error().message));
                            } else {
                                m_plan = std::make_shared<const design::CutPlan>(*plan);
                            }
                            showLoads();
                            emit benchChanged();
                        };
                    });
}

void CutStation::showMachine() {
    const design::Machine& machine = job::machineOf(bench().job());
    if (m_machine->findData(text(machine.id)) < 0) // it came with the job, or is somebody's own
        m_machine->addItem(text(machine.name), text(machine.id));
    const int at = m_machine->findData(text(machine.id));
    m_machine->setItemText(at, text(machine.name));
    m_machine->setCurrentIndex(at);
}

/// The loads in the order of the plan, and everything that follows from the one that is looked at.
void CutStation::showLoads() {
    const QSignalBlocker quiet(m_loads);
    m_loads->clear();
    for (size_t i = 0; m_plan && m_plannedFor && i < m_plan->loads.size(); ++i) {
        QStringList stocks;
        for (const design::PlacedSheet& sheet : m_plannedFor->loads[m_plan->loads[i].load].sheets) {
            const QString name = text(design::stockName(bench().job().stocks, sheet.stockId));
            if (!stocks.contains(name))
                stocks << name;
        }
        // By the number its files bear; the list is in the order in which they are cut.
        m_loads->addItem(tr("Load %1: %2").arg(m_plan->loads[i].load + 1).arg(stocks.join(", ")));
    }
    m_loads->setEnabled(m_loads->count() > 1);
    // While there is no plan, the load that was looked at is remembered.
    chooseLoad(m_plan ? std::clamp(m_at, 0, std::max(0, m_loads->count() - 1)) : m_at);
}

void CutStation::chooseLoad(int at) {
    if (at != m_at) {
        m_clock.stop();
        const QSignalBlocker quiet(m_way);
        m_way->setValue(kWaySteps);
    }
    const bool isSame = m_timeline && at == m_at && m_lookedAt == m_plan;
    m_at = at;
    {
        const QSignalBlocker quiet(m_loads);
        m_loads->setCurrentIndex(at);
    }
    m_record->askAbout(m_plan, static_cast<size_t>(m_at));
    if (isSame) { // only words may have changed
        showSetting();
        showWay();
        return showAnswer();
    }
    m_lookedAt = m_plan;
    begin();
    m_shown = nullptr;
    m_timeline = nullptr;
    const std::string before = stockId();
    m_stocks->clear();
    if (const design::PlannedLoad* planned = load()) {
        const design::Load& on = m_plannedFor->loads[planned->load];
        m_shown = std::make_shared<const size_t>(planned->load);
        // The plan is held by what shows it.
        const std::shared_ptr<const design::PlannedLoad> shared(m_plan, planned);
        m_timeline = std::make_shared<const cutplan::Timeline>(*shared, m_plan->machine);
        m_tool.show(shared, m_timeline);
        m_tool.goTo(m_timeline->seconds() * m_way->value() / kWaySteps);
        for (const design::PlacedSheet& sheet : on.sheets)
            if (m_stocks->findData(text(sheet.stockId)) < 0)
                m_stocks->addItem(text(design::stockName(bench().job().stocks, sheet.stockId)),
                                  text(sheet.stockId));
        m_stocks->setCurrentIndex(std::max(0, m_stocks->findData(text(before))));
    } else {
        m_tool.show(nullptr, nullptr);
    }
    m_stockRow->setVisible(m_stocks->count() > 1);
    showSetting();
    showWay();
    judge();
    emit benchChanged();
}

/// Has a worker foresee what will lie on the mat.
void CutStation::judge() {
    m_after = nullptr;
    m_tool.foresee(nullptr);
    showAnswer();
    if (!load() || !bench().work())
        return m_judge.stop();
    m_judge.start(tr("Foreseeing what tears"),
                  [this, plan = m_plan, at = static_cast<size_t>(m_at), sheets = m_plannedFor,
                   made = bench().made(),
                   what = whatIf()](const base::Progress& progress) -> Task::Conclusion {
                      const design::PlannedLoad& planned = plan->loads[at];
                      auto after = devices::matAfter(planned, sheets->loads[planned.load], *made.work(),
                                                     plan->machine, planned.seconds + 1, what, progress);
                      if (!after)
                          return {};
                      return [this, after = std::make_shared<const devices::MatAfter>(after.take())] {
                          m_after = after;
                          m_tool.foresee(after);
                          showAnswer();
                          showWay();
                          emit choiceChanged();
                      };
                  });
}

void CutStation::showSetting() {
    const auto setting = job::settingOf(bench().job(), stockId());
    for (QWidget* field : std::initializer_list<QWidget*>{m_blade, m_force, m_passes, m_through})
        field->setEnabled(setting.isOk());
    if (!setting) {
        tell(m_reason, {});
        m_usual->hide();
        return m_learnt->ask({}, nullptr, {}, {}, {});
    }
    m_learnt->ask(bench().logbookPath(), design::findStock(bench().job().stocks, stockId()),
                  job::machineOf(bench().job()), *setting,
                  load() ? m_plannedFor->loads[load()->load].mat.id : std::string());
    const QSignalBlocker noForce(m_force), noPasses(m_passes), noThrough(m_through);
    m_blade->setCurrentIndex(m_blade->findData(static_cast<int>(setting->blade)));
    // What is being typed is not set back by a plan that comes in meanwhile.
    const auto show = [](QSpinBox* field, double value) {
        if (const auto* typed = field->findChild<QLineEdit*>(); !(field->hasFocus() && typed && typed->isModified()))
            field->setValue(static_cast<int>(std::lround(value)));
    };
    show(m_force, setting->forceGf);
    show(m_passes, setting->passes);
    m_throughRow->setVisible(bench().work() && job::isAnyThrough(*bench().work(), stockId()));
    show(m_through, cutplan::throughCarrier(*setting, job::machineOf(bench().job())).forceGf);
    m_usual->setVisible(bench().job().cut.settings.contains(stockId()));
    showReason();
}

/// Why the stock is cut so; what was found on the machine says more than a start value.
void CutStation::showReason() {
    const auto proposal = job::proposedSetting(bench().job(), stockId());
    if (!proposal)
        return tell(m_reason, {});
    const bool isDecided = bench().job().cut.settings.contains(stockId());
    const QString reason =
        isDecided ? tr("As you said; our start value is %1 gf.").arg(std::lround(proposal->setting.forceGf))
                  : capitalised(text(proposal->reason)) + QStringLiteral(".");
    // With a second force there is no room to say it.
    const bool isHidden = m_learnt->hasWords() || !m_throughRow->isHidden();
    tell(m_reason, isHidden ? QString() : reason);
    m_force->setToolTip(tr("With how much force, in gram-force") +
                        (isHidden ? QStringLiteral("\n") + reason : QString()));
}

void CutStation::askLogbook() {
    m_learnt->forget();
    showSetting();
}

void CutStation::takeMachine(const std::function<void(design::Machine&)>& change, const QString& name) {
    design::Machine machine = job::machineOf(bench().job());
    change(machine);
    const auto job = job::withMachine(bench().job(), machine);
    if (!job) {
        tell(m_note, text(job.error().message));
        return showMachine();
    }
    bench().act(name, *job);
    if (const auto kept = bench().keepMachine(); !kept)
        tell(m_note, tr("New jobs will not know of it. %1").arg(text(kept.error().message)));
}

void CutStation::takeSetting() {
    auto setting = job::settingOf(bench().job(), stockId());
    if (!setting)
        return;
    design::Setting now = *setting;
    now.blade = static_cast<design::ToolKind>(m_blade->currentData().toInt());
    now.forceGf = m_force->value();
    now.passes = m_passes->value();
    if (const int through = m_through->value();
        !m_throughRow->isHidden() &&
        through != std::lround(cutplan::throughCarrier(*setting, job::machineOf(bench().job())).forceGf))
        now.throughGf = through;
    for (const QSpinBox* field : {m_force, m_passes, m_through})
        field->findChild<QLineEdit*>()->setModified(false); // taken
    const auto job = job::withSetting(bench().job(), stockId(), now);
    if (!job)
        return tell(m_note, text(job.error().message));
    bench().act(tr("Set how a stock is cut"), *job);
}

// ---- along the way ------------------------------------------------------------------------------------------------

void CutStation::lookAt(size_t at, double share) {
    chooseLoad(static_cast<int>(at));
    m_way->setValue(static_cast<int>(std::lround(kWaySteps * share)));
}

devices::WhatIf CutStation::whatIf() const {
    devices::WhatIf out;
    out.isBladeDull = m_whatIf->currentIndex() == 1;
    out.isMatWorn = m_whatIf->currentIndex() == 2;
    out.askewMm = m_whatIf->currentIndex() == 3 ? 1 : 0;
    out.moreRounds = m_more;
    return out;
}

/// The simulated machine stands before the load once more.
void CutStation::begin() {
    m_phase = Phase::Cutting;
    m_more = 0;
    m_unload->hide();
}

void CutStation::goOn() {
    if (!m_timeline)
        return;
    const bool isAtEnd = m_tool.seconds() >= m_timeline->seconds() - 0.01;
    if (m_clock.isActive()) {
        m_clock.stop();
    } else if (m_phase == Phase::Standing && isAtEnd) {
        // A corner is lifted.
        m_phase = m_after && m_after->count(devices::Comes::NotThrough) > 0 ? Phase::Lifted : Phase::Unloaded;
        m_unload->setVisible(m_phase == Phase::Lifted);
    } else if (m_phase == Phase::Lifted && isAtEnd) {
        ++m_more;
        m_phase = Phase::Standing;
        m_unload->hide();
        judge();
    } else {
        if (isAtEnd)
            m_tool.goTo(0);
        if (m_phase == Phase::Unloaded || m_more > 0) {
            begin();
            judge();
        }
        m_clock.start();
    }
    showWay();
}

void CutStation::unload() {
    m_phase = Phase::Unloaded;
    m_unload->hide();
    showWay();
}

void CutStation::step() {
    if (!m_timeline)
        return m_clock.stop();
    const double speed = kSpeeds[static_cast<size_t>(std::clamp(m_speed->chosenIndex(), 0, 2))];
    m_tool.goTo(std::min(m_timeline->seconds(), m_tool.seconds() + speed * kFrameMs / 1000.0));
    if (m_tool.seconds() >= m_timeline->seconds()) {
        m_clock.stop();
        m_phase = Phase::Standing;
    }
    {
        const QSignalBlocker quiet(m_way);
        m_way->setValue(
            static_cast<int>(kWaySteps * m_tool.seconds() / std::max(0.001, m_timeline->seconds())));
    }
    showWay();
    emit choiceChanged();
}

/// What is being done there, and when.
void CutStation::showWay() {
    const bool isAtEnd = m_timeline && m_tool.seconds() >= m_timeline->seconds();
    mainButton()->setText(m_clock.isActive()                      ? tr("Halt")
                          : isAtEnd && m_phase == Phase::Standing ? tr("Lift a corner")
                          : isAtEnd && m_phase == Phase::Lifted   ? tr("Run the same cut again")
                                                                  : tr("Run the load"));
    mainButton()->setEnabled(m_timeline && (m_phase != Phase::Standing || m_after));
    m_way->setEnabled(m_timeline != nullptr);
    const auto now = m_timeline ? m_timeline->at(m_tool.seconds()) : std::nullopt;
    if (!now)
        return tell(m_now, {});
    const cutplan::Moment& moment = m_timeline->moments()[now->moment];
    const design::Pass& pass = load()->passes[moment.pass];
    const QString what = isAtEnd ? endText()
                         : moment.what == cutplan::Moment::What::Swap
                             ? tr("Stand up: the %1 goes in.").arg(text(design::toolName(pass.tool)))
                             : capitalised(text(job::passText(bench().state(), pass))) + ".";
    tell(m_now,
         tr("%1 of %2. %3")
             .arg(text(job::timeText(m_tool.seconds())), text(job::timeText(m_timeline->seconds())), what));
}

/// What stands there when the load is done.
QString CutStation::endText() const {
    const int lost = m_after ? m_after->count(devices::Comes::NotThrough) : 0;
    const QString pieces = countOf(lost, tr("piece"), tr("pieces"));
    switch (m_phase) {
    case Phase::Lifted:
        return tr("%1 not through. Run the same cut again; unloading would lose the place.").arg(pieces);
    case Phase::Unloaded:
        return lost > 0
                   ? tr("Unloaded too early: %1 lost, and no way to cut on at the same place.").arg(pieces)
                   : tr("It is through. Unload, and bend the mat away from the card.");
    default:
        return tr("Done. Lift a corner before you unload.");
    }
}

void CutStation::showAnswer() {
    const design::PlannedLoad* planned = load();
    if (!planned) {
        tell(m_note, {});
        return setAnswer({{tr("Loads"), m_planner.isRunning() ? tr("planning") : tr("none yet")}});
    }
    const base::LengthUnit unit = bench().job().unit;
    const auto length = [&](double mm) { return text(base::formatLength(mm, unit)); };
    const auto times = [](int n) {
        return n == 0 ? tr("never") : n == 1 ? tr("once") : tr("%1 times").arg(n);
    };
    const QString order =
        m_plan->swapsInOrder > m_plan->swaps ? tr(" (%1 as numbered)").arg(m_plan->swapsInOrder) : QString();
    QString free = tr("foreseeing"), torn = free;
    if (m_after) {
        free = tr("%1 of %2").arg(m_after->count(devices::Comes::Free)).arg(m_after->copies.size());
        torn =
            m_after->tears.empty()
                ? tr("nothing")
                : tr("%1, from %2")
                      .arg(countOf(static_cast<qsizetype>(m_after->tears.size()), tr("strip"), tr("strips")),
                           length(m_after->tears.front().widthMm));
    }
    setAnswer({{tr("Time, of all loads"),
                text(job::timeText(planned->seconds)) + ", " + text(job::timeText(m_plan->seconds()))},
               {tr("You change a tool"), times(m_plan->swaps) + order},
               {tr("Comes free"), free},
               {tr("Will tear"), torn},
               {tr("Lines, travel"), length(planned->lineMm()) + ", " + length(planned->travelMm())},
               {tr("Card, cost of all"), costText()}});
    QStringList faults;
    if (m_after && m_after->count(devices::Comes::NotThrough) > 0)
        faults << tr("It would not go through: more force, another pass, or a new blade.");
    if (m_after && !m_after->slips.empty()) {
        const devices::Slip& slip = m_after->slips.front();
        const design::Stack* work = bench().work();
        faults << capitalised(text(
                      work && work->find(slip.what.piece) ? design::pieceName(*work, slip.what.piece) : "")) +
                      ": " + text(devices::slipText(slip)) +
                      (m_after->slips.size() > 1 ? tr(", and %1 more.").arg(m_after->slips.size() - 1)
                                                 : QStringLiteral("."));
    }
    for (const design::PlanFault& fault : m_plan->faults)
        if (!fault.load || *fault.load == planned->load)
            faults << text(fault.text());
    tell(m_note, faults.mid(0, 2).join(' '));
}

/// The card of this load, and what all of them cost as far as prices are known.
QString CutStation::costText() {
    if (m_cost.plan == m_plan && m_cost.at == m_at && m_cost.serial == bench().serial())
        return m_cost.text;
    m_cost = {m_plan, m_at, bench().serial(), {}};
    const auto own = job::cutCost(bench().state(), *m_plan, static_cast<size_t>(m_at)),
               all = job::cutCost(bench().state(), *m_plan);
    if (!own || !all)
        return {};
    const double sum = all->cardCost + all->bladeCost;
    return m_cost.text = tr("%1 % used, %2")
                             .arg(std::lround(100 * own->usedMm2 / std::max(1.0, own->cardMm2)))
                             .arg(sum > 0 ? QString::number(sum, 'f', 2) +
                                                (all->unknown.empty() ? QString() : QStringLiteral("+"))
                                          : tr("no prices"));
}

// ---- the bench ----------------------------------------------------------------------------------------------------

ScenePtr CutStation::scene() {
    if (!m_shown || m_plannedFor != bench().made().sheets)
        return nullptr;
    return kept({bench().made().finished, bench().made().sheets, m_shown},
                [&] { return sceneOfSheets(bench().made(), bench().outlines(), *m_shown); });
}

QString CutStation::emptyText() const {
    return !bench().hasPieces()                   ? StationPanel::emptyText()
           : bench().made().sheetsProblem.empty() ? tr("The cuts are being planned.")
                                                  : text(bench().made().sheetsProblem);
}

} // namespace thinline::app
