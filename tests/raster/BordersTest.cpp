// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Borders.h"

#include "support/Drawings.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

#include <map>
#include <random>
#include <set>

namespace thinline::raster {
namespace {

/// Labels from rows of digits.
LabelMap mapOf(const std::vector<std::string>& rows) {
    LabelMap map{static_cast<int>(rows[0].size()), static_cast<int>(rows.size()), {}};
    for (const std::string& row : rows)
        for (char c : row)
            map.labels.push_back(c - '0');
    return map;
}

TEST(Borders, ASquareInAFieldIsOneRing) {
    const auto borders = findBorders(mapOf({"0000", "0110", "0110", "0000"}), {0, 0});
    ASSERT_TRUE(borders);
    EXPECT_TRUE(borders->junctions.empty());
    ASSERT_EQ(borders->all.size(), 2u); // the frame and the square
    for (const Border& border : borders->all)
        EXPECT_EQ(border.from, -1);
    const Border& square = borders->all[borders->all[0].left < 0 ? 1 : 0];
    EXPECT_EQ(square.right, 1);
    EXPECT_EQ(square.left, 0);
    EXPECT_EQ(square.sides.size(), 8u);
}

TEST(Borders, ThreeLabelsMeetInJunctions) {
    const auto borders = findBorders(mapOf({"0011", "0011", "2222"}), {0, 0, 0});
    EXPECT_EQ(borders->junctions.size(), 4u); // one inside, three on the frame
    EXPECT_EQ(borders->all.size(), 6u);       // V - E + F: 4 - 6 + 3 = 1
}

TEST(Borders, WherePixelsMeetAtACornerTheLowerRankRunsThrough) {
    const LabelMap map = mapOf({"0000", "0100", "0010", "0000"});
    const auto joined = findBorders(map, {1, 0}), parted = findBorders(map, {0, 1});
    EXPECT_EQ(joined->all.size(), 2u); // the two pixels have one ring
    EXPECT_EQ(parted->all.size(), 3u); // a ring each
}

// The naive referee: every pair of neighbouring pixels with different labels is one side of one border.
TEST(Borders, EverySideOfNoiseIsWalkedExactlyOnce) {
    for (unsigned seed = 1; seed <= 20; ++seed) {
        std::mt19937 random(seed);
        const int labels = 2 + static_cast<int>(seed % 4);
        LabelMap map{23, 17, {}};
        for (int i = 0; i < 23 * 17; ++i)
            map.labels.push_back(static_cast<std::int32_t>(random() % static_cast<unsigned>(labels)));
        std::vector<std::int32_t> rank(static_cast<size_t>(labels));
        for (size_t i = 0; i < rank.size(); ++i)
            rank[i] = static_cast<std::int32_t>(i);
        const auto borders = findBorders(map, rank);
        std::set<std::tuple<int, int, bool>> walked;
        for (const Border& border : borders->all)
            for (const Side& s : border.sides) {
                const int x = s.x - (s.way == 2), y = s.y - (s.way == 3);
                EXPECT_TRUE(walked.insert({x, y, s.way % 2 == 0}).second) << "walked twice";
                const bool isLevel = s.way % 2 == 0;
                const std::int32_t one = map.at(x, y), other = isLevel ? map.at(x, y - 1) : map.at(x - 1, y);
                const bool isDown = s.way == 0 || s.way == 3; // the one lies on the right
                EXPECT_EQ(border.right, isDown ? one : other);
                EXPECT_EQ(border.left, isDown ? other : one);
            }
        size_t sides = 0;
        for (int y = 0; y <= 17; ++y)
            for (int x = 0; x <= 23; ++x) {
                sides += map.at(x, y) != map.at(x, y - 1);
                sides += map.at(x, y) != map.at(x - 1, y);
            }
        EXPECT_EQ(walked.size(), sides) << "seed " << seed;
    }
}

TEST(EdgePoints, LieOnAStraightEdgeOfAnyslope) {
    for (double degrees : {0.0, 7.0, 20.0, 33.0, 45.0, 61.0, 90.0}) {
        const double turn = degrees * std::numbers::pi / 180;
        const geometry::Point along{std::cos(turn), std::sin(turn)}, middle{60.3, 59.8};
        // A half plane, drawn softly by exact coverage.
        const geometry::Point across{-along.y, along.x};
        const geometry::Shape half{geometry::contourThrough({middle - along * 200, middle + along * 200,
                                                             middle + along * 200 + across * 300,
                                                             middle - along * 200 + across * 300}),
                                   {}};
        support::Drawing drawing(120, 120);
        const Grey grey = brightness(drawing.ink(half).picture());
        LabelMap map{120, 120, {}};
        for (std::uint8_t v : inkMask(grey, 139).values)
            map.labels.push_back(v ? 1 : 0);
        const auto borders = findBorders(map, {1, 0});
        int seen = 0;
        for (const Border& border : borders->all) {
            if (border.left < 0 || border.right < 0)
                continue;
            for (const geometry::Point p : edgePoints(
                     border.sides, false,
                     [&](int x, int y) { return grey.at(std::clamp(x, 0, 119), std::clamp(y, 0, 119)); },
                     {})) {
                if (p.x < 5 || p.y < 5 || p.x > 115 || p.y > 115)
                    continue;
                ++seen;
                EXPECT_NEAR(geometry::cross(along, p - middle), 0, 0.02) << degrees << " degrees";
            }
        }
        EXPECT_GT(seen, 60) << degrees << " degrees";
    }
}

TEST(EdgePoints, AThinLineIsAsWideAsItIsThoughItIsNeverPlain) {
    const double turn = 0.3, width = 1.4;
    const geometry::Point along{std::cos(turn), std::sin(turn)}, across{-along.y, along.x},
        middle{60.2, 60.7};
    const geometry::Shape line{geometry::contourThrough({middle - along * 200 - across * (width / 2),
                                                         middle + along * 200 - across * (width / 2),
                                                         middle + along * 200 + across * (width / 2),
                                                         middle - along * 200 + across * (width / 2)}),
                               {}};
    const Grey grey = brightness(support::Drawing(120, 120).ink(line).picture());
    LabelMap map{120, 120, {}};
    for (std::uint8_t v : inkMask(grey, 139).values)
        map.labels.push_back(v ? 1 : 0);
    const auto off = [&](const EdgeReading& reading) {
        double sum = 0;
        int count = 0;
        const auto borders = findBorders(map, {1, 0});
        for (const Border& border : borders->all)
            if (border.left >= 0 && border.right >= 0)
                for (const geometry::Point p : edgePoints(
                         border.sides, border.from < 0,
                         [&](int x, int y) { return grey.at(std::clamp(x, 0, 119), std::clamp(y, 0, 119)); },
                         reading)) {
                    sum += std::abs(geometry::cross(along, p - middle));
                    ++count;
                }
        return sum / count;
    };
    const double known =
        off({.darkest =
                 brightness(support::Drawing(9, 9).ink(support::rectangle(0, 0, 9, 9)).picture()).at(4, 4)});
    EXPECT_NEAR(known, width / 2, 0.06);
    EXPECT_GT(off({}), known + 0.03) << "without the level it comes out too wide";
}

} // namespace
} // namespace thinline::raster
