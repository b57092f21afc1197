// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Lines.h"

#include <vector>

namespace thinline::geometry {

/// What lines made of a shape.
struct Parted {
    std::vector<Shape> parts; ///< in reading order of their boxes' corners
    int danglingEnds = 0;     ///< ends that lie on the card and meet neither an edge nor another line
};

/// Returns the parts into which lines cut a shape: seams, the panels between folds, a template of cuts.
/// Shape:  lines may cross one another, meet in a T, be closed, lie in several pieces end to end; what lies
///         off the card counts for nothing. A line that dangles parts nothing; its free end is counted. Parts
///         keep to the rule of `Shape`; neighbours share their border to the bit, and what no line meets comes
///         out as it went in. Without lines the shape is its own only part.
/// Units:  ends and edges nearer than 1 um meet. The areas of the parts add up to the shape's.
/// Errors: InvalidArgument for a coordinate that is not finite; Cancelled.
/// Cost:   one look at every pair of curves whose boxes meet.
/// Source: faces of a planar division, walked along half-edges; M. de Berg and others, Computational Geometry,
///         3rd edition 2008, chapter 2.
base::Result<Parted> partedBy(const Shape& shape, const std::vector<Line>& lines,
                              const base::Progress& progress = {});

} // namespace thinline::geometry
