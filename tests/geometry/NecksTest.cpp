// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Necks.h"

#include "support/Shapes.h"

#include <gtest/gtest.h>

namespace thinline::geometry {
namespace {

TEST(Necks, FindsTheStripOfADumbbellAndItsWidth) {
    const auto necks = findNecks(support::dumbbell(20, 0.8, 6), 1.0);
    ASSERT_TRUE(necks);
    ASSERT_EQ(necks->size(), 1u);
    EXPECT_NEAR(necks->front().widthMm, 0.8, 0.02);
    EXPECT_GT(necks->front().place.x, 19.9);
    EXPECT_LT(necks->front().place.x, 26.1);
    EXPECT_NEAR(necks->front().place.y, 10, 0.5);
}

TEST(Necks, AWideEnoughStripIsNone) {
    EXPECT_TRUE(findNecks(support::dumbbell(20, 1.2, 6), 1.0)->empty());
}

TEST(Necks, CornersAndTipsAreNone) {
    EXPECT_TRUE(findNecks(support::rectangle(0, 0, 30, 20), 1.0)->empty());
    EXPECT_TRUE(findNecks(support::disc({0, 0}, 10), 1.0)->empty());
    const Shape needle{contourThrough({{0, 0}, {40, 5}, {0, 10}}), {}};
    EXPECT_TRUE(findNecks(needle, 1.0)->empty());
}

TEST(Necks, ARingThatIsThinAtOnePlaceHasOne) {
    // The opening sits off the middle: 0.5 mm of material left, 3.5 mm right.
    const auto necks =
        findNecks(support::withOpening(support::disc({0, 0}, 10), support::disc({-1.5, 0}, 8)), 1.0);
    ASSERT_TRUE(necks);
    ASSERT_EQ(necks->size(), 1u);
    EXPECT_NEAR(necks->front().widthMm, 0.5, 0.03);
    EXPECT_LT(necks->front().place.x, -9);
}

TEST(Necks, AShapeThinEverywhereIsOneNeck) {
    const auto necks = findNecks(support::rectangle(0, 0, 30, 0.6), 1.0);
    ASSERT_TRUE(necks);
    ASSERT_EQ(necks->size(), 1u);
    EXPECT_NEAR(necks->front().widthMm, 0.6, 0.03);
}

TEST(Necks, CanBeStopped) {
    const std::atomic<bool> stop = true;
    const auto necks = findNecks(support::dumbbell(20, 0.8, 6), 1.0, base::Progress(&stop, nullptr));
    ASSERT_FALSE(necks);
    EXPECT_EQ(necks.error().code, base::Code::Cancelled);
}

} // namespace
} // namespace thinline::geometry
