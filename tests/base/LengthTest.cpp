// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/Length.h"

#include <gtest/gtest.h>

namespace thinline::base {
namespace {

struct Reading {
    const char* text;
    LengthUnit unit;
    double mm;
};

TEST(Length, ReadsWhatPeopleType) {
    const Reading rows[] = {
        {"240", LengthUnit::Millimetre, 240},
        {"240mm", LengthUnit::Millimetre, 240},
        {" 24,5 cm ", LengthUnit::Inch, 245},
        {"0.24 m", LengthUnit::Millimetre, 240},
        {"11 1/2 in", LengthUnit::Millimetre, 292.1},
        {"11.5\"", LengthUnit::Millimetre, 292.1},
        {"11½ in", LengthUnit::Millimetre, 292.1},
        {"3/4 inch", LengthUnit::Millimetre, 19.05},
        {"9,5", LengthUnit::Inch, 241.3},
        {"240 MM", LengthUnit::Inch, 240},
        {"8.5in", LengthUnit::Millimetre, 215.9},
    };
    for (const Reading& row : rows) {
        const auto length = parseLength(row.text, row.unit);
        ASSERT_TRUE(length) << row.text << ": " << length.error().message;
        EXPECT_NEAR(length->inMm(), row.mm, 1e-9) << row.text;
    }
}

struct Refusal {
    const char* text;
    const char* says;
};

TEST(Length, RefusesTheRestInASentence) {
    const Refusal rows[] = {
        {"", "is empty"},
        {"   ", "is empty"},
        {"0", "is zero"},
        {"0 mm", "is zero"},
        {"-12 mm", "is negative"},
        {"wide", "is not a number"},
        {"12 furlongs", "unit"},
        {"1,200,000 mm", "not a number"},
        {"1e9", "unit"},
        {"nan", "not a number"},
        {"inf", "not a number"},
        {"999999 m", "out of range"},
        {"0.01 mm", "out of range"},
        {"1/0 in", "not a number"},
        {"12 3 mm", "not a number"},
    };
    for (const Refusal& row : rows) {
        const auto length = parseLength(row.text, LengthUnit::Millimetre);
        ASSERT_FALSE(length) << row.text;
        EXPECT_NE(length.error().message.find(row.says), std::string::npos)
            << row.text << ": " << length.error().message;
    }
}

TEST(Length, SizesAreAWidthAndAHeight) {
    struct Row {
        const char* text;
        double width, height;
    };
    const Row rows[] = {{"200x150mm", 200, 150},        {"200mm x 150mm", 200, 150},
                        {"8x10in", 203.2, 254},         {"8 x 10 in", 203.2, 254},
                        {"8 \u00d7 10 in", 203.2, 254}, {"24,5 x 30 cm", 245, 300},
                        {"8 1/2 x 11\"", 215.9, 279.4}, {"8\u00bd x 11\u00bd in", 215.9, 292.1},
                        {"20 cm X 100 mm", 200, 100},   {"200x150", 200, 150}};
    for (const Row& row : rows) {
        const auto size = parseSize(row.text, LengthUnit::Millimetre);
        ASSERT_TRUE(size) << row.text << ": " << size.error().message;
        EXPECT_NEAR(size->width.inMm(), row.width, 1e-9) << row.text;
        EXPECT_NEAR(size->height.inMm(), row.height, 1e-9) << row.text;
    }
    for (const char* text : {"", "200", "x", "200x", "x150mm", "wide x high", "200x150ell", "-2x3mm"})
        EXPECT_FALSE(parseSize(text, LengthUnit::Millimetre)) << text;
    EXPECT_EQ(parseSize("200", LengthUnit::Millimetre).error().message,
              "'200' is no size; type a width and a height like 200 x 150 mm.");
}

TEST(Length, AreasMayBeZeroButNotNegative) {
    EXPECT_DOUBLE_EQ(*parseAreaMm2("0,5 mm²"), 0.5);
    EXPECT_DOUBLE_EQ(*parseAreaMm2("0"), 0.0);
    EXPECT_NEAR(*parseAreaMm2("1 in2"), 645.16, 1e-9);
    EXPECT_FALSE(parseAreaMm2("-1"));
    EXPECT_FALSE(parseAreaMm2("1 acre"));
}

TEST(Length, WritesSizesTheSameEverywhere) {
    EXPECT_EQ(formatSize(412, 61.04, LengthUnit::Millimetre), "412.0 × 61.0 mm");
    EXPECT_EQ(formatLength(292.1, LengthUnit::Inch), "11.500 in");
    EXPECT_EQ(formatNumber(-0.001, 1), "0.0");
    EXPECT_EQ(formatCount(1234567), "1\u2009234\u2009567");
    EXPECT_EQ(formatCount(12), "12");
}

} // namespace
} // namespace thinline::base
