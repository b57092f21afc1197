// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Fit.h"

#include "geometry/Cubic.h"
#include "geometry/PolygonEngine.h"
#include "support/Loops.h"

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

TEST(FitLine, KeepsItsEndsAndItsCorner) {
    Polygon points;
    for (int i = 0; i <= 100; ++i)
        points.push_back({i * 0.3, 8 * std::sin(i * 0.05)});
    for (int i = 1; i <= 50; ++i)
        points.push_back({30, points[100].y + i * 0.2});
    const Contour line = fitLine(points, {.tolerance = 0.01});
    EXPECT_EQ(line.start, points.front());
    EXPECT_EQ(line.segments.back().end, points.back());
    EXPECT_LE(line.segments.size(), 10u);
    EXPECT_TRUE(line.segments.back().isLine);
    EXPECT_TRUE(fitLine({{1, 1}}).segments.empty());
}

TEST(Reduced, FewerCurvesWithinTheToleranceCornersKept) {
    // A disc cut into 64 curves, and a square whose sides are cut into many.
    const Shape round = support::disc({0, 0}, 30);
    Contour many{round.outline.start, {}};
    eachCurve(round.outline, [&](const Cubic& k, const Segment&) {
        for (int i = 0; i < 16; ++i) {
            const Cubic part = stretch(k, i / 16.0, (i + 1) / 16.0);
            many.segments.push_back(Segment::curve(part.b, part.c, part.d));
        }
    });
    const Cleaned few = reduced(many, {.tolerance = 0.01});
    EXPECT_LE(few.contour.segments.size(), 10u);
    EXPECT_LE(few.strayMm, 0.012);
    Polygon sides;
    for (int side = 0; side < 4; ++side)
        for (int i = 0; i < 10; ++i)
            sides.push_back(Transform::quarterTurns(side)({-25.0 + i * 5, -25}));
    const Cleaned square = reduced(contourThrough(sides), {.tolerance = 0.01});
    EXPECT_EQ(square.contour.segments.size(), 4u);
    EXPECT_NEAR(signedArea(square.contour), 2500, 1e-6);
    // Nothing to gain: the very same outline.
    EXPECT_EQ(reduced(round.outline, {.tolerance = 0.001}).contour, round.outline);
}

TEST(Smoothed, TakesJitterAndLeavesCornersAlone) {
    std::mt19937 random(9);
    Polygon jittery;
    for (int side = 0; side < 4; ++side)
        for (int i = 0; i < 200; ++i) {
            const double off = i == 0 ? 0 : (random() % 100 - 49.5) * 0.001;
            jittery.push_back(Transform::quarterTurns(side)({-25.0 + i * 0.25, -25 + off}));
        }
    const Cleaned calm = smoothed(contourThrough(jittery), 2);
    EXPECT_LT(calm.strayMm, 0.5);
    EXPECT_LT(calm.contour.segments.size(), 60u);
    EXPECT_NEAR(signedArea(calm.contour), 2500, 12);
    for (Point corner : {Point{-25, -25}, Point{25, -25}, Point{25, 25}, Point{-25, 25}}) {
        double least = 1e9;
        for (const Segment& s : calm.contour.segments)
            least = std::min(least, distance(s.end, corner));
        EXPECT_LT(least, 0.4);
    }
}

TEST(WithoutNicks, NicksAndSpikesGoRealCornersStay) {
    const Contour nicked = contourThrough({{0, 0},
                                           {20, 0},
                                           {20.2, 0.8},
                                           {20.4, 0},
                                           {40, 0},
                                           {40, 12},
                                           {40.7, 12.1},
                                           {40, 12.2},
                                           {40, 30},
                                           {0, 30}});
    const Cleaned clean = withoutNicks(nicked, 1);
    EXPECT_NEAR(signedArea(clean.contour), 1200, 0.05);
    EXPECT_LT(clean.contour.segments.size(), nicked.segments.size());
    EXPECT_NEAR(clean.strayMm, 0.8, 0.1);
    const Contour sound = contourThrough({{0, 0}, {40, 0}, {40, 30}, {0, 30}});
    EXPECT_EQ(withoutNicks(sound, 1).contour, sound);
    // A notch larger than the size is meant.
    const Contour notch = contourThrough({{0, 0}, {18, 0}, {20, 4}, {22, 0}, {40, 0}, {40, 30}, {0, 30}});
    EXPECT_EQ(withoutNicks(notch, 1).contour, notch);
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
