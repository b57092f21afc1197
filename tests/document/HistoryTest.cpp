// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/History.h"

#include "document/DiskFontStore.h"
#include "job/LayerSteps.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

#include <algorithm>

namespace thinline::document {
namespace {

using support::must;

job::Job named(const std::string& name) {
    job::Job out = job::newJob(job::shippedCatalogue());
    out.name = name;
    return out;
}

TEST(History, UndoIsUnlimitedAndANewStepForgetsWhatWasUndone) {
    History history(named("first"));
    for (int i = 1; i <= 500; ++i)
        history.push(named(std::to_string(i)), "step " + std::to_string(i));
    EXPECT_EQ(history.undoName(), "step 500");
    for (int i = 0; i < 500; ++i)
        history.undo();
    EXPECT_FALSE(history.canUndo());
    EXPECT_EQ(history.now().name, "first");
    history.undo(); // harmless
    history.redo();
    EXPECT_EQ(history.now().name, "1");
    EXPECT_EQ(history.redoName(), "step 2");
    history.push(named("other"), "another way");
    EXPECT_FALSE(history.canRedo());
    history.undo();
    EXPECT_EQ(history.now().name, "1");
}

TEST(History, UndoAndRedoAreTheSamePointers) {
    job::State state = support::tracedShed();
    History history(state.job, std::make_shared<const job::Made>(state.made) ? History::kBudgetBytes : 0);
    history.reset(state.job, std::make_shared<const job::Made>(state.made));
    const auto job = history.snapshot();
    const auto made = history.made();
    const int serial = history.serial();
    const job::State next =
        support::made(job::painted(state.job, {support::area(state, 1)}, "sea"), state.made);
    history.push(next.job, "paint", std::make_shared<const job::Made>(next.made));
    const auto laterMade = history.made();
    EXPECT_NE(history.serial(), serial);
    history.undo();
    EXPECT_EQ(history.snapshot(), job);
    EXPECT_EQ(history.made(), made);
    EXPECT_EQ(history.serial(), serial);
    history.redo();
    EXPECT_EQ(history.made(), laterMade);
    EXPECT_EQ(history.made()->pieces, made->pieces) << "what a step did not change is shared";
}

TEST(History, WhatFollowsIsTakenForTheStateItFollowsFrom) {
    const job::State state = support::tracedShed();
    History history(state.job);
    EXPECT_EQ(history.made(), nullptr);
    const int first = history.serial();
    history.push(named("second"), "step");
    EXPECT_TRUE(history.setMade(first, state)) << "it is there still, to be undone to";
    EXPECT_EQ(history.made(), nullptr);
    history.undo();
    EXPECT_EQ(history.made()->work()->pieces.size(), state.made.work()->pieces.size());
    history.push(named("third"), "step");
    const int third = history.serial();
    history.undo();
    history.push(named("fourth"), "step");
    EXPECT_FALSE(history.setMade(third, state)) << "forgotten with what was undone";
    history.reset(named("fifth"));
    EXPECT_FALSE(history.setMade(first, state));
}

// Newly found parts come into the state they were found for, not as a step of their own.
TEST(History, PartsThatWereFoundComeIntoTheirState) {
    job::State state = support::rectangleJob(100, 40);
    state = support::withFigure(state, construct::Figure::Rectangle, {4, 60}, "rust");
    state = support::after(state, shape::Action::Move, {support::id("2:1")}, {-60, -10});
    job::Job job = must(job::withStep(
        state, shape::makeStep(shape::Action::CutOut, {support::id("1:1"), support::id("2:1")})));
    ASSERT_TRUE(job.steps.back()->parts.empty());
    History history(state.job);
    history.push(job, "cut");
    ASSERT_TRUE(history.setMade(history.serial(), must(job::make(job, job::Stage::Finish, state.made))));
    EXPECT_EQ(history.now().steps.back()->parts.size(), 2u);
    history.undo();
    history.redo();
    EXPECT_EQ(history.now().steps.back()->parts.size(), 2u);
}

// What follows is let go, the farthest from the current state first, when all of it together is too much.
TEST(History, KeepsWithinItsBudget) {
    job::State state = support::tracedShed();
    const std::size_t one = job::ownBytes(state.made, {});
    ASSERT_GT(one, 1000u);
    History history(state.job, 4 * one);
    for (int i = 1; i <= 12; ++i) {
        // Each grows another backing: a body of its own every time.
        state = support::after(support::tracedShed(), shape::Action::Offset, {support::backing(state)},
                               {0.1 * i});
        history.push(state.job, "grow", std::make_shared<const job::Made>(state.made));
    }
    EXPECT_TRUE(history.made()) << "what is shown stays";
    EXPECT_LT(history.madeCount(), 12u);
    EXPECT_GT(history.madeCount(), 1u);
    for (int i = 0; i < 11; ++i)
        history.undo();
    EXPECT_EQ(history.made(), nullptr) << "made again when it is wanted";
    EXPECT_EQ(history.now().steps.size(), 1u) << "decisions are never let go";
}

TEST(DiskFontStore, ShipsTypefacesOfItsOwn) {
    const DiskFontStore store;
    const auto fonts = store.fonts();
    for (const base::FontName& name : shippedFonts()) {
        EXPECT_NE(std::find(fonts.begin(), fonts.end(), name), fonts.end()) << name.family;
        const auto file = must(store.read(name));
        EXPECT_GT(must(lettering::Typeface::open(file)).capHeight(), 0.5) << name.family;
    }
    EXPECT_EQ(*must(store.read(lettering::kPlainFont)).bytes,
              support::shippedFont("LeagueSpartan-ExtraBold.otf"));
    EXPECT_EQ(store.read({"Nowhere", ""}).error().code, base::Code::NotFound);
}

} // namespace
} // namespace thinline::document
