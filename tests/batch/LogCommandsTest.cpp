// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/Drawer.h"
#include "document/JobFile.h"
#include "job/CutSteps.h"
#include "job/StockSteps.h"
#include "support/BatchRuns.h"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include <filesystem>
#include <unistd.h>

namespace thinline::batch {
namespace {

class LogCommands : public support::BatchRuns<> {
  protected:
    void SetUp() override {
        ASSERT_TRUE(document::saveJob(m_store, "sign.thinline", support::rectangleJob(60, 40, "sea")));
        m_book = (std::filesystem::temp_directory_path() /
                  ("thinline-log-" + std::to_string(getpid()) +
                   testing::UnitTest::GetInstance()->current_test_info()->name() + ".sqlite"))
                     .string();
        TearDown();
    }
    void TearDown() override {
        for (const char* ending : {"", "-wal", "-shm"})
            std::filesystem::remove(m_book + ending);
    }
    std::string m_book;
};

TEST_F(LogCommands, WhatWasCutIsEnteredAndTeaches) {
    EXPECT_EQ(call({"log", "list", m_book}), kFailed) << "there is none yet";
    ASSERT_EQ(
        call({"log", "add", m_book, "--job", "sign.thinline", "--load", "1", "--outcome", "not through"}),
        kDone)
        << m_err.str();
    EXPECT_TRUE(told("sea: cut not through at 210 gf")) << m_out.str();
    ASSERT_EQ(call({"log", "learnt", m_book, "--job", "sign.thinline"}), kDone) << m_err.str();
    EXPECT_TRUE(told("ten per cent more than the 210 gf that did not go through; --set sea=shallow:235:1"))
        << m_out.str();
    ASSERT_EQ(call({"plan", "sign.thinline", "--set", "sea=shallow:235:1"}), kDone);
    for (int i = 0; i < 4; ++i)
        ASSERT_EQ(call({"log", "add", m_book, "--job", "sign.thinline", "--load", "1"}), kDone)
            << m_err.str();
    ASSERT_EQ(call({"log", "learnt", m_book, "--job", "sign.thinline"}), kDone);
    EXPECT_TRUE(told("cut clean 4 of 4 times at 235 gf")) << m_out.str();
    EXPECT_TRUE(told("the shallow blade has cut 1.0 m")) << m_out.str();
    ASSERT_EQ(call({"log", "list", m_book, "--words", "not through", "--json"}), kDone);
    EXPECT_EQ(nlohmann::json::parse(m_out.str()).size(), 1u);
}

TEST_F(LogCommands, EntriesByHandGoOutAndComeBackOnce) {
    ASSERT_EQ(call({"log", "add", m_book, "--entry", "stockId=sea,kind=card,forceGf=205,note=by hand"}),
              kDone)
        << m_err.str();
    ASSERT_EQ(call({"log", "add", m_book, "--entry", "what=new blade,machine=two-holders"}), kDone)
        << m_err.str();
    EXPECT_EQ(call({"log", "add", m_book, "--entry", "forceGf=heavy"}), kBadCall);
    ASSERT_EQ(call({"log", "export", m_book, "--out", "log.csv"}), kDone);
    ASSERT_EQ(call({"log", "import", m_book, "--from", "log.csv"}), kDone) << m_err.str();
    EXPECT_TRUE(told("entered 0 of 2")) << m_out.str();
    TearDown();
    ASSERT_EQ(call({"log", "import", m_book, "--from", "log.csv"}), kDone) << m_err.str();
    EXPECT_TRUE(told("entered 2 of 2"));
    ASSERT_EQ(call({"log", "export", m_book, "--out", "log.json"}), kDone);
    const auto bytes = m_store.read("log.json", 1 << 20);
    const auto all = nlohmann::json::parse(std::string(bytes->begin(), bytes->end()));
    ASSERT_EQ(all.size(), 2u);
    ASSERT_EQ(call({"log", "add", m_book, "--entry", "stockId=signal,kind=card,forceGf=90"}), kDone) << m_err.str();
    ASSERT_EQ(call({"log", "list", m_book, "--stock", "signal red"}), kDone);
    EXPECT_TRUE(told("1 of 3 lines")) << "by its name, too: " << m_out.str();
    const std::string id = all[0]["id"];
    ASSERT_EQ(call({"log", "remove", m_book, "--id", id}), kDone);
    EXPECT_EQ(call({"log", "remove", m_book, "--id", id}), kFailed);
    EXPECT_EQ(call({"log", "burn", m_book}), kBadCall);
    EXPECT_EQ(call({"log", "list"}), kBadCall);
}

TEST_F(LogCommands, TheDrawerIsUsedUpAndFilled) {
    ASSERT_EQ(call({"stock", "sign.thinline", "--of", "sea", "--sheets", "2 of 304.8x304.8"}), kDone)
        << m_err.str();
    ASSERT_EQ(call({"stock", "sign.thinline", "--keep", "drawer.json"}), kDone);
    ASSERT_EQ(call({"drawer", "take", "drawer.json", "--job", "sign.thinline"}), kDone) << m_err.str();
    EXPECT_TRUE(told("1 sheet of sea taken from the drawer, 1 there.")) << m_out.str();
    ASSERT_EQ(call({"drawer", "take", "drawer.json", "--stock", "sea", "--size", "12x12in"}), kDone)
        << m_err.str();
    ASSERT_EQ(call({"drawer", "list", "drawer.json"}), kDone);
    EXPECT_TRUE(told("sea: 0 of 304.8 × 304.8 mm")) << m_out.str();
    EXPECT_NE(call({"drawer", "take", "drawer.json", "--stock", "sea", "--size", "12x12in"}), kDone);
    ASSERT_EQ(call({"drawer", "add", "drawer.json", "--stock", "sea", "--size", "12x12in", "--sheets", "5"}),
              kDone);
    const auto drawer = document::readDrawer(m_store, "drawer.json");
    ASSERT_TRUE(drawer);
    EXPECT_EQ(design::findStock(drawer->stocks, "sea")->sizes.front().count, 5);
}

TEST_F(LogCommands, AScrapOfTheDrawerIsUsedOnce) {
    ASSERT_EQ(call({"stock", "sign.thinline", "--keep", "drawer.json"}), kDone) << m_err.str();
    ASSERT_EQ(call({"drawer", "add", "drawer.json", "--stock", "sea", "--scrap", "290x290mm"}), kDone) << m_err.str();
    EXPECT_TRUE(told("kept as scrap 1")) << m_out.str();
    ASSERT_EQ(call({"stock", "sign.thinline", "--keep", "drawer.json"}), kDone) << m_err.str();
    ASSERT_EQ(call({"drawer", "list", "drawer.json"}), kDone);
    EXPECT_TRUE(told("scrap 1  sea 290.0 × 290.0 mm")) << m_out.str();
    ASSERT_EQ(call({"sheets", "sign.thinline", "--from-drawer", "drawer.json:1", "--out", "made"}), kDone) << m_err.str();
    const job::State made = state("made/sign.thinline");
    ASSERT_EQ(made.job.plan.scraps.size(), 1u);
    EXPECT_EQ(made.job.plan.scraps[0].drawerId, 1);
    EXPECT_EQ(call({"sheets", "sign.thinline", "--from-drawer", "drawer.json:5", "--out", "no"}), kFailed);
    EXPECT_EQ(call({"sheets", "sign.thinline", "--from-drawer", "drawer.json", "--out", "no"}), kBadCall);
    ASSERT_EQ(call({"drawer", "take", "drawer.json", "--job", "made/sign.thinline"}), kDone) << m_err.str();
    EXPECT_TRUE(told("taken from the drawer")) << m_out.str();
    EXPECT_TRUE(told("is kept as scrap 2")) << m_out.str();
    const auto left = support::must(document::readDrawer(m_store, "drawer.json")).scraps;
    ASSERT_EQ(left.size(), 1u);
    EXPECT_EQ(left[0].name, "left over");
    ASSERT_EQ(call({"drawer", "add", "drawer.json", "--job", "made/sign.thinline"}), kDone) << m_err.str();
    EXPECT_EQ(support::must(document::readDrawer(m_store, "drawer.json")).scraps[0].drawerId, 1) << "whole again";
    ASSERT_EQ(call({"drawer", "add", "drawer.json", "--stock", "sea", "--scrap", "90x90mm"}), kDone);
    EXPECT_TRUE(told("kept as scrap 3")) << m_out.str();
    ASSERT_EQ(call({"drawer", "take", "drawer.json", "--scrap", "3"}), kDone);
    EXPECT_EQ(call({"drawer", "take", "drawer.json", "--scrap", "3"}), kFailed);
    EXPECT_EQ(call({"drawer", "add", "drawer.json", "--stock", "moss", "--scrap", "90x90mm"}), kFailed);
    // A file that is no drawer is not written over.
    ASSERT_TRUE(m_store.writeWhole("note.json", base::Bytes{'h', 'i'}));
    EXPECT_NE(call({"stock", "sign.thinline", "--keep", "note.json"}), kDone);
    EXPECT_EQ(m_store.read("note.json", 10)->size(), 2u);
}

TEST_F(LogCommands, AStockThatIsOutIsSwapped) {
    ASSERT_EQ(call({"swap-stock", "sign.thinline", "--from", "sea"}), kDone) << m_err.str();
    EXPECT_TRUE(told("folds alike, colour off by")) << m_out.str();
    ASSERT_EQ(call({"swap-stock", "sign.thinline", "--from", "sea", "--to", "lamp"}), kDone) << m_err.str();
    EXPECT_TRUE(told("sea is cut from lamp now")) << m_out.str();
    const job::State now = state("sign.thinline");
    EXPECT_EQ(now.made.work()->layerOf(now.made.work()->pieces.front()).stockId, "lamp");
    EXPECT_NE(call({"swap-stock", "sign.thinline", "--from", "none"}), kDone);
}

TEST_F(LogCommands, AMachineOfOnesOwnAndAidsAreKept) {
    ASSERT_EQ(call({"plan", "sign.thinline", "--own",
                    "name=the old "
                    "one,width=330mm,longest=1200mm,most=450,holders=pen/shallow+steep,tools=pen+shallow,"
                    "bladeprice=12,bladelasts=60",
                    "--overcut", "1.5mm", "--tabs", "2:0.5mm", "--tiles", "yes"}),
              kDone)
        << m_err.str();
    EXPECT_TRUE(told("the old one: 1 load")) << m_out.str();
    EXPECT_TRUE(told("test tile: an opening of 5.0 mm")) << m_out.str();
    EXPECT_TRUE(told("cut 1.5 mm beyond where they began")) << m_out.str();
    const job::Job kept = state("sign.thinline").job;
    EXPECT_EQ(kept.cut.machine->id, job::kOwnMachine);
    EXPECT_EQ(kept.cut.machine->usableWidthMm, 330);
    EXPECT_EQ(kept.cut.machine->bladeLastsM, 60);
    EXPECT_EQ(kept.cut.aids, (design::CutAids{0, 1.5, 2, 0.5}));
    EXPECT_TRUE(kept.cut.hasTiles);
    EXPECT_EQ(call({"plan", "sign.thinline", "--own", "wheels=4"}), kBadCall);
    EXPECT_EQ(call({"plan", "sign.thinline", "--own", "tools=saw"}), kBadCall);
    EXPECT_EQ(call({"plan", "sign.thinline", "--offset", "9mm"}), kBadCall);
}

TEST_F(LogCommands, APackageForOthersIsWrittenAsFolderAndZip) {
    ASSERT_EQ(
        call({"pack", "sign.thinline", "--table", "--sheets", "letter,a4", "--sizes", "100,400", "--json"}),
        kDone)
        << m_err.str();
    const auto rows = nlohmann::json::parse(m_out.str());
    ASSERT_EQ(rows.size(), 4u);
    EXPECT_FALSE(rows[0].contains("whyNot"));
    EXPECT_EQ(rows[0]["pieces"], 1);
    ASSERT_EQ(call({"pack", "sign.thinline", "--folds", "score,hand", "--formats", "svg,dxf,pdf,plotter",
                    "--out", "out"}),
              kDone)
        << m_err.str();
    EXPECT_TRUE(told("11 opened again and compared")) << m_out.str();
    EXPECT_TRUE(m_store.read("out/1 cut/hand/dxf/load-1-sea.dxf", 1 << 20));
    EXPECT_TRUE(m_store.read("out/read me.txt", 1 << 20));
    ASSERT_EQ(call({"pack", "sign.thinline", "--out", "sign.zip", "--json"}), kDone) << m_err.str();
    EXPECT_TRUE(m_store.read("sign.zip", 1 << 22));
    EXPECT_EQ(call({"pack", "sign.thinline", "--formats", "doc", "--out", "out"}), kBadCall);
    EXPECT_EQ(call({"pack", "sign.thinline", "--sheets", "tabloid", "--out", "out"}), kBadCall);
    EXPECT_EQ(call({"pack", "sign.thinline"}), kBadCall);
}

TEST_F(LogCommands, LoadsAreWrittenAsDxfAndPdf) {
    ASSERT_EQ(call({"plan", "sign.thinline", "--dxf", "dxf", "--pdf", "loads.pdf"}), kDone) << m_err.str();
    EXPECT_TRUE(told("wrote dxf/load-1-sea.dxf")) << m_out.str();
    EXPECT_TRUE(m_store.read("dxf/load-1-sea.dxf", 1 << 20));
    EXPECT_TRUE(m_store.read("loads.pdf", 1 << 20));
}

TEST_F(LogCommands, AKnifeThatIsLedStaysOnTheMat) {
    ASSERT_EQ(call({"plan", "sign.thinline", "--offset", "0.5mm", "--overcut", "1mm", "--tiles", "yes"}),
              kDone)
        << m_err.str();
    ASSERT_EQ(call({"plan", "sign.thinline", "--plot", "plots"}), kDone) << m_err.str();
    ASSERT_EQ(call({"simulate", "plots/load-1-1-cut.plt", "--json"}), kDone) << m_err.str();
    EXPECT_TRUE(nlohmann::json::parse(m_out.str())["staysOnMat"].get<bool>());
    ASSERT_EQ(call({"pack", "sign.thinline", "--formats", "svg,dxf,pdf,plotter", "--out", "out"}), kDone)
        << m_err.str();
    ASSERT_EQ(call({"pack", "sign.thinline", "--out", "flat"}), kDone) << m_err.str();
}

TEST_F(LogCommands, AMachineThatTakesNoLongMatIsOfferedNone) {
    ASSERT_EQ(call({"fit", "sign.thinline"}), kDone) << m_err.str();
    EXPECT_TRUE(told("12 × 24 in")) << m_out.str();
    ASSERT_EQ(call({"plan", "sign.thinline", "--own", "longest=400mm"}), kDone) << m_err.str();
    ASSERT_EQ(call({"fit", "sign.thinline"}), kDone) << m_err.str();
    EXPECT_FALSE(told("12 × 24 in")) << m_out.str();
    EXPECT_TRUE(told("12 × 12 in"));
}

TEST_F(LogCommands, APlotterFileRunsOnTheSimulatedMat) {
    ASSERT_EQ(call({"plan", "sign.thinline", "--plot", "plots"}), kDone);
    ASSERT_EQ(call({"simulate", "plots/load-1-1-cut.plt", "--png", "mat.png", "--report", "mat.json"}), kDone)
        << m_err.str();
    EXPECT_TRUE(told("1 outline, each lets a part come free; 0 that end")) << m_out.str();
    EXPECT_TRUE(m_store.read("mat.png", 1 << 20));
    const auto bytes = m_store.read("mat.json", 1 << 20);
    EXPECT_NEAR(nlohmann::json::parse(std::string(bytes->begin(), bytes->end()))["lineMm"].get<double>(), 200,
                0.05);
    ASSERT_EQ(
        call({"simulate", "sign.thinline", "--png", "load.png", "--worn", "--askew", "1mm", "--again", "1"}),
        kDone)
        << m_err.str();
    EXPECT_TRUE(m_store.read("load.png", 1 << 20));
    ASSERT_TRUE(m_store.writeWhole("bad.plt", {'P', 'D', '1', ';'}));
    EXPECT_EQ(call({"simulate", "bad.plt"}), kFailed);
    EXPECT_NE(m_err.str().find("bad.plt: "), std::string::npos);
}

} // namespace
} // namespace thinline::batch
