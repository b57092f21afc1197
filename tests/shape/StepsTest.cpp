// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "shape/Steps.h"

#include "support/Shapes.h"

#include <gtest/gtest.h>

#include <atomic>

namespace thinline::shape {
namespace {

using geometry::Shape;
using support::disc;
using support::rectangle;
using support::withOpening;

Item item(PieceId id, const Shape& shape) {
    return {{id, std::make_shared<const Shape>(shape), 1}, id < 0, id};
}

/// A plate of 20 x 20, one that overlaps a quarter of it, one far away with a slit.
Work someWork() {
    Work work;
    work.items = {item(-1, rectangle(-5, -5, 200, 60)), item(1, rectangle(0, 0, 20, 20)),
                  item(2, rectangle(10, 10, 20, 20)),
                  item(3, withOpening(rectangle(100, 0, 20, 20), rectangle(105, 5, 10, 1)))};
    return work;
}

Outcome must(const Work& work, const Step& step) {
    auto outcome = apply(work, step);
    if (!outcome)
        throw std::runtime_error(outcome.error().message);
    return outcome.take();
}

double areaOf(const std::vector<Item>& items, PieceId id) {
    for (const Item& one : items)
        if (one.piece.id == id)
            return geometry::area(*one.piece.shape);
    return -1; // not there
}

double areaOf(const std::vector<Item>& items) {
    double sum = 0;
    for (const Item& one : items)
        sum += geometry::area(*one.piece.shape);
    return sum;
}

TEST(Steps, EveryActionLeavesWhatItsNameSays) {
    const Work work = someWork();
    struct Row {
        Step step;
        std::vector<std::pair<PieceId, double>> left; ///< pieces and their areas; -1: gone
        double scrapArea;
    };
    const std::vector<Row> rows = {
        {{Action::Join, {1, 2}}, {{1, 700}, {2, -1}, {3, 390}}, 0},
        {{Action::CutOut, {1, 2}}, {{1, 300}, {2, -1}}, 400},
        {{Action::CutOut, {2, 1}}, {{2, 300}, {1, -1}}, 400},
        {{Action::KeepOverlap, {1, 2}}, {{1, 100}, {2, -1}}, 600},
        {{Action::KeepEveryPart, {1, 2}}, {{1, 300}, {kFirstMade, 100}, {2, -1}}, 400},
        {{Action::Divide, {1, 2}}, {{1, 300}, {kFirstMade, 100}, {2, 300}}, 0},
        {{Action::Offset, {1}, {-2}}, {{1, 256}}, 0},
        {{Action::Offset, {1}, {2, 1, 1}}, {{1, 576}}, 0},
        {{Action::Offset, {1}, {1, 2, 1}}, {{1, 576}, {kFirstMade, 484}, {kFirstMade + 1, 400}}, 0},
        {{Action::Offset, {1}, {-11}}, {{1, -1}}, 400},
        {{Action::FillOpenings, {3}, {5}}, {{3, 390}}, 0},
        {{Action::FillOpenings, {3}, {15}}, {{3, 400}}, 0},
        {{Action::MirrorTwin, {3}, {4}}, {{3, 390}, {kFirstMade, 390}}, 0},
        {{Action::SetAside, {1, 3}}, {{1, -1}, {3, -1}, {2, 400}}, 790},
    };
    for (const Row& row : rows) {
        SCOPED_TRACE(infoOf(row.step.action).name);
        const Outcome outcome = must(work, row.step);
        for (const auto& [id, size] : row.left)
            EXPECT_NEAR(areaOf(outcome.work.items, id), size, 1e-6) << "piece " << id;
        EXPECT_NEAR(areaOf(outcome.work.scrap), row.scrapArea, 1e-6);
        EXPECT_EQ(outcome.scrapped.size(), outcome.work.scrap.size());
    }
}

TEST(Steps, NothingIsLostUntilTheScrapIsEmptied) {
    const Work aside = must(someWork(), {Action::SetAside, {2, 3}}).work;
    EXPECT_EQ(aside.items.size(), 2u);
    const Work back = must(aside, {Action::PutBack, {3}}).work;
    EXPECT_NEAR(areaOf(back.items, 3), 390, 1e-9);
    ASSERT_EQ(back.scrap.size(), 1u);
    EXPECT_TRUE(must(back, {Action::EmptyScrap, {}}).work.scrap.empty());
    EXPECT_FALSE(apply(back, {Action::PutBack, {3}}));
}

TEST(Steps, MadePiecesKeepTheirOriginsStockAndLayer) {
    const Outcome cut = must(someWork(), {Action::KeepEveryPart, {-1, 1}});
    int backing = 0;
    for (const Item& one : cut.work.items)
        if (one.isBacking) {
            ++backing;
            EXPECT_EQ(one.stockOf, -1);
        }
    EXPECT_EQ(backing, 2) << "both parts of the backing are backing";
    EXPECT_EQ(cut.made, (std::vector<PieceId>{-1, kFirstMade}));
}

TEST(Steps, RefusesInASentence) {
    const std::pair<Step, const char*> rows[] = {
        {{Action::Join, {1}}, "Choose two pieces or more."},
        {{Action::Join, {1, 77}}, "Choose two pieces or more."},
        {{Action::Offset, {}, {1}}, "Choose a piece."},
        {{Action::Offset, {1}, {101}}, "\"Distance, − inwards\" goes from -100 to 100 mm."},
        {{Action::FillOpenings, {3}, {-1}}, "\"Fill openings below\" goes from 0 to 10000 mm²."},
        {{Action::KeepOverlap, {1, 3}}, "These pieces have nothing in common."},
    };
    for (const auto& [step, says] : rows) {
        const auto outcome = apply(someWork(), step);
        ASSERT_FALSE(outcome);
        EXPECT_EQ(outcome.error().message, says);
    }
    std::atomic<bool> stop = true;
    const base::Progress::Listener none;
    EXPECT_EQ(apply(someWork(), {Action::Join, {1, 2}}, base::Progress(&stop, &none)).error().code,
              base::Code::Cancelled);
}

TEST(Replay, GivesTheSameNumbersEveryTimeAndPassesOverWhatCannotBeDone) {
    const std::vector<Step> steps{{Action::KeepEveryPart, {1, 2}},
                                  {Action::Offset, {kFirstMade}, {1}},
                                  {Action::Join, {2, 3}},
                                  {Action::Smooth, {3}, {1}}};
    const auto first = replay(someWork(), steps), again = replay(someWork(), steps);
    ASSERT_TRUE(first && again);
    ASSERT_EQ(first->work.items.size(), again->work.items.size());
    for (size_t i = 0; i < first->work.items.size(); ++i)
        EXPECT_EQ(first->work.items[i].piece.id, again->work.items[i].piece.id);
    // Piece 2 went to the scrap in the first step, so the third has only one piece left.
    EXPECT_EQ(first->passedOver,
              (std::vector<std::string>{
                  "Step 3 (Join into one) was passed over: its pieces are not there any more."}));
}

TEST(Numbers, TellPiecesNodesAndTheNarrowestPlace) {
    Work work;
    work.items = {item(1, rectangle(0, 0, 20, 20)), item(2, rectangle(19, 8, 20, 1.5)),
                  item(3, disc({60, 10}, 5))};
    const Step join{Action::Join, {1, 2, 3}};
    const auto numbers = numbersOf(work, join, must(work, join));
    ASSERT_TRUE(numbers);
    EXPECT_EQ(numbers->piecesBefore, 3);
    EXPECT_EQ(numbers->piecesAfter, 2);
    EXPECT_EQ(numbers->nodesBefore, 12);
    EXPECT_EQ(numbers->looseParts, 2);
    ASSERT_TRUE(numbers->narrowest);
    EXPECT_GT(numbers->narrowest->widthMm, 1);
    const Step two{Action::Join, {1, 2}};
    EXPECT_EQ(numbersOf(work, two, must(work, two))->looseParts, 1);
}

geometry::Box boxOf(const Outcome& outcome, PieceId id) {
    for (const Item& one : outcome.work.items)
        if (one.piece.id == id)
            return geometry::bounds(*one.piece.shape);
    return {};
}

TEST(Steps, PlacingByNumbersPutsPiecesExactlyThere) {
    struct Row {
        Step step;
        PieceId piece;
        double x, y, width, height; ///< of its box afterwards
    };
    const std::vector<Row> rows = {
        {{Action::Move, {1}, {7, -3}}, 1, 7, -3, 20, 20},
        {{Action::Turn, {3}, {90}}, 3, 100, 0, 20, 20},
        {{Action::SizeAlone, {1}, {200, 50}}, 1, -10, 5, 40, 10},
        {{Action::SizeAlone, {1, 2}, {200, 200}}, 2, 5, 5, 40, 40}, // about the common frame, 0..30
        {{Action::RowsOfTwins, {1}, {3, 2, 5, 1}}, kFirstMade + 4, 50, 21, 20, 20},
        {{Action::RingOfTwins, {1}, {4, 100, 1}}, kFirstMade, 100, 100, 20, 20}, // a quarter on, to the right
        {{Action::RingOfTwins, {1}, {4, 100, 0}}, kFirstMade + 1, 0, 200, 20, 20},
        {{Action::Align, {1, 2, 3}, {4}}, 3, 100, 5, 20, 20}, // the common frame is 30 high
        {{Action::Align, {1, 2, 3}, {2}}, 2, 100, 10, 20, 20},
        {{Action::SpaceEvenly, {1, 2, 3}, {0, 0}}, 2, 50, 10, 20, 20},
        {{Action::SpaceEvenly, {1, 2, 3}, {0, 1, 4}}, 3, 48, 0, 20, 20},
    };
    for (const Row& row : rows) {
        SCOPED_TRACE(stepText(row.step));
        const geometry::Box box = boxOf(must(someWork(), row.step), row.piece);
        EXPECT_NEAR(box.least.x, row.x, 1e-9);
        EXPECT_NEAR(box.least.y, row.y, 1e-9);
        EXPECT_NEAR(box.width(), row.width, 1e-9);
        EXPECT_NEAR(box.height(), row.height, 1e-9);
    }
    EXPECT_NEAR(*must(someWork(), {Action::SpaceEvenly, {1, 2, 3}, {0, 0}}).gapMm, 30, 1e-9);
    EXPECT_EQ(must(someWork(), {Action::RowsOfTwins, {1, 3}, {3, 2}}).work.items.size(), 4u + 10u);
}

TEST(Steps, MovesGrowWithTheDesignAndMarginsDoNot) {
    Work twice = someWork();
    twice.scaleX = twice.scaleY = 2;
    EXPECT_NEAR(boxOf(must(twice, {Action::Move, {1}, {7, 3}}), 1).least.x, 14, 1e-9);
    EXPECT_NEAR(boxOf(must(twice, {Action::RowsOfTwins, {1}, {2, 1, 5, 5}}), kFirstMade).least.x, 30, 1e-9);
    EXPECT_NEAR(boxOf(must(twice, {Action::Offset, {1}, {2}}), 1).width(), 24, 1e-6);
}

TEST(Steps, SizingAloneIsRememberedByThePiece) {
    const Outcome once = must(someWork(), {Action::SizeAlone, {1}, {200, 100}});
    const Outcome twice = must(once.work, {Action::SizeAlone, {1, 2}, {50, 50}});
    for (const Item& one : twice.work.items) {
        EXPECT_NEAR(one.ownScaleX, one.piece.id == 2 ? 0.5 : 1, 1e-12) << one.piece.id;
        EXPECT_NEAR(one.ownScaleY, one.piece.id == 1 || one.piece.id == 2 ? 0.5 : 1, 1e-12) << one.piece.id;
    }
}

TEST(Steps, AWholeSourceIsTakenHoweverManyPiecesItHasNow) {
    const PieceId all = design::allOfSource(2);
    EXPECT_EQ(design::sourceOf(all), 2);
    EXPECT_EQ(design::sourceOf(all + design::kBlockOfSource - 1), 2);
    EXPECT_EQ(design::sourceOf(kFirstMade), 0);
    Work work;
    for (int letters : {2, 3}) {
        work.items = {item(1, rectangle(0, 0, 100, 5))};
        for (int i = 1; i <= letters; ++i)
            work.items.push_back(item(all + i, rectangle(20.0 * i, 2, 10, 20)));
        const Outcome joined = must(work, {Action::Join, {1, all}});
        ASSERT_EQ(joined.work.items.size(), 1u);
        EXPECT_NEAR(areaOf(joined.work.items, 1), 500 + letters * (200 - 30), 1e-6);
    }
}

TEST(Steps, TooManyTwinsAreRefusedWithTheWayOut) {
    const auto many = apply(someWork(), {Action::RowsOfTwins, {1}, {200, 200}});
    ASSERT_FALSE(many);
    EXPECT_EQ(many.error().message, "That would be more than 5 "
                                    "000 pieces; use copies instead: they are counted, not drawn.");
}

} // namespace
} // namespace thinline::shape
