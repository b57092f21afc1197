// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "registration/Solve.h"

#include "registration/Calibrate.h"

#include <gtest/gtest.h>

#include <array>
#include <complex>
#include <numbers>
#include <random>

namespace thinline::registration {
namespace {

using geometry::Point;
using geometry::Transform;

const std::array<Point, 4> kMarks{Point{12, 12}, {204, 12}, {204, 267}, {12, 267}};

Transform similarity(double turnDeg, double scale, Point shift) {
    const double turn = turnDeg * std::numbers::pi / 180;
    return {scale * std::cos(turn),
            scale * std::sin(turn),
            -scale * std::sin(turn),
            scale * std::cos(turn),
            shift.x,
            shift.y};
}
std::vector<Mark> seenBy(const Transform& map, std::size_t count = 4) {
    std::vector<Mark> out;
    for (std::size_t i = 0; i < count; ++i)
        out.push_back({kMarks[i], map(kMarks[i])});
    return out;
}

// The closed form of Umeyama 1991, written down with the singular value decomposition of a 2 x 2 matrix in its own closed form:
// nothing of it is shared with the solver, which uses one complex number.
Transform published(const std::vector<Mark>& marks) {
    const auto n = static_cast<double>(marks.size());
    Point mx, my;
    for (const Mark& mark : marks) {
        mx = mx + mark.printed * (1 / n);
        my = my + mark.seen * (1 / n);
    }
    double s[2][2] = {{0, 0}, {0, 0}}, variance = 0;
    for (const Mark& mark : marks) {
        const double x[2] = {mark.printed.x - mx.x, mark.printed.y - mx.y},
                     y[2] = {mark.seen.x - my.x, mark.seen.y - my.y};
        variance += (x[0] * x[0] + x[1] * x[1]) / n;
        for (int i = 0; i < 2; ++i)
            for (int k = 0; k < 2; ++k)
                s[i][k] += y[i] * x[k] / n;
    }
    // S = U D V^T; R = U V^T with det R = 1, c = trace(D) / variance.
    const double e = (s[0][0] + s[1][1]) / 2, f = (s[0][0] - s[1][1]) / 2, g = (s[1][0] + s[0][1]) / 2,
                 h = (s[1][0] - s[0][1]) / 2;
    const double q = std::hypot(e, h), r = std::hypot(f, g);
    const double trace = q + r + (q - r); // the smaller one keeps its sign, which is that of the determinant
    const double turn = std::atan2(h, e), c = trace / variance;
    Transform out{c * std::cos(turn), c * std::sin(turn), -c * std::sin(turn), c * std::cos(turn), 0, 0};
    const Point at = out(mx);
    out.e = my.x - at.x;
    out.f = my.y - at.y;
    return out;
}

TEST(Solve, AgreesWithThePublishedClosedFormInAThousandCases) {
    std::mt19937 random(11);
    const auto between = [&](double least, double most) {
        return std::uniform_real_distribution<double>(least, most)(random);
    };
    double worst = 0;
    for (int i = 0; i < 1000; ++i) {
        std::vector<Mark> marks =
            seenBy(similarity(between(-180, 180), between(0.5, 2), {between(-50, 50), between(-50, 50)}),
                   3 + static_cast<std::size_t>(i % 2));
        for (Mark& mark : marks)
            mark.seen = mark.seen + Point{between(-1, 1), between(-1, 1)};
        const auto map = similarityOf(marks);
        ASSERT_TRUE(map);
        const Transform wanted = published(marks);
        for (const Point p : kMarks)
            worst = std::max(worst, geometry::distance((*map)(p), wanted(p)));
    }
    EXPECT_LT(worst, 1e-9);
}

TEST(Solve, WithoutNoiseTheErrorIsBelowANanometre) {
    std::mt19937 random(5);
    const auto between = [&](double least, double most) {
        return std::uniform_real_distribution<double>(least, most)(random);
    };
    for (int i = 0; i < 1000; ++i) {
        Transform map =
            similarity(between(-2.5, 2.5), between(0.99, 1.01), {between(-5, 5), between(-5, 5)});
        const std::size_t count = 3 + static_cast<std::size_t>(i % 2);
        if (count == 4) // with four marks also unlike scales and shear
            map = Transform{between(0.995, 1.005), 0, between(-0.005, 0.005), between(0.995, 1.005), 0, 0}.then(
                map);
        const auto found = registered(seenBy(map, count));
        ASSERT_TRUE(found) << found.error().message;
        EXPECT_EQ(found->hasShear, count == 4);
        for (const Point p : {Point{20, 20}, Point{190, 250}})
            EXPECT_LT(geometry::distance(found->map(p), map(p)), 1e-9);
    }
}

// Least squares of a linear model reaches the bound of Cramer and Rao: with places n-fold measured with s each way, the shift has
// a variance of s2 / n, turn and scale of s2 over the sum of squared distances from the middle.
TEST(Solve, WithNoiseItReachesTheBoundOfCramerAndRao) {
    constexpr double kNoise = 0.05;
    std::mt19937 random(9);
    std::normal_distribution<double> noise(0, kNoise);
    double spread = 0;
    Point middle;
    for (const Point p : kMarks)
        middle = middle + p * 0.25;
    for (const Point p : kMarks)
        spread += dot(p - middle, p - middle);
    double shift = 0, turn = 0, scale = 0;
    constexpr int kRuns = 4000;
    for (int i = 0; i < kRuns; ++i) {
        std::vector<Mark> marks = seenBy({});
        for (Mark& mark : marks)
            mark.seen = mark.seen + Point{noise(random), noise(random)};
        const auto map = similarityOf(marks);
        const Point off = (*map)(middle)-middle;
        shift += off.x * off.x / kRuns;
        turn += map->b * map->b / kRuns;
        scale += (map->a - 1) * (map->a - 1) / kRuns;
    }
    const double bound = kNoise * kNoise / spread;
    EXPECT_NEAR(shift / (kNoise * kNoise / 4), 1, 0.08);
    EXPECT_NEAR(turn / bound, 1, 0.08);
    EXPECT_NEAR(scale / bound, 1, 0.08);
}

TEST(Solve, AMarkThatDoesNotFitIsLeftOutAndNamed) {
    const Transform map = similarity(1.2, 1.001, {3, -2});
    std::vector<Mark> marks = seenBy(map);
    marks[2].seen = marks[2].seen + Point{4, 1};
    const auto found = registered(marks);
    ASSERT_TRUE(found) << found.error().message;
    EXPECT_EQ(found->leftOut, std::optional<std::size_t>(2));
    EXPECT_FALSE(found->hasShear) << "three are left";
    EXPECT_NEAR(found->residualsMm[2], std::hypot(4, 1), 1e-9);
    EXPECT_LT(geometry::distance(found->map({50, 50}), map({50, 50})), 1e-9);
}

std::string whyNot(const std::vector<Mark>& marks, const std::optional<Mark>& bar = {}) {
    const auto found = registered(marks, bar);
    return found ? "" : found.error().message;
}

TEST(Solve, WhatNoArithmeticMendsIsRefusedWithItsReason) {
    EXPECT_NE(whyNot(seenBy(similarity(4, 1, {}))).find("askew by 4.0 degrees"), std::string::npos);
    EXPECT_NE(whyNot(seenBy(similarity(0, 0.96, {}))).find("96.0 %"), std::string::npos);
    EXPECT_NE(whyNot(seenBy({}, 2)).find("three"), std::string::npos);
    EXPECT_NE(whyNot(seenBy(Transform{1, 0, 0.02, 1, 0, 0})).find("out of square"), std::string::npos);
    // Another page: its marks stand elsewhere.
    std::vector<Mark> other = seenBy({});
    other[1].seen.x -= 20;
    other[2].seen.x -= 20;
    EXPECT_NE(whyNot(other).find("another page"), std::string::npos);
    EXPECT_NE(whyNot(seenBy(Transform{-1, 0, 0, 1, 216, 0})).find("face down"), std::string::npos);
    // Laid upside down, every place has a mark; only the bar tells.
    const Point bar{29, 12}, opposite{216 - 29, 279 - 12};
    EXPECT_TRUE(registered(seenBy({}), Mark{bar, bar}));
    EXPECT_NE(whyNot(seenBy({}), Mark{bar, opposite}).find("upside down"), std::string::npos);
    std::vector<Mark> broken = seenBy({});
    broken[0].seen.x = std::nan("");
    EXPECT_NE(whyNot(broken).find("not a number"), std::string::npos);
}

// What a person reads where two scales meet is what the knife was off.
TEST(Calibrate, ReadingsOfAVernierGiveTheErrorWithTheirSpread) {
    const auto verniers = verniersIn({{22, 22}, {193, 257}});
    ASSERT_TRUE(verniers);
    ASSERT_EQ(verniers->size(), 4u);
    const Point error{0.15, -0.30};
    std::vector<std::optional<double>> readings;
    for (const Vernier& vernier : *verniers) {
        // The printed tick that a cut one, moved by the error, comes nearest to.
        const auto printed = printedTicks(vernier);
        const auto cut = cutTicks(vernier);
        double least = 1e9, read = 0;
        for (std::size_t i = 0; i < printed.size(); ++i) {
            const Point p = geometry::endOf(printed[i].line), c = cut[i].start + error;
            const double away = vernier.isAcross ? std::abs(p.x - c.x) : std::abs(p.y - c.y);
            if (away < least) {
                least = away;
                read = printed[i].number;
            }
        }
        EXPECT_LT(least, 1e-9) << "one pair meets";
        readings.push_back(read);
    }
    readings[0] = *readings[0] + 1; // somebody misread by one
    const auto standing = standingErrorOf(*verniers, readings);
    ASSERT_TRUE(standing) << standing.error().message;
    EXPECT_NEAR(standing->rightMm, error.x + kReadingMm / 2, 1e-9);
    EXPECT_NEAR(standing->downMm, error.y, 1e-9);
    EXPECT_NEAR(standing->spreadMm, kReadingMm / 2, 1e-9)
        << "two readings 0.05 mm apart, two alike: two to spare";
    EXPECT_EQ(standing->readings, 4);
}

TEST(Calibrate, WhatCannotBeSolvedIsTold) {
    const auto verniers = verniersIn({{22, 22}, {193, 257}});
    EXPECT_FALSE(standingErrorOf(*verniers, {1.0, std::nullopt, 1.0}));
    EXPECT_FALSE(standingErrorOf(*verniers, {1.0, 20.0}));
    EXPECT_FALSE(standingErrorOf(*verniers, {-6.0, 1.0, 6.0, 1.0})) << "they contradict each other";
    EXPECT_FALSE(standingErrorOf(*verniers, {1.0, 1.0, 1.0, 1.0, 1.0}));
    EXPECT_FALSE(verniersIn({{0, 0}, {60, 200}}));
}

} // namespace
} // namespace thinline::registration
