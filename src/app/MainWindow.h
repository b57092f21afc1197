// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/BenchView.h"
#include "app/jobs/StartPage.h"
#include "app/jobs/Strips.h"
#include "app/jobs/TopBar.h"
#include "app/jobs/Workbench.h"
#include "app/sideview/SideView.h"
#include "app/stations/ShapeStation.h"
#include "app/stations/SizeStation.h"
#include "app/stations/SourceStation.h"
#include "app/stations/Stations.h"
#include "app/tray/Tray.h"

#include <QMainWindow>
#include <QMap>

class QAction;
class QStackedWidget;

namespace thinline::app {

/// The window: thread above, instrument column at the left, bench in the middle, side view and tray below. It
/// routes between the parts and holds no job state of its own.
class MainWindow : public QMainWindow {
    Q_OBJECT
  public:
    MainWindow(base::FileStore& store, const base::FontStore& fonts, const QString& recoveryFolder,
               const QString& demoFolder, QWidget* parent = nullptr);

    Workbench& bench() { return m_bench; }
    BenchView* benchView() { return m_view; }
    SideView* sideView() { return m_sideView; }
    ThreadBar* thread() { return m_top->thread(); }
    Tray* tray() { return m_tray; }
    template <class Panel>
    Panel* panel(Station station) {
        return static_cast<Panel*>(m_panels[station]);
    }

    Station station() const { return m_station; }
    void goTo(Station station);
    void openDemo();
    /// Asks about unsaved work where there is any, then opens.
    void open(const QString& path);
    bool save();
    bool saveAs();

  protected:
    void closeEvent(QCloseEvent*) override;
    void dragEnterEvent(QDragEnterEvent*) override;
    void dropEvent(QDropEvent*) override;
    void resizeEvent(QResizeEvent*) override;

  private:
    QWidget* buildMiddle();
    QWidget* buildBottom();
    void buildActions();
    QAction* addAction(const QString& text, const QKeySequence& key, const std::function<void()>& call);
    void connectParts();
    void choosePicture();
    void chooseAdditions();
    void paste();
    /// Begins to measure; `isKnown` hands the distance to the station that asked.
    void measure(bool isKnown);
    void stopMeasuring();
    void measured(geometry::Point from, geometry::Point to);
    void moved(const SceneItem& item, geometry::Point by);
    void placeClicked(geometry::Point at, design::PieceId piece);
    bool mayLeaveJob();
    bool isSizeSettled() const;
    void refresh();
    void refreshScene();
    void refreshTop();
    void refreshThread();
    void remember(const QString& path);
    QStringList recent() const;
    QString hoverText(const SceneItem& item) const;
    size_t alikeCount(design::PieceId piece) const;
    void clicked(const SceneItem& item);
    void dragged(const SceneItem& item, geometry::Point corner);
    void showFinding(const inspect::Finding& finding, const geometry::Box& place);
    void findAction();
    void switchTheme();

    base::FileStore& m_store;
    QString m_demoFolder;
    Workbench m_bench;
    Station m_station = Station::Source;
    QMap<Station, StationPanel*> m_panels;

    TopBar* m_top = nullptr;
    QStackedWidget* m_column = nullptr;
    QStackedWidget* m_middle = nullptr;
    BenchView* m_view = nullptr;
    StartPage* m_start = nullptr;
    SideView* m_sideView = nullptr;
    Tray* m_tray = nullptr;
    NoticeStrip* m_notice = nullptr;
    QMap<QString, QAction*> m_actions;
    // What the bench last showed, so that it is built anew only when that changed.
    const void* m_shownStack = nullptr;
    const void* m_shownArrangement = nullptr;
    const void* m_shownPicture = nullptr;
    double m_shownWidth = 0;
    mutable std::shared_ptr<const trace::Tracing>
        m_alikeIn; ///< what the last answer about alike areas was of
    mutable design::PieceId m_alikeTo = 0;
    mutable size_t m_alike = 0;
    const raster::Picture* m_laidPicture = nullptr; ///< shown instead of the areas at Trace
    int m_shownSource = -1;
    bool m_asksForSize = false; ///< the notice says that a size is to be settled
    bool m_isMeasuring = false, m_isKnownAsked = false;
    Station m_shownStation = Station::Pack;
};

} // namespace thinline::app
