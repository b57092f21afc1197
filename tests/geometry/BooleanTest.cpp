// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Boolean.h"

#include "geometry/PolygonEngine.h"
#include "support/Loops.h"

#include <gtest/gtest.h>

namespace thinline::geometry {
namespace {

using std::numbers::pi;
using support::area;
using support::blob;
using support::contoursOf;
using support::disc;
using support::missedArea;
using support::moved;
using support::nodes;
using support::perimeter;
using support::rectangle;
using support::turned;
using Shapes = std::vector<Shape>;

constexpr double kMicron = 0.001;
const auto kNonZero = [](int wind) { return wind != 0; };

template <class T>
T must(base::Result<T> result) {
    if (!result)
        throw std::runtime_error(result.error().message);
    return result.take();
}

/// The farthest a result's outline lies from every given outline, mm.
double strayOf(const Shapes& result, const std::vector<Contour>& given) {
    double worst = 0;
    for (const Contour& contour : contoursOf(result))
        eachCurve(contour, [&](const Cubic& k, const Segment&) {
            for (double t : {0.0, 0.13, 0.5, 0.81}) {
                double least = 1e9;
                for (const Contour& source : given)
                    eachCurve(source, [&](const Cubic& s, const Segment&) {
                        least = std::min(least, nearest(s, k.at(t)).distance);
                    });
                worst = std::max(worst, least);
            }
        });
    return worst;
}

/// Every rule of `Shape` that a machine can check.
void expectSound(const Shapes& shapes) {
    for (const Shape& shape : shapes) {
        EXPECT_GT(signedArea(shape.outline), 0);
        const Polygons outline{flatten(shape.outline, kMicron)};
        for (const Contour& opening : shape.openings) {
            EXPECT_LT(signedArea(opening), 0);
            EXPECT_TRUE(contains(outline, pointInside({reversed(opening), {}})));
        }
    }
}

struct Operation {
    const char* name;
    base::Result<Shapes> (*call)(const Shapes&, const Shapes&, const base::Progress&);
    bool (*rule)(bool, bool);
};

base::Result<Shapes> weldBoth(const Shapes& a, const Shapes& b, const base::Progress& progress) {
    Shapes all = a;
    all.insert(all.end(), b.begin(), b.end());
    return weld(all, progress);
}

const Operation kOperations[] = {
    {"weld", weldBoth, [](bool a, bool b) { return a || b; }},
    {"subtract", subtract, [](bool a, bool b) { return a && !b; }},
    {"intersect", intersect, [](bool a, bool b) { return a && b; }},
    {"exclude", exclude, [](bool a, bool b) { return a != b; }},
};

/// Runs all four operations on a pair and holds each against the referee.
void expectRight(const Shapes& a, const Shapes& b, const std::string& what) {
    const auto ca = contoursOf(a), cb = contoursOf(b);
    auto given = ca;
    given.insert(given.end(), cb.begin(), cb.end());
    const double allowed = perimeter(given) * kMicron;
    for (const Operation& operation : kOperations) {
        SCOPED_TRACE(what + ", " + operation.name);
        const Shapes result = must(operation.call(a, b, {}));
        expectSound(result);
        EXPECT_LE(missedArea(ca, kNonZero, cb, kNonZero, operation.rule, result), allowed);
        EXPECT_LT(strayOf(result, given), kMicron);
    }
}

TEST(Boolean, TwoSquaresByArithmetic) {
    const Shapes a{rectangle(0, 0, 10, 10)}, b{rectangle(5, 5, 10, 10)};
    EXPECT_NEAR(area(must(weldBoth(a, b, {}))), 175, 1e-9);
    EXPECT_NEAR(area(must(subtract(a, b))), 75, 1e-9);
    EXPECT_NEAR(area(must(intersect(a, b))), 25, 1e-9);
    EXPECT_NEAR(area(must(exclude(a, b))), 150, 1e-9);
    const Shapes joined = must(weldBoth(a, b, {}));
    ASSERT_EQ(joined.size(), 1u);
    EXPECT_EQ(nodeCount(joined[0]), 8);
    for (const Segment& s : joined[0].outline.segments)
        EXPECT_TRUE(s.isLine);
}

TEST(Boolean, CrossingDiscsKeepTheirCurvesAndCrossExactly) {
    const Shapes a{disc({0, 0}, 10)}, b{disc({12, 0}, 10)};
    const Shapes joined = must(weldBoth(a, b, {}));
    ASSERT_EQ(joined.size(), 1u);
    EXPECT_EQ(nodeCount(joined[0]), 8); // six whole or cut quarters of either, two crossings
    EXPECT_LT(strayOf(joined, contoursOf({a[0], b[0]})), 1e-9);
    int whole = 0;
    for (const Segment& s : joined[0].outline.segments)
        for (const Shape& given : {a[0], b[0]})
            for (const Segment& g : given.outline.segments)
                whole += s == g ? 1 : 0;
    EXPECT_EQ(whole, 4); // the quarters that nothing crosses are the very same
}

TEST(Boolean, WhatDoesNotMeetPassesThroughBitForBit) {
    std::mt19937 random(5);
    Shapes many;
    for (int i = 0; i < 40; ++i)
        many.push_back(blob(random, {30.0 * (i % 8), 30.0 * (i / 8)}, 10, 9, 0.3));
    const Shapes joined = must(weld(many));
    ASSERT_EQ(joined.size(), many.size());
    for (const Shape& shape : joined) {
        const bool isThere = std::any_of(many.begin(), many.end(), [&](const Shape& given) {
            Contour turnedRound = given.outline; // it may start at another node
            for (size_t i = 0; i < turnedRound.segments.size(); ++i) {
                if (turnedRound == shape.outline)
                    return true;
                turnedRound.start = turnedRound.segments.front().end;
                std::rotate(turnedRound.segments.begin(), turnedRound.segments.begin() + 1,
                            turnedRound.segments.end());
            }
            return false;
        });
        EXPECT_TRUE(isThere);
    }
}

TEST(Boolean, RandomBlobsAgreeWithTheReferee) {
    std::mt19937 random(11);
    for (int i = 0; i < 40; ++i) {
        const Shape a = blob(random, {0, 0}, 20, 5 + i % 9, 0.4);
        const double x = random() % 30 * 0.7, y = random() % 30 * 0.5;
        const Shape b = blob(random, {x, y}, 12 + i % 11, 4 + i % 13, 0.5);
        expectRight({a}, {b}, "pair " + std::to_string(i));
    }
}

TEST(Boolean, DegenerateCases) {
    const Shape square = rectangle(0, 0, 20, 20), round = disc({10, 10}, 6);
    std::mt19937 random(3);
    const Shape bumpy = blob(random, {10, 10}, 9, 7, 0.3);
    const struct {
        const char* what;
        Shapes a, b;
    } cases[] = {
        {"the same twice", {bumpy}, {bumpy}},
        {"the same, turned round and mirrored", {square}, {transformed(square, {-1, 0, 0, 1, 20, 0})}},
        {"side by side with a whole edge in common", {square}, {moved(square, {20, 0})}},
        {"side by side with half an edge in common", {square}, {moved(square, {20, 10})}},
        {"corner to corner", {square}, {moved(square, {20, 20})}},
        {"a corner on an edge", {square}, {turned(moved(square, {20, 0}), pi / 4, {20, 10})}},
        {"one inside, touching an edge from within", {square}, {rectangle(5, 0, 10, 10)}},
        {"one inside, touching nothing", {square}, {round}},
        {"disc touching a square from within", {square}, {disc({10, 10}, 10)}},
        {"disc touching a square from without", {square}, {disc({30, 10}, 10)}},
        {"disc and its quarter turn", {round}, {turned(round, pi / 2, {10, 10})}},
        {"disc and its eighth turn", {round}, {turned(round, pi / 4, {10, 10})}},
        {"disc and one a tenth of a micron larger", {round}, {disc({10, 10}, 6.0001)}},
        {"disc and one three microns aside", {round}, {moved(round, {0.003, 0})}},
        {"nearly the same square, a tenth of a micron off", {square}, {moved(square, {1e-4, 1e-4})}},
        {"a hair's width overlap", {square}, {moved(square, {19.998, 3})}},
        {"an opening filled exactly", {support::withOpening(square, round)}, {round}},
        {"an opening with an island", {support::withOpening(square, round)}, {disc({10, 10}, 2)}},
        {"nothing", {square}, {}},
        {"nothing at all", {}, {}},
        {"two lines without area",
         {{contourThrough({{0, 0}, {5, 0}, {0, 0}}), {}}},
         {{contourThrough({{1, 0}, {9, 0}, {1, 0}}), {}}}},
        {"a flat curve that turns back",
         {{{{1, 0}, {Segment::curve({22, 0}, {0, 0}, {0, 0}), Segment::line({1, 0})}}, {}}},
         {}},
        {"a line without area", {square}, {{contourThrough({{-5, 10}, {25, 10}, {-5, 10}}), {}}}},
        {"a point", {square}, {{Contour{{3, 3}, {Segment::line({3, 3}), Segment::line({3, 3})}}, {}}}},
    };
    for (const auto& one : cases)
        expectRight(one.a, one.b, one.what);
}

// Both fill rules on walks that cross themselves at will: the referee counts windings line by line.
TEST(Boolean, TanglesAreCleanedByEitherRule) {
    std::mt19937 random(17);
    const struct {
        FillRule rule;
        bool (*isInside)(int);
    } rules[] = {{FillRule::NonZero, [](int w) { return w != 0; }},
                 {FillRule::EvenOdd, [](int w) { return w % 2 != 0; }},
                 {FillRule::Positive, [](int w) { return w > 0; }}};
    for (int i = 0; i < 30; ++i) {
        const std::vector<Contour> walk{support::tangle(random, 60, 2 + i % 9)};
        for (const auto& rule : rules) {
            SCOPED_TRACE("tangle " + std::to_string(i) + ", rule " +
                         std::to_string(static_cast<int>(rule.rule)));
            const Shapes clean = must(areasOf(walk, rule.rule));
            expectSound(clean);
            EXPECT_LE(missedArea(
                          walk, rule.isInside, {}, kNonZero, [](bool a, bool) { return a; }, clean),
                      perimeter(walk) * kMicron);
            EXPECT_LT(strayOf(clean, walk), kMicron);
            // Clean is clean: cleaning again changes nothing.
            const Shapes again = must(areasOf(contoursOf(clean), FillRule::NonZero));
            EXPECT_EQ(nodes(again), nodes(clean));
            EXPECT_NEAR(area(again), area(clean), 1e-6);
        }
    }
}

TEST(Boolean, SetAlgebraHolds) {
    std::mt19937 random(29);
    for (int i = 0; i < 20; ++i) {
        const Shapes a{blob(random, {0, 0}, 20, 9, 0.4)}, b{blob(random, {13, 6}, 17, 8, 0.5)};
        const double allowed = (perimeter(contoursOf(a)) + perimeter(contoursOf(b))) * kMicron;
        const double both = area(must(intersect(a, b)));
        EXPECT_NEAR(area(must(subtract(a, b))) + both, area(a), allowed);
        EXPECT_NEAR(area(must(weldBoth(a, b, {}))), area(a) + area(b) - both, allowed);
        EXPECT_NEAR(area(must(exclude(a, b))), area(a) + area(b) - 2 * both, allowed);
        EXPECT_NEAR(area(must(weldBoth(b, a, {}))), area(must(weldBoth(a, b, {}))), 1e-6); // commutes
        // Scaling commutes with every operation.
        const Transform tenth = Transform::scale(0.1, 0.1);
        const Shapes small{transformed(a[0], tenth)}, alsoSmall{transformed(b[0], tenth)};
        EXPECT_NEAR(area(must(intersect(small, alsoSmall))) * 100, both, allowed * 10);
        // What was parted and is joined again is whole, with hardly a node more.
        Shapes parts = must(subtract(a, b));
        for (const Shape& part : must(intersect(a, b)))
            parts.push_back(part);
        const Shapes whole = must(weld(parts));
        ASSERT_EQ(whole.size(), 1u);
        EXPECT_NEAR(area(whole), area(a), allowed);
        EXPECT_LE(nodes(whole), nodes(a) + 4 * static_cast<int>(parts.size()));
    }
}

TEST(Boolean, NodesStayFew) {
    std::mt19937 random(31);
    for (int i = 0; i < 20; ++i) {
        const Shapes a{blob(random, {0, 0}, 20, 9, 0.4)}, b{blob(random, {13, 6}, 17, 8, 0.5)};
        const auto isGiven = [&](Point p) {
            for (const Shape& shape : {a[0], b[0]})
                for (const Segment& s : shape.outline.segments)
                    if (distance(s.end, p) < 1e-6)
                        return true;
            return false;
        };
        // A node of the intersection that was not given is a crossing; every crossing is one of its nodes.
        int crossings = 0;
        for (const Contour& contour : contoursOf(must(intersect(a, b))))
            for (const Segment& s : contour.segments)
                crossings += isGiven(s.end) ? 0 : 1;
        for (const Operation& operation : kOperations)
            EXPECT_LE(nodes(must(operation.call(a, b, {}))), nodes(a) + nodes(b) + 2 * crossings)
                << operation.name;
    }
    // A disc and its own copy, turned by a quarter: one coincident run.
    const Shape round = disc({10, 10}, 3);
    EXPECT_LE(nodes(must(weld({round, turned(round, pi / 2, {10, 10})}))), 8);
    // Two halves of a square, a node in the middle of the shared edge: the straight sides run through.
    const Shape left{contourThrough({{0, 0}, {10, 0}, {10, 4}, {10, 20}, {0, 20}}), {}};
    EXPECT_EQ(nodes(must(weld({left, rectangle(10, 0, 10, 20)}))), 4);
}

TEST(Boolean, SlicingKeepsEveryPartOnce) {
    std::mt19937 random(37);
    const Shapes shape{support::withOpening(blob(random, {0, 0}, 40, 11, 0.3), disc({3, 2}, 9))};
    Shapes cells;
    for (int i = 0; i < 36; ++i)
        cells.push_back(rectangle(-51 + 17.0 * (i % 6), -51 + 17.0 * (i / 6), 17, 17));
    const Sliced cut = must(slice(shape, cells));
    ASSERT_EQ(cut.inside.size(), 36u);
    double sum = area(cut.outside);
    for (size_t i = 0; i < 36; ++i) {
        sum += area(cut.inside[i]);
        for (const Shape& part : cut.inside[i])
            for (Point p : {bounds(part).least, bounds(part).most})
                EXPECT_TRUE(bounds(cells[i]).grownBy(kMicron).contains(p));
    }
    EXPECT_NEAR(sum, area(shape), perimeter(contoursOf(shape)) * kMicron);
    // Knives that overlap: the first takes what both could.
    const Sliced twice =
        must(slice({rectangle(0, 0, 10, 10)}, {rectangle(-1, -1, 6, 12), rectangle(3, -1, 4, 12)}));
    EXPECT_NEAR(area(twice.inside[0]), 50, 1e-6);
    EXPECT_NEAR(area(twice.inside[1]), 20, 1e-6);
    EXPECT_NEAR(area(twice.outside), 30, 1e-6);
}

// Euler's formula (standard) for a planar division: n discs that all cross one another in general position
// have n(n-1) crossings of degree 4, so n(n-1) + 2 faces, one of them outside.
TEST(Boolean, DivisionHasAsManyFacesAsEulersFormulaSays) {
    Shapes discs;
    for (int i = 0; i < 5; ++i)
        discs.push_back(disc({4 * std::cos(i * 1.3), 4 * std::sin(i * 1.3)}, 10 + 0.3 * i));
    const std::vector<Face> faces = must(divide(discs));
    EXPECT_EQ(faces.size(), 5u * 4 + 2 - 1);
    double sum = 0;
    for (const Face& face : faces) {
        sum += area(face.shape);
        const Point p = pointInside(face.shape);
        for (int i = 0; i < 5; ++i)
            EXPECT_EQ(std::count(face.cover.begin(), face.cover.end(), i) > 0,
                      contains(flatten(discs[static_cast<size_t>(i)], 1e-4), p));
    }
    EXPECT_NEAR(sum, area(must(weld(discs))), perimeter(contoursOf(discs)) * kMicron);
}

TEST(Boolean, EveryRungOfTheLadderIsRight) {
    std::mt19937 random(41);
    for (int i = 0; i < 4; ++i) {
        const Shape a = blob(random, {0, 0}, 20, 9, 0.4), b = blob(random, {13, 6}, 17, 8, 0.5);
        const std::vector<Contour> ca{a.outline}, cb{b.outline};
        for (Rung rung : {Rung::StandIns, Rung::AllFine, Rung::Fitted}) {
            const Shapes out = must(combineCurves(SetOperation::Difference, {{&a.outline}, FillRule::NonZero},
                                                  {{&b.outline}, FillRule::NonZero}, {}, rung));
            EXPECT_LE(missedArea(
                          ca, kNonZero, cb, kNonZero, [](bool in, bool also) { return in && !also; }, out),
                      (perimeter(ca) + perimeter(cb)) * 2 * kMicron)
                << "rung " << static_cast<int>(rung);
        }
    }
}

TEST(Boolean, RefusesWhatItCannotHold) {
    const double nan = std::numeric_limits<double>::quiet_NaN(),
                 inf = std::numeric_limits<double>::infinity();
    const Shapes square{rectangle(0, 0, 10, 10)};
    EXPECT_EQ(weld({rectangle(0, nan, 1, 1)}).error().code, base::Code::InvalidArgument);
    EXPECT_EQ(subtract(square, {rectangle(0, 0, inf, 1)}).error().code, base::Code::InvalidArgument);
    EXPECT_EQ(intersect({rectangle(nan, 0, 1, 1)}, square).error().code, base::Code::InvalidArgument);
    EXPECT_EQ(weld({square[0], rectangle(2500, 0, 1, 1)}).error().code, base::Code::LimitExceeded);
    // The largest design, 2 x 2 m, wherever it lies.
    for (Point at : {Point{0, 0}, Point{-2000, -2000}, Point{1e5, 3e5}}) {
        const Shapes whole{rectangle(at.x, at.y, 2000, 2000)}, bite{disc({at.x + 1700, at.y + 1000}, 290)};
        EXPECT_NEAR(area(must(subtract(whole, bite))), 4e6 - area(bite), 8);
    }
}

TEST(Boolean, AMillionVerticesAreNoTrouble) {
    Polygon ring;
    const int n = 1'000'000;
    for (int i = 0; i < n; ++i) {
        const double a = 2 * pi * i / n, r = 200 + 10 * std::sin(400 * a);
        ring.push_back({r * std::cos(a), r * std::sin(a)});
    }
    const Shapes wheel{{contourThrough(ring), {}}}, bar{rectangle(-300, -20, 600, 40)};
    const Shapes rest = must(subtract(wheel, bar));
    EXPECT_NEAR(area(rest) + area(must(intersect(wheel, bar))), area(wheel), 4);
}

// The engine's own call knows nothing of stopping: a long one is left behind.
TEST(Boolean, CanBeStoppedWithinOneCallOfTheEngine) {
    constexpr int kTeeth = 2500;
    GridRing comb{{0, 0}};
    for (int i = 0; i < kTeeth; ++i) { // every tip and every valley at a height of its own
        comb.push_back({i * 2000, 5'000'000 + i * 7});
        comb.push_back({i * 2000 + 1000, 1'000'000 - i * 7});
    }
    comb.push_back({kTeeth * 2000, 0});
    std::atomic<bool> stop = false;
    const base::Progress progress(&stop, nullptr);
    auto whole = combine(SetOperation::Union, {comb}, FillRule::NonZero, {}, FillRule::NonZero, progress);
    ASSERT_TRUE(whole) << whole.error().message;
    EXPECT_EQ(whole->size(), 1u);
    stop = true;
    const auto stopped = combine(SetOperation::Union, {comb}, FillRule::NonZero, {}, FillRule::NonZero, progress);
    ASSERT_FALSE(stopped);
    EXPECT_EQ(stopped.error().code, base::Code::Cancelled);
}

TEST(Boolean, CanBeStopped) {
    std::mt19937 random(43);
    Shapes many;
    for (int i = 0; i < 200; ++i) {
        const double x = random() % 100, y = random() % 100;
        many.push_back(blob(random, {x, y}, 30, 40, 0.5));
    }
    std::atomic<bool> stop = true;
    const base::Progress::Listener none;
    EXPECT_EQ(weld(many, base::Progress(&stop, &none)).error().code, base::Code::Cancelled);
    EXPECT_EQ(divide(many, base::Progress(&stop, &none)).error().code, base::Code::Cancelled);
}

} // namespace
} // namespace thinline::geometry
