// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

/// Outlines from measured points: dense, evenly spaced, each a little off.
namespace thinline::geometry {

struct RingOptions {
    double tolerance =
        0.15; ///< farthest a point may lie from a curve, in the points' own unit (px of a picture)
    double straight = 0.12;     ///< farthest a point may lie from a straight side
    double leastTurnRad = 0.42; ///< a sharper turn at one place is a corner; soft edges hide blunter ones
    int reach = 6;              ///< how many points on either side a direction is taken from
};

/// Returns a closed outline of few curves and straight sides through measured points.
/// Shape:  corners lie where the two sides running into them meet, which is beyond the points themselves: a
/// soft edge
///         cuts every tip short. A bend counts as a corner when it is as sharp over a short stretch as over a
///         long one; a small circle is none. Orientation is kept; empty for fewer than eight points.
/// Cost:   O(n log n) typical.
/// Source: handles by least squares as P. J. Schneider, An Algorithm for Automatically Fitting Digitized
/// Curves,
///         Graphics Gems, 1990; each curve is stretched as far as it holds.
Contour fitRing(const Polygon& ring, const RingOptions& options = {});

/// A corner of a ring.
struct RingCorner {
    size_t index = 0; ///< the point nearest to it
    Point place;
    double turnRad = 0;
};
/// Returns the corners of a ring, in order.
std::vector<RingCorner> cornersOf(const Polygon& ring, const RingOptions& options = {});

} // namespace thinline::geometry
