// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "inspect/Inspect.h"

#include <QWidget>

#include <optional>
#include <utility>
#include <vector>

class QHBoxLayout;
class QLabel;
class QVBoxLayout;

namespace thinline::app {

/// The tray: a line for every kind of finding, what would spoil card first. A click shows the place of the worst;
/// clicking again shows the next one.
class Tray : public QWidget {
    Q_OBJECT
  public:
    explicit Tray(QWidget* parent = nullptr);
    enum class Looked { NothingThere, NotYet, Yes };
    void showFindings(const std::vector<inspect::Finding>& findings, Looked looked);

  signals:
    void wantsToShow(const inspect::Finding& finding, const inspect::Case& one);
    void wantsToMend(const inspect::Finding& finding); ///< by its steps
    void wantsToForgetStrays();                        ///< wishes for pieces that are not there any more

  private:
    void addRow(const inspect::Finding& finding);
    void addStep(QHBoxLayout* line, const inspect::Finding& finding, const QString& words);
    QLabel* m_count;
    QVBoxLayout* m_rows;
    std::optional<std::pair<std::vector<inspect::Finding>, Looked>> m_shown;
};

} // namespace thinline::app
