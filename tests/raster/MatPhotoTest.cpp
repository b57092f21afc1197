// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/MatPhoto.h"

#include "geometry/Measures.h"
#include "support/MatPictures.h"

#include <gtest/gtest.h>

#include <algorithm>

namespace thinline::raster {
namespace {

using geometry::Point;

/// A photo half as wide as usual, which takes a quarter of the time.
support::MatScene smaller(unsigned seed) {
    support::MatScene out = support::matScene(seed);
    support::MatScene plain = out;
    constexpr double kSmaller = 0.625;
    out.widthPx = static_cast<int>(plain.widthPx * kSmaller);
    out.heightPx = static_cast<int>(plain.heightPx * kSmaller);
    for (const std::size_t k : {0u, 1u, 3u, 4u, 6u, 7u})
        out.toMm[k] = plain.toMm[k] / kSmaller;
    out.noise = std::min(2.0, out.noise);
    out.blurPx = 0.5;
    return out;
}

TEST(Rectify, AMapByFourCornersGoesBothWaysAlsoThroughABentLens) {
    const std::array<Point, 4> corners{Point{100, 80}, {900, 120}, {860, 700}, {60, 640}};
    const auto seen = Seen::by(corners, 0.04, 1000, 800, 300, 200);
    ASSERT_TRUE(seen);
    const Point mm[]{{0, 0}, {300, 0}, {300, 200}, {0, 200}};
    for (std::size_t i = 0; i < 4; ++i)
        EXPECT_LT(geometry::distance(seen->toPx(mm[i]), corners[i]), 0.01);
    for (double x = 0; x <= 300; x += 50)
        for (double y = 0; y <= 200; y += 50)
            EXPECT_LT(geometry::distance(seen->toMm(seen->toPx({x, y})), {x, y}), 1e-6);
    EXPECT_FALSE(Seen::by({Point{0, 0}, {10, 10}, {20, 20}, {0, 30}}, 0, 100, 100, 10, 10))
        << "three in a line";
    EXPECT_FALSE(Seen::by(corners, 0, 1000, 800, 0, 200));
}

// The camera is simulated and shares nothing with what is tested: where everything lies is known.
TEST(MatPhoto, CornersAndScrapsAreFoundWhereTheyAre) {
    int scraps = 0;
    for (const unsigned seed : {1u, 7u, 13u, 24u}) {
        const support::MatScene scene = smaller(seed);
        const Picture photo = scene.seen();
        const auto seen = findRectangle(photo, scene.widthMm, scene.heightMm);
        ASSERT_TRUE(seen) << seed << seen.error().message;
        const Point corners[]{
            {0, 0}, {scene.widthMm, 0}, {scene.widthMm, scene.heightMm}, {0, scene.heightMm}};
        for (std::size_t i = 0; i < 4; ++i)
            EXPECT_LT(geometry::distance(seen->corners()[i], scene.pxAt(corners[i])), 1) << seed;
        for (double x = 10; x < 300; x += 40)
            for (double y = 10; y < 300; y += 40)
                EXPECT_LT(geometry::distance(seen->toMm(scene.pxAt({x, y})), {x, y}), 0.5) << seed;
        const auto look = lookAtMat(photo, *seen);
        ASSERT_TRUE(look);
        EXPECT_TRUE(look->grid.isThere) << seed;
        EXPECT_LT(look->grid.errorMm, 0.3) << seed;
        EXPECT_EQ(look->scraps.size(), scene.scraps.size()) << seed;
        for (const support::MatScene::Scrap& scrap : scene.scraps) {
            const Point middle = geometry::bounds(geometry::Polygons{scrap.outline}).centre();
            for (const FoundScrap& found : look->scraps)
                if (geometry::contains(found.rings, middle)) {
                    ++scraps;
                    double away = 0;
                    for (const Point p : found.rings[0]) {
                        double least = INFINITY;
                        for (std::size_t q = 0; q < scrap.outline.size(); ++q)
                            least = std::min(least, geometry::distanceToStretch(
                                                        p, scrap.outline[q],
                                                        scrap.outline[(q + 1) % scrap.outline.size()]));
                        away += least / static_cast<double>(found.rings[0].size());
                    }
                    EXPECT_LT(away, 0.4) << seed;
                }
        }
    }
    EXPECT_GE(scraps, 8);
}

TEST(MatPhoto, WhatIsNoMatIsRefused) {
    // A table alone; noise; a sheet of paper without lines; a mat of which a corner is cut off.
    support::MatScene scene = smaller(3);
    scene.scraps.clear();
    scene.hasGrid = false;
    support::MatScene table = scene;
    table.mat = table.table;
    const auto none = findRectangle(table.seen(), 304.8, 304.8);
    ASSERT_FALSE(none);
    EXPECT_NE(none.error().message.find("No mat was found"), std::string::npos);
    Picture noise{600, 400, std::vector<std::uint8_t>(600 * 400 * 3)};
    std::mt19937 random(1);
    for (std::uint8_t& one : noise.rgb)
        one = static_cast<std::uint8_t>(random());
    const auto inNoise = findRectangle(noise, 304.8, 304.8);
    EXPECT_TRUE(!inNoise || !lookAtMat(noise, *inNoise)->grid.isThere);
    scene.mat = {250, 250, 248};
    scene.table = {120, 84, 58};
    const Picture paper = scene.seen();
    const auto seen = findRectangle(paper, 304.8, 304.8);
    ASSERT_TRUE(seen) << "it has four corners";
    EXPECT_FALSE(lookAtMat(paper, *seen)->grid.isThere);
    support::MatScene cut = smaller(3);
    cut.toMm[2] += 170; // the camera looks past it
    EXPECT_FALSE(findRectangle(cut.seen(), 304.8, 304.8));
    EXPECT_FALSE(findRectangle({80, 80, std::vector<std::uint8_t>(80 * 80 * 3)}, 304.8, 304.8));
    EXPECT_FALSE(lookAtMat(paper, *Seen::by(seen->corners(), 0, paper.width, paper.height, 40, 40)));
}

TEST(MatPhoto, CardsThatLieOnOneAnotherAreToldApartByTheirHues) {
    support::MatScene scene = smaller(3);
    scene.scraps = {{{{60, 60}, {150, 60}, {150, 140}, {60, 140}}, {200, 70, 45}},
                    {{{120, 90}, {210, 90}, {210, 180}, {120, 180}}, {236, 196, 92}},
                    {{{180, 150}, {250, 150}, {250, 240}, {180, 240}}, {40, 96, 130}}};
    const Picture photo = scene.seen();
    const auto seen = findRectangle(photo, scene.widthMm, scene.heightMm);
    ASSERT_TRUE(seen);
    const auto look = lookAtMat(photo, *seen);
    ASSERT_TRUE(look);
    ASSERT_EQ(look->scraps.size(), 3u);
    std::vector<double> areas;
    for (const FoundScrap& scrap : look->scraps)
        areas.push_back(std::abs(geometry::signedArea(scrap.rings[0])));
    std::sort(areas.begin(), areas.end());
    // What is seen of each: the red one less 30 x 50, the yellow one less 30 x 30, the blue one whole.
    EXPECT_NEAR(areas[0], 90 * 80 - 30 * 50, 150);
    EXPECT_NEAR(areas[1], 70 * 90, 150);
    EXPECT_NEAR(areas[2], 90 * 90 - 30 * 30, 150);
}

TEST(MatPhoto, AShadowIsNoScrap) {
    support::MatScene scene = smaller(3);
    scene.scraps.clear();
    scene.shadowAt = {150, 150};
    scene.shadow = 0.6;
    scene.shadowSoftMm = 3;
    const Picture photo = scene.seen();
    const auto seen = findRectangle(photo, scene.widthMm, scene.heightMm);
    ASSERT_TRUE(seen);
    EXPECT_TRUE(lookAtMat(photo, *seen)->scraps.empty());
}

} // namespace
} // namespace thinline::raster
