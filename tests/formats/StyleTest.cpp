// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/svg/Style.h"

#include "formats/svg/PathData.h"

#include <gtest/gtest.h>

namespace thinline::formats::svg {
namespace {

constexpr raster::Rgb kRed{255, 0, 0}, kGreen{0, 128, 0}, kBlue{0, 0, 255};

// CSS 2.1, section 6.4: the more specific rule wins, of equal ones the later.
TEST(StyleSheet, TheMoreSpecificRuleWins) {
    const struct {
        const char* css;
        const char *element, *classes, *id;
        raster::Rgb fill;
    } rows[] = {
        {"path{fill:red} .a{fill:blue}", "path", "a", "", kBlue},
        {".a{fill:blue} path{fill:red}", "path", "a", "", kBlue},
        {"#x{fill:green} .a.b{fill:blue} path{fill:red}", "path", "a b", "x", kGreen},
        {".a.b{fill:blue} .a{fill:red}", "rect", "b a", "", kBlue},
        {".a.c{fill:blue} .a{fill:red}", "rect", "b a", "", kRed},
        {"path.a{fill:blue} .a{fill:red}", "rect", "a", "", kRed},
        {".a{fill:blue} .b{fill:red}", "rect", "b a", "", kRed},
        {"*{fill:green}", "circle", "", "", kGreen},
        {"rect,path , circle{fill:blue}", "circle", "", "", kBlue},
        {"/*x*/.a{/*fill:red;*/fill:blue}/*", "path", "a", "", kBlue},
        {"@charset 'utf-8'; .a{fill:blue}", "path", "a", "", kBlue},
        {"@media print{.a{fill:red}} .a{fill:blue}", "path", "a", "", kBlue},
        {".a{fill:blue !important}", "path", "a", "", kBlue},
    };
    for (const auto& row : rows) {
        StyleSheet sheet;
        sheet.add(row.css);
        Style style;
        sheet.applyTo(style, row.element, row.classes, row.id);
        EXPECT_EQ(style.fill, row.fill) << row.css;
    }
}

TEST(StyleSheet, CountsWhatItSkips) {
    StyleSheet sheet;
    sheet.add(
        "g path{fill:red} a>b{} .x:hover{fill:red} [q]{fill:red} @font-face{src:url(x)} .ok{fill:blue} ,{}");
    EXPECT_EQ(sheet.skipped(), 6);
    sheet.add("never closed { fill: red");
    sheet.add("}} .b { fill");
}

TEST(Style, DeclarationsAndInheritance) {
    Style style;
    style.applyDeclarations(
        " FILL : red ; stroke:blue;stroke-width:2.5px; fill-rule: evenodd;; nonsense ; x:y");
    EXPECT_EQ(style.fill, kRed);
    EXPECT_EQ(style.stroke, kBlue);
    EXPECT_EQ(style.strokeWidth, 2.5);
    EXPECT_TRUE(style.isEvenOdd);
    style.apply("fill", "inherit");
    EXPECT_EQ(style.fill, kRed);
    style.apply("fill", "none");
    EXPECT_FALSE(style.fill);
    style.apply("fill", "no such colour");
    EXPECT_EQ(style.fill, (raster::Rgb{0, 0, 0}));
    style.apply("color", "green");
    style.apply("stroke", "currentColor");
    EXPECT_EQ(style.stroke, kGreen);
    style.apply("fill", "url(#g) red");
    EXPECT_TRUE(style.fill) << "a gradient fills: the area counts";
    style.apply("mask", "url(#m)");
    EXPECT_EQ(style.said, (std::vector<std::string>{"gradients and patterns", "masks"}));
    style.apply("display", "none");
    style.apply("display", "inline");
    EXPECT_FALSE(style.isDisplayed) << "nothing inside a hidden group is shown again";
    style.apply("visibility", "hidden");
    style.apply("visibility", "visible");
    EXPECT_TRUE(style.isVisible);
}

TEST(Scanner, TakesNumbersAsTheyAreCrammed) {
    Scanner scan("1.5.5-2e1+3,,4 1em");
    std::vector<double> found;
    while (const auto number = scan.number())
        found.push_back(*number);
    EXPECT_EQ(found, (std::vector<double>{1.5, 0.5, -20, 3})) << "two commas are a mistake";
    Scanner unit("1em 0110");
    EXPECT_EQ(unit.number(), 1);
    EXPECT_EQ(unit.word(), "em");
    EXPECT_EQ(unit.flag(), false);
    EXPECT_EQ(unit.flag(), true);
    EXPECT_EQ(unit.number(), 10);
    EXPECT_TRUE(unit.atEnd());
    EXPECT_FALSE(Scanner("nan").number());
    EXPECT_FALSE(Scanner("1e999").number());
}

} // namespace
} // namespace thinline::formats::svg
