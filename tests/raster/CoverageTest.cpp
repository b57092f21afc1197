// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Coverage.h"

#include <gtest/gtest.h>

#include <cmath>
#include <map>
#include <random>

namespace thinline::raster {
namespace {

using geometry::Point;
using geometry::Polygon;

std::map<std::pair<int, int>, double> byPixel(const Polygon& ring) {
    std::map<std::pair<int, int>, double> out;
    for (const Covered& c : coveredPixels(ring)) {
        EXPECT_EQ(out.count({c.x, c.y}), 0u) << "a pixel comes once";
        out[{c.x, c.y}] = c.area;
    }
    return out;
}

TEST(Coverage, OfAPixelAlignedSquareIsWholePixels) {
    const auto covered = byPixel({{2, 3}, {5, 3}, {5, 6}, {2, 6}});
    ASSERT_EQ(covered.size(), 9u);
    for (const auto& [pixel, area] : covered)
        EXPECT_DOUBLE_EQ(area, 1) << pixel.first << " " << pixel.second;
}

TEST(Coverage, OfAHalfPixelTriangleIsItsArea) {
    const auto covered = byPixel({{1, 1}, {2, 1}, {1, 2}});
    ASSERT_EQ(covered.size(), 1u);
    EXPECT_DOUBLE_EQ(covered.begin()->second, 0.5);
}

TEST(Coverage, IsNegativeTheOtherWayRound) {
    const auto covered = byPixel({{2, 6}, {5, 6}, {5, 3}, {2, 3}});
    ASSERT_EQ(covered.size(), 9u);
    EXPECT_DOUBLE_EQ(covered.begin()->second, -1);
}

// The referee: a pixel's area by 24 x 24 looks at it, and all of them together by the shoelace formula.
TEST(Coverage, AgreesWithLooksAtEveryPixel) {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> place(-3, 13);
    for (int round = 0; round < 8; ++round) {
        const Polygon ring{
            {place(random), place(random)}, {place(random), place(random)}, {place(random), place(random)}};
        const double turn = geometry::signedArea(ring) > 0 ? 1 : -1;
        const auto covered = byPixel(ring);
        double all = 0;
        for (const auto& [pixel, area] : covered)
            all += area;
        EXPECT_NEAR(all, geometry::signedArea(ring), 1e-9);
        constexpr int kLooks = 24;
        for (int y = -4; y < 14; ++y)
            for (int x = -4; x < 14; ++x) {
                int inside = 0;
                for (int j = 0; j < kLooks; ++j)
                    for (int i = 0; i < kLooks; ++i)
                        inside += geometry::contains(geometry::Polygons{ring},
                                                     Point{x + (i + 0.5) / kLooks, y + (j + 0.5) / kLooks});
                const auto found = covered.find({x, y});
                EXPECT_NEAR(found == covered.end() ? 0 : found->second, turn * inside / (kLooks * kLooks),
                            0.03)
                    << "round " << round << " pixel " << x << " " << y;
            }
    }
}

} // namespace
} // namespace thinline::raster
