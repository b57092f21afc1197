// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "sheets/ArrangeClose.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <numbers>
#include <random>
#include <set>

namespace thinline::sheets {
namespace {

using design::Stack;
using support::id;

constexpr double kInch = 25.4;
const design::MatFormat kSquareMat{"square12", "", 12 * kInch, 12 * kInch, 0.25 * kInch};
const design::MatFormat kLongMat{"long24", "", 12 * kInch, 24 * kInch, 0.25 * kInch};
const design::SheetFormat kSquareSheet{"square12", "", 12 * kInch, 12 * kInch, 0.25 * kInch};
const design::SheetFormat kA4{"a4", "", 210, 297, 0.25 * kInch}; // ISO 216
const design::SheetFormat kLetter{"letter", "", 8.5 * kInch, 11 * kInch,
                                  0.25 * kInch}; // ANSI/ASME Y14.1 size A

Stack stackOf(const std::vector<std::pair<double, double>>& sizes, int copies = 1) {
    Stack stack{{{"sea", "sea", {}}}, {support::layer(1, "sea")}, {}};
    int number = 0;
    for (const auto& [w, h] : sizes)
        stack.pieces.push_back(support::laid(++number, support::rectangle(7, 9, w, h), 1, copies));
    return stack;
}

std::vector<design::Piece> piecesOf(const Stack& stack) {
    std::vector<design::Piece> out;
    for (const design::Laid& laid : stack.pieces)
        out.push_back(laid.piece);
    return out;
}

geometry::Box boxOf(const Stack& stack, const design::PlacedPiece& placed) {
    const design::Piece& piece = stack.find(placed.what.piece)->piece;
    return geometry::bounds(geometry::transformed(piece.shape(), design::placement(piece, placed.pose)));
}

/// The naive referee: every pair keeps its distance, every piece lies inside both margins, every copy is
/// there once.
void expectSound(const Stack& stack, const design::Arrangement& a, const ArrangeOptions& options) {
    std::set<design::CopyOf> seen(a.unplaced.begin(), a.unplaced.end());
    for (const design::Load& load : a.loads) {
        const geometry::Box mat =
            geometry::Box{{0, 0}, {load.mat.widthMm, load.mat.heightMm}}.grownBy(-load.mat.marginMm + 1e-6);
        for (const design::PlacedSheet& sheet : load.sheets) {
            const geometry::Box usable = geometry::Box{
                {sheet.xMm, sheet.yMm},
                {sheet.xMm + sheet.widthMm,
                 sheet.yMm + sheet.heightMm}}.grownBy(-sheet.marginMm + 1e-6);
            for (size_t i = 0; i < sheet.pieces.size(); ++i) {
                const geometry::Box box = boxOf(stack, sheet.pieces[i]);
                EXPECT_TRUE(seen.insert(sheet.pieces[i].what).second) << "laid twice";
                EXPECT_TRUE(usable.contains(box.least) && usable.contains(box.most))
                    << "outside the sheet's margin";
                EXPECT_TRUE(mat.contains(box.least) && mat.contains(box.most)) << "outside the mat's margin";
                for (size_t k = 0; k < i; ++k)
                    EXPECT_FALSE(box.grownBy(options.spacingMm - 1e-6).meets(boxOf(stack, sheet.pieces[k])))
                        << "too close";
            }
        }
    }
    size_t wanted = 0;
    for (const design::Laid& laid : stack.pieces)
        wanted += static_cast<size_t>(laid.copies);
    EXPECT_EQ(seen.size(), wanted) << "no copy may be dropped";
}

TEST(SheetPlaces, ManyAsFitSideBySide) {
    struct Row {
        design::MatFormat mat;
        design::SheetFormat sheet;
        size_t count;
    };
    for (const Row& row :
         {Row{kSquareMat, kSquareSheet, 1}, Row{kLongMat, kSquareSheet, 2}, Row{kSquareMat, kA4, 1},
          Row{kLongMat, kA4, 2}, Row{kLongMat, kLetter, 2}, Row{kSquareMat, {"own", "", 100, 70, 5}, 12}}) {
        const auto places = sheetPlaces(row.mat, row.sheet);
        ASSERT_TRUE(places);
        EXPECT_EQ(places->size(), row.count) << row.sheet.id << " on " << row.mat.id;
    }
}

// Common practice: letter keeps 8 x 10.5 in, the square mat 11.5 in both ways.
TEST(SheetPlaces, UsableAreasAreThoseOfThePractice) {
    const auto usable = [](const design::MatFormat& mat, const design::SheetFormat& sheet) {
        return usableArea(mat, sheet, sheetPlaces(mat, sheet)->front());
    };
    EXPECT_NEAR(usable(kSquareMat, kLetter).width(), 8 * kInch, 1e-6);
    EXPECT_NEAR(usable(kSquareMat, kLetter).height(), 10.5 * kInch, 1e-6);
    EXPECT_NEAR(usable(kSquareMat, kSquareSheet).width(), 292.1, 1e-6);
    EXPECT_NEAR(usable(kSquareMat, kSquareSheet).height(), 292.1, 1e-6);
}

TEST(SheetPlaces, ASheetLargerThanItsMatIsRefusedWithBothSizes) {
    const auto places = sheetPlaces(kSquareMat, {"long24", "", 12 * kInch, 24 * kInch, 6});
    ASSERT_FALSE(places);
    EXPECT_EQ(places.error().message, "A sheet of 304.8 × 609.6 mm does not lie on a mat of 304.8 × 304.8 "
                                      "mm; choose a larger mat or a smaller sheet.");
}

TEST(SheetPlaces, LieAtTheCornerAndTheWayThatIsSaid) {
    using Lie = design::SheetLie;
    const auto placesOf = [](const design::MatFormat& mat, Lie lies) {
        design::SheetFormat sheet = kA4;
        sheet.lies = lies;
        return sheetPlaces(mat, sheet);
    };
    for (const design::MatFormat& mat : {kSquareMat, kLongMat})
        for (const Lie::Way way : {Lie::Way::AsMostFit, Lie::Way::Portrait, Lie::Way::Landscape}) {
            const auto first = placesOf(mat, {Lie::From::UpperLeft, way});
            ASSERT_TRUE(first);
            for (const geometry::Box& place : *first)
                if (way != Lie::Way::AsMostFit) {
                    EXPECT_EQ(place.width() < place.height(), way == Lie::Way::Portrait);
                }
            // From another corner they are the mirror images of these, in the same order.
            for (const Lie::From from : {Lie::From::UpperRight, Lie::From::LowerLeft, Lie::From::LowerRight}) {
                const auto places = placesOf(mat, {from, way});
                ASSERT_TRUE(places);
                ASSERT_EQ(places->size(), first->size());
                for (size_t i = 0; i < places->size(); ++i) {
                    const geometry::Point a = (*first)[i].centre(), b = (*places)[i].centre();
                    EXPECT_NEAR(b.x, from == Lie::From::LowerLeft ? a.x : mat.widthMm - a.x, 1e-9);
                    EXPECT_NEAR(b.y, from == Lie::From::UpperRight ? a.y : mat.heightMm - a.y, 1e-9);
                    EXPECT_NEAR((*places)[i].width(), (*first)[i].width(), 1e-9);
                }
            }
        }
    // 297 mm across goes onto a mat of 304.8, 330 mm across does not.
    design::SheetFormat own{"own", "", 200, 330, 5};
    own.lies.way = Lie::Way::Landscape;
    EXPECT_EQ(sheetPlaces(kLongMat, own).error().message,
              "A sheet of 200.0 × 330.0 mm does not lie in landscape on a mat of 304.8 × 609.6 mm; choose a larger mat or a "
              "smaller sheet, or let it lie as it fits.");
    own.lies.way = Lie::Way::Portrait;
    EXPECT_TRUE(sheetPlaces(kLongMat, own));
    // And pieces lie on it there.
    own.lies.from = Lie::From::LowerRight;
    const Stack stack = stackOf({{100, 80}, {60, 60}});
    const ArrangeOptions options{.mat = kLongMat, .sheet = own};
    const auto out = arrange(stack, options);
    ASSERT_TRUE(out);
    expectSound(stack, *out, options);
    EXPECT_NEAR(out->loads[0].sheets[0].xMm, kLongMat.widthMm - 200 - kLongMat.marginMm, 1e-9);
    EXPECT_NEAR(out->loads[0].sheets[0].yMm, kLongMat.heightMm - 330 - kLongMat.marginMm, 1e-9);
}

TEST(Arrange, KeepsDistancesOnRandomPieces) {
    std::mt19937 random(5);
    std::uniform_real_distribution<double> side(5, 120);
    for (int round = 0; round < 12; ++round) {
        std::vector<std::pair<double, double>> sizes;
        for (int i = 0; i < 40; ++i)
            sizes.emplace_back(side(random), side(random));
        const Stack stack = stackOf(sizes);
        const ArrangeOptions options{.mat = round % 2 ? kLongMat : kSquareMat,
                                     .sheet = round % 3 ? kA4 : kSquareSheet,
                                     .mayTurn = round % 4 != 0};
        const auto out = arrange(stack, options);
        ASSERT_TRUE(out);
        expectSound(stack, *out, options);
    }
}

TEST(Arrange, FourQuartersFillOneSheetExactly) {
    // 2 x 144.8 + 2.5 = 292.1: the usable side of the square mat, to the hair.
    const auto out = arrange(stackOf({{144.8, 144.8}, {144.8, 144.8}, {144.8, 144.8}, {144.8, 144.8}}),
                             {.mat = kSquareMat, .sheet = kSquareSheet});
    EXPECT_EQ(measure(*out, stackOf({})).sheets, 1);
}

TEST(Arrange, TurningSavesASheetAndCanBeForbidden) {
    const Stack stack = stackOf({{280, 90}, {280, 90}, {90, 280}});
    EXPECT_EQ(arrange(stack, {.mat = kSquareMat, .sheet = kSquareSheet})->loads.size(), 1u);
    EXPECT_EQ(arrange(stack, {.mat = kSquareMat, .sheet = kSquareSheet, .mayTurn = false})->loads.size(), 2u);
}

TEST(Arrange, WhatFitsNoSheetIsListedNeverDropped) {
    const Stack stack = stackOf({{300, 200}, {50, 50}}, 2);
    const ArrangeOptions options{.mat = kSquareMat, .sheet = kSquareSheet};
    const auto out = arrange(stack, options);
    ASSERT_TRUE(out);
    EXPECT_EQ(out->unplaced.size(), 2u);
    EXPECT_EQ(out->unplaced.front().piece, id(1));
    expectSound(stack, *out, options);
}

TEST(Arrange, AStripLongerThanTheSheetIsLaidAcrossIt) {
    const Stack stack = stackOf({{380, 10}}, 2);
    const ArrangeOptions options{.mat = kSquareMat, .sheet = kSquareSheet};
    const auto out = arrange(stack, options);
    ASSERT_TRUE(out);
    EXPECT_TRUE(out->unplaced.empty());
    EXPECT_NE(out->loads[0].sheets[0].pieces[0].pose.turnRad, 0);
    expectSound(stack, *out, options);
    EXPECT_EQ(arrange(stack, {.mat = kSquareMat, .sheet = kSquareSheet, .mayTurn = false})->unplaced.size(),
              2u);
}

TEST(Arrange, CopiesAreLaidEachOnItsOwn) {
    const Stack stack = stackOf({{60, 60}}, 14);
    const ArrangeOptions options{.mat = kSquareMat, .sheet = kSquareSheet};
    const auto out = arrange(stack, options);
    expectSound(stack, *out, options);
    EXPECT_EQ(measure(*out, stack).pieces, 14);
    EXPECT_EQ(measure(*out, stack).sheets, 1); // 4 x 4 of 60 mm with 2.5 mm between fit 292.1 mm
}

TEST(Arrange, APinnedPieceStaysAndTheOthersKeepAway) {
    const Stack stack = stackOf({{80, 80}, {80, 80}, {80, 80}, {200, 60}});
    ArrangeOptions options{.mat = kSquareMat, .sheet = kSquareSheet};
    const design::Pose pose = design::poseAtCorner(stack.pieces[1].piece, {100, 120}, std::numbers::pi / 2);
    options.pins.push_back({{id(2), 0}, 0, pose});
    const auto out = arrange(stack, options);
    expectSound(stack, *out, options);
    const auto& pieces = out->loads[0].sheets[0].pieces;
    const auto pinned = std::find_if(pieces.begin(), pieces.end(), [](const auto& p) { return p.isPinned; });
    ASSERT_NE(pinned, pieces.end());
    EXPECT_EQ(pinned->what.piece, id(2));
    const geometry::Point sheet{out->loads[0].sheets[0].xMm, out->loads[0].sheets[0].yMm};
    EXPECT_NEAR(distance(boxOf(stack, *pinned).least, sheet + geometry::Point{100, 120}), 0, 1e-9);
}

TEST(Arrange, EachStockStartsOnAFreshMatAndHiddenLayersStayOut) {
    Stack stack = stackOf({{50, 50}});
    stack.layers.push_back(support::layer(2, "lamp"));
    stack.pieces.push_back(support::laid(9, support::disc({0, 0}, 10), 2));
    EXPECT_EQ(arrange(stack, {.mat = kLongMat, .sheet = kA4})->loads.size(), 2u);
    stack.layers[0].isHidden = true;
    const auto out = arrange(stack, {.mat = kLongMat, .sheet = kA4});
    ASSERT_EQ(out->loads.size(), 1u);
    EXPECT_EQ(out->loads[0].sheets[0].stockId, "lamp");
}

TEST(Arrange, CanBeStopped) {
    const std::atomic<bool> stop = true;
    EXPECT_EQ(arrange(stackOf({{5, 5}}), {.mat = kSquareMat, .sheet = kA4}, base::Progress(&stop, nullptr))
                  .error()
                  .code,
              base::Code::Cancelled);
}

// The worked example of the trade: 190 x 140 mm on a usable 292.1 x 596.9 mm, turned: 292.1 / 140 = 2.086.
TEST(LargestFit, TheWorkedExample) {
    const LargestFit fit = largestThatFits(stackOf({{190, 140}, {20, 20}}), 292.1, 596.9);
    EXPECT_NEAR(fit.scale, 2.086, 0.0005);
    EXPECT_EQ(fit.limitedBy, id(1));
    EXPECT_NEAR(std::abs(fit.turnRad), std::numbers::pi / 2, 1e-9);
    EXPECT_TRUE(fit.isWidthLimit);
    EXPECT_NEAR(190 * fit.scale, 396.4, 0.05);
}

TEST(LargestFit, KeptStraightEverythingFitsAndAHairMoreDoesNot) {
    const Stack stack = stackOf({{31, 77}, {120, 8}, {60, 60}});
    const LargestFit fit = largestThatFits(stack, 292.1, 292.1, false);
    const auto allFit = [&](double scale) {
        for (const design::Laid& laid : stack.pieces)
            if (!fits(geometry::bounds(
                          geometry::transformed(laid.shape(), geometry::Transform::scale(scale, scale))),
                      292.1, 292.1, false))
                return false;
        return true;
    };
    EXPECT_TRUE(allFit(fit.scale));
    EXPECT_FALSE(allFit(fit.scale * 1.0001));
    EXPECT_EQ(largestThatFits(Stack{}, 100, 100).scale, 0);
}

/// A piece of many corners, from a seed.
geometry::Shape jagged(unsigned seed, int corners) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> radius(20, 60);
    geometry::Polygon points;
    for (int i = 0; i < corners; ++i) {
        const double a = 2 * std::numbers::pi * i / corners, r = radius(random);
        points.push_back({r * std::cos(a), 0.6 * r * std::sin(a)});
    }
    return {geometry::contourThrough(points), {}};
}

TEST(LargestFit, FreelyTurnedItMatchesEveryTurnTriedByHand) {
    for (unsigned seed = 1; seed <= 12; ++seed) {
        design::Stack stack = stackOf({{1, 1}});
        stack.pieces.clear();
        std::vector<geometry::Polygon> outlines;
        for (int i = 0; i < 3; ++i) {
            const geometry::Shape shape = jagged(seed * 10 + static_cast<unsigned>(i), 5 + i * 20);
            outlines.push_back(geometry::flatten(shape.outline, 1e-4));
            stack.pieces.push_back(support::laid(i + 1, shape));
        }
        const double w = 150 + 10.0 * seed, h = 260;
        double byHand = 1e9;
        for (const geometry::Polygon& outline : outlines) {
            double best = 0;
            for (int step = 0; step < 36'000; ++step) { // every hundredth of a degree
                const double a = step * std::numbers::pi / 36'000, c = std::cos(a), s = std::sin(a);
                geometry::Box box;
                for (const geometry::Point p : outline)
                    box.include(geometry::Point{p.x * c - p.y * s, p.x * s + p.y * c});
                best = std::max(best, std::min(w / box.width(), h / box.height()));
            }
            byHand = std::min(byHand, best);
        }
        const LargestFit fit = largestThatFits(stack, w, h);
        EXPECT_GE(fit.scale, byHand * (1 - 1e-9)) << seed;
        EXPECT_NEAR(fit.scale * 120, byHand * 120, 0.02) << seed << ": 0.01 mm, and the referee's own step";
        EXPECT_LE(largestThatFits(stack, w, h, false).scale, fit.scale);
    }
}

TEST(LargestForCopies, GridsAreSolvedExactly) {
    const ArrangeOptions options{.mat = kSquareMat, .sheet = kSquareSheet, .spacingMm = 2.5};
    const design::Stack square = stackOf({{40, 40}});
    const auto four = largestForCopies(piecesOf(square), 4, options);
    ASSERT_TRUE(four);
    EXPECT_NEAR(four->scale * 40, (292.1 - 2.5) / 2, 1e-9);
    EXPECT_EQ(four->columns, 2);
    const auto fourteen = largestForCopies(piecesOf(square), 14, options); // 4 x 4 holds them
    EXPECT_NEAR(fourteen->scale * 40, (292.1 - 3 * 2.5) / 4, 1e-9);
    const auto strip = largestForCopies(piecesOf(stackOf({{100, 20}})), 2, options);
    EXPECT_NEAR(strip->scale * 100, 292.1, 1e-9);
}

// The size for so many copies, and the sheets they are then laid on, by boxes and by outlines.
TEST(LargestForCopies, WhatIsSizedForASheetLiesOnIt) {
    const design::SheetFormat letter{"letter", "letter", 8.5 * kInch, 11 * kInch, 6.35};
    const ArrangeOptions options{.mat = kSquareMat, .sheet = letter, .spacingMm = 2.5};
    std::mt19937 random(2);
    for (int round = 0; round < 28; ++round) {
        using Size = std::pair<double, double>;
        const Size size = round == 0 ? Size{90.3, 56.4}
                                     : Size{30 + static_cast<double>(random() % 700) / 10,
                                            20 + static_cast<double>(random() % 500) / 10};
        const int sheets = 1 + round % 3,
                  copies = round == 0 ? 8 : sheets + 3 + static_cast<int>(random() % 20);
        const auto fit = largestForCopies(piecesOf(stackOf({size})), copies, options, sheets);
        ASSERT_TRUE(fit) << round;
        const design::Stack sized = stackOf({{size.first * fit->scale, size.second * fit->scale}}, copies);
        const auto boxes = arrange(sized, options);
        EXPECT_LE(measure(*boxes, sized).sheets, sheets) << round;
        const auto close = arrangeClose(sized, options, {.budget = {.steps = 0}}, *boxes);
        EXPECT_LE(measure(*close, sized).sheets, sheets) << round;
        EXPECT_TRUE(boxes->unplaced.empty() && close->unplaced.empty());
    }
    EXPECT_FALSE(largestForCopies(piecesOf(stackOf({{40, 40}})), 3, options, 4));
}

TEST(LargestForCopies, HowManyComeFromASheet) {
    const design::SheetFormat letter{"letter", "letter", 8.5 * kInch, 11 * kInch, 6.35};
    const ArrangeOptions options{.mat = kSquareMat, .sheet = letter, .spacingMm = 2.5};
    // Usable are 203.2 x 266.7 mm: two and four, with 2.5 between.
    EXPECT_EQ(*mostOnOneSheet(piecesOf(stackOf({{90.3, 56.4}})), options), 8);
    EXPECT_EQ(*mostOnOneSheet(piecesOf(stackOf({{203.2, 266.7}})), options), 1);
    EXPECT_EQ(*mostOnOneSheet(piecesOf(stackOf({{203.3, 266.8}})), options), 0);
    EXPECT_EQ(*mostOnOneSheet(piecesOf(stackOf({{5, 5}})), options), 27 * 35);
    EXPECT_EQ(*mostOnOneSheet(piecesOf(stackOf({{3, 3}})), options), kMostOnOne);
    EXPECT_EQ(*mostOnOneSheet(piecesOf(stackOf({{100, 100}, {50, 100}})), options), 3);
    EXPECT_FALSE(mostOnOneSheet({}, options));
}

TEST(LargestForCopies, SeveralPiecesReallyFitAndALittleMoreDoesNot) {
    const ArrangeOptions options{.mat = kSquareMat, .sheet = kSquareSheet, .spacingMm = 2.5};
    const design::Stack stack = stackOf({{60, 30}, {25, 70}});
    const auto fit = largestForCopies(piecesOf(stack), 3, options);
    ASSERT_TRUE(fit);
    const auto sheetsAt = [&](double scale) {
        const auto laid = arrange(stackOf({{60 * scale, 30 * scale}, {25 * scale, 70 * scale}}, 3), options);
        return measure(*laid, stackOf({})).sheets + static_cast<int>(laid->unplaced.size());
    };
    EXPECT_EQ(sheetsAt(fit->scale), 1);
    EXPECT_GT(sheetsAt(fit->scale * 1.01), 1);
    EXPECT_FALSE(largestForCopies({}, 3, options));
    EXPECT_FALSE(largestForCopies(piecesOf(stack), 0, options));
}

} // namespace
} // namespace thinline::sheets
