// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "inspect/Inspect.h"

#include <QWidget>

#include <vector>

class QLabel;
class QVBoxLayout;

namespace thinline::app {

/// The tray: findings, what would spoil card first. A click shows the place; clicking again shows the next
/// one.
class Tray : public QWidget {
    Q_OBJECT
  public:
    explicit Tray(QWidget* parent = nullptr);
    void showFindings(const std::vector<inspect::Finding>& findings, bool hasPieces);

  signals:
    void wantsToShow(const inspect::Finding& finding, const geometry::Box& place);

  private:
    QLabel* m_count;
    QVBoxLayout* m_rows;
};

} // namespace thinline::app
