// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/MainWindow.h"

#include "app/jobs/ActionFinder.h"
#include "app/settings/Theme.h"
#include "app/stations/SourceStation.h"
#include "app/stations/Stations.h"
#include "job/LayerSteps.h"

#include <QAction>
#include <QApplication>
#include <QDropEvent>
#include <QMimeData>
#include <QSettings>

namespace thinline::app {

MainWindow::MainWindow(base::FileStore& store, const base::FontStore& fonts, const base::PageReader& pages,
                       const QString& recoveryFolder, const QString& demoFolder, QWidget* parent)
    : QMainWindow(parent), m_bench(store, fonts, pages, recoveryFolder),
      m_files(new JobFiles(m_bench, demoFolder, this)), m_measuring(new Measuring(this)),
      m_panels(makeStations(m_bench, store)) {
    setWindowTitle("Thin Line");
    setWindowIcon(QIcon(":/icons/thinline-256.png"));
    setAcceptDrops(true);
    resize(1280, 800);
    buildActions();
    m_frame = new WindowFrame(m_bench, m_actions, m_panels);
    setCentralWidget(m_frame);
    connectParts();
    m_frame->start->refresh(m_files->recent(), {});
    m_bench.findLostWork();
    showFindings();
    refresh();
    m_frame->setFocus(); // no control is chosen before the person chooses one
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
    const auto withShift = [](Qt::Key key) { return QKeySequence(Qt::CTRL | Qt::SHIFT | key); };
    const auto withCtrl = [](Qt::Key key) { return QKeySequence(Qt::CTRL | key); };
    m_actions["open"] = addAction(tr("Open a picture, a drawing or a job…"), QKeySequence::Open,
                                  [this] { m_files->choose(); });
    m_actions["save"] = addAction(tr("Save the job"), QKeySequence::Save, [this] { m_files->save(); });
    m_actions["saveAs"] =
        addAction(tr("Save the job as…"), withShift(Qt::Key_S), [this] { m_files->saveAs(); });
    m_actions["demo"] = addAction(tr("Open the Gull Point lighthouse"), {}, [this] { m_files->openDemo(); });
    m_actions["theme"] = addAction(tr("Switch between light and dark"), {}, [this] { switchTheme(); });
    m_actions["quit"] = addAction(tr("Close Thin Line"), withCtrl(Qt::Key_Q), [this] { close(); });
    m_actions["undo"] = addAction(tr("Undo"), QKeySequence::Undo, [this] { m_bench.undo(); });
    m_actions["redo"] = addAction(tr("Redo"), withShift(Qt::Key_Z), [this] { m_bench.redo(); });
    m_actions["find"] = addAction(tr("Find an action"), withCtrl(Qt::Key_K),
                                  [this] { ActionFinder(actions(), this).exec(); });
    addAction(tr("Add drawings to this job…"), {}, [this] { m_files->chooseAdditions(); });
    addAction(tr("Paste a picture or a drawing"), QKeySequence::Paste, [this] { m_files->paste(); });
    addAction(tr("Measure between two points"), withCtrl(Qt::Key_R),
              [this] { m_measuring->tool() ? escape() : m_measuring->begin(); });
    addAction(tr("Show everything on the bench"), withCtrl(Qt::Key_0), [this] { m_frame->view->showAll(); });
    addAction(tr("Make the pieces that are not made yet"), {}, [this] { m_bench.catchUp(); });
    addAction(tr("Stop or close the message"), QKeySequence(Qt::Key_Escape), [this] { escape(); });
    for (const StationInfo& info : stationInfos())
        if (!info.promise)
            addAction(tr("Go to %1").arg(tr(info.name)),
                      QKeySequence(QStringLiteral("Ctrl+%1").arg(static_cast<int>(info.station) + 1)),
                      [this, station = info.station] { goTo(station); });
}

void MainWindow::connectPanel(StationPanel* panel) {
    for (QAction* action : panel->actions())
        QMainWindow::addAction(action);
    connect(panel, &StationPanel::benchChanged, this, &MainWindow::refreshBench);
    connect(panel, &StationPanel::choiceChanged, this, [this, panel] {
        if (panel != here())
            return;
        m_frame->showChoice(panel->chosen(), panel->ghost(), panel->lineMarks());
    });
    connect(panel, &StationPanel::done, this, [this, panel] { goToNext(panel->station()); });
    connect(panel, &StationPanel::wantsToBeHere, this, [this, panel] { goTo(panel->station()); });
    connect(panel, &StationPanel::wantsMeasuring, this,
            [this, panel] { m_measuring->begin([panel](double mm) { panel->measured(mm); }); });
    connect(panel, &StationPanel::told, m_frame->notice, &NoticeStrip::tell);
}

void MainWindow::connectParts() {
    for (StationPanel* panel : m_panels)
        connectPanel(panel);
    connect(&m_bench, &Workbench::changed, this, &MainWindow::refresh);
    connect(&m_bench, &Workbench::fileChanged, m_frame->top, &TopBar::refresh);
    connect(&m_bench, &Workbench::opened, this, &MainWindow::opened);
    connect(&m_bench, &Workbench::findingsChanged, this, [this] {
        showFindings();
        refreshThread();
    });
    connect(&m_bench, &Workbench::failed, m_frame->notice, &NoticeStrip::problem);
    connect(&m_bench, &Workbench::noted, m_frame->notice, &NoticeStrip::note);
    connect(m_files, &JobFiles::told, m_frame->notice, &NoticeStrip::tell);
    connect(m_measuring, &Measuring::told, m_frame->notice, &NoticeStrip::note);
    connect(m_measuring, &Measuring::changed, this, [this] {
        m_measuring->tool() ? m_frame->view->setFocus() : m_frame->notice->hide();
        refreshBench();
    });
    connect(m_frame->top->thread(), &ThreadBar::chosen, this, &MainWindow::goTo);
    connect(panel<SourceStation>(), &SourceStation::wantsFile, m_files, &JobFiles::choose);
    connect(panel<SourceStation>(), &SourceStation::wantsAddition, m_files, &JobFiles::chooseAdditions);
    connect(m_frame->sideView->section(), &CrossSection::layerChosen, this,
            [this](design::LayerId layer) { here()->layerChosen(layer); });
    connect(m_frame->start, &StartPage::wantsDemo, m_files, &JobFiles::openDemo);
    connect(m_frame->start, &StartPage::wantsPicture, m_files, &JobFiles::choose);
    connect(m_frame->start, &StartPage::wantsJob, m_files, &JobFiles::open);
    connect(m_frame->start, &StartPage::wantsRecovery, &m_bench, &Workbench::recover);
    connect(m_frame->start, &StartPage::wantsForgetting, &m_bench, &Workbench::forget);
    connect(&m_bench, &Workbench::lostWorkFound, this,
            [this](const std::vector<document::Recovery::Lost>& lost) {
                m_frame->start->refresh(m_files->recent(), lost);
            });
    m_frame->view->setHoverText([this](const SceneItem& item) { return hoverText(item); });
    connect(m_frame->tray, &Tray::wantsToShow, this, &MainWindow::showFinding);
    connect(m_frame->tray, &Tray::wantsToMend, &m_bench, &Workbench::mend);
    connect(m_frame->tray, &Tray::wantsToForgetStrays, this, [this] {
        m_bench.act(tr("Forget what was said about pieces that are gone"),
                    job::withoutStrayWishes(m_bench.state()));
    });
}

StationPanel* MainWindow::panel(Station station) const {
    const auto at = std::find_if(m_panels.begin(), m_panels.end(),
                                 [&](const StationPanel* panel) { return panel->station() == station; });
    return at == m_panels.end() ? nullptr : *at;
}

void MainWindow::goTo(Station station) {
    if (panel(station)) {
        arriveAt(station);
        refresh();
    }
}

void MainWindow::arriveAt(Station station) {
    StationPanel* there = panel(station);
    if (station != m_station) {
        m_measuring->end();
        here()->setActive(false);
        m_station = station;
    }
    m_frame->showColumn(there);
    there->setActive(true);
}

/// The next station where there is something to do.
void MainWindow::goToNext(Station station) {
    auto at = std::find(m_panels.begin(), m_panels.end(), panel(station)) + 1;
    at = std::find_if(at, m_panels.end(), [](const StationPanel* next) { return next->isOfUse(); });
    if (at != m_panels.end())
        goTo((*at)->station());
}

void MainWindow::opened() {
    m_frame->notice->hide();
    m_isShown = false; // the view starts afresh
    m_files->remember(m_bench.path());
    for (StationPanel* panel : m_panels)
        panel->jobOpened();
    const bool isNew = m_bench.path().isEmpty() || !m_bench.hasPieces();
    arriveAt(isNew ? Station::Source : panel(Station::Trace)->isDone() ? Station::Trace : Station::Shape);
}

void MainWindow::escape() {
    if (m_bench.isBusy())
        m_bench.stop();
    m_measuring->end();
    m_frame->notice->hide();
    m_frame->view->mark({});
}

void MainWindow::refresh() {
    if (m_serial != m_bench.serial()) // what was told about the step before is done with
        m_frame->notice->hideNote();
    m_serial = m_bench.serial();
    m_frame->showBench(m_bench.hasJob());
    m_measuring->setUnit(m_bench.job().unit);
    m_frame->view->setUnit(m_bench.job().unit);
    here()->refresh();
    m_frame->sideView->refresh();
    m_frame->top->refresh();
    refreshBench();
    refreshThread();
    if (m_bench.isStale())
        m_frame->notice->tell(
            tr("The bench shows the work before the last step, which was not made. Undo it, or "
               "find the action "
               "“Make the pieces that are not made yet”."),
            false);
}

void MainWindow::refreshThread() {
    QVector<BeadState> states;
    for (const StationInfo& info : stationInfos()) {
        const StationPanel* there = panel(info.station);
        const auto isHere = [&](const inspect::Finding& f) {
            return f.severity == inspect::Severity::SpoilsCard && there->mends(f.kind);
        };
        const auto& all = m_bench.findings();
        states.append(!there                                        ? BeadState::NotBuilt
                      : !there->isDone()                            ? BeadState::Untouched
                      : std::any_of(all.begin(), all.end(), isHere) ? BeadState::HasFindings
                                                                    : BeadState::Done);
    }
    m_frame->top->thread()->showStations(m_station, states);
}

void MainWindow::refreshBench() {
    StationPanel* panel = here();
    m_frame->view->setTool(m_measuring->tool() ? m_measuring->tool() : panel->tool());
    m_frame->view->setStale(m_bench.isStale());
    m_frame->view->setEmptyText(panel->emptyText());
    const ScenePtr scene = panel->scene();
    const bool keepsView = m_isShown && m_shown && m_ground == panel->ground();
    if (!keepsView || scene != m_shown)
        m_frame->view->setScene(scene, keepsView);
    m_isShown = true;
    m_shown = scene;
    m_ground = panel->ground();
    m_frame->showChoice(panel->chosen(), panel->ghost(), panel->lineMarks());
    m_frame->showSectionLine(scene && m_ground == StationPanel::Ground::Design);
}

QString MainWindow::hoverText(const SceneItem& item) const {
    const design::Stack* work = m_bench.work();
    const design::Laid* laid = work ? work->find(item.piece) : nullptr;
    if (!laid)
        return {};
    QStringList lines = pieceWords(*work, *laid, geometry::bounds(item.shape()), m_bench.job().unit);
    for (const inspect::Finding& f : m_bench.findings())
        for (const inspect::Case& one : f.cases)
            if (one.piece == item.piece && f.kind != inspect::Kind::TooSmall)
                lines << text(one.message);
    if (const QString line = here()->hoverLine(item); !line.isEmpty())
        lines << line;
    return lines.join("\n");
}

void MainWindow::showFindings() {
    m_frame->tray->showFindings(m_bench.findings(), !m_bench.hasPieces()    ? Tray::Looked::NothingThere
                                                    : m_bench.isInspected() ? Tray::Looked::Yes
                                                                            : Tray::Looked::NotYet);
}

void MainWindow::showFinding(const inspect::Finding& finding, const inspect::Case& one) {
    const auto mends = [&](const StationPanel* panel) { return panel->mends(finding.kind); };
    if (const auto at = std::find_if(m_panels.begin(), m_panels.end(), mends); at != m_panels.end())
        goTo((*at)->station());
    if (const geometry::Box place = here()->placeOf(one); !place.isEmpty()) {
        constexpr double kLeastAroundMm = 10;
        m_frame->view->zoomTo(
            place.grownBy(std::max(kLeastAroundMm, std::max(place.width(), place.height()) * 0.5)));
        m_frame->view->mark(place);
    }
    m_frame->notice->tell(text(one.message + ". " + finding.remedy), false);
}

void MainWindow::switchTheme() {
    const Theme next = theme().isDark ? Theme::light() : Theme::dark();
    applyTheme(*qApp, next);
    QSettings().setValue("dark", next.isDark);
    m_frame->recolour();
    m_frame->view->setScene(m_shown, true); // tiles carry the desk's colour
    refresh();
    showFindings();
}

void MainWindow::closeEvent(QCloseEvent* event) {
    event->setAccepted(m_files->mayLeave([this] { close(); }));
    if (event->isAccepted())
        m_bench.abandon();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls())
        event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    event->acceptProposedAction();
    const QPointF at = benchView()->mapFrom(this, event->position());
    if (!here()->takesDrop(JobFiles::pathsOf(*event->mimeData()), benchView()->itemUnder(at)))
        m_files->drop(*event->mimeData());
}

} // namespace thinline::app
