// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Load.h"
#include "design/LooseParts.h"
#include "geometry/Placing.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <numbers>
#include <set>

namespace thinline::design {
namespace {

using support::id;

Stack twoLayers() {
    Stack out{{{"night", "night", {30, 40, 50}, 0.4, 270}, {"sea", "sea", {60, 120, 140}, 0.3, 216}},
              {support::layer(1, "night", "backing"), support::layer(2, "sea")},
              {support::laid(id("1:backing.1"), support::rectangle(0, 0, 100, 60)),
               support::laid(1, support::rectangle(10, 10, 20, 30), 2, 3),
               support::laid(2, support::disc({70, 30}, 5), 2)}};
    out.pieces[1].piece.name = "area 1";
    out.pieces[2].piece.name = "area 2";
    out.pieces[0].piece.name = "the backing";
    return out;
}

TEST(Stack, MeasuresAddUp) {
    const StackMeasures m = measure(twoLayers());
    EXPECT_EQ(m.layers, 2);
    EXPECT_EQ(m.pieces, 3);
    EXPECT_EQ(m.nodes, 4 + 4 + 4);
    EXPECT_EQ(m.smallestPiece, id(2));
    EXPECT_NEAR(m.cutLengthMm, 320 + 100 + 2 * std::numbers::pi * 5, 0.02);
    EXPECT_DOUBLE_EQ(m.box.width(), 100);
    EXPECT_EQ(measure(twoLayers(), LayerId{2}).pieces, 2);
    EXPECT_EQ(measure(twoLayers(), LayerId{9}).pieces, 0);
}

TEST(Stack, NamesArePlain) {
    const Stack stack = twoLayers();
    EXPECT_EQ(pieceName(stack, id("1:backing.1")), "the backing");
    EXPECT_EQ(pieceName(stack, id(2)), "area 2 (sea)");
    EXPECT_NE(pieceName(stack, id(99)), "") << "one that is gone is still spoken of";
    EXPECT_EQ(layerGroup(stack, stack.layers[0]), "backing");
    EXPECT_EQ(thicknessOf(stack, stack.pieces[0]), 0.4);
}

// Two layers of one card are two layers: told apart on the screen and in files.
TEST(Stack, SeveralLayersOfOneStockAreToldApart) {
    Stack stack = twoLayers();
    stack.layers.push_back(support::layer(7, "sea"));
    stack.layers.push_back(support::layer(8, "sea", "railing"));
    stack.pieces.push_back(support::laid(3, support::disc({70, 30}, 2), 7));
    stack.pieces.push_back(support::laid(4, support::disc({70, 30}, 1), 8));
    EXPECT_EQ(layerName(stack, stack.layers[1]), "sea");
    EXPECT_EQ(layerName(stack, stack.layers[2]), "sea 2");
    EXPECT_EQ(layerName(stack, stack.layers[3]), "railing");
    std::set<std::string> groups;
    for (const Layer& layer : stack.layers)
        groups.insert(layerGroup(stack, layer));
    EXPECT_EQ(groups.size(), 4u);
    EXPECT_EQ(stack.in(LayerId{7}).size(), 1u);
}

TEST(Stack, AcrossIsTheDiameterOfTheDiscOfTheSameArea) {
    EXPECT_NEAR(acrossMm(support::disc({0, 0}, 4)), 8, 0.01);
    EXPECT_EQ(acrossMm({}), 0);
}

TEST(Pose, PutsTheTurnedBoxWhereItWasAsked) {
    const Piece piece = support::piece(id(1), support::rectangle(30, 40, 20, 10));
    for (int turns = 0; turns < 4; ++turns)
        for (const bool isFlipped : {false, true}) {
            const Pose pose = poseAtCorner(piece, {100, 200}, turns * std::numbers::pi / 2, isFlipped);
            const auto map = placement(piece, pose);
            const geometry::Box box = geometry::bounds(geometry::transformed(piece.shape(), map));
            EXPECT_NEAR(box.least.x, 100, 1e-9) << turns;
            EXPECT_NEAR(box.least.y, 200, 1e-9) << turns;
            EXPECT_NEAR(box.width(), turns % 2 ? 10 : 20, 1e-9) << turns;
            EXPECT_EQ(map.a * map.d - map.b * map.c < 0, isFlipped);
        }
}

// A pin holds a point of the piece, not the corner of its box: an outline that is edited does not slide on the mat.
TEST(Pose, AnEditedOutlineDoesNotSlideOnTheMat) {
    Piece piece = support::piece(id(1), support::rectangle(0, 0, 20, 10));
    const Pose pose = poseAtCorner(piece, {50, 60}, 0.3);
    const geometry::Point corner{20, 10}, before = placement(piece, pose)(corner);
    piece.body = support::body(support::rectangle(-15, 0, 35, 10)); // grown to the left
    EXPECT_NEAR(distance(placement(piece, pose)(corner), before), 0, 1e-9);
    // And a piece that was moved and sized in the design lies with the same part at the same place.
    const auto moved = geometry::Transform::scale(2, 2).then(geometry::Transform::move({300, -8}));
    piece.body = support::body(geometry::transformed(piece.shape(), moved));
    piece.placed = moved;
    EXPECT_NEAR(distance(placement(piece, pose)(moved(pose.held)), pose.at), 0, 1e-9);
}

TEST(Stocks, FoundInAPictureAreCalledByTheirColourEachByItsOwnName) {
    std::vector<Stock> stocks{{"card", "white", {255, 255, 255}}};
    EXPECT_EQ(stockOfColour(stocks, {0, 128, 0}).name, "green");
    EXPECT_EQ(stockOfColour(stocks, {0, 130, 2}).name, "green") << "the same one";
    EXPECT_EQ(stockOfColour(stocks, {70, 165, 90}).name, "green 2");
    EXPECT_EQ(newStockName(stocks, {255, 255, 255}), "white 2");
    EXPECT_EQ(stocks.size(), 3u);
}

TEST(LooseParts, ArePiecesThatLieSideBySide) {
    Stack stack{{{"sea", "sea"}}, {support::layer(1, "sea")}, {}};
    EXPECT_TRUE(looseParts(stack).empty());
    for (const auto& [x, width] :
         {std::pair{0.0, 30.0}, {100.0, 20.0}, {25.0, 20.0}, {200.0, 5.0}, {115.0, 40.0}})
        stack.pieces.push_back(
            support::laid(static_cast<int>(x) + 1, support::rectangle(x, 0, width, 10), 1));
    const auto parts = looseParts(stack);
    ASSERT_EQ(parts.size(), 3u);
    EXPECT_DOUBLE_EQ(parts[0].width(), 55); // 100 to 155
    EXPECT_DOUBLE_EQ(parts[1].width(), 45); // 0 to 45
    EXPECT_DOUBLE_EQ(parts[2].width(), 5);
}

} // namespace
} // namespace thinline::design
