// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/CutOnce.h"

#include "geometry/Boolean.h"
#include "geometry/Parting.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

#include <cmath>
#include <limits>
#include <numbers>

namespace thinline::geometry {
namespace {

using support::disc;
using support::rectangle;
using support::withOpening;

std::vector<CutLines> must(const std::vector<Shape>& shapes) {
    auto out = cutOnce(shapes);
    if (!out)
        throw std::runtime_error(out.error().message);
    return out.take();
}

double total(const std::vector<CutLines>& cuts) {
    double sum = 0;
    for (const CutLines& one : cuts)
        sum += one.length();
    return sum;
}

TEST(CutOnce, WhatCoincidesIsCutOnce) {
    struct Row {
        const char* what;
        std::vector<Shape> shapes;
        double lengthMm; ///< by hand
        std::vector<size_t> outlines, lines;
    };
    const Shape ring = withOpening(rectangle(0, 0, 40, 40), rectangle(10, 10, 20, 20));
    const Row rows[] = {
        {"two apart", {rectangle(0, 0, 10, 10), rectangle(20, 0, 10, 10)}, 80, {1, 1}, {0, 0}},
        {"side by side", {rectangle(0, 0, 10, 10), rectangle(10, 0, 10, 10)}, 70, {1, 0}, {0, 1}},
        {"the same twice", {rectangle(0, 0, 10, 10), rectangle(0, 0, 10, 10)}, 40, {1, 0}, {0, 0}},
        {"a long side along two short ones",
         {rectangle(0, 0, 30, 10), rectangle(0, 10, 10, 10), rectangle(15, 10, 15, 10)},
         80 + 30 + 35,
         {1, 0, 0},
         {0, 1, 1}},
        {"between two",
         {rectangle(0, 0, 10, 10), rectangle(20, 0, 10, 10), rectangle(10, 0, 10, 10)},
         100,
         {1, 1, 0},
         {0, 0, 2}},
        {"in an opening it fills", {ring, rectangle(10, 10, 20, 20)}, 160 + 80, {2, 0}, {0, 0}},
        {"in an opening, round the other way", {rectangle(10, 10, 20, 20), ring}, 80 + 160, {1, 1}, {0, 0}},
        {"crossing", {rectangle(0, 0, 10, 10), rectangle(5, 5, 10, 10)}, 80, {1, 1}, {0, 0}},
        {"none", {}, 0, {}, {}},
    };
    for (const Row& row : rows) {
        const auto cuts = must(row.shapes);
        EXPECT_NEAR(total(cuts), row.lengthMm, 1e-6) << row.what;
        for (size_t i = 0; i < cuts.size(); ++i) {
            EXPECT_EQ(cuts[i].outlines.size(), row.outlines[i]) << row.what << ", shape " << i;
            EXPECT_EQ(cuts[i].lines.size(), row.lines[i]) << row.what << ", shape " << i;
        }
    }
}

TEST(CutOnce, AnOutlineAloneComesBackToTheBit) {
    const Shape one = disc({3.3, 7.1}, 12.7);
    const auto cuts = must({one, rectangle(100, 0, 5, 5)});
    ASSERT_EQ(cuts[0].outlines.size(), 1u);
    EXPECT_EQ(cuts[0].outlines[0], one.outline);
}

/// Any plate parted by any lines: the edge of the plate and the seams, each once. The seams' length comes from
/// the areas' parts alone: all their outlines, less the plate's edge, are the seams twice.
TEST(CutOnce, PartsOfAPlateAreItsEdgeAndItsSeams) {
    for (int turn = 0; turn < 12; ++turn) {
        const Shape plate = disc({0, 0}, 30);
        std::vector<Line> seams;
        for (int i = 0; i < 3; ++i) {
            const double angle = turn * 0.23 + i * 1.1;
            const Point along{std::cos(angle), std::sin(angle)},
                aside{-along.y * (i * 4 - 5), along.x * (i * 4 - 5)};
            seams.push_back(
                {along * -50 + aside,
                 {Segment::curve(along * -20 + aside * 2, along * 20 - aside, along * 50 + aside)}});
        }
        const auto parted = partedBy(plate, seams);
        ASSERT_TRUE(parted);
        double all = 0;
        for (const Shape& part : parted->parts)
            all += cutLength(part);
        const double edge = cutLength(plate);
        EXPECT_NEAR(total(must(parted->parts)), edge + (all - edge) / 2, 1e-3) << turn;
        std::vector<Shape> backwards(parted->parts.rbegin(), parted->parts.rend());
        EXPECT_NEAR(total(must(backwards)), edge + (all - edge) / 2, 1e-3) << turn;
    }
}

TEST(CutOnce, WhatCannotBeIsSaid) {
    Shape bad = rectangle(0, 0, 10, 10);
    bad.outline.segments[1].end.x = std::numeric_limits<double>::quiet_NaN();
    EXPECT_EQ(cutOnce({bad}).error().code, base::Code::InvalidArgument);
    EXPECT_EQ(cutOnce({rectangle(0, 0, 3000, 10)}).error().code, base::Code::LimitExceeded);
}

} // namespace
} // namespace thinline::geometry
