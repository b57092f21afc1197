// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Cubic.h"

#include <span>

namespace thinline::geometry {

/// A cubic and the point of the run that lies farthest from it.
struct FittedCubic {
    Cubic cubic;
    double worst = 0;
    size_t worstIndex = 0;
    size_t beyond = 0; ///< points farther than the tolerance
};

/// Returns the cubic from the first to the last point of a run, leaving along `out` and arriving against `in`
/// (unit vectors, both pointing into the run; a zero vector leaves that end's direction to the points). Looks
/// on for a few rounds until every point lies within `tolerance`; the caller sees by `worst` whether it did.
/// At least two points, not all in one place.
/// Cost:   O(points) a round.
/// Source: P. J. Schneider, An Algorithm for Automatically Fitting Digitized Curves, Graphics Gems, 1990.
FittedCubic fitCubic(std::span<const Point> run, Point out, Point in, double tolerance);

} // namespace thinline::geometry
