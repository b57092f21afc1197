// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Measures.h"

#include "geometry/Boolean.h"
#include "geometry/Necks.h"
#include "geometry/Openings.h"
#include "geometry/Placing.h"
#include "support/Loops.h"

#include <gtest/gtest.h>

namespace thinline::geometry {
namespace {

using std::numbers::pi;
using support::blob;
using support::disc;
using support::rectangle;
using support::withOpening;
using Shapes = std::vector<Shape>;

TEST(Contains, AgreesWithTheFineFlattenedCopy) {
    std::mt19937 random(1);
    for (int i = 0; i < 20; ++i) {
        const Shape shape = withOpening(blob(random, {0, 0}, 20, 6 + i % 7, 0.4), disc({1, 2}, 5));
        const Polygons fine = flatten(shape, 1e-5);
        for (int k = 0; k < 400; ++k) {
            const double x = random() % 6000 * 0.01 - 30, y = random() % 6000 * 0.01 - 30;
            EXPECT_EQ(contains(shape, {x, y}), contains(fine, {x, y})) << x << ", " << y;
        }
    }
}

// Pick's theorem (standard): a lattice polygon with I lattice points inside and B on its edge has area I +
// B/2 - 1.
TEST(Contains, LatticePointsObeyPicksTheorem) {
    const Shape shape{contourThrough({{0, 0}, {12, 3}, {17, 14}, {9, 8}, {4, 15}, {3, 6}}), {}};
    int inside = 0, onEdge = 0;
    for (int x = -1; x <= 18; ++x)
        for (int y = -1; y <= 16; ++y) {
            const Point p{static_cast<double>(x), static_cast<double>(y)};
            if (nearestOnEdge(shape, p)->distance < 1e-9)
                ++onEdge;
            else
                inside += contains(shape, p) ? 1 : 0;
        }
    EXPECT_NEAR(area(shape), inside + onEdge / 2.0 - 1, 1e-9);
}

TEST(NearestOnEdge, IsNeverFartherThanAnySample) {
    std::mt19937 random(2);
    const Shape shape = withOpening(blob(random, {0, 0}, 20, 9, 0.4), disc({1, 2}, 5));
    const Polygons fine = flatten(shape, 1e-4);
    for (int k = 0; k < 200; ++k) {
        const double x = random() % 6000 * 0.01 - 30, y = random() % 6000 * 0.01 - 30;
        const auto place = nearestOnEdge(shape, {x, y});
        double least = 1e9;
        for (const Polygon& ring : fine)
            for (size_t i = 0; i < ring.size(); ++i)
                least = std::min(least, distanceToStretch({x, y}, ring[i], ring[(i + 1) % ring.size()]));
        EXPECT_NEAR(place->distance, least, 2e-4);
        EXPECT_NEAR(distance(place->point, {x, y}), place->distance, 1e-12);
    }
    EXPECT_FALSE(nearestOnEdge({}, {0, 0}));
}

TEST(LeastRectangle, ATurnedRectangleIsFoundAgain) {
    for (double turn : {0.0, 0.3, 1.0, 2.5}) {
        const TurnedRectangle found = leastRectangle({support::turned(rectangle(3, 4, 40, 15), turn)});
        EXPECT_NEAR(found.widthMm, 40, 1e-9);
        EXPECT_NEAR(found.heightMm, 15, 1e-9);
        const Box straight = bounds(support::turned(rectangle(3, 4, 40, 15), turn + found.turnRad));
        EXPECT_NEAR(straight.width(), 40, 1e-6);
    }
}

// The referee turns the shapes by every twentieth of a degree.
TEST(BestTurn, IsAtLeastAsLargeAsEveryTurnTriedByHand) {
    std::mt19937 random(6);
    for (int i = 0; i < 12; ++i) {
        const Shapes shapes{blob(random, {0, 0}, 20, 5 + i % 5, 0.5), blob(random, {35, 11}, 6, 6, 0.3)};
        const double w = 292.1, h = i % 2 ? 596.9 : 203.2;
        const BestTurn best = bestTurn(shapes, w, h);
        double tried = 0;
        for (int k = -1800; k < 1800; ++k) {
            Box box;
            for (const Shape& shape : shapes)
                box.include(bounds(support::turned(shape, k * pi / 3600)));
            tried = std::max(tried, std::min(w / box.width(), h / box.height()));
        }
        EXPECT_GE(best.scale, tried * (1 - 1e-6));
        EXPECT_LE(best.scale, tried * 1.002); // a twentieth of a degree is not far off
        Box box;
        for (const Shape& shape : shapes)
            box.include(bounds(support::turned(shape, best.turnRad)));
        EXPECT_NEAR(std::min(w / box.width(), h / box.height()), best.scale, 1e-4);
    }
    EXPECT_EQ(bestTurn({}, 10, 10).scale, 0);
}

TEST(LargestRectangleInside, TouchesAndStaysInside) {
    // A plain rectangle is its own largest; in a disc it is the square with half the diameter's square.
    const auto whole = largestRectangleInside(rectangle(5, 7, 60, 20));
    ASSERT_TRUE(whole);
    EXPECT_NEAR(whole->width() * whole->height(), 1200, 12);
    const auto square = largestRectangleInside(disc({0, 0}, 50));
    ASSERT_TRUE(square);
    EXPECT_GT(square->width() * square->height(), 0.97 * 5000);
    EXPECT_LE(square->width() * square->height(), 5000 * 1.001);
    std::mt19937 random(8);
    for (int i = 0; i < 5; ++i) {
        const Shape shape = withOpening(blob(random, {0, 0}, 40, 7, 0.4), disc({3, 2}, 9));
        const auto box = largestRectangleInside(shape);
        ASSERT_TRUE(box);
        const Shape found = rectangle(box->least.x, box->least.y, box->width(), box->height());
        const auto over = subtract({found}, {shape});
        ASSERT_TRUE(over);
        EXPECT_TRUE(over->empty());
    }
}

TEST(ConnectedGroups, OverlapAndSharedEdgesHoldAndAPointDoesNot) {
    const Shapes shapes{rectangle(0, 0, 10, 10), rectangle(50, 0, 10, 10), rectangle(9, 3, 20, 2),
                        rectangle(60, 4, 5, 3),  rectangle(60, 10, 5, 5),  rectangle(100, 0, 1, 1)};
    const auto groups = connectedGroups(shapes);
    ASSERT_TRUE(groups);
    EXPECT_EQ(*groups, (std::vector<int>{0, 1, 0, 1, 2, 3}));
    const auto loose = islands(shapes, {rectangle(-1, -1, 5, 100)});
    ASSERT_TRUE(loose);
    EXPECT_EQ(*loose, (std::vector<size_t>{1, 3, 4, 5}));
}

TEST(Openings, AreListedSmallestFirstAndFilledByEitherLimit) {
    Shape shape = rectangle(0, 0, 100, 100);
    shape = withOpening(shape, disc({20, 20}, 8));
    shape = withOpening(shape, rectangle(50, 10, 40, 0.5)); // a slit: large enough by area, not by width
    shape = withOpening(shape, rectangle(10, 60, 2, 2));
    const auto list = openingsOf(shape);
    ASSERT_EQ(list.size(), 3u);
    EXPECT_EQ(list[0].index, 2u);
    EXPECT_NEAR(list[0].areaMm2, 4, 1e-9);
    EXPECT_NEAR(list[1].widthMm, 0.5, 1e-9);
    EXPECT_NEAR(list[2].widthMm, 16, 0.01);
    EXPECT_EQ(withSmallOpeningsFilled(shape, 5, 0).openings.size(), 2u);
    EXPECT_EQ(withSmallOpeningsFilled(shape, 0, 1).openings.size(), 2u);
    EXPECT_EQ(withSmallOpeningsFilled(shape, 5, 1).openings.size(), 1u);
    EXPECT_EQ(withOpeningsFilled(shape, {0, 7}).openings.size(), 2u);
    EXPECT_EQ(withOpeningsKept(shape, {1}).openings, (std::vector<Contour>{shape.openings[1]}));
}

TEST(Gaps, AreTheNecksOfWhatIsNotCard) {
    // Two plates 0.6 mm apart, and a slit of 0.4 mm in one of them.
    const Shapes plates{withOpening(rectangle(0, 0, 20, 20), rectangle(5, 5, 10, 0.4)),
                        rectangle(20.6, 5, 20, 10)};
    const auto gaps = findGaps(plates, 1);
    ASSERT_TRUE(gaps);
    ASSERT_EQ(gaps->size(), 2u);
    EXPECT_NEAR((*gaps)[0].widthMm, 0.4, 0.02);
    EXPECT_NEAR((*gaps)[1].widthMm, 0.6, 0.02);
    EXPECT_NEAR((*gaps)[1].place.x, 20.3, 0.1);
    EXPECT_NEAR(narrowestGap(plates)->value().widthMm, 0.4, 0.02);
    EXPECT_FALSE(narrowestGap({disc({0, 0}, 10)})->has_value());
    EXPECT_NEAR(narrowestNeck(support::dumbbell(20, 3, 10))->value().widthMm, 3, 0.1);
    EXPECT_NEAR(narrowestNeck(disc({0, 0}, 10))->value().widthMm, 20, 0.5); // its own width
}

TEST(Placing, SizesAreExactAboutTheCorner) {
    const Box box{{10, 20}, {50, 40}};
    const auto check = [&](std::optional<double> w, std::optional<double> h, double wantedW, double wantedH) {
        const auto map = toSize(box, w, h);
        ASSERT_TRUE(map);
        EXPECT_NEAR((*map)(box.most).x - (*map)(box.least).x, wantedW, 1e-9);
        EXPECT_NEAR((*map)(box.most).y - (*map)(box.least).y, wantedH, 1e-9);
        EXPECT_NEAR(distance((*map)(box.least), box.least), 0, 1e-9);
    };
    check(80, std::nullopt, 80, 40);
    check(std::nullopt, 10, 20, 10);
    check(80, 10, 80, 10);
    for (double bad : {0.0, -3.0, std::numeric_limits<double>::quiet_NaN()})
        EXPECT_FALSE(toSize(box, bad, std::nullopt));
    EXPECT_FALSE(toSize(Box{{0, 0}, {0, 5}}, 10, std::nullopt));
    // A quarter turn clockwise about the middle, and a mirror that keeps the orientation rule.
    EXPECT_NEAR(distance(turnAbout({5, 5}, pi / 2)({6, 5}), {5, 6}), 0, 1e-12);
    const Shape mirrored = transformed(support::dumbbell(10, 2, 5), mirrorAbout({3, 0}, Axis::Vertical));
    EXPECT_GT(signedArea(mirrored.outline), 0);
    EXPECT_NEAR(bounds(mirrored).most.x, 6, 1e-9);
}

TEST(Placing, AlignsAndSpacesByNumbers) {
    const std::vector<Box> boxes{{{0, 0}, {10, 10}}, {{30, 5}, {34, 9}}, {{12, 2}, {20, 30}}};
    EXPECT_EQ(alignMoves(boxes, Axis::Horizontal, Edge::Low), (std::vector<double>{0, -30, -12}));
    EXPECT_EQ(alignMoves(boxes, Axis::Vertical, Edge::High), (std::vector<double>{20, 21, 0}));
    EXPECT_EQ(alignMoves(boxes, Axis::Horizontal, Edge::Middle), (std::vector<double>{12, -15, 1}));
    const Spacing even = evenSpacing(boxes, Axis::Horizontal);
    EXPECT_NEAR(even.gapMm, 6, 1e-9);
    EXPECT_EQ(even.moves, (std::vector<double>{0, 0, 4}));
    const Spacing wide = spacingOf(boxes, Axis::Horizontal, 10);
    EXPECT_EQ(wide.moves, (std::vector<double>{0, 8, 8}));
    EXPECT_EQ(evenSpacing({boxes[0]}, Axis::Vertical).moves, (std::vector<double>{0}));
}

TEST(EnclosingCircle, IsTheSmallestAroundAll) {
    // A triangle's circumscribed circle (Euclid IV.5), a rectangle's, one decided by two points alone.
    const auto circle = [](const Polygon& points) { return enclosingCircle({{contourThrough(points), {}}}); };
    EXPECT_NEAR(circle({{0, 0}, {30, 0}, {0, 40}}).radius, 25, 1e-9);
    EXPECT_NEAR(circle({{0, 0}, {60, 0}, {60, 80}, {0, 80}}).radius, 50, 1e-9);
    const Circle flat = circle({{0, 0}, {100, 0}, {50, 10}});
    EXPECT_NEAR(flat.radius, 50, 1e-9);
    EXPECT_NEAR(flat.centre.x, 50, 1e-9);
    EXPECT_NEAR(enclosingCircle({support::disc({10, 20}, 7), support::disc({40, 20}, 3)}).radius, 20, 1e-4);
    EXPECT_EQ(enclosingCircle({}).radius, 0);
}

} // namespace
} // namespace thinline::geometry
