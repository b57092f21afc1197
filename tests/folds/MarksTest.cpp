// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "folds/Marks.h"

#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "support/Loops.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <random>

namespace thinline::folds {
namespace {

using geometry::Line;
using geometry::Shape;
using support::disc;
using support::rectangle;

std::vector<Line> marks(const std::vector<Shape>& pieces, double liftMm = 0, const MarkPlan& plan = {}) {
    auto out = marksOf(pieces, liftMm, plan);
    if (!out)
        throw std::runtime_error(out.error().message);
    return out.take();
}
double lengthOf(const std::vector<Line>& lines) {
    double sum = 0;
    for (const Line& line : lines)
        sum += geometry::contourLength(line);
    return sum;
}

TEST(PlacementMarks, LieInsideByTheInsetAndTheLift) {
    const auto plain = marks({rectangle(0, 0, 60, 40)});
    ASSERT_EQ(plain.size(), 1u);
    EXPECT_NEAR(lengthOf(plain), 2 * (60 - 1.4 + 40 - 1.4), 1e-6);
    EXPECT_NEAR(lengthOf(marks({rectangle(0, 0, 60, 40)}, 2)), 2 * (60 - 5.4 + 40 - 5.4), 1e-6)
        << "foam of 2 mm";
    EXPECT_TRUE(marks({rectangle(0, 0, 1.3, 40)}).empty()) << "too narrow to hide one";
    // Pieces that touch are marked as one; the seam between them shows nothing.
    EXPECT_NEAR(lengthOf(marks({rectangle(0, 0, 30, 40), rectangle(30, 0, 30, 40)})), lengthOf(plain), 1e-6);
}

TEST(PlacementMarks, AreCornersOrStretchesWhereThatIsAsked) {
    MarkPlan plan{MarksAs::Corners, 1, false};
    const auto corners = marks({rectangle(0, 0, 62, 42)}, 0, plan);
    EXPECT_EQ(corners.size(), 4u);
    EXPECT_NEAR(lengthOf(corners), 4 * 10, 1e-6);
    for (const Line& line : corners)
        EXPECT_LT(geometry::distance(line.start, geometry::endOf(line)), 7.5) << "round a corner";
    plan.as = MarksAs::Stretches;
    const auto stretches = marks({rectangle(0, 0, 62, 42)}, 0, plan);
    EXPECT_EQ(stretches.size(), 5u) << "200 mm, one every 40";
    EXPECT_NEAR(lengthOf(stretches), 5 * 8, 1e-6);
    plan.as = MarksAs::Corners;
    EXPECT_GT(marks({disc({0, 0}, 40)}, 0, plan).size(), 1u) << "a disc has no corners: stretches";
}

TEST(PlacementMarks, LieWhereNothingElseCoversThePieceBelow) {
    const Shape base = rectangle(0, 0, 100, 100), between = rectangle(0, 0, 50, 100);
    const auto all = marks({rectangle(20, 20, 60, 60)}, 0, {MarksAs::Outlines, 1, true});
    const auto onBase = marksOn(base, {between}, all), onBetween = marksOn(between, {}, all);
    ASSERT_TRUE(onBase && onBetween);
    EXPECT_NEAR(lengthOf(*onBase) + lengthOf(*onBetween), lengthOf(all), 1e-6);
    for (const Line& line : *onBase)
        EXPECT_GE(geometry::bounds(line).least.x, 50 - 1e-6);
    // A window in the piece below takes the mark away there, a piece beside it gets none.
    const auto holed = marksOn(support::withOpening(base, rectangle(10, 10, 20, 80)), {}, all);
    ASSERT_TRUE(holed);
    EXPECT_LT(lengthOf(*holed), lengthOf(all) - 50);
    EXPECT_TRUE(marksOn(rectangle(200, 0, 10, 10), {}, all)->empty());
}

// Never outside the covering piece, whatever its shape: by areas, against the set operations.
TEST(PlacementMarks, NeverLookOut) {
    std::mt19937 random(20261128);
    for (int turn = 0; turn < 40; ++turn) {
        std::vector<Shape> pieces;
        for (int i = 0; i < 3; ++i)
            pieces.push_back(support::blob(random, {30.0 * i, 10.0 * (turn % 3)}, 18, 9, 0.6));
        const MarkPlan plan{static_cast<MarksAs>(turn % 3), 0.7, true};
        const double lift = turn % 4;
        const auto covering = geometry::weld(pieces);
        ASSERT_TRUE(covering);
        for (const Line& line : marks(pieces, lift, plan))
            for (double share = 0; share <= 1; share += 0.05) {
                const geometry::Point p =
                    geometry::endOf(geometry::stretchOfLine(line, 0, share * geometry::contourLength(line)));
                bool isInside = false;
                for (const Shape& shape : *covering)
                    if (geometry::contains(shape, p)) {
                        isInside = true;
                        EXPECT_GT(geometry::nearestOnEdge(shape, p)->distance, 0.7 + lift - 0.01);
                    }
                EXPECT_TRUE(isInside) << turn << ": " << p.x << "," << p.y;
            }
    }
}

} // namespace
} // namespace thinline::folds
