// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/ShapeStation.h"

#include "app/stations/Fields.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSlider>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

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

QString countOf(qsizetype count, const QString& one, const QString& many) {
    return count == 1 ? QStringLiteral("1 ") + one : QStringLiteral("%1 %2").arg(count).arg(many);
}

} // namespace

ShapeStation::ShapeStation(Workbench& bench, QWidget* parent)
    : StationPanel(
          bench, tr("What is one piece, and what is open?"),
          tr("Click pieces on the bench, with Shift a whole word or group, or a layer in the side view. "
             "The first one is the one acted on."),
          tr("Join into one"), parent) {
    buildControls();
    m_settle.setSingleShot(true);
    m_settle.setInterval(120);
    connect(&m_settle, &QTimer::timeout, this, &ShapeStation::preview);
    connect(m_none, &QPushButton::clicked, this, &ShapeStation::close);
    connect(m_action, &QComboBox::currentIndexChanged, this, [this] {
        showControlsOf(stepNow().action, {});
        wantPreview();
    });
    connect(m_values, &ParameterRows::changed, this, [this] {
        showSlider(m_values->values().empty() ? 0 : m_values->values().front());
        wantPreview();
    });
    connect(m_slider, &QSlider::valueChanged, this, [this](int slider) {
        const Action action = stepNow().action;
        std::vector<double> values = m_values->values();
        if (values.empty())
            return;
        const double sign = action == Action::Offset && values[0] < 0 ? -1 : 1;
        values[0] = sign * amountOf(action, slider);
        showControlsOf(action, values);
        wantPreview();
    });
    connect(mainButton(), &QPushButton::clicked, this, &ShapeStation::take);
    connect(m_putBack, &QPushButton::clicked, this, [this] {
        shape::Step step{Action::PutBack, {}, {}};
        for (const shape::Item& item : this->bench().job().shaped->scrap)
            step.pieces.push_back(item.piece.id);
        runStep(step);
    });
    connect(m_empty, &QPushButton::clicked, this, [this] { runStep({Action::EmptyScrap, {}, {}}); });
    showControlsOf(Action::Join, {});
}

void ShapeStation::buildControls() {
    auto* choice = new QWidget;
    auto* line = new QHBoxLayout(choice);
    line->setContentsMargins(0, 0, 0, 0);
    m_choiceText = new QLabel;
    m_none = linkButton(tr("Choose none"), tr("Choose none"));
    line->addWidget(m_choiceText, 1);
    line->addWidget(m_none);
    controls()->addWidget(choice);
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
    m_note = addNote();
    m_note->setObjectName("warning");
    m_stepsHeading = addHeading(tr("Steps taken"));
    auto* frame = new QWidget;
    m_steps = new QVBoxLayout(frame);
    m_steps->setContentsMargins(0, 0, 0, 0);
    m_steps->setSpacing(2);
    controls()->addWidget(frame);
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

shape::Step ShapeStation::stepNow() const {
    shape::Step step;
    step.action = static_cast<Action>(m_action->currentData().toInt());
    step.pieces = m_chosen;
    step.values = m_values->values();
    return step;
}

void ShapeStation::showControlsOf(Action action, const std::vector<double>& values) {
    const shape::ActionInfo& info = shape::infoOf(action);
    const document::Job& job = bench().job();
    m_values->show(info.parameters, values, job.scaleX, job.scaleY);
    m_values->setVisible(!info.parameters.empty());
    m_slider->setVisible(isByFeel(action));
    if (!isByFeel(action))
        return;
    m_slider->setAccessibleName(tr("%1, by feel").arg(tr(info.parameters[0].label)));
    showSlider(m_values->values().front());
}

void ShapeStation::showSlider(double amount) {
    const QSignalBlocker quiet(m_slider);
    if (isByFeel(stepNow().action))
        m_slider->setValue(sliderOf(stepNow().action, amount));
}

void ShapeStation::setActive(bool isActive) {
    if (!isActive) {
        m_preview.stop();
        close();
    }
}

void ShapeStation::toggle(design::PieceId piece) {
    toggleGroup({piece});
}

void ShapeStation::toggleGroup(const std::vector<design::PieceId>& pieces) {
    toggleAll(m_chosen, pieces);
    emit choiceChanged();
    refresh();
    wantPreview();
}

void ShapeStation::chooseLayer(int layer) {
    const document::Job& job = bench().job();
    if (!job.stack || layer < 0 || layer >= static_cast<int>(job.stack->layers.size()))
        return;
    std::vector<design::PieceId> pieces;
    for (const design::Piece& piece : job.stack->layers[static_cast<size_t>(layer)].pieces)
        pieces.push_back(piece.id);
    choose(stepNow().action, std::move(pieces));
}

void ShapeStation::choose(Action action, std::vector<design::PieceId> pieces) {
    m_action->setCurrentIndex(m_action->findData(static_cast<int>(action)));
    m_chosen = std::move(pieces);
    emit choiceChanged();
    refresh();
    wantPreview();
}

void ShapeStation::setGhost(std::vector<geometry::Shape> shapes) {
    m_ghost = std::move(shapes);
    emit ghostChanged();
}

void ShapeStation::wantPreview() {
    m_settle.start();
}

void ShapeStation::preview() {
    m_preview.stop();
    const document::Job& job = bench().job();
    const shape::Step step = stepNow();
    const auto needed = shape::infoOf(step.action).leastPieces;
    if (!job.shaped || step.pieces.size() < needed) {
        setGhost({});
        refresh();
        return;
    }
    m_preview.start(
        tr("Looking ahead"),
        [this, step, open = m_open, snapshot = std::make_shared<const document::Job>(job)](
            const base::Progress& progress) -> Task::Conclusion {
            const auto told = [this](const base::Error& error) -> Task::Conclusion {
                if (error.code == base::Code::Cancelled)
                    return {};
                return [this, text = QString::fromStdString(error.message)] {
                    setGhost({});
                    tell(m_note, text);
                    mainButton()->setEnabled(false);
                };
            };
            shape::Work before = *snapshot->shaped;
            if (open) { // the step is looked at where it stands, with what came before it
                std::vector<shape::Step> earlier(snapshot->shapeSteps.begin(),
                                                 snapshot->shapeSteps.begin() +
                                                     static_cast<std::ptrdiff_t>(*open));
                auto base = document::withShapeSteps(*snapshot, std::move(earlier), progress);
                if (!base)
                    return told(base.error());
                before = *base->shaped;
            }
            auto outcome = shape::apply(before, step, progress);
            if (!outcome)
                return told(outcome.error());
            auto numbers = shape::numbersOf(before, step, *outcome, progress);
            if (!numbers)
                return told(numbers.error());
            return [this, outcome = outcome.take(), n = *numbers, step] {
                std::vector<geometry::Shape> made;
                for (const shape::Item& item : outcome.work.items)
                    if (std::find(outcome.made.begin(), outcome.made.end(), item.piece.id) !=
                        outcome.made.end())
                        made.push_back(*item.piece.shape);
                tell(m_note, {});
                mainButton()->setEnabled(true);
                QVector<std::pair<QString, QString>> rows{
                    {tr("Pieces"), tr("%1 → %2").arg(n.piecesBefore).arg(n.piecesAfter)},
                    {tr("Nodes"), tr("%1 → %2").arg(n.nodesBefore).arg(n.nodesAfter)}};
                if (n.narrowest)
                    rows.append({tr("Narrowest place"), tr("%1 mm").arg(n.narrowest->widthMm, 0, 'f', 2)});
                if (outcome.gapMm)
                    rows.append({tr("Gap between them"), tr("%1 mm").arg(*outcome.gapMm, 0, 'f', 2)});
                if (step.action == Action::Smooth)
                    rows.append(
                        {tr("Outline moves by"), tr("%1 mm at most").arg(outcome.strayMm, 0, 'f', 3)});
                if (n.piecesAfter > 0)
                    rows.append({tr("Hangs together"), n.looseParts == 1
                                                           ? tr("yes, one piece")
                                                           : tr("no, %1 loose parts").arg(n.looseParts)});
                if (!outcome.scrapped.empty())
                    rows.append({tr("To the scrap"), countOf(static_cast<qsizetype>(outcome.scrapped.size()),
                                                             tr("piece"), tr("pieces"))});
                if (outcome.vanished > 0)
                    rows.append(
                        {tr("Nothing left of"), countOf(outcome.vanished, tr("piece"), tr("pieces"))});
                setAnswer(rows, n.narrowest ? tr("The narrowest place lies at %1, %2 mm")
                                                  .arg(n.narrowest->place.x, 0, 'f', 1)
                                                  .arg(n.narrowest->place.y, 0, 'f', 1)
                                            : QString());
                setGhost(std::move(made));
            };
        });
}

void ShapeStation::runStep(const shape::Step& step) {
    bench().run(tr(shape::infoOf(step.action).label),
                [step](const document::Job& job, const base::Progress& progress) {
                    return document::withShapeStep(job, step, progress);
                });
}

void ShapeStation::take() {
    const shape::Step step = stepNow();
    if (m_open) {
        std::vector<shape::Step> steps = bench().job().shapeSteps;
        if (*m_open < steps.size())
            steps[*m_open] = step;
        bench().run(tr("Change a step"), [steps](const document::Job& job, const base::Progress& progress) {
            return document::withShapeSteps(job, steps, progress);
        });
    } else {
        runStep(step);
    }
    close();
}

void ShapeStation::openAgain(int index) {
    const auto& steps = bench().job().shapeSteps;
    if (index < 0 || index >= static_cast<int>(steps.size()))
        return;
    const shape::Step& step = steps[static_cast<size_t>(index)];
    m_open = static_cast<size_t>(index);
    m_chosen = shape::piecesOf(*bench().job().shaped, step);
    m_action->setCurrentIndex(m_action->findData(static_cast<int>(step.action)));
    showControlsOf(step.action, step.values);
    emit choiceChanged();
    refresh();
    wantPreview();
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

/// A step in words, lengths that follow the design at its present scale.
QString ShapeStation::stepText(const shape::Step& step) const {
    shape::Step shown = step;
    const auto& parameters = shape::infoOf(step.action).parameters;
    for (size_t i = 0; i < std::min(parameters.size(), shown.values.size()); ++i) {
        const base::Follows follows = parameters[i].follows;
        shown.values[i] *= follows == base::Follows::Width    ? bench().job().scaleX
                           : follows == base::Follows::Height ? bench().job().scaleY
                                                              : 1;
        shown.values[i] = std::round(shown.values[i] * 100) / 100;
    }
    return QString::fromStdString(shape::stepText(shown));
}

void ShapeStation::buildSteps() {
    const auto& steps = bench().job().shapeSteps;
    if (steps == m_shownSteps && m_steps->count() == static_cast<int>(steps.size()))
        return;
    m_shownSteps = steps;
    emptyLayout(m_steps);
    for (size_t i = 0; i < steps.size(); ++i) {
        auto* row = new QWidget;
        auto* line = new QHBoxLayout(row);
        line->setContentsMargins(0, 0, 0, 0);
        line->setSpacing(4);
        const QString text = tr("%1. %2").arg(i + 1).arg(stepText(steps[i]));
        auto* label = new QLabel(text);
        label->setWordWrap(true);
        line->addWidget(label, 1);
        if (isOffered(steps[i].action)) {
            auto* open = linkButton(tr("Open"), tr("Open step %1 again").arg(i + 1));
            connect(open, &QPushButton::clicked, this, [this, i] { openAgain(static_cast<int>(i)); });
            line->addWidget(open);
        }
        auto* out = linkButton(tr("Take out"), tr("Take step %1 out").arg(i + 1));
        connect(out, &QPushButton::clicked, this, [this, i] {
            std::vector<shape::Step> left = bench().job().shapeSteps;
            left.erase(left.begin() + static_cast<std::ptrdiff_t>(i));
            close();
            bench().run(tr("Take a step out"),
                        [left](const document::Job& job, const base::Progress& progress) {
                            return document::withShapeSteps(job, left, progress);
                        });
        });
        line->addWidget(out);
        m_steps->addWidget(row);
    }
}

void ShapeStation::refresh() {
    const document::Job& job = bench().job();
    if (job.shaped != m_shownWork) {
        m_shownWork = job.shaped;
        // What is not there any more cannot stay chosen; an open step keeps its pieces, which it may have
        // used up.
        if (!m_open) {
            std::erase_if(m_chosen, [&](design::PieceId id) {
                return !job.stack || !design::findPiece(*job.stack, id);
            });
            emit choiceChanged();
        }
        setGhost({});
        wantPreview();
    }
    const shape::Step step = stepNow();
    const shape::ActionInfo& info = shape::infoOf(step.action);
    QString choice = m_chosen.empty() ? tr("No piece chosen")
                                      : countOf(static_cast<qsizetype>(m_chosen.size()), tr("piece chosen"),
                                                tr("pieces chosen"));
    m_choiceText->setText(choice);
    m_none->setVisible(!m_chosen.empty());
    buildSteps();
    m_stepsHeading->setVisible(!job.shapeSteps.empty());
    const size_t scraps = job.shaped ? job.shaped->scrap.size() : 0;
    tell(m_scrap, scraps > 0 ? tr("Scrap: %1, kept until you empty it.")
                                   .arg(countOf(static_cast<qsizetype>(scraps), tr("piece"), tr("pieces")))
                             : QString());
    m_putBack->setVisible(scraps > 0);
    m_empty->setVisible(scraps > 0);
    if (!job.passedOver.empty())
        tell(m_note, QString::fromStdString(job.passedOver.front()));
    mainButton()->setText(m_open ? tr("Change step %1").arg(*m_open + 1) : tr(info.label));
    const bool isEnough = job.shaped && m_chosen.size() >= info.leastPieces;
    mainButton()->setEnabled(isEnough);
    if (!isEnough) {
        const int missing = static_cast<int>(info.leastPieces) - static_cast<int>(m_chosen.size());
        const design::StackMeasures m = job.stack ? design::measure(*job.stack) : design::StackMeasures{};
        setAnswer({{tr("To choose"), !job.shaped ? tr("no pieces yet")
                                                 : countOf(missing, tr("piece more"), tr("pieces more"))},
                   {tr("Pieces in all"), QString::number(m.pieces)},
                   {tr("Nodes in all"), QString::fromStdString(base::formatCount(m.nodes))}});
    }
}

} // namespace thinline::app
