// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Triangulation.h"

#include <gtest/gtest.h>

#include <atomic>
#include <cmath>
#include <numbers>
#include <random>

namespace thinline::geometry {
namespace {

Polygon wavyRing(Point centre, double radius, int points, double wave, bool isOpening) {
    Polygon out;
    for (int i = 0; i < points; ++i) {
        const double a = 2 * std::numbers::pi * (isOpening ? -i : i) / points,
                     r = radius + wave * std::sin(7 * a);
        out.push_back(centre + Point{r * std::cos(a), r * std::sin(a)});
    }
    return out;
}

struct Seen {
    double area = 0;
    int turnedOver = 0;
    size_t triangles = 0;
};
Seen seenOf(const Triangulation& triangulation, const Polygons& rings, const Polygon& loose) {
    Polygon all;
    for (const Polygon& ring : rings)
        all.insert(all.end(), ring.begin(), ring.end());
    all.insert(all.end(), loose.begin(), loose.end());
    Seen out;
    for (const auto& triangle : triangulation.triangles) {
        const auto at = [&](size_t k) { return all[static_cast<size_t>(triangle.corner[k])]; };
        const double area = cross(at(1) - at(0), at(2) - at(0)) / 2;
        out.area += area;
        out.turnedOver += area < -1e-3 ? 1 : 0;
        ++out.triangles;
        for (size_t k = 0; k < 3; ++k)
            if (const int other = triangle.across[k]; other >= 0) {
                const auto& back = triangulation.triangles[static_cast<size_t>(other)].across;
                EXPECT_TRUE(std::find(back.begin(), back.end(), &triangle - triangulation.triangles.data()) !=
                            back.end());
            }
    }
    return out;
}

TEST(Triangulation, FillsTheAreaBetweenRingsWithAsManyTrianglesAsEulerCounts) {
    for (const int points : {8, 60, 700}) {
        // The square's samples lie on straight lines: no triangle is turned over by them.
        Polygon square;
        for (int i = 0; i < 40; ++i)
            square.push_back({-60, 20 - 0.5 * i});
        for (int i = 0; i < 40; ++i)
            square.push_back({-60 + 0.5 * i, 0});
        square.push_back({-40, 20});
        const Polygons rings{wavyRing({0, 0}, 100, points, 12, false),
                             wavyRing({30, 0}, 25, points / 2, 2, true), square};
        Polygon loose;
        for (int x = -90; x <= 90; x += 9)
            for (int y = -90; y <= 90; y += 9)
                if (const Point p{x + 0.3, y + 0.1}; contains(rings, p))
                    loose.push_back(p);
        const auto made = triangulated(rings, loose);
        ASSERT_TRUE(made);
        const Seen seen = seenOf(*made, rings, loose);
        const double want =
            std::abs(signedArea(rings[0])) - std::abs(signedArea(rings[1])) - std::abs(signedArea(square));
        EXPECT_NEAR(seen.area, want, 1e-6 * want);
        EXPECT_EQ(seen.turnedOver, 0);
        size_t onRings = 0;
        for (const Polygon& ring : rings)
            onRings += ring.size();
        EXPECT_EQ(seen.triangles, onRings + 2 * loose.size() - 2 + 2 * 2); // two openings
    }
}

TEST(Triangulation, WithoutFixedSidesNoCircleHoldsAnotherPoint) {
    std::mt19937 random(3);
    Polygon loose;
    for (int i = 0; i < 150; ++i)
        loose.push_back({10 + static_cast<double>(random() % 8000) / 100,
                         10 + static_cast<double>(random() % 8000) / 100});
    const Polygons rings{{{0, 0}, {100, 0}, {100, 100}, {0, 100}}};
    const auto made = triangulated(rings, loose);
    ASSERT_TRUE(made);
    Polygon all = rings[0];
    all.insert(all.end(), loose.begin(), loose.end());
    for (const auto& triangle : made->triangles) {
        const Point a = all[static_cast<size_t>(triangle.corner[0])],
                    b = all[static_cast<size_t>(triangle.corner[1])],
                    c = all[static_cast<size_t>(triangle.corner[2])];
        const double d = 2 * cross(b - a, c - a);
        const Point ab = b - a, ac = c - a;
        const Point middle =
            a +
            Point{ac.y * dot(ab, ab) - ab.y * dot(ac, ac), ab.x * dot(ac, ac) - ac.x * dot(ab, ab)} * (1 / d);
        for (const Point p : all)
            EXPECT_GT(distance(p, middle), distance(a, middle) - 1e-3);
    }
}

TEST(Triangulation, OfNothingIsNothingAndOfTooMuchIsRefused) {
    EXPECT_TRUE(triangulated({})->triangles.empty());
    EXPECT_TRUE(triangulated({{{0, 0}, {1, 1}}})->triangles.empty());
    EXPECT_EQ(triangulated({wavyRing({0, 0}, 1e4, 200'001, 3, false)}).error().code,
              base::Code::LimitExceeded);
    const std::atomic<bool> stop{true};
    EXPECT_EQ(triangulated({wavyRing({0, 0}, 100, 2000, 3, false)}, {}, base::Progress(&stop, nullptr))
                  .error()
                  .code,
              base::Code::Cancelled);
}

TEST(Triangulation, RingsThatTouchOrCrossEndInBoundedTime) {
    const Polygon a{{0, 0}, {50, 0}, {50, 50}, {0, 50}}, touching{{50, 50}, {80, 50}, {80, 80}, {50, 80}},
        crossing{{25, 25}, {90, 30}, {25, 90}};
    EXPECT_TRUE(triangulated({a, touching}));
    EXPECT_TRUE(triangulated({a, crossing}));
    EXPECT_TRUE(triangulated({a, a}));
}

} // namespace
} // namespace thinline::geometry
