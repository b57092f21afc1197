// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/FillRule.h"
#include "geometry/Shape.h"

#include <vector>

/// Set operations that keep curves: what comes out consists of the very curves that went in, cut exactly
/// where outlines cross (docs/adr/0007).
///
/// For all of them:
/// Shape:  in: any shapes, also overlapping, touching, self-crossing ones; several count as their union. Out:
///         connected areas after the rule of `Shape`, largest first; none crossing, no area thinner than 1
///         um, no edge twice. Lines stay lines; a curve nothing crosses comes out bit for bit.
/// Units:  mm. The result strays at most 1 um from the exact one (boundaries nearer than 0.5 um to each other
///         are taken for one).
/// Errors: InvalidArgument for a coordinate that is not finite; LimitExceeded when all together are larger
///         than 2 x 2 m; Degenerate when the outlines cannot be combined even as fine polygons; Cancelled.
/// Cost:   O(n log n) for n monotone runs, plus about 20 steps per crossing; stretches that coincide or run
///         within microns of each other cost as many steps as they have chords of 0.15 um. Cancel is polled
///         throughout but for the engine's own call, which sees only what is left after those shortcuts.
/// Source: docs/notes/curve-true-operations.md.
namespace thinline::geometry {

/// Returns the areas some closed contours bound under a fill rule: the way in for outlines of any origin.
base::Result<std::vector<Shape>> areasOf(const std::vector<Contour>& contours, FillRule rule,
                                         const base::Progress& progress = {});

/// Returns all shapes joined.
base::Result<std::vector<Shape>> weld(const std::vector<Shape>& shapes, const base::Progress& progress = {});
/// Returns what is in `shapes` and not in `taken`.
base::Result<std::vector<Shape>> subtract(const std::vector<Shape>& shapes, const std::vector<Shape>& taken,
                                          const base::Progress& progress = {});
/// Returns what is in both.
base::Result<std::vector<Shape>> intersect(const std::vector<Shape>& a, const std::vector<Shape>& b,
                                           const base::Progress& progress = {});
/// Returns what is in one but not in both.
base::Result<std::vector<Shape>> exclude(const std::vector<Shape>& a, const std::vector<Shape>& b,
                                         const base::Progress& progress = {});

/// A shape cut by others, all parts kept.
struct Sliced {
    std::vector<std::vector<Shape>> inside; ///< per knife, what lies in it and in no knife before it
    std::vector<Shape> outside;             ///< what lies in none
};
/// Cuts shapes by knives.
/// Cost:   one intersection per knife, which sees only what can reach it, and one subtraction.
base::Result<Sliced> slice(const std::vector<Shape>& shapes, const std::vector<Shape>& knives,
                           const base::Progress& progress = {});

/// One face of a planar division.
struct Face {
    Shape shape;
    std::vector<int> cover; ///< the shapes that cover it, ascending
};
/// Divides the plane by some shapes. Returns every covered face once.
/// Shape:  faces in the order of their first cover, larger ones first. Their areas add up to the weld's.
/// Cost:   two operations for every shape and face whose boxes meet.
base::Result<std::vector<Face>> divide(const std::vector<Shape>& shapes, const base::Progress& progress = {});

/// The ladder on which an operation climbs down when the polygon engine and the strands disagree.
enum class Rung {
    StandIns, ///< long chords where nothing is near: the usual way
    AllFine,  ///< fine chords everywhere
    Fitted    ///< the engine's polygon as it is, fitted with curves within 1 um
};

/// The operation behind all others, from a given rung on; for tests and for `Offset`.
struct Operand {
    std::vector<const Contour*> contours;
    FillRule rule = FillRule::NonZero;
};
base::Result<std::vector<Shape>> combineCurves(SetOperation operation, const Operand& subject,
                                               const Operand& clip, const base::Progress& progress = {},
                                               Rung from = Rung::StandIns);

} // namespace thinline::geometry
