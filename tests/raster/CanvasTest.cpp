// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Canvas.h"

#include "support/Shapes.h"

#include <gtest/gtest.h>

#include <random>

namespace thinline::raster {
namespace {

using geometry::Point;
using geometry::Polygons;

int darkness(const Canvas& canvas, int x, int y) {
    return 255 - static_cast<int>(canvas.pixels()[static_cast<size_t>(y * canvas.width() + x)] & 255);
}

/// The naive referee: share of 16 x 16 sample points inside.
int sampledDarkness(const Polygons& rings, int x, int y) {
    int inside = 0;
    for (int i = 0; i < 16; ++i)
        for (int k = 0; k < 16; ++k)
            inside += geometry::contains(rings, {x + (i + 0.5) / 16, y + (k + 0.5) / 16}) ? 1 : 0;
    return inside * 255 / 256;
}

TEST(Canvas, CoverageOfAHalfPixelIsHalf) {
    Canvas canvas(4, 4, {255, 255, 255});
    canvas.fill(geometry::flatten(support::rectangle(1, 1, 1.5, 1), 0.1), {0, 0, 0});
    EXPECT_EQ(darkness(canvas, 1, 1), 255);
    EXPECT_NEAR(darkness(canvas, 2, 1), 128, 1);
    EXPECT_EQ(darkness(canvas, 3, 1), 0);
    EXPECT_EQ(darkness(canvas, 1, 2), 0);
}

TEST(Canvas, AgreesWithCountingSamplesOnRandomTriangles) {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> place(-8, 24); // reaches over every edge of the canvas
    for (int round = 0; round < 60; ++round) {
        Canvas canvas(16, 16, {255, 255, 255});
        geometry::Polygon ring{
            {place(random), place(random)}, {place(random), place(random)}, {place(random), place(random)}};
        canvas.fill({ring}, {0, 0, 0});
        for (int y = 0; y < 16; ++y)
            for (int x = 0; x < 16; ++x)
                ASSERT_NEAR(darkness(canvas, x, y), sampledDarkness({ring}, x, y), 14)
                    << "round " << round << " at " << x << "," << y;
    }
}

TEST(Canvas, OpeningsStayOpen) {
    Canvas canvas(20, 20, {255, 255, 255});
    const auto frame = support::withOpening(support::rectangle(2, 2, 16, 16), support::rectangle(6, 6, 8, 8));
    canvas.fill(geometry::flatten(frame, 0.1), {0, 0, 0});
    EXPECT_EQ(darkness(canvas, 3, 10), 255);
    EXPECT_EQ(darkness(canvas, 10, 10), 0);
}

TEST(Canvas, TilesJoinWithoutASeam) {
    const Polygons rings = geometry::flatten(support::disc({16, 16}, 13.3), 0.01);
    Canvas whole(32, 32, {255, 255, 255});
    whole.fill(rings, {0, 0, 0});
    for (int tile = 0; tile < 4; ++tile) {
        const int left = tile % 2 * 16, top = tile / 2 * 16;
        Polygons moved = rings;
        for (auto& ring : moved)
            for (Point& p : ring)
                p = p - Point{static_cast<double>(left), static_cast<double>(top)};
        Canvas part(16, 16, {255, 255, 255});
        part.fill(moved, {0, 0, 0});
        for (int y = 0; y < 16; ++y)
            for (int x = 0; x < 16; ++x)
                ASSERT_NEAR(darkness(part, x, y), darkness(whole, left + x, top + y), 1);
    }
}

TEST(Canvas, AStrokeIsAsWideAsAsked) {
    Canvas canvas(30, 30, {255, 255, 255});
    canvas.stroke(geometry::flatten(support::rectangle(5, 5, 20, 20), 0.1), 2, {0, 0, 0});
    EXPECT_EQ(darkness(canvas, 15, 4), 255);
    EXPECT_EQ(darkness(canvas, 15, 5), 255);
    EXPECT_EQ(darkness(canvas, 15, 3), 0);
    EXPECT_EQ(darkness(canvas, 15, 15), 0);
}

TEST(Canvas, NotANumberDrawsNothing) {
    Canvas canvas(4, 4, {255, 255, 255});
    canvas.fill({{{0, 0}, {std::numeric_limits<double>::quiet_NaN(), 3}, {3, 3}}}, {0, 0, 0});
    canvas.fill({}, {0, 0, 0});
    for (int i = 0; i < 16; ++i)
        EXPECT_EQ(darkness(canvas, i % 4, i / 4), 0);
}

} // namespace
} // namespace thinline::raster
