// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The Folds station. What is done decides what the pointer does: two clicks for a line, one for an edge, else lines are
// picked. A line is laid at once, as the next one is to be like it; what is done to lines that are there is looked at as
// a ghost before it is taken.
//
// What a chosen line does is shown in the same rows in which it is changed, and only what was changed in them is said: of
// ten folds with ten angles one can change the direction and leave the angles alone.
#include "app/stations/FoldsStation.h"

#include "app/stations/FoldedDialog.h"
#include "base/Length.h"
#include "design/Cuts.h"
#include "geometry/Measures.h"
#include "job/Constructions.h"
#include "job/LineSteps.h"
#include "job/SheetSteps.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>
#include <set>
#include <tuple>

namespace thinline::app {

using folds::Action;

FoldsStation::FoldsStation(Workbench& bench, QWidget* parent)
    : StationPanel(Station::Folds, bench,
                   {tr("Where does it fold, and where is it glued?"),
                    tr("Lay lines on the pieces, or choose some that are there. Ends run to the edge by "
                       "themselves."),
                    tr("Change lines")},
                   parent),
      m_lineTool(
          [this](const SceneItem& on, geometry::Point from, geometry::Point to) { lineDrawn(on, from, to); }),
      m_edgeTool([this](const SceneItem& of, geometry::Point at) { edgeClicked(of, at); }),
      m_pickTool(
          [this](const Pointer& pointer, const design::PieceLine* line) { picked(pointer, line); },
          [this](const design::PieceLine& line) { return lineWords(line, this->bench().job().unit); }) {
    buildControls();
    m_settle.setSingleShot(true);
    m_settle.setInterval(120);
    connect(&m_settle, &QTimer::timeout, this, &FoldsStation::preview);
    connect(m_none, &QPushButton::clicked, this, &FoldsStation::close);
    connect(m_action, &QComboBox::currentIndexChanged, this, [this] {
        m_open.reset();
        m_opened.reset();
        showControls(valuesOfChosen());
        m_settle.start();
        emit benchChanged(); // another tool
        refresh();
    });
    connect(m_values, &ParameterRows::changed, this, [this] {
        hideIdleRows();
        m_settle.start();
    });
    connect(mainButton(), &QPushButton::clicked, this, &FoldsStation::take);
    for (const Action action : {Action::Line, Action::AlongEdge, Action::Change})
        offer(tr(folds::infoOf(action).label), {}, [this, action] { choose(action); });
    auto* off = offer(tr("Take the chosen lines off"), {}, [this] {
        if (!m_lines.empty())
            this->bench().run(tr("Take lines off"),
                              [lines = m_lines](const job::State& now, const base::Progress&) {
                                  return job::withoutLines(now, lines);
                              });
    });
    off->setShortcut(QKeySequence::Delete);
    showControls({});
}

void FoldsStation::buildControls() {
    m_action = new QComboBox;
    m_action->setAccessibleName(tr("What is done"));
    for (const folds::ActionInfo& info : folds::actionInfos())
        if (info.action != Action::Glue &&
            info.action != Action::Unglue) // a panel that is chosen has a button
            m_action->addItem(tr(info.label), static_cast<int>(info.action));
    m_action->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    controls()->addWidget(m_action);
    m_hint = addNote();
    std::tie(m_choiceText, m_none) = addChoice();
    m_values = new ParameterRows;
    controls()->addWidget(m_values);
    m_words = new QLineEdit;
    m_words->setAccessibleName(tr("What is written"));
    m_words->setPlaceholderText(tr("TIDE CARD 12"));
    controls()->addWidget(m_words);
    m_stock = new QComboBox;
    m_stock->setAccessibleName(tr("Cut from"));
    m_stockRow = addRow(tr("Cut from"), m_stock, 144);
    m_panels = new PanelRows(bench());
    controls()->addWidget(m_panels);
    connect(m_panels, &PanelRows::found, this, [this] {
        emit choiceChanged();
        showAnswer();
    });
    m_note = addNote();
    m_note->setObjectName("warning");
    m_told = addNote();
    m_foldsAsHeading = addHeading(tr("Folds are made as"));
    m_foldsAs = new WordChoice({tr("scored"), tr("perforated"), tr("by hand")});
    controls()->addWidget(m_foldsAs);
    connect(m_foldsAs, &WordChoice::chosen, this, [this](int index) {
        bench().act(tr("Choose how folds are made"),
                    job::withFoldsAs(bench().job(), static_cast<design::FoldsAs>(index)));
    });
    auto* folded = linkButton(tr("See it folded"),
                              tr("The chosen piece, or the one with the most folds, from flat to done"));
    controls()->addWidget(folded, 0, Qt::AlignLeft);
    const auto show = [this] {
        const design::PieceId chosen = m_lines.empty()
                                           ? (m_pieces.empty() ? design::PieceId{} : m_pieces.front())
                                           : m_lines.front().piece;
        showFolded(bench(), chosen == design::PieceId{} ? job::foldable(bench().state()) : chosen, this);
    };
    connect(folded, &QPushButton::clicked, this, show);
    offer(tr("See it folded"), {}, show);
    m_marks = new MarksPanel(bench());
    controls()->addWidget(m_marks);
    connect(m_marks, &MarksPanel::refused, this, [this](const QString& why) { tell(m_note, why); });
    m_foam = new FoamPanel(bench());
    controls()->addWidget(m_foam);
    connect(m_foam, &FoamPanel::refused, this, [this](const QString& why) { tell(m_note, why); });
    m_stepsHeading = addHeading(tr("Steps taken here"));
    m_steps = new StepList([](const design::Step& step) {
        const folds::ActionInfo* info = folds::infoOf(step);
        // What is said of a panel, or drawn onto a piece, is said anew rather than opened.
        static const std::set<Action> inWords{Action::SayPanel,    Action::Glue,   Action::Unglue,
                                              Action::ShortenFlap, Action::Lining, Action::LikeTwins,
                                              Action::DrawOn,      Action::Write};
        return !info                            ? StepList::Shown::Not
               : inWords.contains(info->action) ? StepList::Shown::InWords
                                                : StepList::Shown::ToOpen;
    });
    controls()->addWidget(m_steps);
    connect(m_steps, &StepList::opened, this, &FoldsStation::openAgain);
    connect(m_steps, &StepList::takenOut, this, [this](size_t step) {
        close();
        bench().act(tr("Take a step out"), job::withoutStep(bench().job(), step));
    });
}

const folds::ActionInfo& FoldsStation::info() const {
    return folds::infoOf(static_cast<Action>(m_action->currentData().toInt()));
}

bool FoldsStation::isDone() const {
    const design::Stack* work = bench().work();
    return work && bench().made().finished->measures.lines > 0;
}

ScenePtr FoldsStation::scene() {
    // A scene for each way of making folds, told apart by a value of its own.
    static const std::array<std::shared_ptr<const int>, 3> ways{
        std::make_shared<int>(0), std::make_shared<int>(1), std::make_shared<int>(2)};
    const design::FoldsAs as = bench().job().plan.foldsAs;
    return kept(valuesOfDesign(ways[static_cast<size_t>(as)]), [&] {
        return sceneOfDesign(bench().pictureSource(), bench().made(), nullptr, bench().outlines(), as);
    });
}

Tool* FoldsStation::tool() {
    switch (info().action) {
    case Action::Line:
    case Action::Way:
    case Action::KeepFree:
    case Action::Write:
        return &m_lineTool;
    case Action::AlongEdge:
        return &m_edgeTool;
    default:
        return &m_pickTool;
    }
}

bool FoldsStation::mends(inspect::Kind kind) const {
    using inspect::Kind;
    return kind == Kind::LineCutShort || kind == Kind::FoldEndsShort || kind == Kind::FoldsTooClose ||
           kind == Kind::FoldInBoard || kind == Kind::ScoredFromBelow || kind == Kind::DrawnOnBack ||
           kind == Kind::NotchMissesFold || kind == Kind::PaneBarelyHolds || kind == Kind::LightInside ||
           kind == Kind::SlitTooNarrow || kind == Kind::WayClosed || kind == Kind::FlapUnsaid ||
           kind == Kind::JointOpen || kind == Kind::NoFoamRoom || kind == Kind::FoldAcrossNeck ||
           kind == Kind::MarkShows || kind == Kind::MarkOnBack || kind == Kind::RunsOverFold ||
           kind == Kind::NearFold || kind == Kind::HeldOnce || kind == Kind::SmallChildren;
}

// ---- what is chosen ---------------------------------------------------------------------------------------

const design::Piece* FoldsStation::pieceOf(design::PieceId id) const {
    const auto& pieces = bench().made().pieces;
    return pieces ? design::resolved(id, pieces->now) : nullptr;
}

/// The lines of a step are on pieces before they are finished; what is drawn is the finished one.
LineMarks FoldsStation::lineMarks() const {
    LineMarks out{m_holds, m_ghost, m_panels->marks()};
    if (const design::Stack* work = bench().work())
        for (const design::LineOf& one : m_lines)
            if (const design::Laid* laid = work->find(one.piece))
                for (const design::PieceLine& line : laid->piece.body->lines)
                    if (line.id == one.line)
                        out.chosen.push_back(line.path);
    return out;
}

/// The panel or the windows that are chosen.
std::vector<geometry::Shape> FoldsStation::ghost() const {
    if (takesPanels())
        return m_panels->chosenArea();
    std::vector<geometry::Shape> out;
    for (const design::OpeningOf& one : m_windows)
        if (const design::Piece* piece = pieceOf(one.piece))
            for (const geometry::Contour& opening : piece->shape().openings)
                if (geometry::contains({geometry::reversed(opening), {}}, piece->placed(one.inside)))
                    out.push_back({geometry::reversed(opening), {}});
    return out;
}

void FoldsStation::picked(const Pointer& pointer, const design::PieceLine* line) {
    const SceneItem* item = pointer.on();
    if (takesPanels())
        return m_panels->pick(item, pointer.at);
    if (takesWindows() || (takesMotifs() && !item))
        pickWindows(pointer);
    else if (!takesPieces() && !takesMotifs())
        pickLines(item, line);
    else if (item)
        toggleAll(m_pieces, {item->piece});
    m_settle.start();
    emit choiceChanged();
    refresh();
}

namespace {

/// Adds what is not chosen; lets all of it go when all is.
template <class One>
void toggle(std::vector<One>& chosen, const std::vector<One>& these) {
    const auto isIn = [](const std::vector<One>& all, const One& one) {
        return std::find(all.begin(), all.end(), one) != all.end();
    };
    if (std::all_of(these.begin(), these.end(), [&](const One& one) { return isIn(chosen, one); }))
        std::erase_if(chosen, [&](const One& one) { return isIn(these, one); });
    else
        for (const One& one : these)
            if (!isIn(chosen, one))
                chosen.push_back(one);
}

} // namespace

void FoldsStation::pickLines(const SceneItem* item, const design::PieceLine* line) {
    std::vector<design::LineOf> lines;
    if (line)
        lines.push_back({item->piece, line->id});
    else if (item) // all of its lines
        for (const design::PieceLine& one : item->body->lines)
            if (std::find(lines.begin(), lines.end(), design::LineOf{item->piece, one.id}) == lines.end())
                lines.push_back({item->piece, one.id});
    toggle(m_lines, lines);
    dropGoneLines(); // marks follow from what lies above: no step could change them
    showControls(valuesOfChosen());
}

/// A window has no card to click on: whose opening holds the place is asked of every piece there.
void FoldsStation::pickWindows(const Pointer& pointer) {
    std::vector<design::OpeningOf> windows;
    for (const SceneItem& item : pointer.scene->items()) {
        const design::Piece* piece = pieceOf(item.piece);
        if (!piece || piece->shape().openings.empty() ||
            !geometry::bounds(piece->shape()).contains(pointer.at))
            continue;
        const std::vector<design::OpeningOf> all = job::windowsOf(*piece);
        for (size_t i = 0; i < all.size(); ++i)
            if (geometry::contains({geometry::reversed(piece->shape().openings[i]), {}}, pointer.at))
                windows.push_back(all[i]);
        if (windows.empty() && pointer.on() && pointer.on()->piece == item.piece)
            windows = all; // its card: all of its windows
    }
    toggle(m_windows, windows);
}

qsizetype FoldsStation::chosenCount() const {
    return static_cast<qsizetype>(takesMotifs()    ? m_pieces.size() + m_windows.size()
                                  : takesPieces()  ? m_pieces.size()
                                  : takesWindows() ? m_windows.size()
                                                   : m_lines.size());
}

void FoldsStation::dropGoneLines() {
    std::erase_if(m_lines, [&](const design::LineOf& one) {
        const design::Piece* piece = pieceOf(one.piece);
        return !piece || std::none_of(piece->body->lines.begin(), piece->body->lines.end(),
                                      [&](const design::PieceLine& line) { return line.id == one.line; });
    });
    std::erase_if(m_pieces, [&](design::PieceId id) { return !pieceOf(id); });
    std::erase_if(m_windows, [&](const design::OpeningOf& one) { return !pieceOf(one.piece); });
}

void FoldsStation::choose(Action action, const std::vector<design::PieceId>& pieces) {
    m_action->setCurrentIndex(m_action->findData(static_cast<int>(action)));
    if (pieces.empty())
        return;
    m_pieces = pieces;
    m_settle.start();
    emit choiceChanged();
    refresh();
}

// ---- the rows ---------------------------------------------------------------------------------------------

/// What the first chosen line does, as values of Action::Change; empty for other actions.
std::vector<double> FoldsStation::valuesOfChosen() const {
    if (info().action != Action::Change || m_lines.empty())
        return {};
    const design::Piece* piece = pieceOf(m_lines.front().piece);
    if (!piece)
        return {};
    for (const design::PieceLine& line : piece->body->lines)
        if (line.id == m_lines.front().line) {
            const auto* fold = std::get_if<design::Fold>(&line.does);
            const design::Fold does = fold ? *fold : design::Fold{};
            return {static_cast<double>(line.does.index()), does.isTowards ? 1.0 : 0.0,
                    does.scored == design::Side::Back ? 1.0 : 0.0, does.angleDeg};
        }
    return {};
}

void FoldsStation::showControls(const std::vector<double>& values) {
    m_values->show(info().parameters, values);
    m_shownValues = m_values->values();
    const bool isIdle = info().action == Action::Change && m_lines.empty() && !m_opened;
    m_values->setVisible(!info().parameters.empty() && !takesPanels() && !isIdle);
    hideIdleRows();
}

/// Only a fold has a direction, a face and an angle.
void FoldsStation::hideIdleRows() {
    const auto& parameters = info().parameters;
    const std::vector<double> values = m_values->values();
    bool isFold = true;
    for (size_t i = 0; i < parameters.size(); ++i)
        if (parameters[i].name == std::string_view("as"))
            isFold = values[i] < 0.5;
    m_values->hideRows(isFold ? std::vector<std::string>{}
                              : std::vector<std::string>{"goes", "scored", "angle"});
}

folds::DrawnLine FoldsStation::drawnAs() const {
    const design::Step said = folds::makeStep(info().action, {}, m_values->values());
    return folds::drawnAs(said);
}

/// Of the chosen lines only what was changed in the rows.
std::map<std::string, design::Value> FoldsStation::saidNow() const {
    const std::vector<double> values = m_values->values();
    auto all = design::stepValues(info(), values);
    for (size_t i = 0; i < values.size() && i < m_shownValues.size(); ++i)
        if (values[i] == m_shownValues[i])
            all.erase(info().parameters[i].name);
    return all;
}

/// The step the main button takes; nothing where the pointer lays lines, or nothing is chosen.
std::optional<design::Step> FoldsStation::stepNow() const {
    if (m_opened) {
        design::Step step = *m_opened;
        for (const auto& [name, value] : design::stepValues(info(), m_values->values()))
            if (!info().takesOnlySaid || m_opened->values.contains(name))
                step.values[name] = value;
        return step;
    }
    if ((info().isDrawing && !takesPieces()) || takesPanels())
        return std::nullopt;
    std::vector<design::Chosen> on(m_lines.begin(), m_lines.end());
    if (takesPieces())
        on.assign(m_pieces.begin(), m_pieces.end());
    if (takesWindows())
        on.assign(m_windows.begin(), m_windows.end());
    if (takesMotifs())
        if (const auto pairs = motifsChosen())
            on = folds::motifStep(*pairs).on;
    if (info().action == Action::LikeTwins && bench().made().pieces)
        if (const auto step = folds::twinsStep(m_lines, bench().made().pieces->now))
            return *step;
    if (on.empty())
        return std::nullopt;
    design::Step step = folds::makeStep(info().action, std::move(on), m_values->values());
    if (info().takesOnlySaid)
        step.values = saidNow();
    return step;
}

/// Windows that were clicked, each with the piece clicked for it; else the pairs a frame and its motifs make.
base::Result<std::vector<folds::MotifPair>> FoldsStation::motifsChosen() const {
    std::vector<const design::Piece*> pieces;
    for (const design::PieceId id : m_pieces)
        if (const design::Piece* piece = pieceOf(id))
            pieces.push_back(piece);
    if (m_windows.empty())
        return job::motifPairs(pieces);
    return job::motifPairsInTurn(m_windows, pieces);
}

// ---- laying -----------------------------------------------------------------------------------------------

void FoldsStation::lineDrawn(const SceneItem& on, geometry::Point from, geometry::Point to) {
    const design::Piece* piece = pieceOf(on.piece);
    if (!piece)
        return;
    const Action action = info().action;
    const design::Step step =
        action == Action::Line ? folds::lineStep(*piece, {from, {geometry::Segment::line(to)}}, drawnAs())
        : action == Action::Write
            ? folds::writeStep(*piece, from, to, m_words->text().trimmed().toStdString(), m_values->values())
            : folds::wayStep(action, *piece, from, to, m_values->values());
    if (!m_opened)
        return runStep(step);
    m_opened->on = step.on;
    m_opened->values["way"] = step.values.at("way");
    m_settle.start();
}

void FoldsStation::edgeClicked(const SceneItem& of, geometry::Point at) {
    const design::Piece* piece = pieceOf(of.piece);
    if (!piece)
        return;
    const double distanceMm = m_values->values().front();
    const design::Step step = folds::alongEdgeStep(*piece, at, distanceMm, drawnAs());
    if (!m_opened)
        return runStep(step);
    m_opened->on = step.on;
    m_opened->values["at"] = step.values.at("at");
    m_settle.start();
}

void FoldsStation::runStep(const design::Step& step) {
    bench().run(tr(job::kindOf(step)->label), [step](const job::State& now, const base::Progress& progress) {
        return job::stepped(now, step, job::Stage::Finish, progress);
    });
}

// ---- a look ahead -----------------------------------------------------------------------------------------

/// What a step would come to.
struct FoldsStation::Foreseen {
    std::vector<geometry::Line> lines; ///< that are new or lie elsewhere
    std::vector<geometry::Line> holds; ///< where motifs hold
    QString words;
    int dropped = 0;

    QString whyNot;

    /// How motifs would lie in their windows, and where they hold.
    base::Status addMotifs(const design::Pieces& before, const design::Step& step,
                           const base::Progress& progress) {
        const auto all = folds::motifsSeen(before, step, progress);
        if (!all)
            return all.error();
        QStringList said;
        for (const folds::SeenMotif& seen : *all) {
            const folds::MotifFit& fit = seen.fit;
            lines.push_back(geometry::transformed(seen.motif->shape().outline, fit.placed));
            double narrowest = INFINITY;
            for (const folds::Contact& one : fit.holds) {
                holds.push_back(one.stretch);
                narrowest = std::min(narrowest, one.widthMm);
            }
            QString how =
                tr("%1: %2 % of its size, ")
                    .arg(capitalised(text(seen.motif->name)), text(base::formatNumber(100 * fit.scale, 0)));
            how += fit.holds.empty() ? tr("held nowhere")
                                     : tr("held on %1, %2 mm wide or more")
                                           .arg(countOf(fit.sides, tr("side"), tr("sides")),
                                                text(base::formatNumber(narrowest, 1)));
            if (!fit.weak.empty())
                how += tr("; %1 narrower")
                           .arg(countOf(static_cast<int>(fit.weak.size()), tr("contact is"),
                                        tr("contacts are")));
            said << how;
            if (whyNot.isEmpty())
                whyNot = text(folds::whyRefused(seen));
        }
        words = said.join(QStringLiteral("\n"));
        return base::Done{};
    }

    /// The lines a step makes or changes.
    base::Status addLines(const design::Pieces& before, const design::Step& step,
                          const base::Progress& progress) {
        const auto outcome = folds::apply(before, step, progress);
        if (!outcome)
            return outcome.error();
        for (const design::PieceId id : outcome->made) {
            const design::Piece* there = design::findPiece(before.now, id);
            const design::Piece& now = *design::findPiece(outcome->pieces.now, id);
            if (!there) { // a pane
                lines.push_back(now.shape().outline);
                continue;
            }
            const auto& was = there->body->lines;
            for (const design::PieceLine& line : now.body->lines)
                if (std::find(was.begin(), was.end(), line) == was.end())
                    lines.push_back(line.path);
        }
        dropped = outcome->droppedBits;
        return base::Done{};
    }
};

void FoldsStation::preview() {
    m_preview.stop();
    const auto& after = bench().made().after;
    const job::Kept<design::Pieces> before =
        m_open ? (*m_open < after.size() ? after[*m_open].before : nullptr) : bench().made().pieces;
    const auto step = stepNow();
    if (!before || !step || step->on.empty() || (info().takesOnlySaid && step->values.empty())) {
        m_ghost.clear();
        m_holds.clear();
        tell(m_told, {});
        if (takesMotifs() && chosenCount() > 1) // else it is only begun
            if (const auto pairs = motifsChosen(); !pairs)
                tell(m_note, text(pairs.error().message));
        emit choiceChanged();
        return;
    }
    m_preview.start(tr("Looking ahead"),
                    [this, step = *step, before](const base::Progress& progress) -> Task::Conclusion {
                        auto seen = std::make_shared<Foreseen>();
                        const folds::ActionInfo* does = folds::infoOf(step);
                        const bool fits = does && does->action == Action::FitMotif;
                        const base::Status looked = fits ? seen->addMotifs(*before, step, progress)
                                                         : seen->addLines(*before, step, progress);
                        if (!looked && looked.error().code == base::Code::Cancelled)
                            return [] {};
                        if (!looked)
                            seen->whyNot = text(looked.error().message);
                        return [this, seen] { showForeseen(*seen); };
                    });
}

void FoldsStation::showForeseen(const Foreseen& seen) {
    m_ghost = seen.lines; // a motif that would not hold shows how
    m_holds = seen.holds;
    emit choiceChanged();
    mainButton()->setEnabled(seen.whyNot.isEmpty());
    tell(m_told, seen.words);
    tell(
        m_note,
        !seen.whyNot.isEmpty() ? seen.whyNot
        : seen.dropped > 0
            ? tr("%1 would find no card and be left out.").arg(countOf(seen.dropped, tr("line"), tr("lines")))
            : QString());
}

void FoldsStation::take() {
    const auto step = stepNow();
    if (!step)
        return;
    const QString name = tr(info().label);
    if (m_open) {
        bench().run(tr("Change a step"),
                    [step = *step, index = *m_open](const job::State& now, const base::Progress&) {
                        return job::withStepChanged(now, index, step);
                    });
        return close();
    }
    if (takesWindows()) {
        bench().run(name, [windows = m_windows, margin = m_values->values().front(),
                           stock = m_stock->currentData().toString().toStdString()](const job::State& now,
                                                                                    const base::Progress&) {
            return job::withPanes(now, windows, margin, stock);
        });
        return close();
    }
    const bool isChange = info().action == Action::Change;
    if (isChange || info().action == Action::TakeOff)
        bench().run(name, [lines = m_lines, said = step->values, isChange](const job::State& now,
                                                                           const base::Progress&) {
            return isChange ? job::withLinesSaid(now, lines, said) : job::withoutLines(now, lines);
        });
    else
        runStep(*step);
    m_ghost.clear();
    m_holds.clear();
    m_shownValues = m_values->values();
    if (takesPieces() || takesMotifs())
        close();
}

void FoldsStation::openAgain(size_t index) {
    const auto& steps = bench().job().steps;
    const folds::ActionInfo* of = index < steps.size() ? folds::infoOf(*steps[index]) : nullptr;
    if (!of || index >= bench().made().after.size())
        return;
    close();
    choose(of->action);
    m_open = index;
    m_opened = *steps[index];
    showControls(design::valuesOf(*of, *m_opened));
    for (const design::Chosen& one : m_opened->on)
        if (const auto* line = std::get_if<design::LineOf>(&one))
            m_lines.push_back(*line);
    m_settle.start();
    emit choiceChanged();
    refresh();
}

void FoldsStation::close() {
    m_open.reset();
    m_opened.reset();
    m_lines.clear();
    m_pieces.clear();
    m_windows.clear();
    m_ghost.clear();
    m_holds.clear();
    m_panels->letGo();
    m_settle.stop();
    m_preview.stop();
    tell(m_note, {});
    tell(m_told, {});
    showControls({});
    emit choiceChanged();
    refresh();
}

void FoldsStation::setActive(bool isActive) {
    if (!isActive)
        close();
}

// ---- bringing it up to date -------------------------------------------------------------------------------

void FoldsStation::showAnswer() {
    const design::Stack* work = bench().work();
    if (!work)
        return setAnswer({{tr("Folds"), tr("no pieces yet")}});
    std::array<int, std::variant_size_v<design::LineUse>> counts{};
    int short_ = 0;
    for (const design::Laid& laid : work->pieces)
        for (const design::PieceLine& line : laid.piece.body->lines) {
            ++counts[line.does.index()];
            short_ +=
                std::holds_alternative<design::Fold>(line.does) && !(line.beginsAtEdge && line.endsAtEdge);
        }
    QVector<std::pair<QString, QString>> rows{
        {tr("Folds"), counts[0] == 0 ? tr("none")
                      : short_ == 0  ? tr("%1, all edge to edge").arg(counts[0])
                                     : tr("%1, %2 end on the card").arg(counts[0]).arg(short_)}};
    rows += m_panels->answer();
    rows += m_foam->answer();
    for (size_t use = 1; use < counts.size(); ++use)
        if (counts[use] > 0)
            rows.append({capitalised(nameOfUse(use).second), QString::number(counts[use])});
    setAnswer(rows);
}

/// What panes may be cut from; the first says that the program chooses.
void FoldsStation::showStocks() {
    m_stockRow->setVisible(takesWindows() && !m_open);
    QStringList now{QString()};
    for (const design::Stock& stock : bench().job().stocks)
        if (!stock.isCutByHand)
            now << text(stock.id);
    QStringList shown;
    for (int i = 0; i < m_stock->count(); ++i)
        shown << m_stock->itemData(i).toString();
    if (shown == now)
        return;
    m_stock->clear();
    for (const QString& id : now)
        m_stock->addItem(id.isEmpty() ? tr("translucent stock")
                                      : text(design::stockName(bench().job().stocks, id.toStdString())),
                         id);
}

void FoldsStation::refresh() {
    const job::Made& made = bench().made();
    if (made.pieces != m_shownPieces) {
        m_shownPieces = made.pieces;
        if (!m_open)
            dropGoneLines();
        m_ghost.clear();
        tell(m_note, {});
        if (!m_opened && info().action == Action::Change)
            showControls(valuesOfChosen());
        emit choiceChanged();
        m_settle.start();
    }
    const Action action = info().action;
    tell(m_hint,
         action == Action::Line ? tr("Click two places. They hold on to corners, notches, middles and edges.")
         : action == Action::Way   ? tr("Click where it goes in and where it comes out.")
         : action == Action::Write ? tr("Type the words, then click where they begin and which way they run.")
         : action == Action::KeepFree  ? tr("Click where the place begins and where it ends.")
         : action == Action::AlongEdge ? tr("Click a straight edge.")
         : action == Action::LikeTwins ? tr("Click lines of one piece; every piece of its form gets them.")
         : action == Action::DrawOn
             ? tr("Click the piece that is drawn on, then those whose outlines are drawn.")
         : takesPieces()  ? tr("Click pieces.")
         : takesMotifs()  ? tr("Click windows and the pieces that go into them, in turn; or a piece with "
                                "windows and all its motifs.")
         : takesWindows() ? tr("Click windows, or a piece for all of its windows.")
         : takesPanels()  ? tr("Click a panel. Its arrow shows which way it is read once folded.")
                          : tr("Click lines, or a piece for all of its lines."));
    m_words->setVisible(action == Action::Write);
    const bool picks = tool() == &m_pickTool && !takesPanels();
    m_panels->refresh();
    m_panels->setVisible(takesPanels());
    m_marks->refresh();
    m_foam->refresh();
    showStocks();
    m_choiceText->parentWidget()->setVisible(picks);
    const qsizetype count = chosenCount();
    const auto [none, one, several] =
        takesMotifs()
            ? std::tuple(tr("Nothing chosen"), tr("window or piece chosen"), tr("windows and pieces chosen"))
        : takesPieces()  ? std::tuple(tr("No piece chosen"), tr("piece chosen"), tr("pieces chosen"))
        : takesWindows() ? std::tuple(tr("No window chosen"), tr("window chosen"), tr("windows chosen"))
                         : std::tuple(tr("No line chosen"), tr("line chosen"), tr("lines chosen"));
    m_choiceText->setText(count == 0 ? none : countOf(count, one, several));
    m_none->setVisible(count > 0);
    const bool hasFolds = bench().hasPieces() && design::hasFolds(*bench().work());
    m_foldsAsHeading->setVisible(hasFolds);
    m_foldsAs->setVisible(hasFolds);
    m_foldsAs->choose(static_cast<int>(bench().job().plan.foldsAs));
    m_steps->show(bench().job().steps);
    m_stepsHeading->setVisible(m_steps->rows() > 0);
    mainButton()->setText(m_open ? tr("Change step %1").arg(*m_open + 1) : tr(info().label));
    mainButton()->setVisible(picks || m_open);
    mainButton()->setEnabled(m_open || count > 0);
    showAnswer();
}

} // namespace thinline::app
