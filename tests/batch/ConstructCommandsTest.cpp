// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/JobEntries.h"
#include "formats/image/ImageFile.h"
#include "job/Constructions.h"
#include "support/BatchRuns.h"

#include <gtest/gtest.h>

namespace thinline::batch {
namespace {

using ConstructCommands = support::BatchRuns<>;

TEST_F(ConstructCommands, NameAllThereAreAndWhatTheyTake) {
    ASSERT_EQ(call({"construct", "list"}), kDone) << m_err.str();
    for (const construct::Construction* one : construct::constructions())
        EXPECT_TRUE(told(one->name)) << one->name;
    ASSERT_EQ(call({"construct", "show", "round-box", "diameter=58", "height=104"}), kDone) << m_err.str();
    EXPECT_TRUE(told("wall = π × (58.0 + 0.3 card) + 12.0 lap = 195.2 mm"));
    EXPECT_TRUE(told(
        "slides = 0.3 mm (Lid slides by; 0 mm to 5 mm): how much wider the lid is than the box, in all"));
    EXPECT_EQ(call({"construct", "castle"}), kBadCall);
    EXPECT_NE(m_err.str().find("There is no construction 'castle'"), std::string::npos);
}

TEST_F(ConstructCommands, MakeAWorkThatIsTheSameAfterReopening) {
    for (const construct::Construction* one : construct::constructions()) {
        SCOPED_TRACE(one->name);
        const std::string file = std::string(one->name) + ".thinline";
        ASSERT_EQ(call({"construct", one->name, "--job", file}), kDone) << m_err.str();
        const job::State reopened = state(file);
        auto made = job::withConstruction(support::emptyState(), support::must(job::readGiven(one->name, {})),
                                          job::shippedCatalogue().plainStockId, support::shippedFonts());
        ASSERT_TRUE(made);
        const job::State here = support::made(made.take().job);
        ASSERT_EQ(reopened.made.work()->pieces.size(), here.made.work()->pieces.size());
        for (size_t i = 0; i < here.made.work()->pieces.size(); ++i) {
            const design::Laid &a = reopened.made.work()->pieces[i], &b = here.made.work()->pieces[i];
            EXPECT_EQ(a.id(), b.id());
            EXPECT_EQ(*a.piece.body, *b.piece.body) << b.id().text();
            EXPECT_EQ(a.copies, b.copies);
        }
        EXPECT_EQ(std::get<job::Construction>(reopened.job.sources[0]->what).given,
                  std::get<job::Construction>(here.job.sources[0]->what).given);
    }
}

TEST_F(ConstructCommands, ChangeWhatIsThere) {
    ASSERT_EQ(call({"construct", "sleeve", "width=50", "--job", "job.thinline"}), kDone) << m_err.str();
    ASSERT_EQ(call({"construct", "sleeve", "width=70", "--into", "job.thinline", "--change", "1"}), kDone)
        << m_err.str();
    ASSERT_EQ(state().job.sources.size(), 1u);
    EXPECT_TRUE(told("front and back = 70.5 inside + 0.3 card = 70.8 mm"));
    EXPECT_EQ(call({"construct", "sleeve", "--into", "job.thinline", "--change", "7"}), kFailed);
}

TEST_F(ConstructCommands, FoldItAndSayWhetherItCloses) {
    ASSERT_EQ(call({"construct", "round-box", "diameter=58", "height=104", "--job", "salt.thinline"}), kDone)
        << m_err.str();
    ASSERT_EQ(call({"fold", "salt.thinline", "--check", "--png", "salt.png", "--at", "1"}), kDone)
        << m_err.str();
    EXPECT_TRUE(told("6 pieces, 9 joints"));
    const auto picture = formats::image::decode(support::must(m_store.read("salt.png", 10'000'000)));
    ASSERT_TRUE(picture);
    EXPECT_EQ(picture->picture.width, 640);
    EXPECT_EQ(call({"fold", "salt.thinline", "--at", "2"}), kBadCall);
    EXPECT_EQ(call({"fold", "salt.thinline", "--first", "the roof"}), kFailed);
    EXPECT_NE(m_err.str().find("There is no joint 'the roof'; there are lap, lap of the lid."), std::string::npos) << m_err.str();
    // Another order is kept when it is asked for, and is that of the folded work from then on.
    ASSERT_EQ(call({"construct", "carton", "--job", "job.thinline"}), kDone) << m_err.str();
    ASSERT_EQ(call({"fold", "job.thinline", "--first", "tuck of the bottom"}), kDone) << m_err.str();
    EXPECT_TRUE(state().job.sources[0]->joints.empty());
    ASSERT_EQ(call({"fold", "job.thinline", "--first", "tuck of the bottom", "--keep"}), kDone) << m_err.str();
    const job::State kept = state();
    EXPECT_EQ(folding::jointsOf(support::must(job::foldedOf(kept, job::foldable(kept), {}))).front(), "tuck of the bottom");
    ASSERT_EQ(call({"figure", "heart", "--job", "heart.thinline"}), kDone);
    EXPECT_EQ(call({"fold", "heart.thinline"}), kBadCall);
    EXPECT_NE(m_err.str().find("No piece of this job has folds"), std::string::npos);
}

TEST_F(ConstructCommands, PutNamesOfAListIntoAWord) {
    ASSERT_EQ(call({"words", "HARBOUR", "--height", "20mm", "--job", "board.thinline"}), kDone)
        << m_err.str();
    const std::string list = "PIER\nQUAY\nA\nQUAY\nHARBOURMASTER\n";
    ASSERT_TRUE(m_store.writeWhole("names.csv", {list.begin(), list.end()}));
    ASSERT_EQ(call({"slots", "board.thinline", "--list", "names.csv", "--out", "boards"}), kDone)
        << m_err.str();
    EXPECT_TRUE(told("wrote 5 jobs to boards"));
    for (const char* name : {"PIER", "QUAY", "QUAY 2", "A", "HARBOURMASTER"}) {
        const job::State board = state("boards/" + std::string(name) + ".thinline");
        const auto& word = std::get<job::Word>(board.job.sources[0]->what);
        EXPECT_EQ(word.recipe.text, std::string(name) == "QUAY 2" ? "QUAY" : name);
        EXPECT_LE(board.job.sources[0]->box().width(),
                  state("board.thinline").job.sources[0]->box().width() + 0.02);
    }
    EXPECT_EQ(call({"slots", "board.thinline", "--word", "print 9", "--list", "names.csv", "--out", "boards"}), kFailed);
    EXPECT_NE(m_err.str().find("There is no word of the number print 9; 1 is the word HARBOUR."), std::string::npos)
        << m_err.str();
    EXPECT_EQ(call({"slots", "board.thinline", "--list", "none.csv", "--out", "boards"}), kFailed);
    // All of them in one job, laid on sheets together.
    ASSERT_EQ(call({"slots", "board.thinline", "--list", "names.csv", "--together", "all.thinline"}), kDone) << m_err.str();
    EXPECT_TRUE(told("wrote 5 designs to one job, all.thinline"));
    std::multiset<std::string> words;
    for (const auto& source : state("all.thinline").job.sources)
        if (const auto* word = job::asA<job::Word>(source.get()))
            words.insert(word->recipe.text);
    EXPECT_EQ(words, (std::multiset<std::string>{"A", "HARBOURMASTER", "PIER", "QUAY", "QUAY"}));
    EXPECT_EQ(call({"sheets", "all.thinline", "--out", "sheets"}), kDone) << m_err.str();
    EXPECT_NE(call({"slots", "board.thinline", "--list", "names.csv"}), kDone);
    EXPECT_NE(m_err.str().find("Say where the jobs go"), std::string::npos) << m_err.str();
}

} // namespace
} // namespace thinline::batch
