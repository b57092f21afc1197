// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "sheets/Cards.h"

#include "geometry/Measures.h"
#include "geometry/Placing.h"
#include "sheets/ArrangeClose.h"
#include "sheets/Faults.h"
#include "sheets/Rest.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <numbers>
#include <random>

namespace thinline::sheets {
namespace {

using geometry::Box;
using geometry::Point;
using support::disc;
using support::id;
using support::rectangle;

ArrangeOptions square() {
    ArrangeOptions out;
    out.mat = {"mat", "mat", 304.8, 304.8, 6.35};
    out.sheet = {"sheet", "sheet", 304.8, 304.8, 6.35};
    return out;
}
design::Stack stackOf(const std::vector<geometry::Shape>& shapes, int copies = 1) {
    design::Stack out{{{"card", "card", {}}}, {support::layer(1, "card")}, {}};
    int number = 0;
    for (const geometry::Shape& shape : shapes)
        out.pieces.push_back(support::laid(++number, shape, 1, copies));
    return out;
}
design::Scrap scrapOf(int number, geometry::Polygon outline) {
    return {number, "card", "", {std::move(outline)}};
}
geometry::Polygon box(double width, double height) {
    return {{0, 0}, {width, 0}, {width, height}, {0, height}};
}
design::Arrangement closeOf(const design::Stack& stack, const ArrangeOptions& options,
                            long long steps = 500) {
    const auto boxes = arrange(stack, options);
    if (!boxes)
        throw std::runtime_error(boxes.error().message);
    EXPECT_EQ(faultsOf(stack, *boxes, options)->size(), 0u)
        << faultsOf(stack, *boxes, options)->front().message;
    auto out = arrangeClose(stack, options, {.budget = {.steps = steps}}, *boxes);
    if (!out)
        throw std::runtime_error(out.error().message);
    const auto faults = faultsOf(stack, *out, options);
    EXPECT_EQ(faults->size(), 0u) << faults->front().message;
    return out.take();
}

/// How far a place is inside rings: negative outside. By every edge, one after the other.
double depthIn(const geometry::Polygons& rings, Point p) {
    double nearest = INFINITY;
    bool isInside = false;
    for (const geometry::Polygon& ring : rings)
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Point a = ring[i], b = ring[(i + 1) % ring.size()];
            nearest = std::min(nearest, geometry::distanceToStretch(p, a, b));
            if ((a.y <= p.y) != (b.y <= p.y) && p.x < a.x + (p.y - a.y) * (b.x - a.x) / (b.y - a.y))
                isInside = !isInside;
        }
    return isInside ? nearest : -nearest;
}

/// Everything that is cut, as points half a millimetre apart, sheet by sheet, with the sheet.
template <class Visit>
void eachCutPoint(const design::Stack& stack, const design::Arrangement& laid, Visit visit) {
    for (const design::Load& load : laid.loads)
        for (const design::PlacedSheet& sheet : load.sheets)
            for (const design::PlacedPiece& piece : sheet.pieces) {
                const design::Laid* of = stack.find(piece.what.piece);
                for (const geometry::Polygon& ring : geometry::flatten(
                         geometry::transformed(of->shape(), design::placement(of->piece, piece.pose)), 0.005))
                    for (std::size_t i = 0; i < ring.size(); ++i) {
                        const Point a = ring[i], b = ring[(i + 1) % ring.size()];
                        const int parts = 1 + static_cast<int>(geometry::distance(a, b) / 0.5);
                        for (int k = 0; k < parts; ++k)
                            visit(a + (b - a) * (k / static_cast<double>(parts)), sheet, load);
                    }
            }
}

/// A star-like outline with bays, torn here and there.
geometry::Polygon torn(std::mt19937& random, double sizeMm) {
    geometry::Polygon out;
    const int corners = 7 + static_cast<int>(random() % 12);
    for (int i = 0; i < corners; ++i) {
        const double turn = 2 * std::numbers::pi * i / corners,
                     reach = sizeMm / 2 * std::uniform_real_distribution<double>(0.55, 1)(random);
        out.push_back({sizeMm / 2 + reach * std::cos(turn), sizeMm / 2 + reach * std::sin(turn)});
    }
    const Point least = geometry::bounds(geometry::Polygons{out}).least;
    for (Point& p : out)
        p = p - least;
    return out;
}

TEST(Cards, AScrapIsUsedBeforeASheetIsBegun) {
    const design::Stack stack = stackOf({rectangle(0, 0, 60, 40)}, 3);
    ArrangeOptions options = square();
    EXPECT_EQ(needsOf(closeOf(stack, options), stack).front().sheets, 1);
    options.scraps = {scrapOf(7, box(72, 145))};
    const design::Arrangement laid = closeOf(stack, options);
    EXPECT_TRUE(needsOf(laid, stack).empty())
        << "no whole sheet: 3 x 40 and twice 2.5 between edges of 3 is 131";
    ASSERT_EQ(laid.loads.size(), 1u);
    ASSERT_EQ(laid.loads[0].sheets.size(), 1u);
    EXPECT_EQ(laid.loads[0].sheets[0].scrapId, 7);
    EXPECT_EQ(laid.loads[0].sheets[0].pieces.size(), 3u);
    EXPECT_FALSE(laid.loads[0].sheets[0].isScrap) << "it is there and not to be cut";
    // One that is too small is left aside.
    options.scraps = {scrapOf(1, box(30, 30))};
    EXPECT_EQ(closeOf(stack, options).loads[0].sheets[0].scrapId, 0);
}

TEST(Cards, EveryStockHasTheSheetsItHas) {
    design::Stack stack = stackOf({rectangle(0, 0, 190, 60), rectangle(0, 0, 190, 60)});
    stack.stocks.push_back({"foil", "foil", {}});
    stack.layers.push_back(support::layer(2, "foil"));
    stack.pieces[1].layer = design::LayerId{2};
    ArrangeOptions options = square();
    options.sheetOf["foil"] = {"half", "half", 152.4, 304.8, 6.35};
    const design::Arrangement laid = closeOf(stack, options);
    ASSERT_EQ(laid.loads.size(), 2u);
    EXPECT_DOUBLE_EQ(laid.loads[0].sheets[0].widthMm, 304.8);
    EXPECT_DOUBLE_EQ(laid.loads[1].sheets[0].widthMm, 152.4);
    EXPECT_TRUE(laid.unplaced.empty()) << "190 lies along 304.8";
}

TEST(Cards, NothingIsCutWhereTheMatOrACornerStaysFree) {
    const design::Stack stack = stackOf({disc({0, 0}, 20)}, 30);
    ArrangeOptions options = square();
    options.keepOuts = {{{100, 0}, {160, 120}}, {{0, 200}, {50, 206}}};
    options.areCornersTaped = true;
    const design::Arrangement laid = closeOf(stack, options);
    EXPECT_TRUE(laid.unplaced.empty());
    eachCutPoint(stack, laid, [&](Point p, const design::PlacedSheet&, const design::Load&) {
        for (const Box& kept : options.keepOuts)
            ASSERT_FALSE(kept.grownBy(-0.03).contains(p)) << p.x << " " << p.y;
        const bool isLeft = p.x<14.97, isRight = p.x> 304.8 - 14.97,
                   isTop = p.y<14.97, isBottom = p.y> 304.8 - 14.97;
        ASSERT_FALSE((isLeft || isRight) && (isTop || isBottom)) << "under tape";
    });
}

// Torn scraps, some as large as the mat, some with a hole: a look that knows nothing of how it was laid finds every cut inside
// its scrap by the margin and inside the mat's.
TEST(Cards, EveryCutLiesInItsScrap) {
    std::mt19937 random(3);
    int onScraps = 0;
    for (int round = 0; round < 40; ++round) {
        std::vector<geometry::Shape> shapes;
        for (int i = 0; i < 6; ++i) {
            const double size = 12 + static_cast<double>(random() % 40);
            shapes.push_back(i % 2 == 0 ? rectangle(0, 0, size, size / 2) : disc({0, 0}, size / 2));
        }
        const design::Stack stack = stackOf(shapes, 1 + round % 3);
        ArrangeOptions options = square();
        for (int i = 1; i <= 3; ++i) {
            options.scraps.push_back(
                scrapOf(i, torn(random, i == 3 ? 300 : 60 + static_cast<double>(random() % 100))));
            options.scraps.back().marginMm = std::array{3.0, 1.0, 5.0}[random() % 3];
        }
        if (round % 2 == 0) { // the largest has a hole
            const Point middle = options.scraps[2].rings[0][0] * 0.5 + options.scraps[2].rings[0][3] * 0.5;
            geometry::Polygon hole;
            for (int k = 8; k > 0; --k)
                hole.push_back(middle + Point{12 * std::cos(k * 0.785), 12 * std::sin(k * 0.785)});
            if (depthIn(options.scraps[2].rings, middle) > 15)
                options.scraps[2].rings.push_back(hole);
        }
        if (round % 5 == 0)
            options.keepOuts = {{{0, 0}, {90, 30}}};
        const design::Arrangement laid = closeOf(stack, options, 300);
        for (const design::Load& load : laid.loads)
            for (const design::PlacedSheet& sheet : load.sheets)
                onScraps += sheet.scrapId != 0 ? static_cast<int>(sheet.pieces.size()) : 0;
        const Box reach = Box{{0, 0}, {304.8, 304.8}}.grownBy(-6.35 + 0.02);
        eachCutPoint(stack, laid, [&](Point p, const design::PlacedSheet& sheet, const design::Load&) {
            ASSERT_TRUE(reach.contains(p)) << round;
            ASSERT_GT(depthIn(design::outlineOf(sheet), p), sheet.marginMm - 0.03) << round;
            for (const Box& kept : options.keepOuts)
                ASSERT_FALSE(kept.grownBy(-0.03).contains(p)) << round;
        });
    }
    EXPECT_GT(onScraps, 200) << "most lie on scraps";
}

TEST(Cards, ScrapsOfAPhotoLieWhereTheyWereFound) {
    design::Stack stack = stackOf({rectangle(0, 0, 40, 30), rectangle(0, 0, 40, 30)});
    stack.stocks.push_back({"foil", "foil", {}});
    stack.layers.push_back(support::layer(2, "foil"));
    stack.pieces[1].layer = design::LayerId{2};
    ArrangeOptions options = square();
    options.scraps = {scrapOf(1, box(60, 50)), scrapOf(2, {{0, 0}, {70, 10}, {60, 60}, {5, 50}})};
    options.scraps[1].stockId = "foil";
    options.scraps[0].at = Point{20, 30};
    options.scraps[1].at = Point{150, 110};
    for (design::Scrap& scrap : options.scraps)
        scrap.mat = "photo";
    const design::Arrangement laid = closeOf(stack, options);
    ASSERT_EQ(laid.loads.size(), 1u) << "one mat, whatever lies on it";
    ASSERT_EQ(laid.loads[0].sheets.size(), 2u);
    EXPECT_EQ(laid.loads[0].sheets[0].xMm, 20);
    EXPECT_EQ(laid.loads[0].sheets[1].yMm, 110);
}

TEST(Cards, APinOnAScrapStaysThere) {
    const design::Stack stack = stackOf({rectangle(0, 0, 60, 40)}, 2);
    ArrangeOptions options = square();
    options.scraps = {scrapOf(4, box(90, 60)),
                      scrapOf(5, box(60, 290))}; // the second lies on its mat only upright
    const design::Pose pose = design::poseAtCorner(stack.pieces[0].piece, {7, 101}, std::numbers::pi / 2);
    options.pins = {{{id(1), 0}, 0, pose, 5}};
    const design::Arrangement laid = closeOf(stack, options);
    bool isThere = false;
    for (const design::Load& load : laid.loads)
        for (const design::PlacedSheet& sheet : load.sheets)
            for (const design::PlacedPiece& piece : sheet.pieces)
                if (piece.what == design::CopyOf{id(1), 0}) {
                    isThere = true;
                    EXPECT_EQ(sheet.scrapId, 5);
                    design::Pose own = piece.pose;
                    own.at = own.at - Point{sheet.xMm, sheet.yMm};
                    if (sheet.isTurned)
                        own = design::turnedBack(own, sheet.widthMm);
                    EXPECT_LT(geometry::distance(own.at, pose.at), 1e-9);
                    EXPECT_NEAR(own.turnRad, pose.turnRad, 1e-9);
                }
    EXPECT_TRUE(isThere);
}

// Two sheets taped on the upper face, which so becomes the back: what lies across the join must be mirrored (common practice).
TEST(Cards, TwoSheetsTapedTogetherAreCutAcrossTheJoinFromBehind) {
    ArrangeOptions options = square();
    options.mat = {"long", "long", 304.8, 609.6, 6.35};
    // An L longer than a sheet; it is not its own mirror image. And one that shows its back in the work.
    const geometry::Shape angle{
        geometry::contourThrough({{0, 0}, {60, 0}, {60, 340}, {200, 340}, {200, 400}, {0, 400}}), {}};
    design::Stack stack = stackOf({angle, rectangle(0, 0, 80, 50)});
    stack.pieces[1].up = design::Side::Back;
    EXPECT_EQ(arrange(stack, options)->unplaced.size(), 1u) << "it is longer than one sheet";
    options.sheet.inPairs = true;
    const auto boxes = arrange(stack, options);
    ASSERT_TRUE(boxes) << boxes.error().message;
    for (const design::Arrangement& laid : {*boxes, closeOf(stack, options)}) {
        EXPECT_TRUE(laid.unplaced.empty());
        ASSERT_EQ(laid.loads.size(), 1u);
        ASSERT_EQ(laid.loads[0].sheets.size(), 1u);
        const design::PlacedSheet& pair = laid.loads[0].sheets[0];
        EXPECT_EQ(pair.join, design::Join::Level) << "one above the other on a mat that is long downwards";
        EXPECT_DOUBLE_EQ(pair.heightMm, 609.6);
        EXPECT_DOUBLE_EQ(pair.oneHeightMm(), 304.8);
        EXPECT_EQ(measure(laid, stack).sheets, 2);
        EXPECT_EQ(needsOf(laid, stack)[0].sheets, 2);
        EXPECT_TRUE(offcutsOf(laid, stack).empty()) << "tape runs through what is left";
        for (const design::PlacedPiece& piece : pair.pieces) {
            const design::Laid& of = *stack.find(piece.what.piece);
            const geometry::Transform map = design::placement(of.piece, piece.pose);
            EXPECT_EQ(map.a * map.d - map.b * map.c < 0, of.up == design::Side::Front)
                << piece.what.piece.text();
        }
        eachCutPoint(stack, laid, [&](Point p, const design::PlacedSheet&, const design::Load&) {
            EXPECT_TRUE(p.x > 6.3 && p.x < 298.5 && p.y > 6.3 && p.y < 603.3) << p.x << "," << p.y;
        });
        // One that lay there the other way over would come out mirrored.
        design::Arrangement wrong = laid;
        wrong.loads[0].sheets[0].pieces[0].pose.isFlipped =
            !wrong.loads[0].sheets[0].pieces[0].pose.isFlipped;
        const auto faults = *faultsOf(stack, wrong, options);
        EXPECT_TRUE(std::any_of(faults.begin(), faults.end(),
                                [](const Fault& one) { return one.kind == Fault::Kind::WrongFace; }));
    }
    // Across, on a mat that is long that way; and where two do not lie, that is said.
    options.mat = {"wide", "wide", 609.6, 304.8, 6.35};
    EXPECT_EQ(closeOf(stack, options).loads[0].sheets[0].join, design::Join::Upright);
    options.mat = square().mat;
    EXPECT_EQ(arrange(stack, options).error().message,
              "Two sheets of 304.8 × 304.8 mm taped together do not lie on a mat of 304.8 × 304.8 mm; choose "
              "a longer mat or do "
              "not tape them.");
}

TEST(Cards, WhatCannotBeIsToldInASentence) {
    ArrangeOptions options = square();
    options.scraps = {scrapOf(1, box(5, 80))};
    EXPECT_NE(cardsOf("card", options).error().message.find("5.0 × 80.0 mm"), std::string::npos)
        << cardsOf("card", options).error().message;
    options.scraps = {scrapOf(1, box(400, 320))};
    EXPECT_NE(cardsOf("card", options).error().message.find("does not lie on a mat"), std::string::npos);
    options.scraps = {scrapOf(1, box(50, 50))};
    options.scraps[0].at = Point{300, 300};
    EXPECT_NE(cardsOf("card", options).error().message.find("margin"), std::string::npos);
    options.scraps[0].rings.clear();
    EXPECT_FALSE(checkScrap(options.scraps[0]));
}

/// A scrap on its mat with a rectangle of 60 x 50 mm in its upper left corner.
design::PlacedSheet cutScrap(const design::Stack& stack, geometry::Polygon outline) {
    const Box all = geometry::bounds(geometry::Polygons{outline});
    design::PlacedSheet out{"card", 20, 30, all.width(), all.height(), 3, {}};
    out.scrapId = 1;
    out.outline = {std::move(outline)};
    out.pieces = {{{stack.pieces[0].id(), 0}, design::poseAtCorner(stack.pieces[0].piece, {23, 33}, 0)}};
    return out;
}

TEST(Rest, TheLargestSideOfWhatIsLeft) {
    const design::Stack stack = stackOf({rectangle(0, 0, 60, 50)});
    const auto rest = restOf(cutScrap(stack, box(200, 110)), stack);
    ASSERT_TRUE(rest);
    const Box right = geometry::bounds(*rest); // 200 - 3 - 60 - 3 wide
    EXPECT_NEAR(right.width(), 134, 0.01);
    EXPECT_NEAR(right.height(), 110, 0.01);
    EXPECT_NEAR(right.least.x, 0, 1e-9);
    // What is torn stays so: a slanted edge, 100 mm of it below the cuts.
    const auto torn = restOf(cutScrap(stack, {{0, 0}, {90, 0}, {90, 56}, {0, 146}}), stack);
    ASSERT_TRUE(torn);
    EXPECT_NEAR(geometry::signedArea(torn->front()), 90.0 * 90 / 2, 1);
    EXPECT_FALSE(restOf(cutScrap(stack, box(100, 90)), stack)) << "too narrow everywhere";
    EXPECT_TRUE(restOf(cutScrap(stack, box(110, 90)), stack));
}

} // namespace
} // namespace thinline::sheets
