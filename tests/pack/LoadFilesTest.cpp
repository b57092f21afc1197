// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/LoadFiles.h"

#include "formats/dxf/ReadDxf.h"
#include "formats/pdf/ReadPdf.h"
#include "formats/svg/ReadSvg.h"
#include "geometry/Lines.h"
#include "support/Plans.h"
#include "support/Shapes.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

namespace thinline::pack {
namespace {

class Loads : public ::testing::Test {
  protected:
    Loads() {
        stack.stocks = {{"sea", "sea", {60, 125, 140}}, {"rust", "rust", {150, 80, 50}}};
        stack.layers = {support::layer(1, "sea"), support::layer(2, "rust")};
        stack.pieces = {support::laid(1, support::disc({0, 0}, 30)),
                        support::laid(2, support::rectangle(0, 0, 50, 20), 2)};
        for (int i = 0; i < 2; ++i) {
            design::PlacedSheet sheet{i == 0 ? "sea" : "rust", 0, 0, 304.8, 304.8, 6.35, {}};
            sheet.pieces = {support::placed(stack, support::id(i + 1), 0, {40, 50})};
            arrangement.loads.push_back({{"square12", "12 × 12 in", 304.8, 304.8, 6.35}, {sheet}});
        }
        plan = support::planOf(stack, arrangement);
    }
    design::Stack stack;
    design::Arrangement arrangement;
    design::CutPlan plan;
};

TEST_F(Loads, ADxfFileForEachIsNamedAsTheSvg) {
    const auto files = dxfFiles(plan, arrangement);
    ASSERT_EQ(files.size(), 2u);
    EXPECT_EQ(files[0].name, "load-1-sea.dxf");
    EXPECT_EQ(files[1].name, "load-2-rust.dxf");
    const auto page =
        formats::dxf::readDxf({reinterpret_cast<const char*>(files[1].bytes.data()), files[1].bytes.size()});
    ASSERT_TRUE(page) << page.error().message;
    ASSERT_EQ(page->items.size(), 2u) << "the piece and the rule";
    for (const design::DrawnItem& item : page->items)
        if (item.layer == "RUST-CUT") {
            EXPECT_NEAR(geometry::contourLength(item.contours.at(0)), 140, 1e-3);
        }
}

// Read back by poppler.
TEST_F(Loads, OnePdfHasAPageAsLargeAsTheMatForEach) {
    const auto file = pdfFile(plan, arrangement, stack, "sign", base::LengthUnit::Millimetre);
    ASSERT_TRUE(file) << file.error().message;
    for (int n = 0; n < 2; ++n) {
        const auto page = formats::pdf::readPage(file->bytes, n);
        ASSERT_TRUE(page) << page.error().message;
        const auto drawn = formats::svg::readSvg(page->svg);
        ASSERT_TRUE(drawn) << drawn.error().message;
        EXPECT_NEAR(drawn->widthMm, 304.8, 0.01);
        EXPECT_NEAR(drawn->heightMm, 304.8, 0.01);
        const double wanted = geometry::contourLength(stack.pieces[static_cast<size_t>(n)].shape().outline);
        bool isThere = false, hasRuler = false;
        for (const design::DrawnItem& item : drawn->items)
            for (const auto* lines : {&item.lines, &item.contours})
                for (const geometry::Contour& line : *lines) {
                    isThere = isThere || std::abs(geometry::contourLength(line) - wanted) < 0.01;
                    hasRuler = hasRuler || std::abs(geometry::contourLength(line) - 50) < 0.005;
                }
        EXPECT_TRUE(isThere) << n;
        EXPECT_TRUE(hasRuler) << n;
    }
}

} // namespace
} // namespace thinline::pack
