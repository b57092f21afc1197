// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Fit.h"

#include "geometry/PolygonEngine.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

namespace thinline::geometry {
namespace {

using std::numbers::pi;

TEST(Fit, ACircleComesBackWithFewNodesOnItsRadius) {
    Polygon ring;
    for (int i = 0; i < 720; ++i)
        ring.push_back({50 * std::cos(i * pi / 360), 50 * std::sin(i * pi / 360)});
    const Contour fitted = fitContour(ring, {.tolerance = 0.01});
    EXPECT_LE(fitted.segments.size(), 8u);
    for (Point p : flatten(fitted, 0.001))
        EXPECT_NEAR(length(p), 50, 0.015);
}

TEST(Fit, ASquareKeepsItsCornersAndItsStraightSides) {
    Polygon ring;
    for (int side = 0; side < 4; ++side)
        for (int i = 0; i < 50; ++i)
            ring.push_back(Transform::quarterTurns(side)({-25.0 + i, -25}));
    const Contour fitted = fitContour(ring);
    ASSERT_EQ(fitted.segments.size(), 4u);
    for (const Segment& s : fitted.segments)
        EXPECT_TRUE(s.isLine);
    EXPECT_NEAR(signedArea(fitted), 2500, 1e-6);
}

TEST(Fit, EveryGivenPointLiesWithinTheTolerance) {
    // A wavy ring with two corners, sampled finely.
    Polygon ring;
    for (int i = 0; i < 2000; ++i) {
        const double a = i * pi / 1000, r = 40 + 5 * std::sin(7 * a) + (i < 1000 ? 3 : 0);
        ring.push_back({r * std::cos(a), r * std::sin(a)});
    }
    const Contour fitted = fitContour(ring, {.tolerance = 0.02});
    EXPECT_LT(fitted.segments.size(), 60u);
    const Polygon fine = flatten(fitted, 0.001);
    for (size_t i = 0; i < ring.size(); i += 37) {
        double nearest = 1e9;
        for (size_t k = 0; k < fine.size(); ++k)
            nearest = std::min(nearest, distanceToStretch(ring[i], fine[k], fine[(k + 1) % fine.size()]));
        EXPECT_LT(nearest, 0.022) << "point " << i;
    }
}

TEST(Fit, TooFewPointsGiveNothing) {
    EXPECT_TRUE(fitContour({}).segments.empty());
    EXPECT_TRUE(fitContour({{1, 1}, {1, 1}, {2, 2}, {2, 2}}).segments.empty());
}

TEST(PolygonEngine, RefusesWhatItCannotHold) {
    const double nan = std::numeric_limits<double>::quiet_NaN();
    EXPECT_EQ(grown({{{0, 0}, {nan, 1}, {1, 1}}}, 1, 0.01).error().code, base::Code::InvalidArgument);
    EXPECT_EQ(grown({{{0, 0}, {2001, 0}, {0, 2000}}}, 1, 0.01).error().code, base::Code::LimitExceeded);
    EXPECT_TRUE(grown({}, 1, 0.01)->empty());
}

TEST(PolygonEngine, SeparatesAreasWithTheirOpenings) {
    Polygons rings =
        flatten(support::withOpening(support::rectangle(0, 0, 10, 10), support::rectangle(2, 2, 3, 3)), 0.1);
    const Polygons other = flatten(support::rectangle(20, 0, 5, 5), 0.1);
    rings.push_back(other.front());
    const auto areas = separated(rings);
    ASSERT_TRUE(areas);
    ASSERT_EQ(areas->size(), 2u);
    EXPECT_EQ((*areas)[0].size() + (*areas)[1].size(), 3u);
}

} // namespace
} // namespace thinline::geometry
