// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "logbook/OfLoad.h"

#include "support/Jobs.h"

#include <gtest/gtest.h>

namespace thinline::logbook {
namespace {

TEST(OfLoad, EntersSettingMetresSheetsAndSize) {
    const job::State state = support::arranged(support::rectangleJob(60, 40, "sea"));
    const auto plan = job::planned(state);
    ASSERT_TRUE(plan);
    const auto entries = entriesOf(state, *plan, 0, Outcome::Clean, "first try");
    ASSERT_TRUE(entries) << entries.error().message;
    ASSERT_EQ(entries->size(), 1u);
    const Entry& entry = entries->front();
    EXPECT_EQ(entry.stockId, "sea");
    EXPECT_EQ(entry.kind, "card");
    EXPECT_EQ(entry.load, 1);
    EXPECT_NEAR(entry.lineMm, 200, 1e-9); // round 60 x 40
    EXPECT_EQ(entry.sheets, 1);
    EXPECT_NEAR(entry.widthMm, 60, 1e-9);
    EXPECT_NEAR(entry.heightMm, 40, 1e-9);
    EXPECT_EQ(entry.forceGf, plan->settings.at("sea").forceGf);
    EXPECT_EQ(entry.note, "first try");
    EXPECT_TRUE(checkEntry(entry));
    EXPECT_EQ(entriesOf(state, *plan, 0, Outcome::NotThrough)->front().sheets, 0)
        << "the card lies there still";
    EXPECT_FALSE(entriesOf(state, *plan, 1, Outcome::Clean));
    EXPECT_FALSE(tileEntryOf(state, *plan, 0, Outcome::Clean)) << "it has none";
}

TEST(OfLoad, TwoPassesAreTwiceTheMetresAndATileIsItsOwn) {
    job::State state = support::arranged(support::rectangleJob(60, 40, "sea"));
    design::Setting twice = *job::settingOf(state.job, "sea");
    twice.passes = 2;
    state.job = *job::withSetting(state.job, "sea", twice);
    state.job.cut.hasTiles = true;
    const auto plan = job::planned(state);
    ASSERT_TRUE(plan);
    EXPECT_NEAR(entriesOf(state, *plan, 0, Outcome::Clean)->front().lineMm, 400, 1e-9);
    const auto tile = tileEntryOf(state, *plan, 0, Outcome::Torn);
    ASSERT_TRUE(tile) << tile.error().message;
    EXPECT_EQ(tile->what, What::Tile);
    EXPECT_EQ(tile->outcome, Outcome::Torn);
    EXPECT_EQ(tile->note, "an opening of 5.0 mm");
    EXPECT_GT(tile->lineMm, 2 * 4 * 10);
    EXPECT_TRUE(checkEntry(*tile));
}

} // namespace
} // namespace thinline::logbook
