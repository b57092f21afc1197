// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/JobFile.h"

#include "document/DiskFileStore.h"
#include "document/Recovery.h"
#include "formats/zip/Archive.h"
#include "support/Jobs.h"
#include "support/Stores.h"

#include <gtest/gtest.h>

#include <csignal>
#include <filesystem>
#include <fstream>
#include <sys/resource.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

namespace thinline::document {
namespace {

namespace fs = std::filesystem;
using support::must;

Job fullJob() {
    Job job = painted(support::arrangedShed(), {2}, "sea");
    job = must(withCopies(job, 3, 2));
    job = must(resized(job, 230, 150));
    job = must(withClearance(job, 0.4));
    job.recipe.threshold = 120;
    job.recipe.closings.push_back({{1, 2}, {3, 4}, 5});
    job = must(arranged(job, shippedCatalogue().formats));
    return must(pinnedAt(job, {{3, 0}, 40, 50, 1}, 1, shippedCatalogue().formats));
}

TEST(JobFile, RoundTripKeepsEverything) {
    const Job job = fullJob();
    const base::Bytes file = must(writeJob(job));
    const Job back = must(readJob(file));
    EXPECT_EQ(must(writeJob(back)), file) << "what was read writes the same bytes";
    EXPECT_EQ(back.artwork->bytes, job.artwork->bytes) << "the artwork is untouched";
    EXPECT_EQ(back.paint, job.paint);
    EXPECT_EQ(back.copies, job.copies);
    EXPECT_EQ(back.recipe, job.recipe);
    EXPECT_EQ(*back.arrangement, *job.arrangement);
    EXPECT_EQ(back.plan.pins, job.plan.pins);
    EXPECT_EQ(design::measure(*back.stack).nodes, design::measure(*job.stack).nodes);
    EXPECT_NEAR(designBox(back).width(), 230, 1e-3);
}

/// The entries of a job with one of them changed.
base::Bytes with(const std::string& entry, const std::function<void(std::string&)>& change) {
    std::map<std::string, formats::zip::Entry> entries;
    for (const auto& [name, bytes] : must(formats::zip::readArchive(must(writeJob(fullJob())))))
        entries[name] = {bytes, false};
    std::string text(entries[entry].bytes.begin(), entries[entry].bytes.end());
    change(text);
    entries[entry].bytes.assign(text.begin(), text.end());
    return must(formats::zip::writeArchive(entries));
}

void replace(std::string& text, const std::string& from, const std::string& to) {
    const auto at = text.find(from);
    ASSERT_NE(at, std::string::npos) << from;
    text.replace(at, from.size(), to);
}

struct Damage {
    const char* what;
    std::function<void(std::string&)> change;
    base::Code code;
    const char* says;
};

TEST(JobFile, DamagedHostileAndNewerFilesAreRefusedInASentence) {
    const Damage rows[] = {
        {"newer", [](auto& t) { replace(t, "\"format\": 3", "\"format\": 4"); }, base::Code::Unsupported,
         "newer Thin Line"},
        {"not json", [](auto& t) { t.resize(t.size() / 2); }, base::Code::ParseError, "damaged"},
        {"empty json", [](auto& t) { t = "{}"; }, base::Code::ParseError, "damaged"},
        {"a list", [](auto& t) { t = "[1,2]"; }, base::Code::ParseError, "damaged"},
        {"deep nesting", [](auto& t) { t = std::string(200000, '['); }, base::Code::ParseError, "damaged"},
        {"negative width", [](auto& t) { replace(t, "\"pictureWidthMm\": ", "\"pictureWidthMm\": -"); },
         base::Code::ParseError, "out of range"},
        {"huge scale", [](auto& t) { replace(t, "\"scale\": [", "\"scale\": [1e30, 2, "); },
         base::Code::ParseError, "out of range"},
        {"broken outline", [](auto& t) { replace(t, "\"path\": \"M", "\"path\": \"X"); },
         base::Code::ParseError, "outline"},
        {"bad colour", [](auto& t) { replace(t, "\"colour\": \"#", "\"colour\": \"$"); },
         base::Code::ParseError, "not a colour"},
        {"artwork elsewhere",
         [](auto& t) { replace(t, "\"entry\": \"artwork\"", "\"entry\": \"../../etc\""); },
         base::Code::ParseError, "artwork is missing"},
        {"a word for a number",
         [](auto& t) { replace(t, "\"clearanceMm\": 0.4", "\"clearanceMm\": \"wide\""); },
         base::Code::ParseError, "damaged"},
        {"a piece without number",
         [](auto& t) { replace(t, "\"paint\": {\n  \"1\"", "\"paint\": {\n  \"one\""); },
         base::Code::ParseError, "no number"},
    };
    for (const Damage& row : rows) {
        const auto out = readJob(with("job.json", row.change));
        ASSERT_FALSE(out) << row.what;
        EXPECT_EQ(out.error().code, row.code) << row.what << ": " << out.error().message;
        EXPECT_NE(out.error().message.find(row.says), std::string::npos)
            << row.what << ": " << out.error().message;
    }
    EXPECT_NE(readJob(must(formats::zip::writeArchive({{"x", {{1}, false}}})))
                  .error()
                  .message.find("job.json is missing"),
              std::string::npos);
}

TEST(JobFile, CutOffAnywhereOrWithAFlippedByteItNeverCrashes) {
    const base::Bytes file = must(writeJob(support::tracedShed()));
    for (size_t length = 0; length < file.size(); length += file.size() / 97 + 1)
        EXPECT_FALSE(readJob(base::Bytes(file.begin(), file.begin() + static_cast<long>(length)))) << length;
    for (size_t at = 0; at < file.size(); at += file.size() / 193 + 1) {
        base::Bytes flipped = file;
        flipped[at] ^= 0x55;
        const auto out =
            readJob(flipped); // the picture's bytes may differ unseen; everything else is refused
        if (!out) {
            EXPECT_FALSE(out.error().message.empty());
        }
    }
}

TEST(JobFile, AnArrangementWithUnknownPiecesIsMadeAnew) {
    const auto out = readJob(with("job.json", [](auto& t) { replace(t, "\"piece\": -1", "\"piece\": -7"); }));
    ASSERT_TRUE(out) << out.error().message;
    EXPECT_EQ(out->arrangement, nullptr);
}

// ---- the disk -------------------------------------------------------------------------------------------

class OnDisk : public testing::Test {
  protected:
    void SetUp() override {
        m_folder = fs::temp_directory_path() / ("thinline-disk-" + std::to_string(::getpid()));
        fs::create_directories(m_folder);
    }
    void TearDown() override {
        fs::permissions(m_folder, fs::perms::owner_all);
        fs::remove_all(m_folder);
    }
    std::string path(const std::string& name) const { return (m_folder / name).string(); }
    size_t filesLeft() const {
        return static_cast<size_t>(std::distance(fs::directory_iterator(m_folder), {}));
    }

    fs::path m_folder;
    DiskFileStore m_store;
};

TEST_F(OnDisk, WritesReadsListsAndRemoves) {
    ASSERT_TRUE(m_store.writeWhole(path("a"), {1, 2, 3}));
    ASSERT_TRUE(m_store.writeWhole(path("a"), {4}));
    EXPECT_EQ(*m_store.read(path("a"), 10), base::Bytes{4});
    EXPECT_EQ(m_store.list(m_folder.string()), std::vector<std::string>{"a"});
    EXPECT_TRUE(m_store.remove(path("a")));
    EXPECT_TRUE(m_store.remove(path("a")));
    EXPECT_EQ(m_store.read(path("a"), 10).error().code, base::Code::NotFound);
    ASSERT_TRUE(m_store.writeWhole(path("b"), base::Bytes(100)));
    EXPECT_EQ(m_store.read(path("b"), 99).error().code, base::Code::LimitExceeded);
    EXPECT_EQ(m_store.read(m_folder.string(), 99).error().code, base::Code::IoError);
}

TEST_F(OnDisk, AVanishedFolderIsSaidAndNothingIsLeft) {
    const auto out = m_store.writeWhole(path("gone/job.thinline"), {1});
    ASSERT_FALSE(out);
    EXPECT_NE(out.error().message.find("the folder is not there"), std::string::npos) << out.error().message;
    EXPECT_FALSE(m_store.writeWhole(m_folder.string(), {1})) << "a folder is no file";
}

TEST_F(OnDisk, AFullDiskLeavesTheOldFileIntact) {
    ASSERT_TRUE(m_store.writeWhole(path("job"), {9, 9, 9}));
    // A file size limit in a child process stands for the full disk: the write fails half way.
    const pid_t child = ::fork();
    if (child == 0) {
        ::signal(SIGXFSZ, SIG_IGN);
        const rlimit limit{4096, 4096};
        ::setrlimit(RLIMIT_FSIZE, &limit);
        const auto out = m_store.writeWhole(path("job"), base::Bytes(1 << 20, 1));
        ::_exit(!out && out.error().code == base::Code::IoError ? 0 : 1);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    EXPECT_EQ(status, 0);
    EXPECT_EQ(*m_store.read(path("job"), 10), (base::Bytes{9, 9, 9}));
    EXPECT_EQ(filesLeft(), 1u) << "no half-written file stays behind";
}

TEST_F(OnDisk, AReadOnlyFileOrFolderIsSaidAndKept) {
    ASSERT_TRUE(m_store.writeWhole(path("job"), {5}));
    // The superuser may write anywhere, so the check runs as somebody else.
    const pid_t child = ::fork();
    if (child == 0) {
        fs::permissions(m_folder, fs::perms::owner_read | fs::perms::owner_exec | fs::perms::others_exec);
        if (::getuid() == 0 && ::setuid(65534) != 0)
            ::_exit(2);
        const auto out = m_store.writeWhole(path("job"), {6});
        ::_exit(!out && out.error().message.find("may not write") != std::string::npos ? 0 : 1);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    EXPECT_EQ(status, 0);
    fs::permissions(m_folder, fs::perms::owner_all);
    EXPECT_EQ(*m_store.read(path("job"), 10), base::Bytes{5});
    EXPECT_EQ(filesLeft(), 1u);
}

TEST_F(OnDisk, KilledAtAnyMomentTheFileIsTheOldOrTheNewOne) {
    const base::Bytes old(300'000, 1), fresh(300'000, 2);
    for (int round = 0; round < 12; ++round) {
        ASSERT_TRUE(m_store.writeWhole(path("job"), old));
        const pid_t child = ::fork();
        if (child == 0) {
            for (;;)
                if (!m_store.writeWhole(path("job"), fresh))
                    ::_exit(1);
        }
        ::usleep(static_cast<useconds_t>(300 * round));
        ::kill(child, SIGKILL);
        ::waitpid(child, nullptr, 0);
        const auto found = m_store.read(path("job"), 1'000'000);
        ASSERT_TRUE(found);
        EXPECT_TRUE(*found == old || *found == fresh) << "round " << round;
    }
}

// ---- recovery -------------------------------------------------------------------------------------------

TEST(Recovery, FindsOnlyTheWorkOfProgramsThatEnded) {
    support::MemoryFileStore store;
    const auto isRunning = [](int process) { return process == 200; };
    Recovery dead(store, "/unsaved", 100, isRunning), alive(store, "/unsaved", 200, isRunning),
        own(store, "/unsaved", 300, isRunning);
    const Job job = support::tracedShed();
    ASSERT_TRUE(dead.keep(job, "/home/x/shed.thinline"));
    ASSERT_TRUE(alive.keep(job, ""));
    ASSERT_TRUE(own.keep(job, ""));
    const auto lost = own.findLost();
    ASSERT_EQ(lost.size(), 1u);
    EXPECT_EQ(lost[0].process, 100);
    EXPECT_EQ(lost[0].originPath, "/home/x/shed.thinline");
    EXPECT_EQ(must(loadJob(store, lost[0].path)).name, "shed");
    ASSERT_TRUE(own.forget(lost[0]));
    EXPECT_TRUE(own.findLost().empty());
    ASSERT_TRUE(own.discard());
    EXPECT_FALSE(store.has("/unsaved/300.thinline"));
}

TEST(Recovery, AFailingDiskIsToldNotHidden) {
    support::FailingFileStore store(1);
    Recovery recovery(store, "/unsaved", 1, [](int) { return false; });
    const auto kept = recovery.keep(newJob(shippedCatalogue()), "");
    ASSERT_FALSE(kept);
    EXPECT_NE(kept.error().message.find("disk is full"), std::string::npos);
}

TEST(JobFile, StepsAtShapeComeBackAndAreDoneAgain) {
    Job job = must(withShapeStep(support::tracedShed(), {shape::Action::SetAside, {2}}));
    job = must(withShapeStep(job, {shape::Action::Offset, {-1}, {1.5, 3, 1}}));
    const Job back = must(readJob(must(writeJob(job))));
    EXPECT_EQ(back.shapeSteps, job.shapeSteps);
    ASSERT_EQ(back.shaped->items.size(), job.shaped->items.size());
    for (size_t i = 0; i < back.shaped->items.size(); ++i)
        EXPECT_EQ(*back.shaped->items[i].piece.shape, *job.shaped->items[i].piece.shape);
    EXPECT_EQ(back.shaped->scrap.size(), 1u);
}

} // namespace
} // namespace thinline::document
