// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "cutplan/Timing.h"

#include "geometry/Measures.h"

#include <cmath>
#include <numbers>

namespace thinline::cutplan {
namespace {

using geometry::Point;
using geometry::Segment;

/// The directions in which a segment begins and ends; a handle without length asks the next point.
Point firstWay(Point start, const Segment& segment) {
    for (const Point p : {segment.control1, segment.control2})
        if (!segment.isLine && geometry::distance(start, p) > 1e-9)
            return p - start;
    return segment.end - start;
}
Point lastWay(Point start, const Segment& segment) {
    for (const Point p : {segment.control2, segment.control1})
        if (!segment.isLine && geometry::distance(segment.end, p) > 1e-9)
            return segment.end - p;
    return segment.end - start;
}

bool isCorner(Point in, Point out) {
    return std::abs(std::atan2(geometry::cross(in, out), geometry::dot(in, out))) >
           kCornerDeg * std::numbers::pi / 180;
}

} // namespace

double secondsFor(double lengthMm, double mmPerS, double mmPerS2) {
    if (!(lengthMm > 0) || !(mmPerS > 0) || !(mmPerS2 > 0))
        return 0;
    return lengthMm * mmPerS2 >= mmPerS * mmPerS ? lengthMm / mmPerS + mmPerS / mmPerS2
                                                 : 2 * std::sqrt(lengthMm / mmPerS2);
}

double secondsAlong(const geometry::Line& line, double mmPerS, double mmPerS2) {
    double seconds = 0, run = 0;
    Point from = line.start, way;
    for (const Segment& segment : line.segments) {
        const geometry::Line one{from, {segment}};
        const double length = geometry::contourLength(one);
        if (length > 0) {
            if (run > 0 && isCorner(way, firstWay(from, segment))) {
                seconds += secondsFor(run, mmPerS, mmPerS2);
                run = 0;
            }
            run += length;
            way = lastWay(from, segment);
        }
        from = segment.end;
    }
    return seconds + secondsFor(run, mmPerS, mmPerS2);
}

} // namespace thinline::cutplan
