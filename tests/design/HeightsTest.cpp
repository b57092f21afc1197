// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Heights.h"

#include "geometry/Boolean.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <atomic>
#include <cmath>
#include <random>

namespace thinline::design {
namespace {

using support::disc;
using support::laid;
using support::rectangle;

Stack stackOf(std::vector<Layer> layers, std::vector<Laid> pieces) {
    return {{{"card", "card", {}, 0.3}, {"board", "board", {}, 2}}, std::move(layers), std::move(pieces)};
}

Heights must(const Stack& stack) {
    RowMemory memory;
    auto out = heightsOf(stack, memory);
    if (!out)
        throw std::runtime_error(out.error().message);
    return out.take();
}

// Everything by hand: a board of 2 mm, cards of 0.3 mm.
TEST(Heights, APieceRestsOnWhatLiesUnderIt) {
    const Stack stack = stackOf(
        {support::layer(1, "board"), support::layer(2, "card"), support::layer(3, "card")},
        {laid(1, rectangle(0, 0, 100, 50)), // the board on the table
         laid(2, rectangle(10, 10, 20, 20), 2), laid(3, rectangle(30, 10, 20, 20), 2), // side by side on it
         laid(4, rectangle(20, 12, 20, 5), 3),                                         // across both
         laid(5, rectangle(200, 0, 20, 20), 3)});                                      // beside everything
    const Heights out = must(stack);
    const double bottoms[] = {0, 2, 2, 2.3, 0};
    for (size_t i = 0; i < 5; ++i) {
        EXPECT_DOUBLE_EQ(out.of[i].bottomMm, bottoms[i]) << i;
        EXPECT_DOUBLE_EQ(out.of[i].topMm, bottoms[i] + (i == 0 ? 2 : 0.3)) << i;
    }
    EXPECT_DOUBLE_EQ(out.tallMm(), 2.6);
}

TEST(Heights, LiftsAddUpAndHiddenLayersCount) {
    Stack stack = stackOf({support::layer(1, "card"), support::layer(2, "card"), support::layer(3, "card")},
                          {laid(1, rectangle(0, 0, 60, 60)), laid(2, rectangle(5, 5, 50, 50), 2),
                           laid(3, rectangle(10, 10, 40, 40), 3)});
    stack.pieces[1].liftMm = 1.5;
    stack.pieces[2].liftMm = 3;
    EXPECT_DOUBLE_EQ(must(stack).of[2].bottomMm, 0.3 + 1.5 + 0.3 + 3);
    stack.layers[1].isHidden = true;
    EXPECT_DOUBLE_EQ(must(stack).of[2].bottomMm, 0.3 + 1.5 + 0.3 + 3) << "it is there, only not shown";
}

TEST(Heights, LayersBehindTheBaseHangDownwards) {
    Stack stack = stackOf({support::layer(1, "card"), support::layer(2, "card"), support::layer(3, "card")},
                          {laid(1, rectangle(0, 0, 60, 60)), laid(2, rectangle(0, 0, 60, 60), 2),
                           laid(3, rectangle(0, 0, 60, 60), 3)});
    stack.layers[0].at = stack.layers[1].at = Layer::At::Behind;
    const Heights out = must(stack);
    EXPECT_DOUBLE_EQ(out.of[2].bottomMm, 0);
    EXPECT_DOUBLE_EQ(out.of[1].topMm, 0) << "the one nearest to the base";
    EXPECT_DOUBLE_EQ(out.of[0].topMm, -0.3);
    EXPECT_DOUBLE_EQ(out.lowestMm, -0.6);
    EXPECT_NEAR(out.tallMm(), 0.9, 1e-12) << "depth counts both sides";
}

// More than a sliver: over 1 mm2 and somewhere 0.5 mm wide.
TEST(Heights, SliversAtSharedBordersAreNoContact) {
    struct Row {
        const char* what;
        geometry::Shape upper;
        bool rests;
    };
    const Row rows[] = {
        {"edge to edge", rectangle(40, 0, 40, 40), false},
        {"0.2 mm over all its length", rectangle(39.8, 0, 40, 40), false},
        {"0.45 mm over all its length", rectangle(39.55, 0, 40, 40), false},
        {"1 mm over all its length", rectangle(39, 0, 40, 40), true},
        {"a corner of 0.8 x 0.8", rectangle(39.2, 39.2, 40, 40), false}, // 0.64 mm2
        {"a corner of 2 x 2", rectangle(38, 38, 40, 40), true},
        {"a small disc inside", disc({20, 20}, 1.5), true},
        {"inside an opening", disc({20, 20}, 1.5), false},
    };
    for (const Row& row : rows) {
        geometry::Shape lower = rectangle(0, 0, 40, 40);
        if (std::string(row.what) == "inside an opening")
            lower = support::withOpening(lower, disc({20, 20}, 4));
        const Heights out = must(stackOf({support::layer(1, "card"), support::layer(2, "card")},
                                         {laid(1, lower), laid(2, row.upper, 2)}));
        EXPECT_EQ(out.of[1].bottomMm > 0, row.rests) << row.what;
    }
}

// The coarse answer against exact intersections: shrunk by the sliver's half width, is anything left?
TEST(Heights, AgreesWithExactIntersectionsOnRandomPieces) {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> place(0, 60), size(2, 30);
    int touching = 0;
    for (int round = 0; round < 200; ++round) {
        const geometry::Shape a = disc({place(random), place(random)}, size(random)),
                              b = rectangle(place(random), place(random), size(random), size(random));
        const auto common = geometry::intersect({a}, {b});
        ASSERT_TRUE(common);
        double area = 0, widest = 0;
        for (const geometry::Shape& part : *common) {
            area += geometry::area(part);
            const geometry::Box box = geometry::bounds(part);
            widest = std::max(widest, std::min(box.width(), box.height()));
        }
        const bool rests = overlap(rowsOf(Body{a}, 0.25), rowsOf(Body{b}, 0.25));
        if (area < 0.9 || widest < 0.45) {
            EXPECT_FALSE(rests) << round << ": " << area << " mm2, " << widest;
        }
        if (area > 3 && widest > 2) {
            EXPECT_TRUE(rests) << round << ": " << area << " mm2, " << widest;
        }
        touching += rests;
    }
    EXPECT_GT(touching, 20);
}

TEST(Heights, RowsAreRememberedAndItCanBeStopped) {
    Stack stack = stackOf({support::layer(1, "card"), support::layer(2, "card")},
                          {laid(1, rectangle(0, 0, 60, 60)), laid(2, rectangle(5, 5, 50, 50), 2)});
    RowMemory memory;
    (void)heightsOf(stack, memory);
    const auto rows = memory.find(stack.pieces[0].piece.body);
    ASSERT_TRUE(rows);
    stack.pieces[1].liftMm = 2;
    (void)heightsOf(stack, memory);
    EXPECT_EQ(memory.find(stack.pieces[0].piece.body), rows);
    const std::atomic<bool> stop = true;
    EXPECT_EQ(heightsOf(stack, memory, base::Progress(&stop, nullptr)).error().code, base::Code::Cancelled);
    EXPECT_EQ(must(Stack{}).tallMm(), 0);
}

std::vector<Uneven> unevenIn(const Stack& stack) {
    RowMemory memory;
    const auto heights = heightsOf(stack, memory);
    auto out = unevenOf(stack, *heights, memory);
    if (!out)
        throw std::runtime_error(out.error().message);
    return out.take();
}

// A board of 2 mm; on it a card of 0.3 mm, and a card that lies half on that card and half over the bare board: it hangs
// 0.3 mm over 20 x 20 mm of board.
TEST(Uneven, APieceHalfOnAnotherHangsOverWhatLiesBelow) {
    Stack stack = stackOf({support::layer(1, "board"), support::layer(2, "card"), support::layer(3, "card")},
                          {laid(1, rectangle(0, 0, 100, 50)), laid(2, rectangle(10, 10, 20, 20), 2),
                           laid(3, rectangle(10, 10, 40, 20), 3)});
    const std::vector<Uneven> found = unevenIn(stack);
    ASSERT_EQ(found.size(), 1u);
    EXPECT_EQ(found[0].piece, 2u);
    EXPECT_EQ(found[0].lower, 0u);
    EXPECT_NEAR(found[0].gapMm, 0.3, 1e-9);
    EXPECT_NEAR(found[0].areaMm2, 400, 400 * 0.03) << "rows are a quarter of a millimetre apart";
    // A card of the same height beside the first one levels it.
    stack.pieces.insert(stack.pieces.begin() + 2, laid(4, rectangle(30, 10, 20, 20), 2));
    EXPECT_TRUE(unevenIn(stack).empty());
    // One that is lifted by foam does not: it lies higher than the first, and the piece now hangs over that.
    stack.pieces[2].liftMm = 1;
    const std::vector<Uneven> lifted = unevenIn(stack);
    ASSERT_EQ(lifted.size(), 1u);
    EXPECT_EQ(lifted[0].lower, 1u);
    EXPECT_NEAR(lifted[0].gapMm, 1, 1e-9);
}

TEST(Uneven, WhatHangsFreeOrHardlyIsNone) {
    // Over the edge of the board there is nothing below.
    EXPECT_TRUE(unevenIn(stackOf({support::layer(1, "board"), support::layer(2, "card")},
                                 {laid(1, rectangle(0, 0, 50, 50)), laid(2, rectangle(30, 10, 60, 20), 2)}))
                    .empty());
    // A card that reaches 1 mm beyond the one it lies on is not bent.
    EXPECT_TRUE(
        unevenIn(stackOf({support::layer(1, "board"), support::layer(2, "card"), support::layer(3, "card")},
                         {laid(1, rectangle(0, 0, 100, 50)), laid(2, rectangle(10, 10, 20, 20), 2),
                          laid(3, rectangle(9, 9, 22, 22), 3)}))
            .empty());
    // Areas side by side on a backing.
    EXPECT_TRUE(
        unevenIn(stackOf({support::layer(1, "card"), support::layer(2, "card"), support::layer(3, "card")},
                         {laid(1, rectangle(0, 0, 100, 50)), laid(2, rectangle(10, 10, 20, 20), 2),
                          laid(3, rectangle(30, 10, 20, 20), 3)}))
            .empty());
}

} // namespace
} // namespace thinline::design
