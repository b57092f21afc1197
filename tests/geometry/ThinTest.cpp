// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Thin.h"

#include "support/Shapes.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

namespace thinline::geometry {
namespace {

Contour ringOf(int steps, double radius) {
    const auto at = [&](int i) {
        const double turn = 2 * std::numbers::pi * i / steps;
        return Point{radius * std::cos(turn), radius * std::sin(turn)};
    };
    Contour out{at(0), {}};
    for (int i = 1; i <= steps; ++i)
        out.segments.push_back(Segment::line(i == steps ? at(0) : at(i)));
    return out;
}

/// How far the points of a contour lie from another one, at most.
double stray(const Contour& from, const Contour& to) {
    double worst = 0;
    for (const Segment& s : from.segments) {
        double least = 1e9;
        Point a = to.start;
        for (const Segment& t : to.segments) {
            least = std::min(least, distanceToStretch(s.end, a, t.end));
            a = t.end;
        }
        worst = std::max(worst, least);
    }
    return worst;
}

TEST(Thinned, KeepsWithinTheToleranceWithFarFewerSteps) {
    const Contour ring = ringOf(20'000, 90);
    const Contour thin = thinned(ring, 0.00025);
    EXPECT_LT(thin.segments.size(), 2000u);
    EXPECT_GT(thin.segments.size(), 1000u) << "a chord of 0.42 mm strays by the tolerance";
    EXPECT_LE(stray(ring, thin), 0.00025 * 1.001);
    EXPECT_EQ(thin.start, ring.start);
    EXPECT_EQ(thin.segments.back().end, ring.start);
}

TEST(Thinned, RandomWalksToo) {
    std::mt19937 chance(5);
    std::uniform_real_distribution<double> step(-0.1, 0.1);
    for (int round = 0; round < 50; ++round) {
        Contour walk{{0, 0}, {}};
        Point at;
        for (int i = 0; i < 400; ++i) {
            at = at + Point{step(chance) * (i % 50 == 0 ? 100 : 0.2) + 0.01, step(chance) * 0.1};
            walk.segments.push_back(Segment::line(at));
        }
        for (const double tolerance : {0.001, 0.02, 0.3})
            EXPECT_LE(stray(walk, thinned(walk, tolerance)), tolerance * 1.001);
    }
}

TEST(Thinned, CornersAndCurvesStay) {
    const Contour square = support::rectangle(0, 0, 10, 10).outline;
    EXPECT_EQ(thinned(square, 0.01), square);
    const Contour disc = support::disc({0, 0}, 10).outline;
    EXPECT_EQ(thinned(disc, 0.01), disc);
    const Contour spike{
        {0, 0},
        {Segment::line({10, 0}), Segment::line({5, 0}), Segment::line({0, 5}), Segment::line({0, 0})}};
    EXPECT_EQ(thinned(spike, 0.01).segments[0].end, (Point{10, 0}))
        << "what turns back reaches as far as it did";
}

} // namespace
} // namespace thinline::geometry
