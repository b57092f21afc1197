// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/jobs/Workbench.h"

#include "document/JobFile.h"
#include "support/Fonts.h"
#include "support/Jobs.h"
#include "support/Pages.h"
#include "support/Stores.h"

#include <QSignalSpy>
#include <QTest>
#include <gtest/gtest.h>

namespace thinline::app {
namespace {

const support::MemoryFontStore kFonts = support::shippedFonts();
const support::PagesInPlace kPages;

bool until(const std::function<bool()>& isTrue) {
    return QTest::qWaitFor(isTrue, 20000);
}

void openShed(Workbench& bench, base::FileStore& store) {
    ASSERT_TRUE(document::saveJob(store, "/shed.thinline", support::tracedShed()));
    bench.open("/shed.thinline");
    ASSERT_TRUE(until([&] { return bench.hasPieces() && bench.picture() && !bench.isBusy(); }));
}

design::PieceId area(const Workbench& bench, int number) {
    return support::area(bench.state(), number);
}
std::string stockOf(const Workbench& bench, int number) {
    return support::stockOf(bench.state(), area(bench, number));
}
double roomOf(const job::Job& job) {
    return job::asA<job::Picture>(job::pictureSource(job))->roomMm;
}
/// Saves, and what came of it.
Workbench::Saved saved(Workbench& bench, const QString& path,
                       document::Theirs theirs = document::Theirs::Keep) {
    std::optional<Workbench::Saved> came;
    bench.save(path, theirs, [&](Workbench::Saved result) { came = result; });
    EXPECT_TRUE(until([&] { return came.has_value(); }));
    return came.value_or(Workbench::Saved::Failed);
}

std::vector<document::Recovery::Lost> lostWork(Workbench& bench) {
    std::optional<std::vector<document::Recovery::Lost>> found;
    const auto listening =
        QObject::connect(&bench, &Workbench::lostWorkFound, &bench, [&](const auto& lost) { found = lost; });
    bench.findLostWork();
    EXPECT_TRUE(until([&] { return found.has_value(); }));
    QObject::disconnect(listening);
    return found.value_or(std::vector<document::Recovery::Lost>{});
}

void paint(Workbench& bench, int number, const std::string& stock) {
    bench.act("Paint", job::painted(bench.job(), {area(bench, number)}, stock));
}

// A step that needs no computing is taken at once; what follows comes from a worker, and the old is shown meanwhile.
TEST(Workbench, AStepIsTakenAtOnceAndWhatFollowsComesLater) {
    support::MemoryFileStore store;
    Workbench bench(store, kFonts, kPages, "/unsaved");
    openShed(bench, store);
    const auto before = bench.made().finished;
    paint(bench, 1, "rust");
    EXPECT_EQ(bench.undoName(), "Paint");
    EXPECT_TRUE(bench.isBehind());
    EXPECT_EQ(bench.made().finished, before) << "nothing was computed here";
    ASSERT_TRUE(until([&] { return !bench.isBehind(); }));
    EXPECT_EQ(stockOf(bench, 1), "rust");
    EXPECT_EQ(bench.made().pieces, bench.made().pieces);
    // Undo shows at once what was there, redo what came.
    const auto after = bench.made().finished;
    bench.undo();
    EXPECT_EQ(bench.made().finished, before);
    EXPECT_FALSE(bench.isBehind());
    bench.redo();
    EXPECT_EQ(bench.made().finished, after);
    bench.abandon();
}

TEST(Workbench, ManyStepsInARowAllCount) {
    support::MemoryFileStore store;
    Workbench bench(store, kFonts, kPages, "/unsaved");
    openShed(bench, store);
    for (const char* stock : {"rust", "sea", "lamp", "rust", "sea"})
        for (const int number : {1, 2, 3})
            paint(bench, number, stock);
    ASSERT_TRUE(until([&] { return !bench.isBehind(); }));
    EXPECT_EQ(stockOf(bench, 3), "sea");
    for (int i = 0; i < 15; ++i)
        bench.undo();
    EXPECT_FALSE(bench.canUndo());
    ASSERT_TRUE(until([&] { return !bench.isBehind(); }));
    EXPECT_EQ(stockOf(bench, 3), "cream");
    bench.abandon();
}

// A making that was stopped leaves the old picture; it can be made after all, the job can be saved all the same.
TEST(Workbench, AStoppedMakingIsToldAndCanBeMadeAfterAll) {
    support::MemoryFileStore store;
    Workbench bench(store, kFonts, kPages, "/unsaved");
    openShed(bench, store);
    paint(bench, 1, "rust");
    bench.stop();
    EXPECT_TRUE(bench.isStale());
    EXPECT_EQ(stockOf(bench, 1), "cream");
    ASSERT_EQ(saved(bench, "/other.thinline"), Workbench::Saved::Written);
    const auto kept = support::must(document::loadJob(store, "/other.thinline")).state;
    EXPECT_EQ(support::stockOf(kept, area(bench, 1)), "rust");
    bench.catchUp();
    ASSERT_TRUE(until([&] { return !bench.isBehind(); }));
    EXPECT_FALSE(bench.isStale());
    EXPECT_EQ(stockOf(bench, 1), "rust");
}

TEST(Workbench, AStepThatIsOvertakenIsComputedAgainOnTheNewerJob) {
    support::MemoryFileStore store;
    Workbench bench(store, kFonts, kPages, "/unsaved");
    openShed(bench, store);
    std::atomic<int> calls = 0;
    std::atomic<bool> mayEnd = false;
    bench.run("Slow step", [&](const job::State& now, const base::Progress&) {
        ++calls;
        while (!mayEnd)
            QThread::msleep(2);
        return job::withRoom(now.job, 0.3);
    });
    ASSERT_TRUE(until([&] { return calls == 1; }));
    paint(bench, 1, "rust"); // the person goes on meanwhile
    mayEnd = true;
    ASSERT_TRUE(until([&] { return roomOf(bench.job()) == 0.3; }));
    EXPECT_EQ(calls, 2);
    EXPECT_EQ(stockOf(bench, 1), "rust") << "what was painted meanwhile is not lost";
    EXPECT_EQ(bench.undoName(), "Slow step");
    bench.abandon();
}

TEST(Workbench, ANewerStepReplacesAnUnfinishedOne) {
    support::MemoryFileStore store;
    Workbench bench(store, kFonts, kPages, "/unsaved");
    openShed(bench, store);
    bench.run("First", [](const job::State& now, const base::Progress& progress) -> base::Result<job::Job> {
        while (!progress.isCancelled())
            QThread::msleep(2);
        return now.job;
    });
    bench.run("Second",
              [](const job::State& now, const base::Progress&) { return job::withRoom(now.job, 0.2); });
    ASSERT_TRUE(until([&] { return !bench.isBusy(); }));
    EXPECT_EQ(bench.undoName(), "Second");
    bench.undo();
    EXPECT_FALSE(bench.canUndo());
    bench.abandon();
}

TEST(Workbench, AStepThatFailsSaysWhyAndChangesNothing) {
    support::MemoryFileStore store;
    Workbench bench(store, kFonts, kPages, "/unsaved");
    openShed(bench, store);
    QSignalSpy failed(&bench, &Workbench::failed);
    const auto before = bench.made().finished;
    bench.run("Too large", [](const job::State& now, const base::Progress& progress) {
        return job::withWidth(now, 5000, {}, progress);
    });
    ASSERT_TRUE(until([&] { return failed.count() == 1; }));
    EXPECT_TRUE(failed[0][0].toString().contains("2000 mm"));
    EXPECT_EQ(bench.made().finished, before);
    EXPECT_FALSE(bench.canUndo());
}

TEST(Workbench, WhatASizingHasToTellIsTold) {
    support::MemoryFileStore store;
    Workbench bench(store, kFonts, kPages, "/unsaved");
    openShed(bench, store);
    QSignalSpy noted(&bench, &Workbench::noted);
    bench.run("Stretch", [](const job::State& now, const base::Progress& progress) {
        return job::withSize(now, 100, 100, {}, progress);
    });
    ASSERT_TRUE(until([&] { return noted.count() == 1; }));
    EXPECT_NEAR(job::workBox(bench.made()).height(), 100, 1e-3);
    bench.abandon();
}

TEST(Workbench, TheArrangementFollowsAndIsNoStep) {
    support::MemoryFileStore store;
    Workbench bench(store, kFonts, kPages, "/unsaved");
    openShed(bench, store);
    bench.wantSheets(true);
    ASSERT_TRUE(until([&] { return bench.made().sheets != nullptr; }));
    EXPECT_FALSE(bench.canUndo());
    EXPECT_FALSE(bench.isUnsaved()) << "what the program derives itself needs no saving";
    const auto sheets = bench.made().sheets;
    bench.act("Lift", job::withLayerLift(bench.job(), bench.work()->layers[1].id, 2));
    ASSERT_TRUE(until([&] { return !bench.isBehind(); }));
    EXPECT_EQ(bench.made().sheets, sheets) << "a lift moves nothing on the sheets";
    paint(bench, 1, "rust");
    ASSERT_TRUE(until([&] { return !bench.isBehind(); }));
    EXPECT_NE(bench.made().sheets, sheets);
    bench.abandon();
}

TEST(Workbench, SavingThatFailsLeavesTheJobUnsavedAndTheOldFileAlone) {
    support::FailingFileStore store(1); // the first write, of the shed itself, succeeds
    Workbench bench(store, kFonts, kPages, "/unsaved");
    openShed(bench, store);
    paint(bench, 1, "rust");
    QSignalSpy failed(&bench, &Workbench::failed);
    EXPECT_EQ(saved(bench, "/shed.thinline"), Workbench::Saved::Failed);
    ASSERT_GE(failed.count(), 1);
    EXPECT_TRUE(failed[0][0].toString().contains("disk is full"));
    EXPECT_TRUE(bench.isUnsaved());
    EXPECT_EQ(
        support::stockOf(support::must(document::loadJob(store, "/shed.thinline")).state, area(bench, 1)),
        "cream");
    ASSERT_TRUE(until([&] { return failed.count() >= 2; })) << "autosave fails too, and says so";
    EXPECT_TRUE(failed.back()[0].toString().startsWith("Autosave failed"));
}

TEST(Workbench, SavingRemovesTheAutosavedCopy) {
    support::MemoryFileStore store;
    Workbench bench(store, kFonts, kPages, "/unsaved");
    openShed(bench, store);
    paint(bench, 1, "rust");
    ASSERT_TRUE(until([&] { return !store.list("/unsaved").empty(); }));
    ASSERT_EQ(saved(bench, "/shed.thinline"), Workbench::Saved::Written);
    ASSERT_TRUE(until([&] { return store.list("/unsaved").empty(); }));
    EXPECT_FALSE(bench.isUnsaved());
    bench.undo();
    EXPECT_TRUE(bench.isUnsaved()) << "undoing past the save is a change";
    bench.redo();
    EXPECT_FALSE(bench.isUnsaved());
    bench.abandon();
}

/// Leaves a copy of a painted shed behind, as a program that was killed does.
void loseAShed(base::FileStore& store, const std::string& origin) {
    document::Recovery dead(store, "/unsaved");
    job::State shed = support::tracedShed();
    shed = support::made(job::painted(shed.job, {support::area(shed, 1)}, "rust"), shed.made);
    ASSERT_TRUE(dead.keep(shed, {origin, 0}));
}

TEST(Workbench, WorkTakenBackIsUnsavedAndItsCopyStaysUntilItIsSaved) {
    support::MemoryFileStore store;
    loseAShed(store, "");
    {
        Workbench bench(store, kFonts, kPages, "/unsaved");
        bench.recover(lostWork(bench).at(0));
        ASSERT_TRUE(until([&] { return bench.hasPieces() && !bench.isBusy(); }));
        EXPECT_FALSE(bench.canUndo());
        EXPECT_TRUE(bench.isWorthKeeping()) << "it is in no file";
    } // the window is killed at once
    Workbench bench(store, kFonts, kPages, "/unsaved");
    ASSERT_EQ(lostWork(bench).size(), 1u);
    bench.recover(lostWork(bench).at(0));
    ASSERT_TRUE(until([&] { return bench.hasPieces() && !bench.isBusy(); }));
    EXPECT_EQ(support::stockOf(bench.state(), area(bench, 1)), "rust");
    EXPECT_TRUE(lostWork(bench).empty()) << "it is ours now";
    ASSERT_EQ(saved(bench, "/shed.thinline"), Workbench::Saved::Written);
    EXPECT_FALSE(bench.isWorthKeeping());
    EXPECT_TRUE(until([&] { return store.list("/unsaved").empty(); }));
}

TEST(Workbench, WorkTakenBackDoesNotOverwriteAFileThatWasWrittenSince) {
    support::MemoryFileStore store;
    ASSERT_TRUE(document::saveJob(store, "/shed.thinline", support::tracedShed()));
    loseAShed(store, "/shed.thinline");
    Workbench bench(store, kFonts, kPages, "/unsaved");
    bench.recover(lostWork(bench).at(0));
    ASSERT_TRUE(until([&] { return bench.hasPieces() && !bench.isBusy(); }));
    EXPECT_EQ(saved(bench, "/shed.thinline"), Workbench::Saved::ChangedMeanwhile);
    EXPECT_EQ(saved(bench, "/other.thinline"), Workbench::Saved::Written);
}

TEST(Workbench, WhatWasGivenUpIsThereWhenTheNextFileDoesNotOpen) {
    support::MemoryFileStore store;
    {
        Workbench bench(store, kFonts, kPages, "/unsaved");
        openShed(bench, store);
        EXPECT_FALSE(bench.isWorthKeeping()) << "a job just opened is in its file";
        paint(bench, 1, "rust");
        ASSERT_TRUE(until([&] { return !store.list("/unsaved").empty(); }));
        ASSERT_TRUE(until([&] { return !bench.isBusy(); }));
        QSignalSpy failed(&bench, &Workbench::failed);
        bench.open("/not-there.thinline");
        ASSERT_TRUE(until([&] { return failed.count() == 1; }));
        EXPECT_TRUE(bench.isWorthKeeping());
    }
    Workbench bench(store, kFonts, kPages, "/unsaved");
    EXPECT_EQ(lostWork(bench).size(), 1u);
    bench.open("/shed.thinline");
    ASSERT_TRUE(until([&] { return bench.hasPieces() && !bench.isBusy(); }));
    EXPECT_EQ(lostWork(bench).size(), 1u) << "another window's copy is not ours to throw away";
}

TEST(Workbench, AFileSomebodyElseWroteIsNotOverwrittenUnasked) {
    support::MemoryFileStore store;
    Workbench one(store, kFonts, kPages, "/unsaved"), other(store, kFonts, kPages, "/unsaved");
    QSignalSpy noted(&other, &Workbench::noted);
    openShed(one, store);
    other.open("/shed.thinline");
    ASSERT_TRUE(until([&] { return other.hasPieces() && noted.count() == 1; }));
    EXPECT_TRUE(noted[0][0].toString().contains("open in another window"));
    QSignalSpy again(&one, &Workbench::noted), opened(&one, &Workbench::opened);
    one.open("/shed.thinline");
    ASSERT_TRUE(until([&] { return opened.count() == 1 && !one.isBusy(); }));
    EXPECT_EQ(again.count(), 0) << "opened once more here, it is open in no other window";
    paint(one, 1, "rust");
    paint(other, 1, "sea");
    ASSERT_EQ(saved(one, "/shed.thinline"), Workbench::Saved::Written);
    EXPECT_EQ(saved(other, "/shed.thinline"), Workbench::Saved::ChangedMeanwhile);
    const auto there = [&] {
        return support::stockOf(support::must(document::loadJob(store, "/shed.thinline")).state,
                                area(one, 1));
    };
    EXPECT_EQ(there(), "rust");
    EXPECT_TRUE(other.isUnsaved());
    EXPECT_EQ(saved(other, "/shed.thinline", document::Theirs::Overwrite), Workbench::Saved::Written);
    EXPECT_EQ(there(), "sea");
    one.abandon();
    other.abandon();
}

TEST(Workbench, FindingsFollowTheJob) {
    support::MemoryFileStore store;
    Workbench bench(store, kFonts, kPages, "/unsaved");
    openShed(bench, store);
    bench.run("Shrink", [](const job::State& now, const base::Progress& progress) {
        return job::scaled(now, 0.15, {}, progress);
    });
    ASSERT_TRUE(until([&] { return !bench.findings().empty(); }));
    EXPECT_EQ(bench.findings().front().kind, inspect::Kind::TooSmall);
    bench.undo();
    ASSERT_TRUE(until([&] { return bench.findings().empty(); }));
    bench.abandon();
}

} // namespace
} // namespace thinline::app
