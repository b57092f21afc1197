// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "split/Split.h"

/// Rectangles of the room's size, lying any way. Internal to the folder.
namespace thinline::split {

/// The room laid over the shape.
struct Pose {
    geometry::Point centre;
    double cos = 1, sin = 0; ///< of its turn
    double halfWidth = 0, halfHeight = 0;

    static Pose at(geometry::Point centre, double turnRad, double widthMm, double heightMm);
    bool holds(geometry::Point p) const {
        const geometry::Point d = p - centre;
        return std::abs(d.x * cos + d.y * sin) <= halfWidth && std::abs(d.y * cos - d.x * sin) <= halfHeight;
    }
    /// The place that lies at (x, y) as seen along its sides.
    geometry::Point place(double x, double y) const {
        return centre + geometry::Point{x * cos - y * sin, x * sin + y * cos};
    }
};

/// How points reach along two directions at right angles.
struct Extents {
    double leastX, mostX, leastY, mostY;
    double width() const { return mostX - leastX; }
    double height() const { return mostY - leastY; }
};
Extents extentsOf(const geometry::Polygon& points, double turnRad);

/// Returns every turn, from 0 up to a half turn, worth trying for a hull: even steps, and such as lay one of its sides
/// along one of the room's.
std::vector<double> turnsFor(const geometry::Polygon& hull);

/// Returns whether a hull fits a room in some turn.
bool fits(const geometry::Polygon& hull, const Room& room);

} // namespace thinline::split
