// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/CutSteps.h"

#include "inspect/Inspect.h"
#include "job/Catalogue.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

namespace thinline::job {
namespace {

using design::ToolKind;

State laid() {
    return support::arranged(support::withFigure(support::rectangleJob(60, 40, "sea"),
                                                 construct::Figure::Rectangle, {30, 20}, "lamp"));
}

TEST(CutSteps, EveryLoadIsPlannedOnTheUsualMachineUntilSomebodySays) {
    const State state = laid();
    const auto plan = planned(state);
    ASSERT_TRUE(plan) << plan.error().message;
    EXPECT_EQ(plan->machine.id, "two-holders");
    EXPECT_EQ(plan->loads.size(), state.made.sheets->loads.size());
    EXPECT_TRUE(plan->faults.empty());
    const auto job = withMachine(state.job, *shippedCatalogue().machine("one-holder"));
    ASSERT_TRUE(job);
    const State other{*job, state.made};
    EXPECT_EQ(planned(other)->machine.id, "one-holder");
    const State empty = support::emptyState();
    EXPECT_FALSE(planned(empty));
    EXPECT_TRUE(cutFaults(empty).empty());
}

TEST(CutSteps, ASettingIsKeptForItsStockAndTakenBack) {
    const State state = laid();
    const auto usual = settingOf(state.job, "sea");
    ASSERT_TRUE(usual);
    design::Setting more = *usual;
    more.forceGf += 20;
    const auto job = withSetting(state.job, "sea", more);
    ASSERT_TRUE(job);
    EXPECT_EQ(*settingOf(*job, "sea"), more);
    EXPECT_EQ(*settingOf(*job, "lamp"), *settingOf(state.job, "lamp"));
    EXPECT_EQ(planned({*job, state.made})->settings.at("sea").forceGf, more.forceGf);
    EXPECT_EQ(*settingOf(*withSetting(*job, "sea", {}), "sea"), *usual);
    EXPECT_FALSE(withSetting(state.job, "none", more));
    for (const design::Setting& bad :
         {design::Setting{ToolKind::Pen, 100, 1}, design::Setting{ToolKind::ShallowBlade, 0, 1},
          design::Setting{ToolKind::ShallowBlade, std::nan(""), 1},
          design::Setting{ToolKind::ShallowBlade, 100, 0}, design::Setting{ToolKind::ShallowBlade, 100, 10}})
        EXPECT_FALSE(withSetting(state.job, "sea", bad));
    design::Machine none = machineOf(state.job);
    none.holders.clear();
    EXPECT_FALSE(withMachine(state.job, none));
}

TEST(CutSteps, WhatTheMachineCannotIsAFinding) {
    State state = laid();
    design::Machine machine = machineOf(state.job);
    machine.tools = {ToolKind::Pen};
    state.job = *withMachine(state.job, machine);
    inspect::Memory memory;
    const auto findings = inspect::inspect(state, shippedCatalogue().formats, memory);
    ASSERT_TRUE(findings);
    const auto at = std::find_if(findings->begin(), findings->end(), [](const inspect::Finding& one) {
        return one.kind == inspect::Kind::MachineCannot;
    });
    ASSERT_NE(at, findings->end());
    EXPECT_FALSE(at->remedy.empty());
}

TEST(CutSteps, TheChecklistSaysWhatLiesWhereWhichToolAndToLookBeforeUnloading) {
    const State state = laid();
    const auto plan = planned(state);
    const auto list = checklistOf(state, *plan, 0);
    ASSERT_TRUE(list);
    const std::string text = list->text();
    for (const char* words : {"upper left corner", "Holder 2: shallow blade", "middle tack", "304.8 mm",
                              "Fingers, hair and sleeves", "lift a corner", "bend it away from the card",
                              "makers' instructions", " gf: "})
        EXPECT_NE(text.find(words), std::string::npos) << words << "\n" << text;
    EXPECT_FALSE(checklistOf(state, *plan, 99));
    // Loads go by the number their files bear, whenever they are cut.
    design::CutPlan other = *plan;
    other.loads.resize(12, other.loads.front());
    other.loads[1].load = 6;
    EXPECT_EQ(loadName(other, 1), "Load 7, the 2nd of 12 to be cut");
    EXPECT_EQ(loadName(other, 10), "Load 1, the 11th of 12 to be cut");
    const auto files = plotterFiles(state, *plan);
    ASSERT_TRUE(files);
    EXPECT_EQ(files->size(), plan->loads.size());
}

TEST(CutSteps, TimesReadAsPeopleSayThem) {
    EXPECT_EQ(timeText(0.4), "0 s");
    EXPECT_EQ(timeText(40), "40 s");
    EXPECT_EQ(timeText(400), "6 min 40 s");
    EXPECT_EQ(timeText(3900), "1 h 05 min");
}

} // namespace
} // namespace thinline::job
