// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Shape.h"

#include "support/Shapes.h"

#include <gtest/gtest.h>

#include <random>

namespace thinline::geometry {
namespace {

using std::numbers::pi;
using support::disc;
using support::rectangle;

TEST(Shape, RectanglesMeasureByArithmetic) {
    const Shape frame = support::withOpening(rectangle(10, 20, 30, 40), rectangle(15, 25, 10, 10));
    EXPECT_DOUBLE_EQ(area(frame), 30 * 40 - 100);
    EXPECT_DOUBLE_EQ(cutLength(frame), 140 + 40);
    EXPECT_EQ(bounds(frame), (Box{{10, 20}, {40, 60}}));
    EXPECT_EQ(nodeCount(frame), 8);
}

TEST(Shape, DiscOfFourCubicsIsADiscWithinItsKnownError) {
    // The four-cubic circle strays outwards by at most 0.0273 % of the radius (from memory).
    const Shape d = disc({100, 50}, 20);
    EXPECT_NEAR(area(d), pi * 400, pi * 400 * 0.0006);
    EXPECT_NEAR(cutLength(d), 2 * pi * 20, 2 * pi * 20 * 0.0003);
    const Box box = bounds(d);
    EXPECT_NEAR(box.width(), 40, 1e-9);
    EXPECT_NEAR(box.least.x, 80, 1e-9);
}

TEST(Shape, ClosedFormsAgreeWithTheFlattenedCopyOnRandomCurves) {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> place(-50, 50);
    for (int round = 0; round < 200; ++round) {
        Contour c;
        c.start = {place(random), place(random)};
        for (int i = 0; i < 5; ++i)
            c.segments.push_back(Segment::curve({place(random), place(random)},
                                                {place(random), place(random)},
                                                {place(random), place(random)}));
        c.segments.back().end = c.start;
        const Polygon fine = flatten(c, 1e-4);
        EXPECT_NEAR(signedArea(c), signedArea(fine), 0.1);
        EXPECT_NEAR(signedArea(reversed(c)), -signedArea(c), 1e-9);
        const Box exact = bounds(c), sampled = bounds(Polygons{fine});
        EXPECT_NEAR(exact.least.x, sampled.least.x, 1e-3);
        EXPECT_NEAR(exact.most.y, sampled.most.y, 1e-3);
        EXPECT_LE(exact.least.x, sampled.least.x + 1e-9);
        EXPECT_GE(exact.most.y, sampled.most.y - 1e-9);
    }
}

TEST(Shape, FlatteningKeepsWithinItsTolerance) {
    const Shape d = disc({0, 0}, 100);
    for (double tolerance : {1.0, 0.1, 0.01})
        for (Point p : flatten(d.outline, tolerance))
            EXPECT_NEAR(length(p), 100, 0.03);
    EXPECT_LT(flatten(d.outline, 1.0).size(), flatten(d.outline, 0.01).size());
}

TEST(Shape, MirroringKeepsTheOrientationRule) {
    const Shape mirrored =
        transformed(support::withOpening(disc({5, 5}, 4), disc({5, 5}, 2)), Transform::scale(-1, 1));
    EXPECT_GT(signedArea(mirrored.outline), 0);
    EXPECT_LT(signedArea(mirrored.openings.front()), 0);
    EXPECT_NEAR(bounds(mirrored).least.x, -9, 1e-9);
}

TEST(Shape, NothingHasNoSize) {
    EXPECT_EQ(area(Shape{}), 0);
    EXPECT_TRUE(bounds(Shape{}).isEmpty());
    EXPECT_TRUE(flatten(Contour{}, 0.1).empty());
    EXPECT_TRUE(contourThrough({{1, 1}, {2, 2}}).segments.empty());
}

TEST(Shape, PointInsideIsInsideEvenForARing) {
    const Shape ring = support::withOpening(disc({0, 0}, 10), disc({0, 0}, 9));
    const Point p = pointInside(ring);
    EXPECT_TRUE(contains(flatten(ring, 0.01), p));
    EXPECT_FALSE(contains(flatten(ring, 0.01), {0, 0}));
}

TEST(Transform, QuarterTurnsAreClockwiseOnScreen) {
    EXPECT_EQ(Transform::quarterTurns(1)({1, 0}), (Point{0, 1}));
    EXPECT_EQ(Transform::quarterTurns(-1)({1, 0}), (Point{0, -1}));
    EXPECT_EQ(Transform::move({3, 4}).then(Transform::scale(2, 2))({1, 1}), (Point{8, 10}));
}

} // namespace
} // namespace thinline::geometry
