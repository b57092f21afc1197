// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "sheets/Why.h"

#include "sheets/Beside.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

namespace thinline::sheets {
namespace {

using support::disc;
using support::id;
using support::rectangle;
using Kind = Alternative::Kind;

ArrangeOptions square(double side) {
    ArrangeOptions out;
    out.mat = {"mat", "mat", side, side, 0};
    out.sheet = {"sheet", "sheet", side, side, 0};
    return out;
}
design::Stack stackOf(const std::vector<geometry::Shape>& shapes) {
    design::Stack out{{{"card", "card", {}}}, {support::layer(1, "card")}, {}};
    int number = 0;
    for (const geometry::Shape& shape : shapes)
        out.pieces.push_back(support::laid(++number, shape, 1));
    return out;
}
std::vector<Alternative> alternatives(const design::Stack& stack, const ArrangeOptions& options) {
    const auto boxes = arrange(stack, options);
    const auto laid = arrangeClose(stack, options, {.budget = {.steps = 500}}, *boxes);
    return *alternativesTo(stack, options, *laid, 500);
}

// Four squares of 95 fill a sheet of 200; a beam 190 long takes another one.
TEST(Why, ThePieceThatDecidesIsNamedWithItsLength) {
    std::vector<geometry::Shape> shapes(4, rectangle(0, 0, 95, 95));
    shapes.push_back(rectangle(0, 0, 190, 12));
    const design::Stack stack = stackOf(shapes);
    const std::vector<Alternative> found = alternatives(stack, square(200));
    ASSERT_EQ(found.size(), 1u);
    EXPECT_EQ(found[0].kind, Kind::WithoutPiece);
    EXPECT_EQ(found[0].what.piece, id(5));
    EXPECT_EQ(found[0].effort.sheets, 1);
    const std::string words = alternativeText(found[0], {2, 2, 0}, stack, base::LengthUnit::Millimetre);
    EXPECT_NE(words.find("(190.0 mm) one sheet less"), std::string::npos) << words;
}

TEST(Why, NothingIsSaidOfPiecesWhoseGoingSavesNothing) {
    EXPECT_TRUE(
        alternatives(stackOf(std::vector<geometry::Shape>(9, rectangle(0, 0, 95, 95))), square(200)).size() ==
        1u)
        << "of nine the ninth decides";
    EXPECT_TRUE(
        alternatives(stackOf(std::vector<geometry::Shape>(8, rectangle(0, 0, 95, 95))), square(200)).empty());
}

TEST(Why, OtherWaysAreLaidBeforeTheyAreSpokenOf) {
    design::Stack stack = stackOf({rectangle(0, 0, 60, 40), rectangle(0, 0, 60, 40)});
    stack.stocks.push_back({"foil", "foil", {}});
    stack.layers.push_back(support::layer(2, "foil"));
    stack.pieces[1].layer = design::LayerId{2};
    ArrangeOptions options = square(200);
    std::vector<Alternative> found = alternatives(stack, options);
    ASSERT_EQ(found.size(), 1u);
    EXPECT_EQ(found[0].kind, Kind::Together);
    EXPECT_EQ(found[0].effort, (Effort{1, 2, 2}));
    EXPECT_EQ(alternativeText(found[0], {2, 2, 0}, stack, base::LengthUnit::Millimetre),
              "several stocks on one mat: 1 mat instead of 2, 2 scraps to cut");
    options = optionsFor(options, found[0].kind);
    found = alternatives(stack, options);
    ASSERT_EQ(found.size(), 1u);
    EXPECT_EQ(found[0].kind, Kind::Apart);
    EXPECT_EQ(found[0].effort, (Effort{2, 2, 0}));
    // Stocks that no one setting cuts have no such way.
    stack.stocks[1].thicknessMm = 2;
    EXPECT_TRUE(alternatives(stack, square(200)).empty());
    // Openings, where they save a sheet.
    const design::Stack ring =
        stackOf({support::withOpening(disc({0, 0}, 58), disc({0, 0}, 45)), disc({0, 0}, 35)});
    found = alternatives(ring, square(120));
    ASSERT_EQ(found.size(), 2u);
    EXPECT_EQ(found[0].effort.sheets, 1);
    EXPECT_EQ(found[1].effort.sheets, 1);
}

TEST(Beside, ABoxHoldsOnToSpacingAndEdges) {
    using geometry::Box;
    const Box box{{10, 10}, {30, 30}};
    const auto by = [&](const Box& other) { return heldBeside(box, {other}, {}, 2.5, 2); };
    EXPECT_EQ(by({{33, 11}, {50, 40}}), (geometry::Point{0.5, 1}))
        << "2.5 from its right neighbour, and level with it above";
    EXPECT_EQ(by({{40, 60}, {50, 70}}), (geometry::Point{0, 0})) << "too far";
    EXPECT_EQ(heldBeside(box, {}, {{{9, 0}, {100, 31}}}, 2.5, 2), (geometry::Point{-1, 1}));
}

} // namespace
} // namespace thinline::sheets
