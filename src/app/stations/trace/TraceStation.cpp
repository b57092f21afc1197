// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/trace/TraceStation.h"

#include "app/stations/SheetDialog.h"
#include "app/stations/StockDialog.h"
#include "app/stations/trace/ColoursWay.h"
#include "app/stations/trace/TonesWay.h"
#include "app/stations/trace/TraceControls.h"
#include "job/LayerSteps.h"
#include "job/TraceSteps.h"
#include "raster/Turn.h"

#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSlider>
#include <QStackedWidget>
#include <QVBoxLayout>

#include <algorithm>
#include <array>
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

QVBoxLayout* columnOf(QWidget* page) {
    auto* lines = new QVBoxLayout(page);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(8);
    return lines;
}

} // namespace

TraceStation::TraceStation(Workbench& bench, QWidget* parent)
    : StationPanel(Station::Trace, bench,
                   {tr("Which areas become which card?"),
                    tr("Click or sweep over areas to lay a stock on them."), tr("Take these layers")},
                   parent),
      m_tools(new ToolButtons(this)), m_lines(new LinesWay(*m_tools, this)),
      m_colours(new ColoursWay(*m_tools, this)), m_tones(new TonesWay(this)),
      m_look(new PictureLook(bench, this)),
      m_sweep([this](const SceneItem& item, bool withShift) { paint(item, withShift); }) {
    m_page = new WordChoice({tr("Areas"), tr("Clear up"), tr("More")});
    m_page->setToolTip(tr("The areas and their card; what is taken out of the picture first; fine points"));
    m_pages = new QStackedWidget;
    for (QWidget* page : {buildAreas(), buildClearing(), buildMore()})
        m_pages->addWidget(page);
    controls()->addWidget(m_page);
    controls()->addWidget(m_pages);
    m_note = addNote();
    m_note->setObjectName("warning");
    connect(m_page, &WordChoice::chosen, this, [this](int page) { showPage(static_cast<Page>(page)); });
    connect(m_tools, &ToolButtons::changed, this, &StationPanel::benchChanged);
    connect(m_look, &PictureLook::changed, this, [this] {
        showAnswer();
        emit benchChanged();
    });
    connect(mainButton(), &QPushButton::clicked, this, &StationPanel::done);
    connectWays();
    offer(tr("Close a gap by two clicks"), QKeySequence(Qt::CTRL | Qt::Key_G), [this] {
        if (m_pages->currentIndex() != static_cast<int>(Page::Areas))
            showPage(Page::Areas);
        m_lines->closeGap()->click();
    });
    offer(tr("Edit the stocks: card, vinyl, board"), {}, [this] { editStocks(); });
    offer(tr("Show the picture instead of the areas"), QKeySequence(Qt::CTRL | Qt::Key_D),
          [this] { m_look->toggle(); });
    showPage(Page::Areas);
}

QWidget* TraceStation::buildAreas() {
    auto* page = new QWidget;
    auto* lines = columnOf(page);
    m_mode = new WordChoice({tr("Lines"), tr("Flat colours"), tr("Photo")});
    m_mode->setToolTip(tr("What kind of picture this is: a line drawing, flat colour art, or a photo"));
    lines->addWidget(m_mode);
    for (const TraceWay* way : {static_cast<TraceWay*>(m_lines), static_cast<TraceWay*>(m_colours),
                                static_cast<TraceWay*>(m_tones)})
        lines->addWidget(way->plain());
    m_leastAreaText = new QLabel;
    m_leastAreaText->setAlignment(Qt::AlignRight);
    m_leastArea = new QSlider(Qt::Horizontal);
    m_leastArea->setRange(0, kAreaSteps);
    m_leastArea->setAccessibleName(tr("Drop areas below"));
    m_leastArea->setToolTip(tr("Smaller areas join their surroundings, smaller specks of ink vanish"));
    m_dropped = new QLabel;
    m_dropped->setObjectName("soft");
    auto* least = new QVBoxLayout;
    least->setSpacing(2);
    least->addWidget(labelled(tr("Drop areas below"), m_leastAreaText, 80));
    least->addWidget(m_leastArea);
    least->addWidget(m_dropped);
    lines->addLayout(least);
    m_offers = new TakeOutOffers;
    lines->addWidget(m_offers);
    connect(m_offers, &TakeOutOffers::wantsOut, this, [this](const QString& step, const std::vector<trace::Erasure>& erasures) {
        change(step, [erasures](trace::Recipe& recipe) {
            recipe.erasures.insert(recipe.erasures.end(), erasures.begin(), erasures.end());
        });
    });
    auto* heading = new QLabel(tr("Stock to lay"));
    heading->setObjectName("heading");
    m_stocks = new StockChoice;
    auto* edit = linkButton(tr("Edit stocks"), tr("Edit what the job may be cut from"));
    connect(edit, &QPushButton::clicked, this, &TraceStation::editStocks);
    auto* above = new QHBoxLayout;
    above->addWidget(heading);
    above->addStretch(1);
    above->addWidget(edit);
    lines->addLayout(above);
    lines->addWidget(m_stocks, 0, Qt::AlignLeft);
    lines->addWidget(m_look->choice());
    lines->addStretch(1);
    m_settle.setSingleShot(true);
    m_settle.setInterval(250);
    connect(m_leastArea, &QSlider::valueChanged, this, [this](int value) {
        m_leastAreaText->setText(tr("%1 mm²").arg(areaOf(value), 0, 'f', 2));
        m_settle.start();
    });
    connect(&m_settle, &QTimer::timeout, this, [this] {
        change(tr("Change the least area"), [value = m_leastArea->value()](trace::Recipe& recipe) {
            recipe.leastAreaMm2 = areaOf(value);
        });
    });
    connect(m_mode, &WordChoice::chosen, this, [this](int mode) {
        change(tr("Look at the picture another way"),
               [mode](trace::Recipe& recipe) { recipe.mode = static_cast<trace::Mode>(mode); });
    });
    return page;
}

QWidget* TraceStation::buildClearing() {
    auto* page = new QWidget;
    auto* lines = columnOf(page);
    m_clear = new ClearPanel(*m_tools);
    lines->addWidget(m_clear);
    lines->addStretch(1);
    connect(m_clear, &ClearPanel::marked, this, &TraceStation::takeOut);
    connect(m_clear, &ClearPanel::wantsAllBack, this, [this] {
        change(tr("Bring back what was taken out"), [](trace::Recipe& recipe) { recipe.erasures.clear(); });
    });
    connect(m_clear, &ClearPanel::wantsSheet, this, [this] {
        auto* dialog = new SheetDialog(bench(), this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        dialog->open();
    });
    connect(m_clear, &ClearPanel::turned, this, &TraceStation::turnTo);
    connect(m_clear, &ClearPanel::told, this, [this](const QString& words) { tell(m_note, words); });
    return page;
}

QWidget* TraceStation::buildMore() {
    auto* page = new QWidget;
    auto* lines = columnOf(page);
    for (const TraceWay* way : {static_cast<TraceWay*>(m_lines), static_cast<TraceWay*>(m_colours),
                                static_cast<TraceWay*>(m_tones)})
        lines->addWidget(way->more());
    m_room = new LengthField(tr("Room between pieces"));
    m_room->allowZero();
    m_room->setToolTip(
        tr("Every area shrinks by this much on all sides, so that more of the lines shows. 0 for none."));
    lines->addWidget(labelled(tr("Room between pieces"), m_room));
    lines->addStretch(1);
    connect(m_room, &LengthField::entered, this, [this](double mm) {
        auto job = job::withRoom(bench().job(), mm, bench().pictureInHand());
        tell(m_note, job ? QString() : text(job.error().message));
        if (job)
            bench().act(tr("Change the room between pieces"), job.take());
    });
    connect(m_room, &LengthField::refused, this, [this](const QString& why) { tell(m_note, why); });
    return page;
}

void TraceStation::connectWays() {
    for (TraceWay* way : {static_cast<TraceWay*>(m_lines), static_cast<TraceWay*>(m_colours),
                          static_cast<TraceWay*>(m_tones)}) {
        connect(way, &TraceWay::wants, this, &TraceStation::change);
        connect(way, &TraceWay::refused, this, [this](const QString& why) { tell(m_note, why); });
    }
    connect(m_lines, &LinesWay::gapMarked, this, &TraceStation::closeGap);
    connect(m_lines, &LinesWay::partMarked, this, [this](const geometry::Box& box) {
        const geometry::Box part = job::partAt(*bench().pictureSource(), box);
        change(tr("Look at a part by itself"), [part](trace::Recipe& recipe) {
            recipe.ownParts.push_back({part, {}});
        });
    });
    connect(m_lines, &LinesWay::wantsGapsClosed, this, [this](const std::vector<size_t>& leaks) {
        const auto pixels = bench().picture();
        if (pixels)
            bench().run(leaks.size() > 1 ? tr("Close the gaps") : tr("Close a gap"),
                        [pixels, leaks, of = bench().pictureInHand()](const job::State& now,
                                                                      const base::Progress& progress) {
                            return job::withGapsClosed(now.job, *pixels, leaks, job::shippedCatalogue(),
                                                       progress, of);
                        });
    });
    connect(m_lines, &LinesWay::wantsColoursOfCopy, this, [this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Open a coloured copy of the drawing"));
        if (!path.isEmpty())
            colourFrom(path);
    });
    connect(m_colours, &ColoursWay::colourMarked, this, &TraceStation::takeColour);
}

void TraceStation::editStocks() {
    auto* dialog = new StockDialog(bench(), this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

TraceWay* TraceStation::wayOf(trace::Mode mode) const {
    return mode == trace::Mode::LineDrawing ? static_cast<TraceWay*>(m_lines)
           : mode == trace::Mode::FlatArt   ? static_cast<TraceWay*>(m_colours)
                                            : static_cast<TraceWay*>(m_tones);
}

const job::Picture* TraceStation::picture() const {
    return job::asA<job::Picture>(bench().pictureSource());
}

std::shared_ptr<const trace::Tracing> TraceStation::tracing() const {
    return picture() ? picture()->tracing : nullptr;
}

bool TraceStation::isDone() const {
    return tracing() != nullptr;
}

bool TraceStation::mends(inspect::Kind kind) const {
    using inspect::Kind;
    return tracing() && (kind == Kind::Leak || kind == Kind::TooSmall || kind == Kind::NarrowNeck ||
                         kind == Kind::Vanished);
}

std::string TraceStation::chosenStock() const {
    return m_stocks->chosen();
}

void TraceStation::showPage(Page page) {
    m_page->choose(static_cast<int>(page));
    m_pages->setCurrentIndex(static_cast<int>(page));
    m_tools->release();
    emit benchChanged();
}

void TraceStation::jobOpened() {
    showPage(Page::Areas);
}

void TraceStation::setActive(bool isActive) {
    if (!isActive)
        m_tools->release();
}

// ---- the bench -----------------------------------------------------------------------------------------------

ScenePtr TraceStation::scene() {
    const auto over = m_look->shown();
    return kept(valuesOfDesign(over), [&] {
        return sceneOfDesign(bench().pictureSource(), bench().made(), over, bench().outlines());
    });
}

Tool* TraceStation::tool() {
    Tool* chosen = m_tools->chosen();
    const bool laysStock = m_pages->currentIndex() == static_cast<int>(Page::Areas);
    return chosen ? chosen : laysStock ? &m_sweep : nullptr;
}

/// Asked at every move of the pointer, answered anew only where it comes to another area.
size_t TraceStation::alikeCount(int area) const {
    const auto now = tracing();
    if (m_alikeIn != now || m_alikeTo != area) {
        m_alikeIn = now;
        m_alikeTo = area;
        m_alike = now && area > 0 ? trace::alike(*now, area).size() : 0;
    }
    return m_alike;
}

QString TraceStation::hoverLine(const SceneItem& item) const {
    const job::Source* source = bench().pictureSource();
    if (!source || item.piece.source() != source->id)
        return {};
    const size_t count = alikeCount(job::areaNumber(item.piece.foundKey()));
    return count > 1 ? tr("Shift and click: all %1 alike").arg(count) : QString();
}

/// Lays the chosen stock on a piece, or on all areas alike.
void TraceStation::paint(const SceneItem& item, bool isWholeGroup) {
    const job::Job& job = bench().job();
    std::vector<design::PieceId> pieces{item.piece};
    const job::Source* source = job::pictureSource(job);
    const int area = source && item.piece.source() == source->id ? job::areaNumber(item.piece.foundKey()) : 0;
    if (isWholeGroup && area > 0) {
        pieces.clear();
        for (const int number : trace::alike(*tracing(), area))
            pieces.push_back(design::PieceId::found(source->id, job::areaKey(number)));
    }
    const std::string stock = chosenStock();
    const auto needsPaint = [&](design::PieceId id) {
        const design::Wish wish = job.wishes.resolved(id); // what is shown may be a step behind
        const design::Laid* laid = bench().work() ? bench().work()->find(id) : nullptr;
        const design::Layer* layer = wish.layer ? design::findLayer(job.layers, *wish.layer)
                                     : laid     ? &bench().work()->layerOf(*laid)
                                                : nullptr;
        return layer && layer->stockId != stock;
    };
    if (std::any_of(pieces.begin(), pieces.end(), needsPaint))
        bench().act(tr("Lay %1").arg(text(design::stockName(job.stocks, stock))),
                    job::painted(job, pieces, stock));
}

geometry::Point TraceStation::toPicture(geometry::Point p) const {
    return geometry::inverse(bench().pictureSource()->map())(p);
}

// ---- tracing -------------------------------------------------------------------------------------------------

void TraceStation::change(const QString& name, const TraceWay::Change& change) {
    const auto pixels = bench().picture();
    if (!pixels || !picture())
        return;
    tell(m_note, {});
    trace::Recipe recipe = picture()->recipe;
    change(recipe);
    lookAhead(recipe);
    bench().run(name, [pixels, change, of = bench().pictureInHand()](const job::State& now,
                                                                     const base::Progress& progress) {
        const auto* picture = job::asA<job::Picture>(job::pictureSource(now.job, of));
        trace::Recipe wanted = picture ? picture->recipe : trace::Recipe{};
        if (picture)
            change(wanted);
        return job::traced(now.job, *pixels, wanted, job::shippedCatalogue(), progress, of);
    });
}

/// Of a large picture a reduced copy is traced first, to show at once what a setting does.
void TraceStation::lookAhead(const trace::Recipe& recipe) {
    constexpr double kLarge = 3e6, kReduced = 4e5; // px
    const auto pixels = bench().picture();
    if (!tracing() || static_cast<double>(pixels->pixels()) < kLarge)
        return;
    const job::Source source = *bench().pictureSource();
    m_looker.start(tr("Looking ahead"),
                   [this, pixels, recipe, source](const base::Progress& progress) -> Task::Conclusion {
                       const double factor = std::sqrt(kReduced / static_cast<double>(pixels->pixels()));
                       const raster::Picture small = raster::reduced(*pixels, factor);
                       const double share = static_cast<double>(pixels->width) / small.width;
                       const auto found = trace::traced(small, job::mmPerPx(source) * share,
                                                        trace::reducedBy(recipe, factor), progress);
                       if (!found)
                           return nullptr; // the whole picture will say why
                       const auto map = geometry::Transform::scale(share, share).then(source.map());
                       std::vector<geometry::Shape> pieces;
                       for (const trace::Area& area : found->areas)
                           pieces.push_back(geometry::transformed(area.shape, map));
                       return [this, pieces] { setGhost(pieces); };
                   });
}

void TraceStation::setGhost(std::vector<geometry::Shape> pieces) {
    if (pieces.empty() && m_foreseen.empty())
        return;
    m_foreseen = std::move(pieces);
    emit choiceChanged();
}

void TraceStation::closeGap(geometry::Point from, geometry::Point to) {
    if (!tracing())
        return;
    // The person sees it at once and can take it back.
    const trace::ClosingLine line = job::closingAt(*bench().pictureSource(), from, to);
    change(tr("Close a gap"), [line](trace::Recipe& recipe) { recipe.closings.push_back(line); });
}

void TraceStation::takeOut(trace::Erasure::Kind kind, const std::vector<geometry::Point>& points,
                           double widthMm) {
    if (!tracing())
        return;
    const trace::Erasure erasure = job::erasureAt(*bench().pictureSource(), kind, points, widthMm);
    change(tr("Take something out of the picture"),
           [erasure](trace::Recipe& recipe) { recipe.erasures.push_back(erasure); });
}

void TraceStation::turnTo(double degrees) {
    const auto pixels = bench().picture();
    if (!pixels || !picture() || degrees == picture()->recipe.turnDeg)
        return;
    change(tr("Turn the picture"), [degrees, pixels](trace::Recipe& recipe) {
        recipe = trace::turnedTo(std::move(recipe), degrees, pixels->width, pixels->height);
    });
}

void TraceStation::takeColour(geometry::Point at) {
    const auto pixels = m_look->lookedAt();
    if (!pixels)
        return;
    const geometry::Point place = toPicture(at);
    const int x = static_cast<int>(place.x), y = static_cast<int>(place.y);
    if (x < 0 || y < 0 || x >= pixels->width || y >= pixels->height)
        return;
    // The middle of the pixels around, channel by channel: one grain says nothing.
    raster::Rgb colour{};
    for (size_t k = 0; k < 3; ++k) {
        std::array<std::uint8_t, 9> around{};
        for (int i = 0; i < 9; ++i)
            around[static_cast<size_t>(i)] = pixels->row(std::clamp(
                y + i / 3 - 1, 0,
                pixels->height -
                    1))[static_cast<size_t>(std::clamp(x + i % 3 - 1, 0, pixels->width - 1)) * 3 + k];
        std::nth_element(around.begin(), around.begin() + 4, around.end());
        colour[k] = around[4];
    }
    change(tr("Take a colour from the picture"),
           [colour](trace::Recipe& recipe) { recipe.picked.push_back(colour); });
}

void TraceStation::colourFrom(const QString& path) {
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly))
        return tell(m_note, tr("%1 cannot be read: %2.").arg(path, file.errorString()));
    const QByteArray bytes = file.read(static_cast<qint64>(base::kMostFileBytes));
    tell(m_note, {});
    bench().run(tr("Take colours from a copy"),
                [copy = base::Bytes(bytes.begin(), bytes.end()),
                 name = QFileInfo(path).fileName().toStdString(),
                 of = bench().pictureInHand()](const job::State& now, const base::Progress& progress) {
                    return job::colouredFrom(now.job, copy, name, job::shippedCatalogue(), progress, of);
                });
}

// ---- showing -------------------------------------------------------------------------------------------------

void TraceStation::refresh() {
    m_looker.stop(); // what was foreseen is here
    setGhost({});
    m_look->refresh();
    m_stocks->show(bench().job().stocks);
    mainButton()->setEnabled(bench().hasPieces());
    const job::Picture none;
    const job::Picture& now = picture() ? *picture() : none;
    const bool isReady = bench().picture() != nullptr;
    m_mode->setEnabled(isReady);
    m_mode->choose(static_cast<int>(now.recipe.mode));
    for (TraceWay* way : {static_cast<TraceWay*>(m_lines), static_cast<TraceWay*>(m_colours),
                          static_cast<TraceWay*>(m_tones)}) {
        const bool isIt = picture() && way == wayOf(now.recipe.mode);
        way->plain()->setVisible(isIt);
        way->plain()->setEnabled(isReady);
        way->more()->setVisible(isIt);
        way->more()->setEnabled(isReady);
        if (isIt)
            way->show(bench().job(), *bench().pictureSource(), bench().job().unit);
    }
    m_tools->setEnabled(isReady && now.tracing);
    m_clear->show(now.recipe, bench().picture());
    m_offers->show(picture(), picture() ? job::mmPerPx(*bench().pictureSource()) : 0);
    m_leastArea->setEnabled(isReady);
    m_room->setEnabled(now.tracing != nullptr);
    m_room->showLength(now.roomMm, bench().job().unit);
    if (!m_settle.isActive()) {
        const QSignalBlocker quiet(m_leastArea);
        m_leastArea->setValue(sliderOf(now.recipe.leastAreaMm2));
        m_leastAreaText->setText(tr("%1 mm²").arg(now.recipe.leastAreaMm2, 0, 'f', 2));
    }
    const job::Source* source = bench().pictureSource();
    const QString few = source && picture() ? text(trace::fewPixels(picture()->widthPx(), source->unitMm)) : QString();
    m_dropped->setWordWrap(!few.isEmpty());
    tell(m_dropped, !few.isEmpty()        ? few
                    : now.tracing         ? wayOf(now.recipe.mode)->droppedWords(*now.tracing)
                    : bench().hasPieces() ? tr("Nothing is traced in this job: there is only stock to lay.")
                                          : QString());
    showAnswer();
}

void TraceStation::showAnswer() {
    if (!bench().hasPieces())
        return setAnswer({{tr("Layers"), tr("not traced yet")}});
    const design::StackMeasures& m = bench().made().finished->measures;
    QVector<std::pair<QString, QString>> rows{
        {tr("Layers"), QString::number(m.layers)},
        {tr("Pieces"), text(base::formatCount(m.pieces))},
        {tr("Nodes"), text(base::formatCount(m.nodes))},
        {tr("Smallest piece"), sizeText(m.smallestPieceBox.width(), m.smallestPieceBox.height())}};
    if (tracing())
        wayOf(picture()->recipe.mode)->answer(*picture(), m, rows);
    if (const auto share = m_look->differing())
        rows.append({tr("Differs from the picture"), tr("%1 %").arg(100 * *share, 0, 'f', 2)});
    setAnswer(rows,
              tr("The smallest piece is %1").arg(text(design::pieceName(*bench().work(), m.smallestPiece))));
}

} // namespace thinline::app
