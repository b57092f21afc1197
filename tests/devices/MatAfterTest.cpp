// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/MatAfter.h"

#include "cutplan/Timeline.h"
#include "support/Plans.h"
#include "support/Shapes.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <deque>

namespace thinline::devices {
namespace {

using design::CopyOf;

/// A naive referee: the mat in squares of 0.5 mm, cut lines drawn into it; what cannot be reached from the corner of the
/// sheet without crossing one is free.
class Raster {
  public:
    explicit Raster(double sizeMm)
        : m_side(static_cast<int>(sizeMm / kCellMm)), m_isCut(static_cast<size_t>(m_side * m_side), 0) {}
    void draw(const geometry::Line& line) {
        const geometry::Polygon way = geometry::flatten(line, 0.05);
        for (size_t i = 0; i + 1 <= way.size(); ++i) {
            const geometry::Point a = way[i], b = i + 1 < way.size() ? way[i + 1] : line.segments.back().end;
            const int steps = static_cast<int>(geometry::distance(a, b) / (kCellMm / 4)) + 1;
            for (int k = 0; k <= steps; ++k)
                m_isCut[cellAt(a + (b - a) * (double(k) / steps))] = 1;
        }
    }
    void flood() {
        m_isReached.assign(m_isCut.size(), 0);
        std::deque<int> open{0};
        m_isReached[0] = 1;
        while (!open.empty()) {
            const int at = open.front(), x = at % m_side, y = at / m_side;
            open.pop_front();
            for (const auto& [dx, dy] : {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}}) {
                const int nx = x + dx, ny = y + dy;
                if (nx < 0 || ny < 0 || nx >= m_side || ny >= m_side)
                    continue;
                const auto next = static_cast<size_t>(ny * m_side + nx);
                if (!m_isReached[next] && !m_isCut[next]) {
                    m_isReached[next] = 1;
                    open.push_back(static_cast<int>(next));
                }
            }
        }
    }
    bool isFree(geometry::Point p) const { return !m_isReached[cellAt(p)]; }

  private:
    static constexpr double kCellMm = 0.5;
    size_t cellAt(geometry::Point p) const {
        return static_cast<size_t>(static_cast<int>(p.y / kCellMm) * m_side +
                                   static_cast<int>(p.x / kCellMm));
    }
    int m_side;
    std::vector<char> m_isCut, m_isReached;
};

class OnTheMat : public ::testing::Test {
  protected:
    OnTheMat() {
        stack.stocks = {{"sea", "sea", {}, 0.3, 216}};
        stack.layers = {support::layer(1, "sea")};
        design::PlacedSheet sheet{"sea", 0, 0, 300, 300, 5, {}};
        for (int i = 0; i < 16; ++i) {
            const design::PieceId id = support::id(i + 1);
            stack.pieces.push_back(support::laid(id, i % 3 == 0
                                                         ? support::disc({0, 0}, 6.0 + i)
                                                         : support::rectangle(0, 0, 10.0 + 2 * i, 8.0 + i)));
            sheet.pieces.push_back(support::placed(stack, id, 0, {10.0 + 70 * (i % 4), 10.0 + 70 * (i / 4)}));
        }
        load = {{"m", "m", 300, 300, 0}, {sheet}};
        planned = support::planOf(load, stack);
    }
    MatAfter after(double seconds, const WhatIf& what = {}) {
        auto out = matAfter(planned, load, stack, support::anyMachine(), seconds, what);
        if (!out)
            throw std::runtime_error(out.error().message);
        return out.take();
    }

    design::Stack stack;
    design::Load load;
    design::PlannedLoad planned;
};

TEST_F(OnTheMat, WhatIsFreeIsWhatANaiveFloodCannotReach) {
    const cutplan::Timeline timeline(planned, support::anyMachine());
    for (const double share : {0.0, 0.2, 0.45, 0.7, 0.9, 1.0}) {
        const double seconds = share * timeline.seconds();
        const MatAfter now = after(seconds);
        Raster raster(300);
        for (const cutplan::Moment& moment : timeline.moments())
            if (moment.what == cutplan::Moment::What::Line && moment.toS <= seconds + 1e-9)
                raster.draw(planned.passes[moment.pass].paths[moment.path].line);
        raster.flood();
        ASSERT_EQ(now.copies.size(), 16u);
        for (size_t i = 0; i < now.copies.size(); ++i) {
            const design::Laid& laid = *stack.find(now.copies[i].what.piece);
            const geometry::Point middle = design::placement(laid.piece, load.sheets[0].pieces[i].pose)(
                geometry::bounds(laid.shape()).centre());
            EXPECT_EQ(now.copies[i].comes == Comes::Free, raster.isFree(middle)) << share << " " << i;
        }
    }
    EXPECT_EQ(after(1e9).count(Comes::Free), 16);
    EXPECT_EQ(after(0).count(Comes::Held), 16);
}

TEST_F(OnTheMat, ADullBladeDoesNotGoThrough) {
    EXPECT_EQ(after(1e9, {true}).count(Comes::NotThrough), 16);
    // In two rounds the same force does: each needs to go half as deep.
    const design::Stock& stock = stack.stocks.front();
    EXPECT_TRUE(cutThrough(stock, stack.stocks, 210, 1, {}));
    EXPECT_FALSE(cutThrough(stock, stack.stocks, 210, 1, {true}));
    EXPECT_TRUE(cutThrough(stock, stack.stocks, 210, 2, {true}));
    EXPECT_FALSE(cutThrough(stock, stack.stocks, 210, 0, {}));
}

/// A frame of 60 mm with an opening and a small square, on a sheet whose far edge is near.
class Slipping : public ::testing::Test {
  protected:
    Slipping() {
        stack.stocks = {{"sea", "sea", {}, 0.3, 216}};
        stack.layers = {support::layer(1, "sea")};
        stack.pieces = {support::laid(1, support::withOpening(support::rectangle(0, 0, 60, 60),
                                                              support::rectangle(20, 20, 20, 20))),
                        support::laid(2, support::rectangle(0, 0, 10, 10))};
        design::PlacedSheet sheet{"sea", 10, 10, 120, 90, 5, {}};
        sheet.pieces = {support::placed(stack, support::id(1), 0, {15.3, 39.8}),
                        support::placed(stack, support::id(2), 0, {100, 40})};
        load = {{"m", "m", 300, 300, 0}, {sheet}};
        planned = support::planOf(load, stack);
    }
    MatAfter after(const WhatIf& what = {}) {
        auto out = matAfter(planned, load, stack, support::anyMachine(), 1e9, what);
        if (!out)
            throw std::runtime_error(out.error().message);
        return out.take();
    }
    design::Stack stack;
    design::Load load;
    design::PlannedLoad planned;
};

TEST_F(Slipping, AnOutlineBeforeItsHolesShowsTheHoleCutAskew) {
    EXPECT_TRUE(after().slips.empty());
    ASSERT_EQ(planned.passes.size(), 2u);
    std::swap(planned.passes[0], planned.passes[1]);
    const MatAfter now = after();
    ASSERT_EQ(now.slips.size(), 1u);
    EXPECT_EQ(now.slips[0].kind, Slip::Kind::CutAskew);
    EXPECT_EQ(now.slips[0].what.piece, support::id(1));
    EXPECT_NE(slipText(now.slips[0]).find("1 line done when it lies free"), std::string::npos);
}

TEST_F(Slipping, SmallPiecesWanderOnAWornMatUnlessBridgesHoldThem) {
    EXPECT_EQ(after({.isMatWorn = true}).count(Slip::Kind::Wanders), 1);
    cutplan::PlanOptions options;
    options.aids.tabs = 2;
    planned = cutplan::planOf(stack, {{load}, {}}, support::anyMachine(), options)->loads.front();
    const MatAfter held = after({.isMatWorn = true});
    EXPECT_EQ(held.count(Slip::Kind::Wanders), 0);
    EXPECT_EQ(held.count(Comes::Tabbed), 1);
    EXPECT_EQ(held.count(Comes::Free), 1);
}

TEST_F(Slipping, ASheetLaidAskewLosesWhatLiesAtItsEdge) {
    // By hand: the card is 120 x 90 mm, so 4 mm turn it by 1.91 degrees about its upper left corner at (10, 10). The lower right
    // corner of the frame lies 65.3 across and 89.8 down from there; turned the one way it is 89.75 + 2.17 mm down, beyond 90,
    // turned the other way 87.58.
    EXPECT_EQ(after({.askewMm = 0.1}).count(Slip::Kind::OffCard), 0);
    EXPECT_EQ(after({.askewMm = 4}).count(Slip::Kind::OffCard), 0);
    const MatAfter off = after({.askewMm = -4});
    ASSERT_EQ(off.slips.size(), 1u);
    EXPECT_EQ(off.slips[0].kind, Slip::Kind::OffCard);
    EXPECT_EQ(off.slips[0].what.piece, support::id(1));
}

TEST_F(Slipping, CuttingOnceMoreBeforeUnloadingGoesThrough) {
    EXPECT_EQ(after({.isBladeDull = true}).count(Comes::NotThrough), 2);
    EXPECT_EQ(after({.isBladeDull = true, .moreRounds = 1}).count(Comes::Free), 2);
}

TEST_F(Slipping, AFoldThatNoScoreFollowsIsSeen) {
    design::Body body = *stack.pieces[0].piece.body;
    body.lines = {{design::LineId{1}, {{10, 0}, {geometry::Segment::line({10, 60})}}, design::Fold{}},
                  {design::LineId{2}, {{50, 0}, {geometry::Segment::line({50, 60})}}, design::Fold{}}};
    stack.pieces[0].piece.body = std::make_shared<const design::Body>(body);
    planned = support::planOf(load, stack);
    EXPECT_EQ(after().count(Slip::Kind::MissesFold), 0);
    for (design::Pass& pass : planned.passes)
        if (pass.operation == design::Operation::Score)
            pass.paths[0].line =
                geometry::transformed(pass.paths[0].line, geometry::Transform::move({0.4, 0}));
    const MatAfter now = after();
    ASSERT_EQ(now.count(Slip::Kind::MissesFold), 1);
    EXPECT_EQ(now.slips[0].count, 1);
}

TEST_F(Slipping, StepsShorterThanTheTipTrailsBecomeOneCorner) {
    geometry::Polygon comb{{0, 0}, {30, 0}, {30, 10}, {20, 10}, {20, 10.2}, {10, 10.2}, {10, 12}, {0, 12}};
    stack.pieces[1] = support::laid(2, {geometry::contourThrough(comb), {}});
    load.sheets[0].pieces[1] = support::placed(stack, support::id(2), 0, {90, 20});
    planned = support::planOf(load, stack);
    const MatAfter now = after();
    ASSERT_EQ(now.count(Slip::Kind::Blunted), 1);
    EXPECT_EQ(now.slips[0].count, 1) << "the step of 0.2 mm, not that of 1.8 mm";
    EXPECT_EQ(after({.bladeOffsetMm = 0.1}).count(Slip::Kind::Blunted), 0);
}

// By hand, from the model at tearsBelowMm: 0.5 mm x force / 210 gf x 0.3 mm / thickness, 1.6 times as much when dull.
TEST(Strips, TearAtTheWidthTheModelSays) {
    design::Stock card{"card", "card", {}, 0.3, 216};
    EXPECT_NEAR(tearsBelowMm(card, 210, {}), 0.5, 1e-12);
    EXPECT_NEAR(tearsBelowMm(card, 420, {}), 1.0, 1e-12);
    EXPECT_NEAR(tearsBelowMm(card, 210, {true}), 0.8, 1e-12);
    card.thicknessMm = 0.6;
    EXPECT_NEAR(tearsBelowMm(card, 210, {}), 0.25, 1e-12);
    design::Stock vinyl{"v", "v", {}, 0.3, 100};
    vinyl.kind = design::Stock::Kind::Vinyl;
    EXPECT_NEAR(tearsBelowMm(vinyl, 210, {}), 0.25, 1e-12);
}

TEST(Strips, NarrowerDullerOrMoreForceNeverTearsLater) {
    const auto tears = [](double width, double force, bool isDull) {
        design::Stack stack{{{"card", "card", {}, 0.3, 216}},
                            {support::layer(1, "card")},
                            {support::laid(1, support::dumbbell(20, width, 15))}};
        const design::Load load{
            {"m", "m", 200, 200, 0},
            {{"card", 0, 0, 200, 200, 0, {support::placed(stack, support::id(1), 0, {20, 20})}}}};
        design::PlannedLoad planned = support::planOf(load, stack);
        for (design::Pass& pass : planned.passes)
            pass.forceGf = force;
        const auto after = matAfter(planned, load, stack, support::anyMachine(), 1e9, {isDull});
        if (!after)
            throw std::runtime_error(after.error().message);
        if (!after->tears.empty()) {
            EXPECT_NEAR(after->tears[0].widthMm, width, 0.05);
            // The middle of the strip: 20 mm, half its 15 mm, from the left, and half of 20 mm from the top, on the mat.
            EXPECT_NEAR(after->tears[0].at.x, 20 + 20 + 7.5, 8);
            EXPECT_NEAR(after->tears[0].at.y, 20 + 10, 0.5);
        }
        return !after->tears.empty();
    };
    EXPECT_TRUE(tears(0.4, 210, false));
    EXPECT_FALSE(tears(0.6, 210, false));
    for (const bool isDull : {false, true})
        for (const double force : {100.0, 210.0, 400.0}) {
            bool before = true;
            for (const double width : {0.2, 0.4, 0.6, 0.9, 1.4, 2.0}) {
                const bool now = tears(width, force, isDull);
                EXPECT_TRUE(before || !now) << "wider and torn: " << width;
                EXPECT_TRUE(!now || tears(width, force * 1.3, isDull));
                EXPECT_TRUE(!now || tears(width, force, true));
                before = now;
            }
        }
}

} // namespace
} // namespace thinline::devices
