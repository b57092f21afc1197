// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"
#include "geometry/Shape.h"

/// Set operations and parallel outlines of straight-sided areas. One third-party engine does the work and is
/// seen only in PolygonEngine.cpp (docs/adr/0003). Coordinates are mm, snapped to a 1 nm grid; rings are
/// combined by the non-zero rule after the outline/opening orientation rule of `Shape`.
namespace thinline::geometry {

/// How far from the origin a ring may reach: the engine's fast range on a 1 nm grid.
inline constexpr double kLargestReachMm = 1000.0;

/// Returns what is in `areas` and not in `taken`.
/// Shape:  outlines positive, openings negative, any order; empty if nothing is left.
/// Errors: InvalidArgument for a coordinate that is not finite; LimitExceeded beyond kLargestReachMm.
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
