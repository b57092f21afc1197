// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/Parameter.h"

#include <gtest/gtest.h>

#include <cmath>

namespace thinline::base {
namespace {

const Parameter kGap{"gap", "Gap", Quantity::Length, 5, -10, 100};
const Parameter kArea{"area", "Area", Quantity::Area, 5, 0, 100};
const Parameter kCount{"count", "How many", Quantity::Count, 3, 1, 9};
const Parameter kCorners{"corners", "Corners", Quantity::Choice, 0, 0, 0, "round|pointed|square"};

TEST(Parameter, ReadsValuesAsPeopleWriteThem) {
    struct Row {
        Parameter parameter;
        std::string text;
        double value;
    };
    for (const Row& row : std::vector<Row>{{kGap, "3.5", 3.5},
                                           {kGap, "1 in", 25.4},
                                           {kGap, "-2", -2},
                                           {kGap, "-2 mm", -2},
                                           {kGap, "0", 0},
                                           {kArea, "7 mm2", 7},
                                           {kArea, "7 mm²", 7},
                                           {kCount, "4", 4},
                                           {kCorners, "pointed", 1}}) {
        const auto value = readValue(row.parameter, row.text);
        ASSERT_TRUE(value) << row.text << ": " << value.error().message;
        EXPECT_NEAR(*value, row.value, 1e-12) << row.text;
    }
    for (const auto& [parameter, text, says] : std::vector<std::tuple<Parameter, std::string, std::string>>{
             {kCorners, "soft", "corners is 'soft'; it is one of round, pointed, square."},
             {kCount, "many", "count is 'many'; it takes a number, 1 to 9."},
             {kArea, "7 kg", "area is '7 kg'; it takes a number, 0 to 100 mm²."}}) {
        const auto value = readValue(parameter, text);
        ASSERT_FALSE(value) << text;
        EXPECT_EQ(value.error().message, says);
    }
    EXPECT_FALSE(readValue(kGap, "wide"));
    EXPECT_FALSE(readValue(kCount, ""));
}

TEST(Parameter, FillsInDefaultsAndHoldsTheRange) {
    const std::vector<Parameter> all{kGap, kCount, kCorners};
    EXPECT_EQ(*checkedValues(all, {}), (std::vector<double>{5, 3, 0}));
    EXPECT_EQ(*checkedValues(all, {-10, 8.6}), (std::vector<double>{-10, 9, 0}));
    for (const std::vector<double>& bad :
         {std::vector<double>{101}, {5, 0}, {5, 3, 3}, {5, 3, -1}, {std::nan("")}, {HUGE_VAL}})
        EXPECT_FALSE(checkedValues(all, bad));
    EXPECT_EQ(checkedValues(all, {101}).error().message, "\"Gap\" goes from -10 to 100 mm.");
}

TEST(Parameter, IsWrittenWithItsUnit) {
    EXPECT_EQ(valueText(kGap, 3.5), "3.5 mm");
    EXPECT_EQ(valueText(kArea, 10), "10 mm²");
    EXPECT_EQ(valueText(kCount, 7), "7");
    EXPECT_EQ(valueText(kCorners, 1), "pointed");
}

} // namespace
} // namespace thinline::base
