// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Shape.h"

#include <array>
#include <vector>

namespace thinline::geometry {

/// An area as triangles.
struct Triangulation {
    struct Triangle {
        std::array<int, 3>
            corner; ///< clockwise on screen; points counted over all rings in order, then the loose ones
        std::array<int, 3>
            across; ///< the triangle behind the side opposite to each corner; -1 behind an edge of the area
    };
    std::vector<Triangle> triangles;
};

/// Returns the area inside some rings (even-odd) as triangles with these corners and no others, as near to equal-sided
/// as their sides allow; every side of a ring is a side of triangles.
/// Shape:  `loose` points lie inside and become corners too; those outside, and such that coincide, may be left out.
///         Rings that touch at a point are taken as they are; of rings that cross, some sides may be missing.
/// Errors: LimitExceeded for more than 200,000 points; Cancelled.
/// Cost:   O(n sqrt n) at worst for the walks, O(n log n) typical; polls cancel once per 256 points.
/// Source: S. W. Sloan, A fast algorithm for constructing Delaunay triangulations in the plane, 1987, and A fast
///         algorithm for generating constrained Delaunay triangulations, 1993 (from memory).
base::Result<Triangulation> triangulated(const Polygons& rings, const Polygon& loose = {},
                                         const base::Progress& progress = {});

} // namespace thinline::geometry
