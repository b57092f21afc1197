// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Palette.h"

#include "raster/Colouring.h"
#include "raster/Gaps.h"
#include "raster/Light.h"
#include "raster/Parts.h"
#include "raster/Shading.h"
#include "raster/Tones.h"
#include "support/Drawings.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

#include <random>
#include <set>

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

std::vector<Found> paletteOf(const Picture& picture, int count = 0) {
    const Faults faults(picture);
    return findPalette(faults.isExact() ? picture : calmed(picture, faults.grain()), faults, {.count = count});
}

TEST(Palette, FindsAndCountsTheColoursAndNoFringe) {
    for (double levels : {0.0, 8.0}) {
        const auto palette = paletteOf(noisy(harbour(), levels, 3));
        ASSERT_EQ(palette.size(), 4u) << levels;
        for (const Rgb& wanted : {kWhite, kSea, kRust, kSand})
            EXPECT_TRUE(std::any_of(palette.begin(), palette.end(),
                                    [&](const Found& f) { return unlike(f.colour, wanted) <= (levels > 0 ? 6 : 0); }));
        EXPECT_LE(unlike(palette[0].colour, kWhite), 6) << "most used first";
    }
}

TEST(Palette, AsManyAsAskedForAndNoMoreThanThereAre) {
    const auto colours = [](int count) { return coloured(harbour(), {.count = count})->palette.size(); };
    EXPECT_EQ(colours(3), 3u);
    EXPECT_EQ(colours(2), 2u);
    EXPECT_EQ(colours(9), 4u) << "it has no more";
    EXPECT_TRUE(findPalette(Picture{}, Faults(Picture{})).empty());
}

/// Which colour of the palette is most like one.
std::int32_t labelOf(const Colouring& colouring, Rgb colour) {
    std::int32_t best = 0;
    for (size_t i = 1; i < colouring.palette.size(); ++i)
        if (unlike(colouring.palette[i], colour) < unlike(colouring.palette[static_cast<size_t>(best)], colour))
            best = static_cast<std::int32_t>(i);
    return best;
}

TEST(Colouring, SoftEdgesBelongToOneOfTheirTwoColours) {
    // Between white and sea the fringe passes near a third colour of the palette, which is elsewhere.
    const Rgb mixture{151, 183, 199};
    Drawing drawing(200, 120);
    drawing.fill(rectangle(20.5, 20.5, 80, 80), kSea).fill(rectangle(140, 20, 40, 40), mixture);
    const auto colouring = coloured(drawing.picture());
    const std::int32_t third = labelOf(*colouring, mixture);
    int there = 0;
    for (int y = 10; y < 110; ++y)
        for (int x = 10; x < 110; ++x)
            there += colouring->map.at(x, y) == third;
    EXPECT_EQ(there, 0);
    EXPECT_EQ(colouring->map.at(160, 40), third);
}

TEST(Colouring, AThinLineKeepsItsColour) {
    Drawing drawing(120, 60);
    drawing.fill(rectangle(0, 0, 60, 60), kSea).fill(rectangle(60, 0, 60, 60), kRust);
    drawing.ink(rectangle(59, 0, 2, 60));
    const auto colouring = coloured(drawing.picture());
    const std::int32_t ink = labelOf(*colouring, Drawing::kInk), sea = labelOf(*colouring, kSea),
                       rust = labelOf(*colouring, kRust);
    ASSERT_EQ((std::set{ink, sea, rust}).size(), 3u) << "a colour that is nowhere thick is found too";
    EXPECT_EQ(colouring->map.at(59, 30), ink);
    EXPECT_EQ(colouring->map.at(60, 30), ink);
    EXPECT_EQ(colouring->map.at(57, 30), sea);
    EXPECT_EQ(colouring->map.at(63, 30), rust);
}

/// A picture in a light that falls to `darkest` at its lower right corner, with some grain.
Picture shaded(Picture picture, double darkest, double grain) {
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x) {
            const double u = (static_cast<double>(x) / picture.width + static_cast<double>(y) / picture.height) / 2;
            for (size_t k = 0; k < 3; ++k) {
                std::uint8_t& v = picture.rgb[(static_cast<size_t>(y) * static_cast<size_t>(picture.width) +
                                               static_cast<size_t>(x)) * 3 + k];
                v = static_cast<std::uint8_t>(std::lround(v * (1 - (1 - darkest) * u)));
            }
        }
    return grain > 0 ? noisy(picture, grain, 7) : picture;
}

TEST(Shading, IsFoundWithoutPaperAndOnlyWhereThereIsAny) {
    // Painted all over: no paper tells what the light is.
    Drawing drawing(400, 300);
    drawing.fill(rectangle(-1, -1, 402, 302), kSea).fill(disc({120, 110}, 60), kSand).fill(disc({290, 190}, 70), kRust);
    const Shading found = shadingOf(shaded(drawing.picture(), 0.6, 2));
    ASSERT_FALSE(found.isEven());
    for (const auto& [x, y] : {std::pair{20, 20}, {200, 150}, {380, 280}, {380, 20}}) {
        const double light = 1 - 0.4 * (x / 400.0 + y / 300.0) / 2;
        EXPECT_NEAR(found.at(x, y) / found.at(0, 0), light, 0.02) << x << " " << y;
    }
    EXPECT_TRUE(shadingOf(drawing.picture()).isEven());
    EXPECT_TRUE(shadingOf(noisy(drawing.picture(), 4, 1)).isEven());
}

TEST(Colouring, LightOverAPictureIsNoColourOfItsOwn) {
    for (const double darkest : {0.85, 0.6}) {
        const Picture picture = shaded(harbour(), darkest, 3);
        const auto colouring = coloured(picture);
        ASSERT_EQ(colouring->palette.size(), 4u) << darkest;
        const auto even = coloured(harbour());
        int off = 0;
        for (int y = 0; y < 200; ++y)
            for (int x = 0; x < 300; ++x)
                off += labelOf(*colouring, even->palette[static_cast<size_t>(even->map.at(x, y))]) !=
                       colouring->map.at(x, y);
        EXPECT_LT(off, 60) << "of 60,000 pixels; light to " << darkest;
    }
}

TEST(Colouring, AGradientWithinAThingIsNoBorder) {
    Picture picture = Drawing(300, 220).fill(disc({150.3, 110.6}, 80), kSea).picture();
    for (int y = 0; y < 220; ++y)
        for (int x = 0; x < 300; ++x) {
            std::uint8_t* p = picture.rgb.data() + (static_cast<size_t>(y) * 300 + static_cast<size_t>(x)) * 3;
            const double share = (255.0 - p[0]) / (255 - kSea[0]); // of the disc, which gets lighter by 90 levels
            for (size_t k = 0; k < 3; ++k)
                p[k] = static_cast<std::uint8_t>(std::lround(p[k] + share * std::clamp((y - 30) * 90 / 160, 0, 90)));
        }
    const auto colouring = coloured(picture);
    EXPECT_EQ(colouring->palette.size(), 2u);
    const std::int32_t sea = colouring->map.at(150, 40);
    for (int y = 40; y < 185; ++y)
        EXPECT_EQ(colouring->map.at(120, y), sea) << y;
    // Half of a pixel is half of what the thing is there, light above and lighter below.
    const auto paper = static_cast<size_t>(colouring->map.at(5, 5));
    Picture half = picture;
    for (const int y : {45, 175}) {
        std::uint8_t* p = half.rgb.data() + (static_cast<size_t>(y) * 300 + 150) * 3;
        for (size_t k = 0; k < 3; ++k)
            p[k] = static_cast<std::uint8_t>((p[k] + 255) / 2);
        EXPECT_NEAR(colouring->shareOf(half, static_cast<size_t>(sea), paper, 150, y), 0.5, 0.03) << y;
    }
}

// Labels are bytes, and each has values all over the picture: a sheet of gradients must not have one for each.
TEST(Colouring, ManyThingsOfManyColoursStayWithinTheLabelsThereAre) {
    constexpr int kCells = 12, kCell = 40;
    Picture picture{kCells * kCell, kCells * kCell, std::vector<std::uint8_t>(kCells * kCell * kCells * kCell * 3, 255)};
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x) {
            const int i = x / kCell, j = y / kCell, inX = x % kCell, inY = y % kCell;
            if (inX < 4 || inY < 4 || inX >= 36 || inY >= 36)
                continue;
            std::uint8_t* p = picture.rgb.data() + (static_cast<size_t>(y) * kCells * kCell + static_cast<size_t>(x)) * 3;
            p[0] = static_cast<std::uint8_t>(10 + 12 * i + inY);
            p[1] = static_cast<std::uint8_t>(10 + 12 * j + inY);
            p[2] = static_cast<std::uint8_t>(40 + 3 * ((i * 7 + j * 3) % kCells) + inY);
        }
    const auto colouring = coloured(picture);
    EXPECT_LE(colouring->palette.size(), 200u);
    EXPECT_GT(colouring->palette.size(), 64u) << "many things have a label of their own";
    const std::int32_t paper = colouring->map.at(1, 1);
    for (const std::int32_t label : colouring->map.labels)
        ASSERT_LT(static_cast<size_t>(label), colouring->palette.size());
    for (int j = 0; j < kCells; ++j)
        for (int i = 0; i < kCells; ++i)
            EXPECT_NE(colouring->map.at(i * kCell + 20, j * kCell + 20), paper) << i << " " << j;
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
