// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What becomes of the lines of a piece under every action: twelve actions, six kinds of line, four ways to lie.
#include "shape/Steps.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

namespace thinline::shape {
namespace {

using design::Body;
using design::LineUse;
using design::Piece;
using geometry::Point;
using support::id;
using support::rectangle;

enum Lies { Inside, Touching, Across, InTheWay };

/// A plate of 40 x 20. Inside: from (5,12) 10 mm on. Touching: from the left edge at y = 5, 10 mm. Across: at y = 15
/// from edge to edge. In the way: from (32,8) 6 mm on, where another plate lies from x = 30 to 60.
Body plateWith(const LineUse& use) {
    const auto line = [&](Lies lies, Point from, Point to, bool begins, bool ends) {
        return design::PieceLine{
            design::LineId{lies + 1}, {from, {geometry::Segment::line(to)}}, use, begins, ends};
    };
    return {rectangle(0, 0, 40, 20),
            {line(Inside, {5, 12}, {15, 12}, false, false), line(Touching, {0, 5}, {10, 5}, true, false),
             line(Across, {0, 15}, {40, 15}, true, true), line(InTheWay, {32, 8}, {38, 8}, false, false)}};
}

Pieces platesWith(const LineUse& use) {
    Piece plate = support::piece(id(1), rectangle(0, 0, 1, 1));
    plate.body = std::make_shared<const Body>(plateWith(use));
    return {{plate, support::piece(id(2), rectangle(30, -10, 30, 40))}, {}};
}

double lengthOf(const std::vector<Piece>& pieces, Lies lies, const LineUse& use) {
    double sum = 0;
    for (const Piece& piece : pieces)
        for (const design::PieceLine& line : piece.body->lines)
            if (line.id == design::LineId{lies + 1}) {
                EXPECT_EQ(line.does, use) << "a line stays what it is";
                sum += geometry::contourLength(line.path);
            }
    return sum;
}

const std::vector<LineUse> kUses{design::Fold{design::Side::Back, true, 45},
                                 design::Score{},
                                 design::Slit{},
                                 design::Tear{3, 1},
                                 design::Pen{"blue", 0.3},
                                 design::Placement{id(7)}};

struct Row {
    Action action;
    std::vector<int> on;
    std::vector<double> values;
    double now[4];   ///< length of each line over all pieces
    double scrap[4]; ///< and in the scrap
    int shortEnds;
};

TEST(LinesOfPieces, GoThroughEveryAction) {
    const std::vector<Row> rows = {
        // The right end of the line across now lies inside: the new edge is 20 mm away, it ends where it ended.
        {Action::Join, {1, 2}, {}, {10, 10, 40, 6}, {0, 0, 0, 0}, 1},
        {Action::CutOut, {1, 2}, {}, {10, 10, 30, 0}, {0, 0, 0, 0}, 0},
        {Action::KeepOverlap, {1, 2}, {}, {0, 0, 10, 6}, {10, 10, 30, 0}, 0},
        {Action::KeepEveryPart, {1, 2}, {}, {10, 10, 40, 6}, {0, 0, 0, 0}, 0},
        {Action::Divide, {1, 2}, {}, {10, 10, 40, 6}, {0, 0, 0, 0}, 0},
        {Action::Offset, {1}, {2, 1, 1}, {10, 12, 44, 6}, {0, 0, 0, 0}, 0},
        {Action::Offset, {1}, {-2, 1, 1}, {10, 8, 36, 6}, {0, 0, 0, 0}, 0},
        // The rings of a series start bare; the piece itself stays as it is.
        {Action::Offset, {1}, {2, 3, 1}, {10, 10, 40, 6}, {0, 0, 0, 0}, 0},
        {Action::FillOpenings, {1}, {50}, {10, 10, 40, 6}, {0, 0, 0, 0}, 0},
        {Action::MirrorTwin, {1}, {5}, {20, 20, 80, 12}, {0, 0, 0, 0}, 0},
        {Action::Mirror, {1}, {0}, {10, 10, 40, 6}, {0, 0, 0, 0}, 0},
        {Action::Smooth, {1}, {0.01}, {10, 10, 40, 6}, {0, 0, 0, 0}, 0},
        {Action::Move, {1}, {100, 7}, {10, 10, 40, 6}, {0, 0, 0, 0}, 0},
        {Action::Turn, {1}, {33}, {10, 10, 40, 6}, {0, 0, 0, 0}, 0},
        {Action::SizeAlone, {1}, {200, 200}, {20, 20, 80, 12}, {0, 0, 0, 0}, 0},
        {Action::SetAside, {1}, {}, {0, 0, 0, 0}, {10, 10, 40, 6}, 0},
    };
    for (const Row& row : rows)
        for (const LineUse& use : kUses) {
            std::vector<PieceId> on;
            for (const int number : row.on)
                on.push_back(id(number));
            Step step = makeStep(row.action, on, row.values);
            step.id = design::StepId{5};
            SCOPED_TRACE(design::stepText(*infoOf(step), step) + ", kind " + std::to_string(use.index()));
            const auto outcome = apply(platesWith(use), step);
            ASSERT_TRUE(outcome) << outcome.error().message;
            for (const Lies lies : {Inside, Touching, Across, InTheWay}) {
                EXPECT_NEAR(lengthOf(outcome->pieces.now, lies, use), row.now[lies], 0.05) << lies;
                EXPECT_NEAR(lengthOf(outcome->pieces.scrap, lies, use), row.scrap[lies], 0.05) << lies;
            }
            EXPECT_EQ(outcome->shortEnds, row.shortEnds);
            EXPECT_EQ(outcome->droppedBits, 0);
        }
}

TEST(LinesOfPieces, CutIntoTwoAndJoinedAgainTheyAreWhole) {
    const LineUse fold = design::Fold{};
    Pieces pieces = platesWith(fold);
    Step cut = makeStep(Action::KeepEveryPart, {id(1), id(2)});
    cut.id = design::StepId{5};
    const auto parts = apply(pieces, cut);
    ASSERT_TRUE(parts);
    Step join = makeStep(Action::Join, {id("1:1/5.1"), id("1:1/5.2")});
    join.id = design::StepId{6};
    const auto whole = apply(parts->pieces, join);
    ASSERT_TRUE(whole) << whole.error().message;
    ASSERT_EQ(whole->pieces.now.size(), 1u);
    EXPECT_EQ(whole->pieces.now[0].body->lines.size(), 4u) << "no line is left in two";
    EXPECT_NEAR(lengthOf(whole->pieces.now, Across, fold), 40, 1e-3);
}

TEST(LinesOfPieces, WhatIsTooShortForAnyToolIsDroppedAndTold) {
    Piece plate = support::piece(id(1), rectangle(0, 0, 1, 1));
    plate.body = std::make_shared<const Body>(plateWith(design::Score{}));
    // The cutter leaves 0.6 mm of the line inside, from 5 to 5.6.
    const Pieces pieces{{plate, support::piece(id(2), rectangle(5.6, -10, 60, 40))}, {}};
    Step cut = makeStep(Action::CutOut, {id(1), id(2)});
    cut.id = design::StepId{5};
    const auto outcome = apply(pieces, cut);
    ASSERT_TRUE(outcome);
    EXPECT_EQ(outcome->droppedBits, 1);
    EXPECT_EQ(lengthOf(outcome->pieces.now, Inside, design::Score{}), 0);
}

} // namespace
} // namespace thinline::shape
