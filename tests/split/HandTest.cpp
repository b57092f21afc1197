// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "split/Hand.h"

#include "geometry/Measures.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

namespace thinline::split {
namespace {

using geometry::Line;
using geometry::Point;
using geometry::Segment;

Line straight(Point a, Point b) {
    return {a, {Segment::line(b)}};
}
const geometry::Shape kPlate = support::rectangle(0, 0, 400, 90);

size_t partsBy(const Lines& seams, const geometry::Shape& shape = kPlate) {
    return dividedBy({shape}, seams).take().parts.size();
}

TEST(Hand, AnEndOnTheEdgeStaysOnIt) {
    const Laid laid = movedAt({straight({100, 0}, {100, 90})}, {100, 0}, {160, 25}, kPlate);
    ASSERT_EQ(laid.seams.size(), 1U);
    EXPECT_NEAR(geometry::distance(laid.seams[0].start, {160, 0}), 0, 1e-9);
    EXPECT_EQ(partsBy(laid.seams), 2U);
}

TEST(Hand, WhatMeetsAtOnePointMovesTogether) {
    const Lines star{straight({200, 45}, {200, 0}), straight({200, 45}, {0, 45}),
                     straight({200, 45}, {400, 45})};
    ASSERT_EQ(partsBy(star), 3U);
    const Laid laid = movedAt(star, {200, 45}, {220, 50}, kPlate);
    ASSERT_EQ(laid.seams.size(), 3U);
    for (const Line& seam : laid.seams)
        EXPECT_NEAR(geometry::distance(seam.start, {220, 50}), 0, 1e-9);
    EXPECT_EQ(partsBy(laid.seams), 3U);
}

TEST(Hand, ABendComesWhereTheSeamIsPulled) {
    const Laid laid = bentAt({straight({100, 0}, {100, 90})}, 0, {120, 40});
    ASSERT_EQ(laid.seams[0].segments.size(), 2U);
    EXPECT_EQ(laid.seams[0].segments[0].end, (Point{120, 40}));
    EXPECT_EQ(laid.from, std::vector<int>{0});
}

TEST(Hand, ASeamThatCrossesAnotherCutsBoth) {
    const auto laid = withSeam({straight({100, 0}, {100, 90})}, {1, 44}, {399, 46}, kPlate, 6);
    ASSERT_TRUE(laid);
    EXPECT_EQ(laid->seams.size(), 4U);
    EXPECT_EQ(partsBy(laid->seams), 4U);
    EXPECT_EQ(std::count(laid->from.begin(), laid->from.end(), 0), 2);
    EXPECT_EQ(std::count(laid->from.begin(), laid->from.end(), -1), 2);
    // Every one of them has a part on either side.
    const Division division = dividedBy({kPlate}, laid->seams).take();
    for (size_t i = 0; i < division.seams.size(); ++i)
        EXPECT_TRUE(partsAt(division, i)) << i;
}

TEST(Hand, AnEndNearAnotherSeamEndsOnIt) {
    const auto laid = withSeam({straight({100, 0}, {100, 90})}, {103, 45}, {398, 45}, kPlate, 6);
    ASSERT_TRUE(laid);
    EXPECT_EQ(laid->seams.size(), 3U);
    EXPECT_EQ(partsBy(laid->seams), 3U);
}

TEST(Hand, ASeamFollowsTheEdgeOfWhatLiesAbove) {
    const geometry::Shape disc = support::disc({200, 0}, 60);
    const auto laid = withSeam({}, {141, 2}, {259, 2}, kPlate, 6, {disc});
    ASSERT_TRUE(laid);
    ASSERT_EQ(laid->seams.size(), 1U);
    for (double along = 5; along < geometry::contourLength(laid->seams[0]); along += 10)
        EXPECT_NEAR(
            geometry::distance(geometry::endOf(geometry::stretchOfLine(laid->seams[0], 0, along)), {200, 0}),
            60, 0.1);
}

TEST(Hand, WhatIsNoSeamIsRefused) {
    EXPECT_FALSE(withSeam({}, {50, 45}, {50, 45.1}, kPlate, 0.01));
    EXPECT_FALSE(withSeam({}, {50, 200}, {90, 210}, kPlate, 6));
}

TEST(Hand, WhereASeamIsTakenOutTheOthersBecomeOneAgain) {
    const Lines star{straight({200, 0}, {200, 45}), straight({200, 45}, {200, 90}),
                     straight({0, 45}, {200, 45})};
    ASSERT_EQ(partsBy(star), 3U);
    const Laid laid = withoutSeam(star, 2);
    ASSERT_EQ(laid.seams.size(), 1U);
    EXPECT_NEAR(geometry::contourLength(laid.seams[0]), 90, 1e-9);
    EXPECT_EQ(partsBy(laid.seams), 2U);
}

TEST(Hand, PiecesOfASeamKeepItsJoint) {
    const auto knots =
        knotted({{straight({100, 0}, {100, 90}), Joint::Keyed}, {straight({0, 45}, {400, 45}), Joint::Butt}});
    ASSERT_EQ(knots.size(), 4U);
    EXPECT_EQ(std::count_if(knots.begin(), knots.end(),
                            [](const SeamWish& one) { return one.joint == Joint::Keyed; }),
              2);
}

} // namespace
} // namespace thinline::split
