// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Whether two shapes are one shape laid twice.
//
// The distances of the nodes from their common middle, in their order along the outline, are the same for both, up to where
// the order begins. Every beginning that fits gives a turn; the nodes, the handles and the openings decide.
#include "geometry/Congruent.h"

#include <algorithm>
#include <cmath>

namespace thinline::geometry {
namespace {

std::vector<Point> nodesOf(const Contour& contour) {
    std::vector<Point> out;
    for (const Segment& segment : contour.segments)
        out.push_back(segment.end);
    return out;
}
Point meanOf(const std::vector<Point>& points) {
    Point sum;
    for (const Point p : points)
        sum = sum + p;
    return sum * (1.0 / static_cast<double>(points.size()));
}

bool lieOn(const Contour& from, const Contour& to, const Transform& map, size_t shift, double tolerance) {
    const size_t count = from.segments.size();
    for (size_t i = 0; i < count; ++i) {
        const Segment &a = from.segments[i], &b = to.segments[(i + shift) % count];
        if (a.isLine != b.isLine || distance(map(a.end), b.end) > tolerance)
            return false;
        if (!a.isLine && (distance(map(a.control1), b.control1) > tolerance ||
                          distance(map(a.control2), b.control2) > tolerance))
            return false;
    }
    return true;
}
bool lieOnAny(const Contour& from, const std::vector<Contour>& to, const Transform& map, double tolerance) {
    return std::any_of(to.begin(), to.end(), [&](const Contour& one) {
        if (one.segments.size() != from.segments.size())
            return false;
        for (size_t shift = 0; shift < one.segments.size(); ++shift)
            if (lieOn(from, one, map, shift, tolerance))
                return true;
        return false;
    });
}

/// The same, without mirroring.
std::optional<Transform> turned(const Shape& from, const Shape& to, double tolerance) {
    const std::vector<Point> a = nodesOf(from.outline), b = nodesOf(to.outline);
    if (a.empty() || a.size() != b.size() || from.openings.size() != to.openings.size())
        return std::nullopt;
    const Point middleA = meanOf(a), middleB = meanOf(b);
    const auto reach = [](const std::vector<Point>& points, Point middle) {
        std::vector<double> out;
        for (const Point p : points)
            out.push_back(distance(p, middle));
        return out;
    };
    const std::vector<double> reachA = reach(a, middleA), reachB = reach(b, middleB);
    const auto far = static_cast<size_t>(std::max_element(reachA.begin(), reachA.end()) - reachA.begin());
    std::optional<Transform> best;
    double least = INFINITY;
    for (size_t shift = 0; shift < a.size(); ++shift) {
        bool fits = true;
        for (size_t i = 0; i < a.size() && fits; ++i)
            fits = std::abs(reachA[i] - reachB[(i + shift) % a.size()]) <= tolerance;
        if (!fits)
            continue;
        const Point p = a[far] - middleA, q = b[(far + shift) % a.size()] - middleB;
        const double turn = std::atan2(cross(p, q), dot(p, q));
        if (std::abs(turn) >= least)
            continue;
        const double c = std::abs(turn) < 1e-12 ? 1 : std::cos(turn),
                     s = std::abs(turn) < 1e-12 ? 0 : std::sin(turn);
        const Transform map =
            Transform::move(middleA * -1).then({c, s, -s, c, 0, 0}).then(Transform::move(middleB));
        if (!lieOn(from.outline, to.outline, map, shift, tolerance))
            continue;
        if (std::all_of(from.openings.begin(), from.openings.end(),
                        [&](const Contour& one) { return lieOnAny(one, to.openings, map, tolerance); })) {
            best = map;
            least = std::abs(turn);
        }
    }
    return best;
}

} // namespace

std::optional<Transform> congruence(const Shape& from, const Shape& to, double toleranceMm) {
    if (auto map = turned(from, to, toleranceMm))
        return map;
    const Transform mirror{-1, 0, 0, 1, 0, 0};
    const auto map = turned(transformed(from, mirror), to, toleranceMm);
    return map ? std::optional(mirror.then(*map)) : std::nullopt;
}

} // namespace thinline::geometry
