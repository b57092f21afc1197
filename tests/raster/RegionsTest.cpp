// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Regions.h"

#include "support/Drawings.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

namespace thinline::raster {
namespace {

Grey maskOf(const std::vector<std::string>& rows) {
    Grey mask{static_cast<int>(rows.front().size()), static_cast<int>(rows.size()), {}};
    for (const std::string& row : rows)
        for (char c : row)
            mask.values.push_back(c == '#' ? 255 : 0);
    return mask;
}

TEST(Regions, InkJoinsAcrossCornersAndPaperDoesNot) {
    const Grey mask = maskOf({"..#..", ".#.#.", "..#.."});
    EXPECT_EQ(findRegions(mask, 255, Connectivity::Eight)->all.size(), 1u);
    const auto paper = findRegions(mask, 0, Connectivity::Four);
    ASSERT_EQ(paper->all.size(), 3u); // left, the enclosed middle, right
    EXPECT_FALSE(paper->all[static_cast<size_t>(paper->labelAt(2, 1) - 1)].touchesEdge);
    EXPECT_TRUE(paper->all[static_cast<size_t>(paper->labelAt(0, 0) - 1)].touchesEdge);
}

TEST(Regions, MeasuresBoxAreaAndRuns) {
    const auto found = findRegions(maskOf({"......", ".##.#.", ".####.", "......"}), 255, Connectivity::Four);
    ASSERT_EQ(found->all.size(), 1u);
    const Region& region = found->all.front();
    EXPECT_EQ(region.areaPx, 7);
    EXPECT_EQ(region.left, 1);
    EXPECT_EQ(region.top, 1);
    EXPECT_EQ(region.width, 4);
    EXPECT_EQ(region.height, 2);
    EXPECT_EQ(region.runs.size(), 3u);
}

TEST(Regions, NothingHasNone) {
    EXPECT_TRUE(findRegions(Grey{}, 255, Connectivity::Four)->all.empty());
}

/// A box with walls 6 px thick and a gap of `gap` px in its right wall.
std::vector<Passage> passagesOfBox(double gap) {
    support::Drawing drawing(200, 200);
    drawing.ring(support::rectangle(40, 40, 120, 120), support::rectangle(46, 46, 108, 108));
    if (gap > 0)
        drawing.fill(support::rectangle(150, 100 - gap / 2, 14, gap), {255, 255, 255});
    const Grey ink = inkMask(brightness(drawing.picture()), 128);
    return *findPassages(ink, *findRegions(ink, 0, Connectivity::Four), {});
}

TEST(Passages, AGapInAWallIsFoundWithItsWidth) {
    const auto passages = passagesOfBox(6);
    ASSERT_EQ(passages.size(), 1u);
    EXPECT_NEAR(passages.front().x, 157, 6);
    EXPECT_NEAR(passages.front().y, 100, 2);
    EXPECT_NEAR(passages.front().widthPx, 6, 1.5);
    EXPECT_TRUE(passages.front().joinsEdge);
    EXPECT_NEAR(passages.front().insideX, 100, 3);
}

TEST(Passages, ClosedOrWideOpenIsNone) {
    EXPECT_TRUE(passagesOfBox(0).empty());
    EXPECT_TRUE(passagesOfBox(40).empty());
}

TEST(Passages, ATaperingCornerIsNone) {
    support::Drawing drawing(300, 200);
    const geometry::Shape wedge{geometry::contourThrough({{10, 100}, {280, 20}, {280, 180}}), {}};
    const geometry::Shape inner{geometry::contourThrough({{40, 100}, {272, 32}, {272, 168}}), {}};
    drawing.ring(wedge, inner);
    const Grey ink = inkMask(brightness(drawing.picture()), 128);
    EXPECT_TRUE(findPassages(ink, *findRegions(ink, 0, Connectivity::Four), {})->empty());
}

TEST(Passages, CanBeStopped) {
    const std::atomic<bool> stop = true;
    const Grey ink = maskOf({"...", ".#.", "..."});
    const auto regions = findRegions(ink, 0, Connectivity::Four);
    EXPECT_EQ(findPassages(ink, *regions, {}, base::Progress(&stop, nullptr)).error().code,
              base::Code::Cancelled);
}

} // namespace
} // namespace thinline::raster
