// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "shape/Bridges.h"

#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Necks.h"
#include "geometry/Placing.h"
#include "shape/Steps.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <numbers>
#include <random>

namespace thinline::shape {
namespace {

using geometry::Point;
using geometry::Shape;
using support::disc;
using support::id;
using support::rectangle;
using support::withOpening;
using Where = BridgeWish::Where;
using Shapes = std::vector<Shape>;

Shapes must(base::Result<Shapes> result) {
    if (!result)
        throw std::runtime_error(result.error().message);
    return result.take();
}

/// What is left of a plate of 60 x 60 when a ring is cut out: the plate and the middle.
Shapes ringCutOut(double outer, double inner) {
    return {withOpening(rectangle(-30, -30, 60, 60), disc({0, 0}, outer)), disc({0, 0}, inner)};
}
Shapes held(const Shapes& pieces, const BridgeWish& how) {
    Shapes all = pieces;
    const Shapes bars = must(bridgesBetween(pieces, how));
    all.insert(all.end(), bars.begin(), bars.end());
    return must(geometry::weld(all));
}

// By hand: a bar of width w over the gap between circles of radius R and r covers, between its sides, the ring there: each side
// is at +-w/2, so its area is the integral of sqrt(R2 - x2) - sqrt(r2 - x2) over the width.
double barArea(double outer, double inner, double width) {
    const auto under = [&](double r) {
        const double x = width / 2;
        return x * std::sqrt(r * r - x * x) + r * r * std::asin(x / r);
    };
    return under(outer) - under(inner);
}

TEST(Bridges, TheMiddleOfARingIsHeldByAsManyBarsAsAreAsked) {
    const Shapes pieces = ringCutOut(20, 12);
    const double before = geometry::area(pieces[0]) + geometry::area(pieces[1]);
    for (const Where where : {Where::Nearest, Where::AboveAndBelow, Where::LeftAndRight})
        for (const int count : {1, 2}) {
            const Shapes whole = held(pieces, {3, count, where});
            ASSERT_EQ(whole.size(), 1u);
            EXPECT_EQ(whole[0].openings.size(), static_cast<size_t>(count));
            EXPECT_NEAR(geometry::area(whole[0]), before + count * barArea(20, 12, 3), 0.05);
            const auto neck = geometry::narrowestNeck(whole[0]);
            ASSERT_TRUE(neck && *neck);
            EXPECT_GT((*neck)->widthMm, 2.9) << "held over the whole width";
        }
}

TEST(Bridges, StraightOnesRunTheWayThatWasSaid) {
    const Shapes pieces = ringCutOut(20, 12);
    const auto boxOf = [&](Where where) {
        geometry::Box out;
        for (const Shape& bar : must(bridgesBetween(pieces, {2, 2, where})))
            out.include(geometry::bounds(bar));
        return out;
    };
    const geometry::Box upright = boxOf(Where::AboveAndBelow), across = boxOf(Where::LeftAndRight);
    EXPECT_NEAR(upright.width(), 2, 1e-6); // one above the other, through the middle
    EXPECT_GT(upright.height(), 40);
    EXPECT_NEAR(across.height(), 2, 1e-6);
    EXPECT_GT(across.width(), 40);
}

TEST(Bridges, ATipIsHeldWhereItIsWideEnough) {
    const Shape kite{geometry::contourThrough({{0, -18}, {4, 10}, {-4, 10}}), {}}; // its tip has 16 degrees
    const Shapes whole = held({withOpening(rectangle(-30, -30, 60, 60), disc({0, 0}, 20)), kite},
                              {2, 1, Where::AboveAndBelow});
    ASSERT_EQ(whole.size(), 1u);
    const auto neck = geometry::narrowestNeck(whole[0]);
    ASSERT_TRUE(neck && *neck);
    EXPECT_GT((*neck)->widthMm, 1.9);
}

TEST(Bridges, RingsWithinRingsAndWhatLiesBesideAreTied) {
    const Shapes pieces{withOpening(rectangle(-40, -40, 80, 80), disc({0, 0}, 30)),
                        withOpening(disc({0, 0}, 24), disc({0, 0}, 15)), disc({0, 0}, 8), disc({60, 0}, 5)};
    const Shapes whole = held(pieces, {2, 2, Where::Nearest});
    ASSERT_EQ(whole.size(), 1u);
    EXPECT_EQ(whole[0].openings.size(), 4u);
    EXPECT_GT(geometry::bounds(whole[0]).most.x, 64.9);
}

TEST(Bridges, ARowIsTiedFromOneToTheNext) {
    Shapes row{rectangle(0, 0, 40, 60)}; // the largest, at the far end
    for (int i = 1; i < 6; ++i)
        row.push_back(rectangle(45.0 * i, 0, 30 + i, 50)); // the farther the larger
    const Shapes whole = held(row, {3, 1, Where::Nearest});
    ASSERT_EQ(whole.size(), 1u);
    const Shapes bars = must(bridgesBetween(row, {3, 1, Where::Nearest}));
    ASSERT_EQ(bars.size(), 5u);
    for (const Shape& bar : bars)
        EXPECT_LT(geometry::bounds(bar).width(), 25) << "over one gap";
}

TEST(Bridges, AnyPieceIsHeldWhereverItLies) {
    std::mt19937 random(3);
    const auto between = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    for (int round = 0; round < 200; ++round) {
        geometry::Polygon points;
        const double size = between(4, 14), lobes = std::floor(between(2, 6)), deep = between(0, 0.3);
        for (int i = 0; i < 60; ++i) {
            const double turn = 2 * std::numbers::pi * i / 60, r = size * (1 + deep * std::sin(lobes * turn));
            points.push_back({r * std::cos(turn), r * std::sin(turn)});
        }
        const Shape blot = geometry::transformed(Shape{geometry::contourThrough(points), {}},
                                                 geometry::Transform::move({between(-9, 9), between(-9, 9)}));
        const Shape plate = withOpening(rectangle(-45, -45, 90, 90), disc({0, 0}, 30));
        const BridgeWish how{between(1, 3), 1 + static_cast<int>(random() % 4),
                             static_cast<Where>(random() % 3)};
        const Shapes whole = held({plate, blot}, how);
        ASSERT_EQ(whole.size(), 1u) << round;
        EXPECT_GE(whole[0].openings.size(), 1u);
        EXPECT_LE(whole[0].openings.size(), static_cast<size_t>(how.count)) << round;
        const auto neck = geometry::narrowestNeck(whole[0]);
        ASSERT_TRUE(neck);
        // Three and more on one side may run along the edge of a small blot and leave a thin strip of it beside them.
        if (*neck && how.count < 3) {
            EXPECT_GT((*neck)->widthMm, std::min(how.widthMm * 0.95, size)) << round;
        }
    }
}

TEST(Bridges, WhatNeedsNoneAndWhatIsTooFarIsSaid) {
    const auto touching = bridgesBetween({rectangle(0, 0, 20, 20), rectangle(20, 0, 10, 10)}, {});
    ASSERT_FALSE(touching);
    EXPECT_NE(touching.error().message.find("join them"), std::string::npos);
    const auto far = bridgesBetween({rectangle(0, 0, 20, 20), rectangle(140, 0, 10, 10)}, {});
    ASSERT_FALSE(far);
    EXPECT_NE(far.error().message.find("120 mm"), std::string::npos) << far.error().message;
    EXPECT_FALSE(bridgesBetween({rectangle(0, 0, 20, 20)}, {}));
}

// As a step: the first that is chosen gives its name, and what was drawn on the others is there.
TEST(Bridges, AsAStepTheyMakeOnePiece) {
    const Shapes pieces = ringCutOut(20, 12);
    Pieces before{{support::piece(id(1), pieces[0]), support::piece(id(2), pieces[1])}, {}};
    design::Body plate = *before.now[0].body;
    plate.lines = {
        {design::LineId{1}, {{-30, 25}, {geometry::Segment::line({30, 25})}}, design::Fold{}, true, true}};
    before.now[0].body = std::make_shared<const design::Body>(plate);
    Step step = makeStep(Action::Bridge, {id(1), id(2)}, {2.5, 2, 1});
    step.id = design::StepId{5};
    const auto out = apply(before, step);
    ASSERT_TRUE(out);
    ASSERT_EQ(out->pieces.now.size(), 1u);
    EXPECT_EQ(out->pieces.now[0].id, id(1));
    EXPECT_EQ(out->pieces.now[0].shape().openings.size(), 2u);
    ASSERT_EQ(out->pieces.now[0].body->lines.size(), 1u);
    EXPECT_NEAR(geometry::contourLength(out->pieces.now[0].body->lines[0].path), 60, 1e-6);
    EXPECT_FALSE(design::checkValues(*infoOf(step), makeStep(Action::Bridge, {id(1), id(2)}, {0.1, 2, 1})));
}

} // namespace
} // namespace thinline::shape
