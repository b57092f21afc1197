// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "shape/Steps.h"

#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <atomic>
#include <set>

namespace thinline::shape {
namespace {

using design::Piece;
using design::StepId;
using geometry::Shape;
using support::disc;
using support::id;
using support::rectangle;
using support::withOpening;

Step step(Action action, const std::vector<int>& pieces, const std::vector<double>& values = {}) {
    std::vector<PieceId> ids;
    for (const int number : pieces)
        ids.push_back(id(number));
    Step out = makeStep(action, ids, values);
    out.id = StepId{5};
    return out;
}
base::Status checked(const Step& step) {
    return design::checkValues(*infoOf(step), step);
}
Step sized(const Step& step, double x, double y, bool growsMargins = false) {
    return design::sizedBy(*infoOf(step), step, x, y, growsMargins);
}
PieceId made(int of, const char* key) {
    return id(of).parted(StepId{5}, key);
}

/// A plate of 20 x 20, one that overlaps a quarter of it, one far away with a slit; below all a large one, 9.
Pieces somePieces() {
    return {{support::piece(id(9), rectangle(-5, -5, 200, 60)),
             support::piece(id(1), rectangle(0, 0, 20, 20)), support::piece(id(2), rectangle(10, 10, 20, 20)),
             support::piece(id(3), withOpening(rectangle(100, 0, 20, 20), rectangle(105, 5, 10, 1)))},
            {}};
}

Outcome must(const Pieces& pieces, const Step& step, const Pieces* before = nullptr) {
    auto outcome = apply(pieces, step, before);
    if (!outcome)
        throw std::runtime_error(outcome.error().message);
    return outcome.take();
}

double areaOf(const std::vector<Piece>& pieces, PieceId id) {
    const Piece* piece = design::findPiece(pieces, id);
    return piece ? geometry::area(piece->shape()) : -1;
}

double areaOf(const std::vector<Piece>& pieces) {
    double sum = 0;
    for (const Piece& one : pieces)
        sum += geometry::area(one.shape());
    return sum;
}

geometry::Box boxOf(const Outcome& outcome, PieceId id) {
    const Piece* piece = design::findPiece(outcome.pieces.now, id);
    return piece ? geometry::bounds(piece->shape()) : geometry::Box{};
}

TEST(Steps, EveryActionLeavesWhatItsNameSays) {
    const Pieces pieces = somePieces();
    struct Row {
        Step step;
        std::vector<std::pair<PieceId, double>> left; ///< pieces and their areas; -1: gone
        double scrapArea;
    };
    const std::vector<Row> rows = {
        {step(Action::Join, {1, 2}), {{id(1), 700}, {id(2), -1}, {id(3), 390}}, 0},
        {step(Action::CutOut, {1, 2}), {{id(1), 300}, {id(2), -1}}, 400},
        {step(Action::CutOut, {2, 1}), {{id(2), 300}, {id(1), -1}}, 400},
        {step(Action::KeepOverlap, {1, 2}), {{id(1), 100}, {id(2), -1}}, 600},
        {step(Action::KeepEveryPart, {1, 2}),
         {{made(1, "1"), 300}, {made(1, "2"), 100}, {id(1), -1}, {id(2), -1}},
         400},
        {step(Action::Divide, {1, 2}), {{made(1, "1"), 300}, {made(1, "2"), 100}, {id(2), 300}}, 0},
        {step(Action::Offset, {1}, {-2}), {{id(1), 256}}, 0},
        {step(Action::Offset, {1}, {2, 1, 1}), {{id(1), 576}}, 0},
        {step(Action::Offset, {1}, {1, 2, 1}),
         {{made(1, "ring.2"), 576}, {made(1, "ring.1"), 484}, {id(1), 400}},
         0},
        {step(Action::Offset, {1}, {-11}), {{id(1), -1}}, 400},
        {step(Action::FillOpenings, {3}, {5}), {{id(3), 390}}, 0},
        {step(Action::FillOpenings, {3}, {15}), {{id(3), 400}}, 0},
        {step(Action::MirrorTwin, {3}, {4}), {{id(3), 390}, {made(3, "twin.1"), 390}}, 0},
        {step(Action::SetAside, {1, 3}), {{id(1), -1}, {id(3), -1}, {id(2), 400}}, 790},
    };
    for (const Row& row : rows) {
        SCOPED_TRACE(row.step.action);
        const Outcome outcome = must(pieces, row.step);
        for (const auto& [piece, size] : row.left)
            EXPECT_NEAR(areaOf(outcome.pieces.now, piece), size, 1e-6) << piece.text();
        EXPECT_NEAR(areaOf(outcome.pieces.scrap), row.scrapArea, 1e-6);
        EXPECT_EQ(outcome.scrapped.size(), outcome.pieces.scrap.size());
    }
}

// A replayed step touches only what it is done to: other pieces stay, by pointer.
TEST(Steps, UntouchedPiecesKeepTheirBodies) {
    const Pieces pieces = somePieces();
    for (const Step& one :
         {step(Action::Join, {1, 2}), step(Action::Offset, {1}, {2}), step(Action::Move, {2}, {3, 3}),
          step(Action::Divide, {1, 2}), step(Action::RowsOfTwins, {1}, {3, 2})}) {
        const Outcome outcome = must(pieces, one);
        for (const int untouched : {3, 9})
            EXPECT_EQ(design::findPiece(outcome.pieces.now, id(untouched))->body,
                      design::findPiece(pieces.now, id(untouched))->body)
                << one.action;
    }
}

TEST(Steps, NothingIsLostUntilTheScrapIsEmptied) {
    const Pieces aside = must(somePieces(), step(Action::SetAside, {2, 3})).pieces;
    EXPECT_EQ(aside.now.size(), 2u);
    const Pieces back = must(aside, step(Action::PutBack, {3})).pieces;
    EXPECT_NEAR(areaOf(back.now, id(3)), 390, 1e-9);
    ASSERT_EQ(back.scrap.size(), 1u);
    EXPECT_TRUE(must(back, step(Action::EmptyScrap, {})).pieces.scrap.empty());
    EXPECT_FALSE(apply(back, step(Action::PutBack, {3})));
}

TEST(Steps, RefusesInASentence) {
    const std::pair<Step, const char*> rows[] = {
        {step(Action::Join, {1}), "Choose two pieces or more."},
        {step(Action::Join, {1, 77}), "Choose two pieces or more."},
        {step(Action::Offset, {}, {1}), "Choose a piece."},
        {step(Action::KeepOverlap, {1, 3}), "These pieces have nothing in common."},
        {step(Action::RowsOfTwins, {1}, {200, 200}),
         "That would be more than 5\u2009000 pieces; use copies instead: they are counted, not drawn."},
    };
    for (const auto& [one, says] : rows) {
        const auto outcome = apply(somePieces(), one);
        ASSERT_FALSE(outcome);
        EXPECT_EQ(outcome.error().message, says);
    }
    // What a person may ask for; what sizing made of it is replayed all the same.
    EXPECT_EQ(checked(step(Action::Offset, {1}, {101})).error().message,
              "\"Distance, − inwards\" goes from -100 to 100 mm.");
    EXPECT_EQ(checked(step(Action::FillOpenings, {3}, {-1})).error().message,
              "\"Fill openings below\" goes from 0 to 10000 mm².");
    EXPECT_TRUE(apply(somePieces(), step(Action::Offset, {1}, {101})));
    std::atomic<bool> stop = true;
    EXPECT_EQ(
        apply(somePieces(), step(Action::Join, {1, 2}), nullptr, base::Progress(&stop, nullptr)).error().code,
        base::Code::Cancelled);
}

TEST(Steps, TheSameStepGivesTheSameNamesEveryTime) {
    for (const Step& one : {step(Action::KeepEveryPart, {1, 2}), step(Action::Divide, {9, 1, 2}),
                            step(Action::Offset, {1, 3}, {-1, 3}), step(Action::RingOfTwins, {1}, {5, 60})}) {
        const Outcome first = must(somePieces(), one), again = must(somePieces(), one);
        ASSERT_EQ(first.pieces.now.size(), again.pieces.now.size());
        for (size_t i = 0; i < first.pieces.now.size(); ++i)
            EXPECT_EQ(first.pieces.now[i].id, again.pieces.now[i].id);
        EXPECT_EQ(first.parts, again.parts);
    }
}

/// Two plates by a bar at a place, named as `parts` remember.
Outcome cutByBarAt(double x, std::vector<design::Part> parts, const Pieces* before) {
    const Pieces pieces{
        {support::piece(id(1), rectangle(0, 0, 100, 40)), support::piece(id(2), rectangle(x, -5, 4, 50))},
        {}};
    Step cut = step(Action::CutOut, {1, 2});
    cut.parts = std::move(parts);
    return must(pieces, cut, before);
}

// One part is larger before, the other after: each keeps its name, by the point inside it, else by common area.
TEST(Parts, KeepTheirNamesWhenTheCutterMoves) {
    Outcome last = cutByBarAt(30, {}, nullptr);
    const PieceId left = made(1, "2"), right = made(1, "1"); // the larger one was counted first
    ASSERT_NEAR(areaOf(last.pieces.now, left), 30 * 40, 1e-6);
    for (const double x : {48.0, 60.0, 90.0, 50.0, 12.0, 50.0}) {
        const Pieces before = last.pieces;
        last = cutByBarAt(x, last.parts, &before);
        EXPECT_NEAR(areaOf(last.pieces.now, left), x * 40, 1e-6) << x;
        EXPECT_NEAR(areaOf(last.pieces.now, right), (96 - x) * 40, 1e-6) << x;
    }
}

TEST(Parts, APartThatVanishesKeepsItsNameForWhenItComesBack) {
    const Outcome first = cutByBarAt(30, {}, nullptr);
    const Outcome one = cutByBarAt(-20, first.parts, &first.pieces); // beside the plate: one part
    ASSERT_EQ(one.pieces.now.size(), 1u);
    EXPECT_TRUE(one.pieces.now[0].id == made(1, "1") || one.pieces.now[0].id == made(1, "2"))
        << "it was several once: the whole's own name would change what was said about it";
    const Outcome back = cutByBarAt(40, one.parts, &one.pieces);
    EXPECT_NEAR(areaOf(back.pieces.now, made(1, "2")), 1600, 1e-6);
    EXPECT_NEAR(areaOf(back.pieces.now, made(1, "1")), 56 * 40, 1e-6);
    EXPECT_EQ(back.parts.size(), 2u) << "no new name was given";
}

TEST(Parts, NamesAreNeverGivenTwice) {
    // A comb of teeth; teeth come and go, each new one gets a fresh number.
    std::vector<design::Part> parts;
    Pieces before;
    std::set<std::string> first;
    for (const int teeth : {3, 1, 4, 2, 5}) {
        Pieces pieces{{support::piece(id(1), rectangle(0, 0, 100, 10)),
                       support::piece(id(2), rectangle(-1, 4, 102, 2))},
                      {}};
        Shape cutter = rectangle(-1, 4, 102, 2);
        for (int i = 1; i < teeth; ++i)
            pieces.now.push_back(support::piece(id(10 + i), rectangle(100.0 * i / teeth, -1, 1, 12)));
        Step cut = step(Action::CutOut, {1, 2});
        for (int i = 1; i < teeth; ++i)
            cut.on.push_back(id(10 + i));
        cut.parts = parts;
        const Outcome out = must(pieces, cut, &before);
        std::set<std::string> names;
        for (const Piece& piece : out.pieces.now)
            EXPECT_TRUE(names.insert(piece.id.text()).second);
        EXPECT_EQ(names.size(), static_cast<size_t>(2 * teeth));
        std::set<std::string> known;
        for (const design::Part& part : out.parts)
            EXPECT_TRUE(known.insert(part.id.text()).second) << "a name given twice";
        parts = out.parts;
        before = out.pieces;
    }
}

TEST(Numbers, TellPiecesNodesAndTheNarrowestPlace) {
    const Pieces pieces{{support::piece(id(1), rectangle(0, 0, 20, 20)),
                         support::piece(id(2), rectangle(19, 8, 20, 1.5)),
                         support::piece(id(3), disc({60, 10}, 5))},
                        {}};
    const Step join = step(Action::Join, {1, 2, 3});
    const auto numbers = numbersOf(pieces, join, must(pieces, join));
    ASSERT_TRUE(numbers);
    EXPECT_EQ(numbers->piecesBefore, 3);
    EXPECT_EQ(numbers->piecesAfter, 2);
    EXPECT_EQ(numbers->nodesBefore, 12);
    EXPECT_EQ(numbers->looseParts, 2);
    ASSERT_TRUE(numbers->narrowest);
    EXPECT_GT(numbers->narrowest->widthMm, 1);
    const Step two = step(Action::Join, {1, 2});
    EXPECT_EQ(numbersOf(pieces, two, must(pieces, two))->looseParts, 1);
}

TEST(Steps, PlacingByNumbersPutsPiecesExactlyThere) {
    struct Row {
        Step step;
        PieceId piece;
        double x, y, width, height; ///< of its box afterwards
    };
    const std::vector<Row> rows = {
        {step(Action::Move, {1}, {7, -3}), id(1), 7, -3, 20, 20},
        {step(Action::Turn, {3}, {90}), id(3), 100, 0, 20, 20},
        {step(Action::Mirror, {1, 2}, {0}), id(2), 0, 10, 20, 20}, // the common frame is 0..30 both ways
        {step(Action::Mirror, {1, 2}, {1}), id(2), 10, 0, 20, 20},
        {step(Action::SizeAlone, {1}, {200, 50}), id(1), -10, 5, 40, 10},
        {step(Action::SizeAlone, {1, 2}, {200, 200}), id(2), 5, 5, 40, 40}, // about the common frame, 0..30
        {step(Action::RowsOfTwins, {1}, {3, 2, 5, 1}), made(1, "twin.2"), 25, 21, 20, 20},
        {step(Action::RowsOfTwins, {1}, {3, 2, 5, 1}), made(1, "twin.8"), 50, 0, 20, 20},
        {step(Action::RingOfTwins, {1}, {4, 100, 1}), made(1, "twin.1"), 100, 100, 20,
         20}, // a quarter on, to the right
        {step(Action::RingOfTwins, {1}, {4, 100, 0}), made(1, "twin.2"), 0, 200, 20, 20},
        {step(Action::Align, {1, 2, 3}, {4}), id(3), 100, 5, 20, 20}, // the common frame is 30 high
        {step(Action::Align, {1, 2, 3}, {2}), id(2), 100, 10, 20, 20},
        {step(Action::SpaceEvenly, {1, 2, 3}, {0, 0}), id(2), 50, 10, 20, 20},
        {step(Action::SpaceEvenly, {1, 2, 3}, {0, 1, 4}), id(3), 48, 0, 20, 20},
    };
    for (const Row& row : rows) {
        SCOPED_TRACE(design::stepText(*infoOf(row.step), row.step));
        const Pieces given = somePieces();
        const Outcome outcome = must(given, row.step);
        const geometry::Box box = boxOf(outcome, row.piece);
        EXPECT_NEAR(box.least.x, row.x, 1e-9);
        EXPECT_NEAR(box.least.y, row.y, 1e-9);
        EXPECT_NEAR(box.width(), row.width, 1e-9);
        EXPECT_NEAR(box.height(), row.height, 1e-9);
        // A place remembered on the piece goes along.
        const Piece* piece = design::findPiece(outcome.pieces.now, row.piece);
        const Piece* origin =
            design::findPiece(given.now, row.piece.isFound() ? row.piece : row.piece.whole());
        EXPECT_NEAR(distance(piece->placed(geometry::bounds(origin->shape()).centre()), box.centre()), 0,
                    1e-9);
    }
    EXPECT_NEAR(*must(somePieces(), step(Action::SpaceEvenly, {1, 2, 3}, {0, 0})).gapMm, 30, 1e-9);
    EXPECT_EQ(must(somePieces(), step(Action::RowsOfTwins, {1, 3}, {3, 2})).pieces.now.size(), 4u + 10u);
}

// A twin keeps its number when columns or rows are added.
TEST(Steps, TwinsInRowsKeepTheirNumbers) {
    const Outcome small = must(somePieces(), step(Action::RowsOfTwins, {1}, {2, 2, 5, 5}));
    const Outcome large = must(somePieces(), step(Action::RowsOfTwins, {1}, {4, 3, 5, 5}));
    for (const char* key : {"twin.1", "twin.2", "twin.3"})
        EXPECT_NEAR(distance(boxOf(small, made(1, key)).least, boxOf(large, made(1, key)).least), 0, 1e-9)
            << key;
}

// Places grow with the design, margins only when asked, what is none of both never.
TEST(SizedBy, GrowsPlacesAndThresholdsAndMarginsOnlyWhenAsked) {
    struct Row {
        Step step;
        std::vector<double> grown, withMargins;
    };
    const double x = 2, y = 3;
    for (const Row& row : {
             Row{step(Action::Move, {1}, {7, -3}), {14, -9}, {14, -9}},
             Row{step(Action::RowsOfTwins, {1}, {3, 2, 5, 1}), {3, 2, 10, 3}, {3, 2, 10, 3}},
             Row{step(Action::RowsOfTwins, {1}, {3, 2, -5, 1}), {3, 2, -10, 3}, {3, 2, -10, 3}},
             Row{step(Action::Align, {1, 2}, {4}), {4}, {4}},
             Row{step(Action::Turn, {1}, {30}), {30}, {30}},
             Row{step(Action::SizeAlone, {1}, {150, 80}), {150, 80}, {150, 80}},
             Row{step(Action::FillOpenings, {1}, {5}), {30}, {30}},
         }) {
        const auto grown = valuesOf(sized(row.step, x, y));
        for (size_t i = 0; i < row.grown.size(); ++i)
            EXPECT_NEAR(grown[i], row.grown[i], 1e-12) << row.step.action << " " << i;
        const auto all = valuesOf(sized(row.step, x, y, true));
        for (size_t i = 0; i < row.withMargins.size(); ++i)
            EXPECT_NEAR(all[i], row.withMargins[i], 1e-12) << row.step.action << " " << i;
    }
    const Step offset = step(Action::Offset, {1}, {2, 3, 1});
    EXPECT_EQ(valuesOf(sized(offset, 2, 2)), valuesOf(offset)) << "a margin stays as typed";
    EXPECT_EQ(valuesOf(sized(offset, 2, 2, true))[0], 4);
    // And back again.
    const Step there = sized(step(Action::RingOfTwins, {1}, {5, 60}), 2.42, 2.42);
    EXPECT_NEAR(valuesOf(sized(there, 1 / 2.42, 1 / 2.42))[1], 60, 1e-9);
}

TEST(Steps, SizingAloneIsRememberedByThePiece) {
    const Outcome once = must(somePieces(), step(Action::SizeAlone, {1}, {200, 100}));
    const Outcome twice = must(once.pieces, step(Action::SizeAlone, {1, 2}, {50, 50}));
    for (const Piece& one : twice.pieces.now) {
        EXPECT_NEAR(one.ownScaleX, one.id == id(2) ? 0.5 : 1, 1e-12) << one.id.text();
        EXPECT_NEAR(one.ownScaleY, one.id == id(1) || one.id == id(2) ? 0.5 : 1, 1e-12) << one.id.text();
    }
}

TEST(Steps, AWholeSourceIsTakenHoweverManyPiecesItHasNow) {
    for (const int letters : {2, 3}) {
        Pieces pieces{{support::piece(id(1), rectangle(0, 0, 100, 5))}, {}};
        for (int i = 1; i <= letters; ++i)
            pieces.now.push_back(
                support::piece(id("2:" + std::to_string(i)), rectangle(20.0 * i, 2, 10, 20)));
        Step join = step(Action::Join, {1});
        join.on.push_back(design::EveryPieceOf{design::SourceId{2}});
        const Outcome joined = must(pieces, join);
        ASSERT_EQ(joined.pieces.now.size(), 1u);
        EXPECT_NEAR(areaOf(joined.pieces.now, id(1)), 500 + letters * (200 - 30), 1e-6);
    }
}

} // namespace
} // namespace thinline::shape
