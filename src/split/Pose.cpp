// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "split/Pose.h"

#include "geometry/Measures.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace thinline::split {
namespace {

using geometry::Point;
using geometry::Polygon;
constexpr double kPi = std::numbers::pi;
constexpr int kTurns =
    60; ///< even steps in a quarter; the other quarter is the same with the sides exchanged

Extents extentsAlong(const Polygon& points, double cos, double sin) {
    Extents out{1e300, -1e300, 1e300, -1e300};
    for (const Point p : points) {
        const double x = p.x * cos + p.y * sin, y = p.y * cos - p.x * sin;
        out.leastX = std::min(out.leastX, x);
        out.mostX = std::max(out.mostX, x);
        out.leastY = std::min(out.leastY, y);
        out.mostY = std::max(out.mostY, y);
    }
    return out;
}

double tooLong(const Extents& extents, const Room& room) {
    const double w = extents.width(), h = extents.height();
    return std::min(std::max(w - room.widthMm, h - room.heightMm),
                    std::max(w - room.heightMm, h - room.widthMm));
}

} // namespace

Pose Pose::at(Point centre, double turnRad, double widthMm, double heightMm) {
    return {centre, std::cos(turnRad), std::sin(turnRad), widthMm / 2, heightMm / 2};
}

Extents extentsOf(const Polygon& points, double turnRad) {
    return extentsAlong(points, std::cos(turnRad), std::sin(turnRad));
}

std::vector<double> turnsFor(const Polygon& hull) {
    std::vector<double> out;
    for (int i = 0; i < 2 * kTurns; ++i)
        out.push_back(i * kPi / 2 / kTurns);
    for (size_t i = 0; i < hull.size(); ++i) {
        const Point side = hull[(i + 1) % hull.size()] - hull[i];
        const double turn = std::fmod(std::atan2(side.y, side.x) + 2 * kPi, kPi);
        out.push_back(turn);
        out.push_back(std::fmod(turn + kPi / 2, kPi));
    }
    return out;
}

bool fits(const Polygon& hull, const Room& room) {
    static const std::array<std::pair<double, double>, kTurns> kEven = [] {
        std::array<std::pair<double, double>, kTurns> out;
        for (int i = 0; i < kTurns; ++i)
            out[static_cast<size_t>(i)] = {std::cos(i * kPi / 2 / kTurns), std::sin(i * kPi / 2 / kTurns)};
        return out;
    }();
    const double diagonal = std::hypot(room.widthMm, room.heightMm);
    for (size_t i = 0; i < kTurns; i += kTurns / 6) { // too long one way, it fits no way
        const Extents extents = extentsAlong(hull, kEven[i].first, kEven[i].second);
        if (std::max(extents.width(), extents.height()) > diagonal)
            return false;
    }
    for (const auto& [cos, sin] : kEven)
        if (tooLong(extentsAlong(hull, cos, sin), room) <= 0)
            return true;
    for (size_t i = 0; i < hull.size(); ++i) {
        const Point side = geometry::direction(hull[(i + 1) % hull.size()] - hull[i]);
        if (tooLong(extentsAlong(hull, side.x, side.y), room) <= 0)
            return true;
    }
    return false;
}

Fit fitOf(const geometry::Shape& shape, const Room& room, double inHandMm) {
    const Polygon hull = geometry::convexHull(geometry::flatten(shape.outline, 0.01));
    const Room within{room.widthMm - inHandMm, room.heightMm - inHandMm};
    Fit best{false, 1e300};
    for (const double turn : turnsFor(hull)) {
        const Extents extents = extentsOf(hull, turn);
        const double over = std::max(extents.width() - within.widthMm, extents.height() - within.heightMm);
        if (over < best.tooLongMm)
            best = {over <= 0, over};
    }
    // Between those turns there may be one that fits by a hair.
    constexpr double kHairMm = 1;
    if (!best.isFitting && best.tooLongMm < kHairMm &&
        geometry::bestTurn({shape}, within.widthMm, within.heightMm).scale >= 1)
        return {true, 0};
    best.tooLongMm = std::max(0.0, best.tooLongMm);
    return best;
}

} // namespace thinline::split
