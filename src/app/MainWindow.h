// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/WindowFrame.h"
#include "app/bench/Measuring.h"
#include "app/jobs/JobFiles.h"

#include <QMainWindow>
#include <QMap>

class QAction;

namespace thinline::app {

/// The window routes blindly between the station it is at and the other parts, and holds no job state of its own.
class MainWindow : public QMainWindow {
    Q_OBJECT
  public:
    MainWindow(base::FileStore& store, const base::FontStore& fonts, const base::PageReader& pages,
               const QString& recoveryFolder, const QString& demoFolder, QWidget* parent = nullptr);

    Workbench& bench() { return m_bench; }
    JobFiles& files() { return *m_files; }
    BenchView* benchView() { return m_frame->view; }
    SideView* sideView() { return m_frame->sideView; }
    ThreadBar* thread() { return m_frame->top->thread(); }
    Tray* tray() { return m_frame->tray; }
    StationPanel* panel(Station station) const;
    StationPanel* here() const { return panel(m_station); }
    template <class Panel>
    Panel* panel() const {
        return findChild<Panel*>();
    }

    Station station() const { return m_station; }
    void goTo(Station station);

  protected:
    void closeEvent(QCloseEvent*) override;
    void dragEnterEvent(QDragEnterEvent*) override;
    void dropEvent(QDropEvent*) override;

  private:
    QAction* addAction(const QString& text, const QKeySequence& key, const std::function<void()>& call);
    void buildActions();
    void connectParts();
    void connectPanel(StationPanel* panel);
    void goToNext(Station station);
    void opened();
    void escape();
    void arriveAt(Station station);
    void refresh();
    void refreshBench();
    void refreshThread();
    QString hoverText(const SceneItem& item) const;
    void showFindings();
    void showFinding(const inspect::Finding& finding, const inspect::Case& one);
    void switchTheme();

    Workbench m_bench;
    JobFiles* m_files;
    Measuring* m_measuring;
    Station m_station = Station::Source;
    std::vector<StationPanel*> m_panels; ///< in the order of the thread

    WindowFrame* m_frame = nullptr;
    QMap<QString, QAction*> m_actions;
    // What the bench last showed, so that it is given anew only when that changed.
    ScenePtr m_shown;
    StationPanel::Ground m_ground = StationPanel::Ground::Picture;
    bool m_isShown = false;
    int m_serial = 0; ///< of the state shown
};

} // namespace thinline::app
