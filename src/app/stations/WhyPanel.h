// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "sheets/Why.h"

#include <QWidget>

class QLabel;
class QVBoxLayout;

namespace thinline::app {

/// What decides how many sheets there are, and the other ways, a click away with what they cost. Everything said was laid.
class WhyPanel : public QWidget {
    Q_OBJECT
  public:
    explicit WhyPanel(Workbench& bench, QWidget* parent = nullptr);

    /// Looks for what to say of the present sheets, where that is not known.
    void ask();
    void stop();
    bool isSettled() const { return !m_asker.isRunning(); }

  private:
    void show(const std::vector<sheets::Alternative>& found);

    Workbench& m_bench;
    QLabel* m_words;
    QVBoxLayout* m_ways;
    Task m_asker;
    std::shared_ptr<const design::Arrangement> m_askedOf;
};

} // namespace thinline::app
