// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Measures.h"
#include "raster/CastShadow.h"
#include "support/Drawings.h"
#include "support/Shadows.h"
#include "support/Shapes.h"
#include "trace/Deviation.h"
#include "trace/Kind.h"
#include "trace/Tracing.h"

#include <gtest/gtest.h>

#include <cstdlib>
#include <numbers>

namespace thinline::trace {
namespace {

using support::disc;
using support::Drawing;
using support::inShadow;
using support::rectangle;

constexpr raster::Rgb kSea{47, 111, 143}, kRust{200, 71, 43}, kSand{226, 200, 150}, kGrass{92, 140, 80};

/// Four things across the edge of a shadow that falls in from the right, and one in each light alone.
Drawing quay() {
    return Drawing(600, 420)
        .fill(rectangle(200, 40, 340, 70), kSea)
        .fill(rectangle(180, 140, 300, 60), kRust)
        .fill(disc({290, 265}, 50), kSand)
        .fill(rectangle(100, 340, 300, 50), kGrass)
        .fill(disc({80, 120}, 45), kSand)
        .fill(disc({520, 320}, 55), kRust);
}

Tracing must(const raster::Picture& picture, const Recipe& recipe) {
    auto out = traced(picture, 0.125, recipe);
    EXPECT_TRUE(out) << (out ? "" : out.error().message);
    return out ? out.take() : Tracing{};
}

std::optional<raster::CastShadow> shadowIn(const raster::Picture& picture) {
    const auto colouring = raster::coloured(picture);
    return colouring ? raster::castShadowIn(picture, *colouring) : std::nullopt;
}

/// How far two pictures differ, levels: in the mean, and by how much all but one channel value of a hundred at most.
std::pair<double, int> unlike(const raster::Picture& a, const raster::Picture& b) {
    std::vector<int> off;
    double sum = 0;
    for (size_t i = 0; i < a.rgb.size(); ++i) {
        off.push_back(std::abs(a.rgb[i] - b.rgb[i]));
        sum += off.back();
    }
    const auto high = off.begin() + static_cast<std::ptrdiff_t>(off.size() * 99 / 100);
    std::nth_element(off.begin(), high, off.end());
    return {sum / static_cast<double>(off.size()), *high};
}

TEST(CastShadow, IsFoundAndTakenOutWhateverItsDepthAndSoftness) {
    const raster::Picture lit = quay().picture();
    for (const double light : {0.45, 0.62, 0.8})
        for (const double soft : {0.7, 2.0}) {
            const raster::Picture dark = inShadow(lit, light, soft);
            const auto found = shadowIn(dark);
            ASSERT_TRUE(found) << light << " " << soft;
            EXPECT_TRUE(found->isSure) << light << " " << soft;
            EXPECT_GE(found->pairs, 4);
            for (const double one : found->light)
                EXPECT_NEAR(one, light, 0.03) << soft;
            EXPECT_GT(found->x + 0.4 * found->y, 0.62 * lit.width) << "a pixel in it";
            const auto [mean, most] = unlike(raster::withoutShadow(dark, *found), lit);
            EXPECT_LT(mean, 2.5) << light << " " << soft;
            EXPECT_LT(most, 14) << light << " " << soft;
        }
}

TEST(CastShadow, OfPaintNoneIsMade) {
    // What a program drew has no light over it, whatever it looks like.
    EXPECT_FALSE(shadowIn(inShadow(quay().picture(), 0.62, 1, 0)));
    // Colours that have nothing to do with one another.
    EXPECT_FALSE(shadowIn(inShadow(quay().picture(), 1)));
    // A grey part of white paper: perhaps.
    const raster::Picture grey = inShadow(Drawing(600, 420).fill(rectangle(330, -1, 271, 422), {150, 150, 150}).fill(disc({150, 200}, 60), kSea).picture(), 1);
    const auto may = shadowIn(grey);
    ASSERT_TRUE(may);
    EXPECT_FALSE(may->isSure);
    EXPECT_EQ(may->pairs, 1);
    // Three things with a dark side of their own, on paper that has none.
    Drawing shaded(600, 420);
    int i = 0;
    for (const raster::Rgb colour : {kSea, kRust, kGrass, kSand}) {
        const raster::Rgb dark{static_cast<std::uint8_t>(colour[0] * 0.6), static_cast<std::uint8_t>(colour[1] * 0.6), static_cast<std::uint8_t>(colour[2] * 0.6)};
        shaded.fill(rectangle(40.0 + 140 * i, 100, 50, 200), colour).fill(rectangle(90.0 + 140 * i, 100, 50, 200), dark);
        ++i;
    }
    const auto drawn = shadowIn(inShadow(shaded.picture(), 1));
    EXPECT_TRUE(!drawn || !drawn->isSure);
}

TEST(CastShadow, IsFoundInAReducedCopyOfAVeryLargePicture) {
    constexpr int kTimes = 5;
    Drawing large(600 * kTimes, 420 * kTimes);
    large.fill(rectangle(200 * kTimes, 40 * kTimes, 340 * kTimes, 70 * kTimes), kSea)
        .fill(rectangle(180 * kTimes, 140 * kTimes, 300 * kTimes, 60 * kTimes), kRust)
        .fill(rectangle(100 * kTimes, 340 * kTimes, 300 * kTimes, 50 * kTimes), kGrass);
    const raster::Picture lit = large.picture(), dark = inShadow(lit, 0.6, 3);
    const auto found = raster::castShadowIn(dark);
    ASSERT_TRUE(found);
    EXPECT_TRUE(found->isSure);
    EXPECT_LT(found->shares.width, lit.width);
    EXPECT_NEAR(found->areaPx / static_cast<double>(lit.pixels()), 0.52, 0.03);
    const auto [mean, most] = unlike(raster::withoutShadow(dark, *found), lit);
    EXPECT_LT(mean, 3);
    EXPECT_LT(most, 14);
}

TEST(FlatArt, AShadowWithAHardEdgeIsNoColour) {
    const raster::Picture lit = quay().picture(), dark = inShadow(lit, 0.6);
    const Tracing t = must(dark, {.mode = Mode::FlatArt}), plain = must(inShadow(lit, 1), {.mode = Mode::FlatArt});
    ASSERT_TRUE(t.shadow);
    EXPECT_TRUE(t.shadow->isTakenOut);
    EXPECT_NEAR(t.shadow->light, 0.6, 0.03);
    EXPECT_NEAR(t.shadow->areaPx / static_cast<double>(lit.pixels()), 0.52, 0.02) << "half of the slanting strip on";
    EXPECT_EQ(t.palette.size(), 5u);
    ASSERT_EQ(t.areas.size(), plain.areas.size());
    EXPECT_FALSE(plain.shadow);
    for (size_t i = 0; i < t.areas.size(); ++i) {
        const double size = geometry::area(plain.areas[i].shape);
        EXPECT_NEAR(geometry::area(t.areas[i].shape), size, 0.01 * size) << i;
        EXPECT_LT(raster::colourDistance(t.areas[i].colour, plain.areas[i].colour), 0.03) << i;
    }
    EXPECT_LT(deviationOf(dark, t).share, 0.01) << "the shadow is no fault of the tracing";
    EXPECT_NE(shadowText(*t.shadow, 0.125).find("60 % as light"), std::string::npos);
    // Said to be paint it comes as it is seen, and is still told.
    const Tracing paint = must(dark, {.mode = Mode::FlatArt, .darkPart = DarkPart::Paint});
    ASSERT_TRUE(paint.shadow);
    EXPECT_FALSE(paint.shadow->isTakenOut);
    EXPECT_GT(paint.palette.size(), t.palette.size() + 3);
}

TEST(FlatArt, WhatMayBeAShadowIsAsked) {
    const raster::Picture picture =
        inShadow(Drawing(600, 420).fill(disc({120, 120}, 60), kSea).fill(disc({480, 320}, 60), {28, 66, 86}).picture(), 0.6);
    const Tracing t = must(picture, {.mode = Mode::FlatArt});
    ASSERT_TRUE(t.shadow);
    EXPECT_FALSE(t.shadow->isTakenOut) << "paper alone does not tell";
    EXPECT_EQ(t.shadow->colours, 1);
    EXPECT_NE(shadowText(*t.shadow, 0.125).find("paint may be so too"), std::string::npos);
    EXPECT_EQ(t.areas.size(), 3u);
    const Tracing said = must(picture, {.mode = Mode::FlatArt, .darkPart = DarkPart::Shadow});
    ASSERT_TRUE(said.shadow);
    EXPECT_TRUE(said.shadow->isTakenOut);
    ASSERT_EQ(said.areas.size(), 2u);
    for (const Area& area : said.areas)
        EXPECT_NEAR(geometry::area(area.shape), std::numbers::pi * 60 * 60, 0.01 * std::numbers::pi * 60 * 60);
}

TEST(LineDrawing, AShadowOverThePaperIsNoInk) {
    Drawing drawing(640, 460);
    constexpr raster::Rgb kPencil{125, 125, 130}, kWhite{255, 255, 255};
    for (int i = 0; i < 4; ++i)
        drawing.fill(rectangle(30.0 + 150 * i, 60, 120, 150), kPencil)
            .fill(rectangle(36.0 + 150 * i, 66, 108, 138), kWhite)
            .fill(disc({90.0 + 150 * i, 330}, 56), kPencil)
            .fill(disc({90.0 + 150 * i, 330}, 50), kWhite);
    const raster::Picture dark = inShadow(drawing.picture(), 0.55);
    EXPECT_EQ(kindOf(dark).mode, Mode::LineDrawing);
    const Tracing t = must(dark, {});
    ASSERT_TRUE(t.shadow);
    EXPECT_TRUE(t.shadow->isTakenOut);
    EXPECT_EQ(t.areas.size(), 8u);
    EXPECT_EQ(t.ink.size(), 8u);
    for (const Area& area : t.areas)
        EXPECT_LT(raster::colourDistance(area.colour, {255, 255, 255}), 0.05) << "paper in both lights";
    EXPECT_NE(must(dark, {.darkPart = DarkPart::Paint}).ink.size(), 8u) << "what became of it before";
    EXPECT_FALSE(must(inShadow(drawing.picture(), 1), {}).shadow);
}

} // namespace
} // namespace thinline::trace
