// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Relations.h"

#include "geometry/Placing.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

#include <atomic>
#include <cmath>

namespace thinline::design {
namespace {

using geometry::Shape;
using support::disc;
using support::rectangle;
using support::withOpening;

FitState must(const Shape& inner, const Shape& outer, const Fit& fit, double thicknessMm = 0) {
    auto state = checkFit(inner, outer, fit, thicknessMm);
    if (!state)
        throw std::runtime_error(state.error().message);
    return *state;
}

Fit plugWith(double clearanceMm, geometry::Point at = {0.5, 0.5}) {
    return {1, 2, FitKind::IntoOpening, at, clearanceMm};
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
    const geometry::Point left{0.25, 0.5}, right{0.75, 0.5};
    const auto at = openingAt(two, right);
    ASSERT_TRUE(at);
    EXPECT_NEAR(std::abs(geometry::signedArea(two.openings[*at])), 400 * 3.14159265, 0.5);
    EXPECT_FALSE(openingAt(two, {0.5, 0.5})) << "between them is card";
    const Shape larger = geometry::transformed(
        two, geometry::Transform::scale(3, 3).then(geometry::Transform::move({-70, 9})));
    EXPECT_EQ(openingAt(larger, right), at);
    EXPECT_NE(openingAt(larger, left), at);
    EXPECT_FALSE(must(disc({0, 0}, 5), rectangle(0, 0, 20, 20), plugWith(0)).isThere);
}

TEST(CheckFit, AClearanceWiderThanTheOpeningLeavesNothing) {
    const FitState state =
        must(disc({0, 0}, 5), withOpening(rectangle(0, 0, 50, 50), disc({25, 25}, 6)), plugWith(7));
    EXPECT_TRUE(state.isThere);
    EXPECT_EQ(state.rightScale, 0);
    EXPECT_TRUE(state.jams());
}

TEST(CheckFit, TheWallOfABaseTakesRoomUnderItsLid) {
    const Fit lid{1, 2, FitKind::LidOver, {}, 0.25};
    EXPECT_NEAR(must(rectangle(0, 0, 60, 40), rectangle(0, 0, 62, 42), lid, 0.5).playMm, (60.5 / 60 - 1) * 40,
                5e-3)
        << "the width is the tighter one, and the plug stays like itself";
    EXPECT_TRUE(must(rectangle(0, 0, 60, 40), rectangle(0, 0, 62, 42), lid, 1.2).jams());
}

TEST(CheckFit, CanBeStopped) {
    const std::atomic<bool> stop = true;
    EXPECT_EQ(checkFit(disc({0, 0}, 5), withOpening(rectangle(0, 0, 50, 50), disc({25, 25}, 6)),
                       plugWith(0.2), 0, base::Progress(&stop, nullptr))
                  .error()
                  .code,
              base::Code::Cancelled);
}

} // namespace
} // namespace thinline::design
