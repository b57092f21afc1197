// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/DrawerSteps.h"

#include "job/CardSteps.h"
#include "job/Catalogue.h"
#include "job/CutSteps.h"
#include "job/StockSteps.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

namespace thinline::job {
namespace {

using design::Stock;

design::Drawer drawerWith(std::optional<int> count) {
    Stock sea{"sea", "sea", {60, 125, 140}};
    sea.sizes = {{210, 297, count}};
    return {{sea}};
}

design::Load loadOf(const std::vector<design::PlacedSheet>& sheets) {
    return {{"m", "m", 300, 600, 0}, sheets};
}
const design::PlacedSheet kTurned{"sea", 0, 0, 297, 210, 5, {}};

std::optional<int> countIn(const design::Drawer& drawer) {
    return drawer.stocks.front().sizes.front().count;
}

TEST(DrawerSteps, LoadsUseUpWhatWasCounted) {
    const DrawerNow now = withoutSheetsOf(drawerWith(3), loadOf({kTurned, kTurned}));
    EXPECT_EQ(countIn(now.drawer), 1) << "either way round";
    EXPECT_EQ(now.told, "2 sheets of sea taken from the drawer, 1 there.");
    EXPECT_EQ(countIn(withSheetsOf(now.drawer, loadOf({kTurned, kTurned})).drawer), 3);
    // The last one: none is there, which is not the same as nobody counted.
    const DrawerNow none = withoutSheetsOf(now.drawer, loadOf({kTurned}));
    EXPECT_EQ(countIn(none.drawer), 0);
    EXPECT_TRUE(withoutSheetsOf(none.drawer, loadOf({kTurned})).told.empty());
    EXPECT_TRUE(withoutSheetsOf(drawerWith({}), loadOf({kTurned})).told.empty());
    design::PlacedSheet scrap = kTurned, known = kTurned, other = kTurned;
    scrap.isScrap = true;
    known.scrapId = 4;
    other.widthMm = 305;
    EXPECT_EQ(countIn(withoutSheetsOf(drawerWith(3), loadOf({scrap, known, other})).drawer), 3);
}

TEST(DrawerSteps, AScrapIsKeptForOtherJobsUntilItIsCut) {
    design::Drawer drawer = drawerWith(3);
    design::Scrap torn{7, "sea", "torn", {{{0, 0}, {80, 0}, {80, 120}, {20, 120}}}};
    torn.at = geometry::Point{30, 40};
    torn.mat = "mat.jpg";
    drawer = support::must(withScrapKept(drawer, torn));
    drawer = support::must(withScrapKept(drawer, {0, "sea", "", scrapRectangle(50, 60)}));
    ASSERT_EQ(drawer.scraps.size(), 2u);
    EXPECT_EQ(drawer.scraps[0].drawerId, 1);
    EXPECT_EQ(drawer.scraps[0].id, 0) << "its number in that job is of no use elsewhere";
    EXPECT_FALSE(drawer.scraps[0].at) << "nor where it lay";
    EXPECT_EQ(drawer.scraps[0].rings, torn.rings);
    EXPECT_FALSE(withScrapKept(drawer, {0, "moss", "", scrapRectangle(50, 60)}));
    EXPECT_FALSE(withScrapKept(drawer, {0, "sea", "", scrapRectangle(5, 5)})) << "no room inside its margin";
    Job job = newJob(shippedCatalogue());
    job.stocks = drawer.stocks;
    job = support::must(withScrapFromDrawer(job, drawer, 2));
    EXPECT_FALSE(withScrapFromDrawer(job, drawer, 2)) << "it is there once";
    EXPECT_FALSE(withScrapFromDrawer(job, drawer, 9));
    design::PlacedSheet on = kTurned;
    on.scrapId = job.plan.scraps[0].id;
    const DrawerNow cut = withoutSheetsOf(drawer, loadOf({on}), job.plan.scraps);
    ASSERT_EQ(cut.drawer.scraps.size(), 1u);
    EXPECT_EQ(cut.drawer.scraps[0].drawerId, 1);
    EXPECT_EQ(cut.told, "The scrap sea 50.0 × 60.0 mm, taken from the drawer.");
    EXPECT_EQ(countIn(cut.drawer), 3);
    EXPECT_TRUE(withoutSheetsOf(cut.drawer, loadOf({on}), job.plan.scraps).told.empty()) << "it goes once";
    const DrawerNow back = withSheetsOf(cut.drawer, loadOf({on}), job.plan.scraps);
    ASSERT_EQ(back.drawer.scraps.size(), 2u);
    EXPECT_EQ(back.drawer.scraps[1].drawerId, 2);
    EXPECT_EQ(drawerOf(job, back.drawer).scraps, back.drawer.scraps) << "keeping stocks loses no scrap";
    const design::Drawer fewer = support::must(withoutScrapKept(back.drawer, 1));
    EXPECT_EQ(
        support::must(withScrapKept(fewer, {0, "sea", "", scrapRectangle(50, 60)})).scraps.back().drawerId, 3)
        << "no number is given twice";
    EXPECT_FALSE(withoutScrapKept(fewer, 1));
}

TEST(DrawerSteps, WhatIsLeftOfAScrapIsKeptAndGoesWhenTheScrapComesBack) {
    design::Drawer drawer =
        support::must(withScrapKept(drawerWith(3), {0, "sea", "rail", scrapRectangle(200, 150)}));
    Job job = newJob(shippedCatalogue());
    job.stocks = drawer.stocks;
    job = support::must(withScrapFromDrawer(job, drawer, 1));
    design::PlacedSheet on{"sea", 10, 10, 200, 150, 3, {}};
    on.scrapId = job.plan.scraps[0].id;
    const sheets::Rests rests{{on.scrapId, scrapRectangle(120, 150)}};
    const DrawerNow cut = withoutSheetsOf(drawer, loadOf({on}), job.plan.scraps, rests);
    EXPECT_EQ(cut.told,
              "The scrap sea 200.0 × 150.0 mm, rail, taken from the drawer. What is left, 120.0 × 150.0 mm, "
              "is kept as scrap 2.");
    ASSERT_EQ(cut.drawer.scraps.size(), 1u);
    EXPECT_EQ(cut.drawer.scraps[0].name, "rail, left over");
    EXPECT_EQ(cut.drawer.scraps[0].rings, scrapRectangle(120, 150));
    const DrawerNow back = withSheetsOf(cut.drawer, loadOf({on}), job.plan.scraps, rests);
    ASSERT_EQ(back.drawer.scraps.size(), 1u);
    EXPECT_EQ(back.drawer.scraps[0].drawerId, 1);
    // One of the same outline that was there before is another one, and stays.
    const design::Drawer alike =
        support::must(withScrapKept(drawer, {0, "sea", "", scrapRectangle(120, 150)}));
    const DrawerNow again = withSheetsOf(withoutSheetsOf(alike, loadOf({on}), job.plan.scraps, rests).drawer,
                                         loadOf({on}), job.plan.scraps, rests);
    ASSERT_EQ(again.drawer.scraps.size(), 2u);
    EXPECT_EQ(again.drawer.scraps[0].drawerId, 2);
}

TEST(DrawerSteps, SheetsAreAddedAndTakenByHand) {
    const auto more = withSheets(drawerWith(3), "sea", 297, 210, 2);
    ASSERT_TRUE(more);
    EXPECT_EQ(countIn(*more), 5);
    const auto other = withSheets(*more, "sea", 100, 80, 1);
    ASSERT_TRUE(other);
    EXPECT_EQ(other->stocks[0].sizes.size(), 2u);
    EXPECT_EQ(withSheets(drawerWith(3), "sea", 210, 297, -4).error().message,
              "There are only 3 sheets of sea of 210.0 × 297.0 mm.");
    EXPECT_FALSE(withSheets(drawerWith({}), "sea", 210, 297, -1));
    EXPECT_FALSE(withSheets(drawerWith(3), "sea", 10, 10, -1));
    EXPECT_EQ(withSheets(drawerWith(3), "moss", 10, 10, 1).error().code, base::Code::NotFound);
    EXPECT_FALSE(withSheets(drawerWith(3), "sea", 210, 297, 99'999));
}

Job jobWith(const std::vector<Stock>& stocks) {
    Job job = support::rectangleJob(60, 40, "sea").job;
    for (const Stock& stock : stocks)
        job.stocks.push_back(stock);
    return job;
}

TEST(DrawerSteps, WhatStandsInIsTheNearestThatFoldsAlike) {
    const Job plain = support::rectangleJob(60, 40, "sea").job;
    Stock near = *design::findStock(plain.stocks, "sea"), same = near, gone = near, board = near;
    near.id = near.name = "near";
    near.colour[0] = static_cast<std::uint8_t>(near.colour[0] + 20);
    near.sizes = {{210, 297, 2}, {100, 100, 1}};
    same.id = same.name = "same but heavy";
    same.gramsPerM2 *= 1.3;
    gone.id = gone.name = "gone";
    gone.sizes = {{210, 297, 0}};
    board.id = board.name = "by hand";
    board.isCutByHand = true;
    const auto others = insteadOf(jobWith({same, gone, board, near}), "sea");
    ASSERT_FALSE(others.empty());
    EXPECT_EQ(others.front().stockId, "near");
    EXPECT_EQ(others.front().sheets, 3);
    EXPECT_TRUE(others.front().doesFoldAlike && others.front().changes.empty());
    for (const Instead& one : others) {
        EXPECT_NE(one.stockId, "gone");
        EXPECT_NE(one.stockId, "by hand");
        EXPECT_NE(one.stockId, "sea");
        if (one.stockId == "same but heavy") {
            EXPECT_FALSE(one.doesFoldAlike);
            EXPECT_NE(one.changes.find("g/m²"), std::string::npos);
        }
    }
    EXPECT_TRUE(insteadOf(plain, "none").empty());
}

TEST(DrawerSteps, ASwapPlansSheetsSettingsAndChecklistAnew) {
    Stock board = *design::findStock(support::rectangleJob(60, 40, "sea").job.stocks, "sea");
    board.id = board.name = "grey board";
    board.kind = Stock::Kind::Board;
    board.thicknessMm = 1;
    board.gramsPerM2 = 650;
    const Job job = jobWith({board});
    const auto swapped = withStockSwapped(job, "sea", "grey board");
    ASSERT_TRUE(swapped) << swapped.error().message;
    EXPECT_NE(swapped->note.find("board instead of card"), std::string::npos) << swapped->note;
    EXPECT_NE(swapped->note.find("not fold and cut alike"), std::string::npos);
    const State now = support::made(swapped->job, {}, Stage::Sheets);
    EXPECT_EQ(now.made.sheets->loads.front().sheets.front().stockId, "grey board");
    const auto plan = planned(now);
    ASSERT_TRUE(plan);
    EXPECT_EQ(plan->settings.at("grey board").blade, design::ToolKind::SteepBlade);
    EXPECT_NE(checklistOf(now, *plan, 0)->text().find("grey board"), std::string::npos);
    EXPECT_FALSE(withStockSwapped(job, "sea", "sea"));
    EXPECT_FALSE(withStockSwapped(job, "grey board", "sea")) << "nothing is cut from it";
    EXPECT_EQ(withStockSwapped(job, "sea", "none").error().code, base::Code::NotFound);
}

} // namespace
} // namespace thinline::job
