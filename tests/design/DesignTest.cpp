// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Load.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

namespace thinline::design {
namespace {

Stack twoLayers() {
    const auto shape = [](geometry::Shape s) {
        return std::make_shared<const geometry::Shape>(std::move(s));
    };
    return {
        {{"night", "night", {30, 40, 50}, 0.4, 270}, {"sea", "sea", {60, 120, 140}, 0.3, 216}},
        {{LayerRole::Backing, "night", 0, false, {{-1, shape(support::rectangle(0, 0, 100, 60)), 1}}},
         {LayerRole::Areas,
          "sea",
          2,
          false,
          {{1, shape(support::rectangle(10, 10, 20, 30)), 3}, {2, shape(support::disc({70, 30}, 5)), 1}}}}};
}

TEST(Stack, MeasuresAddUp) {
    const StackMeasures m = measure(twoLayers());
    EXPECT_EQ(m.layers, 2);
    EXPECT_EQ(m.pieces, 3);
    EXPECT_EQ(m.nodes, 4 + 4 + 4);
    EXPECT_DOUBLE_EQ(m.heightMm, 0.4 + 2 + 0.3);
    EXPECT_EQ(m.smallestPiece, 2);
    EXPECT_NEAR(m.cutLengthMm, 320 + 100 + 2 * std::numbers::pi * 5, 0.02);
}

TEST(Stack, NamesArePlain) {
    const Stack stack = twoLayers();
    EXPECT_EQ(pieceName(stack, -1), "the backing");
    EXPECT_EQ(pieceName(stack, 2), "area 2 (sea)");
    EXPECT_EQ(pieceName(stack, 99), "piece 99");
    EXPECT_EQ(layerGroup(stack.layers[0]), "backing");
}

TEST(Stack, AcrossIsTheDiameterOfTheDiscOfTheSameArea) {
    EXPECT_NEAR(acrossMm(support::disc({0, 0}, 4)), 8, 0.01);
    EXPECT_EQ(acrossMm({}), 0);
}

TEST(Placement, PutsTheTurnedBoxWhereItWasAsked) {
    const geometry::Shape shape = support::rectangle(30, 40, 20, 10);
    for (int turns = 0; turns < 4; ++turns) {
        const auto map = placement(shape, {{1, 0}, 100, 200, turns, false});
        const geometry::Box box = geometry::bounds(geometry::transformed(shape, map));
        EXPECT_NEAR(box.least.x, 100, 1e-9) << turns;
        EXPECT_NEAR(box.least.y, 200, 1e-9) << turns;
        EXPECT_NEAR(box.width(), turns % 2 ? 10 : 20, 1e-9) << turns;
    }
}

} // namespace
} // namespace thinline::design
