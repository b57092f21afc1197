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

// Two plates of 40 x 30, folded across the middle, one below the other at the upper margin of a sheet.
TEST(HandTicks, LieBesideThePieceWhereThereIsRoom) {
    for (const double apartMm : {2.5, 1.2}) {
        Stack stack{{{"card", "card"}}, {support::layer(1, "card")}, {}};
        PlacedSheet sheet{"card", 10, 10, 200, 150, 5};
        for (const int number : {1, 2}) {
            Laid laid = support::laid(number, support::rectangle(0, 0, 40, 30));
            Body body = *laid.piece.body;
            body.lines = {{LineId{1}, straight({20, 0}, {20, 30}), Fold{}, true, true}};
            laid.piece.body = std::make_shared<const Body>(body);
            stack.pieces.push_back(laid);
            const double top = number == 1 ? 0 : 30 + apartMm;
            sheet.pieces.push_back({{laid.id(), 0}, poseAtCorner(laid.piece, {15, 15 + top}, 0)});
        }
        const HandTicks ticks = handTicksOn(stack, sheet);
        ASSERT_EQ(ticks.of.size(), 2u);
        const bool isWide = apartMm > 2;
        EXPECT_EQ(ticks.onPiece, isWide ? 1 : 3) << "the first one's upper end lies at the margin";
        const auto lengthOf = [&](size_t piece, size_t end) { return geometry::contourLength(ticks.of[piece][end]); };
        EXPECT_NEAR(lengthOf(0, 0), 2, 1e-9) << "on the piece";
        EXPECT_NEAR(lengthOf(0, 1), isWide ? 1 : 2, 1e-9);
        EXPECT_NEAR(lengthOf(1, 0), isWide ? 1 : 2, 1e-9);
        EXPECT_NEAR(lengthOf(1, 1), 1, 1e-9) << "nothing lies below";
        EXPECT_LT(geometry::distance(ticks.of[1][1].start, {35, 15 + 60 + apartMm}), 1e-9) << "from the edge outwards";
        EXPECT_LT(geometry::distance(geometry::endOf(ticks.of[1][1]), {35, 15 + 61 + apartMm}), 1e-9);
        const auto cuts = cutsOn(stack, sheet, FoldsAs::Hand);
        ASSERT_TRUE(cuts);
        EXPECT_EQ(cuts->pieces[0].of(Operation::Draw).lines, ticks.of[0]);
        EXPECT_TRUE(cutsOn(stack, sheet, FoldsAs::Score)->pieces[0].of(Operation::Draw).lines.empty());
    }
    // A fold that stops on the card is marked there.
    Stack stack{{{"card", "card"}}, {support::layer(1, "card")}, {}};
    Laid laid = support::laid(1, support::rectangle(0, 0, 40, 30));
    Body body = *laid.piece.body;
    body.lines = {{LineId{1}, straight({20, 0}, {20, 20}), Fold{}, true, false}};
    laid.piece.body = std::make_shared<const Body>(body);
    stack.pieces.push_back(laid);
    PlacedSheet sheet{"card", 0, 0, 200, 150, 5};
    sheet.pieces.push_back({{laid.id(), 0}, poseAtCorner(laid.piece, {50, 50}, 0.3)});
    EXPECT_EQ(handTicksOn(stack, sheet).onPiece, 1);
}

} // namespace
} // namespace thinline::design
