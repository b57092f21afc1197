// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/plotter/ReadPlotter.h"
#include "formats/plotter/WritePlotter.h"
#include "geometry/Measures.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

namespace thinline::formats::plotter {
namespace {

const design::Load kLoad{{"square12", "12 × 12 in", 304.8, 304.8, 6.35}, {}};

design::Pass passOf(design::ToolKind tool, const std::vector<geometry::Line>& lines, int times = 1) {
    design::Pass out;
    out.operation = tool == design::ToolKind::Stylus ? design::Operation::Score : design::Operation::Cut;
    out.tool = tool;
    out.times = times;
    for (const geometry::Line& line : lines)
        out.paths.push_back({line, {}, 0});
    return out;
}

// 1016 units are an inch (HP-GL): from (25.4, 279.4), which is 25.4 mm above the lower edge, 50.8 mm to the right.
TEST(Plotter, UnitsAndOrderAreTheStandards) {
    const geometry::Line line{{25.4, 279.4}, {geometry::Segment::line({76.2, 279.4})}};
    const auto files = writePlotter({0, {passOf(design::ToolKind::ShallowBlade, {line})}}, kLoad);
    ASSERT_TRUE(files) << files.error().message;
    ASSERT_EQ(files->size(), 1u);
    EXPECT_EQ(files->front().text, "IN;SP3;PU;\nPU1016,1016;PD3048,1016;PU;\nSP0;\n");
    EXPECT_EQ(files->front().name, "load-1-1-cut.plt");
}

TEST(Plotter, WhatIsWrittenIsReadBackWithinARoundingAndEveryLineOnce) {
    const geometry::Contour disc = support::disc({100, 100}, 40).outline,
                            square = support::rectangle(20, 200, 33.333, 44.444).outline;
    const geometry::Line fold{{150, 150}, {geometry::Segment::line({250, 190})}};
    const auto files = writePlotter({1,
                                     {passOf(design::ToolKind::Stylus, {fold}),
                                      passOf(design::ToolKind::ShallowBlade, {disc, square}, 2)}},
                                    kLoad);
    ASSERT_TRUE(files);
    ASSERT_EQ(files->size(), 2u) << "a file for each tool";
    const auto scored = readPlotter((*files)[0].text), cut = readPlotter((*files)[1].text);
    ASSERT_TRUE(scored && cut);
    EXPECT_TRUE(scored->endsLifted && cut->endsLifted);
    EXPECT_TRUE(scored->skipped.empty() && cut->skipped.empty());
    ASSERT_EQ(scored->lines.size(), 1u);
    EXPECT_EQ(scored->lines[0].pen, 2);
    ASSERT_EQ(cut->lines.size(), 4u) << "two outlines, two rounds";
    EXPECT_EQ(cut->lines[0].way, cut->lines[2].way);
    const auto away = [](const geometry::Contour& from, const geometry::Polygon& way) {
        double worst = 0;
        for (const geometry::Point p : way)
            worst = std::max(worst, geometry::distanceTo(from, {p.x, 304.8 - p.y}));
        return worst;
    };
    EXPECT_LT(away(disc, cut->lines[0].way), 0.03) << "curves within 30 um";
    EXPECT_LT(away(square, cut->lines[1].way), 0.0125 * std::sqrt(2) + 1e-9) << "12.5 um per axis";
    EXPECT_EQ(cut->lines[1].way.front(), cut->lines[1].way.back());
    // And no place of the outline is far from what is read: chords of 10 um.
    for (const geometry::Point p : geometry::flatten(disc, 0.001)) {
        double nearest = 1e9;
        const geometry::Polygon& way = cut->lines[0].way;
        for (size_t i = 0; i + 1 < way.size(); ++i)
            nearest = std::min(nearest, geometry::distanceToStretch({p.x, 304.8 - p.y}, way[i], way[i + 1]));
        EXPECT_LT(nearest, 0.03);
    }
}

TEST(Plotter, ALineThatLeavesTheMatIsNotWritten) {
    for (const geometry::Point end : {geometry::Point{299, 100}, {-5, 100}, {100, 300}, {100, 6}}) {
        const geometry::Line line{{100, 100}, {geometry::Segment::line(end)}};
        EXPECT_FALSE(writePlotter({0, {passOf(design::ToolKind::ShallowBlade, {line})}}, kLoad)) << end.x;
    }
    // A curve that bulges out between two places inside.
    const geometry::Line bulge{{280, 100}, {geometry::Segment::curve({320, 120}, {320, 140}, {280, 160})}};
    EXPECT_FALSE(writePlotter({0, {passOf(design::ToolKind::ShallowBlade, {bulge})}}, kLoad));
    const geometry::Line edge{{6.35, 6.35}, {geometry::Segment::line({298.45, 298.45})}};
    EXPECT_TRUE(writePlotter({0, {passOf(design::ToolKind::ShallowBlade, {edge})}}, kLoad));
}

TEST(ReadPlotter, TakesWhatOthersWriteAndSaysWhatItSkips) {
    const auto page = readPlotter("in; sp1 pa 0 0 pd 400,0,400,400\nPR;PD-400,-400;PU;VS10;LBhello\x03SP0;");
    ASSERT_TRUE(page) << page.error().message;
    ASSERT_EQ(page->lines.size(), 1u);
    EXPECT_EQ(page->lines[0].way.size(), 4u);
    EXPECT_EQ(page->lines[0].way.back(), (geometry::Point{0, 0}));
    EXPECT_EQ(page->skipped, std::vector<std::string>{"VS"});
    EXPECT_TRUE(page->endsLifted);
    EXPECT_FALSE(readPlotter("IN;SP1;PD0,0,100,100;")->endsLifted);
}

TEST(ReadPlotter, BrokenFilesSayWhere) {
    for (const char* broken :
         {"PD1", "PD1,2,3;", "IN;P", "IN;\n%%;", "PD1e999,1;", "PD99999999999,0;", "PD--1,0;"}) {
        const auto page = readPlotter(broken);
        ASSERT_FALSE(page) << broken;
        EXPECT_NE(page.error().message.find("line "), std::string::npos) << page.error().message;
    }
    EXPECT_TRUE(readPlotter("")->lines.empty());
    std::string many = "PD";
    for (int i = 0; i < 100'000; ++i)
        many += "1,2,";
    EXPECT_TRUE(readPlotter(many));
}

} // namespace
} // namespace thinline::formats::plotter
