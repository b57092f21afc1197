// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Point.h"

#include <vector>

/// Shapes: closed areas bounded by lines and cubic curves, with openings.
namespace thinline::geometry {

/// One step of an outline: straight to `end`, or a cubic curve with two handles.
struct Segment {
    Point control1;
    Point control2;
    Point end;
    bool isLine = true;

    static Segment line(Point end) { return {end, end, end, true}; }
    static Segment curve(Point control1, Point control2, Point end) {
        return {control1, control2, end, false};
    }
    bool operator==(const Segment&) const = default;
};

/// A closed outline. It starts at `start`; the last segment's end equals `start` (a straight closing step is
/// written out). Fewer than two segments bound no area.
struct Contour {
    Point start;
    std::vector<Segment> segments;

    bool operator==(const Contour&) const = default;
};

/// A connected area: one outline with positive signedArea and openings with negative signedArea, none
/// crossing.
struct Shape {
    Contour outline;
    std::vector<Contour> openings;

    bool operator==(const Shape&) const = default;
};

/// A closed ring of straight steps; the closing step from back to front is implied.
using Polygon = std::vector<Point>;
using Polygons = std::vector<Polygon>;

/// Returns the closed contour through these points with straight sides. Empty for fewer than three points.
Contour contourThrough(const Polygon& points);

Contour transformed(const Contour& contour, const Transform& map);
/// Returns the mapped shape; a mirroring map turns the outlines round so that the orientation rule still
/// holds.
Shape transformed(const Shape& shape, const Transform& map);

/// Returns the shape with every coordinate rounded to a multiple of `step`: what a file keeps, so that it is read
/// back the same to the bit.
Shape rounded(Shape shape, double step);

/// Returns the same outline walked the other way.
Contour reversed(const Contour& contour);

/// Returns the area inside one contour, from the curves themselves (Green's theorem, closed form per cubic).
/// Shape:  positive when the contour runs clockwise on screen (x right, y down); 0 for an empty contour.
/// Cost:   O(segments).
double signedArea(const Contour& contour);

/// Returns the area of card: outline minus openings.
double area(const Shape& shape);

/// Returns the length of all outlines, openings included: what the knife travels.
/// Cost:   O(segments); Gauss-Legendre with 16 nodes on each half of a curve, relative error below 1e-6 for
///         curves without a cusp.
double cutLength(const Shape& shape);
double contourLength(const Contour& contour);

/// Returns the exact bounding box, from the roots of the curves' derivatives; empty for an empty contour.
Box bounds(const Contour& contour);
Box bounds(const Shape& shape);

/// Returns whether every point, handles included, is a number.
bool isFinite(const Contour& contour);
bool isFinite(const Shape& shape);

/// Returns the box of all points, handles included: holds the curves, and costs less than `bounds`.
Box hullBox(const Contour& contour);

/// Returns the number of nodes of all outlines.
int nodeCount(const Shape& shape);

/// Returns the outline as straight steps that stray at most `tolerance` from the curves.
/// Cost:   O(result); at most 512 steps per curve.
Polygon flatten(const Contour& contour, double tolerance);
/// The outline first, then the openings.
Polygons flatten(const Shape& shape, double tolerance);

double signedArea(const Polygon& polygon);
Box bounds(const Polygons& polygons);

/// Returns whether p lies inside by the even-odd rule over all rings. Points on the edge may go either way.
/// Cost: O(points).
bool contains(const Polygons& polygons, Point p);

/// Returns a point well inside the area: the middle of the widest span on a horizontal line near the centre
/// of the box. Works for any shape with positive area; the centre of the box otherwise.
Point pointInside(const Shape& shape);

} // namespace thinline::geometry
