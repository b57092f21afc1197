// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/Fields.h"
#include "app/stations/Stations.h"
#include "app/stations/TraceControls.h"
#include "base/Length.h"
#include "trace/Deviation.h"

#include <QButtonGroup>
#include <QCheckBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSlider>
#include <QSpinBox>
#include <QVBoxLayout>

#include <cmath>

namespace thinline::app {
namespace {

/// The least-area slider runs evenly in the side of the square, which is what the eye judges: 0 to 5 mm.
constexpr int kAreaSteps = 100;
double areaOf(int slider) {
    return std::pow(5.0 * slider / kAreaSteps, 2);
}
int sliderOf(double areaMm2) {
    return static_cast<int>(std::lround(std::sqrt(areaMm2) / 5.0 * kAreaSteps));
}

} // namespace

TraceStation::TraceStation(Workbench& bench, QWidget* parent)
    : StationPanel(bench, tr("Which areas become which card?"),
                   tr("Click or sweep over areas to lay a stock on them."), tr("Take these layers"), parent) {
    m_mode = new WordChoice({tr("Lines"), tr("Flat colours"), tr("Photo")});
    m_mode->setToolTip(tr("What kind of picture this is: a line drawing, flat colour art, or a photo"));
    controls()->addWidget(m_mode);
    buildLines();
    buildColours();
    buildTones();
    m_leastArea = addSlider(tr("Drop areas below"), m_leastAreaText, 0, kAreaSteps);
    m_leastArea->setToolTip(tr("Smaller areas join their surroundings, smaller specks of ink vanish"));
    m_dropped = addNote();
    addHeading(tr("Stock to lay"));
    auto* frame = new QWidget;
    m_swatches = new QGridLayout(frame);
    m_swatches->setContentsMargins(0, 0, 0, 0);
    m_swatches->setSpacing(6);
    m_swatchGroup = new QButtonGroup(this);
    controls()->addWidget(frame);
    m_room = addLength(tr("Room between pieces"));
    m_room->allowZero();
    m_room->setToolTip(
        tr("Every area shrinks by this much on all sides, so that more of the lines shows. 0 for none."));
    m_note = addNote();
    m_note->setObjectName("warning");
    m_view = new WordChoice({tr("Areas"), tr("Picture"), tr("Differences")});
    m_view->setToolTip(tr(
        "Compare the areas with the picture they came from (Ctrl+D): what was lost or added shows in red"));
    controls()->addWidget(m_view);
    buildClearing();

    m_settle.setSingleShot(true);
    m_settle.setInterval(250);
    connect(&m_settle, &QTimer::timeout, this, [this] {
        if (m_pending)
            std::exchange(m_pending, nullptr)();
    });
    connect(m_threshold, &QSlider::valueChanged, this, [this](int value) {
        m_thresholdText->setText(QString::number(value));
        m_pending = [this, value] {
            retrace(tr("Change the threshold"), [value](auto& recipe) { recipe.threshold = value; });
        };
        m_settle.start();
    });
    connect(m_automatic, &QCheckBox::clicked, this, [this](bool isOn) {
        const int value = m_threshold->value();
        retrace(tr("Change the threshold"), [isOn, value](auto& recipe) {
            recipe.threshold = isOn ? std::nullopt : std::optional(value);
        });
    });
    connect(m_mode, &WordChoice::chosen, this, [this](int mode) {
        retrace(tr("Look at the picture another way"),
                [mode](auto& recipe) { recipe.mode = static_cast<trace::Mode>(mode); });
    });
    connect(m_leastArea, &QSlider::valueChanged, this, [this](int value) {
        m_leastAreaText->setText(tr("%1 mm²").arg(areaOf(value), 0, 'f', 2));
        m_pending = [this, value] {
            retrace(tr("Change the least area"),
                    [value](auto& recipe) { recipe.leastAreaMm2 = areaOf(value); });
        };
        m_settle.start();
    });
    connect(m_room, &LengthField::entered, this, [this](double mm) {
        tell(m_note, {});
        this->bench().run(tr("Change the room between pieces"),
                          [mm](const document::Job& job, const base::Progress& progress) {
                              return document::withClearance(job, mm, progress);
                          });
    });
    connect(m_room, &LengthField::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(m_view, &WordChoice::chosen, this, [this](int shows) {
        m_shows = static_cast<Shows>(shows);
        compare();
        emit modeChanged();
    });
    connect(m_reopen, &QPushButton::clicked, this, [this] {
        retrace(tr("Take a closing line back"), [](auto& recipe) { recipe.closings.pop_back(); });
    });
    connect(m_swatchGroup, &QButtonGroup::idClicked, this,
            [this](int id) { m_chosenStock = m_swatchIds[id].toStdString(); });
    connect(mainButton(), &QPushButton::clicked, this, &StationPanel::done);
}

void TraceStation::toggleColour(int chip) {
    const raster::Rgb colour = m_shownPalette[static_cast<size_t>(chip)];
    if (bench().job().tracing && colour == bench().job().tracing->paper)
        return; // the paper is never cut
    retrace(tr("Cut a colour or leave it out"), [colour](auto& recipe) {
        const auto there = std::find(recipe.notCut.begin(), recipe.notCut.end(), colour);
        if (there == recipe.notCut.end())
            recipe.notCut.push_back(colour);
        else
            recipe.notCut.erase(there);
    });
}

void TraceStation::closeGaps(const std::vector<size_t>& leaks) {
    const auto picture = bench().picture();
    if (!picture)
        return;
    bench().run(leaks.size() > 1 ? tr("Close the gaps") : tr("Close a gap"),
                [picture, leaks](const document::Job& job, const base::Progress& progress) {
                    return document::withGapsClosed(job, *picture, leaks, document::shippedCatalogue(),
                                                    progress);
                });
}

/// A line for every gap that ends of lines face, and one for all of them.
void TraceStation::showGaps() {
    emptyLayout(m_gaps);
    const document::Job& job = bench().job();
    const std::vector<size_t> gaps = document::closableLeaks(job);
    if (gaps.empty())
        return;
    const trace::Sizing sizing = document::sizingOf(job);
    const double mmPerPx = sizing.mmPerPx * std::min(sizing.scaleX, sizing.scaleY); // as the finding tells it
    const auto add = [&](const QString& words, const std::vector<size_t>& leaks) {
        QPushButton* button = linkButton(words, words);
        connect(button, &QPushButton::clicked, this, [this, leaks] { closeGaps(leaks); });
        m_gaps->addWidget(button, 0, Qt::AlignLeft);
    };
    if (gaps.size() > 1)
        add(tr("Close all %1 gaps in the lines").arg(gaps.size()), gaps);
    constexpr size_t kMost = 4;
    for (size_t i = 0; i < std::min(gaps.size(), kMost); ++i)
        add(tr("Close the gap of %1 mm")
                .arg(QString::fromStdString(
                    base::formatNumber(job.tracing->leaks[gaps[i]].widthPx * mmPerPx, 1))),
            {gaps[i]});
}

void TraceStation::showColours() {
    const document::Job& job = bench().job();
    m_shownPalette.clear();
    std::vector<PaletteChips::Chip> chips;
    for (const raster::Rgb& colour : job.tracing ? job.tracing->palette : std::vector<raster::Rgb>{}) {
        const bool isGone = std::any_of(job.recipe.merges.begin(), job.recipe.merges.end(),
                                        [&](const trace::ColourMerge& m) { return m.from == colour; });
        if (isGone)
            continue;
        const bool isPaper = colour == job.tracing->paper;
        const bool isLeftOut =
            std::find(job.recipe.notCut.begin(), job.recipe.notCut.end(), colour) != job.recipe.notCut.end();
        m_shownPalette.push_back(colour);
        chips.push_back({colour, isPaper, !isPaper && !isLeftOut});
    }
    m_chips->show(std::move(chips));
}

QSlider* TraceStation::addSlider(const QString& label, QLabel*& value, int least, int most,
                                 QVBoxLayout* into) {
    value = new QLabel;
    value->setAlignment(Qt::AlignRight);
    QVBoxLayout* body = into ? into : controls();
    body->addWidget(labelled(label, value, 80));
    auto* slider = new QSlider(Qt::Horizontal);
    slider->setRange(least, most);
    slider->setAccessibleName(label);
    body->addWidget(slider);
    return slider;
}

void TraceStation::retrace(const QString& name, const std::function<void(trace::Recipe&)>& change) {
    const auto picture = bench().picture();
    if (!picture)
        return;
    lookAhead(change);
    bench().run(name, [picture, change](const document::Job& job, const base::Progress& progress) {
        trace::Recipe recipe = job.recipe;
        change(recipe);
        return document::traced(job, *picture, recipe, document::shippedCatalogue(), progress);
    });
}

void TraceStation::closeGap(geometry::Point from, geometry::Point to) {
    if (!bench().job().tracing)
        return;
    const document::Job& job = bench().job();
    const trace::Sizing sizing = document::sizingOf(job);
    // As wide as a usual pen stroke on the picture; the person sees it at once and can take it back.
    constexpr double kPenMm = 0.8;
    const trace::ClosingLine line{toPicture(from), toPicture(to), std::max(3.0, kPenMm / sizing.mmPerPx)};
    retrace(tr("Close a gap"), [line](auto& recipe) { recipe.closings.push_back(line); });
}

TraceStation::Tool TraceStation::tool() const {
    for (auto it = m_tools.begin(); it != m_tools.end(); ++it)
        if (it.value()->isChecked())
            return it.key();
    return Tool::None;
}

geometry::Point TraceStation::toPicture(geometry::Point p) const {
    const geometry::Transform map =
        trace::pictureToDesign(*bench().job().tracing, document::sizingOf(bench().job()));
    return {(p.x - map.e) / map.a, (p.y - map.f) / map.d};
}

void TraceStation::useTool(const std::vector<geometry::Point>& drawn) {
    if (!bench().job().tracing || drawn.empty())
        return;
    std::vector<geometry::Point> points;
    for (const geometry::Point p : drawn)
        points.push_back(toPicture(p));
    using Kind = trace::Erasure::Kind;
    const Tool used = tool();
    if (used == Tool::OwnPart) {
        geometry::Box box;
        for (const geometry::Point p : points)
            box.include(p);
        retrace(tr("Look at a part by itself"), [box](auto& recipe) {
            recipe.ownParts.push_back({box, {}});
        });
        return;
    }
    if (used == Tool::TakeColour) {
        takeColour(points.front());
        return;
    }
    if ((used == Tool::TakeBox && points.size() < 2) ||
        (used != Tool::TakeBox && used != Tool::TakeBrush && used != Tool::TakeSpill))
        return;
    const double scale = length(toPicture({kBrushMm, 0}) - toPicture({0, 0}));
    const trace::Erasure erasure{used == Tool::TakeBox     ? Kind::Rectangle
                                 : used == Tool::TakeBrush ? Kind::Brush
                                                           : Kind::Spill,
                                 used == Tool::TakeSpill ? std::vector{points.front()} : points, scale};
    retrace(tr("Take something out of the picture"),
            [erasure](auto& recipe) { recipe.erasures.push_back(erasure); });
}

std::shared_ptr<const raster::Picture> TraceStation::shownPicture() const {
    switch (m_shows) {
    case Shows::Areas:
        break;
    case Shows::Picture:
        return lookedAt();
    case Shows::Differences:
        return m_compared == bench().job().tracing ? m_differences : lookedAt();
    }
    return nullptr;
}

void TraceStation::togglePicture() {
    m_shows = m_shows == Shows::Areas ? Shows::Picture : Shows::Areas;
    m_view->choose(static_cast<int>(m_shows));
    emit modeChanged();
}

/// Holds the tracing against the picture, in the background.
void TraceStation::compare() {
    const auto picture = lookedAt();
    const auto tracing = bench().job().tracing;
    if (m_shows != Shows::Differences || !picture || !tracing || m_compared == tracing)
        return;
    m_comparer.start(tr("Comparing"), [this, picture, tracing](const base::Progress&) -> Task::Conclusion {
        auto found = std::make_shared<const trace::Deviation>(trace::deviationOf(*picture, *tracing));
        return [this, tracing, found] {
            m_compared = tracing;
            m_differing = found->share;
            m_differences = std::shared_ptr<const raster::Picture>(found, &found->picture);
            refresh();
            emit modeChanged();
        };
    });
}

void TraceStation::setActive(bool isActive) {
    if (!isActive)
        for (QPushButton* tool : std::as_const(m_tools))
            tool->setChecked(false);
}

void TraceStation::buildSwatches() {
    QVector<QString> ids;
    for (const design::Stock& stock : bench().job().stocks)
        ids.append(QString::fromStdString(stock.id));
    if (ids == m_swatchIds && m_swatchGroup->buttons().size() == ids.size())
        return;
    m_swatchIds = ids;
    const auto old = m_swatchGroup->buttons();
    for (QAbstractButton* button : old) {
        m_swatchGroup->removeButton(button);
        delete button;
    }
    constexpr int kAcross = 4;
    for (int i = 0; i < ids.size(); ++i) {
        const design::Stock& stock = bench().job().stocks[static_cast<size_t>(i)];
        auto* swatch = new Swatch(stock, tr("%1, %2 mm, %3 g/m²")
                                             .arg(QString::fromStdString(stock.name))
                                             .arg(stock.thicknessMm)
                                             .arg(stock.gramsPerM2));
        m_swatchGroup->addButton(swatch, i);
        m_swatches->addWidget(swatch, i / kAcross, i % kAcross);
    }
    if (!design::findStock(bench().job().stocks, m_chosenStock))
        m_chosenStock = ids.size() > 1  ? ids[1].toStdString()
                        : ids.isEmpty() ? std::string()
                                        : ids[0].toStdString();
    if (const auto at = ids.indexOf(QString::fromStdString(m_chosenStock)); at >= 0)
        m_swatchGroup->button(static_cast<int>(at))->setChecked(true);
}

void TraceStation::refresh() {
    const document::Job& job = bench().job();
    m_looker.stop(); // what was foreseen is here
    emit foreseen({});
    const bool isReady = bench().picture() != nullptr;
    const trace::Recipe& recipe = job.recipe;
    m_mode->setEnabled(isReady);
    m_mode->choose(static_cast<int>(recipe.mode));
    m_lines->setVisible(recipe.mode == trace::Mode::LineDrawing);
    m_colours->setVisible(recipe.mode == trace::Mode::FlatArt);
    m_tones->setVisible(recipe.mode == trace::Mode::Photo);
    m_tuckRow->setVisible(
        (recipe.mode == trace::Mode::FlatArt && recipe.stacking == trace::Stacking::Stacked) ||
        (recipe.mode == trace::Mode::LineDrawing && recipe.build == trace::Build::InkOnTop));
    m_build->choose(static_cast<int>(recipe.build));
    m_stacking->choose(static_cast<int>(recipe.stacking));
    m_tuck->showLength(recipe.tuckMm, job.unit);
    m_neck->showLength(recipe.neckMm, job.unit);
    m_view->choose(static_cast<int>(m_shows));
    compare();
    showGaps();
    showColours();
    for (QWidget* w : {static_cast<QWidget*>(m_threshold), static_cast<QWidget*>(m_leastArea),
                       static_cast<QWidget*>(m_automatic), static_cast<QWidget*>(m_view)})
        w->setEnabled(isReady);
    for (QPushButton* tool : std::as_const(m_tools))
        tool->setEnabled(isReady && job.tracing);
    m_whole->setVisible(!recipe.erasures.empty());
    refreshParts();
    m_room->setEnabled(bench().isTraced());
    m_reopen->setVisible(isReady && !job.recipe.closings.empty());
    mainButton()->setEnabled(bench().isTraced());
    buildSwatches();
    {
        const QSignalBlocker a(m_threshold), b(m_leastArea), c(m_automatic), d(m_count), e(m_toneCount);
        if (!m_settle.isActive()) {
            m_count->setValue(recipe.colours ? recipe.colours : 1);
            m_toneCount->setValue(recipe.tones);
            m_toneText->setText(QString::number(recipe.tones));
        }
        m_automatic->setChecked(!job.recipe.threshold);
        m_threshold->setValue(job.recipe.threshold ? *job.recipe.threshold
                              : job.tracing        ? job.tracing->threshold
                                                   : 128);
        m_thresholdText->setText(QString::number(m_threshold->value()));
        if (!m_settle.isActive())
            m_leastArea->setValue(sliderOf(job.recipe.leastAreaMm2));
        m_leastAreaText->setText(tr("%1 mm²").arg(job.recipe.leastAreaMm2, 0, 'f', 2));
    }
    m_room->showLength(job.clearanceMm, job.unit);
    if (!bench().isTraced()) {
        setAnswer({{tr("Layers"), tr("not traced yet")}});
        tell(m_dropped, {});
        return;
    }
    const bool isNothingDropped =
        job.tracing && job.tracing->droppedAreas == 0 && job.tracing->droppedSpecks == 0;
    tell(m_dropped, !job.tracing ? tr("Nothing is traced in this job: there is only stock to lay.")
                    : isNothingDropped || recipe.mode == trace::Mode::Photo ? QString()
                    : recipe.mode == trace::Mode::FlatArt
                        ? tr("%1 small areas joined their surroundings").arg(job.tracing->droppedAreas)
                        : tr("%1 areas and %2 specks of ink dropped")
                              .arg(job.tracing->droppedAreas)
                              .arg(job.tracing->droppedSpecks));
    const design::StackMeasures m = design::measure(*job.stack);
    QVector<std::pair<QString, QString>> rows{
        {tr("Layers"), QString::number(m.layers)},
        {tr("Pieces"), QString::fromStdString(base::formatCount(m.pieces))},
        {tr("Nodes"), QString::fromStdString(base::formatCount(m.nodes))},
        {tr("Smallest piece"), sizeText(m.smallestPieceBox.width(), m.smallestPieceBox.height())}};
    if (job.tracing && recipe.mode == trace::Mode::LineDrawing)
        rows.append({tr("Gaps left open"), QString::number(job.tracing->leaks.size())});
    if (job.tracing && !job.tracing->folds.empty())
        rows.append({tr("Folds"), QString::number(job.tracing->folds.size())});
    if (job.tracing &&
        recipe.mode == trace::Mode::Photo) // each layer's parts beyond its first lie loose on the one below
        rows.append({tr("Loose parts"), QString::number(std::max(0, m.pieces - m.layers))});
    if (m_shows == Shows::Differences && m_compared == job.tracing)
        rows.append({tr("Differs from the picture"), tr("%1 %").arg(100 * m_differing, 0, 'f', 2)});
    setAnswer(rows, tr("The smallest piece is %1")
                        .arg(QString::fromStdString(design::pieceName(*job.stack, m.smallestPiece))));
}

} // namespace thinline::app
