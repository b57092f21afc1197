// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

#include <vector>

/// What lies beside what.
namespace thinline::sheets {

/// Whether two areas are at least so far apart: neither crosses the other, comes nearer, or lies in it.
/// Shape: rings by the even-odd rule; `clearMm` is above zero, and areas that touch are apart by nothing.
/// Cost:  O(edges squared) of the edges whose boxes come near.
bool areApart(const geometry::Polygons& a, const geometry::Polygons& b, double clearMm);

/// Returns by how much a box is to be moved so that it holds on to what lies beside it: at the spacing from others, level with
/// them, or at the edge of what may be cut. Across and down each for itself, the nearest within reach.
/// Shape:  nothing to hold on to leaves it where it is; an edge counts only for a box that lies within it or across it.
/// Cost:   O(others + usable).
geometry::Point heldBeside(const geometry::Box& box, const std::vector<geometry::Box>& others,
                           const std::vector<geometry::Box>& usable, double spacingMm, double reachMm);

} // namespace thinline::sheets
