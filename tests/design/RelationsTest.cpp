// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Relations.h"

#include "geometry/Placing.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <atomic>
#include <cmath>

namespace thinline::design {
namespace {

using geometry::Shape;
using support::disc;
using support::rectangle;
using support::withOpening;

const PieceId kInner = support::id(1), kOuter = support::id(2);

FitState must(const Shape& inner, const Shape& outer, const Fit& fit, double thicknessMm = 0) {
    auto state = checkFit(support::piece(kInner, inner), support::piece(kOuter, outer), fit, thicknessMm);
    if (!state)
        throw std::runtime_error(state.error().message);
    return *state;
}

Fit plugWith(double clearanceMm, geometry::Point at = {50, 50}) {
    return {kInner, kOuter, FitKind::IntoOpening, at, clearanceMm};
}

// A square opening of 40 in a plate of 100: what fits and by how much is plain arithmetic.
TEST(CheckFit, PlayAndRightScaleOfASquarePlug) {
    const Shape plate = withOpening(rectangle(0, 0, 100, 100), rectangle(30, 30, 40, 40));
    struct Row {
        double plugMm, clearanceMm, playMm, scale;
    };
    for (const Row& row : {Row{39, 0.5, 0, 1}, Row{40, 0, 0, 1}, Row{40, 0.5, -1, 39.0 / 40},
                           Row{30, 1, 8, 38.0 / 30}, Row{80, 0, -40, 0.5}}) {
        const FitState state =
            must(rectangle(200, 7, row.plugMm, row.plugMm), plate, plugWith(row.clearanceMm));
        EXPECT_TRUE(state.isThere);
        EXPECT_NEAR(state.playMm, row.playMm, 5e-3) << row.plugMm << " " << row.clearanceMm;
        EXPECT_NEAR(state.rightScale, row.scale, 1e-4);
        EXPECT_EQ(state.jams(), row.playMm < -0.01);
        EXPECT_EQ(state.isLoose(), row.playMm > 1);
        EXPECT_NEAR(state.place.width(), 40, 1e-9);
    }
}

TEST(CheckFit, AnOddPlugIsHeldByItsTightestPlace) {
    // A plus of 40 with arms 10 wide into a disc opening: its arm's corner lies at hypot(20, 5).
    const Shape plus{geometry::contourThrough({{15, 0},
                                               {25, 0},
                                               {25, 15},
                                               {40, 15},
                                               {40, 25},
                                               {25, 25},
                                               {25, 40},
                                               {15, 40},
                                               {15, 25},
                                               {0, 25},
                                               {0, 15},
                                               {15, 15}}),
                     {}};
    const Shape plate = withOpening(rectangle(0, 0, 100, 100), disc({50, 50}, 25));
    EXPECT_NEAR(must(plus, plate, plugWith(0)).rightScale, 25 / std::hypot(20, 5), 1e-3);
}

TEST(CheckFit, OpeningsAreFoundAtAnySizeAndPlace) {
    const Shape two =
        withOpening(withOpening(rectangle(0, 0, 100, 50), disc({25, 25}, 10)), disc({75, 25}, 20));
    const auto at = openingAt(two, {75, 25});
    ASSERT_TRUE(at);
    EXPECT_NEAR(std::abs(geometry::signedArea(two.openings[*at])), 400 * 3.14159265, 0.5);
    EXPECT_FALSE(openingAt(two, {50, 25})) << "between them is card";
    EXPECT_NE(openingAt(two, {25, 25}), at);
    // The point of a fit is kept in its source's own units: it is found wherever the piece lies and however large.
    const auto map = geometry::Transform::scale(3, 3).then(geometry::Transform::move({-70, 9}));
    Piece moved = support::piece(kOuter, geometry::transformed(two, map));
    moved.placed = map;
    const auto state = checkFit(support::piece(kInner, disc({0, 0}, 60)), moved, plugWith(0, {75, 25}), 0);
    ASSERT_TRUE(state && state->isThere);
    EXPECT_NEAR(state->place.width(), 120, 1e-6);
    EXPECT_NEAR(state->rightScale, 1, 1e-3);
    EXPECT_FALSE(must(disc({0, 0}, 5), rectangle(0, 0, 20, 20), plugWith(0, {5, 5})).isThere);
}

TEST(CheckFit, AClearanceWiderThanTheOpeningLeavesNothing) {
    const FitState state =
        must(disc({0, 0}, 5), withOpening(rectangle(0, 0, 50, 50), disc({25, 25}, 6)), plugWith(7, {25, 25}));
    EXPECT_TRUE(state.isThere);
    EXPECT_EQ(state.rightScale, 0);
    EXPECT_TRUE(state.jams());
}

TEST(CheckFit, TheWallOfABaseTakesRoomUnderItsLid) {
    const Fit lid{kInner, kOuter, FitKind::LidOver, {}, 0.25};
    EXPECT_NEAR(must(rectangle(0, 0, 60, 40), rectangle(0, 0, 62, 42), lid, 0.5).playMm, (60.5 / 60 - 1) * 40,
                5e-3)
        << "the width is the tighter one, and the plug stays like itself";
    EXPECT_TRUE(must(rectangle(0, 0, 60, 40), rectangle(0, 0, 62, 42), lid, 1.2).jams());
}

TEST(CheckFit, CanBeStopped) {
    const std::atomic<bool> stop = true;
    EXPECT_EQ(checkFit(support::piece(kInner, disc({0, 0}, 5)),
                       support::piece(kOuter, withOpening(rectangle(0, 0, 50, 50), disc({25, 25}, 6))),
                       plugWith(0.2, {25, 25}), 0, base::Progress(&stop, nullptr))
                  .error()
                  .code,
              base::Code::Cancelled);
}

} // namespace
} // namespace thinline::design
