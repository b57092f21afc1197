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

TEST(CutSteps, SheetsAskWhatOneSettingCuts) {
    State state = laid();
    state.job.plan.isMixed = true;
    const State together = support::made(state.job, state.made, Stage::Sheets);
    ASSERT_EQ(together.made.sheets->loads.size(), 1u) << "two cards that are cut alike";
    design::Setting other = *settingOf(together.job, "lamp");
    other.forceGf *= 1.3;
    const State apart =
        support::made(*withSetting(together.job, "lamp", other), together.made, Stage::Sheets);
    EXPECT_EQ(apart.made.sheets->loads.size(), 2u) << "no one setting cuts both";
    EXPECT_TRUE(cutFaults(apart).empty());
    other.forceGf /= 1.2;
    EXPECT_EQ(support::made(*withSetting(together.job, "lamp", other), apart.made, Stage::Sheets)
                  .made.sheets->loads.size(),
              1u);
}

TEST(CutSteps, CostIsCardAndBlade) {
    State state = laid();
    for (design::Stock& stock : state.job.stocks)
        if (stock.id == "sea")
            stock.price = 0.8;
    design::Machine machine = machineOf(state.job);
    machine.bladePrice = 12;
    machine.bladeLastsM = 60;
    state.job = *withMachine(state.job, machine);
    const auto plan = planned(state);
    ASSERT_TRUE(plan);
    const auto all = cutCost(state, *plan);
    ASSERT_TRUE(all);
    EXPECT_EQ(all->sheets, 2);
    EXPECT_NEAR(all->usedMm2, 60 * 40 + 30 * 20, 1e-6);
    EXPECT_NEAR(all->cutMm, 200 + 100, 1e-6);
    EXPECT_NEAR(all->cardCost, 0.8, 1e-12);
    EXPECT_NEAR(all->bladeCost, 0.3 / 60 * 12, 1e-9); // by hand
    EXPECT_EQ(all->unknown, std::vector<std::string>{"lamp"});
    EXPECT_FALSE(cutCost(state, *plan, 2));
}

TEST(CutSteps, AidsAreKeptWithinWhatMakesSense) {
    const Job job = laid().job;
    const auto kept = withAids(job, {0.25, 1, 2, 0.5});
    ASSERT_TRUE(kept);
    EXPECT_NE(aidsText(kept->cut.aids, base::LengthUnit::Millimetre).find("trails by 0.25 mm"),
              std::string::npos);
    EXPECT_TRUE(aidsText({}, base::LengthUnit::Millimetre).empty());
    for (const design::CutAids& bad : {design::CutAids{-1, 0, 0, 0.5}, design::CutAids{3, 0, 0, 0.5},
                                       design::CutAids{0, 6, 0, 0.5}, design::CutAids{0, 0, 13, 0.5},
                                       design::CutAids{0, 0, 2, 0}, design::CutAids{std::nan(""), 0, 0, 0.5}})
        EXPECT_FALSE(withAids(job, bad));
}

TEST(CutSteps, TimesReadAsPeopleSayThem) {
    EXPECT_EQ(timeText(0.4), "0 s");
    EXPECT_EQ(timeText(40), "40 s");
    EXPECT_EQ(timeText(400), "6 min 40 s");
    EXPECT_EQ(timeText(3900), "1 h 05 min");
}

} // namespace
} // namespace thinline::job
