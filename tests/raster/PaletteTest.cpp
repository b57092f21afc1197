// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Palette.h"

#include "raster/Gaps.h"
#include "raster/Light.h"
#include "raster/Parts.h"
#include "raster/Tones.h"
#include "support/Drawings.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

#include <random>

namespace thinline::raster {
namespace {

using support::disc;
using support::Drawing;
using support::rectangle;

constexpr Rgb kSea{47, 111, 143}, kRust{200, 71, 43}, kSand{242, 234, 216}, kWhite{255, 255, 255};

Picture harbour() {
    return Drawing(300, 200)
        .fill(rectangle(30.4, 120.2, 240, 60), kSea)
        .fill(disc({150.3, 90.6}, 50), kRust)
        .fill(disc({150.3, 90.6}, 20), kSand)
        .picture();
}

Picture noisy(Picture picture, double levels, unsigned seed) {
    std::mt19937 random(seed);
    std::normal_distribution<double> noise(0, levels);
    for (std::uint8_t& v : picture.rgb)
        v = static_cast<std::uint8_t>(std::clamp(std::lround(v + noise(random)), 0L, 255L));
    return picture;
}

int unlike(Rgb a, Rgb b) {
    return std::max({std::abs(a[0] - b[0]), std::abs(a[1] - b[1]), std::abs(a[2] - b[2])});
}

TEST(Palette, FindsAndCountsTheColoursAndNoFringe) {
    for (double levels : {0.0, 8.0}) {
        const auto palette = findPalette(noisy(harbour(), levels, 3));
        ASSERT_EQ(palette.size(), 4u) << levels;
        for (const Rgb& wanted : {kWhite, kSea, kRust, kSand})
            EXPECT_TRUE(std::any_of(palette.begin(), palette.end(),
                                    [&](Rgb c) { return unlike(c, wanted) <= (levels > 0 ? 6 : 0); }));
        EXPECT_LE(unlike(palette[0], kWhite), 6) << "most used first";
    }
}

TEST(Palette, AsManyAsAskedFor) {
    EXPECT_EQ(findPalette(harbour(), {.count = 3}).size(), 3u);
    EXPECT_EQ(findPalette(harbour(), {.count = 2}).size(), 2u);
    EXPECT_EQ(findPalette(harbour(), {.count = 9}).size(), 4u) << "it has no more";
    EXPECT_TRUE(findPalette(Picture{}).empty());
}

TEST(ColourMap, SoftEdgesBelongToOneOfTheirTwoColours) {
    // Between white and sea the fringe passes near a third colour of the palette, which is elsewhere.
    const Rgb mixture{151, 183, 199};
    Drawing drawing(200, 120);
    drawing.fill(rectangle(20.5, 20.5, 80, 80), kSea).fill(rectangle(140, 20, 40, 40), mixture);
    const std::vector<Rgb> palette{kWhite, kSea, mixture};
    const auto map = colourMap(drawing.picture(), palette);
    int there = 0;
    for (int y = 10; y < 110; ++y)
        for (int x = 10; x < 110; ++x)
            there += map->at(x, y) == 2;
    EXPECT_EQ(there, 0);
    EXPECT_EQ(map->at(160, 40), 2);
}

TEST(ColourMap, AThinLineKeepsItsColour) {
    Drawing drawing(120, 60);
    drawing.fill(rectangle(0, 0, 60, 60), kSea).fill(rectangle(60, 0, 60, 60), kRust);
    drawing.ink(rectangle(59, 0, 2, 60));
    const auto map = colourMap(drawing.picture(), {kSea, kRust, Drawing::kInk});
    EXPECT_EQ(map->at(59, 30), 2);
    EXPECT_EQ(map->at(60, 30), 2);
    EXPECT_EQ(map->at(57, 30), 0);
    EXPECT_EQ(map->at(63, 30), 1);
}

TEST(Parts, AreConnectedAcrossSidesAndSmallOnesJoinTheNeighbourTheyTouchMost) {
    LabelMap map{6, 4, {0, 0, 0, 1, 1, 1, 0, 2, 0, 1, 1, 1, 0, 0, 3, 1, 0, 1, 0, 0, 1, 1, 1, 1}};
    const auto parts = partsOf(map);
    EXPECT_EQ(parts->label, (std::vector<std::int32_t>{0, 1, 2, 3, 0}));
    EXPECT_EQ(parts->areaPx[2], 1);
    EXPECT_FALSE(parts->touchesEdge[2]);
    EXPECT_EQ(*mergeSmall(map, 2), 3);
    EXPECT_EQ(map.labels, (std::vector<std::int32_t>{0, 0, 0, 1, 1, 1, 0, 0, 0, 1, 1, 1,
                                                     0, 0, 0, 1, 1, 1, 0, 0, 1, 1, 1, 1}));
}

TEST(Parts, AMillionCrumbsAreMergedInBoundedTime) {
    LabelMap map{1200, 1000, {}};
    for (int i = 0; i < 1200 * 1000; ++i)
        map.labels.push_back((i / 1200 + i) % 2);
    ASSERT_TRUE(mergeSmall(map, 20));
    EXPECT_LT(partsOf(map)->label.size(), 600'000u);
}

TEST(Light, AShadowOverThePaperIsTakenOutAndEvenPaperStays) {
    Drawing drawing(400, 300);
    drawing.ring(rectangle(60, 60, 280, 180), rectangle(66, 66, 268, 168));
    const Grey even = brightness(drawing.picture());
    EXPECT_EQ(evenedLight(even).values, even.values);
    Grey shadowed = even;
    for (int y = 0; y < 300; ++y)
        for (int x = 0; x < 400; ++x)
            shadowed.at(x, y) = static_cast<std::uint8_t>(even.at(x, y) * (1.0 - 0.45 * x / 400));
    const Grey evened = evenedLight(shadowed);
    EXPECT_GT(evened.at(30, 150), 225);
    EXPECT_GT(evened.at(370, 150), 225) << "was " << int(shadowed.at(370, 150));
    EXPECT_LT(evened.at(337, 150), 60) << "ink stays ink";
}

TEST(Gaps, ABridgeGoesOnFromTheEndsOfALineButNotBetweenTwoThatPass) {
    Drawing broken(200, 100);
    broken.ink(rectangle(20, 46, 74, 8)).ink(rectangle(106, 46, 74, 8));
    const auto bridge = bridgeOver(inkMask(brightness(broken.picture()), 128), {100, 50}, 12);
    ASSERT_TRUE(bridge);
    EXPECT_NEAR(bridge->widthPx, 8, 1.1);
    EXPECT_NEAR(bridge->from.y, 50, 1);
    EXPECT_NEAR(bridge->to.y, 50, 1);
    Drawing passing(200, 100);
    passing.ink(rectangle(20, 30, 160, 8)).ink(rectangle(20, 50, 160, 8));
    EXPECT_FALSE(bridgeOver(inkMask(brightness(passing.picture()), 128), {100, 44}, 12));
    Drawing reaching(200, 120); // a line that stops short of another
    reaching.ink(rectangle(20, 20, 160, 8)).ink(rectangle(96, 38, 8, 70));
    const auto stopped = bridgeOver(inkMask(brightness(reaching.picture()), 128), {100, 33}, 10);
    ASSERT_TRUE(stopped);
    EXPECT_NEAR(stopped->widthPx, 8, 1.1);
}

// A histogram of three even heaps parts between them, whatever the counts (Otsu's criterion, solved by hand).
TEST(Tones, ThresholdsLieBetweenTheHeaps) {
    Grey grey{30, 10, {}};
    for (int i = 0; i < 300; ++i)
        grey.values.push_back(static_cast<std::uint8_t>(i < 50    ? 20 + i % 3
                                                        : i < 200 ? 100 + i % 3
                                                                  : 220 + i % 3));
    const auto thresholds = toneThresholds(grey, 3);
    ASSERT_EQ(thresholds.size(), 2u);
    EXPECT_GE(thresholds[0], 22);
    EXPECT_LT(thresholds[0], 100);
    EXPECT_GE(thresholds[1], 102);
    EXPECT_LT(thresholds[1], 220);
}

TEST(Tones, ASturdyMaskHasNothingNarrowAndStaysNested) {
    Grey small{120, 80, std::vector<std::uint8_t>(9600, 0)}, large = small;
    const auto paint = [](Grey& mask, int x, int y, int w, int h, std::uint8_t v) {
        for (int j = y; j < y + h; ++j)
            std::fill_n(&mask.at(x, j), w, v);
    };
    paint(small, 20, 20, 30, 30, 255);
    paint(small, 50, 33, 20, 3, 255); // a neck of three pixels
    paint(small, 70, 20, 30, 30, 255);
    paint(small, 5, 70, 4, 4, 255); // a speck
    large = small;
    paint(large, 20, 50, 80, 20, 255);
    const auto sturdySmall = sturdy(small, 9, 100), sturdyLarge = sturdy(large, 9, 100);
    EXPECT_EQ(sturdySmall->at(60, 34), 0);
    EXPECT_EQ(sturdySmall->at(35, 35), 255);
    EXPECT_EQ(sturdySmall->at(6, 72), 0);
    for (size_t i = 0; i < small.values.size(); ++i)
        EXPECT_LE(sturdySmall->values[i], sturdyLarge->values[i]);
}

} // namespace
} // namespace thinline::raster
