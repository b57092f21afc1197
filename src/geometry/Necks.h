// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Shape.h"

#include <optional>
#include <vector>

namespace thinline::geometry {

/// A place where the material between two edges is narrower than a limit.
struct Neck {
    Point place;
    double widthMm = 0;
};

/// Returns the necks of a shape narrower than `limitMm`, narrowest first.
/// Shape:  a neck joins wider material on two sides or more; a pointed tip or a corner is none. A shape that
///         is narrower than the limit everywhere gives one neck at its middle, its width that of the shape's
///         widest disc.
/// Units:  mm; widths are within 2 % of the limit.
/// Errors: those of the polygon engine; Cancelled.
/// Cost:   one shrink, one growth and one subtraction of the flattened outline, O(n log n).
/// Source: opening by a disc: what a disc of the limit's diameter cannot reach is narrow (mathematical
///         morphology, Serra 1982); a narrow remainder with two contacts to the reachable part is a neck.
base::Result<std::vector<Neck>> findNecks(const Shape& shape, double limitMm,
                                          const base::Progress& progress = {});

/// Returns the gaps between shapes, and within their openings and bays, that are narrower than `limitMm`,
/// narrowest first: the necks of everything that is not card.
/// Shape:  as findNecks; an opening narrower than the limit everywhere gives one gap at its middle.
/// Errors: those of the polygon engine; Cancelled.
base::Result<std::vector<Neck>> findGaps(const std::vector<Shape>& shapes, double limitMm,
                                         const base::Progress& progress = {});

/// Returns the narrowest neck of a shape, or nothing when it has none: looks below 0.5 mm first and doubles
/// the limit until one is found or the shape's own width is passed.
base::Result<std::optional<Neck>> narrowestNeck(const Shape& shape, const base::Progress& progress = {});
/// Returns the narrowest gap of one or several shapes, in the same way, or nothing when there is none
/// narrower than half the shorter side of their box.
base::Result<std::optional<Neck>> narrowestGap(const std::vector<Shape>& shapes,
                                               const base::Progress& progress = {});

} // namespace thinline::geometry
