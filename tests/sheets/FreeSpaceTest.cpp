// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "sheets/FreeSpace.h"

#include <gtest/gtest.h>

#include <random>

namespace thinline::sheets {
namespace {

using geometry::Box;
using geometry::Point;

TEST(FreeSpace, AnEmptySheetTakesWhatIsAsLargeAsItselfAndNoMore) {
    const FreeSpace space({{5, 5}, {105, 65}});
    ASSERT_TRUE(space.find(100, 60, false));
    EXPECT_EQ(space.find(100, 60, false)->corner, (Point{5, 5}));
    EXPECT_FALSE(space.find(100.1, 60, false));
    EXPECT_FALSE(space.find(60, 100, false));
    EXPECT_TRUE(space.find(60, 100, true)->isTurned);
}

TEST(FreeSpace, TakingTheMiddleLeavesFourSides) {
    FreeSpace space({{0, 0}, {100, 100}});
    space.take({{40, 40}, {60, 60}});
    EXPECT_TRUE(space.find(100, 40, false));
    EXPECT_TRUE(space.find(40, 100, false));
    EXPECT_FALSE(space.find(41, 100, false));
    EXPECT_FALSE(space.find(50, 50, true));
    space.take({{-10, -10}, {110, 110}});
    EXPECT_FALSE(space.find(0.1, 0.1, true)) << "nothing is left";
}

TEST(FreeSpace, TakingWhatLiesOutsideChangesNothing) {
    FreeSpace space({{0, 0}, {50, 50}});
    space.take({{50, 0}, {80, 50}});
    space.take({{0, -20}, {50, 0}});
    EXPECT_TRUE(space.find(50, 50, false));
}

// The naive referee: a grid of unit cells. Whatever is found is free, and what the grid can place is found.
TEST(FreeSpace, AgreesWithAGridOfCells) {
    std::mt19937 random(9);
    for (int round = 0; round < 40; ++round) {
        constexpr int kSide = 16;
        FreeSpace space({{0, 0}, {kSide, kSide}});
        std::vector<std::vector<bool>> taken(kSide, std::vector<bool>(kSide, false));
        const auto isFree = [&](int x, int y, int w, int h) {
            for (int i = y; i < y + h; ++i)
                for (int k = x; k < x + w; ++k)
                    if (taken[static_cast<size_t>(i)][static_cast<size_t>(k)])
                        return false;
            return true;
        };
        for (int step = 0; step < 12; ++step) {
            const int w = 1 + static_cast<int>(random() % 7), h = 1 + static_cast<int>(random() % 7);
            bool exists = false;
            for (int y = 0; y + h <= kSide && !exists; ++y)
                for (int x = 0; x + w <= kSide && !exists; ++x)
                    exists = isFree(x, y, w, h);
            const auto spot = space.find(w, h, false);
            ASSERT_EQ(spot.has_value(), exists) << "round " << round << ", " << w << " x " << h;
            if (!spot)
                continue;
            const int x = static_cast<int>(spot->corner.x), y = static_cast<int>(spot->corner.y);
            ASSERT_TRUE(isFree(x, y, w, h));
            space.take({spot->corner, spot->corner + Point{static_cast<double>(w), static_cast<double>(h)}});
            for (int i = y; i < y + h; ++i)
                for (int k = x; k < x + w; ++k)
                    taken[static_cast<size_t>(i)][static_cast<size_t>(k)] = true;
        }
    }
}

} // namespace
} // namespace thinline::sheets
