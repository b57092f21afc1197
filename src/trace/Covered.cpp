// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/Covered.h"

#include "geometry/Measured.h"

#include <algorithm>
#include <cmath>

namespace thinline::trace {

using geometry::MeasuredEnd;
using geometry::Point;
using geometry::Polygon;

namespace {

constexpr double kGap =
    4.5; // px; points follow one another within the diagonal of a pixel, or two at a corner

/// Points a pixel apart from one place to another, both left out.
void addBetween(Polygon& out, Point from, Point to) {
    const int steps = static_cast<int>(geometry::distance(from, to));
    for (int k = 1; k < steps; ++k)
        out.push_back(from + (to - from) * (static_cast<double>(k) / steps));
}

/// The course from the last point before a gap to the first one after it.
void addOver(Polygon& out, const MeasuredEnd& before, const MeasuredEnd& after) {
    const Point from = before.place, to = after.place,
                way = to - from; // `t` below is negative where they meet
    const double wide = geometry::length(way);
    const double turn = geometry::cross(before.along, after.along),
                 on = geometry::dot(before.along, after.along);
    constexpr double kSmooth = 0.94; // cosine: within 20 degrees
    if (before.along == Point{} || after.along == Point{}) {
        addBetween(out, from, to);
        return;
    }
    if (on < kSmooth && std::abs(turn) > 1e-6) {
        // Both sides straight on: s and t are how far they have to go.
        const double s = geometry::cross(way, after.along) / turn,
                     t = geometry::cross(way, before.along) / turn;
        constexpr double kDoubt = 1.5; // px; a corner may lie a little outside of what is covered
        const double farthest = 1.5 * wide;
        if (s > -kDoubt && t < kDoubt && s < farthest && t > -farthest) {
            if (s < 1 || t > -1) {
                addBetween(out, from, to);
                return;
            }
            const Point corner = from + before.along * s;
            addBetween(out, from, corner);
            out.push_back(corner);
            addBetween(out, corner, to);
            return;
        }
    }
    // Hermite's cubic: arrives and leaves as both sides run.
    const int steps = std::max(1, static_cast<int>(wide));
    for (int k = 1; k < steps; ++k) {
        const double u = static_cast<double>(k) / steps, v = 1 - u;
        out.push_back(from * (v * v * (1 + 2 * u)) + before.along * (wide * u * v * v) +
                      to * (u * u * (3 - 2 * u)) - after.along * (wide * u * u * v));
    }
}

} // namespace

Polygon carriedOn(const Polygon& points, bool isRing) {
    constexpr size_t kFewest = 8;    // points of a side that say how it goes on
    constexpr size_t kLook = 60;     // and of which more say nothing new
    constexpr double kTouched = 1.5; // px beside a gap that what lies over it may have moved
    const size_t n = points.size();
    std::vector<size_t> gaps; // the points after which there is one
    for (size_t i = 0; i + (isRing ? 0 : 1) < n; ++i)
        if (geometry::distance(points[i], points[(i + 1) % n]) > kGap)
            gaps.push_back(i);
    if (gaps.empty())
        return points;
    // The sides between the gaps, without what was touched.
    std::vector<Polygon> sides;
    const auto add = [&](size_t from, size_t to, bool isCutBefore, bool isCutAfter) {
        Polygon side;
        for (size_t i = from; i <= to; ++i)
            side.push_back(points[i % n]);
        const auto isTouched = [&](const Polygon& all, Point p, Point end) {
            return all.size() > kFewest && geometry::distance(p, end) < kTouched;
        };
        const Point first = side.front(), last = side.back();
        while (isCutAfter && isTouched(side, side.back(), last))
            side.pop_back();
        while (isCutBefore && isTouched(side, side.front(), first))
            side.erase(side.begin());
        sides.push_back(std::move(side));
    };
    if (!isRing)
        add(0, gaps.front(), false, true);
    for (size_t g = 0; g + 1 < gaps.size(); ++g)
        add(gaps[g] + 1, gaps[g + 1], true, true);
    add(gaps.back() + 1, isRing ? gaps.front() + n : n - 1, true, isRing);
    // What is left of a side between two of them says less than what they cover.
    const bool isAny =
        std::any_of(sides.begin(), sides.end(), [&](const Polygon& s) { return s.size() >= kFewest; });
    if (isAny && isRing)
        std::erase_if(sides, [&](const Polygon& s) { return s.size() < kFewest; });
    Polygon out;
    for (size_t i = 0; i < sides.size(); ++i) {
        out.insert(out.end(), sides[i].begin(), sides[i].end());
        if (i + 1 == sides.size() && !isRing)
            break;
        const Polygon &before = sides[i], &after = sides[(i + 1) % sides.size()];
        const auto look = [&](const Polygon& side) {
            return static_cast<std::ptrdiff_t>(std::min(kLook, side.size()));
        };
        addOver(out, geometry::measuredEnd(Polygon(before.end() - look(before), before.end()), false, 0),
                geometry::measuredEnd(Polygon(after.begin(), after.begin() + look(after)), true, 0));
    }
    return out;
}

} // namespace thinline::trace
