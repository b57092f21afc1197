// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/dxf/WriteDxf.h"

#include "formats/dxf/ReadDxf.h"
#include "geometry/Lines.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

namespace thinline::formats::dxf {
namespace {

const design::Load kLoad{{"square12", "12 × 12 in", 304.8, 304.8, 6.35}, {}};

design::Pass passOf(design::Operation operation, const std::vector<geometry::Line>& lines) {
    design::Pass out;
    out.operation = operation;
    out.stockId = "sea";
    for (const geometry::Line& line : lines)
        out.paths.push_back({line, {}, 0});
    return out;
}

// Read back by dxflib, which shares nothing with the writer.
TEST(WriteDxf, AnotherLibraryReadsWhatWasPlanned) {
    const geometry::Contour disc = support::disc({100, 100}, 40).outline,
                            square = support::rectangle(20, 200, 33.333, 44.444).outline;
    const geometry::Line fold{{150, 150}, {geometry::Segment::line({250, 190})}};
    const std::string text = writeLoad(
        {0, {passOf(design::Operation::Score, {fold}), passOf(design::Operation::Cut, {disc, square})}},
        kLoad);
    const auto page = readDxf(text);
    ASSERT_TRUE(page) << page.error().message;
    EXPECT_EQ(page->stated, design::StatedSize::Real) << "in millimetres";
    double closedMm = 0, openMm = 0;
    geometry::Box box;
    std::set<std::string> layers;
    for (const design::DrawnItem& item : page->items) {
        layers.insert(item.layer);
        if (item.layer == "RULE-50-MM") {
            ASSERT_EQ(item.lines.size(), 1u);
            EXPECT_NEAR(geometry::contourLength(item.lines[0]), 50, 1e-9);
            continue;
        }
        for (const geometry::Contour& one : item.contours) {
            closedMm += geometry::contourLength(one);
            box.include(geometry::bounds(one));
        }
        for (const geometry::Contour& one : item.lines) {
            openMm += geometry::contourLength(one);
            box.include(geometry::bounds(one));
        }
    }
    EXPECT_EQ(layers, (std::set<std::string>{"SEA-SCORE", "SEA-CUT", "RULE-50-MM"}));
    EXPECT_NEAR(openMm, std::hypot(100, 40), 1e-3);
    EXPECT_NEAR(closedMm, 2 * (33.333 + 44.444) + 2 * M_PI * 40, 0.03) << "chords within 10 um";
    // The reader lays the upper left corner at the origin: sizes and places beside one another stay.
    EXPECT_NEAR(box.width(), 250 - 20, 0.02);
    EXPECT_NEAR(box.height(), 244.444 - 60, 0.02);
}

// Read back by dxflib: every curve within a micrometre of itself, entity by entity.
TEST(WriteDxf, TheNewerEditionKeepsCurves) {
    geometry::Contour mixed{{10, 10}, {}};
    mixed.segments = {geometry::Segment::line({60, 12}),
                      geometry::Segment::curve({80, 15}, {85, 60}, {40, 70}),
                      geometry::Segment::curve({20, 75}, {5, 40}, {10, 10})};
    const geometry::Line wave{
        {100, 20},
        {geometry::Segment::curve({120, 0}, {140, 60}, {160, 30}), geometry::Segment::line({170, 35})}};
    const geometry::Contour square = support::rectangle(20, 200, 33.333, 44.444).outline;
    const std::vector<geometry::Contour> all{support::disc({200, 200}, 40).outline, mixed, wave, square};
    const std::string text = writeLoad({0, {passOf(design::Operation::Cut, all)}}, kLoad, Edition::Splines);
    const auto page = readDxf(text);
    ASSERT_TRUE(page) << page.error().message;
    EXPECT_EQ(page->stated, design::StatedSize::Real);
    std::vector<geometry::Contour> found;
    geometry::Point rule;
    for (const design::DrawnItem& item : page->items)
        for (const auto* lines : {&item.contours, &item.lines})
            for (const geometry::Contour& one : *lines)
                if (item.layer == "RULE-50-MM")
                    rule = geometry::bounds(one).least;
                else
                    found.push_back(one);
    ASSERT_EQ(found.size(), all.size());
    const geometry::Point moved = rule - rulePlace(kLoad.mat);
    for (const geometry::Contour& one : all) {
        double nearest = 1e9;
        for (const geometry::Contour& other : found) {
            double worst = std::abs(geometry::contourLength(one) - geometry::contourLength(other));
            const geometry::Box a = geometry::bounds(one), b = geometry::bounds(other);
            for (const double d : {a.least.x + moved.x - b.least.x, a.least.y + moved.y - b.least.y,
                                   a.most.x + moved.x - b.most.x, a.most.y + moved.y - b.most.y})
                worst = std::max(worst, std::abs(d));
            nearest = std::min(nearest, worst);
        }
        EXPECT_LT(nearest, 0.001);
    }
    EXPECT_EQ(text.find("VERTEX"), std::string::npos) << "no chords";
}

TEST(WriteDxf, YRunsUpAndOddNamesBecomePlain) {
    design::Pass pass = passOf(design::Operation::Cut, {{{10, 20}, {geometry::Segment::line({30, 20})}}});
    pass.stockId = "möss 2";
    const std::string text = writeLoad({0, {pass}}, kLoad);
    EXPECT_NE(text.find("VERTEX\n  8\nM__SS_2-CUT\n 10\n10.0000\n 20\n284.8000\n"), std::string::npos)
        << text;
    EXPECT_TRUE(text.ends_with("  0\nENDSEC\n  0\nEOF\n"));
}

TEST(WriteDxf, LayersAreAtMostThirtyOneSignsAndStayApart) {
    const geometry::Line line{{10, 20}, {geometry::Segment::line({30, 20})}};
    design::Pass one = passOf(design::Operation::CutInside, {line}), other = one, third = one;
    one.stockId = "translucent-paper-of-the-north-one";
    other.stockId = "translucent-paper-of-the-north-two";
    third.stockId = "translucent-paper-of-the-north-one";
    third.operation = design::Operation::Score;
    const auto page = readDxf(writeLoad({0, {one, other, third}}, kLoad));
    ASSERT_TRUE(page) << page.error().message;
    std::set<std::string> layers;
    for (const design::DrawnItem& item : page->items) {
        layers.insert(item.layer);
        EXPECT_LE(item.layer.size(), 31u);
    }
    EXPECT_EQ(layers.size(), 4u) << "three and the rule";
}

} // namespace
} // namespace thinline::formats::dxf
