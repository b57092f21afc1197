// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/Needs.h"

#include "job/StockSteps.h"
#include "pack/AssemblySheets.h"
#include "pack/Templates.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

#include <atomic>

namespace thinline::pack {
namespace {

const Need* find(const std::vector<Need>& needs, const std::string& group, const std::string& what) {
    for (const Need& need : needs)
        if (need.group == group && need.what.find(what) != std::string::npos)
            return &need;
    return nullptr;
}

/// A drawing of a plate with a smaller one on it, in two cards, laid on sheets; a sheet of the lower one costs 0.4.
job::State twoCards() {
    job::State state = support::made(support::openedDrawing(
        "<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='80mm' viewBox='0 0 120 80'>"
        "<path d='M0 0H120V80H0Z' fill='#2f6f8f'/><path d='M20 20H60V60H20Z' fill='#c8452a'/></svg>"));
    job::Job job = state.job;
    for (design::Stock& stock : job.stocks)
        if (stock.id == "sea")
            stock.price = 0.4;
        else if (stock.id == "signal")
            stock.price = 0;
    return support::made(std::move(job), state.made, job::Stage::Sheets);
}

std::vector<Need> needsOfState(const job::State& state) {
    return needsOf(state, support::must(job::instructionsOf(state)));
}

TEST(Needs, CardIsToldByTheSheetAndCostsWhatTheDrawerSays) {
    const job::State state = twoCards();
    const std::vector<Need> needs = needsOfState(state);
    const Need* sea = find(needs, "Card", "sea");
    ASSERT_NE(sea, nullptr);
    EXPECT_EQ(sea->howMuch, "1 sheet 304.8 × 304.8 mm");
    ASSERT_TRUE(sea->cost);
    EXPECT_NEAR(*sea->cost, 0.4, 1e-9);
    const NeedsCost cost = costOf(needs);
    EXPECT_NEAR(cost.sum, 0.4, 1e-9);
    EXPECT_FALSE(cost.isWhole) << "the red card has no price";
    EXPECT_NE(find(needs, "Glue and foam", "paper glue"), nullptr);
    EXPECT_NE(find(needs, "Tools", "cutter"), nullptr);
    EXPECT_EQ(find(needs, "Tools", "bone folder"), nullptr) << "nothing folds";
    const std::string csv = needsCsv(needs);
    EXPECT_NE(csv.find("\"Card\",\"sea\",\"1 sheet 304.8 × 304.8 mm\",0.40\r\n"), std::string::npos) << csv;
}

TEST(Needs, WithoutSheetsTheAreaIsTold) {
    job::State state = twoCards();
    state.made.sheets = nullptr;
    const std::vector<Need> needs = needsOfState(state);
    EXPECT_EQ(find(needs, "Card", "sea")->howMuch, "96 cm² of pieces"); // 120 x 80 mm
    EXPECT_FALSE(find(needs, "Card", "sea")->cost);
}

TEST(Needs, WhatTheMakerBringsIsInIt) {
    job::State state = twoCards();
    state.job = *job::withItem(state, {"a \"brass\" hook", {}});
    const std::vector<Need> needs = needsOfState(state);
    ASSERT_NE(find(needs, "Yours", "hook"), nullptr);
    EXPECT_NE(needsCsv(needs).find("\"a \"\"brass\"\" hook\""), std::string::npos);
    EXPECT_FALSE(job::withItem(state, {"x", design::PieceId::found(design::SourceId{9}, "1")}));
    for (std::size_t i = state.job.assembly.items.size(); i < assembly::kMostItems; ++i)
        state.job = *job::withItem(state, {"one more", {}});
    EXPECT_EQ(job::withItem(state, {"too many", {}}).error().code, base::Code::LimitExceeded);
}

TEST(Cautions, ApplyToWhatTheWorkIsMadeOf) {
    const auto says = [](const design::Stack& work, const std::string& words) {
        for (const std::string& line : cautionsOf(work))
            if (line.find(words) != std::string::npos)
                return true;
        return false;
    };
    design::Stack work{{{.id = "a", .name = "a"}},
                       {support::layer(1, "a")},
                       {support::laid(1, support::rectangle(0, 0, 50, 50))}};
    EXPECT_TRUE(says(work, "Blades cut"));
    EXPECT_FALSE(says(work, "PVC"));
    EXPECT_FALSE(says(work, "flame"));
    EXPECT_FALSE(says(work, "secure hook"));
    work.stocks[0].kind = design::Stock::Kind::Vinyl;
    EXPECT_TRUE(says(work, "PVC"));
    work.stocks[0].isTranslucent = true;
    EXPECT_TRUE(says(work, "electric light, never a flame"));
    work.stocks[0].kind = design::Stock::Kind::Board;
    EXPECT_TRUE(says(work, "away from the other hand"));
    work.pieces.push_back(support::laid(2, support::rectangle(60, 0, 500, 50)));
    EXPECT_TRUE(says(work, "secure hook"));
    EXPECT_TRUE(says(work, "Hot glue burns"));
}

// A card laid face down on its sheet: what goes away from the maker in the design comes towards her there.
TEST(ByHand, FoldsOfFlippedPiecesGoTheOtherWay) {
    design::Laid laid = support::laid(1, support::rectangle(0, 0, 60, 40));
    design::Body body = *laid.piece.body;
    body.lines = {{design::LineId{1}, {{20, 0}, {geometry::Segment::line({20, 40})}}, design::Fold{}},
                  {design::LineId{2}, {{5, 5}, {geometry::Segment::line({15, 5})}}, design::Pen{}}};
    laid.piece.body = std::make_shared<const design::Body>(body);
    const design::Stack stack{{{.id = "sea", .name = "sea"}}, {support::layer(1, "sea")}, {laid}};
    for (const bool isFlipped : {false, true}) {
        design::PlacedPiece placed = support::placed(stack, laid.id(), 0, {20, 30});
        placed.pose.isFlipped = isFlipped;
        const design::Load load{{"square12", "", 304.8, 304.8, 6.35}, {{"sea", 6, 6, 280, 280, 5, {placed}}}};
        const auto sheets = sheetsByHand(stack, {{load}, {}});
        ASSERT_TRUE(sheets) << sheets.error().message;
        ASSERT_EQ(sheets->size(), 1u);
        const ByHand& one = sheets->front();
        EXPECT_EQ(one.name, "sea, sheet 1");
        EXPECT_EQ(one.cuts.size(), 1u);
        EXPECT_EQ(one.away.size(), isFlipped ? 0u : 1u);
        EXPECT_EQ(one.towards.size(), isFlipped ? 1u : 0u);
        EXPECT_EQ(one.others.size(), 1u);
    }
}

TEST(AssemblySheets, NothingAndSmallPaperAreRefused) {
    EXPECT_FALSE(assemblySheets(support::emptyState(), {}));
    EXPECT_FALSE(assemblySheets(twoCards(), {"card", 100, 100}));
    const auto sheets = assemblySheets(twoCards(), {});
    ASSERT_TRUE(sheets) << sheets.error().message;
    EXPECT_EQ(sheets->pageOfStep.size(), 2u);
    EXPECT_EQ(sheets->pageOfStep.back(), sheets->pages.size() - 1);
    const std::atomic<bool> stop{true};
    const auto stopped = assemblySheets(twoCards(), {}, base::Progress(&stop, nullptr));
    ASSERT_FALSE(stopped);
    EXPECT_EQ(stopped.error().code, base::Code::Cancelled);
}

} // namespace
} // namespace thinline::pack
