// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "cutplan/Aids.h"

#include "geometry/Measures.h"
#include "support/Plans.h"
#include "support/Shapes.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <numbers>

namespace thinline::cutplan {
namespace {

using geometry::Line;
using geometry::Point;

constexpr double kPi = std::numbers::pi;

Line square(double side) {
    return geometry::contourThrough({{0, 0}, {side, 0}, {side, side}, {0, side}});
}

/// Drags a tip behind a shaft in small steps, and returns where it went: it always moves straight towards the shaft.
geometry::Polygon dragged(const Line& shaft, Point tip, double offsetMm) {
    geometry::Polygon out{tip};
    geometry::Polygon way = geometry::flatten(shaft, 0.002);
    way.push_back(geometry::endOf(shaft));
    for (std::size_t i = 0; i + 1 < way.size(); ++i) {
        const int steps = std::max(1, static_cast<int>(geometry::distance(way[i], way[i + 1]) / 0.005));
        for (int k = 1; k <= steps; ++k) {
            const Point at = way[i] + (way[i + 1] - way[i]) * (double(k) / steps);
            const double away = geometry::distance(tip, at);
            if (away > offsetMm)
                tip = at + (tip - at) * (offsetMm / away);
            out.push_back(tip);
        }
    }
    return out;
}

TEST(Swivelled, ASquareGetsAQuarterOfACircleAtEveryCorner) {
    const Line way = swivelled(square(20), 0.25);
    EXPECT_NEAR(geometry::contourLength(way), 80 + 2 * kPi * 0.25, 1e-5); // by hand
    EXPECT_EQ(geometry::endOf(way), way.start);
    EXPECT_EQ(swivelled(square(20), 0), square(20));
}

TEST(Swivelled, PlacesThatStandSeveralTimesAreOne) {
    const Line once = geometry::contourThrough({{0, 0}, {20, 0}, {20, 20}, {0, 20}});
    Line often = once;
    for (int i = 0; i < 3; ++i)
        often.segments.insert(often.segments.begin() + 1, geometry::Segment::line({20, 0}));
    EXPECT_TRUE(geometry::isFinite(swivelled(often, 0.25)));
    EXPECT_EQ(swivelled(often, 0.25), swivelled(once, 0.25));
}

TEST(Swivelled, ATipThatIsDraggedBehindItFollowsTheLine) {
    // Simulated, step by step: outside of the formula that led the shaft.
    geometry::Contour round =
        geometry::reversed(geometry::contourThrough({{0, 0}, {30, 0}, {30, 18}, {12, 25}, {0, 18}}));
    Line curved{{5, 5}, {geometry::Segment::curve({5, 20}, {30, 25}, {32, 8})}};
    for (const Line& line : {Line(square(12)), Line(round), curved})
        for (const double offset : {0.25, 0.9}) {
            const Line way = swivelled(line, offset);
            double worst = 0;
            for (const Point p : dragged(way, line.start, offset))
                worst = std::max(worst, geometry::distanceTo(line, p));
            EXPECT_LT(worst, 0.03) << offset;
            // And it comes to every corner.
            const geometry::Polygon tip = dragged(way, line.start, offset);
            for (const geometry::Segment& one : line.segments) {
                double nearest = 1e9;
                for (const Point p : tip)
                    nearest = std::min(nearest, geometry::distance(p, one.end));
                EXPECT_LT(nearest, 0.03) << offset;
            }
        }
}

TEST(Overcut, GoesOnBeyondItsBeginning) {
    const Line way = overcut(square(20), 1.5);
    EXPECT_NEAR(geometry::contourLength(way), 81.5, 1e-9);
    EXPECT_NEAR(geometry::distance(geometry::endOf(way), {1.5, 0}), 0, 1e-9);
    EXPECT_NEAR(geometry::contourLength(overcut(square(1), 5)), 8, 1e-9) << "round once more, no farther";
    EXPECT_EQ(overcut(square(20), 0), square(20));
}

TEST(Tabbed, LeavesBridgesOfTheWidthAsked) {
    // It begins in the middle of a side, as cuts do.
    const auto parts = tabbed(geometry::contourThrough({{5, 0}, {10, 0}, {10, 10}, {0, 10}, {0, 0}}), 2, 0.6);
    ASSERT_EQ(parts.size(), 2u);
    double length = 0;
    for (const Line& part : parts)
        length += geometry::contourLength(part);
    EXPECT_NEAR(length, 40 - 2 * 0.6, 1e-9);
    EXPECT_NEAR(geometry::distance(geometry::endOf(parts[0]), parts[1].start), 0.6, 1e-9);
    EXPECT_NEAR(geometry::distance(geometry::endOf(parts[1]), parts[0].start), 0.6, 1e-9);
    EXPECT_TRUE(tabbed(square(1), 2, 0.6).empty()) << "nothing would be left to cut";
    EXPECT_TRUE(tabbed(square(10), 0, 0.6).empty());
}

/// A square of 60 mm and one of 10 mm on a sheet.
class WithAids : public ::testing::Test {
  protected:
    void SetUp() override {
        m_stack.stocks = {{"sea", "sea", {60, 125, 140}}};
        m_stack.layers = {support::layer(1, "sea")};
        m_stack.pieces = {support::laid(1, support::rectangle(0, 0, 60, 60)),
                          support::laid(2, support::rectangle(0, 0, 10, 10))};
        design::PlacedSheet sheet;
        sheet.stockId = "sea";
        sheet.widthMm = sheet.heightMm = 200;
        for (int i = 0; i < 2; ++i)
            sheet.pieces.push_back(support::placed(m_stack, support::id(i + 1), 0, {20.0 + 80 * i, 20}));
        design::Load load;
        load.mat = {"m", "m", 220, 220, 5};
        load.sheets = {sheet};
        m_sheets.loads = {load};
    }
    design::PlannedLoad planned(const design::CutAids& aids) {
        PlanOptions options;
        options.aids = aids;
        auto plan = planOf(m_stack, m_sheets, support::anyMachine(), options);
        EXPECT_TRUE(plan);
        return plan->loads.front();
    }
    design::Stack m_stack;
    design::Arrangement m_sheets;
};

TEST_F(WithAids, EachAddsItsHandComputedLength) {
    const double plain = planned({}).lineMm();
    EXPECT_NEAR(plain, 240 + 40, 1e-9);
    EXPECT_NEAR(planned({0, 2, 0, 0.6}).lineMm(), plain + 2 * 2, 1e-9);
    EXPECT_NEAR(planned({0.25, 0, 0, 0.6}).lineMm(), plain + 2 * 2 * kPi * 0.25, 1e-5);
    // Bridges only in the small one.
    const design::PlannedLoad held = planned({0, 0, 3, 0.5});
    EXPECT_NEAR(held.lineMm(), plain - 3 * 0.5, 1e-9);
    int tabbedPaths = 0;
    for (const design::Pass& pass : held.passes)
        for (const design::PlannedPath& path : pass.paths)
            tabbedPaths += path.isTabbed;
    EXPECT_EQ(tabbedPaths, 3);
}

TEST_F(WithAids, ATestTileIsCutBeforeThePieces) {
    design::TestTile tile;
    tile.card = {
        geometry::contourThrough({{150, 150}, {170, 150}, {170, 165}, {150, 165}}),
        {geometry::reversed(geometry::contourThrough({{153, 153}, {158, 153}, {158, 158}, {153, 158}}))}};
    PlanOptions options;
    options.tiles[0] = tile;
    const auto plan = planOf(m_stack, m_sheets, support::anyMachine(), options);
    ASSERT_TRUE(plan);
    const design::PlannedLoad& load = plan->loads.front();
    ASSERT_GE(load.passes.size(), 3u);
    EXPECT_TRUE(load.passes[0].isTile && load.passes[0].operation == design::Operation::CutInside);
    EXPECT_TRUE(load.passes[1].isTile && load.passes[1].operation == design::Operation::Cut);
    EXPECT_FALSE(load.passes[2].isTile);
    EXPECT_EQ(load.passes[1].forceGf, load.passes[2].forceGf) << "at the planned setting";
    EXPECT_NEAR(load.lineMm(), 280 + 70 + 20, 1e-9);
    EXPECT_EQ(load.tile, tile);
}

} // namespace
} // namespace thinline::cutplan
