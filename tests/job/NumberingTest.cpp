// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Numbering.h"

#include "geometry/Lines.h"
#include "geometry/Measures.h"
#include "job/AssemblySteps.h"
#include "job/LayerSteps.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

namespace thinline::job {
namespace {

using assembly::Numbers;

/// A plate with a window, a smaller plate on it, and a spot on that.
State stacked() {
    return support::made(support::openedDrawing(
        "<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='80mm' viewBox='0 0 120 80'>"
        "<path d='M0 0H120V80H0Z' fill='#2f6f8f'/><path d='M20 20H80V60H20Z' fill='#c8452a'/>"
        "<path d='M40 35H43V38H40Z' fill='#e3b34c'/></svg>"));
}
std::vector<design::PieceLine> digitsOn(const State& state, std::size_t piece) {
    std::vector<design::PieceLine> out;
    for (const design::PieceLine& line : state.made.work()->pieces[piece].piece.body->lines)
        if (numberOf(line.id) >= kFirstDigit)
            out.push_back(line);
    return out;
}

TEST(Numbering, APieceBearsItsNumberWhereAnotherCoversIt) {
    const State plain = stacked();
    ASSERT_EQ(plain.made.work()->pieces.size(), 3u);
    EXPECT_EQ(plain.made.finished->numbers.on, 0);
    const State numbered = support::made(withNumbers(plain.job, Numbers::Scored), plain.made);
    EXPECT_EQ(numbered.made.finished->numbers.on, 1)
        << "the spot is too small to hide one, and nothing lies on it";
    EXPECT_EQ(numbered.made.finished->numbers.without, 2);
    const auto digits = digitsOn(numbered, 0);
    ASSERT_FALSE(digits.empty());
    geometry::Box box;
    for (const design::PieceLine& line : digits) {
        EXPECT_TRUE(std::holds_alternative<design::Score>(line.does));
        box.include(geometry::bounds(line.path));
    }
    EXPECT_LE(box.height(), 5 + 1e-9);
    EXPECT_GE(box.height(), 2.5);
    EXPECT_TRUE(box.least.x >= 21.4 && box.least.y >= 21.4 && box.most.x <= 78.6 && box.most.y <= 58.6)
        << "1.5 mm inside what covers it";
    const State drawn = support::made(withNumbers(numbered.job, Numbers::Drawn), numbered.made);
    EXPECT_TRUE(std::holds_alternative<design::Pen>(digitsOn(drawn, 0).front().does));
    EXPECT_TRUE(digitsOn(support::made(withNumbers(drawn.job, Numbers::None), drawn.made), 0).empty());
}

TEST(Numbering, FollowsTheWorkAndKeepsBodiesThatDidNotChange) {
    const State plain = stacked();
    const State numbered = support::made(withNumbers(plain.job, Numbers::Scored), plain.made);
    // Something else changes: the numbered body is the very same one.
    Job lifted = withLayerLift(numbered.job, numbered.made.work()->pieces[2].layer, 1);
    const State after = support::made(std::move(lifted), numbered.made);
    EXPECT_EQ(after.made.work()->pieces[0].piece.body, numbered.made.work()->pieces[0].piece.body);
    EXPECT_TRUE(digitsOn(plain, 0).empty()) << "earlier states are as they were";
    // Its number is the one of the instructions.
    const auto told = instructionsOf(numbered);
    ASSERT_TRUE(told);
    EXPECT_GT(told->numberOf(numbered.made.work()->pieces[0].id()), 0);
}

TEST(Numbering, ABackThatLooksUpBearsNone) {
    const State plain = stacked();
    State turned = plain;
    const design::PieceId base = plain.made.work()->pieces[0].id();
    turned.job.wishes = turned.job.wishes.with(base, {.up = design::Side::Back});
    turned = support::made(turned.job, turned.made);
    const State numbered = support::made(withNumbers(turned.job, Numbers::Drawn), turned.made);
    EXPECT_EQ(numbered.made.finished->numbers.on, 0);
}

} // namespace
} // namespace thinline::job
