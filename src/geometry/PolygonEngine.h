// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/FillRule.h"
#include "geometry/Shape.h"

#include <cstdint>

/// Set operations and parallel outlines of straight-sided areas. One third-party engine does the work and is
/// seen only in PolygonEngine.cpp (docs/adr/0003). Its grid is 1 nm and follows the design: whatever is not
/// larger than 2 x 2 m fits, wherever it lies.
namespace thinline::geometry {

/// Half the side of the largest square a design may fill: the engine's fast range on a 1 nm grid.
inline constexpr double kLargestReachMm = 1000.0;

/// A place on the engine's grid.
struct GridPoint {
    std::int64_t x = 0;
    std::int64_t y = 0;
    bool operator==(const GridPoint&) const = default;
};
using GridRing = std::vector<GridPoint>;

/// The 1 nm grid laid around a design.
class Grid {
  public:
    static constexpr double kUnitsPerMm = 1e6;

    /// Returns a grid that holds the box.
    /// Errors: InvalidArgument when the box is not finite; LimitExceeded when it is larger than 2 x 2 m.
    static base::Result<Grid> around(const Box& box);

    GridPoint snap(Point p) const {
        return {static_cast<std::int64_t>(std::llround((p.x - m_centre.x) * kUnitsPerMm)),
                static_cast<std::int64_t>(std::llround((p.y - m_centre.y) * kUnitsPerMm))};
    }
    Point place(GridPoint g) const {
        return {static_cast<double>(g.x) / kUnitsPerMm + m_centre.x,
                static_cast<double>(g.y) / kUnitsPerMm + m_centre.y};
    }

  private:
    explicit Grid(Point centre) : m_centre(centre) {}
    Point m_centre;
};

/// One connected area on the grid: an outline of positive area and its openings of negative area.
struct GridArea {
    GridRing outline;
    std::vector<GridRing> openings;
};

/// Returns subject OP clip. Vertices that lie on a straight side are kept.
/// Errors: Degenerate when the engine refuses; LimitExceeded for what would take it more than some seconds; Cancelled, within
///         some hundredths of a second.
/// Cost:   O(n log n) plus crossings. The engine's own call cannot be interrupted: a long one runs on a thread of its own,
///         which is left behind on cancel and ends by itself, within the limit.
base::Result<std::vector<GridArea>> combine(SetOperation operation, const std::vector<GridRing>& subject,
                                            FillRule subjectRule, const std::vector<GridRing>& clip,
                                            FillRule clipRule, const base::Progress& progress = {});

// ---- the same on straight-sided areas in mm, combined by the non-zero rule after `Shape`'s orientation rule

/// Returns what is in `areas` and not in `taken`.
/// Shape:  outlines positive, openings negative, any order; empty if nothing is left.
/// Errors: InvalidArgument for a coordinate that is not finite; LimitExceeded for more than 2 x 2 m.
/// Cost:   O(n log n) plus crossings.
base::Result<Polygons> subtract(const Polygons& areas, const Polygons& taken);

/// Returns the area grown by `byMm` (shrunk when negative) with round joins that stray at most `toleranceMm`.
/// Errors: as `subtract`.
/// Source: area and perimeter of a grown convex area obey Steiner's formula (tested).
base::Result<Polygons> grown(const Polygons& areas, double byMm, double toleranceMm);

/// Returns the rings sorted into connected areas: each outline followed by its openings.
/// Errors: as `subtract`.
base::Result<std::vector<Polygons>> separated(const Polygons& areas);

} // namespace thinline::geometry
