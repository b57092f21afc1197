// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Cuts.h"

#include "support/Stacks.h"

#include <gtest/gtest.h>

namespace thinline::design {
namespace {

using geometry::Line;
using geometry::Point;

Line straight(Point from, Point to) {
    return {from, {geometry::Segment::line(to)}};
}

struct ByStock {
    double gramsPerM2;
    double cutMm, leftMm;
    size_t cutsIn60Mm; ///< by hand: (60 - 4 + left) / (cut + left), rounded down
};

// Cuts of 2 to 3 mm, 1 to 2 mm left, 2 mm at the ends: from memory.
TEST(Perforations, AreAsWeakAsTheirStockBears) {
    for (const ByStock& row : {ByStock{112, 2, 2, 14}, ByStock{216, 2.5, 1.5, 14}, ByStock{300, 3, 1, 14}}) {
        Stock stock{"x", "x"};
        stock.gramsPerM2 = row.gramsPerM2;
        const geometry::Perforation how = perforationOf(&stock);
        EXPECT_EQ(how.cutMm, row.cutMm);
        EXPECT_EQ(how.leftMm, row.leftMm);
        EXPECT_EQ(how.leftAtEndsMm, 2);
        const auto cuts = foldLines({straight({0, 0}, {60, 0})}, FoldsAs::Perforation, how);
        ASSERT_TRUE(cuts);
        EXPECT_EQ(cuts->size(), row.cutsIn60Mm);
        double sum = 0;
        for (const Line& cut : *cuts)
            sum += geometry::contourLength(cut);
        EXPECT_GE(1 - sum / 60, row.leftMm / (row.cutMm + row.leftMm)) << "the share that stays";
    }
    EXPECT_EQ(perforationOf(nullptr).cutMm, 2.5) << "as in card";
}

TEST(Perforations, LeaveABridgeWhereFoldsCrossAndSayWhatTheyAre) {
    const std::vector<Line> cross{straight({0, 30}, {60, 30}), straight({30, 0}, {30, 60})};
    const auto cuts = foldLines(cross, FoldsAs::Perforation, {});
    ASSERT_TRUE(cuts);
    for (const Line& cut : *cuts)
        EXPECT_GE(geometry::distanceTo(cut, {30, 30}), 2 - 1e-9);
    EXPECT_EQ(foldLines(cross, FoldsAs::Score, {})->size(), 2u);
    const auto ticks = foldLines(cross, FoldsAs::Hand, {});
    ASSERT_EQ(ticks->size(), 4u);
    for (const Line& tick : *ticks)
        EXPECT_NEAR(geometry::contourLength(tick), 2, 1e-9);

    Stack stack{
        {{"card", "card"}, {"paper", "paper"}}, {support::layer(1, "card"), support::layer(2, "paper")}, {}};
    stack.stocks[1].gramsPerM2 = 100;
    for (const int number : {1, 2}) {
        Laid laid = support::laid(number, support::rectangle(0, 0, 60, 60));
        Body body = *laid.piece.body;
        body.lines = {{LineId{1}, cross[0], Fold{}, true, true}};
        laid.piece.body = std::make_shared<const Body>(body);
        laid.layer = LayerId{number};
        stack.pieces.push_back(laid);
    }
    EXPECT_EQ(perforationText(stack),
              "2.0 to 2.5 mm cut, at least 1.5 to 2.0 mm left, 2 mm at the ends and where folds cross");
    EXPECT_EQ(perforationText({}),
              "2.5 mm cut, at least 1.5 mm left, 2 mm at the ends and where folds cross");
    EXPECT_TRUE(hasFolds(stack));
    EXPECT_FALSE(hasFolds(Stack{}));
    stack.pieces.pop_back();
    EXPECT_EQ(perforationText(stack),
              "2.5 mm cut, at least 1.5 mm left, 2 mm at the ends and where folds cross");
}

} // namespace
} // namespace thinline::design
