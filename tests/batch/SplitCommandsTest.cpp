// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/JobFile.h"
#include "job/Catalogue.h"
#include "job/SplitSteps.h"
#include "support/BatchRuns.h"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>


namespace thinline::batch {
namespace {

/// A plate of 500 x 400 mm with a bar across it.
class SplitCommands : public support::BatchRuns<> {
  protected:
    void SetUp() override {
        const job::State plate = support::made(support::openedDrawing(
            "<svg xmlns='http://www.w3.org/2000/svg' width='500mm' height='400mm' viewBox='0 0 500 400'>"
            "<path id='sky' d='M0 0H500V400H0Z' fill='#2f6f8f'/><path id='bar' d='M20 190H480V215H20Z' "
            "fill='#c8452a'/></svg>"));
        ASSERT_TRUE(document::saveJob(m_store, "plate.thinline", plate));
    }
};

TEST_F(SplitCommands, WhatIsListedIsWhatIsDividedAndGoesOntoSheets) {
    ASSERT_EQ(
        call({"split", "plate.thinline", "--mat", "square12", "--sheet", "square12", "--list", "--json"}),
        kDone)
        << m_err.str();
    const auto listed = nlohmann::json::parse(m_out.str());
    ASSERT_EQ(listed.size(), 2U);
    EXPECT_EQ(state("plate.thinline").job.steps.size(), 0U) << "listing changes nothing";
    const auto& best = listed[0]["ways"][0];
    EXPECT_EQ(best["sheetsOfItsStock"], best["parts"].size()) << "no two parts of a plate share a sheet";
    EXPECT_EQ(best["thinCuts"], 0);
    EXPECT_EQ(best["slivers"], 0);
    for (const auto& seam : best["seams"])
        EXPECT_GT(seam["lengthMm"].get<double>(), 10);
    ASSERT_EQ(call({"split", "plate.thinline", "--mat", "square12", "--sheet", "square12", "--job",
                    "cut.thinline"}),
              kDone)
        << m_err.str();
    const job::State cut = state("cut.thinline");
    size_t parts = 0;
    for (const auto& one : listed)
        parts += one["ways"][0]["parts"].size();
    EXPECT_EQ(cut.made.work()->pieces.size(), parts);
    EXPECT_NE(m_out.str().find("windows"), std::string::npos);
    ASSERT_EQ(call({"sheets", "cut.thinline", "--mat", "square12", "--sheet", "square12", "--boxes", "--json",
                    "--out", "made"}),
              kDone)
        << m_err.str();
    EXPECT_NE(m_out.str().find("\"unplaced\": []"), std::string::npos) << m_out.str();
    // Nothing is left to divide.
    ASSERT_EQ(call({"split", "cut.thinline", "--list"}), kDone);
    EXPECT_EQ(m_out.str(), "everything fits its sheets; nothing is divided\n");
}

// The window takes the first way of every piece by the same functions.
TEST_F(SplitCommands, AgreesWithTheWindow) {
    ASSERT_EQ(call({"split", "plate.thinline", "--mat", "square12", "--sheet", "square12", "--joint",
                    "overlap", "--overlap", "15mm", "--job", "cut.thinline"}),
              kDone);
    job::State now = state("plate.thinline");
    now.job.plan.matId = now.job.plan.sheetId = "square12";
    job::SplitOptions wish;
    wish.joint = split::Joint::Overlap;
    wish.overlapMm = 15;
    const auto large = support::must(job::oversize(now, job::shippedCatalogue().formats));
    std::vector<job::Taken> taken;
    const auto all = support::must(job::proposals(now, large, wish));
    for (const job::Proposed& one : all) {
        const auto draft = support::must(
            job::draftOf(now, one.of, job::wishesOf(one.ways.front(), split::Joint::Overlap), wish));
        taken.push_back({one.of, draft.seams});
    }
    const job::State window = support::must(job::dividedAlong(now, taken, wish.overlapMm));
    const job::State batch = state("cut.thinline");
    ASSERT_EQ(window.made.work()->pieces.size(), batch.made.work()->pieces.size());
    for (size_t i = 0; i < batch.made.work()->pieces.size(); ++i) {
        EXPECT_EQ(window.made.work()->pieces[i].id(), batch.made.work()->pieces[i].id());
        EXPECT_NEAR(geometry::area(window.made.work()->pieces[i].shape()),
                    geometry::area(batch.made.work()->pieces[i].shape()), 1e-3);
    }
}

TEST_F(SplitCommands, SayWhatIsWrong) {
    const std::vector<std::pair<std::vector<std::string>, std::string>> rows{
        {{"--joint", "dovetail"}, "--joint is keyed, overlap or butt."},
        {{"--overlap", "soon"}, "--overlap: "},
        {{"--thin", "900mm"}, "--thin: "},
        {{"--mat", "rug"}, "There is no mat 'rug'"},
        {{"--sheet", "towel"}, "towel"},
        {{"--on", "the moon"}, "the moon"},
        {{"--keep-whole", "the moon"}, "the moon"},
        {{"--way", "0"}, "--way"},
        {{"--mat", "square12", "--sheet", "square12", "--joint", "keyed", "--overlap", "8mm"},
         "needs an overlap of 10 mm"}};
    for (const auto& [words, sentence] : rows) {
        std::vector<std::string> all{"split", "plate.thinline"};
        all.insert(all.end(), words.begin(), words.end());
        EXPECT_NE(call(all), kDone) << words.back();
        EXPECT_NE(m_err.str().find(sentence), std::string::npos) << m_err.str();
        EXPECT_EQ(state("plate.thinline").job.steps.size(), 0U);
    }
}

TEST_F(SplitCommands, ABoardGoesBehindTheWholeAndPackTellsHowPartsGoTogether) {
    ASSERT_EQ(call({"split", "plate.thinline", "--mat", "square12", "--sheet", "square12"}), kDone)
        << m_err.str();
    ASSERT_EQ(call({"board", "plate.thinline", "--inset", "5mm"}), kDone) << m_err.str();
    ASSERT_EQ(call({"pack", "plate.thinline", "--anew", "--out", "made"}), kDone) << m_err.str();
    const auto bytes = support::must(m_store.read("made/contents.txt", 1 << 20));
    const std::string contents(bytes.begin(), bytes.end());
    EXPECT_NE(contents.find(" lies on part "), std::string::npos) << contents;
    EXPECT_NE(contents.find("edge to edge: tape them on the back"), std::string::npos);
    EXPECT_NE(contents.find("the backing board"), std::string::npos) << "cut by hand";
    EXPECT_NE(call({"board", "plate.thinline", "--inset", "300mm"}), kDone);
    EXPECT_NE(m_err.str().find("nothing is left of the board"), std::string::npos);
    EXPECT_NE(call({"board", "plate.thinline", "--stock", "gold"}), kDone);
}

TEST_F(SplitCommands, ASmallerSizeWithAPartLessIsToldWhenAsked) {
    const std::vector<std::string> list{"split",   "plate.thinline", "--mat", "square12",
                                        "--sheet", "square12",       "--list"};
    ASSERT_EQ(call(list), kDone) << m_err.str();
    EXPECT_EQ(m_out.str().find("fewer"), std::string::npos);
    std::vector<std::string> asked = list;
    asked.insert(asked.end(), {"--rough", "--smaller"});
    ASSERT_EQ(call(asked), kDone) << m_err.str();
    EXPECT_NE(m_out.str().find("fewer\n"), std::string::npos) << m_out.str();
    EXPECT_NE(m_out.str().find("its stock on at most"), std::string::npos);
}

TEST_F(SplitCommands, NoSeamGoesUnderWhatIsKeptWhole) {
    ASSERT_EQ(call({"split", "plate.thinline", "--mat", "square12", "--sheet", "square12", "--on", "sky",
                    "--joint", "butt", "--keep-whole", "bar", "--list", "--json"}),
              kDone)
        << m_err.str();
    const auto kept = nlohmann::json::parse(m_out.str());
    ASSERT_EQ(kept.size(), 1U);
    // A plate cannot be divided round a bar that is as long as it is: what crosses it says so.
    int crossing = 0;
    for (const auto& seam : kept[0]["ways"][0]["seams"])
        crossing += seam["cutsKept"].get<bool>();
    EXPECT_EQ(crossing, 1);
}

} // namespace
} // namespace thinline::batch
