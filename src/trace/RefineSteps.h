// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Cubic.h"
#include "trace/Remainder.h"

#include <array>
#include <vector>

/// Steps of a border in a row that are moved together until they explain the picture.
namespace thinline::trace {

struct Step {
    geometry::Cubic curve;
    bool isLine = false;
    bool isSmooth = false; ///< runs on smoothly from the step before
};
using Steps = std::vector<Step>;

/// Returns the straight steps along which the area beside a path is taken, its end included.
geometry::Polygon pathOf(const Steps& steps);

/// Moves the points of the steps, round by round as long as it helps. Both ends stay, unless the steps are a
/// closed ring. Returns by how much the sum of squares fell, px⁴.
/// Cost:   O(length + steps³) a round, at most so many rounds.
/// Source: Gauss-Newton steps on the pixels' coverage, held back as by Levenberg and Marquardt.
double settle(Steps& steps, bool isClosed, Remainder& remainder, int rounds = 16);

} // namespace thinline::trace
