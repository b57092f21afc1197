// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "app/stations/ThreadBar.h"

#include <QMap>
#include <QWidget>

class QAction;
class QLabel;
class QToolButton;

namespace thinline::app {

/// The top of the window: job name with its menu and state, the thread, undo, redo and the action finder.
class TopBar : public QWidget {
    Q_OBJECT
  public:
    /// `actions` by name: open, save, saveAs, demo, theme, quit, undo, redo, find.
    TopBar(Workbench& bench, const QMap<QString, QAction*>& actions, QWidget* parent = nullptr);
    void refresh();
    ThreadBar* thread() const { return m_thread; }

  private:
    QString sizeWords() const;

    Workbench& m_bench;
    ThreadBar* m_thread;
    QToolButton* m_job;
    QLabel* m_state;
    QToolButton* m_undo;
    QToolButton* m_redo;
};

} // namespace thinline::app
