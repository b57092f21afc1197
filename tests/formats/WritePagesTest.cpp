// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/pdf/WritePages.h"

#include "formats/pdf/ReadPdf.h"
#include "formats/svg/ReadSvg.h"
#include "geometry/Lines.h"
#include "geometry/Measures.h"
#include "lettering/Word.h"
#include "support/Fonts.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

#include <sstream>

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

// Letters carry their own outlines, so any reader draws them alike: the box of an H is that of the typeface.
TEST(WritePages, WrittenLinesAreDrawnByTheirOutlines) {
    const auto store = support::shippedFonts();
    const auto file = store.read(lettering::kPlainFont);
    ASSERT_TRUE(file);
    const auto typeface = lettering::Typeface::open(*file);
    ASSERT_TRUE(typeface);
    Page page{100, 60};
    page.painted.push_back(
        Written{{20, 40}, 20, "HH", std::make_shared<const lettering::GlyphRun>(*typeface->run("HH", true))});
    page.painted.push_back(ClipTo{{{0, 0}, {50, 60}}});
    page.painted.push_back(Filled{{support::rectangle(45, 50, 40, 5).outline}, {200, 30, 30}});
    const auto written = writePages({page}, "letters");
    ASSERT_TRUE(written) << written.error().message;
    const auto read = readPage(*written, 0);
    ASSERT_TRUE(read) << read.error().message;
    const auto drawn = svg::readSvg(read->svg);
    ASSERT_TRUE(drawn) << drawn.error().message;
    geometry::Box letters;
    for (const design::DrawnItem& item : drawn->items)
        for (const geometry::Contour& contour : item.contours)
            if (geometry::bounds(contour).most.y < 45)
                letters.include(geometry::bounds(contour));
    EXPECT_NEAR(letters.height(), typeface->capHeight() * 20, 0.05);
    EXPECT_NEAR(letters.most.y, 40, 0.05);
    page.painted.push_back(Filled{
        {{{std::nan(""), 0}, {geometry::Segment::line({1, 1}), geometry::Segment::line({0, 0})}}}, {}});
    EXPECT_FALSE(writePages({page}, "letters"));
}

// The file's own objects, read by qpdf's parser from a file without compression: boxes exact, a layer for each name.
TEST(WritePages, LayersAndBoxesAreStated) {
    Page page = plainPage();
    page.inside[0].layer = "sea-cut";
    page.inside[0].step = "Cutting";
    page.marks[0].layer = "sea-score";
    page.marks[0].step = "Creasing";
    page.trim = {{10, 20}, {110, 120}};
    page.bleed = {{7, 17}, {113, 123}};
    const auto file = writePages({page, page}, "x");
    ASSERT_TRUE(file) << file.error().message;
    const std::string text(file->begin(), file->end());
    const auto count = [&](const std::string& words) {
        int out = 0;
        for (size_t at = text.find(words); at != std::string::npos; at = text.find(words, at + 1))
            ++out;
        return out;
    };
    EXPECT_EQ(count("/Type /OCG"), 2) << "of two pages, each layer once";
    EXPECT_EQ(count("/GTS_ProcStepsType /Cutting"), 1);
    EXPECT_EQ(count("/GTS_ProcStepsType /Creasing"), 1);
    const auto box = [&](const std::string& name) {
        std::vector<double> out;
        std::istringstream words(text.substr(text.find(name + " [") + name.size() + 2, 80));
        for (double value = 0; out.size() < 4 && words >> value;)
            out.push_back(value * 25.4 / 72);
        return out;
    };
    const auto expect = [&](const std::string& name, std::vector<double> wanted) {
        const auto found = box(name);
        ASSERT_EQ(found.size(), 4u) << name;
        for (size_t i = 0; i < 4; ++i)
            EXPECT_NEAR(found[i], wanted[i], 0.01) << name;
    };
    expect("/TrimBox", {10, 297 - 120, 110, 297 - 20});
    expect("/BleedBox", {7, 297 - 123, 113, 297 - 17});
    expect("/MediaBox", {0, 0, 210, 297});
    const auto read = readPage(*file, 0);
    ASSERT_TRUE(read) << read.error().message;
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
