// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/JobFile.h"
#include "formats/plotter/ReadPlotter.h"
#include "job/CutSteps.h"
#include "support/BatchRuns.h"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>


namespace thinline::batch {
namespace {

class CutCommands : public support::BatchRuns<> {
  protected:
    void SetUp() override {
        ASSERT_TRUE(document::saveJob(m_store, "sign.thinline", support::rectangleJob(60, 40, "sea")));
    }
};

TEST_F(CutCommands, ThePlanIsToldAndPlottedAndReadBack) {
    ASSERT_EQ(call({"plan", "sign.thinline", "--json", "--plot", "plots"}), kDone) << m_err.str();
    const std::string told = m_out.str();
    const auto plan = nlohmann::json::parse(told.substr(0, told.rfind('}') + 1));
    ASSERT_EQ(plan["loads"].size(), 1U);
    const auto& load = plan["loads"][0];
    EXPECT_NEAR(load["lineMm"].get<double>(), 200, 1e-6);
    EXPECT_EQ(plan["swaps"], 0);
    // The window's plan is the same function's.
    const job::State laid = support::arranged(state("sign.thinline"));
    EXPECT_NEAR(job::planned(laid)->seconds(), plan["minutes"].get<double>() * 60, 1e-6);
    const auto file = m_store.read("plots/load-1-1-cut.plt", 1 << 20);
    ASSERT_TRUE(file);
    const auto page =
        formats::plotter::readPlotter({reinterpret_cast<const char*>(file->data()), file->size()});
    ASSERT_TRUE(page);
    ASSERT_EQ(page->lines.size(), 1U);
    EXPECT_TRUE(page->endsLifted);
}

TEST_F(CutCommands, MachineAndSettingsAreKeptInTheJobAndSurviveIt) {
    ASSERT_EQ(call({"plan", "sign.thinline", "--machine", "one-holder", "--set", "sea=shallow:235:2"}), kDone)
        << m_err.str();
    EXPECT_NE(m_out.str().find("at 235 gf, 2 times"), std::string::npos) << m_out.str();
    const job::Job kept = state("sign.thinline").job;
    ASSERT_TRUE(kept.cut.machine);
    EXPECT_EQ(*kept.cut.machine, *job::shippedCatalogue().machine("one-holder"));
    EXPECT_EQ(job::settingOf(kept, "sea")->forceGf, 235);
    EXPECT_EQ(job::settingOf(kept, "sea")->passes, 2);
    ASSERT_EQ(call({"plan", "sign.thinline", "--set", "sea=usual"}), kDone) << m_err.str();
    EXPECT_TRUE(state("sign.thinline").job.cut.settings.empty());
}

TEST_F(CutCommands, WhatLiesOnTheMatIsTold) {
    ASSERT_EQ(call({"simulate", "sign.thinline", "--json"}), kDone) << m_err.str();
    auto told = nlohmann::json::parse(m_out.str());
    ASSERT_EQ(told.size(), 1U);
    EXPECT_EQ(told[0]["free"], 1);
    EXPECT_TRUE(told[0]["tears"].empty());
    ASSERT_EQ(call({"simulate", "sign.thinline", "--until", "0.5"}), kDone);
    EXPECT_NE(m_out.str().find("0 pieces free, 1 still held"), std::string::npos) << m_out.str();
    ASSERT_EQ(call({"simulate", "sign.thinline", "--dull"}), kDone);
    EXPECT_NE(m_out.str().find("1 not cut through"), std::string::npos) << m_out.str();
    EXPECT_NE(call({"simulate", "sign.thinline", "--until", "soon"}), kDone);
}

TEST_F(CutCommands, TheChecklistIsPrinted) {
    ASSERT_EQ(call({"checklist", "sign.thinline"}), kDone) << m_err.str();
    EXPECT_NE(m_out.str().find("Load 1, the 1st of 1 to be cut"), std::string::npos);
    EXPECT_NE(m_out.str().find("Before you unload"), std::string::npos);
    EXPECT_NE(call({"checklist", "sign.thinline", "--load", "2"}), kDone);
}

TEST_F(CutCommands, SayWhatIsWrong) {
    for (const std::vector<std::string>& wrong :
         std::vector<std::vector<std::string>>{{"--machine", "spoon"},
                                               {"--set", "sea"},
                                               {"--set", "gold=shallow"},
                                               {"--set", "sea=spoon:100"},
                                               {"--set", "sea=pen:100"},
                                               {"--set", "sea=shallow:0"},
                                               {"--set", "sea=shallow:100:99"}}) {
        std::vector<std::string> all{"plan", "sign.thinline"};
        all.insert(all.end(), wrong.begin(), wrong.end());
        EXPECT_NE(call(all), kDone) << wrong[1];
        EXPECT_FALSE(m_err.str().empty());
    }
    EXPECT_EQ(state("sign.thinline").job.cut, job::CutWishes{});
}

} // namespace
} // namespace thinline::batch
