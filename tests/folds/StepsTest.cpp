// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "folds/Steps.h"

#include "design/MadeLines.h"
#include "folds/Edges.h"
#include "geometry/Placing.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <numbers>
#include <set>

namespace thinline::folds {
namespace {

using design::Fold;
using design::LineId;
using design::LineOf;
using design::LineUse;
using design::PieceLine;
using design::Side;
using geometry::Point;
using support::disc;
using support::id;
using support::rectangle;
using support::withOpening;

geometry::Line straight(Point from, Point to) {
    return {from, {geometry::Segment::line(to)}};
}
geometry::Shape polygon(const geometry::Polygon& points) {
    return {geometry::contourThrough(points), {}};
}
Pieces one(geometry::Shape shape) {
    return {{support::piece(id(1), std::move(shape))}, {}};
}
const design::Piece& first(const Pieces& pieces) {
    return pieces.now.front();
}
const std::vector<PieceLine>& linesOf(const Pieces& pieces) {
    return pieces.now.front().body->lines;
}

/// The pieces after a step with a number.
Pieces after(const Pieces& pieces, Step step, int number = 7) {
    step.id = design::StepId{number};
    auto out = apply(pieces, step);
    if (!out)
        throw std::runtime_error(out.error().message);
    return out->pieces;
}
Pieces withLine(const Pieces& pieces, Point from, Point to, const DrawnLine& as = {}, int number = 7) {
    return after(pieces, lineStep(first(pieces), straight(from, to), as), number);
}
std::string whyNot(const Pieces& pieces, const Step& step) {
    const auto out = apply(pieces, step);
    return out ? "" : out.error().message;
}

void expectLine(const PieceLine& line, Point from, Point to) {
    EXPECT_NEAR(geometry::distance(line.path.start, from), 0, 1e-6)
        << line.path.start.x << " " << line.path.start.y;
    EXPECT_NEAR(geometry::distance(geometry::endOf(line.path), to), 0, 1e-6)
        << geometry::endOf(line.path).x << " " << geometry::endOf(line.path).y;
}

// ---- between two points

struct Between {
    const char* what;
    geometry::Shape card;
    Point from, to;
    bool runs;
    std::vector<std::pair<Point, Point>> lies;
};

TEST(ALineBetweenTwoPoints, RunsToTheEdgeOrStopsWhereTold) {
    const geometry::Shape plate = rectangle(0, 0, 100, 60),
                          // notches at the top and the bottom, 5 deep
        notched = polygon(
            {{0, 0}, {45, 0}, {50, 5}, {55, 0}, {100, 0}, {100, 60}, {55, 60}, {50, 55}, {45, 60}, {0, 60}}),
                          bay = polygon(
                              {{0, 0}, {40, 0}, {40, 30}, {60, 30}, {60, 0}, {100, 0}, {100, 60}, {0, 60}}),
                          window = withOpening(plate, rectangle(40, 20, 20, 20));
    const std::vector<Between> rows{
        {"inside, run on both ways", plate, {20, 30}, {30, 30}, true, {{{0, 30}, {100, 30}}}},
        {"inside, as drawn", plate, {20, 30}, {30, 30}, false, {{{20, 30}, {30, 30}}}},
        {"from corner to corner", plate, {0, 0}, {100, 60}, true, {{{0, 0}, {100, 60}}}},
        {"from notch to notch", notched, {50, 5}, {50, 55}, true, {{{50, 5}, {50, 55}}}},
        {"across a bay: two parts",
         bay,
         {0, 20},
         {100, 20},
         true,
         {{{0, 20}, {40, 20}}, {{60, 20}, {100, 20}}}},
        {"over a window: two parts",
         window,
         {10, 30},
         {90, 30},
         true,
         {{{0, 30}, {40, 30}}, {{60, 30}, {100, 30}}}},
        {"an end off the card is cut", plate, {50, -20}, {50, 30}, true, {{{50, 0}, {50, 60}}}},
        {"slantwise", plate, {10, 10}, {20, 20}, true, {{{0, 0}, {60, 60}}}},
    };
    for (const Between& row : rows) {
        SCOPED_TRACE(row.what);
        const Pieces card = one(row.card), folded = withLine(card, row.from, row.to, {Fold{}, row.runs});
        const auto& lines = linesOf(folded);
        ASSERT_EQ(lines.size(), row.lies.size());
        for (size_t i = 0; i < lines.size(); ++i) {
            expectLine(lines[i], row.lies[i].first, row.lies[i].second);
            EXPECT_EQ(lines[i].id, lines[0].id) << "parts of one line";
            EXPECT_EQ(lines[i].beginsAtEdge, row.runs);
            EXPECT_EQ(lines[i].endsAtEdge, row.runs);
        }
        EXPECT_EQ(first(folded).shape(), row.card) << "the outline stays to the bit";
        EXPECT_EQ(first(folded).id, id(1));
    }
}

TEST(ALineBetweenTwoPoints, StopsAtALineItMeets) {
    Pieces card = withLine(one(rectangle(0, 0, 100, 60)), {50, 10}, {50, 20}, {}, 3);
    card = withLine(card, {20, 30}, {50, 30}, {}, 4);
    ASSERT_EQ(linesOf(card).size(), 2u);
    expectLine(linesOf(card)[1], {0, 30}, {50, 30});
    EXPECT_FALSE(linesOf(card)[1].endsAtEdge) << "its other end is at a fold";
    EXPECT_EQ(madeBy(linesOf(card)[1].id), design::StepId{4});
    EXPECT_EQ(madeBy(LineId{12}), design::StepId{}) << "that one came from a source";
}

TEST(ALineBetweenTwoPoints, IsWhatItIsDrawnAs) {
    const Fold back{Side::Back, true, 45};
    for (const LineUse& use : {LineUse(back), LineUse(design::Score{}), LineUse(design::Slit{}),
                               LineUse(design::Tear{}), LineUse(design::Pen{})}) {
        const Pieces folded = withLine(one(rectangle(0, 0, 100, 60)), {20, 30}, {30, 30}, {use});
        ASSERT_EQ(linesOf(folded).size(), 1u);
        EXPECT_EQ(linesOf(folded)[0].does, use);
    }
}

TEST(ALineBetweenTwoPoints, GoesAlongWithWhatItLiesOn) {
    // The piece was moved, turned and enlarged since it was found: the way is kept in what it was found in.
    const auto map = geometry::Transform::scale(2, 2)
                         .then(geometry::turnAbout({}, std::numbers::pi / 2))
                         .then(geometry::Transform::move({500, 0}));
    Pieces there = one(geometry::transformed(rectangle(0, 0, 100, 60), map));
    there.now[0].placed = map;
    const Step step = lineStep(first(there), straight(map({20, 30}), map({30, 30})));
    const auto* way = std::get_if<geometry::Line>(&step.values.at("way"));
    ASSERT_TRUE(way);
    EXPECT_NEAR(way->start.x, 20, 1e-9);
    // Replayed on the piece as it was before all that, the fold lies where it belongs.
    const Pieces before = after(one(rectangle(0, 0, 100, 60)), step);
    ASSERT_EQ(linesOf(before).size(), 1u);
    expectLine(linesOf(before)[0], {0, 30}, {100, 30});
}

TEST(ALineBetweenTwoPoints, IsRefusedOffTheCardAndTwice) {
    const Pieces card = one(rectangle(0, 0, 100, 60));
    const char* const kOff = "That line would lie off the card, or lies there already.";
    EXPECT_EQ(whyNot(card, lineStep(first(card), straight({200, 0}, {300, 0}))), kOff);
    EXPECT_EQ(whyNot(card, lineStep(first(card), straight({0, 0}, {100, 0}))), kOff) << "the edge is no line";
    const Pieces folded = withLine(card, {20, 30}, {30, 30});
    EXPECT_EQ(whyNot(folded, lineStep(first(folded), straight({40, 30}, {60, 30}))), kOff);
    EXPECT_EQ(whyNot(card, lineStep(support::piece(id(8), rectangle(0, 0, 1, 1)), straight({0, 0}, {1, 1}))),
              "Choose a piece for the line to lie on.");
    Step bare = makeStep(Action::Line, {id(1)});
    EXPECT_EQ(whyNot(card, bare), "This line has no way.");
    bare.values["way"] = straight({NAN, 0}, {3, 4});
    EXPECT_FALSE(apply(card, bare));
}

// ---- along an edge

TEST(ALineAlongAnEdge, IsParallelAtItsDistance) {
    // A flap: a trapezoid whose long side is the slanting one.
    const geometry::Shape kite = polygon({{0, 0}, {80, 60}, {50, 100}, {-30, 40}});
    const Pieces folded = after(one(kite), alongEdgeStep(first(one(kite)), {40, 30}, 10));
    ASSERT_EQ(linesOf(folded).size(), 1u);
    const PieceLine& line = linesOf(folded)[0];
    for (const Point end : {line.path.start, geometry::endOf(line.path)})
        EXPECT_NEAR(geometry::distanceToStretch(end, {-800, -600}, {800, 600}), 10, 1e-6);
    EXPECT_TRUE(line.beginsAtEdge && line.endsAtEdge);
    EXPECT_NEAR(geometry::contourLength(line.path), 100, 1e-6) << "a rectangle, however it lies";
}

TEST(ALineAlongAnEdge, FollowsEdgesOverNodesAndOfOpeningsAndRefusesCurves) {
    const geometry::Shape plate = polygon({{0, 0}, {30, 0}, {70, 0}, {100, 0}, {100, 60}, {0, 60}});
    EXPECT_EQ(straightEdges(plate).size(), 4u) << "nodes on an edge do not divide it";
    const geometry::Shape window = withOpening(rectangle(0, 0, 100, 60), rectangle(40, 20, 20, 20));
    const auto edge = straightEdgeAt(window, {50, 20});
    ASSERT_TRUE(edge);
    EXPECT_NEAR(edge->inward.y, -1, 1e-9) << "the card lies above the window";
    const Pieces folded = after(one(window), alongEdgeStep(first(one(window)), {50, 20}, 5));
    expectLine(linesOf(folded)[0], edge->from.x < edge->to.x ? Point{0, 15} : Point{100, 15},
               edge->from.x < edge->to.x ? Point{100, 15} : Point{0, 15});
    const Pieces round = one(disc({0, 0}, 30));
    EXPECT_EQ(whyNot(round, alongEdgeStep(first(round), {30, 0}, 5)),
              "That edge is curved; lay the line between two points instead.");
    EXPECT_EQ(whyNot(one(plate), alongEdgeStep(first(one(plate)), {50, 0}, 61)),
              "No line would lie on the card at that distance; give a smaller one.");
}

// A flat outline becomes a folded one: the base panel and four flaps, by one number.
TEST(AFoldAlongSides, LiesAcrossThePieceAtItsDistanceAndEndsOnTheCard) {
    const Pieces plates{{support::piece(id(1), rectangle(0, 0, 100, 60))}, {}};
    const auto folded = apply(plates, makeStep(Action::AlongSides, {id(1)}, {4, 15, 1, 1, 45}));
    ASSERT_TRUE(folded) << folded.error().message;
    ASSERT_EQ(folded->pieces.now.size(), 1u);
    EXPECT_EQ(folded->pieces.now[0].id, id(1)) << "it stays who it is";
    EXPECT_EQ(folded->pieces.now[0].shape(), plates.now[0].shape());
    const auto& lines = folded->pieces.now[0].body->lines;
    ASSERT_EQ(lines.size(), 4u);
    double length = 0;
    std::set<design::LineId> ids;
    for (const design::PieceLine& line : lines) {
        EXPECT_EQ(line.does, design::LineUse(design::Fold{design::Side::Back, true, 45}));
        EXPECT_TRUE(line.beginsAtEdge && line.endsAtEdge);
        ids.insert(line.id);
        length += geometry::contourLength(line.path);
    }
    EXPECT_EQ(ids.size(), 4u) << "four lines";
    EXPECT_NEAR(length, 2 * (100 + 60), 1e-9);
    EXPECT_NEAR(lines[0].path.start.y, 15, 1e-9);
    EXPECT_NEAR(lines[1].path.start.x, 85, 1e-9);
    // Over an opening it falls into two parts of one line.
    geometry::Shape ring = rectangle(0, 0, 100, 60);
    ring.openings.push_back(geometry::reversed(rectangle(40, 10, 20, 20).outline));
    const auto parted =
        apply({{support::piece(id(1), ring)}, {}}, makeStep(Action::AlongSides, {id(1)}, {0, 15}));
    ASSERT_EQ(parted->pieces.now[0].body->lines.size(), 2u);
    EXPECT_EQ(parted->pieces.now[0].body->lines[0].id, parted->pieces.now[0].body->lines[1].id);
    // Off the card there is none, and that is said.
    EXPECT_FALSE(apply(plates, makeStep(Action::AlongSides, {id(1)}, {0, 61})));
    const auto off = apply(folded->pieces, makeStep(Action::TakeOff, {id(1)}));
    ASSERT_TRUE(off);
    EXPECT_TRUE(off->pieces.now[0].body->lines.empty());
    EXPECT_FALSE(apply(plates, makeStep(Action::TakeOff, {id(1)})));
}

// ---- lines that are there

/// A plate with a fold across it (step 3) and a score that stops (step 4).
Pieces lined() {
    Pieces card = withLine(one(rectangle(0, 0, 100, 60)), {20, 30}, {30, 30}, {}, 3);
    return withLine(card, {20, 10}, {40, 10}, {design::Score{}, false}, 4);
}
design::Chosen fold() {
    return LineOf{id(1), linesOf(lined())[0].id};
}

TEST(LinesThatAreThere, ChangeOnlyInWhatIsSaid) {
    const Pieces card = lined();
    Step step = makeStep(Action::Change, {id(1)});
    step.values = {{"angle", 30.0}};
    const Pieces bent = after(card, step);
    EXPECT_EQ(linesOf(bent)[0].does, LineUse(Fold{Side::Front, false, 30}));
    EXPECT_EQ(linesOf(bent)[1].does, LineUse(design::Score{})) << "no angle to change";
    step.values = {{"goes", std::string("towards you")}, {"scored", std::string("the back")}};
    EXPECT_EQ(linesOf(after(bent, step))[0].does, LineUse(Fold{Side::Back, true, 30})) << "the angle stays";
    step.values = {{"as", std::string("slit")}};
    step.on = {fold()};
    const Pieces slit = after(bent, step);
    EXPECT_EQ(linesOf(slit)[0].does, LineUse(design::Slit{}));
    EXPECT_EQ(linesOf(slit)[1].does, LineUse(design::Score{})) << "only the one that is meant";
    EXPECT_EQ(stepText(step), "Change lines, slit");
    step.on = {LineOf{id(1), LineId{99}}};
    EXPECT_EQ(whyNot(card, step), "These pieces carry no such lines.");
}

TEST(LinesThatAreThere, MoveRepeatAndMirrorWithTheirEndsAtTheEdge) {
    // A sail: the higher a line lies, the shorter it is.
    const Pieces sail = withLine(one(polygon({{50, 0}, {100, 100}, {0, 100}})), {50, 80}, {55, 80}, {}, 3);
    const design::Chosen line = LineOf{id(1), linesOf(sail)[0].id};
    const Pieces up = after(sail, makeStep(Action::Move, {line}, {0, -30}));
    ASSERT_EQ(linesOf(up).size(), 1u);
    EXPECT_EQ(linesOf(up)[0].id, linesOf(sail)[0].id);
    expectLine(linesOf(up)[0], {25, 50}, {75, 50});
    const Pieces more = after(sail, makeStep(Action::Repeat, {line}, {3, 0, -20}));
    ASSERT_EQ(linesOf(more).size(), 4u);
    expectLine(linesOf(more)[3], {40, 20}, {60, 20});
    std::set<LineId> ids;
    for (const PieceLine& one : linesOf(more))
        ids.insert(one.id);
    EXPECT_EQ(ids.size(), 4u) << "each is a line of its own";
    // Where the card has no more room lines are dropped, and that is counted.
    Step many = makeStep(Action::Repeat, {line}, {5, 0, -20});
    const auto out = apply(sail, many);
    ASSERT_TRUE(out);
    EXPECT_EQ(out->droppedBits, 2);
    const Pieces twin = after(withLine(one(rectangle(0, 0, 100, 60)), {20, 0}, {20, 60}, {}, 3),
                              makeStep(Action::MirrorTwin, {id(1)}, {0}));
    ASSERT_EQ(linesOf(twin).size(), 2u);
    EXPECT_NEAR(linesOf(twin)[1].path.start.x, 80, 1e-9);
    EXPECT_EQ(whyNot(sail, makeStep(Action::Move, {line}, {500, 0})), "These lines would lie off the card.");
}

TEST(LinesThatAreThere, GetAnExactLength) {
    const Pieces card = lined();
    const design::Chosen score = LineOf{id(1), linesOf(card)[1].id};
    const Point wanted[][2] = {{{15, 10}, {45, 10}}, {{20, 10}, {50, 10}}, {{10, 10}, {40, 10}}};
    for (int keeps = 0; keeps < 3; ++keeps) {
        const Pieces longer = after(card, makeStep(Action::SetLength, {score}, {30, double(keeps)}));
        expectLine(linesOf(longer).back(), wanted[keeps][0], wanted[keeps][1]);
    }
    const Pieces shorter = after(card, makeStep(Action::SetLength, {fold()}, {50, 0}));
    expectLine(linesOf(shorter).back(), {25, 30}, {75, 30});
    EXPECT_FALSE(linesOf(shorter).back().beginsAtEdge);
}

TEST(LinesThatAreThere, AreTakenOffSinglyOrAll) {
    const Pieces card = lined();
    EXPECT_EQ(linesOf(after(card, makeStep(Action::TakeOff, {fold()}))).size(), 1u);
    const Pieces bare = after(card, makeStep(Action::TakeOff, {id(1)}));
    EXPECT_TRUE(linesOf(bare).empty());
    EXPECT_EQ(whyNot(bare, makeStep(Action::TakeOff, {id(1)})), "These pieces carry no such lines.");
}

TEST(StepsInWords, LeaveOutWhatIsUsual) {
    const design::Piece plate = support::piece(id(1), rectangle(0, 0, 100, 60));
    const geometry::Line way = straight({0, 0}, {100, 60});
    const std::vector<std::pair<Step, std::string>> rows{
        {lineStep(plate, way), "Fold between two points"},
        {lineStep(plate, way, {Fold{Side::Back, true, 45}, false}),
         "Fold between two points, towards you, scored on the back, 45°, stops where drawn"},
        {alongEdgeStep(plate, {0, 0}, 12.345, {design::Slit{}}), "Slit 12.35 mm from an edge"},
        {makeStep(Action::AlongSides, {id(1)}, {4, 15}), "Fold 15 mm from each side"},
        {makeStep(Action::AlongSides, {id(1)}, {1, 8, 1}), "Fold 8 mm from the right, towards you"},
        {makeStep(Action::Repeat, {id(1)}, {3, 10, 0}), "Repeat lines, 3, 10 mm, 0 mm"},
        {makeStep(Action::TakeOff, {id(1)}), "Take lines off"}};
    for (const auto& [step, words] : rows)
        EXPECT_EQ(stepText(step), words);
}

} // namespace
} // namespace thinline::folds
