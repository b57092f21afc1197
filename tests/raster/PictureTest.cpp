// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Picture.h"

#include <gtest/gtest.h>

#include <random>

namespace thinline::raster {
namespace {

Grey greyOf(std::vector<std::uint8_t> values) {
    return {static_cast<int>(values.size()), 1, std::move(values)};
}

/// Otsu (1979) by its definition: the threshold with the least weighted variance within the two classes.
int otsuByDefinition(const Grey& grey) {
    double best = 1e300;
    int threshold = -1;
    for (int t = 0; t < 255; ++t) {
        double n[2]{}, sum[2]{}, square[2]{};
        for (std::uint8_t v : grey.values) {
            const int side = v <= t ? 0 : 1;
            n[side] += 1;
            sum[side] += v;
            square[side] += static_cast<double>(v) * v;
        }
        if (n[0] == 0 || n[1] == 0)
            continue;
        double within = 0;
        for (int side : {0, 1})
            within += square[side] - sum[side] * sum[side] / n[side];
        if (within < best - 1e-6) {
            best = within;
            threshold = t;
        }
    }
    return threshold;
}

TEST(Otsu, PartsAsItsDefinitionDoes) {
    std::mt19937 random(11);
    for (int round = 0; round < 20; ++round) {
        std::normal_distribution<double> dark(40 + round, 12), light(200 - round, 20);
        std::vector<std::uint8_t> values;
        for (int i = 0; i < 3000; ++i)
            values.push_back(
                static_cast<std::uint8_t>(std::clamp(i % 5 ? light(random) : dark(random), 0.0, 255.0)));
        const Grey grey = greyOf(values);
        // Within an empty stretch every threshold is equally good; ours takes the middle, the definition the
        // first.
        const int ours = otsuThreshold(grey), first = otsuByDefinition(grey);
        EXPECT_EQ(inkMask(grey, ours).values, inkMask(grey, first).values) << ours << " against " << first;
    }
}

TEST(Otsu, OneSingleBrightnessIsNoInk) {
    for (std::uint8_t v : {0, 128, 255}) {
        const Grey grey = greyOf(std::vector<std::uint8_t>(100, v));
        EXPECT_LT(otsuThreshold(grey), v);
    }
}

/// A picture of vertical bands, each of one level, `wide` px wide, with a soft column between two.
Grey bands(const std::vector<std::pair<int, int>>& levelsAndWidths) {
    Grey grey;
    grey.height = 40;
    std::vector<std::uint8_t> row;
    for (const auto& [level, wide] : levelsAndWidths) {
        if (!row.empty())
            row.push_back(static_cast<std::uint8_t>((row.back() + level) / 2));
        row.insert(row.end(), static_cast<size_t>(wide), static_cast<std::uint8_t>(level));
    }
    grey.width = static_cast<int>(row.size());
    for (int y = 0; y < grey.height; ++y)
        grey.values.insert(grey.values.end(), row.begin(), row.end());
    return grey;
}

struct InkRow {
    const char* what;
    Grey grey;
    int above; ///< the threshold must be at least this
    int below; ///< and less than this
};

TEST(InkThreshold, PartsInkFromWashesAndPaper) {
    const InkRow rows[] = {
        {"ink on white", bands({{255, 80}, {20, 6}, {255, 80}}), 80, 200},
        {"ink on tinted paper", bands({{210, 80}, {30, 6}, {210, 80}}), 70, 180},
        {"a wash wider than the ink", bands({{255, 40}, {20, 4}, {167, 90}, {20, 4}, {255, 40}}), 40, 150},
        {"two washes", bands({{255, 30}, {25, 4}, {200, 50}, {25, 4}, {140, 60}, {25, 4}, {255, 30}}), 40,
         130},
        {"a dark wash", bands({{255, 40}, {15, 6}, {90, 70}, {15, 6}, {255, 40}}), 25, 88},
        {"grey ink on white", bands({{255, 80}, {120, 6}, {255, 80}}), 130, 250},
    };
    for (const InkRow& row : rows) {
        const int threshold = inkThreshold(row.grey);
        EXPECT_GE(threshold, row.above) << row.what;
        EXPECT_LT(threshold, row.below) << row.what;
    }
}

TEST(InkThreshold, NoiseFallsBackToAllPixels) {
    std::mt19937 random(6);
    Grey grey{60, 60, {}};
    for (int i = 0; i < 3600; ++i)
        grey.values.push_back(static_cast<std::uint8_t>(random()));
    EXPECT_EQ(inkThreshold(grey), otsuThreshold(grey));
    EXPECT_EQ(inkThreshold(Grey{}), otsuThreshold(Grey{}));
}

TEST(InkLine, CoversItsWidthWithSoftEdgesAndStaysInside) {
    Grey grey{20, 20, std::vector<std::uint8_t>(400, 255)};
    inkLine(grey, 5, 10.25, 15, 10.25, 4, 20); // from 8.25 to 12.25
    EXPECT_EQ(grey.at(10, 9), 20);
    EXPECT_EQ(grey.at(10, 11), 20);
    EXPECT_EQ(grey.at(10, 13), 255);
    EXPECT_EQ(grey.at(10, 8), 255 + std::lround(0.75 * (20 - 255)));
    EXPECT_EQ(grey.at(10, 12), 255 + std::lround(0.25 * (20 - 255)));
    inkLine(grey, -50, -50, 500, -40, 3, 0); // outside: nothing happens
    EXPECT_EQ(grey.at(0, 0), 255);
}

TEST(Colour, DistanceIsPerceptual) {
    EXPECT_DOUBLE_EQ(colourDistance({10, 20, 30}, {10, 20, 30}), 0);
    EXPECT_NEAR(colourDistance({0, 0, 0}, {255, 255, 255}), 1.0, 1e-3); // Oklab: black 0, white 1
    EXPECT_LT(colourDistance({200, 70, 45}, {205, 75, 50}), 0.03);
    EXPECT_GT(colourDistance({200, 70, 45}, {60, 125, 140}), 0.15);
}

TEST(Colour, MedianIgnoresAFewStrays) {
    Picture picture{5, 1, {9, 9, 9, 200, 10, 20, 200, 10, 20, 200, 10, 20, 0, 0, 0}};
    EXPECT_EQ(medianColour(picture, {0, 1, 2, 3, 4}), (Rgb{200, 10, 20}));
}

} // namespace
} // namespace thinline::raster
