// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/jobs/Workbench.h"

#include "document/JobFile.h"
#include "support/Fonts.h"
#include "support/Jobs.h"
#include "support/Stores.h"

#include <QSignalSpy>
#include <QTest>
#include <gtest/gtest.h>

namespace thinline::app {
namespace {

const support::MemoryFontStore kFonts = support::shippedFonts();

bool until(const std::function<bool()>& isTrue) {
    return QTest::qWaitFor(isTrue, 20000);
}

void openShed(Workbench& bench, base::FileStore& store) {
    ASSERT_TRUE(document::saveJob(store, "/shed.thinline", support::tracedShed()));
    bench.open("/shed.thinline");
    ASSERT_TRUE(until([&] { return bench.isTraced() && bench.picture(); }));
}

TEST(Workbench, AStepThatIsOvertakenIsComputedAgainOnTheNewerJob) {
    support::MemoryFileStore store;
    Workbench bench(store, kFonts, "/unsaved");
    openShed(bench, store);
    std::atomic<int> calls = 0;
    std::atomic<bool> mayEnd = false;
    bench.run("Slow step", [&](const document::Job& job, const base::Progress&) {
        ++calls;
        while (!mayEnd)
            QThread::msleep(2);
        return document::withClearance(job, 0.3);
    });
    ASSERT_TRUE(until([&] { return calls == 1; }));
    bench.apply("Paint", document::painted(bench.job(), {1}, "rust")); // the person goes on meanwhile
    mayEnd = true;
    ASSERT_TRUE(until([&] { return bench.job().clearanceMm == 0.3; }));
    EXPECT_EQ(calls, 2);
    EXPECT_EQ(bench.job().paint.at(1), "rust") << "what was painted meanwhile is not lost";
    EXPECT_EQ(bench.undoName(), "Slow step");
    bench.abandon();
}

TEST(Workbench, ANewerStepReplacesAnUnfinishedOne) {
    support::MemoryFileStore store;
    Workbench bench(store, kFonts, "/unsaved");
    openShed(bench, store);
    bench.run("First",
              [](const document::Job& job, const base::Progress& progress) -> base::Result<document::Job> {
                  while (!progress.isCancelled())
                      QThread::msleep(2);
                  return job;
              });
    bench.run("Second", [](const document::Job& job, const base::Progress&) {
        return document::withClearance(job, 0.2);
    });
    ASSERT_TRUE(until([&] { return !bench.isBusy(); }));
    EXPECT_EQ(bench.undoName(), "Second");
    bench.undo();
    EXPECT_FALSE(bench.canUndo());
    bench.abandon();
}

TEST(Workbench, AStepThatFailsSaysWhyAndChangesNothing) {
    support::MemoryFileStore store;
    Workbench bench(store, kFonts, "/unsaved");
    openShed(bench, store);
    QSignalSpy failed(&bench, &Workbench::failed);
    const auto before = bench.job().stack;
    bench.run("Too large", [](const document::Job& job, const base::Progress&) {
        return document::resized(job, 5000, 5000);
    });
    ASSERT_TRUE(until([&] { return failed.count() == 1; }));
    EXPECT_TRUE(failed[0][0].toString().contains("2000 mm"));
    EXPECT_EQ(bench.job().stack, before);
    EXPECT_FALSE(bench.canUndo());
}

TEST(Workbench, TheArrangementIsDerivedAndIsNoStep) {
    support::MemoryFileStore store;
    Workbench bench(store, kFonts, "/unsaved");
    openShed(bench, store);
    bench.wantArrangement();
    ASSERT_TRUE(until([&] { return bench.job().arrangement != nullptr; }));
    EXPECT_FALSE(bench.canUndo());
    EXPECT_FALSE(bench.isUnsaved()) << "what the program derives itself needs no saving";
}

TEST(Workbench, SavingThatFailsLeavesTheJobUnsavedAndTheOldFileAlone) {
    support::FailingFileStore store(1); // the first write, of the shed itself, succeeds
    Workbench bench(store, kFonts, "/unsaved");
    openShed(bench, store);
    bench.apply("Paint", document::painted(bench.job(), {1}, "rust"));
    QSignalSpy failed(&bench, &Workbench::failed);
    EXPECT_FALSE(bench.save("/shed.thinline"));
    ASSERT_GE(failed.count(), 1);
    EXPECT_TRUE(failed[0][0].toString().contains("disk is full"));
    EXPECT_TRUE(bench.isUnsaved());
    EXPECT_EQ(support::must(document::loadJob(store, "/shed.thinline")).paint.at(1), "cream");
    ASSERT_TRUE(until([&] { return failed.count() >= 2; })) << "autosave fails too, and says so";
    EXPECT_TRUE(failed.back()[0].toString().startsWith("Autosave failed"));
}

TEST(Workbench, SavingRemovesTheAutosavedCopy) {
    support::MemoryFileStore store;
    Workbench bench(store, kFonts, "/unsaved");
    openShed(bench, store);
    bench.apply("Paint", document::painted(bench.job(), {1}, "rust"));
    ASSERT_TRUE(until([&] { return !store.list("/unsaved").empty(); }));
    ASSERT_TRUE(bench.save("/shed.thinline"));
    EXPECT_TRUE(store.list("/unsaved").empty());
    EXPECT_FALSE(bench.isUnsaved());
    bench.undo();
    EXPECT_TRUE(bench.isUnsaved()) << "undoing past the save is a change";
    bench.redo();
    EXPECT_FALSE(bench.isUnsaved());
    bench.abandon();
}

TEST(Workbench, FindingsFollowTheJob) {
    support::MemoryFileStore store;
    Workbench bench(store, kFonts, "/unsaved");
    openShed(bench, store);
    QSignalSpy found(&bench, &Workbench::findingsChanged);
    bench.run("Shrink",
              [](const document::Job& job, const base::Progress&) { return document::scaled(job, 0.15); });
    ASSERT_TRUE(until([&] { return !bench.findings().empty(); }));
    EXPECT_EQ(bench.findings().front().kind, inspect::Kind::TooSmall);
    bench.undo();
    ASSERT_TRUE(until([&] { return bench.findings().empty(); }));
    bench.abandon();
}

} // namespace
} // namespace thinline::app
