// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// A drag knife hangs behind the shaft that turns it. Its tip, dragged without slipping, always moves towards the shaft; so
// a tip that is to run along a line with direction u needs the shaft at tip + offset u, wherever it is. Along a straight
// stretch that is the stretch moved ahead. At a corner the direction jumps while the tip stands still: the shaft swings
// round it on an arc. On a curve the direction turns all the while, and chords are straight stretches with small corners.
#include "cutplan/Aids.h"

#include "geometry/Arcs.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace thinline::cutplan {
namespace {

using geometry::Line;
using geometry::Point;

constexpr double kChordMm = 0.01;
constexpr double kStraightRad = 0.1; ///< smaller turns between chords are bridged straight

double angleOf(Point direction) {
    return std::atan2(direction.y, direction.x);
}

/// Lets the shaft swing round the tip from one direction to another, the short way.
void swing(Line& way, Point tip, double offsetMm, double from, double to) {
    const double turn = std::remainder(to - from, 2 * std::numbers::pi);
    if (std::abs(turn) > kStraightRad)
        geometry::appendEllipseArc(way, tip, offsetMm, offsetMm, from, turn);
}

} // namespace

Line swivelled(const Line& line, double offsetMm) {
    if (!(offsetMm > 0) || line.segments.empty())
        return line;
    geometry::Polygon tip = geometry::flatten(line, kChordMm);
    tip.push_back(geometry::endOf(line));
    tip.erase(
        std::unique(tip.begin(), tip.end(), [](Point a, Point b) { return geometry::distance(a, b) < 1e-9; }),
        tip.end());
    if (tip.size() < 2)
        return line;
    const auto ahead = [&](std::size_t step) {
        return (tip[step + 1] - tip[step]) * (1 / geometry::distance(tip[step], tip[step + 1]));
    };
    Line out;
    out.start = tip[0] + ahead(0) * offsetMm;
    for (std::size_t step = 0; step + 1 < tip.size(); ++step) {
        const Point u = ahead(step);
        if (step > 0) {
            swing(out, tip[step], offsetMm, angleOf(ahead(step - 1)), angleOf(u));
            out.segments.push_back(geometry::Segment::line(tip[step] + u * offsetMm));
        }
        out.segments.push_back(geometry::Segment::line(tip[step + 1] + u * offsetMm));
    }
    if (geometry::endOf(line) == line.start) {
        swing(out, tip[0], offsetMm, angleOf(ahead(tip.size() - 2)), angleOf(ahead(0)));
        out.segments.push_back(geometry::Segment::line(out.start));
    }
    // Where an arc has come to the place already, there is no step left.
    Point at = out.start;
    std::erase_if(out.segments, [&](const geometry::Segment& one) {
        const bool isNone = one.isLine && geometry::distance(at, one.end) < 1e-9;
        at = one.end;
        return isNone;
    });
    if (geometry::endOf(line) == line.start && !out.segments.empty())
        out.segments.back().end = out.start;
    return out;
}

Line overcut(const geometry::Contour& line, double overcutMm) {
    if (!(overcutMm > 0) || line.segments.empty())
        return line;
    Line out = line;
    const double whole = geometry::contourLength(line);
    const Line more = overcutMm < whole ? geometry::stretchOfLine(line, 0, overcutMm) : line;
    out.segments.insert(out.segments.end(), more.segments.begin(), more.segments.end());
    return out;
}

std::vector<Line> tabbed(const geometry::Contour& line, int tabs, double tabMm) {
    const double whole = geometry::contourLength(line);
    if (tabs < 1 || !(tabMm > 0) || whole < kLeastPerTab * tabMm * tabs)
        return {};
    std::vector<Line> out;
    const double each = whole / tabs;
    for (int i = 0; i < tabs; ++i)
        out.push_back(geometry::stretchOfLine(line, i * each + tabMm / 2, (i + 1) * each - tabMm / 2));
    return out;
}

} // namespace thinline::cutplan
