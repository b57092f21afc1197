// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Offset.h"

#include "support/Loops.h"

#include <gtest/gtest.h>

namespace thinline::geometry {
namespace {

using std::numbers::pi;
using support::blob;
using support::disc;
using support::rectangle;
using Shapes = std::vector<Shape>;

constexpr double kAllowedMm = 0.005; // what the offset promises

Shapes offsetOf(const Shapes& shapes, double byMm, const OffsetOptions& options = {}) {
    auto out = offset(shapes, byMm, options);
    EXPECT_TRUE(out) << (out ? "" : out.error().message);
    return out ? out.take().shapes : Shapes{};
}

double distanceToOutlines(const Shapes& shapes, Point p) {
    double least = 1e9;
    for (const Contour& contour : support::contoursOf(shapes))
        eachCurve(contour,
                  [&](const Cubic& k, const Segment&) { least = std::min(least, nearest(k, p).distance); });
    return least;
}

/// Every point of the parallel must lie at the distance from the given outline: the definition itself.
void expectParallel(const Shapes& given, double byMm, const Shapes& out) {
    for (const Contour& contour : support::contoursOf(out))
        eachCurve(contour, [&](const Cubic& k, const Segment&) {
            for (double t : {0.0, 0.2, 0.45, 0.7})
                ASSERT_NEAR(distanceToOutlines(given, k.at(t)), std::abs(byMm), kAllowedMm)
                    << "at " << k.at(t).x << ", " << k.at(t).y;
        });
}

// Steiner's formula (published, standard): a convex shape grown by d with round joins has area A + P d + pi
// d2 and perimeter P + 2 pi d.
TEST(Offset, GrownConvexShapesObeySteinersFormula) {
    const Shape shapes[] = {
        rectangle(0, 0, 40, 25), disc({30, 30}, 18), {contourThrough({{0, 0}, {50, 0}, {10, 40}}), {}}};
    for (const Shape& shape : shapes)
        for (double d : {0.4, 3.0, 12.0}) {
            const Shapes out = offsetOf({shape}, d);
            ASSERT_EQ(out.size(), 1u);
            const double p = cutLength(shape);
            EXPECT_NEAR(area(out[0]), area(shape) + p * d + pi * d * d, (p + 2 * pi * d) * kAllowedMm);
            EXPECT_NEAR(cutLength(out[0]), p + 2 * pi * d, 2 * pi * kAllowedMm);
        }
}

TEST(Offset, CirclesStayCirclesAndStraightStaysStraight) {
    for (double d : {-17.0, -3.0, 5.0, 100.0}) {
        const Shapes out = offsetOf({disc({0, 0}, 20)}, d);
        ASSERT_EQ(out.size(), 1u) << d;
        EXPECT_LE(nodeCount(out[0]), 8);
        for (Point p : flatten(out[0].outline, 0.01))
            EXPECT_NEAR(length(p), 20 + d,
                        20 * 3e-4 + kAllowedMm); // a disc of cubics is 0.03 % off by itself
    }
    const Shapes out = offsetOf({rectangle(0, 0, 40, 25)}, -5);
    ASSERT_EQ(out.size(), 1u);
    ASSERT_EQ(nodeCount(out[0]), 4);
    for (const Segment& s : out[0].outline.segments)
        EXPECT_TRUE(s.isLine);
    EXPECT_NEAR(area(out[0]), 30 * 15, 1e-6);
}

TEST(Offset, RandomShapesLieAtTheDistanceEverywhere) {
    std::mt19937 random(21);
    for (int i = 0; i < 24; ++i) {
        const Shape shape = blob(random, {0, 0}, 20, 5 + i % 9, 0.45);
        for (double d : {-6.0, -1.5, -0.2, 0.3, 2.0, 9.0}) {
            SCOPED_TRACE("blob " + std::to_string(i) + " by " + std::to_string(d));
            expectParallel({shape}, d, offsetOf({shape}, d));
        }
    }
}

TEST(Offset, OutAndInAgainReturnsASmoothShape) {
    std::mt19937 random(4);
    for (int i = 0; i < 6; ++i) {
        const Shape shape = blob(random, {0, 0}, 30, 8, 0.08);
        const Shapes there = offsetOf({shape}, 2), back = offsetOf(there, -2);
        ASSERT_EQ(back.size(), 1u);
        for (Point p : flatten(back[0].outline, 0.01))
            EXPECT_LT(distanceToOutlines({shape}, p), 2 * kAllowedMm);
    }
}

TEST(Offset, SaysWhatVanishedAndWhatFellApart) {
    const Shapes given{support::dumbbell(20, 2, 10), disc({100, 0}, 1)};
    const auto out = offset(given, -2);
    ASSERT_TRUE(out);
    EXPECT_EQ(out->shapes.size(), 2u);
    EXPECT_EQ(out->fellApart, 1);
    EXPECT_EQ(out->vanished, 1);
    for (double d : {-5.001, -7.0, -50.0})
        EXPECT_TRUE(offsetOf({disc({0, 0}, 5)}, d).empty()) << d;
    for (double d : {-10.01, -15.0, -80.0})
        EXPECT_TRUE(offsetOf({rectangle(0, 0, 20, 50)}, d).empty()) << d;
}

TEST(Offset, AnOpeningShrinksWhenItsShapeGrowsAndClosesInTheEnd) {
    const Shape ring = support::withOpening(rectangle(0, 0, 60, 60), disc({30, 30}, 10));
    const Shapes out = offsetOf({ring}, 2);
    ASSERT_EQ(out.size(), 1u);
    ASSERT_EQ(out[0].openings.size(), 1u);
    EXPECT_NEAR(signedArea(out[0].openings[0]), -pi * 64, 0.3);
    EXPECT_TRUE(offsetOf({ring}, 11)[0].openings.empty());
}

TEST(Offset, CornersAreRoundPointedOrSquare) {
    const Shape square = rectangle(0, 0, 10, 10);
    EXPECT_NEAR(area(offsetOf({square}, 2, {.join = Join::Mitre})[0]), 14 * 14, 1e-6);
    // A square corner of 90 degrees loses the triangle beyond the distance: (sqrt(2) - 1)^2 d^2 each.
    const double lost = 4 * std::pow((std::sqrt(2) - 1) * 2, 2);
    EXPECT_NEAR(area(offsetOf({square}, 2, {.join = Join::Square})[0]), 14 * 14 - lost, 1e-6);
    // A needle: its mitre would reach farther than the limit, so it is cut.
    const Shape needle{contourThrough({{0, 0}, {40, 1}, {0, 2}}), {}};
    EXPECT_LT(bounds(offsetOf({needle}, 1, {.join = Join::Mitre})[0]).most.x, 42);
    EXPECT_GT(bounds(offsetOf({needle}, 1, {.join = Join::Mitre, .mitreLimit = 100})[0]).most.x, 70);
}

TEST(Offset, ASeriesHasEqualSteps) {
    const auto series = offsetSeries({disc({0, 0}, 10)}, 1.5, 7);
    ASSERT_TRUE(series);
    ASSERT_EQ(series->size(), 7u);
    for (size_t i = 0; i < 7; ++i)
        EXPECT_NEAR(bounds((*series)[i].shapes[0]).width(), 2 * (10 + 1.5 * (i + 1.0)), 0.001);
}

TEST(Offset, ALineBecomesAnArea) {
    const Contour straight{{0, 0}, {Segment::line({30, 0})}};
    const auto butt = strokeOutline(straight, 4, Cap::Butt), square = strokeOutline(straight, 4, Cap::Square),
               round = strokeOutline(straight, 4, Cap::Round);
    ASSERT_TRUE(butt && square && round);
    EXPECT_NEAR(area(butt->at(0)), 30 * 4, 1e-6);
    EXPECT_NEAR(area(square->at(0)), 34 * 4, 1e-6);
    EXPECT_NEAR(area(round->at(0)), 30 * 4 + pi * 4, 0.001);
    // A loop that crosses itself once encloses one opening.
    const Contour loop{{0, 0}, {Segment::curve({60, 30}, {-30, 30}, {30, 0})}};
    const auto ribbon = strokeOutline(loop, 2, Cap::Round);
    ASSERT_TRUE(ribbon);
    ASSERT_EQ(ribbon->size(), 1u);
    EXPECT_EQ(ribbon->at(0).openings.size(), 1u);
    EXPECT_FALSE(strokeOutline(straight, 0, Cap::Butt));
    EXPECT_FALSE(strokeOutline({{1, 1}, {}}, 2, Cap::Butt));
}

TEST(Offset, RefusesWhatIsNoNumber) {
    const double nan = std::numeric_limits<double>::quiet_NaN();
    EXPECT_EQ(offset({rectangle(0, 0, 1, 1)}, nan).error().code, base::Code::InvalidArgument);
    EXPECT_EQ(offset({rectangle(0, 0, nan, 1)}, 1).error().code, base::Code::InvalidArgument);
    EXPECT_EQ(offset({rectangle(0, 0, 1500, 1)}, 600).error().code, base::Code::LimitExceeded);
    EXPECT_TRUE(offset({}, 1)->shapes.empty());
}

} // namespace
} // namespace thinline::geometry
