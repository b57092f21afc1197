// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"

#include <QWidget>

class QComboBox;
class QDoubleSpinBox;
class QPushButton;

namespace thinline::app {

/// How one copy lies on its sheet, by numbers: turned, flipped over, sent elsewhere. What is said is pinned.
class HandPanel : public QWidget {
    Q_OBJECT
  public:
    explicit HandPanel(Workbench& bench, QWidget* parent = nullptr);
    /// Shows a copy; hidden for one that lies nowhere.
    void show(const std::optional<design::CopyOf>& what);

  signals:
    void refused(const QString& why);

  private:
    void take(const QString& name, base::Result<job::Job> job);

    Workbench& m_bench;
    std::optional<design::CopyOf> m_what;
    QDoubleSpinBox* m_turn;
    QPushButton* m_flip;
    QComboBox* m_send;
    QPushButton* m_fill;
};

} // namespace thinline::app
