// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "cutplan/Tour.h"

#include <gtest/gtest.h>

#include <cmath>
#include <limits>
#include <numbers>
#include <random>
#include <set>

namespace thinline::cutplan {
namespace {

using geometry::Point;

Visit spot(Point p) {
    return {{{p, p}}, false};
}
Visit openLine(Point a, Point b) {
    return {{{a, b}, {b, a}}, true};
}
/// Outlines with four places to begin, and, if wished, every third an open line.
std::vector<Visit> scattered(int count, unsigned seed, bool withLines) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> place(0, 280), size(3, 20);
    std::vector<Visit> out;
    for (int i = 0; i < count; ++i) {
        const Point at{place(random), place(random)};
        if (withLines && i % 3 == 0) {
            const double turn = place(random);
            out.push_back(
                openLine(at, at + Point{size(random) * std::cos(turn), size(random) * std::sin(turn)}));
            continue;
        }
        const double radius = size(random) / 2;
        Visit visit;
        for (int k = 0; k < 4; ++k) {
            const double turn = k * std::numbers::pi / 2;
            const Point p = at + Point{radius * std::cos(turn), radius * std::sin(turn)};
            visit.gates.push_back({p, p});
        }
        out.push_back(std::move(visit));
    }
    return out;
}

/// The shortest way through a few visits by every gate: dynamic programming over sets (Held, Karp 1962).
double shortest(const std::vector<Visit>& visits, Point from) {
    struct Stop {
        size_t visit;
        Gate gate;
    };
    std::vector<Stop> stops;
    for (size_t v = 0; v < visits.size(); ++v)
        for (const Gate& gate : visits[v].gates)
            stops.push_back({v, gate});
    const size_t sets = size_t{1} << visits.size();
    std::vector<std::vector<double>> best(sets, std::vector<double>(stops.size(), 1e300));
    for (size_t s = 0; s < stops.size(); ++s)
        best[size_t{1} << stops[s].visit][s] = geometry::distance(from, stops[s].gate.in);
    double out = 1e300;
    for (size_t set = 1; set < sets; ++set)
        for (size_t s = 0; s < stops.size(); ++s) {
            if (best[set][s] >= 1e300)
                continue;
            if (set + 1 == sets)
                out = std::min(out, best[set][s]);
            for (size_t t = 0; t < stops.size(); ++t)
                if (const size_t bit = size_t{1} << stops[t].visit; !(set & bit)) {
                    double& there = best[set | bit][t];
                    there = std::min(there,
                                     best[set][s] + geometry::distance(stops[s].gate.out, stops[t].gate.in));
                }
        }
    return out;
}

void expectWhole(const std::vector<Visit>& visits, const Tour& tour, Point from) {
    EXPECT_EQ(std::set<size_t>(tour.order.begin(), tour.order.end()).size(), visits.size());
    ASSERT_EQ(tour.order.size(), visits.size());
    ASSERT_EQ(tour.gates.size(), visits.size());
    EXPECT_NEAR(travelOf(visits, tour, from), tour.travelMm, 1e-6);
}

TEST(Tour, AFewAreVisitedOnTheShortestWay) {
    double ours = 0, best = 0;
    for (unsigned seed = 1; seed <= 12; ++seed) {
        const auto visits = scattered(8, seed, seed % 2 == 0);
        const auto tour = shortTour(visits, {0, 0});
        ASSERT_TRUE(tour);
        expectWhole(visits, *tour, {0, 0});
        const double least = shortest(visits, {0, 0});
        EXPECT_GE(tour->travelMm, least - 1e-6);
        EXPECT_LE(tour->travelMm, 1.05 * least) << seed;
        ours += tour->travelMm;
        best += least;
    }
    EXPECT_LE(ours, 1.01 * best) << "over all";
}

// Against a run that is given twenty-five times as long.
TEST(Tour, ManyAreWithinAFewPerCentOfALongRun) {
    for (const int count : {50, 120, 200})
        for (const bool withLines : {false, true}) {
            const auto visits = scattered(count, static_cast<unsigned>(count), withLines);
            TourOptions patient;
            patient.kicks = 200;
            const auto tour = shortTour(visits, {0, 0}), best = shortTour(visits, {0, 0}, patient);
            ASSERT_TRUE(tour && best);
            expectWhole(visits, *tour, {0, 0});
            EXPECT_LE(tour->travelMm, 1.05 * best->travelMm) << count;
        }
}

TEST(Tour, ThousandsAreVisitedAndTheSameInputGivesTheSameWay) {
    const auto visits = scattered(5000, 7, true);
    const auto a = shortTour(visits, {0, 0}), b = shortTour(visits, {0, 0});
    ASSERT_TRUE(a && b);
    expectWhole(visits, *a, {0, 0});
    EXPECT_EQ(a->order, b->order);
    EXPECT_EQ(a->gates, b->gates);
    // A random path through n places of a square is about 0.7124 * sqrt(n * area) long at best (Beardwood, Halton,
    // Hammersley 1959; the factor by Johnson and McGeoch 1996); the lines themselves are no way.
    EXPECT_LT(a->travelMm, 0.7124 * std::sqrt(5000.0) * 280);
}

TEST(Tour, OnOneLineItGoesStraightAlong) {
    std::vector<Visit> visits;
    for (const double x : {40.0, 10.0, 30.0, 20.0, 50.0})
        visits.push_back(spot({x, 0}));
    const auto tour = shortTour(visits, {0, 0});
    EXPECT_EQ(tour->order, (std::vector<size_t>{1, 3, 2, 0, 4}));
    EXPECT_DOUBLE_EQ(tour->travelMm, 50);
    // A line is drawn from its near end.
    const auto drawn = shortTour({openLine({50, 0}, {10, 0})}, {0, 0});
    EXPECT_EQ(drawn->gates, std::vector<size_t>{1});
    EXPECT_DOUBLE_EQ(drawn->travelMm, 10);
}

TEST(Tour, OddInputIsAnswered) {
    EXPECT_TRUE(shortTour({}, {0, 0})->order.empty());
    EXPECT_FALSE(shortTour({Visit{}}, {0, 0}));
    EXPECT_FALSE(shortTour({spot({std::numeric_limits<double>::quiet_NaN(), 0})}, {0, 0}));
    // All at one place, and all on one another.
    std::vector<Visit> same(40, spot({5, 5}));
    EXPECT_NEAR(shortTour(same, {5, 5})->travelMm, 0, 1e-12);
    const std::atomic<bool> stop{true};
    const auto stopped = shortTour(scattered(50, 1, false), {0, 0}, {}, base::Progress(&stop, nullptr));
    ASSERT_FALSE(stopped);
    EXPECT_EQ(stopped.error().code, base::Code::Cancelled);
}

} // namespace
} // namespace thinline::cutplan
