// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/Commands.h"
#include "document/DiskFileStore.h"
#include "document/JobFile.h"
#include "formats/svg/ReadDrawing.h"
#include "support/Jobs.h"
#include "support/Stores.h"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include <sstream>

namespace thinline::batch {
namespace {

class Batch : public testing::Test {
  protected:
    void SetUp() override {
        ASSERT_TRUE(m_store.writeWhole("shed.png", support::shedPng()));
        const auto demo = document::DiskFileStore().read(
            std::string(THINLINE_SOURCE_DIR) + "/demo/gull-point-lighthouse.thinline", base::kMostFileBytes);
        ASSERT_TRUE(demo);
        ASSERT_TRUE(m_store.writeWhole("demo/gull-point-lighthouse.thinline", *demo));
    }
    int call(std::vector<std::string> arguments) {
        m_out.str("");
        m_err.str("");
        return run(arguments, m_store, "demo", m_out, m_err);
    }
    std::string text(const std::string& path) {
        const auto bytes = support::must(m_store.read(path, 1 << 28));
        return {bytes.begin(), bytes.end()};
    }
    support::MemoryFileStore m_store;
    std::ostringstream m_out, m_err;
};

TEST_F(Batch, TraceWritesDrawingJobAndReport) {
    ASSERT_EQ(call({"trace", "shed.png", "--mode", "lineart", "--width", "240mm", "--min-area=0.5mm2",
                    "--out", "out.svg", "--job", "out.thinline", "--report", "report.json"}),
              kDone)
        << m_err.str();
    const auto drawing = support::must(formats::svg::readDrawing(text("out.svg")));
    ASSERT_EQ(drawing.groups.size(), 2u);
    EXPECT_EQ(drawing.groups[0].id, "backing");
    EXPECT_EQ(drawing.groups[1].paths.size(), 3u);
    EXPECT_NEAR(drawing.widthMm, 590.0 / 709 * 240, 0.2) << "the wall is 590 of the picture's 709 px";
    const auto report = nlohmann::json::parse(text("report.json"));
    EXPECT_EQ(report.at("pieces"), 4);
    EXPECT_EQ(report.at("layers").size(), 2u);
    EXPECT_GT(report.at("nodes"), 10);
    EXPECT_GE(report.at("seconds"), 0.0);
    EXPECT_NEAR(report.at("size").at("widthMm").get<double>(), drawing.widthMm, 1e-3);
    EXPECT_TRUE(m_store.has("out.thinline"));
}

TEST_F(Batch, SheetsAndPackAgreeWithTheSameStepsInTheDocument) {
    ASSERT_EQ(call({"trace", "shed.png", "--width", "200mm", "--job", "shed.thinline"}), kDone);
    ASSERT_EQ(call({"sheets", "shed.thinline", "--mat", "square12", "--sheet", "a4", "--out", "made"}), kDone)
        << m_err.str();
    document::Job job = support::must(document::loadJob(m_store, "shed.thinline"));
    job.plan.sheetId = "a4";
    const document::Job wanted = support::must(document::arranged(job, document::shippedCatalogue().formats));
    EXPECT_EQ(*support::must(document::loadJob(m_store, "made/shed.thinline")).arrangement,
              *wanted.arrangement);
    for (const char* name : {"load-1-night.svg", "load-2-cream.svg", "overview.png", "contents.txt"})
        EXPECT_TRUE(m_store.has(std::string("made/") + name)) << name;
    ASSERT_EQ(call({"pack", "made/shed.thinline", "--out", "packed"}), kDone);
    EXPECT_EQ(text("packed/load-2-cream.svg"), text("made/load-2-cream.svg"));
}

TEST_F(Batch, OwnSheetSizesAndForbiddenTurns) {
    ASSERT_EQ(call({"trace", "shed.png", "--width", "100mm", "--job", "shed.thinline"}), kDone);
    ASSERT_EQ(call({"sheets", "shed.thinline", "--sheet", "150mmx120mm", "--no-turn", "--spacing", "0",
                    "--out", "made"}),
              kDone)
        << m_err.str();
    const document::Job job = support::must(document::loadJob(m_store, "made/shed.thinline"));
    EXPECT_EQ(job.plan.sheetId, "own");
    EXPECT_DOUBLE_EQ(job.arrangement->loads[0].sheets[0].widthMm, 150);
    EXPECT_FALSE(job.plan.mayTurn);
}

TEST_F(Batch, TheDemoRunsWhole) {
    ASSERT_EQ(call({"demo", "--out", "out", "--report", "demo.json"}), kDone) << m_err.str();
    const auto report = nlohmann::json::parse(text("demo.json"));
    EXPECT_EQ(report.at("layers").size(), 7u);
    EXPECT_EQ(report.at("leaks"), 1) << "one gap is closed by hand, one is left to be found";
    EXPECT_EQ(report.at("arrangement").at("unplaced"), 0);
    EXPECT_GT(report.at("pieces"), 60);
    EXPECT_TRUE(m_store.has("out/layers.svg"));
}

struct BadCall {
    std::vector<std::string> arguments;
    int code;
    const char* says;
};

TEST_F(Batch, MistakesAreOneLineOnStandardError) {
    const BadCall rows[] = {
        {{"dance"}, kBadCall, "no command 'dance'"},
        {{"trace"}, kBadCall, "file is missing"},
        {{"trace", "shed.png", "--wdith", "9mm"}, kBadCall, "no option --wdith"},
        {{"trace", "shed.png", "--width"}, kBadCall, "needs a value"},
        {{"trace", "shed.png", "--width", "wide"}, kBadCall, "not a number"},
        {{"trace", "shed.png", "--width", "0"}, kBadCall, "is zero"},
        {{"trace", "shed.png", "--mode", "magic"}, kBadCall, "mode 'magic'"},
        {{"trace", "shed.png", "--threshold", "300"}, kBadCall, "goes from 0 to 254"},
        {{"trace", "shed.png", "other.png"}, kBadCall, "one argument too many"},
        {{"trace", "nowhere.png"}, kFailed, "nowhere.png"},
        {{"trace", "demo/gull-point-lighthouse.thinline"}, kFailed, "not a picture"},
        {{"sheets", "shed.png", "--out", "x"}, kFailed, "damaged"},
        {{"sheets", "demo/gull-point-lighthouse.thinline"}, kBadCall, "--out is missing"},
        {{"sheets", "demo/gull-point-lighthouse.thinline", "--mat", "round", "--out", "x"},
         kBadCall,
         "no mat 'round'"},
        {{"sheets", "demo/gull-point-lighthouse.thinline", "--mat", "square12", "--sheet", "long24", "--out",
          "x"},
         kBadCall,
         "does not lie on a mat"},
    };
    for (const BadCall& row : rows) {
        EXPECT_EQ(call(row.arguments), row.code) << m_err.str();
        const std::string line = m_err.str();
        EXPECT_NE(line.find(row.says), std::string::npos) << line;
        EXPECT_EQ(std::count(line.begin(), line.end(), '\n'), 1) << line;
    }
}

TEST_F(Batch, APictureOfUnknownSizeAsksForItsWidth) {
    ASSERT_TRUE(m_store.writeWhole("bare.png", formats::image::encodePng(support::shedPicture())));
    EXPECT_EQ(call({"trace", "bare.png"}), kBadCall);
    EXPECT_NE(m_err.str().find("give its width"), std::string::npos);
}

TEST_F(Batch, HelpStatesEveryDefault) {
    for (const char* command : {"trace", "sheets", "pack", "demo"}) {
        EXPECT_EQ(call({command, "--help"}), kDone);
        EXPECT_NE(m_out.str().find("Exit codes"), std::string::npos) << command;
    }
    call({"trace", "--help"});
    for (const char* stated :
         {"Default: 0.5mm2", "Default: lineart", "Default: 2mm", "Default: 1.", "Default: 0."})
        EXPECT_NE(m_out.str().find(stated), std::string::npos) << stated;
    EXPECT_EQ(call({}), kBadCall);
    EXPECT_EQ(call({"--help"}), kDone);
}

} // namespace
} // namespace thinline::batch
