// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "inspect/Inspect.h"
#include "job/Catalogue.h"
#include "job/LineSteps.h"
#include "job/SheetSteps.h"
#include "job/Sizing.h"
#include "job/SplitWays.h"
#include "job/Steps.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

namespace thinline::job {
namespace {

const design::Formats& formats() {
    return shippedCatalogue().formats;
}
/// A plate of 500 x 400 mm with a bar across it, on mats of 12 inches.
State plate() {
    return support::made(support::openedDrawing(
        "<svg xmlns='http://www.w3.org/2000/svg' width='500mm' height='400mm' viewBox='0 0 500 400'>"
        "<path d='M0 0H500V400H0Z' fill='#2f6f8f'/><path d='M20 190H480V215H20Z' fill='#c8452a'/></svg>"));
}
State onSmallMats(State state) {
    SheetPlan plan = state.job.plan;
    plan.matId = "square12";
    plan.sheetId = "square12";
    return make(withPlan(state.job, plan), Stage::Finish, state.made).take();
}
double areaOf(const design::Stack& stack) {
    double out = 0;
    for (const design::Laid& laid : stack.pieces)
        out += geometry::area(laid.shape());
    return out;
}
State divided(const State& state, const SplitOptions& options = {}) {
    const auto large = oversize(state, formats()).take();
    std::vector<Taken> taken;
    const std::vector<Proposed> all = proposals(state, large, options).take();
    for (const Proposed& one : all)
        taken.push_back({one.of, wishesOf(one.ways.front(), options.jointFor(one.of))});
    return dividedAlong(state, taken, options.overlapMm).take();
}

std::vector<inspect::Finding> findingsOf(const State& state, inspect::Kind kind) {
    inspect::Memory memory;
    auto all = inspect::inspect(state, formats(), memory).take();
    std::erase_if(all, [&](const inspect::Finding& one) { return one.kind != kind; });
    return all;
}

TEST(SplitJob, WhatIsTooLargeIsNamedWithItsRoom) {
    const State state = onSmallMats(plate());
    const auto large = oversize(state, formats());
    ASSERT_TRUE(large);
    ASSERT_EQ(large->size(), 2U) << "the plate and the bar";
    EXPECT_TRUE(large->front().isBase);
    EXPECT_FALSE(large->back().isBase);
    EXPECT_NEAR(large->front().room.widthMm, 292.1, 0.01);
    EXPECT_EQ(oversizeText(large->front(), base::LengthUnit::Millimetre).find("500.0"),
              large->front().name.size() + 4);
    EXPECT_LT(scaleWithoutSeams(state, *large), 0.74);
}

TEST(SplitJob, PartsFitTheirSheetsAndAddUpAndTheirJobIsTheSameAfterAStepIsReplayed) {
    const State state = onSmallMats(plate());
    SplitOptions butt;
    butt.joint = split::Joint::Butt;
    const State done = divided(state, butt);
    EXPECT_NEAR(areaOf(*done.made.work()), areaOf(*state.made.work()), 0.1);
    EXPECT_TRUE(oversize(done, formats())->empty());
    const State laid = make(done.job, Stage::Sheets, done.made).take();
    ASSERT_TRUE(laid.made.sheets);
    EXPECT_TRUE(laid.made.sheets->unplaced.empty());
    // Made anew from the decisions alone.
    const State again = make(done.job, Stage::Finish, {}).take();
    ASSERT_EQ(again.made.work()->pieces.size(), done.made.work()->pieces.size());
    for (size_t i = 0; i < again.made.work()->pieces.size(); ++i) {
        EXPECT_EQ(again.made.work()->pieces[i].id(), done.made.work()->pieces[i].id());
        EXPECT_EQ(again.made.work()->pieces[i].shape(), done.made.work()->pieces[i].shape());
    }
}

TEST(SplitJob, SeamsOfTheBarKeepOffThoseOfThePlateAndThePlatesLieUnderTheBar) {
    const State state = onSmallMats(plate());
    const auto all = proposals(state, oversize(state, formats()).take(), {});
    ASSERT_TRUE(all);
    ASSERT_EQ(all->size(), 2U);
    const split::Division &below = all->front().ways.front(), &above = all->back().ways.front();
    EXPECT_LT(below.seenMm, 0.6 * below.seamMm);
    for (const split::Seam& seam : above.seams)
        EXPECT_FALSE(seam.nearSeamMm);
    EXPECT_NE(seamText(above.seams.front(), base::LengthUnit::Millimetre).find(" mm long"),
              std::string::npos);
}

TEST(SplitJob, WindowsOfOneWorkAreNeverUsedTwice) {
    SplitOptions keyed;
    keyed.joint = split::Joint::Keyed;
    const State done = divided(onSmallMats(plate()), keyed);
    ASSERT_EQ(done.job.steps.size(), 2U);
    const auto first = split::wishOf(*done.job.steps[0], done.made.after[0].before->now.front());
    const auto second = split::wishOf(*done.job.steps[1], done.made.after[1].before->now.front());
    EXPECT_EQ(first.used, split::KeysUsed{});
    EXPECT_GT(second.used.alone + second.used.pairs, 0);
    // What is looked at before it is taken has the very windows that are cut then.
    const State whole = onSmallMats(plate());
    const auto looked = considered(whole, oversize(whole, formats()).take(), keyed);
    ASSERT_TRUE(looked);
    ASSERT_EQ(looked->size(), 2U);
    EXPECT_EQ((*looked)[1].drafts.front().used, second.used);
}

TEST(SplitJob, APartsStripIsNoStepInItsHeight) {
    SplitOptions overlap;
    overlap.joint = split::Joint::Overlap;
    const State before = onSmallMats(plate());
    const State done = divided(before, overlap);
    EXPECT_GT(areaOf(*done.made.work()), areaOf(*before.made.work()) + 1000);
    EXPECT_NEAR(done.made.finished->heights.highestMm, before.made.finished->heights.highestMm, 1e-9);
}

TEST(SplitJob, SizingTakesSeamsAlongAndKeepsTheOverlap) {
    SplitOptions overlap;
    overlap.joint = split::Joint::Overlap;
    const State done = divided(onSmallMats(plate()), overlap);
    const auto smaller = sizedBy(done, 0.9);
    ASSERT_TRUE(smaller);
    const State now = make(*smaller, Stage::Finish, done.made).take();
    ASSERT_EQ(now.made.work()->pieces.size(), done.made.work()->pieces.size());
    EXPECT_TRUE(passedOver(now.made).empty());
    const auto& before = done.made.after[0].before->now.front();
    const auto& after = now.made.after[0].before->now.front();
    const auto a = split::wishOf(*done.job.steps[0], before), b = split::wishOf(*now.job.steps[0], after);
    EXPECT_EQ(b.overlapMm, 12);
    EXPECT_EQ(b.room.widthMm, a.room.widthMm);
    EXPECT_NEAR(geometry::contourLength(b.seams.front().path),
                0.9 * geometry::contourLength(a.seams.front().path), 1e-6);
}

TEST(SplitJob, APieceThatIsGoneIsNoGround) {
    const State state = onSmallMats(plate());
    const Oversize gone = oversize(state, formats()).take().front();
    const State empty = support::emptyState();
    EXPECT_TRUE(groundOf(empty, gone.piece, {}).shape.outline.segments.empty());
    const split::SeamWish seam{{{250, 0}, {geometry::Segment::line({250, 400})}}, split::Joint::Butt};
    EXPECT_FALSE(dividedAlong(empty, {{gone, {seam}}}, 12));
    EXPECT_FALSE(draftOf(empty, gone, {seam}, {}));
    EXPECT_TRUE(oversize(empty, formats())->empty());
    EXPECT_TRUE(considered(empty, {}, {})->empty());
}

TEST(SplitJob, WhatRestsOnNothingIsKeyedWhateverItsFrameMeetsAndAStripIsNoPane) {
    // The sail's frame meets the boat's, and its layer lies below.
    State state = support::made(support::openedDrawing(
        "<svg xmlns='http://www.w3.org/2000/svg' width='640mm' height='300mm' viewBox='0 0 640 300'>"
        "<path d='M365 45L560 180H365Z' fill='#f4efe0'/>"
        "<path d='M10 200C80 290 560 290 630 200L600 190H360V40H330V190H40Z' fill='#2f6f8f'/></svg>"));
    state = onSmallMats(state);
    const auto large = oversize(state, formats()).take();
    ASSERT_EQ(large.size(), 1U);
    EXPECT_TRUE(large.front().isBase);
    SplitOptions overlap;
    overlap.joint = split::Joint::Overlap;
    overlap.overlapMm = 15;
    EXPECT_TRUE(findingsOf(divided(state, overlap), inspect::Kind::PaneBarelyHolds).empty());
}

TEST(SplitJob, ADraftSaysWhatWouldGoWrong) {
    const State state = onSmallMats(plate());
    const Oversize plateItself = oversize(state, formats()).take().front();
    const auto at = [](double x) {
        return split::SeamWish{{{x, 0}, {geometry::Segment::line({x, 400})}}, split::Joint::Butt};
    };
    const auto draft = draftOf(state, plateItself, {at(250), at(496)}, {});
    ASSERT_TRUE(draft);
    EXPECT_EQ(draft->division.parts.size(), 3U);
    const auto says = [&](const char* words) {
        return std::any_of(draft->faults.begin(), draft->faults.end(),
                           [&](const std::string& f) { return f.find(words) != std::string::npos; });
    };
    EXPECT_TRUE(says("too long"));
    EXPECT_TRUE(says("thinner than 6.0 mm"));
    const auto rest = withTheRest(state, *draftOf(state, plateItself, {at(250)}, {}), {});
    ASSERT_TRUE(rest);
    const auto whole = draftOf(state, plateItself, *rest, {});
    EXPECT_GE(whole->division.parts.size(), 4U);
    EXPECT_TRUE(std::none_of(whole->faults.begin(), whole->faults.end(),
                             [](const std::string& f) { return f.find("too long") != std::string::npos; }));
}

TEST(SplitJob, WhatHandsDividedBadlyIsFound) {
    const State state = onSmallMats(plate());
    const auto large = oversize(state, formats()).take();
    const auto at = [](double x, double top, double bottom) {
        return split::SeamWish{{{x, top}, {geometry::Segment::line({x, bottom})}}, split::Joint::Butt};
    };
    // The plate and the bar on it in the same place; and a crumb at the bar's end.
    const State done =
        dividedAlong(state,
                     {{large[0], {at(250, 0, 400)}}, {large[1], {at(255, 190, 215), at(474, 190, 215)}}}, 12)
            .take();
    const auto along = findingsOf(done, inspect::Kind::SeamsOnOneAnother);
    ASSERT_EQ(along.size(), 1U);
    EXPECT_NE(along[0].message.find("5.0 mm away"), std::string::npos) << along[0].message;
    const auto crumbs = findingsOf(done, inspect::Kind::PartTooSmall);
    ASSERT_EQ(crumbs.size(), 1U);
    EXPECT_EQ(crumbs[0].cases.size(), 1U);
    EXPECT_TRUE(findingsOf(done, inspect::Kind::SeamThroughNeck).empty());
    const State proposed = divided(state);
    for (const auto kind : {inspect::Kind::SeamsOnOneAnother, inspect::Kind::PartTooSmall,
                            inspect::Kind::SeamThroughNeck, inspect::Kind::MarkShows})
        EXPECT_TRUE(findingsOf(proposed, kind).empty());
}

TEST(SplitJob, ABoardIsTheWholeALittleSmallerAndGoesOnNoMat) {
    const State state = onSmallMats(plate());
    const State backed = make(withBoard(state, 3).take(), Stage::Sheets, state.made).take();
    const design::Laid& board =
        *std::find_if(backed.made.work()->pieces.begin(), backed.made.work()->pieces.end(),
                      [](const design::Laid& laid) { return laid.piece.name == "the backing board"; });
    EXPECT_NEAR(geometry::area(board.shape()), 494.0 * 394, 0.5);
    EXPECT_EQ(backed.made.work()->layerOf(board).at, design::Layer::At::Back);
    EXPECT_EQ(oversize(backed, formats())->size(), 2U) << "it is cut by hand";
    for (const design::CopyOf& one : backed.made.sheets->unplaced)
        EXPECT_NE(one.piece, board.id());
    // In card it is divided as well, its seams off those of the plate.
    const State inCard =
        make(withBoard(state, 3, state.job.stocks.front().id).take(), Stage::Finish, state.made).take();
    const auto large = oversize(inCard, formats()).take();
    ASSERT_EQ(large.size(), 3U);
    const auto all = proposals(inCard, large, {}).take();
    for (const Proposed& one : all)
        for (const split::Seam& seam : one.ways.front().seams)
            EXPECT_FALSE(seam.nearSeamMm) << one.of.name;
    EXPECT_FALSE(withBoard(state, 400));
    EXPECT_FALSE(withBoard(support::emptyState(), 2));
}

// A plate of 500 x 400 mm takes four squares of 292 mm, each a sheet; nine tenths of it still four, and from 292/500 on none.
TEST(SplitJob, SheetsOfEachWayAndSizesWithFewerPartsAreCounted) {
    const State state = onSmallMats(plate());
    const auto large = oversize(state, formats()).take();
    const auto all = considered(state, large, {}).take();
    ASSERT_EQ(all.size(), 2U);
    std::vector<const Draft*> first;
    for (const Considered& one : all)
        first.push_back(&one.drafts.front());
    for (size_t i = 0; i < all.size(); ++i) {
        const auto sheets = sheetsOfWays(state, all, i, first, formats());
        ASSERT_TRUE(sheets);
        ASSERT_EQ(sheets->size(), all[i].drafts.size());
        for (size_t k = 0; k < sheets->size(); ++k) {
            EXPECT_GE((*sheets)[k], 1);
            EXPECT_LE((*sheets)[k], static_cast<int>(all[i].drafts[k].division.parts.size()));
        }
    }
    EXPECT_EQ(sheetsOfWays(state, all, 0, first, formats())->front(),
              static_cast<int>(all[0].drafts.front().division.parts.size()))
        << "parts of a plate share no sheet";
    // They are what the sheets then say.
    std::vector<Taken> taken;
    for (const Considered& one : all)
        taken.push_back({one.proposed.of, one.drafts.front().seams});
    const State done = dividedAlong(state, taken, 12, Stage::Sheets).take();
    int sheets = 0;
    for (const design::Load& load : done.made.sheets->loads)
        sheets += static_cast<int>(load.sheets.size());
    EXPECT_EQ(sheets, sheetsOfWays(state, all, 0, first, formats())->front() +
                          sheetsOfWays(state, all, 1, first, formats())->front());

    const auto fewer = fewerParts(state, all, {});
    ASSERT_TRUE(fewer);
    ASSERT_TRUE(*fewer);
    EXPECT_GT((*fewer)->fewer, 0);
    EXPECT_GT((*fewer)->scale, scaleWithoutSeams(state, large));
    const State smaller = make(sizedBy(state, (*fewer)->scale).take(), Stage::Finish, state.made).take();
    const auto left = oversize(smaller, formats()).take();
    int parts = static_cast<int>(large.size() - left.size()); // what fits then is one part
    const std::vector<Proposed> anew = proposals(smaller, left, {}).take();
    for (const Proposed& one : anew)
        parts += static_cast<int>(one.ways.front().parts.size());
    EXPECT_EQ(parts, (*fewer)->parts);
    EXPECT_FALSE(fewerParts(state, {}, {}).take()) << "nothing is too large";
}

TEST(SplitJob, ALongerMatIsTakenWithSheetsAsLargeAndOtherStocksKeepTheirs) {
    State state = onSmallMats(plate());
    SheetPlan plan = state.job.plan;
    plan.sheetOf["other"] = *formats().sheet("a4");
    const auto large = oversize(state, formats()).take();
    for (const Oversize& one : large)
        plan.sheetOf[state.made.work()->layerOf(*state.made.work()->find(one.piece)).stockId] =
            *formats().sheet("letter");
    state = make(withPlan(state.job, plan), Stage::Finish, state.made).take();
    const auto mats = longerMats(state, large, formats());
    ASSERT_EQ(mats.size(), 1U);
    const auto job = onMat(state, large, mats.front().id, formats());
    ASSERT_TRUE(job);
    EXPECT_EQ(job->plan.matId, "long24");
    EXPECT_EQ(job->plan.sheetId, "long24");
    EXPECT_EQ(job->plan.sheetOf.size(), 1U);
    EXPECT_TRUE(job->plan.sheetOf.contains("other"));
    const State now = make(*job, Stage::Finish, state.made).take();
    EXPECT_EQ(static_cast<int>(oversize(now, formats())->size()), mats.front().stillTooLarge);
    EXPECT_FALSE(onMat(state, large, "round", formats()));
}

} // namespace
} // namespace thinline::job
