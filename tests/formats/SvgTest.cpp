// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/image/ImageFile.h"
#include "formats/svg/ReadDrawing.h"
#include "formats/svg/WriteDrawing.h"
#include "raster/Canvas.h"
#include "support/Plans.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <random>

namespace thinline::formats::svg {
namespace {

const design::PieceId kBacking = support::id("1:backing.1"), kPlate = support::id("2:plate");

design::Stack someStack() {
    return {{{"night", "night", {36, 50, 59}}, {"sea", "sea & sky", {60, 125, 140}}},
            {support::layer(1, "night", "backing"), support::layer(2, "sea")},
            {support::laid(kBacking, support::disc({40, 40}, 40)),
             support::laid(
                 kPlate,
                 support::withOpening(support::rectangle(25.3, 20.7, 30, 31.1), support::disc({40, 36}, 9.5)),
                 2, 2)}};
}

design::Load someLoad() {
    const design::Stack stack = someStack();
    return {{"square12", "12 × 12 in", 304.8, 304.8, 6.35},
            {{"sea",
              6.35,
              6.35,
              210,
              297,
              6.35,
              {support::placed(stack, kPlate, 0, {20, 30}),
               support::placed(stack, kPlate, 1, {60, 30}, std::numbers::pi / 2)}}}};
}

TEST(WriteLoad, IsTrueToSizeAndNamesItsGroups) {
    const std::string text =
        writeLoad(support::planOf(someLoad(), someStack()), someLoad(), someStack(), "Pier & shed, load 1");
    EXPECT_NE(text.find("width=\"304.8mm\" height=\"304.8mm\" viewBox=\"0 0 304.8 304.8\""),
              std::string::npos);
    EXPECT_NE(text.find("<title>Pier &amp; shed, load 1</title>"), std::string::npos);
    const auto read = readDrawing(text);
    ASSERT_TRUE(read) << read.error().message;
    ASSERT_EQ(read->groups.size(), 2u) << "what lies inside is cut before what lies around it";
    EXPECT_EQ(read->groups[0].id, "sea-cut-inside");
    EXPECT_EQ(read->groups[0].paths[0].id, "piece-2_plate-1-inside");
    EXPECT_EQ(read->groups[1].id, "sea-cut");
    ASSERT_EQ(read->groups[1].paths.size(), 2u);
    // In the order the tool comes to them: from the opening cut last, the second copy is nearer.
    EXPECT_EQ(read->groups[1].paths[0].id, "piece-2_plate-2");
    EXPECT_EQ(read->groups[1].paths[1].id, "piece-2_plate-1");
    const geometry::Box upright = geometry::bounds(read->groups[1].paths[1].shape),
                        turned = geometry::bounds(read->groups[1].paths[0].shape);
    EXPECT_NEAR(upright.least.x, 20, 1e-3);
    EXPECT_NEAR(upright.width(), 30, 1e-3);
    EXPECT_NEAR(turned.least.x, 60, 1e-3);
    EXPECT_NEAR(turned.width(), 31.1, 1e-3);
}

TEST(WriteLayers, TheBackingIsTheFirstGroup) {
    const auto read = readDrawing(writeLayers(someStack(), "x"));
    ASSERT_TRUE(read);
    ASSERT_EQ(read->groups.size(), 2u);
    EXPECT_EQ(read->groups[0].id, "backing");
    EXPECT_EQ(read->groups[1].id, "sea");
    EXPECT_NEAR(read->widthMm, 80, 1e-3);
    EXPECT_EQ(read->groups[1].paths[0].shape.openings.size(), 1u);
}

TEST(WriteDesign, ShowsOperationsApartInBothStyles) {
    design::Stack stack = someStack();
    design::Body body = *stack.pieces.back().piece.body;
    const geometry::Point middle = geometry::bounds(body.shape).centre();
    body.lines.push_back({design::LineId{1},
                          {middle, {geometry::Segment::line(middle + geometry::Point{5, 0})}},
                          design::Fold{}});
    stack.pieces.back().piece.body = std::make_shared<const design::Body>(body);
    for (const Style style : {Style::Filled, Style::Hairlines}) {
        const std::string text = writeDesign(stack, "x", style);
        EXPECT_NE(text.find("<g id=\"sea-score\" fill=\"none\""), std::string::npos) << text;
        EXPECT_EQ(text.find("<g id=\"sea-cut\" fill=\"none\"") == std::string::npos, style == Style::Filled);
        EXPECT_EQ(text.find("transform"), std::string::npos);
        EXPECT_EQ(text.find("<text"), std::string::npos);
        const bool isCutLast = text.find("sea-cut") > text.find("sea-score");
        EXPECT_EQ(isCutLast, style == Style::Hairlines) << "as the machine works; filled, lines lie on areas";
    }
}

TEST(PathText, RoundTripOnRandomCurvesWithinATenthOfAMicron) {
    std::mt19937 random(2);
    std::uniform_real_distribution<double> place(-200, 600);
    for (int round = 0; round < 100; ++round) {
        geometry::Shape shape;
        shape.outline.start = {place(random), place(random)};
        for (int i = 0; i < 6; ++i)
            shape.outline.segments.push_back(i % 2
                                                 ? geometry::Segment::line({place(random), place(random)})
                                                 : geometry::Segment::curve({place(random), place(random)},
                                                                            {place(random), place(random)},
                                                                            {place(random), place(random)}));
        shape.outline.segments.back() = geometry::Segment::line(shape.outline.start);
        if (geometry::signedArea(shape.outline) < 0)
            shape.outline = geometry::reversed(shape.outline);
        const auto read = readPath(pathText(shape));
        ASSERT_TRUE(read) << read.error().message;
        EXPECT_NEAR(geometry::area(*read), geometry::area(shape), 0.5);
        const geometry::Box a = geometry::bounds(*read), b = geometry::bounds(shape);
        EXPECT_NEAR(a.least.x, b.least.x, 1e-4);
        EXPECT_NEAR(a.most.y, b.most.y, 1e-4);
    }
}

TEST(ReadLine, GivesBackWhatLineTextWrote) {
    const geometry::Line line{
        {1.25, -2},
        {geometry::Segment::line({3, 4}), geometry::Segment::curve({5, 6}, {7, 8.000001}, {1.25, -2})}};
    const auto back = readLine(lineText(line, 6));
    ASSERT_TRUE(back) << back.error().message;
    EXPECT_EQ(*back, line) << "also one that comes round";
    EXPECT_FALSE(readLine("M0 0L1 1Z"));
    EXPECT_FALSE(readLine("M0 0L1 1M2 2L3 3"));
    EXPECT_FALSE(readLine(""));
}

TEST(ReadPath, KnowsTheWholeOfItsSmallGrammar) {
    for (const char* text :
         {"M0 0L10 0L10 10L0 10Z", "M0,0 10,0 10,10 0,10z", "m0 0h10v10h-10z", "M 0 0 H 10 V 10 H 0 Z",
          "m0 0l10 0 0 10-10 0z", "M0 0L1e1 0L+10 10L.0 10Z", "M0 0C3 0 7 0 10 0L10 10c-3 0-7 0-10 0Z"}) {
        const auto shape = readPath(text);
        ASSERT_TRUE(shape) << text << ": " << shape.error().message;
        EXPECT_NEAR(geometry::area(*shape), 100, 1e-9) << text;
    }
}

struct Refusal {
    const char* text;
    const char* says;
};

TEST(ReadPath, RefusesWhatItDoesNotKnow) {
    const Refusal rows[] = {{"", "empty"},
                            {"10 10", "number without a command"},
                            {"L10 10Z", "draws before moving"},
                            {"M0 0L10", "lacks a number"},
                            {"M0 0L10 0L10 10", "leaves an outline open"},
                            {"M0 0A5 5 0 0 1 10 10Z", "uses 'A'"},
                            {"M0 0L1e999 0L1 1Z", "lacks a number"},
                            {"M0 0L9 9Z 5", "number without a command"}};
    for (const Refusal& row : rows) {
        const auto shape = readPath(row.text);
        ASSERT_FALSE(shape) << row.text;
        EXPECT_NE(shape.error().message.find(row.says), std::string::npos)
            << row.text << ": " << shape.error().message;
    }
}

TEST(ReadDrawing, RefusesWhatIsNotTrueToSize) {
    const Refusal rows[] = {
        {"hello", "not XML"},
        {"<html/>", "no svg element"},
        {"<svg width='100' height='100' viewBox='0 0 100 100'/>", "in mm"},
        {"<svg width='100mm' height='100mm' viewBox='0 0 200 200'/>", "viewBox"},
        {"<svg width='9mm' height='9mm' viewBox='0 0 9 9'><g transform='scale(2)'/></svg>", "transform"},
        {"<svg width='9mm' height='9mm' viewBox='0 0 9 9'><g><path id='p' d='M0 0'/></g></svg>", "Path 'p'"}};
    for (const Refusal& row : rows) {
        const auto drawing = readDrawing(row.text);
        ASSERT_FALSE(drawing) << row.text;
        EXPECT_NE(drawing.error().message.find(row.says), std::string::npos) << drawing.error().message;
    }
}

// Reference: librsvg (rsvg-convert) renders our file at 300 dpi; ours must agree within one row of pixels.
TEST(WriteLayers, LibrsvgAgreesWithOurRasterWithinOnePixelRow) {
    namespace fs = std::filesystem;
    ASSERT_EQ(std::system("command -v rsvg-convert > /dev/null"), 0) << "install librsvg2-bin";
    const design::Stack stack = someStack();
    const fs::path folder = fs::temp_directory_path() / ("thinline-rsvg-" + std::to_string(::getpid()));
    fs::create_directories(folder);
    std::ofstream(folder / "layers.svg") << writeLayers(stack, "check");
    const std::string call = "rsvg-convert --dpi-x 300 --dpi-y 300 --background-color white " +
                             (folder / "layers.svg").string() + " > " + (folder / "layers.png").string();
    ASSERT_EQ(std::system(call.c_str()), 0);
    std::ifstream file(folder / "layers.png", std::ios::binary);
    const base::Bytes bytes((std::istreambuf_iterator<char>(file)), std::istreambuf_iterator<char>());
    fs::remove_all(folder);
    const auto theirs = image::decode(bytes);
    ASSERT_TRUE(theirs) << theirs.error().message;

    const double pxPerMm = 300 / 25.4;
    const raster::Picture& reference = theirs->picture;
    EXPECT_NEAR(reference.width, 80 * pxPerMm, 1);
    raster::Canvas canvas(reference.width, reference.height, {255, 255, 255});
    for (const design::Laid& laid : stack.pieces)
        canvas.fill(
            geometry::flatten(
                geometry::transformed(laid.shape(), geometry::Transform::scale(pxPerMm, pxPerMm)), 0.05),
            design::colourOf(stack.stocks, stack.layerOf(laid).stockId));
    const raster::Picture ours = canvas.picture();
    const auto at = [](const raster::Picture& p, int x, int y) {
        return p.row(std::clamp(y, 0, p.height - 1))[static_cast<size_t>(std::clamp(x, 0, p.width - 1)) * 3];
    };
    int far = 0, differing = 0;
    for (int y = 0; y < ours.height; ++y)
        for (int x = 0; x < ours.width; ++x) {
            differing += std::abs(at(ours, x, y) - at(reference, x, y)) > 24 ? 1 : 0;
            int least = 255, most = 0;
            for (int dy = -1; dy <= 1; ++dy)
                for (int dx = -1; dx <= 1; ++dx) {
                    least = std::min<int>(least, at(ours, x + dx, y + dy));
                    most = std::max<int>(most, at(ours, x + dx, y + dy));
                }
            far += at(reference, x, y) < least - 4 || at(reference, x, y) > most + 4 ? 1 : 0;
        }
    EXPECT_EQ(far, 0) << "pixels that no neighbour of ours explains";
    EXPECT_LT(differing, 0.01 * ours.width * ours.height);
}

} // namespace
} // namespace thinline::formats::svg
