// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/pdf/WritePages.h"

#include "formats/pdf/ReadPdf.h"
#include "formats/svg/ReadSvg.h"
#include "geometry/Lines.h"
#include "geometry/Measures.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

namespace thinline::formats::pdf {
namespace {

geometry::Contour stretch(geometry::Point a, geometry::Point b) {
    return {a, {geometry::Segment::line(b)}};
}
Page plainPage() {
    Page page{210, 297, {{10, 10}, {200, 287}}};
    page.inside.push_back({{support::disc({100, 100}, 30).outline}, 0.3});
    page.marks.push_back({{stretch({20, 250}, {70, 250})}, 0.25});
    return page;
}

// Read by poppler, which shares nothing with the writer: ISO 32000-1 says 72 points are an inch.
TEST(WritePages, AnotherReaderFindsPagesAndLinesAtTheirSizes) {
    const Page landscape{297, 210, {{10, 10}, {287, 200}}, {}, {{{stretch({30, 30}, {30, 130})}, 0.25}}};
    const auto file = writePages({plainPage(), landscape}, "Quay (sign)");
    ASSERT_TRUE(file) << file.error().message;
    const auto first = readPage(*file, 0), second = readPage(*file, 1);
    ASSERT_TRUE(first && second);
    EXPECT_EQ(first->pages, 2);
    EXPECT_NEAR(first->widthMm, 210, 0.001);
    EXPECT_NEAR(first->heightMm, 297, 0.001);
    EXPECT_NEAR(second->widthMm, 297, 0.001);
    const auto drawn = svg::readSvg(first->svg);
    ASSERT_TRUE(drawn) << drawn.error().message;
    geometry::Box disc;
    double ruler = 0;
    for (const design::DrawnItem& item : drawn->items) {
        for (const geometry::Contour& contour : item.contours)
            disc.include(geometry::bounds(contour));
        for (const geometry::Contour& line : item.lines)
            ruler = geometry::contourLength(line);
    }
    EXPECT_NEAR(ruler, 50, 0.002);
    EXPECT_NEAR(disc.least.x, 70, 0.002);
    EXPECT_NEAR(disc.most.y, 130, 0.002);
}

TEST(WritePages, TheSamePagesGiveTheSameBytes) {
    EXPECT_EQ(*writePages({plainPage()}, "x"), *writePages({plainPage()}, "x"));
    EXPECT_NE(*writePages({plainPage()}, "x"), *writePages({plainPage()}, "y"));
}

TEST(WritePages, SayWhatIsWrong) {
    EXPECT_FALSE(writePages({}, "x"));
    Page page = plainPage();
    page.widthMm = 5001;
    EXPECT_FALSE(writePages({page}, "x"));
    page = plainPage();
    page.marks.front().lines.front().start.x = std::nan("");
    EXPECT_FALSE(writePages({page}, "x"));
}

TEST(WritePages, LabelsOfAnySignsAreWritten) {
    Page page = plainPage();
    page.labels = {{{20, 20}, "Bucht (\\ é 海 \xFF) \n"}, {{20, 40}, ""}};
    const auto file = writePages({page}, "é 海");
    ASSERT_TRUE(file);
    EXPECT_TRUE(readPage(*file));
}

} // namespace
} // namespace thinline::formats::pdf
