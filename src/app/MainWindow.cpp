// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/MainWindow.h"

#include "app/jobs/ActionFinder.h"
#include "app/settings/Theme.h"

#include <QAction>
#include <QApplication>
#include <QHBoxLayout>
#include <QPushButton>
#include <QResizeEvent>
#include <QSettings>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace thinline::app {
namespace {

constexpr int kColumnWidth = 304;
constexpr int kBottomHeight = 158;
constexpr int kTrayWidth = 350;

QFrame* hairline(bool isUpright) {
    auto* line = new QFrame;
    isUpright ? line->setFixedWidth(1) : line->setFixedHeight(1);
    line->setStyleSheet("background: " + theme().hairline.name());
    line->setObjectName("hairline");
    return line;
}

} // namespace

MainWindow::MainWindow(base::FileStore& store, const base::FontStore& fonts, const QString& recoveryFolder,
                       const QString& demoFolder, QWidget* parent)
    : QMainWindow(parent), m_store(store), m_demoFolder(demoFolder), m_bench(store, fonts, recoveryFolder) {
    setWindowTitle("Thin Line");
    setWindowIcon(QIcon(":/icons/thinline-256.png"));
    setAcceptDrops(true);
    resize(1280, 800);
    buildActions();
    auto* whole = new QWidget;
    auto* lines = new QVBoxLayout(whole);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(0);
    m_top = new TopBar(m_bench, m_actions);
    lines->addWidget(m_top);
    lines->addWidget(hairline(false));
    lines->addWidget(buildMiddle(), 1);
    setCentralWidget(whole);
    connectParts();
    m_start->refresh(recent(), m_bench.lostWork());
    m_tray->showFindings({}, false);
    refresh();
    centralWidget()->setFocusPolicy(Qt::ClickFocus);
    centralWidget()->setFocus(); // no control is chosen before the person chooses one
}

QWidget* MainWindow::buildMiddle() {
    auto* middle = new QWidget;
    auto* line = new QHBoxLayout(middle);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(0);
    m_column = new QStackedWidget;
    m_column->setFixedWidth(kColumnWidth);
    m_panels = {
        {Station::Source, new SourceStation(m_bench)}, {Station::Trace, new TraceStation(m_bench)},
        {Station::Shape, new ShapeStation(m_bench)},   {Station::Size, new SizeStation(m_bench)},
        {Station::Sheets, new SheetsStation(m_bench)}, {Station::Pack, new PackStation(m_bench, m_store)}};
    for (StationPanel* panel : m_panels)
        m_column->addWidget(panel);
    line->addWidget(m_column);
    line->addWidget(hairline(true));

    auto* work = new QVBoxLayout;
    work->setContentsMargins(0, 0, 0, 0);
    work->setSpacing(0);
    m_notice = new NoticeStrip;
    work->addWidget(m_notice);

    m_view = new BenchView;
    m_start = new StartPage;
    m_middle = new QStackedWidget;
    m_middle->addWidget(m_view);
    m_middle->addWidget(m_start);
    work->addWidget(m_middle, 1);

    work->addWidget(new BusyStrip(m_bench));
    work->addWidget(hairline(false));
    work->addWidget(buildBottom());
    line->addLayout(work, 1);
    return middle;
}

QWidget* MainWindow::buildBottom() {
    auto* bottom = new QWidget;
    bottom->setObjectName("bottom");
    bottom->setFixedHeight(kBottomHeight);
    auto* line = new QHBoxLayout(bottom);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(0);
    m_sideView = new SideView(m_bench);
    m_tray = new Tray;
    m_tray->setFixedWidth(kTrayWidth);
    line->addWidget(m_sideView, 1);
    line->addWidget(hairline(true));
    line->addWidget(m_tray);
    return bottom;
}

QAction* MainWindow::addAction(const QString& text, const QKeySequence& key,
                               const std::function<void()>& call) {
    auto* action = new QAction(text, this);
    action->setShortcut(key);
    QMainWindow::addAction(action);
    connect(action, &QAction::triggered, this, [call] { call(); });
    return action;
}

void MainWindow::buildActions() {
    m_actions["open"] =
        addAction(tr("Open a picture, a drawing or a job…"), QKeySequence::Open, [this] { choosePicture(); });
    m_actions["save"] = addAction(tr("Save the job"), QKeySequence::Save, [this] { save(); });
    m_actions["saveAs"] = addAction(tr("Save the job as…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S),
                                    [this] { saveAs(); });
    m_actions["demo"] = addAction(tr("Open the Gull Point lighthouse"), {}, [this] { openDemo(); });
    m_actions["theme"] = addAction(tr("Switch between light and dark"), {}, [this] { switchTheme(); });
    m_actions["quit"] =
        addAction(tr("Close Thin Line"), QKeySequence(Qt::CTRL | Qt::Key_Q), [this] { close(); });
    m_actions["undo"] = addAction(tr("Undo"), QKeySequence::Undo, [this] { m_bench.undo(); });
    m_actions["redo"] =
        addAction(tr("Redo"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), [this] { m_bench.redo(); });
    m_actions["find"] =
        addAction(tr("Find an action"), QKeySequence(Qt::CTRL | Qt::Key_K), [this] { findAction(); });
    m_actions["word"] = addAction(tr("Add a word"), QKeySequence(Qt::CTRL | Qt::Key_T), [this] {
        goTo(Station::Source);
        panel<SourceStation>(Station::Source)->addWord();
    });
    m_actions["figure"] = addAction(tr("Add a figure by measure"), {}, [this] {
        goTo(Station::Source);
        panel<SourceStation>(Station::Source)->addFigure();
    });
    m_actions["add"] = addAction(tr("Add drawings to this job…"), {}, [this] { chooseAdditions(); });
    m_actions["paste"] =
        addAction(tr("Paste a picture or a drawing"), QKeySequence::Paste, [this] { paste(); });
    m_actions["measure"] = addAction(tr("Measure between two points"), QKeySequence(Qt::CTRL | Qt::Key_R),
                                     [this] { m_isMeasuring ? stopMeasuring() : measure(false); });
    m_actions["all"] = addAction(tr("Show everything on the bench"), QKeySequence(Qt::CTRL | Qt::Key_0),
                                 [this] { m_view->showAll(); });
    m_actions["gap"] = addAction(tr("Close a gap by two clicks"), QKeySequence(Qt::CTRL | Qt::Key_G), [this] {
        goTo(Station::Trace);
        panel<TraceStation>(Station::Trace)->findChild<QPushButton*>("closeGap")->click();
    });
    m_actions["drawing"] =
        addAction(tr("Show the picture instead of the areas"), QKeySequence(Qt::CTRL | Qt::Key_D), [this] {
            goTo(Station::Trace);
            panel<TraceStation>(Station::Trace)->togglePicture();
        });
    m_actions["escape"] = addAction(tr("Stop or close the message"), QKeySequence(Qt::Key_Escape), [this] {
        if (m_bench.isBusy())
            m_bench.stop();
        stopMeasuring();
        m_notice->hide();
        m_view->mark({});
    });
    for (const StationInfo& info : stationInfos())
        if (!info.promise)
            addAction(tr("Go to %1").arg(tr(info.name)),
                      QKeySequence(QStringLiteral("Ctrl+%1").arg(static_cast<int>(info.station) + 1)),
                      [this, station = info.station] { goTo(station); });
}

void MainWindow::connectParts() {
    connect(&m_bench, &Workbench::changed, this, &MainWindow::refresh);
    connect(&m_bench, &Workbench::fileChanged, this, &MainWindow::refreshTop);
    connect(&m_bench, &Workbench::opened, this, [this] {
        m_notice->hide();
        m_shownStation = Station::Pack;
        m_shownStack = this; // nothing shown yet: the view starts afresh
        m_middle->setCurrentWidget(m_view);
        m_view->setScene(nullptr, false);
        if (!m_bench.path().isEmpty())
            remember(m_bench.path());
        const document::Job& job = m_bench.job();
        const bool isNew = m_bench.path().isEmpty() && !m_bench.job().tracing;
        panel<SourceStation>(Station::Source)
            ->choose(job.artwork || job.sources.empty() ? 0 : job.sources.back()->number);
        goTo(!m_bench.isTraced() || isNew ? Station::Source : job.tracing ? Station::Trace : Station::Shape);
    });
    connect(&m_bench, &Workbench::pictureChanged, this, &MainWindow::refresh);
    connect(&m_bench, &Workbench::findingsChanged, this, [this] {
        m_tray->showFindings(m_bench.findings(), m_bench.isTraced());
        refreshThread();
    });
    connect(&m_bench, &Workbench::failed, this, [this](const QString& text) { m_notice->tell(text, true); });
    connect(&m_bench, &Workbench::noted, this, [this](const QString& text) {
        m_notice->tell(text, false);
        m_asksForSize = !isSizeSettled();
    });
    connect(m_top->thread(), &ThreadBar::chosen, this, &MainWindow::goTo);
    for (auto it = m_panels.begin(); it != m_panels.end(); ++it) {
        const QList<Station> built = m_panels.keys();
        const auto at = built.indexOf(it.key());
        const Station next = built[std::min(at + 1, built.size() - 1)];
        connect(it.value(), &StationPanel::done, this, [this, next] {
            goTo(next == Station::Trace && !m_bench.hasPicture() ? Station::Shape : next);
        });
    }
    auto* shapes = panel<ShapeStation>(Station::Shape);
    connect(shapes, &ShapeStation::choiceChanged, this, [this, shapes] {
        const auto& shaped = m_bench.job().shaped;
        const shape::Step chosen{shape::Action::Join, shapes->chosen(), {}};
        m_view->setChosen(shaped ? shape::piecesOf(*shaped, chosen) : shapes->chosen());
    });
    auto* sizes = panel<SizeStation>(Station::Size);
    connect(sizes, &SizeStation::choiceChanged, this, [this, sizes] { m_view->setChosen(sizes->chosen()); });
    connect(sizes, &SizeStation::wantsMeasuring, this, [this] { measure(true); });
    auto* source = panel<SourceStation>(Station::Source);
    connect(source, &SourceStation::wantsMeasuring, this, [this] { measure(true); });
    connect(source, &SourceStation::wantsAddition, this, &MainWindow::chooseAdditions);
    connect(source, &SourceStation::chosenChanged, this, &MainWindow::refreshScene);
    connect(m_view, &BenchView::measured, this, &MainWindow::measured);
    connect(m_view, &BenchView::itemMoved, this, &MainWindow::moved);
    connect(m_view, &BenchView::placeClicked, this, &MainWindow::placeClicked);
    connect(shapes, &ShapeStation::ghostChanged, this, [this, shapes] { m_view->setGhost(shapes->ghost()); });
    connect(m_sideView->section(), &CrossSection::layerChosen, this, [this, shapes](int layer) {
        if (m_station == Station::Shape)
            shapes->chooseLayer(layer);
    });
    connect(source, &SourceStation::wantsFile, this, &MainWindow::choosePicture);
    connect(panel<TraceStation>(Station::Trace), &TraceStation::modeChanged, this, &MainWindow::refreshScene);
    connect(panel<TraceStation>(Station::Trace), &TraceStation::foreseen, this,
            [this](const std::vector<geometry::Shape>& pieces) {
                if (m_station == Station::Trace)
                    m_view->setGhost(pieces);
            });
    connect(panel<PackStation>(Station::Pack), &PackStation::written, this,
            [this](const QString& folder) { m_notice->tell(tr("The files are in %1.").arg(folder), false); });
    connect(m_start, &StartPage::wantsDemo, this, &MainWindow::openDemo);
    connect(m_start, &StartPage::wantsPicture, this, &MainWindow::choosePicture);
    connect(m_start, &StartPage::wantsJob, this, &MainWindow::open);
    connect(m_start, &StartPage::wantsRecovery, &m_bench, &Workbench::recover);
    connect(m_start, &StartPage::wantsForgetting, this, [this](const document::Recovery::Lost& lost) {
        m_bench.forget(lost);
        m_start->refresh(recent(), m_bench.lostWork());
    });
    m_view->setHoverText([this](const SceneItem& item) { return hoverText(item); });
    connect(m_view, &BenchView::itemClicked, this, &MainWindow::clicked);
    connect(m_view, &BenchView::gapClosed, this, [this](geometry::Point from, geometry::Point to) {
        panel<TraceStation>(Station::Trace)->closeGap(from, to);
    });
    connect(m_view, &BenchView::dragDrawn, this, [this](const std::vector<geometry::Point>& points) {
        panel<TraceStation>(Station::Trace)->useTool(points);
    });
    m_view->setStrokeWidth(TraceStation::kBrushMm);
    connect(m_view, &BenchView::itemDragged, this, &MainWindow::dragged);
    connect(m_view, &BenchView::itemDoubleClicked, this, [this](const SceneItem& item) {
        m_bench.run(tr("Let a pinned piece go"),
                    [what = design::CopyOf{item.piece, item.copy}](const document::Job& job,
                                                                   const base::Progress& progress) {
                        return document::unpinned(job, what, document::shippedCatalogue().formats, progress);
                    });
    });
    connect(m_tray, &Tray::wantsToShow, this, &MainWindow::showFinding);
}

void MainWindow::goTo(Station station) {
    if (!m_panels.contains(station))
        return;
    if (station != m_station) {
        stopMeasuring();
        m_panels[m_station]->setActive(false);
    }
    m_station = station;
    m_column->setCurrentWidget(m_panels[station]);
    m_panels[station]->setActive(true);
    refresh();
}

/// Whether every drawing's size is its own or was settled by the person.
bool MainWindow::isSizeSettled() const {
    const auto& sources = m_bench.job().sources;
    return std::all_of(sources.begin(), sources.end(), [](const auto& source) {
        const auto* drawing = std::get_if<document::Drawing>(&source->recipe);
        return !drawing || drawing->isSettled;
    });
}

void MainWindow::refresh() {
    if (m_asksForSize && isSizeSettled()) {
        m_asksForSize = false;
        m_notice->hide();
    }
    m_middle->setCurrentWidget(m_bench.hasJob() ? static_cast<QWidget*>(m_view) : m_start);
    m_panels[m_station]->refresh();
    m_sideView->refresh();
    refreshScene();
    refreshTop();
    refreshThread();
}

void MainWindow::refreshTop() {
    m_top->refresh();
    m_view->setUnit(m_bench.job().unit);
}

void MainWindow::refreshThread() {
    const document::Job& job = m_bench.job();
    const auto finds = [&](std::initializer_list<inspect::Kind> kinds) {
        for (const inspect::Finding& f : m_bench.findings())
            if (f.severity == inspect::Severity::SpoilsCard &&
                std::find(kinds.begin(), kinds.end(), f.kind) != kinds.end())
                return true;
        return false;
    };
    using inspect::Kind;
    QVector<BeadState> states;
    for (const StationInfo& info : stationInfos()) {
        BeadState state = info.promise ? BeadState::NotBuilt : BeadState::Untouched;
        if (info.station == Station::Source && (job.artwork || !job.sources.empty()))
            state = BeadState::Done;
        if (info.station == Station::Trace && job.tracing)
            state = finds({Kind::Leak}) ? BeadState::HasFindings : BeadState::Done;
        if (info.station == Station::Shape && !job.shapeSteps.empty())
            state = finds({Kind::StepPassedOver}) ? BeadState::HasFindings : BeadState::Done;
        if (info.station == Station::Size && job.stack)
            state = finds({Kind::LargerThanEveryMat, Kind::ScaledAlone, Kind::DoesNotFit})
                        ? BeadState::HasFindings
                        : BeadState::Done;
        if (info.station == Station::Sheets && job.arrangement)
            state = finds({Kind::LargerThanSheet, Kind::OverlapsOnSheet}) ? BeadState::HasFindings
                                                                          : BeadState::Done;
        states.append(state);
    }
    m_top->thread()->showStations(m_station, states);
}

/// What the pointer does on the bench with a tool of the Trace station.
static BenchView::Mode modeOf(TraceStation::Tool tool) {
    switch (tool) {
    case TraceStation::Tool::CloseGap:
        return BenchView::Mode::CloseGap;
    case TraceStation::Tool::TakeBox:
    case TraceStation::Tool::OwnPart:
        return BenchView::Mode::Box;
    case TraceStation::Tool::TakeBrush:
    case TraceStation::Tool::TakeSpill:
    case TraceStation::Tool::TakeColour:
        return BenchView::Mode::Stroke;
    case TraceStation::Tool::None:
        break;
    }
    return BenchView::Mode::Paint;
}

void MainWindow::refreshScene() {
    const document::Job& job = m_bench.job();
    auto* trace = panel<TraceStation>(Station::Trace);
    const auto picture = m_station == Station::Trace ? trace->shownPicture() : nullptr;
    const auto mode = m_isMeasuring                                                 ? BenchView::Mode::Measure
                      : m_station == Station::Sheets                                ? BenchView::Mode::Arrange
                      : m_station == Station::Shape || m_station == Station::Source ? BenchView::Mode::Choose
                      : m_station != Station::Trace                                 ? BenchView::Mode::Look
                                                                                    : modeOf(trace->tool());
    if (m_view->mode() != mode)
        m_view->setMode(mode);
    const bool isSame = m_shownStation == m_station && m_shownStack == job.stack.get() &&
                        m_shownArrangement == job.arrangement.get() &&
                        m_shownPicture == m_bench.picture().get() && m_shownWidth == job.pictureWidthMm &&
                        m_laidPicture == picture.get() &&
                        m_shownSource == panel<SourceStation>(Station::Source)->chosen();
    if (isSame)
        return;
    const bool isSameView = m_shownStation == m_station ||
                            (m_shownStation == Station::Sheets && m_station == Station::Pack) ||
                            (m_shownStation == Station::Pack && m_station == Station::Sheets);
    const bool keepsView = isSameView && m_view->scene() != nullptr;
    m_shownStation = m_station;
    m_shownStack = job.stack.get();
    m_shownArrangement = job.arrangement.get();
    m_shownPicture = m_bench.picture().get();
    m_shownWidth = job.pictureWidthMm;
    m_laidPicture = picture.get();
    m_shownSource = panel<SourceStation>(Station::Source)->chosen();
    m_view->setEmptyText(!m_bench.hasPicture() && !m_bench.isTraced()
                             ? tr("Open a picture or a drawing, or add a word or a figure.")
                         : !m_bench.isTraced()
                             ? tr("Nothing is traced yet: go to Source and trace the picture.")
                             : tr("The pieces are being laid on sheets."));
    m_view->setFolds(m_station == Station::Trace ? trace->folds() : std::vector<geometry::Line>{});
    std::shared_ptr<const Scene> scene;
    switch (m_station) {
    case Station::Source:
        scene = job.artwork && m_shownSource == 0 ? sceneOfPicture(job, m_bench.picture())
                                                  : sceneOfSize(job, m_bench.catalogue().formats);
        break;
    case Station::Trace:
    case Station::Shape:
        scene = sceneOfDesign(job, picture);
        break;
    case Station::Size:
        scene = sceneOfSize(job, m_bench.catalogue().formats);
        break;
    default:
        scene = sceneOfSheets(job);
        break;
    }
    m_view->setScene(std::move(scene), keepsView);
}

void MainWindow::showFinding(const inspect::Finding& finding, const geometry::Box& place) {
    // Places are told in the design; the Trace bench shows it.
    using inspect::Kind;
    const bool isOfSize = finding.kind == Kind::ScaledAlone || finding.kind == Kind::DoesNotFit ||
                          finding.kind == Kind::ExactlyTheSheet;
    goTo(isOfSize                                                         ? Station::Size
         : finding.kind == Kind::StepPassedOver || !m_bench.job().tracing ? Station::Shape
                                                                          : Station::Trace);
    // The bench at Size begins at the design's upper left corner.
    const geometry::Point shift = isOfSize ? document::designBox(m_bench.job()).least : geometry::Point{};
    if (!place.isEmpty()) {
        const geometry::Box here{place.least - shift, place.most - shift};
        m_view->zoomTo(here.grownBy(std::max(10.0, std::max(here.width(), here.height()) * 0.5)));
        m_view->mark(here);
    }
    m_notice->tell(QString::fromStdString(finding.message + ". " + finding.remedy), false);
}

void MainWindow::findAction() {
    ActionFinder finder(actions(), this);
    finder.exec();
}

void MainWindow::switchTheme() {
    const Theme next = theme().isDark ? Theme::light() : Theme::dark();
    applyTheme(*qApp, next);
    QSettings().setValue("dark", next.isDark);
    for (QFrame* line : findChildren<QFrame*>("hairline"))
        line->setStyleSheet("background: " + next.hairline.name());
    m_shownStack = this; // tiles carry the desk's colour
    refresh();
    m_tray->showFindings(m_bench.findings(), m_bench.isTraced());
}

void MainWindow::resizeEvent(QResizeEvent* event) {
    constexpr int kNarrow = 1100; // below this the tray gives its room to the side view
    m_tray->setFixedWidth(event->size().width() < kNarrow ? 260 : kTrayWidth);
    QMainWindow::resizeEvent(event);
}

} // namespace thinline::app
