// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Making.h"

#include "job/LayerSteps.h"
#include "job/SheetSteps.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

#include <atomic>
#include <fstream>
#include <unistd.h>

namespace thinline::job {
namespace {

using Fig = construct::Figure;
using shape::Action;
using support::after;
using support::area;
using support::id;
using support::made;
using support::must;

TEST(ShapeSteps, AreReplayedOnWhateverLiesBelow) {
    const State shed = support::tracedShed();
    const State less = after(shed, Action::SetAside, {area(shed, 3)});
    EXPECT_EQ(less.made.work()->find(area(shed, 3)), nullptr);
    EXPECT_EQ(less.made.pieces->scrap.size(), 1u);
    const State grown = after(less, Action::Offset, {support::backing(shed)}, {3});
    EXPECT_NEAR(support::workBox(grown).width(), support::workBox(shed).width() + 6, 1e-3);
    // A step opened again: the margin is 1 mm now, the other step stays.
    const State changed =
        made(withStepChanged(grown, 1, shape::makeStep(Action::Offset, {support::backing(shed)}, {1})),
             grown.made);
    EXPECT_NEAR(support::workBox(changed).width(), support::workBox(shed).width() + 2, 1e-3);
    EXPECT_EQ(changed.job.steps[1]->id, grown.job.steps[1]->id) << "it is the same step";
    const State none = made(withoutStep(withoutStep(changed.job, 1), 0), changed.made);
    EXPECT_TRUE(none.made.pieces->scrap.empty());
    EXPECT_EQ(none.made.start, shed.made.start);
}

TEST(ShapeSteps, MadePiecesAreLaidLikeAnyOther) {
    State state = support::tracedShed();
    state = after(state, Action::MirrorTwin, {area(state, 2)}, {5});
    const design::PieceId twin = area(state, 2).parted(state.job.steps[0]->id, "twin.1");
    EXPECT_EQ(support::stockOf(state, twin), support::stockOf(state, area(state, 2)));
    EXPECT_EQ(design::pieceName(*state.made.work(), twin).rfind("area 2, twin 1 (", 0), 0u)
        << design::pieceName(*state.made.work(), twin);
    const State blue = made(painted(state.job, {twin}, "sea"), state.made);
    EXPECT_EQ(support::stockOf(blue, twin), "sea");
    EXPECT_EQ(support::stockOf(blue, area(state, 2)), "cream");
    const State again = made(traced(blue.job, *must(pixelsOf(blue.job)),
                                    asA<Picture>(pictureSource(blue.job))->recipe, shippedCatalogue()),
                             blue.made);
    EXPECT_EQ(support::stockOf(again, twin), "sea") << "tracing again keeps what was laid on made pieces";
    EXPECT_EQ(support::laid(made(withCopies(blue, twin, 4), blue.made), twin).copies, 4);
}

TEST(ShapeSteps, AStepWhosePiecesAreGoneIsToldNotLost) {
    State state = support::tracedShed();
    state = after(state, Action::Join, {area(state, 2), area(state, 3)});
    const State aside = after(support::tracedShed(), Action::SetAside, {area(state, 2), area(state, 3)});
    Job job = aside.job;
    job.steps.push_back(state.job.steps[0]);
    const State replayed = made(job, aside.made);
    ASSERT_EQ(passedOver(replayed.made).size(), 1u);
    EXPECT_EQ(replayed.job.steps.size(), 2u);
    EXPECT_FALSE(stepped(aside, shape::makeStep(Action::Join, {area(state, 2), area(state, 3)})))
        << "a new one is refused";
}

// ---- what is kept ------------------------------------------------------------------------------------------------

TEST(Making, NothingChangedGivesTheSamePointers) {
    State first = support::tracedShed();
    first = after(first, Action::Offset, {support::backing(first)}, {2});
    first = after(first, Action::MirrorTwin, {area(first, 2)}, {5});
    first = support::arranged(first);
    const State second = support::arranged(first);
    EXPECT_EQ(second.made.start, first.made.start);
    EXPECT_EQ(second.made.pieces, first.made.pieces);
    EXPECT_EQ(second.made.stack, first.made.stack);
    EXPECT_EQ(second.made.finished, first.made.finished);
    EXPECT_EQ(second.made.sheets, first.made.sheets);
}

TEST(Making, AStageIsMadeAnewOnlyWhereItsInputsChanged) {
    State state = support::tracedShed();
    state = after(state, Action::Offset, {support::backing(state)}, {2});
    state = after(state, Action::SetAside, {area(state, 3)});
    state = support::arranged(state);
    // A click that paints: pieces stay, the stack is another one, bodies are the same.
    const State painted = made(job::painted(state.job, {area(state, 1)}, "sea"), state.made);
    EXPECT_EQ(painted.made.pieces, state.made.pieces);
    EXPECT_NE(painted.made.stack, state.made.stack);
    for (const design::Laid& laid : painted.made.work()->pieces)
        EXPECT_EQ(laid.piece.body, support::laid(state, laid.id()).piece.body);
    // A lift changes neither pieces nor sheets.
    const State lifted =
        made(withLayerLift(state.job, support::laid(state, area(state, 1)).layer, 2), state.made);
    EXPECT_EQ(lifted.made.pieces, state.made.pieces);
    EXPECT_EQ(lifted.made.sheets, state.made.sheets) << "an arrangement stays while the same is cut";
    // The name of a job changes nothing.
    Job named = state.job;
    named.name = "other";
    EXPECT_EQ(made(named, state.made).made.finished, state.made.finished);
    // The second step changed: what the first came to is taken over.
    const State changed =
        made(withStepChanged(state, 1, shape::makeStep(Action::SetAside, {area(state, 2)})), state.made);
    EXPECT_EQ(changed.made.after[0].pieces, state.made.after[0].pieces);
    EXPECT_NE(changed.made.after[1].pieces, state.made.after[1].pieces);
    EXPECT_EQ(changed.made.sheets, nullptr) << "other pieces, another arrangement";
}

TEST(Making, BodiesThatComeOutEqualAreTheOldOnes) {
    State state = support::tracedShed();
    state = after(state, Action::Offset, {area(state, 1)}, {1});
    state = after(state, Action::Offset, {area(state, 2)}, {-1});
    // The first step is taken out and an equal one put in its place: the second one's body is the same value.
    const State changed =
        made(withStepChanged(state, 0, shape::makeStep(Action::Offset, {area(state, 1)}, {2})), state.made);
    EXPECT_EQ(support::laid(changed, area(state, 2)).piece.body,
              support::laid(state, area(state, 2)).piece.body);
    EXPECT_NE(support::laid(changed, area(state, 1)).piece.body,
              support::laid(state, area(state, 1)).piece.body);
}

TEST(Making, UpToAStageAndNoFarther) {
    const State state = support::tracedShed();
    const State only = made(state.job, {}, Stage::Pieces);
    EXPECT_TRUE(only.made.pieces);
    EXPECT_FALSE(only.made.stack || only.made.finished || only.made.sheets);
    EXPECT_TRUE(made(state.job, {}, Stage::Stack).made.stack);
    EXPECT_FALSE(made(Job{}).made.pieces);
}

TEST(Making, CanBeStoppedAndLeavesWhatWasThere) {
    const State state = support::tracedShed();
    const std::atomic<bool> stop = true;
    Job job = must(withStep(state, shape::makeStep(Action::Offset, {area(state, 1)}, {1})));
    EXPECT_EQ(make(job, Stage::Finish, state.made, base::Progress(&stop, nullptr)).error().code,
              base::Code::Cancelled);
    EXPECT_EQ(make(job, Stage::Finish, {}, base::Progress(&stop, nullptr)).error().code,
              base::Code::Cancelled);
}

std::size_t residentBytes() {
    std::ifstream file("/proc/self/statm");
    std::size_t pages = 0, resident = 0;
    file >> pages >> resident;
    return resident * static_cast<std::size_t>(::sysconf(_SC_PAGESIZE));
}

// A thousand clicks on two thousand pieces, every state kept for undo: under 50 MB.
TEST(Making, AThousandClicksOnTwoThousandPiecesTakeLittleMemory) {
    State state = support::rectangleJob(3, 3);
    state = after(state, Action::RowsOfTwins, {id("1:1")}, {50, 40, 1, 1});
    ASSERT_EQ(state.made.work()->pieces.size(), 2000u);
    std::vector<design::PieceId> pieces;
    for (const design::Laid& laid : state.made.work()->pieces)
        pieces.push_back(laid.id());
    const char* stocks[] = {"sea", "rust", "lamp"};
    std::vector<Job> states{state.job};
    const std::size_t before = residentBytes();
    for (size_t i = 0; i < 1000; ++i)
        states.push_back(painted(states.back(), {pieces[i * 7 % 2000]}, stocks[i % 3]));
    const std::size_t now = residentBytes();
    EXPECT_LT(now > before ? static_cast<double>(now - before) / 1e6 : 0, 50);
    EXPECT_EQ(support::stockOf(made(states.back(), state.made), pieces[999 * 7 % 2000]), stocks[0]);
    EXPECT_EQ(states.front().wishes.size(), 0u);
}

} // namespace
} // namespace thinline::job
