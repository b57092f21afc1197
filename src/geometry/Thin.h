// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

namespace thinline::geometry {

/// Returns a contour with fewer straight steps: runs of them that stray less than `toleranceMm` from one step become
/// that step. Curves stay.
/// Shape: begins where it began; every point left out lies within the tolerance of the step that took its place.
/// Cost:  O(steps), one look at each.
/// Source: the cone of directions that pass near all points so far; K. Reumann, A. Witkam, 1974, in the form that
///         keeps the bound.
Contour thinned(const Contour& contour, double toleranceMm);

} // namespace thinline::geometry
