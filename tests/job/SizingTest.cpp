// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Sizing.h"

#include "formats/svg/ReadDrawing.h"
#include "formats/svg/WriteDrawing.h"
#include "job/LayerSteps.h"
#include "job/SizeAnswers.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

#include <cmath>

namespace thinline::job {
namespace {

using Fig = construct::Figure;
using shape::Action;
using support::after;
using support::boxOf;
using support::id;
using support::made;
using support::must;
using support::workBox;

constexpr double kFactor = 2.42;

const std::vector<double>& valuesOf(const State& state, size_t source) {
    return std::get<Figure>(state.job.sources[source]->what).recipe.values;
}
std::vector<double> valuesOfStep(const State& state, size_t step) {
    return shape::valuesOf(*state.job.steps[step]);
}
State enlarged(const State& state, double factor = kFactor) {
    return must(scaled(state, factor)).state;
}

// ---- no hidden scale ---------------------------------------------------------------------------------------------

// A rectangle of 80 x 50 mm added to a design that was enlarged 2.42 times is 80 x 50 mm: on the bench, in the
// panel, in the file. (194 x 121 once.)
TEST(NoHiddenScale, AFigureAddedToAnEnlargedDesignIsAsLargeAsTyped) {
    State state = enlarged(support::tracedShed());
    state = support::withFigure(state, Fig::Rectangle, {80, 50});
    EXPECT_NEAR(boxOf(state, id("2:1")).width(), 80, 1e-9);
    EXPECT_NEAR(boxOf(state, id("2:1")).height(), 50, 1e-9);
    EXPECT_EQ(valuesOf(state, 1), (std::vector<double>{80, 50}));
    const auto written = must(formats::svg::readDrawing(formats::svg::writeLayers(*state.made.work(), "x")));
    bool isThere = false;
    for (const auto& group : written.groups)
        for (const auto& path : group.paths) {
            const geometry::Box box = geometry::bounds(path.shape);
            isThere = isThere || (std::abs(box.width() - 80) < 1e-3 && std::abs(box.height() - 50) < 1e-3);
        }
    EXPECT_TRUE(isThere) << "in the written file";
}

TEST(NoHiddenScale, WordsMovesSpacingsAndRingsAreAsTypedToo) {
    State state = enlarged(support::rectangleJob(100, 40));
    state = support::withWord(state, support::word("QUAY", 30));
    EXPECT_NEAR(boxOf(state, id("2:2.1")).height(), 30, 1.5) << "a round letter stands over the line";
    EXPECT_EQ(std::get<Word>(state.job.sources[1]->what).recipe.sizeMm, 30);
    const double x = boxOf(state, id("1:1")).least.x;
    state = after(state, Action::Move, {id("1:1")}, {12.5, 0});
    EXPECT_NEAR(boxOf(state, id("1:1")).least.x, x + 12.5, 1e-9);
    state = after(state, Action::RowsOfTwins, {id("2:1.1")}, {2, 1, 7.5, 0});
    EXPECT_NEAR(boxOf(state, id("2:1.1").parted(design::StepId{2}, "twin.3")).least.x -
                    boxOf(state, id("2:1.1")).most.x,
                7.5, 1e-9);
    state = after(state, Action::RingOfTwins, {id("2:2.1")}, {4, 60, 1});
    const geometry::Box top = boxOf(state, id("2:2.1")),
                        under = boxOf(state, id("2:2.1").parted(design::StepId{3}, "twin.2"));
    EXPECT_NEAR(under.centre().y - top.centre().y, 120, 1e-9);
}

// Sizing rewrites measures: what the panel shows is what is there.
TEST(NoHiddenScale, SizingRewritesTheMeasuresOfEverySource) {
    State state = support::withFigure(support::rectangleJob(100, 40), Fig::Ellipse, {30, 30});
    state = support::withWord(state, support::word("HARBOUR", 20));
    state = after(state, Action::Move, {id("2:1")}, {10, 4});
    state = enlarged(state);
    EXPECT_NEAR(valuesOf(state, 0)[0], 100 * kFactor, 1e-9);
    EXPECT_NEAR(valuesOf(state, 0)[1], 40 * kFactor, 1e-9);
    EXPECT_NEAR(valuesOf(state, 1)[0], 30 * kFactor, 1e-9);
    EXPECT_NEAR(std::get<Word>(state.job.sources[2]->what).recipe.sizeMm, 20 * kFactor, 1e-9);
    EXPECT_NEAR(valuesOfStep(state, 0)[0], 10 * kFactor, 1e-9);
    EXPECT_NEAR(boxOf(state, id("1:1")).width(), 100 * kFactor, 1e-9);
    const State traced = enlarged(support::tracedShed());
    EXPECT_NEAR(sourceWidthMm(*pictureSource(traced.job)), 709 / 300.0 * 25.4 * kFactor, 0.05);
}

TEST(Sizing, ThereAndBackGivesTheSameMeasures) {
    State state = support::withFigure(support::rectangleJob(100, 40), Fig::Star, {});
    state = support::withWord(state, support::word("Quay", 20));
    state = after(state, Action::RingOfTwins, {id("2:1")}, {5, 60});
    state = after(state, Action::FillOpenings, {id("3:2.1")}, {900});
    state = after(state, Action::SpaceEvenly, {id("1:1"), id("2:1")}, {0, 1, 4});
    const State back = enlarged(enlarged(state), 1 / kFactor);
    for (size_t i = 0; i < state.job.steps.size(); ++i) {
        const auto before = valuesOfStep(state, i), now = valuesOfStep(back, i);
        for (size_t k = 0; k < before.size(); ++k)
            EXPECT_NEAR(now[k], before[k], 1e-9 * std::max(1.0, std::abs(before[k])));
    }
    for (size_t i : {0u, 1u})
        for (size_t k = 0; k < valuesOf(state, i).size(); ++k)
            EXPECT_NEAR(valuesOf(back, i)[k], valuesOf(state, i)[k], 1e-9);
    for (const design::Laid& laid : state.made.work()->pieces) {
        const geometry::Box a = geometry::bounds(laid.shape()), b = boxOf(back, laid.id());
        EXPECT_NEAR(distance(a.least, b.least) + distance(a.most, b.most), 0, 1e-6) << laid.id().text();
    }
}

// ---- margins -----------------------------------------------------------------------------------------------------

// A disc of 10 mm and a backing grown by 3 mm: one factor is solved, and discs stay round. (34.9 x 35.4 once.)
TEST(Margins, ADesignWithMarginsIsSizedByOneFactor) {
    State state = support::withFigure(support::rectangleJob(60, 40), Fig::Ellipse, {10, 10});
    state = after(state, Action::Offset, {id("1:1")}, {3, 1, 0});
    const Sized sized = must(withWidth(state, 230));
    EXPECT_EQ(sized.told, "");
    EXPECT_NEAR(workBox(sized.state).width(), 230, 0.001);
    const geometry::Box disc = boxOf(sized.state, id("2:1"));
    EXPECT_NEAR(disc.width(), disc.height(), 1e-6) << "round";
    const double factor = disc.width() / 10;
    EXPECT_NEAR(boxOf(sized.state, id("1:1")).width(), 60 * factor + 6, 1e-6) << "the margin is 3 mm still";
    EXPECT_NEAR(boxOf(sized.state, id("1:1")).height(), 40 * factor + 6, 1e-6);
    EXPECT_EQ(valuesOfStep(sized.state, 0)[0], 3);
}

TEST(Margins, GrowAlongWhenThatIsChosen) {
    State state = after(support::rectangleJob(60, 40), Action::Offset, {id("1:1")}, {3, 1, 0});
    const Sized sized = must(withWidth(state, 132, {.growsMargins = true}));
    EXPECT_NEAR(workBox(sized.state).width(), 132, 0.001);
    EXPECT_NEAR(valuesOfStep(sized.state, 0)[0], 6, 1e-9);
    EXPECT_NEAR(valuesOf(sized.state, 0)[0], 120, 1e-9);
}

// A rectangle grown by 20 mm (bent by 42 % once): its proportions are those of what was grown.
TEST(Margins, NothingIsBent) {
    State state = after(support::rectangleJob(30, 10), Action::Offset, {id("1:1")}, {20, 1, 0});
    for (const double width : {71.0, 100.0, 250.0}) {
        const State sized = must(withWidth(state, width)).state;
        EXPECT_NEAR(workBox(sized).width(), width, 0.001);
        EXPECT_NEAR(valuesOf(sized, 0)[0] / valuesOf(sized, 0)[1], 3, 1e-9) << width;
        EXPECT_NEAR(workBox(sized).height(), valuesOf(sized, 0)[1] + 40, 1e-6);
    }
}

// Seven offsets in a frame (2.300 / 2.329 once): one factor, both ways.
TEST(Margins, SevenOffsetsInAFrameHaveOneFactor) {
    State state = support::withFigure(support::emptyState(), Fig::Heart, {60, 54});
    state = after(state, Action::Offset, {id("1:1")}, {3, 7, 1});
    const FrameAnswer framed = must(withinFrame(state, {180, 240, 0}));
    EXPECT_NEAR(workBox(framed.sized.state).width(), 180, 1e-3);
    EXPECT_NEAR(valuesOf(framed.sized.state, 0)[0] / valuesOf(framed.sized.state, 0)[1], 60.0 / 54, 1e-9);
    const geometry::Box inner = boxOf(framed.sized.state, id("1:1"));
    EXPECT_NEAR(inner.width(), 180 - 2 * 7 * 3, 0.01);
}

// Where width jumps because a piece vanishes, the nearest below is taken and the piece named.
TEST(Margins, AJumpIsToldWithThePieceThatVanishes) {
    // A bar of 6 mm shrunk by 2: below a third of its size nothing is left of it.
    State state = support::withFigure(support::rectangleJob(40, 40), Fig::Rectangle, {100, 6}, "rust");
    state = after(state, Action::Offset, {id("2:1")}, {-2, 1, 0});
    // The bar lies to the right of the square: without it the work is 40 mm wide, times the factor.
    const double gone = 40 * 4.0 / 6; // width when the bar vanishes
    const Sized sized = must(withWidth(state, gone + 20));
    EXPECT_FALSE(sized.told.empty());
    EXPECT_NE(sized.told.find("rectangle"), std::string::npos) << sized.told;
    EXPECT_LE(workBox(sized.state).width(), gone + 20);
}

TEST(Sizing, IsExactWithoutMarginsAndRefusesNonsense) {
    const State shed = support::tracedShed();
    const State sized = must(withWidth(shed, 240)).state;
    EXPECT_NEAR(workBox(sized).width(), 240, 1e-9);
    const double ratio =
        boxOf(sized, support::area(shed, 1)).width() / boxOf(shed, support::area(shed, 1)).width();
    EXPECT_NEAR(ratio, 240 / workBox(shed).width(), 1e-9);
    EXPECT_NEAR(workBox(must(scaled(sized, 0.5)).state).width(), 120, 1e-9);
    EXPECT_EQ(withWidth(shed, 2001).error().code, base::Code::InvalidArgument);
    EXPECT_EQ(withHeight(shed, -1).error().code, base::Code::InvalidArgument);
    EXPECT_EQ(scaled(shed, 0).error().code, base::Code::InvalidArgument);
    EXPECT_FALSE(withWidth(support::emptyState(), 10));
    const State wider = made(
        withSourceWidth(sized.job, SourceId{1}, sourceWidthMm(*pictureSource(sized.job)) * 2), sized.made);
    EXPECT_NEAR(workBox(wider).width(), 480, 1e-6);
}

// Stretching on purpose stays possible, and says so.
TEST(Sizing, AStretchIsTold) {
    State state = support::withFigure(support::rectangleJob(100, 40), Fig::Ellipse, {30, 30});
    state = support::withWord(state, support::word("HARBOUR", 20));
    const geometry::Box before = workBox(state);
    const Sized sized = must(withSize(state, before.width() * 2, before.height() * 3));
    EXPECT_NEAR(workBox(sized.state).width(), before.width() * 2, 1e-3);
    EXPECT_NEAR(workBox(sized.state).height(), before.height() * 3, 1e-3);
    EXPECT_FALSE(sized.told.empty());
    // What a recipe can say it says; the letters' stretch is noted with the word.
    EXPECT_EQ(sized.state.job.sources[0]->stretchY, 1);
    EXPECT_NEAR(valuesOf(sized.state, 0)[1], 120, 1e-6);
    EXPECT_NEAR(sized.state.job.sources[2]->stretchY, 1.5, 1e-6);
    EXPECT_TRUE(must(withSize(state, before.width() * 2, before.height() * 2)).told.empty());
}

TEST(Sizing, PlacesOfPartsAndFitsAreFoundAgain) {
    State state = support::rectangleJob(100, 40);
    state = support::withFigure(state, Fig::Rectangle, {4, 60}, "rust");
    state = after(state, Action::Move, {id("2:1")}, {-80, -10});
    state = after(state, Action::CutOut, {id("1:1"), id("2:1")});
    const design::StepId cut = state.job.steps[1]->id;
    const design::PieceId left = id("1:1").parted(cut, "1"), right = id("1:1").parted(cut, "2");
    ASSERT_TRUE(state.made.work()->find(left) && state.made.work()->find(right));
    state.job = painted(state.job, {left}, "lamp");
    state = enlarged(made(state.job, state.made));
    EXPECT_EQ(support::stockOf(state, left), "lamp");
    EXPECT_EQ(support::stockOf(state, right), "sea");
    EXPECT_NEAR(boxOf(state, left).width() + boxOf(state, right).width(), 96 * kFactor, 1e-6);
}

// What a threshold selected stays selected: sizing never selects again.
TEST(Sizing, OpeningsFilledForBeingSmallStayFilled) {
    State state = support::withFigure(support::emptyState(), Fig::Ring, {60, 5});
    state = after(state, Action::FillOpenings, {id("1:1")}, {25});
    EXPECT_TRUE(support::shapeOf(state, id("1:1")).openings.empty());
    EXPECT_TRUE(support::shapeOf(enlarged(state, 10), id("1:1")).openings.empty());
    State open = support::withFigure(support::emptyState(), Fig::Ring, {60, 8});
    open = after(open, Action::FillOpenings, {id("1:1")}, {25});
    EXPECT_EQ(support::shapeOf(open, id("1:1")).openings.size(), 1u);
    EXPECT_EQ(support::shapeOf(enlarged(open, 0.1), id("1:1")).openings.size(), 1u);
}

TEST(Sizing, CanBeStopped) {
    const std::atomic<bool> stop = true;
    const State state = after(support::rectangleJob(60, 40), Action::Offset, {id("1:1")}, {3, 1, 0});
    EXPECT_EQ(withWidth(state, 200, {}, base::Progress(&stop, nullptr)).error().code, base::Code::Cancelled);
}

// ---- answers -----------------------------------------------------------------------------------------------------

TEST(SizeAnswers, TheTableAndTakingFromItAgree) {
    State state = support::rectangleJob(190, 140);
    const auto& formats = shippedCatalogue().formats;
    std::vector<size_t> told;
    const auto largest = must(largestOnEach(state, formats, {}, {}, [&](const auto& soFar, size_t places) {
        told.push_back(soFar.size());
        EXPECT_LT(soFar.size(), places);
    }));
    ASSERT_FALSE(largest.empty());
    EXPECT_EQ(told.size(), largest.size()) << "before each of them";
    EXPECT_EQ(told.back() + 1, largest.size());
    for (const PlaceFit& place : largest) {
        const State sized = must(withLargestOn(state, place.id, formats)).state;
        EXPECT_NEAR(workBox(sized).width(), place.widthMm, 1e-6) << place.name;
        EXPECT_NEAR(
            sheets::largestThatFits(*sized.made.work(), place.usableWidthMm, place.usableHeightMm).scale, 1,
            1e-7);
    }
    EXPECT_EQ(withLargestOn(state, "nowhere", formats).error().code, base::Code::NotFound);
    // With margins that do not scale along, the size is still met: the outermost of two offsets touches the
    // mat.
    state = after(state, Action::Offset, {id("1:1")}, {3, 2, 1});
    for (const bool grows : {false, true})
        for (const PlaceFit& place : must(largestOnEach(state, formats, {grows}))) {
            const auto taken = workBox(must(withLargestOn(state, place.id, formats, {grows})).state);
            EXPECT_DOUBLE_EQ(taken.width(), place.widthMm) << place.name;
            EXPECT_DOUBLE_EQ(taken.height(), place.heightMm) << place.name;
        }
    const State sized = must(withLargestOn(state, "square12", formats)).state;
    EXPECT_NEAR(std::max(workBox(sized).width(), workBox(sized).height()), 292.1,
                1e-3); // usable of a 12 x 12 in mat: common practice
}

TEST(SizeAnswers, ObjectsAreSolvedBackwards) {
    const State state = support::rectangleJob(60, 80);
    // Seven equal offsets, a layered picture: common practice. The innermost is what the frame leaves of it.
    const State layered = after(state, Action::Offset, {id("1:1")}, {3, 7, 1});
    const FrameAnswer framed = must(withinFrame(layered, {180, 240, 0}));
    EXPECT_NEAR(workBox(framed.sized.state).width(), 180, 1e-3);
    double least = 1e9;
    for (const design::Laid& laid : framed.sized.state.made.work()->pieces)
        least = std::min(least, geometry::bounds(laid.shape()).width());
    EXPECT_NEAR(least, 180 - 2 * 7 * 3, 1e-3);
    // Into a round bauble of 70 mm with 1 mm of room: the diagonal is 68.
    const State round = must(withinCircle(state, 70, 1)).state;
    EXPECT_NEAR(std::hypot(workBox(round).width(), workBox(round).height()), 68, 1e-4);
    EXPECT_FALSE(withinCircle(state, 2, 1));
}

TEST(SizeAnswers, AFramesDepthBringsTheLiftsDown) {
    State state = support::rectangleJob(60, 80, "night");
    for (const char* stock : {"sea", "rust", "lamp"}) {
        state = support::withFigure(state, Fig::Rectangle, {50, 70}, stock);
        const design::PieceId now = state.made.work()->pieces.back().id();
        state = after(state, Action::Move, {now}, {5 - boxOf(state, now).least.x, 5});
    }
    const auto& layers = state.made.work()->layers;
    state.job = withLayerLift(withLayerLift(withLayerLift(state.job, layers[1].id, 2), layers[2].id, 2),
                              layers[3].id, 0.5);
    state = made(state.job, state.made);
    const double card = 0.4 + 3 * 0.3;
    EXPECT_NEAR(state.made.finished->heights.tallMm(), card + 4.5, 1e-9);
    const FrameAnswer answer = must(withinFrame(state, {300, 100, 4.8}));
    EXPECT_NEAR(answer.stackMm, 4.8, 1e-9);
    EXPECT_NEAR(answer.liftMm, (4.8 - card - 0.5) / 2, 1e-9) << "the low one stays";
    EXPECT_EQ(withinFrame(state, {300, 100, 1}).error().code, base::Code::Degenerate);
    EXPECT_EQ(must(withinFrame(state, {300, 100, 9})).liftMm, 0);
}

TEST(SizeAnswers, CopiesOnOneSheet) {
    const State state = support::rectangleJob(29.6, 29.6);
    const CopiesAnswer six = must(withCopiesOnSheet(state, {id("1:1")}, 6, 1, shippedCatalogue().formats));
    EXPECT_GT(six.fit.columns * six.fit.rows, 5);
    EXPECT_FALSE(withCopiesOnSheet(state, {}, 0, 1, shippedCatalogue().formats));
}

} // namespace
} // namespace thinline::job
