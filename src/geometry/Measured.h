// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

/// Outlines from measured points: dense, about evenly spaced, each a little off, blurred at corners.
namespace thinline::geometry {

struct MeasuredOptions {
    double tolerance = 0.11; ///< farthest a sound point may lie from a curve, in the points' spacing (px of a
                             ///< picture); scatter that is found raises it
    double leastTurnRad = 0.38; ///< a sharper turn at one place is a corner; soft edges hide blunter ones
    double softness = 0;   ///< how soft the picture is beyond its pixels, standard deviation in px: corners
                           ///< are blurred by as much more
    double smoothness = 1; ///< 0 keeps every corner that can be told, 1 true ones, above 1.3 none
};

/// A corner found among measured points.
struct MeasuredCorner {
    size_t first = 0, last = 0; ///< the points between which it lies; those within are blurred by it
    Point place;                ///< where its two sides meet, beyond the points: a blurred tip is cut short
    Point in, out;              ///< unit directions in which its sides arrive and leave
};

/// Returns the corners of a ring (or of an open line: none at its ends) of points in order.
/// Shape:  a corner is where the sides running into it, each a straight line or parabola as long as it holds,
///         meet with a turn, where no single smooth curve fits, and to which the points come as near as a
///         blurred corner does: the rounded corner of a drawing stays farther away and is none.
/// Cost:   O(points).
std::vector<MeasuredCorner> measuredCorners(const Polygon& points, bool isRing,
                                            const MeasuredOptions& options = {});

/// Returns a closed outline of few curves and straight sides through measured points.
/// Shape:  orientation is kept; empty for fewer than eight points, which hold no shape.
/// Cost:   O(n log n) typical.
/// Source: handles by least squares as P. J. Schneider, An Algorithm for Automatically Fitting Digitized
///         Curves, Graphics Gems, 1990; each curve is stretched as far as it holds, then all share the doubt.
Contour fitMeasuredRing(const Polygon& points, const MeasuredOptions& options = {});

/// What is known of an end of an open line.
struct MeasuredEnd {
    Point place;
    Point along; ///< unit direction in which the line runs there, first to last; zero where it is not known
    bool isFree = false; ///< the line may bend right up to the end: the points may know its direction better
};
/// Returns an open line through measured points between two ends that are known.
Contour fitMeasuredLine(const Polygon& points, const MeasuredEnd& from, const MeasuredEnd& to,
                        const MeasuredOptions& options = {});

/// Returns where an open line of measured points would go on: a place `ahead` beyond its last point and the
/// direction there, from the straight line or parabola through its last sound points.
MeasuredEnd measuredEnd(const Polygon& points, bool atFront, double skipped);

} // namespace thinline::geometry
