// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/PlottedMat.h"

#include "support/Plans.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

namespace thinline::devices {
namespace {

const design::MatFormat kMat{"m", "m", 300, 300, 6};

PlottedMat plotted(const std::string& text) {
    const auto page = formats::plotter::readPlotter(text);
    if (!page)
        throw std::runtime_error(page.error().message);
    return plottedOn(*page, kMat, support::anyMachine());
}

TEST(PlottedMat, OutlinesAndOpenCutsAreToldApart) {
    // 40 units to the millimetre: a square of 50 mm, a cut that stays open, a score.
    const PlottedMat mat = plotted("IN;SP3;PU400,400;PD2400,400,2400,2400,400,2400,400,400;PU;"
                                   "PU4000,4000;PD6000,4000;PU;SP2;PU400,1000;PD2400,1000;PU;SP0;");
    EXPECT_EQ(mat.lines, 3);
    EXPECT_EQ(mat.closed, 1);
    EXPECT_EQ(mat.open, 1);
    ASSERT_EQ(mat.load.passes.size(), 2u);
    EXPECT_EQ(mat.load.passes[1].tool, design::ToolKind::Stylus);
    EXPECT_NEAR(mat.load.lineMm(), 200 + 50 + 50, 1e-9);
    EXPECT_TRUE(mat.staysOnMat && mat.endsLifted);
    // From the upper left corner of the mat: the square's lower left is at (10, 290).
    EXPECT_NEAR(mat.box.least.x, 10, 1e-9);
    EXPECT_NEAR(mat.box.most.y, 290, 1e-9);
    EXPECT_GT(mat.load.seconds, 0);
}

TEST(PlottedMat, WhatLeavesTheMatIsTold) {
    EXPECT_FALSE(plotted("IN;SP3;PU100,400;PD2400,400;PU;SP0;").staysOnMat) << "2.5 mm from its edge";
    EXPECT_FALSE(plotted("IN;SP3;PU400,400;PD2400,400;").endsLifted);
    EXPECT_EQ(plotted("IN;SP0;").lines, 0);
}

TEST(PlottedMat, ThePictureShowsWhatIsDoneAndWhatIsNot) {
    const PlottedMat mat = plotted("IN;SP3;PU2000,6000;PD10000,6000;PU;PU2000,3000;PD10000,3000;PU;SP0;");
    const auto at = [&](double seconds, double x, double y) {
        const raster::Canvas canvas = pictureOf(mat.load, kMat, {}, {}, support::anyMachine(), seconds, 2);
        return canvas.pixels()[static_cast<size_t>(static_cast<int>(y * 2) * canvas.width() +
                                                   static_cast<int>(x * 2))];
    };
    const auto first = at(1e9, 150, 150), second = at(1e9, 150, 225);
    EXPECT_EQ(first, second) << "both are cut";
    EXPECT_NE(first, at(1e9, 150, 100));
    EXPECT_NE(at(0, 150, 150), first) << "nothing is cut yet";
}

TEST(PlottedMat, WhatComesFreeAndWhatDoesNotIsShown) {
    design::Stack stack;
    stack.stocks = {{"sea", "sea", {60, 125, 140}, 0.3, 216}};
    stack.layers = {support::layer(1, "sea")};
    stack.pieces = {support::laid(1, support::rectangle(0, 0, 60, 60))};
    design::PlacedSheet sheet{"sea", 0, 0, 300, 300, 5, {}};
    sheet.pieces = {support::placed(stack, support::id(1), 0, {20, 20})};
    const design::Load load{kMat, {sheet}};
    const design::PlannedLoad planned = support::planOf(load, stack);
    const auto middle = [&](const WhatIf& what) {
        const auto after = matAfter(planned, load, stack, support::anyMachine(), 1e9, what);
        raster::Canvas canvas =
            pictureOf(planned, kMat, load.sheets, stack.stocks, support::anyMachine(), 1e9, 2);
        showAfter(canvas, *after, load, stack, 2);
        return canvas.pixels()[static_cast<size_t>(100 * canvas.width() + 100)] & 0xffffff;
    };
    const auto card = 0x3c7d8cu;
    EXPECT_NE(middle({}), card);
    EXPECT_NE(middle({}), middle({.isBladeDull = true}));
    EXPECT_GT(middle({}) & 0xff, card & 0xff) << "paler";
}

} // namespace
} // namespace thinline::devices
