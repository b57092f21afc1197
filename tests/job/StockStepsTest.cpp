// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/StockSteps.h"

#include "design/Cluster.h"
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
    job = must(withoutStock(job, "clear-film", shippedCatalogue()));
    EXPECT_EQ(job.stocks.size(), before);
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
        {[](Stock& s) { s.kind = Stock::Kind::Laminate; }, "name both"},
        {[](Stock& s) {
             s.laminateOf = {"sea", "rust"};
         },
         "name both"},
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
    EXPECT_EQ(beginningWith(newJob(catalogue), drawer, catalogue).stocks, drawer)
        << "what was taken out does not come back";
    EXPECT_EQ(beginningWith(newJob(catalogue), {}, catalogue).stocks.size(), 2u)
        << "new work has something to lie in";
}

} // namespace
} // namespace thinline::job
