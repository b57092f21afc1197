// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Shape.h"

#include <vector>

namespace thinline::geometry {

/// A place where the material between two edges is narrower than a limit.
struct Neck {
    Point place;
    double widthMm = 0;
};

/// Returns the necks of a shape narrower than `limitMm`, narrowest first.
/// Shape:  a neck joins wider material on two sides or more; a pointed tip or a corner is none. A shape that
/// is
///         narrower than the limit everywhere gives one neck at its middle, its width that of the shape's
///         widest disc.
/// Units:  mm; widths are within 2 % of the limit.
/// Errors: those of the polygon engine; Cancelled.
/// Cost:   one shrink, one growth and one subtraction of the flattened outline, O(n log n).
/// Source: opening by a disc: what a disc of the limit's diameter cannot reach is narrow (mathematical
/// morphology,
///         Serra 1982); a narrow remainder with two contacts to the reachable part is a neck.
base::Result<std::vector<Neck>> findNecks(const Shape& shape, double limitMm,
                                          const base::Progress& progress = {});

} // namespace thinline::geometry
