// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Regions.h"
#include "support/Drawings.h"
#include "support/Shapes.h"
#include "trace/Tracing.h"

#include <gtest/gtest.h>

#include <random>

namespace thinline::trace {
namespace {

using support::disc;
using support::Drawing;
using support::rectangle;

/// A sheet of rings at random places; some overlap, some cross the picture's edge.
raster::Picture rings(unsigned seed) {
    std::mt19937 random(seed);
    Drawing drawing(400, 300);
    for (int i = 0; i < 14; ++i) {
        const geometry::Point at{static_cast<double>(random() % 400), static_cast<double>(random() % 300)};
        const double radius = 12 + static_cast<double>(random() % 60);
        drawing.ring(disc(at, radius), disc(at, radius - 5));
    }
    return drawing.picture();
}

// The naive referee: flood every white pixel that cannot reach the edge, and count.
TEST(Map, FindsExactlyTheEnclosedAreasAFloodFinds) {
    for (unsigned seed = 1; seed <= 20; ++seed) {
        const raster::Picture picture = rings(seed);
        const auto tracing = traced(picture, 0.1, {.leastAreaMm2 = 0.3, .threshold = 128});
        ASSERT_TRUE(tracing);
        const raster::Grey ink = raster::inkMask(raster::brightness(picture), 128);
        std::vector<bool> seen(ink.values.size(), false);
        size_t enclosed = 0;
        double enclosedPx = 0;
        for (size_t from = 0; from < seen.size(); ++from) {
            if (seen[from] || ink.values[from])
                continue;
            std::vector<size_t> front{from};
            seen[from] = true;
            double count = 0;
            bool reachesEdge = false;
            while (!front.empty()) {
                const size_t p = front.back();
                front.pop_back();
                ++count;
                const int x = static_cast<int>(p % 400), y = static_cast<int>(p / 400);
                reachesEdge |= x == 0 || y == 0 || x == 399 || y == 299;
                for (const auto& [dx, dy] : {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}}) {
                    const int nx = x + dx, ny = y + dy;
                    if (nx < 0 || ny < 0 || nx >= 400 || ny >= 300)
                        continue;
                    const size_t n = static_cast<size_t>(ny) * 400 + static_cast<size_t>(nx);
                    if (!seen[n] && !ink.values[n]) {
                        seen[n] = true;
                        front.push_back(n);
                    }
                }
            }
            if (!reachesEdge && count >= 30) {
                ++enclosed;
                enclosedPx += count;
            }
        }
        EXPECT_EQ(tracing->areas.size(), enclosed) << "seed " << seed;
        double traced = 0;
        for (const Area& area : tracing->areas)
            traced += geometry::area(area.shape);
        EXPECT_NEAR(traced, enclosedPx, 0.02 * enclosedPx + 20) << "seed " << seed;
    }
}

TEST(Map, EveryAreaHoldsItsInsidePointAndLiesWithinTheBacking) {
    for (unsigned seed = 30; seed < 36; ++seed) {
        const auto tracing = traced(rings(seed), 0.1, {.leastAreaMm2 = 0.3});
        geometry::Polygons backing;
        for (const geometry::Shape& part : tracing->backing) {
            EXPECT_TRUE(part.openings.empty());
            backing.push_back(geometry::flatten(part.outline, 0.1));
        }
        for (const Area& area : tracing->areas) {
            EXPECT_GT(geometry::signedArea(area.shape.outline), 0);
            for (const geometry::Contour& opening : area.shape.openings)
                EXPECT_LT(geometry::signedArea(opening), 0);
            EXPECT_TRUE(geometry::contains(geometry::flatten(area.shape, 0.1), area.inside));
            EXPECT_TRUE(geometry::contains(backing, area.inside));
        }
    }
}

TEST(Map, AWallOfOnePixelHoldsAndADiagonalOneToo) {
    Drawing straight(60, 60);
    straight.ring(rectangle(10, 10, 40, 40), rectangle(11, 11, 38, 38));
    EXPECT_EQ(traced(straight.picture(), 0.2, {.threshold = 128})->areas.size(), 1u);
    raster::Picture diagonal =
        Drawing(61, 61).picture(); // a lozenge of single pixels that touch at their corners
    for (int i = 0; i <= 20; ++i)
        for (const auto& [x, y] :
             {std::pair{30 + i, 10 + i}, {30 - i, 10 + i}, {10 + i, 30 + i}, {50 - i, 30 + i}})
            for (size_t channel = 0; channel < 3; ++channel)
                diagonal.rgb[(static_cast<size_t>(y) * 61 + static_cast<size_t>(x)) * 3 + channel] = 0;
    EXPECT_EQ(traced(diagonal, 0.2, {.threshold = 128})->areas.size(), 1u);
}

TEST(Map, NestedRingsNestTheirOpenings) {
    Drawing drawing(400, 400);
    for (double radius : {180.0, 130.0, 80.0, 30.0})
        drawing.ring(disc({200, 200}, radius), disc({200, 200}, radius - 8));
    const auto tracing = traced(drawing.picture(), 0.1, {});
    ASSERT_EQ(tracing->areas.size(), 4u);
    int openings = 0;
    for (const Area& area : tracing->areas)
        openings += static_cast<int>(area.shape.openings.size());
    EXPECT_EQ(openings, 3);
    EXPECT_EQ(tracing->backing.size(), 1u);
}

TEST(Map, ColourWashesAreNotInk) {
    // Strong colours are dark to the eye but bright in one channel; ink is dark in all.
    for (const raster::Rgb wash : {raster::Rgb{200, 30, 30}, raster::Rgb{30, 150, 60},
                                   raster::Rgb{40, 60, 190}, raster::Rgb{134, 167, 141}}) {
        Drawing drawing(300, 200);
        drawing.fill(rectangle(40, 40, 220, 120), wash)
            .ring(rectangle(40, 40, 220, 120), rectangle(48, 48, 204, 104));
        const auto tracing = traced(drawing.picture(), 0.1, {});
        ASSERT_TRUE(tracing);
        ASSERT_EQ(tracing->areas.size(), 1u);
        EXPECT_LT(raster::colourDistance(tracing->areas[0].colour, wash), 0.01);
    }
}

TEST(Map, AnOutlineCutOffByThePicturesEdgeIsOutside) {
    Drawing drawing(200, 200);
    drawing.ring(disc({0, 100}, 60), disc({0, 100}, 50)); // half of it lies outside
    drawing.ring(disc({120, 100}, 40), disc({120, 100}, 32));
    const auto tracing = traced(drawing.picture(), 0.1, {});
    EXPECT_EQ(tracing->areas.size(), 1u);
    EXPECT_TRUE(tracing->leaks.empty());
}

struct Gap {
    double widthPx;
    bool isTold;
};

TEST(Leaks, GapsUpToTheLimitAreToldWithTheirWidth) {
    for (const Gap& gap :
         {Gap{4, true}, Gap{8, true}, Gap{12, true}, Gap{17, true}, Gap{34, false}, Gap{60, false}}) {
        Drawing drawing(400, 300);
        drawing.ring(rectangle(60, 60, 280, 180), rectangle(68, 68, 264, 164));
        drawing.fill(rectangle(330, 150 - gap.widthPx / 2, 14, gap.widthPx), {255, 255, 255});
        const auto tracing = traced(drawing.picture(), 0.1, {}); // the limit of 3 mm is 30 px
        ASSERT_EQ(tracing->leaks.size(), gap.isTold ? 1u : 0u) << gap.widthPx;
        if (gap.isTold) {
            EXPECT_NEAR(tracing->leaks[0].widthPx, gap.widthPx, 2.5);
            EXPECT_TRUE(tracing->leaks[0].toOutside);
        }
    }
}

} // namespace
} // namespace thinline::trace
