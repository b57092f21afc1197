// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Relations.h"

#include "inspect/Inspect.h"
#include "job/LayerSteps.h"
#include "job/Sizing.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

namespace thinline::job {
namespace {

using Fig = construct::Figure;
using shape::Action;
using support::after;
using support::id;
using support::made;
using support::must;

const design::PieceId kPlate = id("1:1"), kPlug = id("2:1");

/// A plate with a round opening of 30 mm, a disc of 29.6 mm that goes into it with 0.2 mm all round.
State plugState(double plugMm = 29.6) {
    State state = support::withFigure(support::emptyState(), Fig::Ring, {60, 30}, "sea");
    state = support::withFigure(state, Fig::Ellipse, {plugMm, plugMm}, "rust");
    const design::Fit fit{kPlug, kPlate, design::FitKind::IntoOpening, {}, 0.2};
    return made(withFit(state, fit, {30, 30}), state.made);
}

std::vector<std::string> told(const State& state) {
    inspect::Memory memory;
    std::vector<std::string> out;
    for (const inspect::Finding& f : must(inspect::inspect(state, shippedCatalogue().formats, memory)))
        if (f.kind == inspect::Kind::ScaledAlone || f.kind == inspect::Kind::DoesNotFit ||
            f.kind == inspect::Kind::ExactlyTheSheet || f.kind == inspect::Kind::LargerThanEveryMat)
            out.push_back(f.message + ". " + f.remedy);
    return out;
}

TEST(Fits, AreCheckedForEverAfterAndSolved) {
    const State it = plugState();
    auto state = must(fitStateOf(it, it.job.fits[0]));
    EXPECT_TRUE(state.isThere);
    EXPECT_NEAR(state.rightScale, 1, 2e-5);
    EXPECT_FALSE(state.jams());
    EXPECT_TRUE(told(it).empty());
    // Everything scales together: the clearance does not, so that a plug half as large jams in its opening.
    const State half = must(scaled(it, 0.5)).state;
    state = must(fitStateOf(half, half.job.fits[0]));
    EXPECT_TRUE(state.jams());
    EXPECT_NEAR(state.playMm, 14.6 - 14.8, 1e-3); // opening 15, less twice 0.2, against 14.8
    ASSERT_EQ(told(half).size(), 1u);
    EXPECT_EQ(told(half)[0], "The ellipse (rust) does not go into its opening in the ring (sea): 0.20 mm too "
                             "large. With 0.20 mm of clearance the "
                             "right size is 14.6 × 14.6 mm. Make it fit at Size.");
    const State fitted = must(withFitMade(half, 0));
    EXPECT_FALSE(must(fitStateOf(fitted, fitted.job.fits[0])).jams());
    EXPECT_NEAR(support::boxOf(fitted, kPlug).width(), 14.6, 2e-3);
    // Without its opening it is lost and says so.
    const State filled = after(it, Action::FillOpenings, {kPlate}, {5000});
    EXPECT_FALSE(must(fitStateOf(filled, filled.job.fits[0])).isThere);
    EXPECT_EQ(told(filled).size(), 1u);
    // Clearances grow along when margins do.
    EXPECT_FALSE(
        must(fitStateOf(must(scaled(it, 0.5, {.growsMargins = true})).state, it.job.fits[0])).isThere &&
        told(must(scaled(it, 0.5, {.growsMargins = true})).state).size() > 0);
}

// Our derivation in the handbook: a lid of diameter Dl over a base of diameter D with a wall of thickness t
// leaves Dl - (D + 2t) in all.
TEST(Fits, ALidOverABaseCountsTheWall) {
    State state = support::withFigure(support::emptyState(), Fig::Ellipse, {63.5, 63.5});
    state = support::withFigure(state, Fig::Ellipse, {64.77, 64.77}, "rust"); // 0.05 in more
    state = made(withFit(state, {id("1:1"), id("2:1"), design::FitKind::LidOver, {}, 0}, {}), state.made);
    const auto fit = must(fitStateOf(state, state.job.fits[0])); // both stocks are 0.3 mm
    EXPECT_NEAR(fit.playMm, 64.77 - (63.5 + 2 * 0.3), 2e-3);
    EXPECT_FALSE(fit.jams());
    for (design::Stock& stock : state.job.stocks)
        stock.thicknessMm = 0.65; // jams above 0.63
    state = made(state.job, state.made);
    EXPECT_TRUE(must(fitStateOf(state, state.job.fits[0])).jams());
}

TEST(Fits, RefuseWhatMakesNoSense) {
    const State it = plugState();
    const auto into = design::FitKind::IntoOpening;
    EXPECT_FALSE(withFit(it, {kPlug, kPlug, into}, {30, 30}));
    EXPECT_FALSE(withFit(it, {kPlug, id("9:1"), into}, {30, 30}));
    EXPECT_FALSE(withFit(it, {kPlug, kPlate, into}, {5, 30})) << "there is card";
    EXPECT_FALSE(withFit(it, {kPlug, kPlate, into, {}, -1}, {30, 30}));
    EXPECT_TRUE(withoutFit(it.job, 0).fits.empty());
}

TEST(Fits, TheOpeningIsFoundAfterThePieceWasMovedTurnedAndSized) {
    State it = plugState();
    it = after(it, Action::Move, {kPlate}, {120, 33});
    it = after(it, Action::Turn, {kPlate}, {77});
    EXPECT_NEAR(must(fitStateOf(it, it.job.fits[0])).rightScale, 1, 1e-4);
    it = after(it, Action::SizeAlone, {kPlate}, {200, 200});
    EXPECT_NEAR(must(fitStateOf(it, it.job.fits[0])).rightScale, 59.6 / 29.6, 1e-3);
}

TEST(Sets, APieceScaledAloneIsToldUntilItIsFree) {
    State it = plugState();
    it.job.fits.clear();
    it = made(withSet(made(it.job, it.made), "frame and plug", {kPlate, kPlug}), it.made);
    EXPECT_FALSE(withSet(it, "", {kPlate}));
    EXPECT_FALSE(withSet(it, "", {kPlate, id("9:9")}));
    const State together = after(it, Action::SizeAlone, {kPlate, kPlug}, {120, 120});
    EXPECT_TRUE(told(together).empty()) << "the whole set at another scale is no finding";
    const State alone = after(it, Action::SizeAlone, {kPlug}, {120, 120});
    ASSERT_EQ(told(alone).size(), 1u);
    EXPECT_EQ(told(alone)[0].rfind("The ellipse (rust) was scaled apart from frame and plug", 0), 0u)
        << told(alone)[0];
    const State free = made(withPiecesFree(alone.job, {kPlug}, true), alone.made);
    EXPECT_TRUE(told(free).empty());
    EXPECT_EQ(told(made(withPiecesFree(free.job, {kPlug}, false), free.made)).size(), 1u);
    EXPECT_TRUE(withoutSet(it.job, 0).sets.empty());
}

TEST(Findings, APieceExactlyAsLargeAsItsSheet) {
    const auto of = [](double w, double h) { return told(support::rectangleJob(w, h)); };
    ASSERT_EQ(of(210, 297).size(), 1u); // A4 by ISO 216
    EXPECT_NE(of(297, 209.8)[0].find("exactly as large as a sheet of A4"), std::string::npos)
        << of(297, 209.8)[0];
    EXPECT_TRUE(of(200, 280).empty());
    EXPECT_TRUE(of(20, 297).empty()) << "a strip";
}

TEST(Findings, APieceThatFitsOnlyTurnedIsNotTooLarge) {
    // 640 x 20 mm goes corner to corner onto a mat of 292.1 x 596.9 mm usable; 700 x 20 does not.
    EXPECT_TRUE(told(support::rectangleJob(640, 20)).empty());
    EXPECT_EQ(told(support::rectangleJob(700, 20)).size(), 1u);
    State strip = support::rectangleJob(640, 20);
    strip.job.plan.matId = strip.job.plan.sheetId = "long24";
    EXPECT_TRUE(support::arranged(strip).made.sheets->unplaced.empty());
}

} // namespace
} // namespace thinline::job
