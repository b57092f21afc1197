// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"

#include <QFrame>
#include <QTimer>

class QLabel;
class QProgressBar;

namespace thinline::app {

/// A sentence above the bench: what went wrong, or what is good to know. Stays until it is closed or
/// replaced.
class NoticeStrip : public QFrame {
    Q_OBJECT
  public:
    explicit NoticeStrip(QWidget* parent = nullptr);
    void tell(const QString& sentence, bool isProblem);
    void problem(const QString& sentence) { tell(sentence, true); }
    void note(const QString& sentence) { tell(sentence, false); }
    /// Closes it unless it tells of a problem.
    void hideNote();

  private:
    QLabel* m_text;
    bool m_isProblem = false;
};

/// What is being done, how far it is, and a way to stop it. Shows itself only when work takes noticeably
/// long.
class BusyStrip : public QFrame {
    Q_OBJECT
  public:
    explicit BusyStrip(Workbench& bench, QWidget* parent = nullptr);

  private:
    QLabel* m_text;
    QProgressBar* m_bar;
    QTimer m_delay;
};

} // namespace thinline::app
