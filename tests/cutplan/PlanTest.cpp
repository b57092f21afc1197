// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "cutplan/Plan.h"

#include "cutplan/Begin.h"
#include "cutplan/Settings.h"
#include "cutplan/Swaps.h"
#include "cutplan/Timeline.h"
#include "cutplan/Timing.h"
#include "geometry/Measures.h"
#include "support/Shapes.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <map>
#include <set>

namespace thinline::cutplan {
namespace {

using design::Operation;
using design::ToolKind;

design::Machine twoHolders() {
    design::Machine out;
    out.id = "two";
    out.name = "two holders";
    out.usableWidthMm = 304.8;
    out.longestMm = 609.6;
    out.holders = {{{ToolKind::Pen, ToolKind::Stylus}},
                   {{ToolKind::ShallowBlade, ToolKind::SteepBlade, ToolKind::Wheel}}};
    out.tools = {ToolKind::Pen, ToolKind::Stylus, ToolKind::ShallowBlade, ToolKind::SteepBlade};
    return out;
}

const design::MatFormat kMat{"square12", "12 × 12 in", 304.8, 304.8, 6.35};

design::Load loadOf(const design::Stack& stack, const std::string& stock,
                    const std::vector<std::pair<design::PieceId, geometry::Point>>& pieces) {
    design::PlacedSheet sheet{stock, 0, 0, 304.8, 304.8, 6.35, {}};
    std::map<design::PieceId, int> copies;
    for (const auto& [id, at] : pieces)
        sheet.pieces.push_back(support::placed(stack, id, copies[id]++, at));
    return {kMat, {sheet}};
}

double lengthIn(const std::vector<design::Pass>& passes) {
    double out = 0;
    for (const design::Pass& pass : passes)
        for (const design::PlannedPath& path : pass.paths)
            out += geometry::contourLength(path.line);
    return out;
}

// ---- time

// By hand: to 100 mm/s at 1000 mm/s2 takes 0.1 s and 5 mm; so 50 mm take 0.1 + 0.4 + 0.1 s, and 4 mm, which never get
// so fast, 2 * sqrt(4 / 1000) s.
TEST(Timing, StraightLinesAndSquaresAreAsWorkedByHand) {
    EXPECT_NEAR(secondsFor(50, 100, 1000), 0.6, 1e-12);
    EXPECT_NEAR(secondsFor(4, 100, 1000), 2 * std::sqrt(0.004), 1e-12);
    EXPECT_EQ(secondsFor(0, 100, 1000), 0);
    const geometry::Contour square = support::rectangle(0, 0, 50, 50).outline;
    EXPECT_NEAR(secondsAlong(square, 100, 1000), 4 * 0.6, 1e-9) << "it stands still at each corner";
    // A straight way in ten pieces is one way.
    geometry::Line line{{0, 0}, {}};
    for (int i = 1; i <= 10; ++i)
        line.segments.push_back(geometry::Segment::line({5.0 * i, 0}));
    EXPECT_NEAR(secondsAlong(line, 100, 1000), 0.6, 1e-9);
    // A circle of 30 mm is followed without a stop: 2 pi 30 mm at 100 mm/s, and 0.1 s for getting there.
    EXPECT_NEAR(secondsAlong(support::disc({0, 0}, 30).outline, 100, 1000), 0.6 * std::numbers::pi + 0.1,
                0.01);
}

// ---- where a cut begins

TEST(Begin, OnLongStraightStretchesAwayFromNarrowPlaces) {
    // A plate with a tongue 2 mm wide at its right: nothing begins along the tongue, nor where it stands on the plate.
    const geometry::Contour line = geometry::contourThrough(
        {{0, 0}, {60, 0}, {60, 19}, {90, 19}, {90, 21}, {60, 21}, {60, 40}, {0, 40}});
    const auto found = beginningsOf(line, {geometry::flatten(line, 0.05)});
    ASSERT_FALSE(found.empty());
    for (const Beginning& one : found) {
        EXPECT_LT(one.at.x, 61);
        EXPECT_EQ(one.share, 0.5);
    }
    for (const Beginning& one : found) {
        const geometry::Contour begun = begunAt(line, one);
        EXPECT_EQ(begun.start, one.at);
        EXPECT_EQ(begun.segments.back().end, one.at);
        EXPECT_NEAR(geometry::contourLength(begun), geometry::contourLength(line), 1e-9);
        EXPECT_NEAR(geometry::signedArea(begun), geometry::signedArea(line), 1e-9);
    }
}

TEST(Begin, ACurvedLineBeginsWhereASegmentEnds) {
    const geometry::Contour circle = support::disc({20, 20}, 10).outline;
    const auto found = beginningsOf(circle, {geometry::flatten(circle, 0.05)});
    ASSERT_EQ(found.size(), 4u) << "a disc of four curves goes on smoothly at each of their ends";
    for (const Beginning& one : found) {
        EXPECT_NEAR(geometry::distance(one.at, {20, 20}), 10, 1e-3);
        EXPECT_NEAR(geometry::contourLength(begunAt(circle, one)), geometry::contourLength(circle), 1e-9);
    }
    // Too small to have room: the one end there is.
    const geometry::Contour dot = support::disc({20, 20}, 1).outline;
    EXPECT_EQ(beginningsOf(dot, {geometry::flatten(dot, 0.01)}).size(), 1u);
    // In the middle of a curve too.
    const geometry::Contour split = begunAt(circle, {1, 0.3, {}});
    EXPECT_NEAR(geometry::contourLength(split), geometry::contourLength(circle), 1e-3);
    EXPECT_EQ(split.start, split.segments.back().end);
}

// ---- settings

// Shallow blade for card, vinyl, acetate; steep blade, high tack and two passes for thick board; films off acetate: common
// practice. The numbers of force are ours.
TEST(Settings, FollowKindWeightAndThickness) {
    const design::Machine machine = twoHolders();
    design::Stock card{"lichen", "lichen", {}, 0.3, 216};
    const Proposal forCard = settingFor(card, {card}, machine);
    EXPECT_EQ(forCard.setting.blade, ToolKind::ShallowBlade);
    EXPECT_EQ(forCard.setting.passes, 1);
    EXPECT_EQ(forCard.setting.tack, design::Tack::Middle);
    EXPECT_EQ(forCard.setting.forceGf, 210);
    EXPECT_NE(forCard.reason.find("210 gf to begin with"), std::string::npos) << forCard.reason;
    design::Stock board{"board", "board", {}, 0.9, 600};
    board.kind = design::Stock::Kind::Board;
    const Proposal forBoard = settingFor(board, {board}, machine);
    EXPECT_EQ(forBoard.setting.blade, ToolKind::SteepBlade);
    EXPECT_EQ(forBoard.setting.passes, 2);
    EXPECT_EQ(forBoard.setting.tack, design::Tack::High);
    design::Stock film{"film", "film", {}, 0.2, 240};
    film.kind = design::Stock::Kind::Acetate;
    EXPECT_NE(settingFor(film, {film}, machine).care.front().find("films off"), std::string::npos);
    EXPECT_GT(settingFor(film, {film}, machine).setting.forceGf,
              settingFor({"c", "c", {}, 0.2, 240}, {}, machine).setting.forceGf);
    // A laminate is cut as its heaviest layer, through all of it.
    design::Stock glued{"glued", "glued", {}, 1.2, 800};
    glued.kind = design::Stock::Kind::Laminate;
    glued.laminateOf = {"lichen", "board"};
    const Proposal forGlued = settingFor(glued, {card, board, glued}, machine);
    EXPECT_EQ(forGlued.setting.blade, ToolKind::SteepBlade);
    EXPECT_NE(forGlued.reason.find("heaviest"), std::string::npos);
    // A weak machine takes more passes, never more than it gives.
    design::Machine weak = machine;
    weak.mostGf = 150;
    const Proposal weakly = settingFor(card, {card}, weak);
    EXPECT_GT(weakly.setting.passes, 1);
    EXPECT_LE(weakly.setting.forceGf, 150);
}

// ---- a load

class Planned : public ::testing::Test {
  protected:
    /// A frame with a window of 60 x 60, a plate that lies in the window, and three small squares.
    Planned() {
        stack.stocks = {{"sea", "sea", {60, 125, 140}}};
        stack.layers = {support::layer(1, "sea")};
        stack.pieces = {support::laid(kFrame, support::withOpening(support::rectangle(0, 0, 100, 100),
                                                                   support::rectangle(20, 20, 60, 60))),
                        support::laid(kPlate, support::rectangle(0, 0, 40, 40)),
                        support::laid(kSmall, support::rectangle(0, 0, 8, 8), 1, 3)};
        arrangement.loads = {loadOf(stack, "sea",
                                    {{kFrame, {10, 10}},
                                     {kPlate, {40, 40}},
                                     {kSmall, {150, 150}},
                                     {kSmall, {20, 200}},
                                     {kSmall, {200, 20}}})};
    }
    design::CutPlan plan(const PlanOptions& options = {}) {
        auto out = planOf(stack, arrangement, machine, options);
        if (!out)
            throw std::runtime_error(out.error().message);
        return out.take();
    }

    const design::PieceId kFrame = support::id(1), kPlate = support::id(2), kSmall = support::id(3);
    design::Stack stack;
    design::Arrangement arrangement;
    design::Machine machine = twoHolders();
};

TEST_F(Planned, InnerCutsBeforeOutlinesWhatLiesInsideFirstSmallBeforeLarge) {
    const design::CutPlan made = plan();
    ASSERT_EQ(made.loads.size(), 1u);
    std::vector<std::pair<Operation, design::PieceId>> order;
    for (const design::Pass& pass : made.loads[0].passes)
        for (const design::PlannedPath& path : pass.paths)
            order.push_back({pass.operation, path.what.piece});
    ASSERT_EQ(order.size(), 6u);
    EXPECT_EQ(order[0], std::pair(Operation::Cut, kPlate)) << "it lies in the window, which is cut after it";
    EXPECT_EQ(order[1], std::pair(Operation::CutInside, kFrame));
    for (size_t i = 2; i < 5; ++i)
        EXPECT_EQ(order[i], std::pair(Operation::Cut, kSmall));
    EXPECT_EQ(order[5], std::pair(Operation::Cut, kFrame));
    EXPECT_TRUE(made.faults.empty());
}

TEST_F(Planned, EveryLineOnceAndItsLengthToTheBit) {
    const design::CutPlan made = plan();
    const double byHand = 400 + 240 + 160 + 3 * 32;
    EXPECT_NEAR(lengthIn(made.loads[0].passes), byHand, byHand * 1e-9);
    EXPECT_NEAR(made.loads[0].lineMm(), byHand, byHand * 1e-9);
    std::set<std::pair<design::CopyOf, int>> seen;
    for (const design::Pass& pass : made.loads[0].passes)
        for (const design::PlannedPath& path : pass.paths)
            EXPECT_TRUE(seen.insert({path.what, static_cast<int>(pass.operation)}).second);
    EXPECT_EQ(made, plan()) << "the same input gives the same plan";
}

TEST_F(Planned, TheTimeIsThatOfLinesWaysAndLifts) {
    const design::CutPlan made = plan();
    double seconds = 0;
    geometry::Point at;
    for (const design::Pass& pass : made.loads[0].passes)
        for (const design::PlannedPath& path : pass.paths) {
            // Squares begun in the middle of a side: three whole sides and two halves between stops.
            const double side = geometry::contourLength(path.line) / 4;
            seconds += secondsFor(geometry::distance(at, path.line.start), 200, 1000) + 0.2 +
                       3 * secondsFor(side, 100, 1000) + 2 * secondsFor(side / 2, 100, 1000);
            at = path.line.segments.back().end;
        }
    EXPECT_NEAR(made.seconds(), seconds, 0.01 * seconds);
    const Timeline timeline(made.loads[0], made.machine);
    EXPECT_NEAR(timeline.seconds(), made.seconds(), 1e-6);
    EXPECT_EQ(timeline.at(0)->at, (geometry::Point{0, 0}));
    EXPECT_EQ(timeline.at(1e9)->share, 1);
    EXPECT_LT(geometry::distance(timeline.at(1e9)->at, at), 1e-9);
    // Nowhere does the tool jump.
    geometry::Point before;
    for (double s = 0; s < timeline.seconds(); s += 0.01) {
        const auto now = timeline.at(s);
        EXPECT_LT(geometry::distance(before, now->at), 6) << s;
        before = now->at;
    }
}

TEST_F(Planned, PassesAreRepeatedAsTheSettingSays) {
    const double once = plan().loads[0].lineMm();
    PlanOptions options;
    options.settings["sea"] = {ToolKind::SteepBlade, 320, 3, 50};
    const design::CutPlan made = plan(options);
    EXPECT_NEAR(made.loads[0].lineMm(), 3 * once, 1e-9);
    for (const design::Pass& pass : made.loads[0].passes) {
        EXPECT_EQ(pass.tool, ToolKind::SteepBlade);
        EXPECT_EQ(pass.forceGf, 320);
        EXPECT_EQ(pass.times, 3);
        EXPECT_EQ(pass.mmPerS, 50);
    }
    EXPECT_NEAR(Timeline(made.loads[0], made.machine).seconds(), made.seconds(), 1e-6);
}

// A sticker whose rim is cut through beside others that stay on their carrier.
TEST_F(Planned, WhatComesOffWithItsCarrierIsCutLastAndDeeper) {
    stack.pieces[0].isCutThrough = true;
    EXPECT_EQ(plan().loads[0].passes.size(), 3u) << "card has no carrier: nothing changes";
    stack.stocks[0].cut = design::Depth::ToCarrier;
    PlanOptions options;
    options.settings["sea"] = {ToolKind::ShallowBlade, 90, 1, 0};
    const std::vector<design::Pass> passes = plan(options).loads[0].passes;
    ASSERT_EQ(passes.size(), 4u);
    std::vector<std::string> groups;
    for (const design::Pass& pass : passes) {
        groups.push_back(design::passGroup(pass));
        EXPECT_EQ(pass.depth, pass.isThroughCarrier ? design::Depth::Through : design::Depth::ToCarrier);
        for (const design::PlannedPath& path : pass.paths)
            EXPECT_EQ(path.what.piece == kFrame, pass.isThroughCarrier);
        // By hand: 0.12 mm of paper more at 600 gf a millimetre, to whole fives.
        EXPECT_EQ(pass.forceGf, pass.isThroughCarrier ? 160 : 90);
    }
    EXPECT_EQ(groups,
              (std::vector<std::string>{"sea-cut-to-carrier-nested-1", "sea-cut-to-carrier",
                                        "sea-cut-inside-through-carrier", "sea-cut-through-carrier"}));
    options.settings["sea"].throughGf = 205;
    EXPECT_EQ(plan(options).loads[0].passes.back().forceGf, 205);
    machine.mostGf = 100;
    options.settings["sea"].throughGf.reset();
    const design::Pass weak = plan(options).loads[0].passes.back();
    EXPECT_EQ(weak.times, 2) << "one pass would take more than it gives";
    EXPECT_LE(weak.forceGf, 100);
    options.settings["sea"].throughGf = 205;
    const auto faults = plan(options).faults;
    EXPECT_TRUE(std::any_of(faults.begin(), faults.end(), [](const design::PlanFault& fault) {
        return fault.kind == design::PlanFault::Kind::Force &&
               fault.what.find("through its carrier with 205 gf") != std::string::npos;
    }));
}

TEST_F(Planned, WhatIsDrawnAndScoredComesBeforeTheBlade) {
    design::Body body = *stack.pieces[0].piece.body;
    body.lines = {{design::LineId{1}, {{5, 0}, {geometry::Segment::line({5, 100})}}, design::Fold{}},
                  {design::LineId{2}, {{10, 10}, {geometry::Segment::line({15, 10})}}, design::Pen{}}};
    stack.pieces[0].piece.body = std::make_shared<const design::Body>(body);
    const auto toolsOf = [](const design::CutPlan& made) {
        std::vector<ToolKind> out;
        for (const design::Pass& pass : made.loads[0].passes)
            if (out.empty() || out.back() != pass.tool)
                out.push_back(pass.tool);
        return out;
    };
    const design::CutPlan scored = plan();
    EXPECT_EQ(toolsOf(scored),
              (std::vector<ToolKind>{ToolKind::Pen, ToolKind::Stylus, ToolKind::ShallowBlade}));
    // Pen and stylus share the first holder, the blade has the second: one swap (common practice).
    EXPECT_EQ(scored.swaps, 1);
    EXPECT_EQ(scored.start[0], ToolKind::Pen);
    EXPECT_EQ(scored.start[1], ToolKind::ShallowBlade);
    ASSERT_EQ(scored.loads[0].swaps.size(), 1u);
    EXPECT_EQ(scored.loads[0].swaps[0].in, ToolKind::Stylus);
    PlanOptions options;
    options.foldsAs = design::FoldsAs::Perforation;
    EXPECT_EQ(plan(options).swaps, 0) << "the blade perforates";
    // With a wheel and no stylus the wheel takes the blade's place: swapped in the middle.
    machine.tools = {ToolKind::Pen, ToolKind::Wheel, ToolKind::ShallowBlade};
    EXPECT_EQ(plan().swaps, 1);
    EXPECT_EQ(plan().start[1], ToolKind::Wheel);
    // Without either it is said.
    machine.tools = {ToolKind::ShallowBlade};
    const design::CutPlan without = plan();
    EXPECT_EQ(without.faults.size(), 2u);
    EXPECT_EQ(without.faults[0].kind, design::PlanFault::Kind::NoTool);
}

TEST_F(Planned, WhatTheMachineHasNotIsSaid) {
    PlanOptions options;
    options.settings["sea"] = {ToolKind::ShallowBlade, 700, 1};
    auto faults = faultsOf(stack, arrangement, machine, options);
    ASSERT_EQ(faults.size(), 1u);
    EXPECT_EQ(faults[0].kind, design::PlanFault::Kind::Force);
    machine.longestMm = 300;
    faults = faultsOf(stack, arrangement, machine, {});
    ASSERT_EQ(faults.size(), 1u);
    EXPECT_EQ(faults[0].kind, design::PlanFault::Kind::MatTooLarge);
    EXPECT_NE(faults[0].text().find("304.8 × 300"), std::string::npos) << faults[0].text();
}

TEST_F(Planned, WhatWouldSpoilCardIsSaid) {
    const auto kindsOf = [&](const PlanOptions& options) {
        std::vector<design::PlanFault::Kind> out;
        for (const design::PlanFault& fault : faultsOf(stack, arrangement, machine, options))
            out.push_back(fault.kind);
        return out;
    };
    using Kind = design::PlanFault::Kind;
    EXPECT_TRUE(kindsOf({}).empty());
    // Card of 3 mm in one pass, where the machine would need four.
    stack.stocks[0].thicknessMm = 3;
    PlanOptions once;
    once.settings["sea"] = {ToolKind::SteepBlade, 500, 1};
    EXPECT_EQ(kindsOf(once), std::vector{Kind::TooThick});
    once.settings["sea"].passes = 4;
    EXPECT_TRUE(kindsOf(once).empty());
    stack.stocks[0].thicknessMm = 0.3;
    PlanOptions close;
    close.spacingMm = 1.9;
    EXPECT_EQ(kindsOf(close), std::vector{Kind::TooClose});
    // A perforation finer than a blade, and tools that share a holder.
    design::Body body = *stack.pieces[0].piece.body;
    const geometry::Line straight{{5, 0}, {geometry::Segment::line({5, 100})}};
    body.lines = {{design::LineId{1}, straight, design::Tear{0.5, 1.5}}};
    stack.pieces[0].piece.body = std::make_shared<const design::Body>(body);
    EXPECT_EQ(kindsOf({}), std::vector{Kind::TooFine});
    body.lines[0].does = design::Tear{0.8, 0.8};
    body.lines.push_back({design::LineId{2}, straight, design::Pen{}});
    stack.pieces[0].piece.body = std::make_shared<const design::Body>(body);
    EXPECT_TRUE(kindsOf({}).empty());
    machine.holders = {{{ToolKind::Pen, ToolKind::ShallowBlade}}};
    EXPECT_EQ(kindsOf({}), std::vector{Kind::OneHolder});
}

TEST_F(Planned, AWheelDoesNotTurnAsTightAsAStylus) {
    using Kind = design::PlanFault::Kind;
    design::Body body = *stack.pieces[0].piece.body;
    const auto scored = [&](const geometry::Line& line) {
        body.lines = {{design::LineId{1}, line, design::Score{}}};
        stack.pieces[0].piece.body = std::make_shared<const design::Body>(body);
        return faultsOf(stack, arrangement, machine, {});
    };
    const geometry::Line tight = support::disc({0, 0}, 4).outline, wide = support::disc({0, 0}, 6).outline,
                         corner{{0, 0},
                                {geometry::Segment::line({20, 0}), geometry::Segment::line({20, 20})}};
    EXPECT_TRUE(scored(tight).empty());
    machine.tools = {ToolKind::Wheel, ToolKind::ShallowBlade};
    const auto isTooTight = [&](const geometry::Line& line) {
        const auto faults = scored(line);
        return std::any_of(faults.begin(), faults.end(),
                           [](const design::PlanFault& one) { return one.kind == Kind::TooTight; });
    };
    EXPECT_TRUE(isTooTight(tight) && isTooTight(corner));
    EXPECT_FALSE(isTooTight(wide));
}

// ---- several loads

TEST(Swaps, LoadsThatNeedTheSameToolsStayTogether) {
    design::Stack stack;
    stack.stocks = {{"card", "card", {}, 0.3, 216}, {"board", "board", {}, 0.9, 600}};
    stack.stocks[1].kind = design::Stock::Kind::Board;
    stack.layers = {support::layer(1, "card"), support::layer(2, "board")};
    stack.pieces = {support::laid(support::id(1), support::rectangle(0, 0, 50, 50), 1, 2),
                    support::laid(support::id(2), support::rectangle(0, 0, 50, 50), 2, 2)};
    design::Arrangement arrangement;
    for (int i = 0; i < 2; ++i) { // card, board, card, board
        for (const int piece : {1, 2}) {
            design::Load load =
                loadOf(stack, piece == 1 ? "card" : "board", {{support::id(piece), {20, 20}}});
            load.sheets[0].pieces[0].what.copy = i;
            arrangement.loads.push_back(load);
        }
    }
    const auto made = planOf(stack, arrangement, twoHolders());
    ASSERT_TRUE(made);
    EXPECT_EQ(made->swapsInOrder, 3);
    EXPECT_EQ(made->swaps, 1);
    std::vector<size_t> order;
    for (const design::PlannedLoad& load : made->loads)
        order.push_back(load.load);
    EXPECT_EQ(order, (std::vector<size_t>{0, 2, 1, 3}));
    // A second board holder would need no swap at all.
    design::Machine three = twoHolders();
    three.holders = {{{ToolKind::Pen}}, {{ToolKind::ShallowBlade}}, {{ToolKind::SteepBlade}}};
    EXPECT_EQ(planOf(stack, arrangement, three)->swaps, 0);
}

TEST(Swaps, ATightHolderIsTakenBeforeOneThatTakesAll) {
    design::Machine machine = twoHolders();
    machine.holders = {{{ToolKind::Pen, ToolKind::ShallowBlade}}, {{ToolKind::Pen}}};
    EXPECT_EQ(holderFor(machine, ToolKind::Pen), 1u);
    EXPECT_EQ(holderFor(machine, ToolKind::ShallowBlade), 0u);
    EXPECT_FALSE(holderFor(machine, ToolKind::Wheel));
}

} // namespace
} // namespace thinline::cutplan
