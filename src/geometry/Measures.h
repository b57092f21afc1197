// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Shape.h"

#include <optional>
#include <vector>

/// What is asked of shapes beyond area, length and box (those are in Shape.h, in closed form).
namespace thinline::geometry {

/// Returns whether p lies on the card of a shape: inside its outline and in no opening. By the curves
/// themselves; a point on the edge may go either way.
/// Cost: O(segments), about 60 halvings for each that passes the point's height.
bool contains(const Shape& shape, Point p);

/// A place on an outline.
struct EdgePlace {
    Point point;
    double distance = 0;
    size_t contour = 0; ///< 0 is the outline, n the n-th opening
    size_t segment = 0;
    double t = 0;
};
/// Returns the place of a shape's edge nearest to p; nothing for a shape without segments.
/// Cost: O(segments); those whose box is farther than the best so far are skipped.
std::optional<EdgePlace> nearestOnEdge(const Shape& shape, Point p);
/// The same, of places nearer than `withinMm` only; nothing when none is. Far quicker where nothing is near.
std::optional<EdgePlace> nearestOnEdge(const Shape& shape, Point p, double withinMm);

/// Returns whether a point is nearer than that to the edge of a shape: the same question answered with the first place found.
bool isNearEdge(const Shape& shape, Point p, double withinMm);

/// Returns the convex hull of some points, clockwise on screen, without points on straight sides.
/// Source: A. M. Andrew, Another efficient algorithm for convex hulls in two dimensions, 1979.
Polygon convexHull(Polygon points);

/// A rectangle that lies any way round.
struct TurnedRectangle {
    double turnRad = 0; ///< turn the shape by this (clockwise on screen) and the rectangle lies straight
    double widthMm = 0, heightMm = 0;
    Point centre; ///< before turning
};
/// Returns the rectangle of least area around some shapes, its width the longer side.
/// Units: exact for the outlines flattened at 0.1 um.
/// Source: rotating calipers; H. Freeman and R. Shapira, Determining the minimum-area encasing rectangle for
///         an arbitrary closed curve, 1975.
TurnedRectangle leastRectangle(const std::vector<Shape>& shapes);

/// How a shape is turned to fit a place as large as possible.
struct BestTurn {
    double turnRad = 0; ///< clockwise on screen, -90 to 90 degrees
    double scale = 0;   ///< the largest at which the turned shape's box fits; 0 for nothing to fit
};
/// Returns the turn at which the shapes together fit width x height at the largest scale.
/// Units: exact for the outlines flattened at 0.1 um: the best turn is one at which a side of the convex hull
///        lies straight, or both limits are met at once; both are solved in closed form.
/// Cost:  O(h log h) for a hull of h points.
BestTurn bestTurn(const std::vector<Shape>& shapes, double widthMm, double heightMm);

struct Circle {
    Point centre;
    double radius = 0;
};
/// Returns the smallest circle around some shapes; of radius 0 for none.
/// Units: exact for the outlines flattened at 0.1 um.
/// Cost:  O(n) expected in the points of the hull, shuffled by a fixed seed.
/// Source: E. Welzl, Smallest enclosing disks (balls and ellipsoids), 1991.
Circle enclosingCircle(const std::vector<Shape>& shapes);

/// Returns the largest upright rectangle on the card of a shape, free of openings.
/// Shape:  always inside; its area is at least that of the largest one made of cells of a 192nd of the longer
///         side, and its sides are then moved outwards until they touch.
/// Errors: Cancelled.
/// Cost:   O(cells) for the search by histograms, O(points) for the touching.
base::Result<Box> largestRectangleInside(const Shape& shape, const base::Progress& progress = {});

/// Returns which shapes hang together: for each the number of its group, counted from 0 in the order in which
/// groups first appear. Shapes that overlap, or share a stretch of edge, hang together; a single point does
/// not hold.
/// Errors: those of Boolean.h.
base::Result<std::vector<int>> connectedGroups(const std::vector<Shape>& shapes,
                                               const base::Progress& progress = {});

/// Returns the shapes that hang together with none of the `held` ones: what falls out when the work is
/// lifted. Ascending indices into `shapes`.
base::Result<std::vector<size_t>> islands(const std::vector<Shape>& shapes, const std::vector<Shape>& held,
                                          const base::Progress& progress = {});

} // namespace thinline::geometry
