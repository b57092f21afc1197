// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

#include <numbers>

/// Shapes whose measures are known by arithmetic.
namespace thinline::support {

inline geometry::Shape rectangle(double x, double y, double width, double height) {
    return {geometry::contourThrough({{x, y}, {x + width, y}, {x + width, y + height}, {x, y + height}}), {}};
}

/// A disc of four cubics; the usual handle length leaves the radius within 0.03 %.
inline geometry::Shape disc(geometry::Point centre, double radius) {
    using geometry::Segment;
    const double k = 0.5522847498307936 * radius, r = radius, x = centre.x, y = centre.y;
    return {{{x + r, y},
             {Segment::curve({x + r, y + k}, {x + k, y + r}, {x, y + r}),
              Segment::curve({x - k, y + r}, {x - r, y + k}, {x - r, y}),
              Segment::curve({x - r, y - k}, {x - k, y - r}, {x, y - r}),
              Segment::curve({x + k, y - r}, {x + r, y - k}, {x + r, y})}},
            {}};
}

inline geometry::Shape withOpening(geometry::Shape shape, const geometry::Shape& opening) {
    shape.openings.push_back(geometry::reversed(opening.outline));
    return shape;
}

/// Two squares of `side` joined by a strip `width` wide and `length` long, upper left corner at the origin.
inline geometry::Shape dumbbell(double side, double width, double length) {
    const double y0 = (side - width) / 2, y1 = y0 + width, x1 = side + length;
    return {geometry::contourThrough({{0, 0},
                                      {side, 0},
                                      {side, y0},
                                      {x1, y0},
                                      {x1, 0},
                                      {x1 + side, 0},
                                      {x1 + side, side},
                                      {x1, side},
                                      {x1, y1},
                                      {side, y1},
                                      {side, side},
                                      {0, side}}),
            {}};
}

} // namespace thinline::support
