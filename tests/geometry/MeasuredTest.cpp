// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Measured.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>

namespace thinline::geometry {
namespace {

using std::numbers::pi;

/// Points about one apart along a ring of corners, the corners themselves cut short as blur cuts them.
Polygon along(const Polygon& corners, double noise = 0, unsigned seed = 1) {
    std::mt19937 random(seed);
    std::normal_distribution<double> off(0, noise > 0 ? noise : 1e-9);
    Polygon out;
    for (size_t i = 0; i < corners.size(); ++i) {
        const Point a = corners[i], b = corners[(i + 1) % corners.size()];
        const double length = distance(a, b);
        const Point step = direction(b - a), across{-step.y, step.x};
        for (double s = 0.6; s < length - 0.3; s += 1)
            out.push_back(a + step * s + across * off(random));
    }
    return out;
}

Polygon circle(double radius, double noise, unsigned seed) {
    std::mt19937 random(seed);
    std::normal_distribution<double> off(0, noise);
    Polygon out;
    const int n = static_cast<int>(2 * pi * radius);
    for (int i = 0; i < n; ++i) {
        const double a = 2 * pi * i / n, r = radius + off(random);
        out.push_back({100 + r * std::cos(a), 100 + r * std::sin(a)});
    }
    return out;
}

TEST(Measured, ARotatedSquareIsFourStraightSides) {
    const Polygon corners = {{20, 40}, {110, 20}, {130, 110}, {40, 130}};
    for (double noise : {0.0, 0.06}) {
        const Contour ring = fitMeasuredRing(along(corners, noise));
        ASSERT_EQ(ring.segments.size(), 4u) << noise;
        for (const Segment& s : ring.segments) {
            EXPECT_TRUE(s.isLine);
            double least = 1e9;
            for (const Point c : corners)
                least = std::min(least, distance(c, s.end));
            EXPECT_LT(least, noise > 0 ? 0.15 : 0.01);
        }
    }
}

TEST(Measured, ASharpTipComesBackToItsPoint) {
    // A wedge of 20 degrees whose last three points before the tip are gone: blur eats a tip.
    const Point tip{10, 50};
    const double half = pi / 18;
    Polygon points;
    for (double s = 3; s < 120; s += 1)
        points.push_back(tip + Point{std::cos(half), -std::sin(half)} * s);
    const Point top = points.back(), bottom{top.x, 100 - top.y};
    for (double y = top.y + 1; y < bottom.y; y += 1)
        points.push_back({top.x, y});
    for (double s = 119; s > 2.5; s -= 1)
        points.push_back(tip + Point{std::cos(half), std::sin(half)} * s);
    const auto corners = measuredCorners(points, true);
    ASSERT_EQ(corners.size(), 3u);
    double least = 1e9;
    for (const MeasuredCorner& c : corners)
        least = std::min(least, distance(c.place, tip));
    EXPECT_LT(least, 0.2);
}

TEST(Measured, CirclesHaveNoCornersAndFewNodes) {
    for (double radius : {5.0, 12.0, 60.0})
        for (double noise : {0.01, 0.06}) {
            const Polygon points = circle(radius, noise, 7);
            EXPECT_TRUE(measuredCorners(points, true).empty()) << radius;
            const Contour ring = fitMeasuredRing(points);
            EXPECT_LE(ring.segments.size(), 8u) << radius;
            for (const Point p : flatten(ring, 0.01))
                EXPECT_NEAR(distance(p, {100, 100}), radius, noise > 0.05 ? 0.25 : 0.12) << radius;
        }
}

TEST(Measured, ASmallRingIsACircleOnlyWhenItIsRound) {
    const auto ring = [](auto radiusAt, double noise, unsigned seed) {
        std::mt19937 random(seed);
        std::normal_distribution<double> off(0, noise > 0 ? noise : 1e-9);
        Polygon out;
        const int n = static_cast<int>(2 * pi * radiusAt(0.0));
        for (int i = 0; i < n; ++i) {
            const double turn = 2 * pi * i / n, r = radiusAt(turn) + off(random);
            out.push_back({50.3 + r * std::cos(turn), 60.7 + r * std::sin(turn)});
        }
        return out;
    };
    const auto worstFrom = [](const Contour& contour, double radius) {
        double worst = 0;
        for (const Point p : flatten(contour, 0.001))
            worst = std::max(worst, std::abs(distance(p, {50.3, 60.7}) - radius));
        return worst;
    };
    for (const double radius : {4.0, 6.0, 8.0, 15.0, 40.0}) {
        for (const double noise : {0.0, 0.06}) {
            const Contour round = fitMeasuredRing(ring([&](double) { return radius; }, noise, 7));
            EXPECT_EQ(round.segments.size(), 4u) << radius << " " << noise;
            EXPECT_LT(worstFrom(round, radius), noise > 0 ? 0.06 : 0.01 + 0.0003 * radius) << radius << " " << noise;
        }
        // Longer one way by three hundredths, three-cornered, four-cornered: each is told from a circle.
        for (const int times : {2, 3, 4}) {
            const double by = std::max(0.12, 0.015 * radius);
            const auto bent = [&](double turn) { return radius + by * std::cos(times * turn); };
            const Contour other = fitMeasuredRing(ring(bent, 0, 1));
            EXPECT_GT(worstFrom(other, radius), 0.6 * by) << radius << ": " << times << " times around";
        }
    }
    // It runs as the points do.
    Polygon backwards = circle(8, 0, 1);
    EXPECT_GT(signedArea(fitMeasuredRing(backwards)), 0);
    std::reverse(backwards.begin(), backwards.end());
    EXPECT_LT(signedArea(fitMeasuredRing(backwards)), 0);
}

TEST(Measured, ARoundedCornerIsNone) {
    // A quarter of radius 8 between two straight sides.
    Polygon points;
    for (double x = 0; x < 50; x += 1)
        points.push_back({x, 0});
    for (double a = 0.06; a < pi / 2; a += 1.0 / 8)
        points.push_back({50 + 8 * std::sin(a), 8 - 8 * std::cos(a)});
    for (double y = 8.5; y < 60; y += 1)
        points.push_back({58, y});
    EXPECT_TRUE(measuredCorners(points, false).empty());
    EXPECT_FALSE(measuredCorners(along({{0, 0}, {58, 0}, {58, 60}, {0, 60}}), true).empty());
}

TEST(Measured, SmoothnessRoundsCornersAtItsEnd) {
    const Polygon square = along({{20, 40}, {110, 20}, {130, 110}, {40, 130}});
    EXPECT_EQ(measuredCorners(square, true, {.smoothness = 0}).size(), 4u);
    EXPECT_TRUE(measuredCorners(square, true, {.smoothness = 1.3}).empty());
}

TEST(Measured, AnOpenLineKeepsItsEnds) {
    Polygon points;
    for (double x = 1; x < 40; x += 1)
        points.push_back({x, 5 * std::sin(x / 12)});
    const Contour line =
        fitMeasuredLine(points, {{0, 0}, {}, true}, {{41, 5 * std::sin(41 / 12.0)}, {}, true});
    EXPECT_EQ(line.start, (Point{0, 0}));
    EXPECT_EQ(line.segments.back().end, (Point{41, 5 * std::sin(41 / 12.0)}));
    EXPECT_LE(line.segments.size(), 3u);
    EXPECT_EQ(fitMeasuredLine({{1, 1}}, {{0, 0}, {}}, {{2, 2}, {}}).segments.size(), 1u);
    EXPECT_TRUE(fitMeasuredRing({{0, 0}, {1, 0}, {1, 1}}).segments.empty());
}

} // namespace
} // namespace thinline::geometry
