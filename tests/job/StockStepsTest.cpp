// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/StockSteps.h"

#include "design/Cluster.h"
#include "job/CutSteps.h"
#include "job/LayerSteps.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

#include <cmath>

namespace thinline::job {
namespace {

using design::Stock;
using support::id;
using support::made;
using support::must;

TEST(Stocks, AreAddedChangedAndTakenOut) {
    Job job = support::emptyState().job;
    const size_t before = job.stocks.size();
    Stock vinyl = usualStock(Stock::Kind::Vinyl);
    vinyl.name = "Clear film";
    job = must(withNewStock(job, vinyl));
    ASSERT_EQ(job.stocks.size(), before + 1);
    EXPECT_EQ(job.stocks.back().id, "clear-film");
    EXPECT_EQ(job.stocks.back().cut, design::Depth::ToCarrier);
    Stock changed = job.stocks.back();
    changed.name = "Frosted film";
    changed.price = 1.5;
    job = must(withStock(job, changed));
    EXPECT_EQ(job.stocks.back().id, "clear-film") << "an id stays when the name changes";
    EXPECT_EQ(job.stocks.back().name, "Frosted film");
    job = must(withSetting(job, "clear-film", design::Setting{design::ToolKind::ShallowBlade, 300, 2}));
    job.plan.sheetOf["clear-film"] = *shippedCatalogue().formats.sheet("a4");
    job = must(withoutStock(job, "clear-film", shippedCatalogue()));
    EXPECT_EQ(job.stocks.size(), before);
    EXPECT_TRUE(job.cut.settings.empty()) << "another one called so is cut as it is itself";
    EXPECT_TRUE(job.plan.sheetOf.empty());
    for (const Stock::Kind kind : {Stock::Kind::Card, Stock::Kind::Vinyl, Stock::Kind::Acetate,
                                   Stock::Kind::TranslucentPaper, Stock::Kind::Board}) {
        EXPECT_TRUE(withNewStock(job, usualStock(kind))) << kindWord(kind);
        EXPECT_EQ(kindOf(kindWord(kind)), kind);
    }
}

TEST(Stocks, WhatCannotBeIsSaid) {
    const State state = support::rectangleJob(50, 30);
    const Job& job = state.job;
    const auto refusal = [&](const std::function<void(Stock&)>& change) {
        Stock stock = usualStock(Stock::Kind::Card);
        stock.name = "trial";
        change(stock);
        const auto out = withNewStock(job, stock);
        return out ? std::string() : out.error().message;
    };
    struct Row {
        std::function<void(Stock&)> change;
        const char* says;
    };
    const Row rows[] = {
        {[](Stock& s) { s.name = ""; }, "needs a name"},
        {[](Stock& s) { s.name = "two\nlines"; }, "needs a name"},
        {[](Stock& s) { s.name = "sea"; }, "called sea already"},
        {[](Stock& s) { s.thicknessMm = 0; }, "needs a thickness"},
        {[](Stock& s) { s.thicknessMm = std::nan(""); }, "needs a thickness"},
        {[](Stock& s) { s.thicknessMm = -1; }, "needs a thickness"},
        {[](Stock& s) { s.gramsPerM2 = 1e9; }, "A weight goes"},
        {[](Stock& s) { s.price = -1; }, "A price goes"},
        {[](Stock& s) {
             s.sizes = {{0, 100}};
         },
         "A sheet is 10"},
        {[](Stock& s) { s.kind = Stock::Kind::Laminate; }, "two or three stocks"},
        {[](Stock& s) {
             s.laminateOf = {"sea", "rust"};
         },
         "two or three stocks"},
        {[](Stock& s) {
             s.kind = Stock::Kind::Laminate;
             s.laminateOf = {"sea", "gold"};
         },
         "'gold' is none"},
    };
    for (const Row& row : rows)
        EXPECT_NE(refusal(row.change).find(row.says), std::string::npos)
            << row.says << ": " << refusal(row.change);
    EXPECT_NE(withoutStock(job, "sea", shippedCatalogue()).error().message.find("A layer is cut from sea"),
              std::string::npos);
    EXPECT_FALSE(withoutStock(job, "night", shippedCatalogue()));
    EXPECT_EQ(withoutStock(job, "gold", shippedCatalogue()).error().code, base::Code::NotFound);
    Stock glued = usualStock(Stock::Kind::Laminate);
    glued.laminateOf = {"lamp", "rust"};
    const Job with = must(withNewStock(job, glued));
    // Acetate between two prints is printed on both; four layers are none.
    glued.name = "three layers";
    glued.laminateOf = {"lamp", "rust", "lamp"};
    const Job three = must(withNewStock(job, glued));
    EXPECT_EQ(design::printsOf(three.stocks.back()), Stock::Prints::Both);
    EXPECT_EQ(design::printsOf(with.stocks.back()), Stock::Prints::Front);
    glued.laminateOf.push_back("sea");
    EXPECT_FALSE(withNewStock(job, glued));
    EXPECT_NE(withoutStock(with, "lamp", shippedCatalogue()).error().message.find("glued of lamp"),
              std::string::npos);
}

TEST(Stocks, WhatIsCutByHandGoesOnNoMat) {
    State state =
        support::withFigure(support::rectangleJob(50, 30), construct::Figure::Ellipse, {40, 40}, "rust");
    Stock board = *design::findStock(state.job.stocks, "rust");
    board.isCutByHand = true;
    board.price = 4;
    state = support::arranged(made(withStock(state.job, board), state.made));
    EXPECT_EQ(sheets::measure(*state.made.sheets, *state.made.work()).pieces, 1);
    EXPECT_TRUE(state.made.sheets->unplaced.empty()) << "it is not too large, it is none of the machine's";
    ASSERT_EQ(design::cutByHand(*state.made.work()).size(), 1u);
    EXPECT_EQ(design::cutByHand(*state.made.work()).front()->id(), id("2:1"));
    EXPECT_EQ(costOf(*state.made.sheets, state.job.stocks).sum, 0);
    EXPECT_EQ(costOf(*state.made.sheets, state.job.stocks).unknown, std::vector<std::string>{"sea"});
    Stock sea = *design::findStock(state.job.stocks, "sea");
    sea.price = 0.75;
    EXPECT_DOUBLE_EQ(costOf(*state.made.sheets, must(withStock(state.job, sea)).stocks).sum, 0.75);
}

TEST(Stocks, APatternThatMustNotTurnLiesAsItWasDrawn) {
    State state = support::emptyState();
    for (int i = 0; i < 6; ++i)
        state = support::withFigure(state, construct::Figure::Rectangle, {20.0 + 10 * i, 120.0 - 15 * i});
    Stock grained = *design::findStock(state.job.stocks, "sea");
    const auto turnedPieces = [](const State& now) {
        int count = 0;
        for (const design::PlacedPiece& placed : now.made.sheets->loads[0].sheets[0].pieces)
            count += placed.pose.turnRad != 0 ? 1 : 0;
        return count;
    };
    EXPECT_GT(turnedPieces(support::arranged(state)), 0);
    grained.turns = Stock::Turns::None;
    EXPECT_EQ(turnedPieces(support::arranged(made(withStock(state.job, grained), state.made))), 0);
}

TEST(Stocks, ANewJobBeginsWithTheDrawerAsItWasKept) {
    const Catalogue& catalogue = shippedCatalogue();
    std::vector<Stock> drawer = catalogue.drawer;
    std::erase_if(drawer, [](const Stock& stock) { return stock.id == "lichen"; });
    EXPECT_EQ(beginningWith(newJob(catalogue), {drawer}, catalogue).stocks, drawer)
        << "what was taken out does not come back";
    EXPECT_EQ(beginningWith(newJob(catalogue), {}, catalogue).stocks.size(), 2u)
        << "new work has something to lie in";
}

TEST(Stocks, SheetsAreCountedAndOffcutsKept) {
    const auto mm = base::LengthUnit::Millimetre;
    const auto read = readSizes("3 of 210 x 297 mm; 12 x 12 in;", mm);
    ASSERT_TRUE(read);
    ASSERT_EQ(read->size(), 2u);
    EXPECT_EQ((*read)[0].count, 3);
    EXPECT_FALSE((*read)[1].count) << "nobody counted those";
    EXPECT_EQ(sizesText(*read, mm), "3 of 210.0 × 297.0 mm; 304.8 × 304.8 mm");
    EXPECT_EQ(sizesText(*readSizes(sizesText(*read, mm), mm), mm), sizesText(*read, mm));
    for (const char* wrong : {"many of 210 x 297 mm", "2 of nothing", "-1 of 20 x 20 mm"})
        EXPECT_FALSE(readSizes(wrong, mm)) << wrong;
    EXPECT_EQ(sizesText(*readSizes("0 of 12 x 12 in", mm), mm), "0 of 304.8 × 304.8 mm") << "none is left";
    Job job = newJob(shippedCatalogue());
    job = support::must(withOffcut(job, {"sea", 304.8, 120.4}));
    job = support::must(withOffcut(job, {"sea", 304.9, 120.9}));
    const design::Stock& sea = *design::findStock(job.stocks, "sea");
    ASSERT_EQ(sea.sizes.size(), 1u) << "the same size again is one more of it";
    EXPECT_EQ(sea.sizes[0].count, 2);
    EXPECT_EQ(sea.sizes[0].widthMm, 304) << "cut down to whole millimetres";
    EXPECT_FALSE(withOffcut(job, {"moss", 100, 100}));
}

TEST(Stocks, WhatIsLackingIsTold) {
    State state = support::arranged(support::rectangleJob(250, 200));
    for (design::Stock& stock : state.job.stocks)
        if (stock.id == "sea")
            stock.sizes = {{304.8, 304.8, 1}};
    EXPECT_TRUE(lackingSheets(state.job, *state.made.sheets).empty()) << "one is there";
    State none = state;
    for (design::Stock& stock : none.job.stocks)
        if (stock.id == "sea")
            stock.sizes[0].count = 0;
    EXPECT_EQ(lackingSheets(none.job, *none.made.sheets).size(), 1u) << "all are used up";
    state = support::arranged(
        {support::must(withCopies(state, state.made.work()->pieces[0].id(), 3)), state.made});
    const auto lacking = lackingSheets(state.job, *state.made.sheets);
    ASSERT_EQ(lacking.size(), 1u);
    EXPECT_EQ(lacking[0].sheets, 2) << "three sheets, one of them there";
}

} // namespace
} // namespace thinline::job
