// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Placing.h"
#include "sheets/ArrangeClose.h"
#include "sheets/Faults.h"
#include "sheets/NestBoxes.h"
#include "sheets/NestGather.h"
#include "sheets/Zones.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <numbers>
#include <random>

namespace thinline::sheets {
namespace {

using geometry::Point;
using geometry::Shape;
using support::disc;
using support::id;
using support::rectangle;

ArrangeOptions sheetOf(double width, double height, double spacing = 2.5) {
    ArrangeOptions out;
    out.mat = {"mat", "mat", width, height, 0};
    out.sheet = {"sheet", "sheet", width, height, 0};
    out.spacingMm = spacing;
    return out;
}
design::Stack stackOf(const std::vector<Shape>& shapes, int copies = 1) {
    design::Stack out{{{"card", "card", {}}}, {support::layer(1, "card")}, {}};
    int number = 0;
    for (const Shape& shape : shapes)
        out.pieces.push_back(support::laid(++number, shape, 1, copies));
    return out;
}
design::Arrangement closeOf(const design::Stack& stack, const ArrangeOptions& options,
                            CloseOptions how = {}) {
    const auto boxes = arrange(stack, options);
    if (!boxes)
        throw std::runtime_error(boxes.error().message);
    auto out = arrangeClose(stack, options, how, *boxes);
    if (!out)
        throw std::runtime_error(out.error().message);
    return out.take();
}
CloseOptions steps(long long count) {
    return {.budget = {.steps = count}};
}
/// The faults a naive look at the outlines finds, in words; see sheets/Faults.h.
std::string faultsIn(const design::Stack& stack, const design::Arrangement& arrangement,
                     const ArrangeOptions& options) {
    const auto faults = faultsOf(stack, arrangement, options);
    std::string out;
    for (const Fault& fault : *faults)
        out += fault.message + "\n";
    return out;
}

/// One of a few forms with bays, curves and points.
Shape formOf(std::mt19937& random, double size) {
    const auto between = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    switch (random() % 4) {
    case 0:
        return disc({0, 0}, size / 2);
    case 1:
        return {geometry::contourThrough({{0, 0},
                                          {size, 0},
                                          {size, size * 0.3},
                                          {size * 0.3, size * 0.3},
                                          {size * 0.3, size},
                                          {0, size}}),
                {}};
    case 2: {
        const double bite = between(0.15, 0.3) * size;
        return geometry::subtract({disc({0, 0}, size / 2)}, {disc({bite, 0}, size * 0.42)}).take().front();
    }
    default: {
        geometry::Polygon star;
        for (int i = 0; i < 10; ++i) {
            const double r = i % 2 == 0 ? size / 2 : size / 4, a = std::numbers::pi * i / 5;
            star.push_back({r * std::cos(a), r * std::sin(a)});
        }
        return {geometry::contourThrough(star), {}};
    }
    }
}

// Distances from the table against those from the edges themselves.
TEST(NestTable, TellsDistancesNearWhatIsKeptClear) {
    std::mt19937 random(3);
    for (const double clear : {0.0, 2.5, 6.0})
        for (int round = 0; round < 6; ++round) {
            const Shape shape = formOf(random, 40);
            const geometry::Polygons rings = geometry::flatten(shape, 0.02);
            const NestTable table(rings, clear);
            int looked = 0;
            for (int i = 0; i < 4000; ++i) {
                std::uniform_real_distribution<double> place(-35, 35);
                const Point p{place(random), place(random)}, there = p + table.middle();
                double exact = INFINITY;
                for (const auto& ring : rings)
                    for (size_t k = 0; k < ring.size(); ++k)
                        exact = std::min(
                            exact, geometry::distanceToStretch(there, ring[k], ring[(k + 1) % ring.size()]));
                if (geometry::contains(rings, there))
                    exact = -exact;
                const double told = table.distanceAt(p.x, p.y);
                if (exact > clear - 0.05 && exact < clear + 0.3) {
                    ++looked;
                    EXPECT_NEAR(told, exact, 2e-3) << clear << " at " << p.x << " " << p.y;
                }
                EXPECT_TRUE(!std::isinf(told) || exact >= clear);
            }
            EXPECT_GT(looked, 10);
        }
}

TEST(NestTable, AnOverlapIsNoneWhereOutlinesAreApart) {
    const NestTable square({{{0, 0}, {20, 0}, {20, 20}, {0, 20}}}, 2.5);
    const auto overlap = [&](Point at, double turn) {
        return NestTable::overlap(square, NestPose::of({0, 0}, 0), square, NestPose::of(at, turn), 2.5,
                                  INFINITY);
    };
    EXPECT_EQ(overlap({22.5, 0}, 0), 0) << "as far apart as asked";
    EXPECT_GT(overlap({22.4, 0}, 0), 0);
    EXPECT_GT(overlap({1, 1}, 0.3), overlap({12, 1}, 0.3)) << "more where they lie deeper in one another";
    const double corner = 10 + 2.5 + 10 * std::numbers::sqrt2;
    EXPECT_EQ(overlap({corner + 0.01, 0}, std::numbers::pi / 4), 0) << "a corner towards a side";
    EXPECT_GT(overlap({corner - 0.05, 0}, std::numbers::pi / 4), 0);
}

// Two hundred sets of a few pieces each, by every kind of stock: whatever comes out is sound by a look that knows nothing of
// how it was found.
TEST(ArrangeClose, EveryLayoutIsSound) {
    std::mt19937 random(11);
    for (int round = 0; round < 200; ++round) {
        std::vector<Shape> shapes;
        const int count = 2 + static_cast<int>(random() % 7);
        for (int i = 0; i < count; ++i)
            shapes.push_back(formOf(random, 15 + static_cast<double>(random() % 60)));
        design::Stack stack = stackOf(shapes, 1 + round % 3);
        using Turns = design::Stock::Turns;
        stack.stocks[0].turns =
            std::array{Turns::Any, Turns::Half, Turns::None}[static_cast<size_t>(round) % 3];
        if (round % 4 == 0)
            stack.pieces[0].up = design::Side::Back;
        ArrangeOptions options = sheetOf(140, 110, std::array{2.5, 0.0, 5.0}[static_cast<size_t>(round) % 3]);
        options.intoOpenings = round % 2 == 0;
        const CloseOptions how = steps(600);

        const design::Arrangement boxes = *arrange(stack, options), close = closeOf(stack, options, how);
        EXPECT_EQ(faultsIn(stack, close, options), "") << round;
        EXPECT_LE(close.loads.size(), boxes.loads.size()) << round;
        EXPECT_EQ(close.unplaced, boxes.unplaced) << round;
        for (const design::Load& load : close.loads)
            for (const design::PlacedPiece& piece : load.sheets[0].pieces)
                EXPECT_LE(std::abs(piece.pose.turnRad), std::numbers::pi + 1e-12)
                    << "a job keeps no other turns";
    }
}

TEST(ArrangeClose, PiecesLieInOneAnothersBays) {
    // Eight hooks of 60 mm with arms of 20: by boxes four to a sheet of 130; in pairs within one another all eight.
    const Shape hook{geometry::contourThrough({{0, 0}, {60, 0}, {60, 18}, {18, 18}, {18, 60}, {0, 60}}), {}};
    const design::Stack stack = stackOf({hook}, 8);
    const ArrangeOptions options = sheetOf(130, 200);
    EXPECT_EQ(arrange(stack, options)->loads.size(), 2u);
    const design::Arrangement close = closeOf(stack, options, steps(60'000));
    EXPECT_EQ(close.loads.size(), 1u);
    EXPECT_EQ(faultsIn(stack, close, options), "");
}

TEST(ArrangeClose, TheSameStepsGiveTheSameLayoutAndMoreOfThemNoWorseOne) {
    std::mt19937 random(5);
    std::vector<Shape> shapes;
    for (int i = 0; i < 12; ++i)
        shapes.push_back(formOf(random, 50));
    const design::Stack stack = stackOf(shapes);
    const ArrangeOptions options = sheetOf(150, 150);
    const design::Arrangement few = closeOf(stack, options, steps(20'000)),
                              again = closeOf(stack, options, steps(20'000));
    EXPECT_EQ(few, again);
    const StockNeed first = needsOf(closeOf(stack, options, steps(0)), stack).front(),
                    searched = needsOf(few, stack).front();
    EXPECT_TRUE(searched.sheets < first.sheets ||
                (searched.sheets == first.sheets && searched.lastLengthMm < first.lastLengthMm))
        << searched.sheets << " " << searched.lastLengthMm << " after " << first.sheets << " "
        << first.lastLengthMm;
}

TEST(ArrangeClose, WhatIsPinnedStaysAndNothingLiesOnIt) {
    const design::Stack stack = stackOf({rectangle(0, 0, 60, 40), disc({0, 0}, 30), disc({0, 0}, 20)}, 2);
    ArrangeOptions options = sheetOf(140, 140);
    const design::Pose pose = design::poseAtCorner(stack.pieces[0].piece, {37, 51}, 0.3);
    options.pins = {{{id(1), 0}, 0, pose}};
    const design::Arrangement close = closeOf(stack, options, steps(30'000));
    EXPECT_EQ(faultsIn(stack, close, options), "");
    bool isThere = false;
    for (const design::PlacedPiece& piece : close.loads[0].sheets[0].pieces)
        if (piece.what == design::CopyOf{id(1), 0}) {
            isThere = true;
            EXPECT_TRUE(piece.isPinned);
            EXPECT_LT(geometry::distance(piece.pose.at, pose.at), 1e-9);
            EXPECT_NEAR(piece.pose.turnRad, 0.3, 1e-9);
        }
    EXPECT_TRUE(isThere);
}

TEST(ArrangeClose, ClustersStayTogether) {
    design::Stack stack = stackOf({rectangle(0, 0, 20, 20), rectangle(20, 0, 20, 20), disc({100, 100}, 30)});
    stack.clusters.push_back({"pair", {id(1), id(2)}, 2});
    const ArrangeOptions options = sheetOf(120, 120);
    const design::Arrangement close = closeOf(stack, options, steps(10'000));
    EXPECT_EQ(faultsIn(stack, close, options), "");
}

TEST(ArrangeClose, NothingLiesBetweenThePiecesOfACluster) {
    design::Stack stack = stackOf({rectangle(0, 0, 10, 100), rectangle(70, 0, 10, 100), disc({0, 0}, 20)});
    const ArrangeOptions options = sheetOf(90, 110);
    EXPECT_EQ(closeOf(stack, options, steps(3000)).loads.size(), 1u);
    stack.clusters.push_back({"pair", {id(1), id(2)}});
    EXPECT_EQ(closeOf(stack, options, steps(3000)).loads.size(), 2u) << "it would be lifted off with them";
}

TEST(ArrangeClose, SmallPiecesLieInOpeningsIfAsked) {
    const Shape ring = support::withOpening(disc({0, 0}, 58), disc({0, 0}, 45));
    const design::Stack stack = stackOf({ring, disc({0, 0}, 35)});
    ArrangeOptions options = sheetOf(120, 120);
    EXPECT_EQ(closeOf(stack, options, steps(2000)).loads.size(), 2u);
    options.intoOpenings = true;
    const design::Arrangement close = closeOf(stack, options, steps(2000));
    EXPECT_EQ(close.loads.size(), 1u);
    EXPECT_EQ(faultsIn(stack, close, options), "");
}

/// A rectangle cut into so many by straight cuts from edge to edge, the largest first.
std::vector<Shape> cutApart(std::mt19937& random, double width, double height, std::size_t count) {
    std::vector<std::pair<double, double>> sizes{{width, height}};
    while (sizes.size() < count) {
        const auto largest = std::max_element(sizes.begin(), sizes.end(), [](const auto& a, const auto& b) {
            return a.first * a.second < b.first * b.second;
        });
        const auto [w, h] = *largest;
        sizes.erase(largest);
        const double share = 0.3 + 0.05 * static_cast<double>(random() % 9);
        if (w > h) {
            sizes.emplace_back(w * share, h);
            sizes.emplace_back(w * (1 - share), h);
        } else {
            sizes.emplace_back(w, h * share);
            sizes.emplace_back(w, h * (1 - share));
        }
    }
    std::vector<Shape> out;
    for (std::size_t i = 0; i < sizes.size(); ++i)
        out.push_back(i % 2 ? rectangle(0, 0, sizes[i].first, sizes[i].second)
                            : rectangle(0, 0, sizes[i].second, sizes[i].first));
    return out;
}

// The best is known: they were cut from one sheet. So close comes the search by overlaps alone once in ten.
TEST(NestBoxes, LaysTheRectanglesOfASheetOnASheet) {
    std::mt19937 random(5);
    const ArrangeOptions options = sheetOf(200, 260, 0);
    int whole = 0;
    for (int round = 0; round < 10; ++round) {
        const auto stack = stackOf(cutApart(random, 199.7, 259.5, 9));
        const auto laid = closeOf(stack, options, steps(60'000));
        EXPECT_EQ(faultsIn(stack, laid, options), "") << round;
        whole += laid.loads.size() == 1;
    }
    EXPECT_GE(whole, 5);
}

TEST(NestBoxes, BoxesAreToldByWhatFillsThem) {
    const auto shareOf = [](const Shape& shape, NestTurns turns) {
        NestTask task;
        task.forms = {{geometry::flatten(shape, 0.02)}};
        task.items = {{0}};
        task.sheets = {{{{0, 0}, {300, 300}}}};
        task.turns = turns;
        return boxShare(task, nestTables(task));
    };
    const Shape plain = rectangle(0, 0, 60, 40);
    const Shape slanted = geometry::transformed(plain, geometry::turnAbout({}, 0.4));
    EXPECT_NEAR(shareOf(plain, NestTurns::None), 1, 1e-6);
    EXPECT_NEAR(shareOf(slanted, NestTurns::Any), 1, 1e-6);
    EXPECT_LT(shareOf(slanted, NestTurns::Half), 0.7); // it may not be laid straight
    EXPECT_NEAR(shareOf(disc({0, 0}, 30), NestTurns::Any), std::numbers::pi / 4, 1e-3);
}

TEST(NestBoxes, KeepsTurnsPinsAndSpacing) {
    std::mt19937 random(11);
    auto stack = stackOf(cutApart(random, 300, 380, 24));
    ArrangeOptions options = sheetOf(200, 260);
    options.pins = {
        {{stack.pieces[20].id(), 0}, 0, design::poseAtCorner(stack.pieces[20].piece, {70, 90}, 0.3)}};
    for (const auto turns : {design::Stock::Turns::None, design::Stock::Turns::Any}) {
        stack.stocks[0].turns = turns;
        const auto a = closeOf(stack, options, steps(40'000)), b = closeOf(stack, options, steps(40'000));
        EXPECT_EQ(faultsIn(stack, a, options), "");
        EXPECT_EQ(a, b); // the same steps, the same layout
        bool isTurned = false;
        for (const design::Load& load : a.loads)
            for (const design::PlacedSheet& sheet : load.sheets)
                for (const design::PlacedPiece& piece : sheet.pieces)
                    isTurned = isTurned || (!piece.isPinned && std::abs(piece.pose.turnRad) > 1e-9);
        EXPECT_EQ(isTurned, turns == design::Stock::Turns::Any);
    }
}

TEST(NestGather, WhatLiesLooselyIsPushedTogetherAndPinsStay) {
    std::mt19937 random(31);
    for (int round = 0; round < 20; ++round) {
        NestTask task;
        NestLayout loose;
        task.sheets = {{{{5, 5}, {405, 405}}}};
        task.clearMm = 2.5;
        for (std::size_t i = 0; i < 9; ++i) { // in a lattice, far from one another
            task.forms.push_back({geometry::flatten(formOf(random, 40), 0.02)});
            task.items.push_back({i});
            const Point at{80 + 120.0 * static_cast<double>(i % 3), 80 + 120.0 * static_cast<double>(i / 3)};
            loose.places.push_back({0, NestPose::of(at, static_cast<double>(random() % 6))});
        }
        task.items[4].pinnedBin = 0;
        task.items[4].pinned = loose.places[4].pose;
        const auto tables = nestTables(task);
        measureNest(task, tables, loose);
        ASSERT_TRUE(isSound(task, tables, loose, task.clearMm));
        const NestLayout close = gathered(task, tables, loose);
        EXPECT_TRUE(isSound(task, tables, close, task.clearMm)) << round;
        EXPECT_LT(travelMm(task, close), travelMm(task, loose) * 0.75) << round;
        EXPECT_LE(close.lastLengthMm, loose.lastLengthMm);
        EXPECT_EQ(close.places[4].pose.at, loose.places[4].pose.at);
        const NestLayout again = gathered(task, tables, close);
        EXPECT_GE(travelMm(task, again), travelMm(task, close) * 0.97) << "it lay close already";
    }
}

TEST(ArrangeClose, LimitsAreMet) {
    const ArrangeOptions options = sheetOf(100, 80);
    // As large as the sheet; larger; only aslant; nothing at all.
    EXPECT_EQ(closeOf(stackOf({rectangle(0, 0, 100, 80), rectangle(0, 0, 80, 100)}), options, steps(100))
                  .loads.size(),
              2u);
    const design::Arrangement large =
        closeOf(stackOf({rectangle(0, 0, 101, 80), disc({0, 0}, 10)}), options, steps(100));
    ASSERT_EQ(large.unplaced.size(), 1u);
    EXPECT_EQ(large.unplaced[0].piece, id(1));
    const design::Stack aslant = stackOf({rectangle(0, 0, 120, 4), rectangle(0, 0, 120, 4)});
    const design::Arrangement slanted = closeOf(aslant, options, steps(500));
    EXPECT_TRUE(slanted.unplaced.empty());
    EXPECT_EQ(faultsIn(aslant, slanted, options), "");
    EXPECT_TRUE(closeOf(stackOf({}), options).loads.empty());
    // Many copies: a layout, whatever the budget.
    const design::Stack many = stackOf({rectangle(0, 0, 9, 7)}, 999);
    const design::Arrangement all = closeOf(many, options, steps(10));
    EXPECT_EQ(faultsIn(many, all, options), "");
}

TEST(ArrangeClose, AStoppedSearchKeepsWhatItHas) {
    std::mt19937 random(2);
    std::vector<Shape> shapes;
    for (int i = 0; i < 10; ++i)
        shapes.push_back(formOf(random, 50));
    const design::Stack stack = stackOf(shapes);
    const ArrangeOptions options = sheetOf(150, 150);
    std::atomic<bool> stop{false};
    const base::Progress progress(&stop, nullptr);
    int published = 0;
    const design::Arrangement boxes = *arrange(stack, options);
    const auto out = arrangeClose(
        stack, options, steps(1'000'000'000'000), boxes,
        [&](const design::Arrangement&) { stop = ++published > 1; }, progress);
    ASSERT_TRUE(out);
    EXPECT_EQ(published, 2);
    EXPECT_EQ(faultsIn(stack, *out, options), "");
}

TEST(ArrangeClose, WhatLayWellStaysWhenLittleChanges) {
    std::mt19937 random(9);
    std::vector<Shape> shapes;
    for (int i = 0; i < 9; ++i)
        shapes.push_back(formOf(random, 45));
    design::Stack stack = stackOf(shapes);
    const ArrangeOptions options = sheetOf(200, 200);
    const design::Arrangement before = closeOf(stack, options, steps(20'000));
    stack.pieces.push_back(support::laid(10, disc({0, 0}, 8)));
    CloseOptions how = steps(0);
    how.before = &before;
    const design::Arrangement after = closeOf(stack, options, how);
    EXPECT_EQ(faultsIn(stack, after, options), "");
    for (const design::PlacedPiece& was : before.loads[0].sheets[0].pieces)
        for (const design::PlacedPiece& is : after.loads[0].sheets[0].pieces)
            EXPECT_TRUE(is.what != was.what || geometry::distance(is.pose.at, was.pose.at) < 1e-6);
}

TEST(Zones, StocksOfOneSettingShareAMat) {
    const design::Stock card{"a", "a", {}},
        thicker =
            [] {
                design::Stock out{"b", "b", {}};
                out.thicknessMm = 0.36; // a fifth more
                return out;
            }(),
        thick =
            [] {
                design::Stock out{"c", "c", {}};
                out.thicknessMm = 0.5;
                return out;
            }(),
        vinyl = [] {
            design::Stock out{"d", "d", {}};
            out.kind = design::Stock::Kind::Vinyl;
            return out;
        }();
    EXPECT_TRUE(mayShareAMat(card, card));
    EXPECT_TRUE(mayShareAMat(card, thicker));
    EXPECT_FALSE(mayShareAMat(card, thick));
    EXPECT_FALSE(mayShareAMat(card, vinyl));
}

TEST(Zones, LieApartAndInsideTheMargin) {
    std::mt19937 random(4);
    const design::MatFormat mat{"mat", "mat", 304.8, 304.8, 6.35};
    const design::Stock card{"a", "a", {}};
    for (int round = 0; round < 100; ++round) {
        std::vector<ZoneWish> wishes;
        for (int i = 0; i < 6; ++i) {
            std::uniform_real_distribution<double> size(10, 280);
            wishes.push_back({&card,
                              {{size(random), size(random)}, {size(random), size(random)}},
                              round % 2 == 0,
                              {304.8, 304.8}});
        }
        const auto places = placeZones(wishes, mat);
        for (size_t a = 0; a < places.size(); ++a) {
            ASSERT_TRUE(places[a]);
            const ZoneSize& size = wishes[a].sizes[places[a]->size];
            const geometry::Box& box = places[a]->card;
            const bool isTurned = places[a]->isTurned;
            EXPECT_FALSE(isTurned && !wishes[a].mayTurn);
            EXPECT_GE(box.width() + 1e-6, (isTurned ? size.heightMm : size.widthMm) + 2 * kScrapMarginMm);
            EXPECT_GE(box.height() + 1e-6, (isTurned ? size.widthMm : size.heightMm) + 2 * kScrapMarginMm);
            EXPECT_TRUE((geometry::Box{{3.35, 3.35}, {301.45, 301.45}}.grownBy(1e-6).contains(box.least)));
            EXPECT_TRUE((geometry::Box{{3.35, 3.35}, {301.45, 301.45}}.grownBy(1e-6).contains(box.most)));
            for (size_t b = 0; b < a; ++b)
                EXPECT_TRUE(places[a]->mat != places[b]->mat ||
                            !box.grownBy(kHandMm - 1e-6).meets(places[b]->card));
        }
    }
    EXPECT_FALSE(placeZones({{&card, {{300, 20}}, true, {304.8, 304.8}}}, mat)[0]) << "wider than may be cut";
}

// Six colours of a few small pieces: a mat for each, or one for all.
TEST(Zones, SmallColoursShareAMat) {
    std::mt19937 random(6);
    design::Stack stack;
    int number = 0;
    for (int colour = 1; colour <= 6; ++colour) {
        const std::string name = "colour" + std::to_string(colour);
        stack.stocks.push_back({name, name, {}});
        stack.layers.push_back(support::layer(colour, name));
        for (int i = 0; i < 5; ++i)
            stack.pieces.push_back(support::laid(++number, formOf(random, 30), colour));
    }
    ArrangeOptions options;
    options.mat = {"mat", "mat", 304.8, 304.8, 6.35};
    options.sheet = {"sheet", "sheet", 304.8, 304.8, 6.35};
    EXPECT_EQ(closeOf(stack, options, steps(5000)).loads.size(), 6u);
    options.isMixed = true;
    const design::Arrangement mixed = closeOf(stack, options, steps(5000));
    EXPECT_EQ(mixed.loads.size(), 1u);
    EXPECT_EQ(faultsIn(stack, mixed, options), "");
    for (const design::PlacedSheet& scrap : mixed.loads[0].sheets) {
        EXPECT_TRUE(scrap.isScrap);
        EXPECT_TRUE(std::abs(std::remainder(scrap.widthMm, 5)) < 1e-6 || scrap.widthMm == 304.8)
            << scrap.widthMm;
        EXPECT_NEAR(std::remainder(scrap.heightMm, 5), 0, 1e-6);
    }
    EXPECT_EQ(loadText(mixed.loads[0], stack.stocks).find("(scraps)") != std::string::npos, true);
    // A scrap is none where nobody asked for any.
    ArrangeOptions alone = options;
    alone.isMixed = false;
    EXPECT_NE(faultsIn(stack, mixed, alone), "");
    // What lay so stays so.
    CloseOptions how = steps(0);
    how.before = &mixed;
    EXPECT_EQ(closeOf(stack, options, how).loads.size(), 1u);
    // What a hand laid on a sheet keeps its sheet.
    options.pins = {{{id(1), 0}, 0, design::poseAtCorner(stack.pieces[0].piece, {40, 50}, 0)}};
    const design::Arrangement pinned = closeOf(stack, options, steps(2000));
    EXPECT_EQ(pinned.loads.size(), 2u);
    EXPECT_EQ(faultsIn(stack, pinned, options), "");
    // What it laid on a scrap stays on one, and as it lies beside the others laid so.
    options.pins[0].scrapId = kScrapToCut;
    options.pins.push_back(
        {{id(2), 0}, 0, design::poseAtCorner(stack.pieces[1].piece, {90, 60}, 0.5), kScrapToCut});
    const design::Arrangement along = closeOf(stack, options, steps(2000));
    EXPECT_EQ(along.loads.size(), 1u);
    EXPECT_EQ(faultsIn(stack, along, options), "");
    std::vector<geometry::Point> at;
    for (const design::PlacedSheet& scrap : along.loads[0].sheets)
        for (const design::PlacedPiece& piece : scrap.pieces)
            if (piece.isPinned) {
                EXPECT_TRUE(scrap.isScrap);
                at.push_back(piece.pose.at);
                EXPECT_NEAR(piece.pose.turnRad, at.size() == 1 ? 0 : 0.5, 1e-9);
            }
    ASSERT_EQ(at.size(), 2u);
    const geometry::Point between = options.pins[1].pose.at - options.pins[0].pose.at;
    EXPECT_LT(geometry::distance(at[1] - at[0], between), 1e-6);
}

TEST(Zones, AScrapIsToldAsAHandLaysIt) {
    const design::MatFormat mat{"mat", "mat", 304.8, 304.8, 6.35};
    const std::vector<design::Stock> stocks{{"rust", "rust", {}}};
    const auto said = [&](double x, double y, double width, double height) {
        return scrapText({"rust", x, y, width, height, 3, {}, true}, mat, stocks,
                         base::LengthUnit::Millimetre);
    };
    EXPECT_EQ(said(170, 5, 130, 85), "rust 85 × 130 mm, upper right, lying");
    EXPECT_EQ(said(5, 170, 85, 130), "rust 85 × 130 mm, lower left, upright");
    EXPECT_EQ(said(100, 5, 100, 100), "rust 100 × 100 mm, upper edge");
}

} // namespace
} // namespace thinline::sheets
