// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"
#include "geometry/Shape.h"

#include <optional>
#include <utility>
#include <vector>

/// Open lines: scores, perforations, pen lines.
namespace thinline::geometry {

struct Cubic;

/// A path that is no area. It has the form of a contour, but its end is where its last segment ends.
using Line = Contour;

/// Returns where a line ends; its start when it has no segments.
Point endOf(const Line& line);
/// Returns the place half-way along a line.
Point middleOf(const Line& line);
/// Returns how far a point is from a line, to within a hundredth of a curve's height; infinite without segments.
double distanceTo(const Line& line, Point p);

/// Returns where two curves cross, as parameters on both, ascending on the first. Stretches that coincide
/// give no crossing.
/// Units:  each crossing lies on both curves within 1e-9 of their unit.
/// Cost:   halving of boxes until both are flat, then Newton steps; at most 9 crossings.
std::vector<std::pair<double, double>> crossingsOf(const Cubic& a, const Cubic& b);

/// Returns where a line meets another one, as lengths along it, not its own ends; stretches that coincide give none.
std::vector<double> meetingsAlong(const Line& line, const Line& other);

/// Returns the parts of a line that lie on the card of a shape, in the line's order and direction.
/// Shape:  cut exactly where the line crosses outline and openings; a part shorter than 1 um is dropped.
/// Errors: InvalidArgument for a coordinate that is not finite.
base::Result<std::vector<Line>> clippedTo(const Line& line, const Shape& shape);

/// The ends of a line.
enum class Ends { Both, First, Last, Neither };

/// Returns the line with its ends, or one of them, run on straight until they meet the shape's edge, then clipped to
/// the shape: a fold that reaches the cut. An end farther than `mostMm` from the edge stays where it is.
/// Errors: as clippedTo.
base::Result<std::vector<Line>> extendedToEdge(const Line& line, const Shape& shape, double mostMm,
                                               Ends which = Ends::Both);

/// Returns where the edge is straight ahead of the end of a line that lies on card; nothing when it is farther than `mostMm`, or a
/// coordinate is not finite.
std::optional<Point> edgeAhead(const Line& line, const Shape& shape, double mostMm);

/// Returns the stretch of a line between two lengths along it; of no length it has no segments.
Line stretchOfLine(const Line& line, double fromMm, double toMm);

/// Returns dashes along a line that begin and end whole.
/// Shape:  as many as come nearest to the wanted lengths; cut and gap are scaled together by one factor, told
///         in `scale`. A line shorter than one dash is one dash.
/// Errors: InvalidArgument for a cut not above zero, a gap below zero, or a line without length.
struct Dashes {
    std::vector<Line> cuts;
    double scale = 1;
};
base::Result<Dashes> dashed(const Line& line, double cutMm, double gapMm);

/// How a line is perforated, in mm: how long the cuts are, what is left between them at least, and at both ends.
struct Perforation {
    double cutMm = 2.5, leftMm = 1.5, leftAtEndsMm = 2; ///< from memory
};
/// Returns the cuts of a perforation along a line.
/// Shape:  every cut is whole; what does not come out even is shared among the bridges, so that none is shorter than
///         asked for. On a line too short for one whole cut between its ends there is one of at least half the length,
///         or none.
/// Errors: InvalidArgument for a cut not above zero or a bridge below zero.
base::Result<std::vector<Line>> perforated(const Line& line, const Perforation& how = {});

/// What joining loose ends came to.
struct Joined {
    std::vector<Contour> outlines; ///< closed
    std::vector<Line> lines;       ///< still open
    int gapsClosed = 0;            ///< ends that did not meet exactly
    double widestGapMm = 0;
};
/// Returns lines joined where their ends meet within a tolerance: the way in for drawings made of loose
/// lines.
/// Shape:  each end is joined to the nearest free one, lines are turned round as needed; the later line is
///         bent to begin where the earlier ends. A line whose own ends meet becomes an outline, unless it is
///         shorter than twice the tolerance.
/// Errors: InvalidArgument for a tolerance below zero.
/// Cost:   O(n log n) in lines, as long as ends do not crowd.
base::Result<Joined> joinedEnds(std::vector<Line> lines, double toleranceMm);

} // namespace thinline::geometry
