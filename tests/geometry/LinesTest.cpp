// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Lines.h"

#include "geometry/Cubic.h"
#include "geometry/Measures.h"
#include "support/Loops.h"

#include <gtest/gtest.h>

#include <numbers>
#include <random>

namespace thinline::geometry {
namespace {

using support::disc;
using support::rectangle;

Line straight(Point a, Point b) {
    return {a, {Segment::line(b)}};
}

TEST(Crossings, AreOnBothCurvesAndAsManyAsAFineCopyHas) {
    std::mt19937 random(3);
    const auto point = [&] {
        const double x = random() % 1000 * 0.06, y = random() % 1000 * 0.06;
        return Point{x, y};
    };
    for (int i = 0; i < 200; ++i) {
        const Cubic a{point(), point(), point(), point()}, b{point(), point(), point(), point()};
        const auto found = crossingsOf(a, b);
        for (const auto& [t, s] : found)
            EXPECT_LT(distance(a.at(t), b.at(s)), 1e-8);
        size_t counted = 0;
        constexpr int n = 600;
        for (int k = 0; k < n; ++k)
            for (int m = 0; m < n; ++m) {
                const Point p = a.at(k / 600.0), q = a.at((k + 1) / 600.0), u = b.at(m / 600.0),
                            v = b.at((m + 1) / 600.0);
                counted += (cross(q - p, u - p) > 0) != (cross(q - p, v - p) > 0) &&
                                   (cross(v - u, p - u) > 0) != (cross(v - u, q - u) > 0)
                               ? 1
                               : 0;
            }
        EXPECT_EQ(found.size(), counted) << "pair " << i;
    }
}

TEST(ClippedTo, CutsExactlyAtOutlineAndOpenings) {
    const Shape ring = support::withOpening(disc({0, 0}, 20), disc({0, 0}, 5));
    const auto parts = clippedTo(straight({-30, 0}, {30, 0}), ring);
    ASSERT_TRUE(parts);
    ASSERT_EQ(parts->size(), 2u);
    EXPECT_NEAR((*parts)[0].start.x, -20, 1e-9);
    EXPECT_NEAR((*parts)[0].segments.back().end.x, -5, 1e-9);
    EXPECT_NEAR((*parts)[1].segments.back().end.x, 20, 1e-9);
    EXPECT_TRUE(clippedTo(straight({-30, 25}, {30, 25}), ring)->empty());
    EXPECT_EQ(clippedTo({{0, std::nan("")}, {Segment::line({1, 1})}}, ring).error().code,
              base::Code::InvalidArgument);
}

TEST(ClippedTo, ALineThatOnlyTouchesARoundPieceInItsMiddleIsNotOnIt) {
    const Shape coin = disc({0, 0}, 10);
    for (const double turn : {0.0, 0.5, 1.0, 1.5}) { // there a drawn circle is a true one
        const double rad = turn * std::numbers::pi;
        const Point out{10 * std::sin(rad), -10 * std::cos(rad)}, along{std::cos(rad), std::sin(rad)};
        EXPECT_TRUE(clippedTo(straight(out - along * 15, out + along * 15), coin)->empty()) << turn;
    }
    // Touched from within, an opening leaves the line whole.
    const Shape ring = support::withOpening(disc({0, 0}, 20), disc({0, 0}, 5));
    const auto past = clippedTo(straight({-8, -5}, {8, -5}), ring);
    double length = 0;
    for (const Line& part : *past)
        length += contourLength(part);
    EXPECT_NEAR(length, 16, 1e-6);
}

TEST(EdgeAhead, IsWhereALineRunOnMeetsTheCut) {
    const Shape ring = support::withOpening(disc({0, 0}, 20), disc({0, 0}, 5));
    const auto out = edgeAhead(straight({8, 0}, {9, 0}), ring, 100);
    ASSERT_TRUE(out);
    EXPECT_NEAR(distance(*out, {20, 0}), 0, 1e-6);
    const auto in = edgeAhead(straight({9, 0}, {8, 0}), ring, 100); // the opening's edge is nearer
    ASSERT_TRUE(in);
    EXPECT_NEAR(distance(*in, {5, 0}), 0, 1e-6);
    EXPECT_FALSE(edgeAhead(straight({8, 0}, {9, 0}), ring, 10.9));
    EXPECT_FALSE(edgeAhead({{8, 0}, {}}, ring, 100));
}

TEST(IsNearEdge, AnswersAsTheNearestPlaceDoes) {
    const Shape ring = support::withOpening(disc({0, 0}, 20), support::rectangle(-4, -3, 9, 5));
    std::mt19937 random(7);
    std::uniform_real_distribution<double> place(-22, 22), within(1e-4, 4);
    int near = 0;
    for (int i = 0; i < 3000; ++i) {
        const Point p{place(random), place(random)};
        const double reach = within(random);
        const bool isNear = isNearEdge(ring, p, reach);
        EXPECT_EQ(isNear, nearestOnEdge(ring, p)->distance < reach) << p.x << " " << p.y << " " << reach;
        near += isNear;
    }
    EXPECT_GT(near, 300);
    EXPECT_LT(near, 2700);
}

TEST(ExtendedToEdge, RunsOnStraightUntilTheCut) {
    const Shape plate = rectangle(0, 0, 100, 50);
    const auto fold = extendedToEdge(straight({30, 25}, {60, 25}), plate, 100);
    ASSERT_TRUE(fold);
    ASSERT_EQ(fold->size(), 1u);
    EXPECT_NEAR(fold->front().start.x, 0, 1e-9);
    EXPECT_NEAR(fold->front().segments.back().end.x, 100, 1e-9);
    // Too far away: that end stays.
    const auto half = extendedToEdge(straight({30, 25}, {60, 25}), plate, 35);
    EXPECT_NEAR(half->front().start.x, 0, 1e-9);
    EXPECT_NEAR(half->front().segments.back().end.x, 60, 1e-9);
    // An end outside is cut back.
    EXPECT_NEAR(extendedToEdge(straight({30, 25}, {130, 25}), plate, 100)->front().segments.back().end.x, 100,
                1e-9);
}

TEST(Dashed, BeginAndEndWholeAndAddUp) {
    const Line arc{{0, 0}, {Segment::curve({10, 20}, {40, -20}, {50, 0}), Segment::line({80, 0})}};
    const double whole = contourLength(arc);
    const auto dashes = dashed(arc, 2.5, 1.5);
    ASSERT_TRUE(dashes);
    EXPECT_NEAR(dashes->scale, 1, 0.05);
    double cut = 0;
    for (const Line& dash : dashes->cuts) {
        EXPECT_NEAR(contourLength(dash), 2.5 * dashes->scale, 1e-6);
        cut += contourLength(dash);
    }
    EXPECT_NEAR(cut + (dashes->cuts.size() - 1) * 1.5 * dashes->scale, whole, 1e-5);
    EXPECT_EQ(dashes->cuts.front().start, arc.start);
    EXPECT_NEAR(distance(dashes->cuts.back().segments.back().end, {80, 0}), 0, 1e-6);
    EXPECT_EQ(dashed(straight({0, 0}, {1, 0}), 5, 2)->cuts.size(), 1u);
    EXPECT_FALSE(dashed(arc, 0, 1));
    EXPECT_FALSE(dashed(arc, 1, -1));
    EXPECT_FALSE(dashed({{3, 3}, {}}, 1, 1));
    EXPECT_FALSE(dashed(straight({0, 0}, {1000, 0}), 1e-3, 1e-3));
}

Line lineOf(std::initializer_list<Point> points) {
    Line out{*points.begin(), {}};
    for (auto p = points.begin() + 1; p != points.end(); ++p)
        out.segments.push_back(Segment::line(*p));
    return out;
}

TEST(JoinedEnds, LooseSidesInAnyOrderBecomeOutlines) {
    // Two squares of loose sides, some drawn backwards, with gaps below the tolerance.
    std::vector<Line> sides;
    for (double x : {0.0, 50.0}) {
        sides.push_back(lineOf({{x, 0}, {x + 10, 0}}));
        sides.push_back(lineOf({{x, 10.02}, {x + 10, 10}}));
        sides.push_back(lineOf({{x + 10, 10}, {x + 10.03, 0}}));
        sides.push_back(lineOf({{x, 0}, {x, 10}}));
    }
    std::swap(sides[1], sides[6]);
    const auto joined = joinedEnds(sides, 0.1);
    ASSERT_TRUE(joined);
    ASSERT_EQ(joined->outlines.size(), 2u);
    EXPECT_TRUE(joined->lines.empty());
    EXPECT_EQ(joined->gapsClosed, 4);
    EXPECT_NEAR(joined->widestGapMm, 0.03, 1e-9);
    for (const Contour& outline : joined->outlines) {
        EXPECT_NEAR(std::abs(signedArea(outline)), 100, 0.5);
        EXPECT_EQ(outline.segments.back().end, outline.start);
    }
}

TEST(JoinedEnds, WhatDoesNotMeetStaysOpen) {
    const auto apart = joinedEnds({lineOf({{0, 0}, {10, 0}}), lineOf({{10.2, 0}, {20, 0}})}, 0.1);
    EXPECT_EQ(apart->lines.size(), 2u);
    const auto chain = joinedEnds({lineOf({{0, 0}, {10, 0}}), lineOf({{20, 5}, {10, 0}})}, 0.1);
    ASSERT_EQ(chain->lines.size(), 1u);
    EXPECT_EQ(chain->lines[0].segments.size(), 2u);
    EXPECT_TRUE(joinedEnds({}, 0.1)->lines.empty());
    EXPECT_FALSE(joinedEnds({}, -1));
    // A speck shorter than the tolerance is no outline.
    EXPECT_TRUE(joinedEnds({lineOf({{0, 0}, {0.05, 0}, {0, 0}})}, 0.1)->outlines.empty());
}

struct PerforatedRow {
    double lengthMm;
    size_t cuts;
    double leastBridgeMm; ///< between cuts and at the ends
};

// By hand: cuts of 2.5 mm, 1.5 mm left at least, 2 mm at both ends (from memory); what is over goes to the bridges.
TEST(Perforated, CutsAreWholeAndNoBridgeIsShorterThanAsked) {
    const Perforation how;
    const PerforatedRow rows[] = {{60, 14, 1.5}, {10.5, 2, 1.5}, {6.5, 1, 2}, {6, 1, 2},
                                  {5.3, 1, 2},   {5, 0, 0},      {1, 0, 0}};
    for (const PerforatedRow& row : rows) {
        SCOPED_TRACE(row.lengthMm);
        const Line line{{3, 4}, {Segment::line({3, 4 + row.lengthMm})}};
        const auto cuts = perforated(line, how);
        ASSERT_TRUE(cuts);
        ASSERT_EQ(cuts->size(), row.cuts);
        double cut = 0, before = 4;
        for (size_t i = 0; i < cuts->size(); ++i) {
            const Line& one = (*cuts)[i];
            EXPECT_GE(one.start.y - before, (i == 0 ? how.leftAtEndsMm : how.leftMm) - 1e-9);
            before = one.segments.back().end.y;
            cut += contourLength(one);
            EXPECT_LE(contourLength(one), how.cutMm + 1e-9);
            EXPECT_GE(contourLength(one), how.cutMm / 2 - 1e-9);
        }
        if (row.cuts > 0) {
            EXPECT_GE(4 + row.lengthMm - before, how.leftAtEndsMm - 1e-9);
            EXPECT_GE(1 - cut / row.lengthMm, how.leftMm / (how.cutMm + how.leftMm))
                << "the share that stays";
        }
    }
    EXPECT_FALSE(perforated({{0, 0}, {Segment::line({9, 0})}}, {0, 1, 1}));
}

TEST(MeetingsAlong, AreWhereLinesCrossAndNotTheirEnds) {
    const Line line{{0, 0}, {Segment::line({10, 0}), Segment::line({10, 10})}};
    const std::vector<double> at = meetingsAlong(line, {{5, -5}, {Segment::line({5, 5})}});
    ASSERT_EQ(at.size(), 1u);
    EXPECT_NEAR(at[0], 5, 1e-9);
    EXPECT_NEAR(meetingsAlong(line, {{0, 5}, {Segment::line({20, 5})}}).at(0), 15, 1e-9);
    EXPECT_TRUE(meetingsAlong(line, {{0, -5}, {Segment::line({0, 5})}}).empty());
    EXPECT_TRUE(meetingsAlong(line, {{50, 50}, {Segment::line({60, 50})}}).empty());
}

} // namespace
} // namespace thinline::geometry
