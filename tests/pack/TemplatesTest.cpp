// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/Templates.h"

#include "formats/pdf/ReadPdf.h"
#include "formats/svg/ReadSvg.h"
#include "geometry/Lines.h"
#include "geometry/Measures.h"
#include "pack/Package.h"
#include "support/Shapes.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

namespace thinline::pack {
namespace {

design::DrawnPage drawnOn(const base::Bytes& pdf, int page) {
    const auto read = formats::pdf::readPage(pdf, page);
    if (!read)
        throw std::runtime_error(read.error().message);
    auto drawn = formats::svg::readSvg(read->svg);
    if (!drawn)
        throw std::runtime_error(drawn.error().message);
    return drawn.take();
}
bool hasLine(const design::DrawnPage& page, double lengthMm) {
    for (const design::DrawnItem& item : page.items)
        for (const geometry::Contour& line : item.lines)
            if (std::abs(geometry::contourLength(line) - lengthMm) < 0.005)
                return true;
    return false;
}

// A4 is 210 x 297 mm (ISO 216): less 8 mm of margin all around and 16 mm for the foot 194 x 265 mm show the piece.
TEST(Templates, APieceThatFitsIsOneSheetWithItsRulers) {
    const auto made = templateOf({byHand("board", support::rectangle(0, 0, 190, 260))}, {}, "x");
    ASSERT_TRUE(made) << made.error().message;
    EXPECT_EQ(made->pages, 1);
    const design::DrawnPage page = drawnOn(made->pdf, 0);
    EXPECT_TRUE(hasLine(page, 50));
    EXPECT_TRUE(hasLine(page, 50.8));
    // Turned it still is one.
    EXPECT_EQ(templateOf({byHand("board", support::rectangle(0, 0, 270, 170))}, {}, "x")->pages, 1);
    EXPECT_EQ(templateOf({byHand("board", support::rectangle(0, 0, 270, 170))},
                         paperFor(base::LengthUnit::Inch), "x")
                  ->pages,
              2)
        << "letter is lower by 18 mm";
}

// 400 x 500 mm: upright ceil((402 - 10) / 184) x ceil((502 - 10) / 255) = 3 x 2 sheets, turned ceil(392 / 271) x ceil(492 / 168) = 2 x 3.
TEST(Templates, ALargePieceIsTiledAndItsSheetsMeet) {
    const geometry::Shape plate = support::rectangle(10, 20, 400, 500);
    const auto made = templateOf({byHand("board", plate)}, {}, "x");
    ASSERT_TRUE(made);
    EXPECT_EQ(made->pages, 6);
    // The left edge of the plate is 1 mm from the window's on sheet A1, and the same line runs on at A2 one lap up.
    const auto edge = [&](int page) {
        double x = 1e9;
        const design::DrawnPage drawn = drawnOn(made->pdf, page);
        for (const design::DrawnItem& item : drawn.items)
            for (const geometry::Contour& contour :
                 item.fill ? std::vector<geometry::Contour>{} : item.contours)
                x = std::min(x, geometry::bounds(contour).least.x);
        return x;
    };
    EXPECT_NEAR(edge(0), 9, 0.01);
    EXPECT_NEAR(edge(3), 9, 0.01);
    // On B1 it lies a window less a lap further left: 9 - (194 - 10).
    EXPECT_NEAR(edge(1), 9 - 184, 0.01);
}

TEST(Templates, SayWhatIsWrong) {
    EXPECT_FALSE(templateOf({}, {}, "x"));
    EXPECT_FALSE(templateOf({byHand("board", support::rectangle(0, 0, 50, 50))}, {"stamp", 30, 30}, "x"));
    const auto huge = templateOf({byHand("board", support::rectangle(0, 0, 5000, 5000))}, {}, "x");
    ASSERT_FALSE(huge);
    EXPECT_NE(huge.error().message.find("draw around"), std::string::npos);
}

TEST(Templates, ThePackageHoldsThemAndSaysHowToDoWithout) {
    design::Stack stack{{{"foam", "foam board", {240, 240, 240}}},
                        {support::layer(1, "foam")},
                        {support::laid(support::id(1), support::rectangle(0, 0, 300, 200))}};
    stack.stocks.front().isCutByHand = true;
    Labels labels{"Quay sign"};
    labels.boardInsetMm[support::id(1)] = 2;
    const auto package = makePackage(stack, {}, {}, {}, labels);
    ASSERT_TRUE(package) << package.error().message;
    const auto named = [&](const std::string& name) -> const PackedFile* {
        for (const PackedFile& file : package->files)
            if (file.name == name)
                return &file;
        return nullptr;
    };
    ASSERT_TRUE(named("by-hand-foam.pdf"));
    EXPECT_TRUE(formats::pdf::readPage(named("by-hand-foam.pdf")->bytes));
    const base::Bytes& bytes = named("contents.txt")->bytes;
    const std::string contents(bytes.begin(), bytes.end());
    EXPECT_NE(contents.find("by-hand-foam.pdf: 2 sheets of A4"), std::string::npos) << contents;
    EXPECT_NE(contents.find("cut 2.0 mm inside that line"), std::string::npos) << contents;
}

// Two squares 600 and 800 mm apart would lie on a grid of sheets of A4, most of them empty.
TEST(Templates, FoldsAreToldApartAndEmptySheetsLeftOut) {
    ByHand net = byHand("net", support::rectangle(0, 0, 100, 80));
    net.away.push_back({{50, 0}, {geometry::Segment::line({50, 80})}});
    net.towards.push_back({{0, 40}, {geometry::Segment::line({100, 40})}});
    ByHand apart{"apart",
                 {support::rectangle(0, 0, 20, 20).outline, support::rectangle(600, 800, 20, 20).outline}};
    const auto made = templateOf({net, apart}, {}, "x");
    ASSERT_TRUE(made) << made.error().message;
    EXPECT_EQ(made->pages, 3) << "one for the net, two of the grid for what lies apart";
    const auto page = formats::pdf::readPage(made->pdf, 0);
    ASSERT_TRUE(page) << page.error().message;
    EXPECT_EQ(page->pages, 3);
    const auto drawn = formats::svg::readSvg(page->svg);
    ASSERT_TRUE(drawn) << drawn.error().message;
    bool hasRuler = false; // by poppler: the ruler measures 50.00 mm
    int dashed = 0;
    for (const design::DrawnItem& item : drawn->items)
        for (const geometry::Contour& line : item.lines) {
            const double length = geometry::contourLength(line);
            hasRuler = hasRuler || std::abs(length - 50) < 0.01;
            dashed += std::abs(length - 80) < 0.01 || std::abs(length - 100) < 0.01 ? 1 : 0;
        }
    EXPECT_TRUE(hasRuler);
    EXPECT_GE(dashed, 2);
}

} // namespace
} // namespace thinline::pack
