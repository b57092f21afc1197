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

// A piece of the demo's boat: its upper left tip is rounded to 0.1 mm, and was once told as a neck of 0.06 mm.
TEST(NarrowestNeck, ARoundTipIsNone) {
    const Shape hull{{{126.964, 145.351},
                      {Segment::curve({127.090, 145.042}, {129.081, 145.171}, {131.003, 145.613}),
                       Segment::curve({137.657, 147.144}, {142.914, 147.095}, {149.787, 145.439}),
                       Segment::curve({150.413, 145.289}, {151.190, 145.202}, {151.923, 145.202}),
                       Segment::line({153.076, 145.202}), Segment::line({153.161, 146.244}),
                       Segment::curve({153.315, 148.148}, {154.560, 168.873}, {154.560, 169.539}),
                       Segment::line({154.560, 170.193}), Segment::line({152.741, 170.725}),
                       Segment::curve({147.942, 172.127}, {143.703, 172.683}, {138.812, 172.549}),
                       Segment::curve({134.817, 172.441}, {131.091, 171.846}, {127.120, 170.684}),
                       Segment::line({125.445, 170.193}), Segment::line({125.445, 169.780}),
                       Segment::curve({125.445, 168.966}, {126.904, 145.497}, {126.964, 145.351})}},
                     {}};
    const auto neck = narrowestNeck(hull);
    ASSERT_TRUE(neck);
    if (*neck) {
        EXPECT_GT((*neck)->widthMm, 20);
    }
}

} // namespace
} // namespace thinline::geometry
