// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Boolean.h"

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
    for (int i = 0; i < 60; ++i)
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
    for (int i = 0; i < 60; ++i) {
        const Shape a = blob(random, {0, 0}, 20, 5 + i % 9, 0.4);
        const Shape b =
            blob(random, {random() % 30 * 0.7, random() % 30 * 0.5}, 12 + i % 11, 4 + i % 13, 0.5);
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
        {"a line without area", {square}, {{contourThrough({{-5, 10}, {25, 10}, {-5, 10}}), {}}}},
        {"a point", {square}, {{Contour{{3, 3}, {Segment::line({3, 3}), Segment::line({3, 3})}}, {}}}},
    };
    for (const auto& one : cases)
        expectRight(one.a, one.b, one.what);
}

} // namespace
} // namespace thinline::geometry
