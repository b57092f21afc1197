// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/CutPlan.h"

/// What the machine does when.
namespace thinline::cutplan {

struct Moment {
    enum class What { Swap, Travel, Line } what = What::Line;
    std::size_t pass = 0;
    std::size_t path = 0; ///< to which it travels, or which it follows
    int round = 0;        ///< of the pass
    double fromS = 0, toS = 0;
};

/// A load as it runs.
class Timeline {
  public:
    /// The load has to outlive it.
    Timeline(const design::PlannedLoad& load, const design::Machine& machine);

    const std::vector<Moment>& moments() const { return m_moments; }
    double seconds() const { return m_moments.empty() ? 0 : m_moments.back().toS; }

    /// Where the tool is at a time, and how much of what it does there is done, 0 to 1. Along a line by length.
    struct Now {
        std::size_t moment = 0;
        double share = 0;
        geometry::Point at;
    };
    /// Returns it; at the end after the last moment. Nothing for a load in which nothing is done.
    std::optional<Now> at(double seconds) const;

  private:
    const design::PlannedLoad& m_load;
    std::vector<Moment> m_moments;
    std::vector<geometry::Point> m_from; ///< where the tool is when a moment begins
};

} // namespace thinline::cutplan
