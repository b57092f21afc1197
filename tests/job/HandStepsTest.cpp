// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/HandSteps.h"

#include "job/CardSteps.h"
#include "sheets/Cards.h"
#include "sheets/Faults.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

#include <numbers>

namespace thinline::job {
namespace {

using support::must;

/// A work with its sheets, and a copy of it that lies on one.
class HandSteps : public ::testing::Test {
  protected:
    State m_state = support::arrangedShed();
    design::CopyOf m_what = m_state.made.sheets->loads.back().sheets[0].pieces[0].what;

    void take(base::Result<Job> job) { m_state = support::arranged({must(std::move(job)), m_state.made}); }
    HandLaid now() { return *placeOf(m_state, m_what); }
    std::string stockId() {
        const design::Stack& work = *m_state.made.work();
        return work.layerOf(*work.find(m_what.piece)).stockId;
    }
    size_t faults() {
        const auto options = arrangeOptions(m_state.job, shippedCatalogue().formats);
        return sheets::faultsOf(*m_state.made.work(), *m_state.made.sheets, *options)->size();
    }
};

TEST_F(HandSteps, ACopyIsTurnedWhereItLiesAndStaysSo) {
    const HandLaid before = now();
    take(turnedTo(m_state, m_what, 0.25));
    EXPECT_NEAR(now().pose.turnRad, 0.25, 1e-9);
    EXPECT_LT(geometry::distance(now().pose.at, before.pose.at), 1e-9);
    ASSERT_EQ(m_state.job.plan.pins.size(), 1u);
    take(turnedTo(m_state, m_what, -0.5));
    EXPECT_EQ(m_state.job.plan.pins.size(), 1u) << "one pin for a copy";
    EXPECT_NEAR(now().pose.turnRad, -0.5, 1e-9);
    // A grain allows half turns.
    for (design::Stock& stock : m_state.job.stocks)
        if (stock.id == stockId())
            stock.turns = design::Stock::Turns::Half;
    m_state = support::arranged(m_state);
    EXPECT_FALSE(turnedTo(m_state, m_what, 0.25));
    EXPECT_TRUE(turnedTo(m_state, m_what, -std::numbers::pi));
}

TEST_F(HandSteps, ACopyIsFlippedOverWhereBothFacesMayBeSeen) {
    take(flippedOver(m_state, m_what));
    EXPECT_TRUE(now().pose.isFlipped);
    for (design::Stock& stock : m_state.job.stocks)
        stock.faces = design::Stock::Faces::GoodFront;
    m_state = support::arranged(m_state);
    const auto refused = flippedOver(m_state, m_what);
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.error().message.find("good front"), std::string::npos);
}

TEST_F(HandSteps, ACopyIsSentToAFreshSheetAndBack) {
    const size_t loads = m_state.made.sheets->loads.size(), from = now().load;
    const size_t lay = m_state.made.sheets->loads[from].sheets[0].pieces.size();
    take(sentTo(m_state, m_what, loads));
    const size_t to = now().load;
    EXPECT_EQ(to != from, lay > 1) << "alone, its sheet becomes the fresh one";
    EXPECT_EQ(m_state.made.sheets->loads[to].sheets[0].pieces.size(), 1u);
    EXPECT_EQ(faults(), 0u);
    if (to != from) {
        take(sentTo(m_state, m_what, from));
        EXPECT_EQ(now().load, from);
        EXPECT_EQ(faults(), 0u) << "beside what lies there";
    }
    EXPECT_FALSE(sentTo(m_state, m_what, 99));
    const auto other = sentTo(m_state, m_what, 0); // the first load is of another stock
    if (m_state.made.sheets->loads[0].sheets[0].stockId != stockId()) {
        ASSERT_FALSE(other);
        EXPECT_NE(other.error().message.find("no whole sheet"), std::string::npos);
    }
}

TEST_F(HandSteps, ScrapsAreNumberedOnceAndPinsGoWithThem) {
    design::Scrap scrap{0, stockId(), "", scrapRectangle(250, 250)};
    take(withScrap(m_state.job, scrap));
    EXPECT_EQ(m_state.job.plan.scraps[0].id, 1);
    size_t load = 0;
    for (size_t l = 0; l < m_state.made.sheets->loads.size(); ++l)
        for (const design::PlacedSheet& sheet : m_state.made.sheets->loads[l].sheets)
            if (sheet.scrapId == 1)
                load = l;
    EXPECT_EQ(now().load, load) << "a scrap comes first";
    take(turnedTo(m_state, m_what, std::numbers::pi));
    EXPECT_EQ(m_state.job.plan.pins[0].scrapId, 1);
    EXPECT_NEAR(std::abs(now().pose.turnRad), std::numbers::pi, 1e-9);
    take(withoutScrap(m_state.job, 1));
    EXPECT_TRUE(m_state.job.plan.pins.empty()) << "what was pinned on it is free again";
    take(withScrap(m_state.job, scrap));
    EXPECT_EQ(m_state.job.plan.scraps[0].id, 2) << "no number is given twice";
    EXPECT_FALSE(withScrap(m_state.job, {0, "moss", "", scrapRectangle(50, 50)}));
    EXPECT_FALSE(withScrap(m_state.job, {0, stockId(), "", scrapRectangle(5, 50)}));
}

TEST_F(HandSteps, SheetsTapedInPairsLieFaceDownAndLetGoWhatWasPinned) {
    SheetPlan plan = m_state.job.plan;
    plan.matId = "long24";
    plan.sheetId = "square12";
    take(withPlan(m_state.job, plan));
    take(withScrap(m_state.job, {0, stockId(), "", scrapRectangle(250, 250)}));
    take(turnedTo(m_state, m_what, std::numbers::pi));
    ASSERT_EQ(m_state.job.plan.pins[0].scrapId, 1);
    take(withSheetsTaped(m_state, stockId(), true));
    EXPECT_TRUE(m_state.job.plan.pins.empty()) << "it was measured on another card";
    const design::Load& load = m_state.made.sheets->loads[now().load];
    EXPECT_TRUE(load.sheets[0].isPair());
    EXPECT_EQ(load.sheets[0].scrapId, 0) << "a scrap is not taped";
    EXPECT_TRUE(now().pose.isFlipped);
    EXPECT_EQ(faults(), 0u);
    const design::Laid& laid = *m_state.made.work()->find(m_what.piece);
    EXPECT_TRUE(willLieFlipped(m_state.job, laid, stockId()));
    for (const design::Load& one : m_state.made.sheets->loads)
        for (const design::PlacedSheet& sheet : one.sheets)
            EXPECT_EQ(sheet.isPair(), sheet.stockId == stockId());
    take(withSheetsTaped(m_state, stockId(), false));
    EXPECT_FALSE(now().pose.isFlipped);
    EXPECT_EQ(faults(), 0u);
    // What cannot lie face down, is printed, or is not there.
    EXPECT_FALSE(withSheetsTaped(m_state, "moss", true));
    Job printed = m_state.job;
    printed.print.stocks = {stockId()};
    EXPECT_NE(withSheetsTaped({printed, m_state.made}, stockId(), true).error().message.find("are printed"), std::string::npos);
    printed.plan.tapedStocks = {stockId()};
    EXPECT_FALSE(arrangeOptions(printed, shippedCatalogue().formats)) << "whichever was said first";
    for (design::Stock& stock : m_state.job.stocks)
        stock.cut = design::Depth::ToCarrier;
    EXPECT_NE(withSheetsTaped(m_state, stockId(), true).error().message.find("on its carrier"), std::string::npos);
}

TEST_F(HandSteps, OnAScrapToBeCutAHandLaysBesideWhatItLaidBefore) {
    m_state = support::rectangleJob(60, 40, "sea");
    for (const char* stock : {"sea", "lamp", "lamp"})
        m_state = support::withFigure(m_state, construct::Figure::Rectangle, {40, 30}, stock);
    SheetPlan plan = m_state.job.plan;
    plan.isMixed = true;
    m_state = support::arranged({withPlan(m_state.job, plan), m_state.made});
    const design::PlacedSheet* scrap = nullptr;
    size_t load = 0;
    const auto find = [&] {
        scrap = nullptr;
        for (size_t l = 0; l < m_state.made.sheets->loads.size(); ++l)
            for (const design::PlacedSheet& sheet : m_state.made.sheets->loads[l].sheets)
                if (sheet.isScrap && sheet.pieces.size() > 1 && (!scrap || sheet.pieces.size() > scrap->pieces.size())) {
                    scrap = &sheet;
                    load = l;
                }
        return scrap != nullptr;
    };
    ASSERT_TRUE(find()) << "a scrap with two pieces";
    const design::CopyOf one = scrap->pieces[0].what, two = scrap->pieces[1].what;
    const design::Pose from = scrap->pieces[0].pose;
    design::Pose pose = from;
    pose.at.x += 3;
    take(pinnedAt(m_state, one, pose, load));
    EXPECT_EQ(m_state.job.plan.pins[0].scrapId, sheets::kScrapToCut);
    ASSERT_TRUE(find());
    const auto isOn = [&](const design::CopyOf& what) {
        return std::any_of(scrap->pieces.begin(), scrap->pieces.end(), [&](const auto& piece) { return piece.what == what; });
    };
    EXPECT_TRUE(isOn(one)) << "it did not go to a sheet of its own";
    const HandLaid first = *placeOf(m_state, one);
    design::Pose beside = placeOf(m_state, two)->pose;
    beside.at = beside.at + geometry::Point{20, 30};
    const geometry::Point between = beside.at - first.pose.at;
    take(pinnedAt(m_state, two, beside, placeOf(m_state, two)->load));
    EXPECT_LT(geometry::distance(placeOf(m_state, two)->pose.at - placeOf(m_state, one)->pose.at, between), 1e-6)
        << "as it was dropped";
}

TEST(CardSteps, WhatStaysFreeIsKeptByMat) {
    Job job = newJob(shippedCatalogue());
    const auto& formats = shippedCatalogue().formats;
    job = must(withKeepOut(job, {{-20, 10}, {30, 12}}, formats));
    const geometry::Box kept = keepOutsOf(job.plan).front();
    EXPECT_EQ(kept.least.x, 0) << "what lies beyond the mat is cut off";
    EXPECT_DOUBLE_EQ(kept.height(), sheets::kLeastKeepOutMm) << "and what is narrow widened";
    EXPECT_FALSE(withKeepOut(job, {{-20, 10}, {-5, 12}}, formats));
    SheetPlan plan = job.plan;
    plan.matId = "long24";
    EXPECT_TRUE(keepOutsOf(plan).empty()) << "another mat has its own spots";
    EXPECT_TRUE(keepOutsOf(withoutKeepOut(job, 0).plan).empty());
}

TEST_F(HandSteps, WhatIsLeftOfTheSheetsIsFilledAndNothingMoves) {
    const design::Arrangement before = *m_state.made.sheets;
    const auto filled = withRestFilled(m_state, m_what.piece);
    ASSERT_TRUE(filled) << filled.error().message;
    const int had = m_state.made.work()->find(m_what.piece)->copies;
    m_state = support::arranged({filled->job, m_state.made});
    const int has = m_state.made.work()->find(m_what.piece)->copies;
    EXPECT_GT(has, had);
    EXPECT_EQ(filled->note.substr(0, filled->note.find(' ')), std::to_string(has - had));
    const design::Arrangement& after = *m_state.made.sheets;
    ASSERT_EQ(after.loads.size(), before.loads.size());
    EXPECT_TRUE(after.unplaced.empty());
    EXPECT_EQ(faults(), 0u);
    for (size_t l = 0; l < before.loads.size(); ++l) {
        ASSERT_EQ(after.loads[l].sheets.size(), before.loads[l].sheets.size());
        for (const design::PlacedSheet& sheet : before.loads[l].sheets)
            for (const design::PlacedPiece& piece : sheet.pieces) {
                const auto now_ = placeOf(m_state, piece.what);
                ASSERT_TRUE(now_);
                EXPECT_EQ(now_->load, l);
                EXPECT_LT(geometry::distance(now_->pose.at, piece.pose.at), 1e-6);
            }
    }
    // Not one more goes on.
    const auto again = withRestFilled(m_state, m_what.piece);
    ASSERT_FALSE(again);
    EXPECT_NE(again.error().message.find("There is no room for one more of "), std::string::npos)
        << again.error().message;
}

} // namespace
} // namespace thinline::job
