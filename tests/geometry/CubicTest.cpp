// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Cubic.h"

#include <gtest/gtest.h>

#include <numbers>
#include <random>

namespace thinline::geometry {
namespace {

Cubic randomCurve(std::mt19937& random) {
    const auto point = [&] {
        const double x = random() % 1000 * 0.06, y = random() % 1000 * 0.06;
        return Point{x, y};
    };
    const Point a = point(), b = point(), c = point();
    return {a, b, c, point()};
}

TEST(Cubic, AStretchIsTheSameCurveBetweenItsEnds) {
    std::mt19937 random(1);
    for (int i = 0; i < 50; ++i) {
        const Cubic k = randomCurve(random);
        for (const auto& [t0, t1] : {std::pair{0.0, 1.0}, {0.2, 0.7}, {0.9, 0.1}, {0.5, 0.5}}) {
            const Cubic part = stretch(k, t0, t1);
            for (double s : {0.0, 0.25, 0.6, 1.0})
                EXPECT_LT(distance(part.at(s), k.at(t0 + (t1 - t0) * s)), 1e-11);
        }
        EXPECT_LT(distance(k.reversed().at(0.3), k.at(0.7)), 1e-12);
    }
}

TEST(Cubic, SpeedAndBendAreTheDerivatives) {
    std::mt19937 random(2);
    for (int i = 0; i < 50; ++i) {
        const Cubic k = randomCurve(random);
        const double h = 1e-5;
        for (double t : {0.1, 0.5, 0.9}) {
            EXPECT_LT(distance(k.speed(t), (k.at(t + h) - k.at(t - h)) * (1 / (2 * h))), 1e-5);
            EXPECT_LT(distance(k.bend(t), (k.speed(t + h) - k.speed(t - h)) * (1 / (2 * h))), 1e-4);
            EXPECT_LE(length(k.bend(t)), k.largestBend() * (1 + 1e-12));
        }
    }
}

TEST(Cubic, BetweenTurningPointsItIsMonotone) {
    std::mt19937 random(3);
    for (int i = 0; i < 200; ++i) {
        const Cubic k = randomCurve(random);
        std::vector<double> cuts = turningPoints(k);
        EXPECT_LE(cuts.size(), 4u);
        cuts.insert(cuts.begin(), 0);
        cuts.push_back(1);
        for (size_t c = 0; c + 1 < cuts.size(); ++c) {
            const Point a = k.at(cuts[c]), b = k.at(cuts[c + 1]);
            Point last = a;
            for (int s = 1; s <= 20; ++s) {
                const Point p = k.at(cuts[c] + (cuts[c + 1] - cuts[c]) * s / 20);
                EXPECT_GE((p.x - last.x) * (b.x - a.x), -1e-9);
                EXPECT_GE((p.y - last.y) * (b.y - a.y), -1e-9);
                last = p;
            }
        }
    }
}

TEST(Cubic, RootsAreFoundInEveryDegree) {
    const struct {
        double q2, q1, q0;
        std::vector<double> roots;
    } rows[] = {
        {1, -0.8, 0.15, {0.3, 0.5}},
        {0, 2, -1, {0.5}},
        {1, 0, 1, {}},
        {0, 0, 1, {}},
        {1, -2, 1, {}},
        /* 1 twice: an end */ {1, 0.5, -0.5, {0.5}},
        {1e-20, 2, -1, {0.5}},
    };
    for (const auto& row : rows) {
        const auto found = rootsInside(row.q2, row.q1, row.q0);
        ASSERT_EQ(found.size(), row.roots.size()) << row.q2 << " " << row.q1 << " " << row.q0;
        for (size_t i = 0; i < found.size(); ++i)
            EXPECT_NEAR(found[i], row.roots[i], 1e-12);
    }
}

TEST(Cubic, TheNearestPlaceIsNearerThanEverySample) {
    std::mt19937 random(4);
    for (int i = 0; i < 200; ++i) {
        const Cubic k = randomCurve(random);
        const double x = random() % 1000 * 0.07 - 5, y = random() % 1000 * 0.07 - 5;
        const Foot foot = nearest(k, {x, y});
        EXPECT_NEAR(distance(k.at(foot.t), {x, y}), foot.distance, 1e-12);
        for (int s = 0; s <= 500; ++s)
            EXPECT_LE(foot.distance, distance(k.at(s / 500.0), {x, y}) + 1e-9);
    }
    // A cusp: the nearest place lies behind it, where nothing but a wide search looks.
    const Cubic cusp{{0, 0}, {40, 30}, {0, 30}, {40, 0}};
    EXPECT_LT(nearest(cusp, cusp.at(0.52)).distance, 1e-9);
}

TEST(Cubic, LengthAndCurvatureOfAnArc) {
    // A quarter of a circle of radius 10 as one cubic: 0.03 % off its radius.
    const double h = 10 * 0.5522847498307936;
    const Cubic arc{{10, 0}, {10, h}, {h, 10}, {0, 10}};
    EXPECT_NEAR(curveLength(arc), 5 * std::numbers::pi, 0.003);
    EXPECT_NEAR(curveLength(arc, 0, 0.5) + curveLength(arc, 0.5, 1), curveLength(arc), 1e-9);
    EXPECT_NEAR(curvatureAt(arc, 0.5), 0.1, 0.001); // turns clockwise on screen
    EXPECT_NEAR(curvatureAt(arc.reversed(), 0.5), -0.1, 0.001);
    EXPECT_EQ(curvatureAt(Cubic::line({0, 0}, {5, 5}), 0.3), 0);
}

TEST(Cubic, DirectionsAreKnownWhereTheCurveStandsStill) {
    const Cubic noHandle{{0, 0}, {0, 0}, {10, 5}, {10, 5}};
    EXPECT_LT(distance(directionAt(noHandle, 0), direction({10, 5})), 1e-9);
    EXPECT_LT(distance(directionAt(noHandle, 1), direction({10, 5})), 1e-9);
    EXPECT_EQ(directionAt({{1, 1}, {1, 1}, {1, 1}, {1, 1}}, 0), (Point{0, 0}));
}

} // namespace
} // namespace thinline::geometry
