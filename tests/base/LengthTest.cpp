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
