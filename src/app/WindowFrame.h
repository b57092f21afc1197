// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/BenchView.h"
#include "app/jobs/StartPage.h"
#include "app/jobs/Strips.h"
#include "app/jobs/TopBar.h"
#include "app/sideview/SideView.h"
#include "app/stations/StationPanel.h"
#include "app/tray/Tray.h"

#include <QMap>

class QAction;
class QStackedWidget;

namespace thinline::app {

/// The parts of the window where they lie: thread above, instrument column at the left, bench in the middle, side view
/// and tray below.
class WindowFrame : public QWidget {
  public:
    WindowFrame(Workbench& bench, const QMap<QString, QAction*>& actions,
                const std::vector<StationPanel*>& panels);
    /// Brings a station's column to the front.
    void showColumn(StationPanel* panel);
    /// The bench, or the page there is before there is a job.
    void showBench(bool hasJob);
    /// The chosen pieces, and what would come of them, in all views.
    void showChoice(const std::vector<design::PieceId>& pieces, const std::vector<geometry::Shape>& ghost,
                    LineMarks lines);
    /// Whether the section line lies on the bench: where the design does.
    void showSectionLine(bool isShown);
    /// Takes the hairlines' colour from the theme.
    void recolour();

    TopBar* top;
    NoticeStrip* notice;
    BenchView* view;
    StartPage* start;
    SideView* sideView;
    Tray* tray;

  protected:
    void resizeEvent(QResizeEvent*) override;

  private:
    QWidget* middle(Workbench& bench);
    QWidget* bottom();
    QStackedWidget* m_column;
    QStackedWidget* m_middle;
    bool m_hasSectionLine = false;
};

} // namespace thinline::app
