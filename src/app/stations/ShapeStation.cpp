// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/ShapeStation.h"

#include "app/stations/FaceDialog.h"
#include "job/SourceSteps.h"

#include <QComboBox>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSlider>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>
#include <tuple>

namespace thinline::app {
namespace {

using shape::Action;

constexpr int kSliderSteps = 200;
constexpr Action kBehindTheScenes[] = {Action::PutBack, Action::EmptyScrap}; // they have buttons of their own

bool isOffered(Action action) {
    return std::find(std::begin(kBehindTheScenes), std::end(kBehindTheScenes), action) ==
           std::end(kBehindTheScenes);
}

/// Actions whose first value is found by feel, with a slider.
bool isByFeel(Action action) {
    return action == Action::Offset || action == Action::FillOpenings || action == Action::MirrorTwin ||
           action == Action::Smooth;
}

/// The slider runs over what is usual; the field takes the whole range. Areas run evenly in the side of a
/// square.
double usualMost(Action action) {
    return action == Action::Offset         ? 15
           : action == Action::FillOpenings ? 400
           : action == Action::Smooth       ? 5
                                            : 50;
}
double amountOf(Action action, int slider) {
    const double share = static_cast<double>(slider) / kSliderSteps;
    if (action == Action::Offset)
        return std::round(share * usualMost(action) * 20) / 20;
    return action == Action::FillOpenings ? usualMost(action) * share * share : usualMost(action) * share;
}
int sliderOf(Action action, double amount) {
    const double share = std::abs(amount) / usualMost(action);
    return static_cast<int>(
        std::lround(kSliderSteps * (action == Action::FillOpenings ? std::sqrt(share) : share)));
}

} // namespace

ShapeStation::ShapeStation(Workbench& bench, QWidget* parent)
    : StationPanel(
          Station::Shape, bench,
          {tr("What is one piece, and what is open?"),
           tr("Click pieces on the bench, with Shift a whole word or group, or a layer in the side view. "
              "The first one is the one acted on."),
           tr("Join into one")},
          parent),
      m_tool({[this](const Pointer& pointer) {
                  if (const SceneItem* item = pointer.on())
                      toggle(pointer.withShift ? job::groupOf(this->bench().state(), item->piece)
                                               : std::vector{item->piece});
              },
              [this](const SceneItem& item, geometry::Point by) { moved(item, by); }}) {
    buildControls();
    m_settle.setSingleShot(true);
    m_settle.setInterval(120);
    connect(&m_settle, &QTimer::timeout, this, &ShapeStation::preview);
    connect(m_none, &QPushButton::clicked, this, &ShapeStation::close);
    connect(m_action, &QComboBox::currentIndexChanged, this, [this] {
        showControlsOf(action(), {});
        wantPreview();
    });
    connect(m_values, &ParameterRows::changed, this, [this] {
        showSlider(m_values->values().empty() ? 0 : m_values->values().front());
        wantPreview();
    });
    connect(m_slider, &QSlider::valueChanged, this, [this](int slider) {
        std::vector<double> values = m_values->values();
        if (values.empty())
            return;
        const double sign = action() == Action::Offset && values[0] < 0 ? -1 : 1;
        values[0] = sign * amountOf(action(), slider);
        showControlsOf(action(), values);
        wantPreview();
    });
    connect(mainButton(), &QPushButton::clicked, this, &ShapeStation::take);
    connect(m_putBack, &QPushButton::clicked, this, [this] {
        std::vector<design::PieceId> all;
        for (const design::Piece& piece : this->bench().made().pieces->scrap)
            all.push_back(piece.id);
        runStep(shape::makeStep(Action::PutBack, all));
    });
    connect(m_empty, &QPushButton::clicked, this,
            [this] { runStep(shape::makeStep(Action::EmptyScrap, {})); });
    showControlsOf(Action::Join, {});
}

void ShapeStation::buildControls() {
    std::tie(m_choiceText, m_none) = addChoice();
    m_action = new QComboBox;
    m_action->setAccessibleName(tr("What is done"));
    for (const shape::ActionInfo& info : shape::actionInfos())
        if (isOffered(info.action))
            m_action->addItem(tr(info.label), static_cast<int>(info.action));
    m_action->setToolTip(tr("What comes out; a ghost on the bench shows it before it is done"));
    m_action->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    controls()->addWidget(m_action);
    m_values = new ParameterRows;
    controls()->addWidget(m_values);
    m_slider = new QSlider(Qt::Horizontal);
    m_slider->setRange(0, kSliderSteps);
    m_slider->setAccessibleName(tr("How much, by feel"));
    controls()->addWidget(m_slider);
    m_place = new PlaceFields;
    controls()->addWidget(m_place);
    connect(m_place, &PlaceFields::moved, this, [this](geometry::Point by) {
        tell(m_note, {});
        runStep(shape::makeStep(Action::Move, chosen(), {by.x, by.y}));
    });
    connect(m_place, &PlaceFields::refused, this, [this](const QString& why) { tell(m_note, why); });
    auto* print =
        linkButton(tr("What is printed on it…"), tr("Pictures, colours, words and codes printed on a piece"));
    controls()->addWidget(print, 0, Qt::AlignLeft);
    connect(print, &QPushButton::clicked, this, [this] { showPrint(); });
    offer(tr("Print on a piece"), {}, [this] { showPrint(); });
    m_note = addNote();
    m_note->setObjectName("warning");
    m_stepsHeading = addHeading(tr("Steps taken"));
    m_steps = new StepList([](const design::Step& step) {
        const shape::ActionInfo* info = shape::infoOf(step);
        return info && isOffered(info->action) ? StepList::Shown::ToOpen : StepList::Shown::InWords;
    });
    controls()->addWidget(m_steps);
    connect(m_steps, &StepList::opened, this, &ShapeStation::openAgain);
    connect(m_steps, &StepList::takenOut, this, &ShapeStation::takeOut);
    m_scrap = addNote();
    auto* heap = new QWidget;
    auto* heapLine = new QHBoxLayout(heap);
    heapLine->setContentsMargins(0, 0, 0, 0);
    m_putBack = linkButton(tr("Put all back"), tr("Put all back from the scrap"));
    m_empty = linkButton(tr("Empty it"), tr("Empty the scrap"));
    heapLine->addWidget(m_putBack);
    heapLine->addWidget(m_empty);
    heapLine->addStretch(1);
    controls()->addWidget(heap);
}

void ShapeStation::showPrint() {
    if (!bench().hasPieces())
        return;
    auto* dialog =
        new FaceDialog(bench(), m_chosen.empty() ? std::nullopt : std::optional(chosen().front()), this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

Action ShapeStation::action() const {
    return static_cast<Action>(m_action->currentData().toInt());
}

design::Step ShapeStation::stepNow() const {
    return shape::makeStep(action(), m_chosen, m_values->values());
}

void ShapeStation::showControlsOf(Action action, const std::vector<double>& values) {
    const shape::ActionInfo& info = shape::infoOf(action);
    m_values->show(info.parameters, values);
    m_values->setVisible(!info.parameters.empty());
    m_slider->setVisible(isByFeel(action));
    if (!isByFeel(action))
        return;
    m_slider->setAccessibleName(tr("%1, by feel").arg(tr(info.parameters[0].label)));
    showSlider(m_values->values().front());
}

void ShapeStation::showSlider(double amount) {
    const QSignalBlocker quiet(m_slider);
    if (isByFeel(action()))
        m_slider->setValue(sliderOf(action(), amount));
}

/// A photo dropped on a piece is printed on it.
bool ShapeStation::takesDrop(const QStringList& paths, const SceneItem* on) {
    if (!on || paths.size() != 1)
        return false;
    const auto bytes = bench().files().read(paths.front().toStdString(), base::kMostFileBytes);
    if (!bytes || job::recognise(*bytes).kind != job::FileKind::Picture)
        return false;
    bench().run(tr("Print a picture"), [piece = on->piece,
                                        bytes = std::make_shared<const base::Bytes>(*bytes),
                                        name = QFileInfo(paths.front()).fileName().toStdString()](
                                           const job::State& now, const base::Progress&) {
        auto out = job::withPicturePrinted(now, {{piece}, design::Side::Front, {}}, {*bytes, name, {}});
        if (!out)
            return out;
        job::Noted noted = out.take();
        noted.note += " Dropped beside all pieces it comes in as artwork.";
        return base::Result<job::Noted>(std::move(noted));
    });
    return true;
}

ScenePtr ShapeStation::scene() {
    return kept(valuesOfDesign(), [&] {
        return sceneOfDesign(bench().pictureSource(), bench().made(), nullptr, bench().outlines());
    });
}

bool ShapeStation::mends(inspect::Kind kind) const {
    using inspect::Kind;
    return kind == Kind::StepPassedOver || kind == Kind::TwoHeights || kind == Kind::TooSmall ||
           kind == Kind::NarrowNeck || kind == Kind::Vanished || kind == Kind::NoBleed ||
           kind == Kind::CoarsePicture || kind == Kind::StretchedPicture || kind == Kind::TextNearCut ||
           kind == Kind::MirroredText || kind == Kind::ReadUpsideDown || kind == Kind::PrintInside;
}

/// Pieces that were parted since are marked by their parts.
std::vector<design::PieceId> ShapeStation::chosen() const {
    if (!bench().made().pieces)
        return {};
    return design::resolved({m_chosen.begin(), m_chosen.end()}, bench().made().pieces->now);
}

void ShapeStation::setActive(bool isActive) {
    if (!isActive) {
        m_preview.stop();
        close();
    }
}

void ShapeStation::toggle(const std::vector<design::PieceId>& pieces) {
    toggleAll(m_chosen, pieces);
    emit choiceChanged();
    refresh();
    wantPreview();
}

void ShapeStation::layerChosen(design::LayerId layer) {
    std::vector<design::PieceId> pieces;
    if (const design::Stack* work = bench().work())
        for (const design::Laid* laid : work->in(layer))
            pieces.push_back(laid->id());
    choose(action(), std::move(pieces));
}

void ShapeStation::choose(Action action, std::vector<design::PieceId> pieces) {
    m_action->setCurrentIndex(m_action->findData(static_cast<int>(action)));
    m_chosen = std::move(pieces);
    emit choiceChanged();
    refresh();
    wantPreview();
}

/// A piece was dragged; what is chosen goes along if it is one of them.
void ShapeStation::moved(const SceneItem& item, geometry::Point by) {
    auto pieces = m_chosen;
    if (std::find(pieces.begin(), pieces.end(), item.piece) == pieces.end())
        pieces = {item.piece};
    runStep(shape::makeStep(Action::Move, pieces, {by.x, by.y}));
}

void ShapeStation::setGhost(std::vector<geometry::Shape> shapes) {
    m_ghost = std::move(shapes);
    emit choiceChanged();
}

void ShapeStation::wantPreview() {
    m_settle.start();
}

/// What a step would come to.
struct ShapeStation::Foreseen {
    shape::Outcome outcome;
    shape::OutcomeNumbers numbers;
    Action action{};
};

/// A background thread calls it.
base::Result<ShapeStation::Foreseen> ShapeStation::foreseen(const design::Step& step,
                                                            const design::Pieces& before,
                                                            const base::Progress& progress) {
    auto outcome = shape::apply(before, step, nullptr, progress);
    if (!outcome)
        return outcome.error();
    auto numbers = shape::numbersOf(before, step, *outcome, progress);
    if (!numbers)
        return numbers.error();
    return Foreseen{outcome.take(), *numbers, shape::infoOf(step)->action};
}

void ShapeStation::preview() {
    m_preview.stop();
    const design::Step step = stepNow();
    // A step that is open is looked at where it stands, with what came before it.
    const auto& after = bench().made().after;
    const job::Kept<design::Pieces> before =
        m_open ? (*m_open < after.size() ? after[*m_open].before : nullptr) : bench().made().pieces;
    if (!before || step.on.size() < shape::infoOf(action()).leastPieces) {
        setGhost({});
        refresh();
        return;
    }
    m_preview.start(
        tr("Looking ahead"), [this, step, before](const base::Progress& progress) -> Task::Conclusion {
            auto seen = std::make_shared<base::Result<Foreseen>>(foreseen(step, *before, progress));
            return [this, seen] {
                if (*seen)
                    return showForeseen(**seen);
                if (seen->error().code == base::Code::Cancelled)
                    return;
                setGhost({});
                tell(m_note, text(seen->error().message));
                mainButton()->setEnabled(false);
            };
        });
}

void ShapeStation::showForeseen(const Foreseen& seen) {
    const shape::Outcome& outcome = seen.outcome;
    const shape::OutcomeNumbers& n = seen.numbers;
    tell(m_note, {});
    mainButton()->setEnabled(true);
    const auto pieces = [](qsizetype count) { return countOf(count, tr("piece"), tr("pieces")); };
    QVector<std::pair<QString, QString>> rows{
        {tr("Pieces"), tr("%1 → %2").arg(n.piecesBefore).arg(n.piecesAfter)},
        {tr("Nodes"), tr("%1 → %2").arg(n.nodesBefore).arg(n.nodesAfter)}};
    if (n.narrowest)
        rows.append({tr("Narrowest place"), tr("%1 mm").arg(n.narrowest->widthMm, 0, 'f', 2)});
    if (outcome.gapMm)
        rows.append({tr("Gap between them"), tr("%1 mm").arg(*outcome.gapMm, 0, 'f', 2)});
    if (seen.action == Action::Smooth)
        rows.append({tr("Outline moves by"), tr("%1 mm at most").arg(outcome.strayMm, 0, 'f', 3)});
    if (n.piecesAfter > 0)
        rows.append({tr("Hangs together"),
                     n.looseParts == 1 ? tr("yes, one piece") : tr("no, %1 loose parts").arg(n.looseParts)});
    if (!outcome.scrapped.empty())
        rows.append({tr("To the scrap"), pieces(static_cast<qsizetype>(outcome.scrapped.size()))});
    if (outcome.vanished > 0)
        rows.append({tr("Nothing left of"), pieces(outcome.vanished)});
    if (outcome.shortEnds > 0)
        rows.append({tr("Lines that end short"), QString::number(outcome.shortEnds)});
    if (outcome.droppedBits > 0)
        rows.append({tr("Bits of lines dropped"), QString::number(outcome.droppedBits)});
    setAnswer(rows, n.narrowest ? tr("The narrowest place lies at %1, %2 mm")
                                      .arg(n.narrowest->place.x, 0, 'f', 1)
                                      .arg(n.narrowest->place.y, 0, 'f', 1)
                                : QString());
    std::vector<geometry::Shape> made;
    for (const design::PieceId id : outcome.made)
        if (const design::Piece* piece = design::findPiece(outcome.pieces.now, id))
            made.push_back(piece->shape());
    setGhost(std::move(made));
}

void ShapeStation::runStep(const design::Step& step) {
    bench().run(tr(shape::infoOf(step)->label),
                [step](const job::State& now, const base::Progress& progress) {
                    return job::stepped(now, step, job::Stage::Finish, progress);
                });
}

void ShapeStation::take() {
    const design::Step step = stepNow();
    if (m_open)
        bench().run(tr("Change a step"),
                    [step, index = *m_open](const job::State& now, const base::Progress&) {
                        return job::withStepChanged(now, index, step);
                    });
    else
        runStep(step);
    close();
}

void ShapeStation::openAgain(size_t index) {
    const auto& steps = bench().job().steps;
    const shape::ActionInfo* info = index < steps.size() ? shape::infoOf(*steps[index]) : nullptr;
    if (!info || index >= bench().made().after.size())
        return;
    m_open = index;
    m_chosen = design::resolved(steps[index]->on, bench().made().after[index].before->now);
    m_action->setCurrentIndex(m_action->findData(static_cast<int>(info->action)));
    showControlsOf(info->action, shape::valuesOf(*steps[index]));
    emit choiceChanged();
    refresh();
    wantPreview();
}

void ShapeStation::takeOut(size_t index) {
    close();
    bench().act(tr("Take a step out"), job::withoutStep(bench().job(), index));
}

void ShapeStation::close() {
    m_open.reset();
    m_chosen.clear();
    m_settle.stop();
    m_preview.stop();
    setGhost({});
    emit choiceChanged();
    refresh();
}

/// Where the chosen ones lie together.
void ShapeStation::showPlace() {
    geometry::Box box;
    for (const design::PieceId id : chosen())
        if (const design::Piece* piece = design::findPiece(bench().made().pieces->now, id))
            box.include(geometry::bounds(piece->shape()));
    m_place->setVisible(!box.isEmpty() && action() == Action::Move);
    m_place->showBox(box, bench().job().unit);
}

void ShapeStation::refresh() {
    const job::Made& made = bench().made();
    if (made.pieces != m_shownPieces) {
        m_shownPieces = made.pieces;
        // What is not there any more cannot stay chosen; an open step keeps its pieces, which it may have used up.
        if (!m_open) {
            m_chosen = chosen();
            emit choiceChanged();
        }
        setGhost({});
        wantPreview();
    }
    const shape::ActionInfo& info = shape::infoOf(action());
    m_choiceText->setText(m_chosen.empty() ? tr("No piece chosen")
                                           : countOf(static_cast<qsizetype>(m_chosen.size()),
                                                     tr("piece chosen"), tr("pieces chosen")));
    m_none->setVisible(!m_chosen.empty());
    showPlace();
    m_steps->show(bench().job().steps);
    m_stepsHeading->setVisible(!bench().job().steps.empty());
    const auto scraps = made.pieces ? static_cast<qsizetype>(made.pieces->scrap.size()) : 0;
    tell(m_scrap,
         scraps > 0
             ? tr("Scrap: %1, kept until you empty it.").arg(countOf(scraps, tr("piece"), tr("pieces")))
             : QString());
    m_putBack->setVisible(scraps > 0);
    m_empty->setVisible(scraps > 0);
    if (const auto passedOver = job::passedOver(made); !passedOver.empty())
        tell(m_note, text(passedOver.front()));
    mainButton()->setText(m_open ? tr("Change step %1").arg(*m_open + 1) : tr(info.label));
    const bool isEnough = made.pieces && m_chosen.size() >= info.leastPieces;
    mainButton()->setEnabled(isEnough);
    if (isEnough)
        return;
    const int missing = static_cast<int>(info.leastPieces) - static_cast<int>(m_chosen.size());
    const design::StackMeasures m = made.finished ? made.finished->measures : design::StackMeasures{};
    setAnswer({{tr("To choose"),
                !made.pieces ? tr("no pieces yet") : countOf(missing, tr("piece more"), tr("pieces more"))},
               {tr("Pieces in all"), QString::number(m.pieces)},
               {tr("Nodes in all"), text(base::formatCount(m.nodes))}});
}

} // namespace thinline::app
