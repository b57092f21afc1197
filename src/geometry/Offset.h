// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Shape.h"

#include <vector>

/// Parallel outlines that stay curves.
namespace thinline::geometry {

/// What happens at a corner that opens towards the side of the offset.
enum class Join {
    Round,
    Mitre, ///< both sides run on until they meet; beyond the limit as Square
    Square ///< cut straight across at the offset's distance
};

/// How the ends of an open line are closed.
enum class Cap { Round, Butt, Square };

struct OffsetOptions {
    Join join = Join::Round;
    /// How far a mitre may reach from its corner, in distances of the offset. Sharper corners are cut square;
    /// 3 keeps corners down to about 39 degrees, and no needle is longer than three times the margin.
    double mitreLimit = 3;
    /// Farthest a curve may stray from the true parallel, mm. Half of it is spent here, the rest is left to
    /// the set operation that removes the loops.
    double toleranceMm = 0.002;
};

/// Parallel shapes, and what became of those given.
struct Parallel {
    std::vector<Shape> shapes; ///< largest first
    int vanished = 0;          ///< given shapes of which nothing is left
    int fellApart = 0;         ///< given shapes of which several parts are left
};

/// Returns the shapes at distance `byMm` outwards (inwards when negative).
/// Shape:  shapes that grow into each other are joined; the rule of `Shape` holds for each. What is a
///         circle as four cubics draw one (within 0.03 %) becomes one of eight; straight sides stay straight;
///         0 cleans the shapes.
/// Units:  mm; strays from the true parallel by at most the tolerance plus 1 um, or 3 um where the outline
///         bends tighter than the distance.
/// Errors: InvalidArgument for a distance or a coordinate that is not finite; those of Boolean.h.
/// Cost:   O(nodes) plus one set operation on about twice as many.
/// Source: docs/notes/curve-true-operations.md; areas obey Steiner's formula (tested).
base::Result<Parallel> offset(const std::vector<Shape>& shapes, double byMm,
                              const OffsetOptions& options = {}, const base::Progress& progress = {});

/// Returns `count` offsets at equal steps: the first at `stepMm`, the last at count times that. Each is taken
/// from the given shapes, so errors do not add up.
base::Result<std::vector<Parallel>> offsetSeries(const std::vector<Shape>& shapes, double stepMm, int count,
                                                 const OffsetOptions& options = {},
                                                 const base::Progress& progress = {});

/// Returns an open line as an area of some width.
/// Shape:  `line` is taken as open even where its end meets its start; several areas never, one with openings
///         where it crosses itself.
/// Errors: InvalidArgument for a width not above zero or a line without length; those of Boolean.h.
base::Result<std::vector<Shape>> strokeOutline(const Contour& line, double widthMm, Cap cap,
                                               const OffsetOptions& options = {},
                                               const base::Progress& progress = {});

} // namespace thinline::geometry
