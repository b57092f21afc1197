// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Steps.h"

#include <QWidget>

#include <functional>

class QVBoxLayout;

namespace thinline::app {

/// The steps a station has taken, in words; each can be opened again or taken out.
class StepList : public QWidget {
    Q_OBJECT
  public:
    /// What a station makes of a step of the job.
    enum class Shown { Not, InWords, ToOpen };
    using Look = std::function<Shown(const design::Step&)>;
    explicit StepList(Look look, QWidget* parent = nullptr);

    /// Builds the rows anew when the steps are others.
    void show(const job::Steps& steps);
    /// How many are shown.
    int rows() const { return m_rows; }

  signals:
    void opened(size_t step);
    void takenOut(size_t step);

  private:
    Look m_look;
    QVBoxLayout* m_lines;
    job::Steps m_shown;
    int m_rows = 0;
};

} // namespace thinline::app
