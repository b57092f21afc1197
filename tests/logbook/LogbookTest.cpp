// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "logbook/Learn.h"

#include <gtest/gtest.h>

#include <csignal>
#include <filesystem>
#include <fstream>
#include <sqlite3.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <thread>
#include <unistd.h>

namespace thinline::logbook {
namespace {

using base::Code;
namespace fs = std::filesystem;

/// A folder that goes with the test.
class LogbookFile : public ::testing::Test {
  protected:
    void SetUp() override {
        folder =
            fs::temp_directory_path() / ("thinline-logbook-" + std::to_string(getpid()) + "-" +
                                         ::testing::UnitTest::GetInstance()->current_test_info()->name());
        fs::create_directories(folder);
        path = (folder / "logbook.sqlite").string();
    }
    void TearDown() override { fs::remove_all(folder); }
    Logbook opened() const {
        auto out = Logbook::open(path, Logbook::Open::OrBegin);
        EXPECT_TRUE(out) << (out ? "" : out.error().message);
        return out.take();
    }
    std::string read(const std::string& name) const {
        std::ifstream in(name, std::ios::binary);
        return {std::istreambuf_iterator<char>(in), {}};
    }

    fs::path folder;
    std::string path;
};

Entry cutAt(double force, Outcome outcome = Outcome::Clean) {
    Entry out;
    out.job = "gull-point-lantern";
    out.load = 2;
    out.stockId = "lichen";
    out.stock = "lichen";
    out.kind = "card";
    out.thicknessMm = 0.3;
    out.gramsPerM2 = 220;
    out.machine = "two-holders";
    out.forceGf = force;
    out.mat = "square12";
    out.outcome = outcome;
    return out;
}

TEST_F(LogbookFile, WhatWasEnteredIsThereAfterOpeningAgain) {
    Entry entry = cutAt(210.5, Outcome::Torn);
    entry.when = "2026-05-02T14:03:00Z";
    entry.blade = design::ToolKind::SteepBlade;
    entry.tack = design::Tack::High;
    entry.passes = 3;
    entry.mmPerS = 62.5;
    entry.lineMm = 1234.5678901;
    entry.sheets = 2;
    entry.widthMm = 254;
    entry.heightMm = 110;
    entry.stepMm = 3.25;
    entry.note = "torn at the \"rail\",\nworn mat; Möwe";
    std::string id;
    {
        Logbook book = opened();
        const auto added = book.add(entry);
        ASSERT_TRUE(added) << added.error().message;
        id = added->id;
        EXPECT_EQ(id.size(), 16u);
    }
    entry.id = id;
    const auto found = opened().find();
    ASSERT_TRUE(found);
    EXPECT_EQ(*found, std::vector<Entry>{entry});
}

TEST_F(LogbookFile, EntriesAreChangedAndTakenOutByTheirIds) {
    Logbook book = opened();
    auto first = book.add(cutAt(210)), second = book.add(cutAt(220));
    ASSERT_TRUE(first && second);
    Entry now = *first;
    now.note = "really 215";
    now.forceGf = 215;
    ASSERT_TRUE(book.change(now));
    ASSERT_TRUE(book.remove(second->id));
    EXPECT_EQ(*book.find(), std::vector<Entry>{now});
    EXPECT_EQ(book.remove(second->id).error().code, Code::NotFound);
    EXPECT_EQ(book.change(*second).error().code, Code::NotFound);
}

TEST_F(LogbookFile, NothingWithoutSenseIsEntered) {
    Logbook book = opened();
    Entry noForce = cutAt(0), pen = cutAt(40), late = cutAt(200), longNote = cutAt(200), nan = cutAt(200);
    pen.blade = design::ToolKind::Pen;
    late.when = "2026-02-30T10:00:00Z";
    longNote.note.assign(kMostNote + 1, 'x');
    nan.lineMm = std::nan("");
    for (const Entry& bad : {noForce, pen, late, longNote, nan})
        EXPECT_EQ(book.add(bad).error().code, Code::InvalidArgument);
    EXPECT_EQ(*book.count(), 0);
    // All of an import or nothing.
    EXPECT_FALSE(book.take({cutAt(210), noForce}));
    EXPECT_FALSE(book.add(std::vector{cutAt(210), noForce}));
    EXPECT_EQ(*book.count(), 0);
}

TEST_F(LogbookFile, WordsAreFoundInNamesAndNotes) {
    Logbook book = opened();
    Entry other = cutAt(300);
    other.stockId = other.stock = "sea";
    other.note = "100% straight_edge";
    ASSERT_TRUE(book.add(cutAt(210)));
    ASSERT_TRUE(book.add(other));
    const auto number = [&](const std::string& words) { return book.find({words})->size(); };
    EXPECT_EQ(number(""), 2u);
    EXPECT_EQ(number("LICHEN"), 1u);
    EXPECT_EQ(number("lantern sea"), 1u) << "both words have to be there";
    EXPECT_EQ(number("100%"), 1u);
    EXPECT_EQ(number("t_e"), 1u) << "no joker";
    EXPECT_EQ(number("%"), 1u);
    EXPECT_EQ(number("x' OR '1'='1"), 0u);
    EXPECT_EQ(book.find({"", "sea"})->size(), 1u);
    EXPECT_EQ(book.find({"", "", 1})->front().stock, "sea") << "the newest first";
}

TEST_F(LogbookFile, AKillLosesAtMostTheEntryThatWasBeingWritten) {
    for (int round = 0; round < 4; ++round) {
        fs::remove_all(folder);
        fs::create_directories(folder);
        int told[2];
        ASSERT_EQ(pipe(told), 0);
        const pid_t child = fork();
        if (child == 0) {
            Logbook book = opened();
            for (int i = 0; i < 1000; ++i)
                if (!book.take({cutAt(200 + i)}) || write(told[1], "x", 1) != 1)
                    _exit(1);
            _exit(0);
        }
        close(told[1]);
        int entered = 0;
        char sign = 0;
        while (entered < 150 + 111 * round && ::read(told[0], &sign, 1) == 1)
            ++entered;
        kill(child, SIGKILL);
        while (::read(told[0], &sign, 1) == 1)
            ++entered;
        close(told[0]);
        waitpid(child, nullptr, 0);
        ASSERT_GE(entered, 150);
        Logbook book = opened();
        const int there = *book.count();
        EXPECT_GE(there, entered);
        EXPECT_LE(there, entered + 1);
        EXPECT_TRUE(book.add(cutAt(1)));
    }
}

TEST_F(LogbookFile, AFullDiskRefusesTheEntryAndKeepsTheOthers) {
    ASSERT_TRUE(opened().add(cutAt(210)));
    const pid_t child = fork();
    if (child == 0) {
        // No file may grow beyond so much: what a full disk is to a program.
        signal(SIGXFSZ, SIG_IGN);
        const rlimit least{40'000, 40'000};
        setrlimit(RLIMIT_FSIZE, &least);
        Logbook book = opened();
        Entry large = cutAt(220);
        large.note.assign(kMostNote, 'n');
        for (int i = 0; i < 100; ++i)
            if (auto done = book.add(large); !done)
                _exit(done.error().code == Code::IoError && *book.count() >= 1 ? 0 : 3);
        _exit(4);
    }
    int state = 0;
    waitpid(child, &state, 0);
    ASSERT_TRUE(WIFEXITED(state));
    ASSERT_EQ(WEXITSTATUS(state), 0);
    Logbook book = opened();
    EXPECT_GE(book.find({"", "", 0})->size(), 1u);
    EXPECT_EQ(book.find({"", "", 0})->back().forceGf, 210);
    EXPECT_TRUE(book.add(cutAt(230)));
}

TEST_F(LogbookFile, TwoProgramsEnterAtOnce) {
    opened();
    std::vector<std::thread> both;
    for (int n = 0; n < 2; ++n)
        both.emplace_back([&, n] {
            Logbook book = opened();
            for (int i = 0; i < 100; ++i)
                EXPECT_TRUE(book.add(cutAt(100 * (n + 1))));
        });
    for (std::thread& one : both)
        one.join();
    EXPECT_EQ(*opened().count(), 200);
}

TEST_F(LogbookFile, SchemaOneOpensForEver) {
    // Written out on purpose: this is what the first files have.
    const char* first = R"(
CREATE TABLE entries (number INTEGER PRIMARY KEY, "id" TEXT NOT NULL, "when" TEXT NOT NULL, "what" TEXT NOT NULL,
 "outcome" TEXT NOT NULL, "job" TEXT NOT NULL, "load" REAL NOT NULL, "stockId" TEXT NOT NULL, "stock" TEXT NOT NULL,
 "kind" TEXT NOT NULL, "thicknessMm" REAL NOT NULL, "gramsPerM2" REAL NOT NULL, "machine" TEXT NOT NULL,
 "blade" TEXT NOT NULL, "forceGf" REAL NOT NULL, "passes" REAL NOT NULL, "mmPerS" REAL NOT NULL, "tack" TEXT NOT NULL,
 "mat" TEXT NOT NULL, "lineMm" REAL NOT NULL, "sheets" REAL NOT NULL, "widthMm" REAL NOT NULL,
 "heightMm" REAL NOT NULL, "stepMm" REAL NOT NULL, "note" TEXT NOT NULL,
 words TEXT NOT NULL, UNIQUE ("id"));
CREATE INDEX entries_by_time ON entries ("when", number, "stockId", words);
CREATE INDEX entries_by_what ON entries ("what", "when");
CREATE INDEX entries_by_kind ON entries ("kind", "when");
INSERT INTO entries VALUES (1, '00112233aabbccdd', '2026-05-02T14:03:00Z', 'cut', 'not through', 'pennants', 3, 'sea',
 'sea', 'card', 0.3, 220, 'one-holder', 'steep', 240, 2, 50, 'high', 'square12', 812.5, 1, 254, 110, 0, 'worn blade', 'cut sea worn blade');
PRAGMA application_id=1414286402; PRAGMA user_version=1;)";
    sqlite3* handle = nullptr;
    ASSERT_EQ(sqlite3_open(path.c_str(), &handle), SQLITE_OK);
    ASSERT_EQ(sqlite3_exec(handle, first, nullptr, nullptr, nullptr), SQLITE_OK) << sqlite3_errmsg(handle);
    sqlite3_close(handle);
    Logbook book = opened();
    const auto found = book.find();
    ASSERT_TRUE(found);
    ASSERT_EQ(found->size(), 1u);
    const Entry& entry = found->front();
    EXPECT_EQ(entry.outcome, Outcome::NotThrough);
    EXPECT_EQ(entry.blade, design::ToolKind::SteepBlade);
    EXPECT_EQ(entry.tack, design::Tack::High);
    EXPECT_EQ(entry.passes, 2);
    EXPECT_EQ(entry.lineMm, 812.5);
    EXPECT_EQ(entry.note, "worn blade");
    EXPECT_TRUE(book.add(entry)) << "and it is written on";
}

TEST_F(LogbookFile, WhatIsNoLogbookIsToldAndStaysAsItIs) {
    EXPECT_EQ(Logbook::open(path, Logbook::Open::Existing).error().code, Code::NotFound);
    EXPECT_FALSE(fs::exists(path)) << "looking begins none";
    EXPECT_EQ(Logbook::open((folder / "no" / "x.sqlite").string(), Logbook::Open::OrBegin).error().code,
              Code::IoError);

    const auto staysAsItIs = [&](Code why) {
        const std::string before = read(path);
        for (const auto how : {Logbook::Open::Existing, Logbook::Open::OrBegin}) {
            const auto book = Logbook::open(path, how);
            ASSERT_FALSE(book);
            EXPECT_EQ(book.error().code, why) << book.error().message;
            EXPECT_NE(book.error().message.find(path), std::string::npos);
        }
        EXPECT_EQ(read(path), before);
    };
    std::ofstream(path) << std::string(5000, 'g');
    staysAsItIs(Code::ParseError);
    const auto database = [&](const char* sql) {
        fs::remove(path);
        sqlite3* handle = nullptr;
        ASSERT_EQ(sqlite3_open(path.c_str(), &handle), SQLITE_OK);
        ASSERT_EQ(sqlite3_exec(handle, sql, nullptr, nullptr, nullptr), SQLITE_OK);
        sqlite3_close(handle);
    };
    database("CREATE TABLE addresses (name TEXT)");
    staysAsItIs(Code::ParseError);
    database(
        "CREATE TABLE entries (number INTEGER); PRAGMA application_id=1414286402; PRAGMA user_version=7");
    staysAsItIs(Code::Unsupported);
}

TEST_F(LogbookFile, ADamagedLogbookIsToldWithoutACrash) {
    {
        Logbook book = opened();
        for (int i = 0; i < 300; ++i)
            ASSERT_TRUE(book.add(cutAt(200 + i)));
    }
    const std::string whole = read(path);
    ASSERT_GT(whole.size(), 20'000u);
    int refused = 0;
    for (std::size_t at = 0; at < whole.size(); at += whole.size() / 60 + 1) {
        std::string bad = whole;
        for (std::size_t i = at; i < std::min(at + 200, bad.size()); ++i)
            bad[i] = static_cast<char>(bad[i] * 31 + 7);
        std::ofstream(path, std::ios::binary) << bad;
        fs::remove(path + "-wal");
        fs::remove(path + "-shm");
        const auto book = Logbook::open(path, Logbook::Open::Existing);
        const auto found = book ? book->find({"", "", 0}) : base::Result<std::vector<Entry>>(book.error());
        refused += !found;
        if (!found) {
            EXPECT_FALSE(found.error().message.empty());
        } else {
            EXPECT_LE(found->size(), 700u); // nothing runs away
        }
    }
    EXPECT_GT(refused, 10);
}

TEST_F(LogbookFile, AHundredThousandEntriesAreSearched) {
    Logbook book = opened();
    std::vector<Entry> many(100'000, cutAt(210));
    many[70'000].note = "the one with the bent rail";
    ASSERT_EQ(*book.take(many), 100'000);
    const auto found = book.find({"bent rail"});
    ASSERT_TRUE(found);
    ASSERT_EQ(found->size(), 1u);
    EXPECT_EQ(book.like({"lichen", "card", 187, 253, "two-holders"})->size(), 200u);
}

TEST_F(LogbookFile, WearIsCountedSinceTheNewestChange) {
    Logbook book = opened();
    const auto enter = [&](What what, double mm, const char* when, const char* mat = "square12") {
        Entry entry = cutAt(210);
        entry.what = what;
        entry.lineMm = mm;
        entry.when = when;
        entry.mat = mat;
        ASSERT_TRUE(book.add(entry));
    };
    const auto shallow = [&] {
        return *book.wear("two-holders", design::ToolKind::ShallowBlade, "square12");
    };
    EXPECT_EQ(shallow().bladeMm, 0);
    enter(What::Cut, 1000, "2026-01-01T10:00:00Z");
    EXPECT_EQ(shallow().bladeMm, 1000);
    EXPECT_FALSE(shallow().isBladeSince);
    enter(What::NewBlade, 0, "2026-01-02T10:00:00Z");
    enter(What::Cut, 200, "2026-01-02T10:00:00Z"); // within the second, but after it
    enter(What::Tile, 30, "2026-01-03T10:00:00Z");
    enter(What::Cut, 500, "2025-12-31T10:00:00Z"); // of before, entered late
    enter(What::Cut, 7, "2026-01-04T10:00:00Z", "long24");
    EXPECT_EQ(shallow().bladeMm, 237);
    EXPECT_TRUE(shallow().isBladeSince);
    EXPECT_EQ(shallow().matMm, 1730);
    enter(What::NewMat, 0, "2026-01-02T12:00:00Z");
    EXPECT_EQ(shallow().matMm, 30);
    EXPECT_EQ(book.wear("two-holders", design::ToolKind::SteepBlade, "square12")->bladeMm, 0);
}

// ---- what it teaches ----------------------------------------------------------------------------------------

/// Cuts, the newest first.
std::optional<Learnt> taughtBy(const std::vector<std::pair<double, Outcome>>& cuts) {
    std::vector<Entry> entries;
    for (const auto& [force, outcome] : cuts)
        entries.push_back(cutAt(force, outcome));
    return learntFrom(entries, "lichen");
}
constexpr Outcome kClean = Outcome::Clean, kNot = Outcome::NotThrough, kTorn = Outcome::Torn;

TEST(Learn, TheLeastForceOfTheNewestCleanCuts) {
    const auto four = taughtBy({{210, kClean}, {230, kClean}, {210, kClean}, {220, kClean}, {150, kClean}});
    ASSERT_TRUE(four);
    EXPECT_EQ(four->forceGf, 210) << "150 is longer ago";
    EXPECT_EQ(four->leastGf, 210);
    EXPECT_EQ(four->mostGf, 230);
    EXPECT_EQ(four->reason, "cut clean 2 of 2 times at 210 gf, 210 gf to 230 gf of late");
    EXPECT_EQ(taughtBy({{210, kClean}, {210, kClean}, {210, kClean}, {210, kClean}})->reason,
              "cut clean 4 of 4 times at 210 gf");
}

TEST(Learn, OneFailureNeverErasesFourSuccesses) {
    const auto borne = taughtBy({{210, kNot}, {210, kClean}, {210, kClean}, {210, kClean}, {210, kClean}});
    ASSERT_TRUE(borne);
    EXPECT_EQ(borne->forceGf, 210);
    EXPECT_EQ(borne->clean, 4);
    EXPECT_EQ(borne->tries, 5);
    const auto three = taughtBy({{210, kNot}, {210, kClean}, {210, kClean}, {210, kClean}});
    EXPECT_EQ(three->forceGf, 235) << "210 and ten per cent, whole fives";
    EXPECT_TRUE(three->isMore);
}

TEST(Learn, AfterAFailureTheNextCleanForceAboveIt) {
    const auto next = taughtBy({{210, kNot}, {210, kClean}, {240, kClean}});
    ASSERT_TRUE(next);
    EXPECT_EQ(next->forceGf, 240);
    EXPECT_FALSE(next->isMore);
    // A failure at more force counts against less.
    EXPECT_EQ(taughtBy({{240, kNot}, {210, kClean}})->forceGf, 265);
    // One at less does not count against more.
    EXPECT_EQ(taughtBy({{180, kNot}, {210, kClean}})->forceGf, 210);
}

TEST(Learn, TenPerCentMoreThanWhatDidNotGoThrough) {
    const auto more = taughtBy({{200, kNot}, {190, kNot}});
    ASSERT_TRUE(more);
    EXPECT_EQ(more->forceGf, 220);
    EXPECT_EQ(more->reason, "ten per cent more than the 200 gf that did not go through");
}

TEST(Learn, WhatToreSaysNothingAboutTheForce) {
    EXPECT_FALSE(taughtBy({{210, kTorn}, {220, Outcome::Slipped}, {220, Outcome::Other}}));
    EXPECT_FALSE(taughtBy({}));
    EXPECT_EQ(taughtBy({{210, kTorn}, {200, kClean}})->tries, 1);
}

TEST(Learn, CutsWithOtherPassesAreAnotherMatter) {
    Entry twice = cutAt(120);
    twice.passes = 2;
    const auto of = learntFrom({twice, cutAt(210), cutAt(210, kNot)}, "lichen");
    ASSERT_TRUE(of);
    EXPECT_EQ(of->passes, 2);
    EXPECT_EQ(of->forceGf, 120);
}

TEST_F(LogbookFile, OthersOfItsKindAndWeightTeachWhereItWasNeverCut) {
    Logbook book = opened();
    design::Stock stock;
    stock.id = "lichen";
    stock.gramsPerM2 = 220;
    const design::Machine machine = [] {
        design::Machine out;
        out.id = "two-holders";
        return out;
    }();
    const auto now = [&](const design::Setting& setting = {}) {
        return *learnt(book, stock, machine, setting);
    };
    EXPECT_FALSE(now());
    Entry other = cutAt(250);
    other.stockId = "sea";
    other.gramsPerM2 = 220 * 1.16;
    ASSERT_TRUE(book.add(other));
    EXPECT_FALSE(now()) << "more than 15 per cent heavier";
    other.gramsPerM2 = 220 * 1.14;
    other.forceGf = 230;
    ASSERT_TRUE(book.add(other));
    ASSERT_TRUE(now());
    EXPECT_EQ(now()->forceGf, 230);
    EXPECT_FALSE(now()->isOfThisStock);
    // On another machine, with another blade, on another tack nothing follows from it.
    design::Setting steep, tacky;
    steep.blade = design::ToolKind::SteepBlade;
    tacky.tack = design::Tack::High;
    EXPECT_FALSE(now(steep));
    EXPECT_FALSE(now(tacky));
    // Its own cuts count before those of others.
    ASSERT_TRUE(book.add(cutAt(205)));
    EXPECT_EQ(now()->forceGf, 205);
    EXPECT_TRUE(now()->isOfThisStock);
}

} // namespace
} // namespace thinline::logbook
