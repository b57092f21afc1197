// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How long loads take to be planned, and how far the tool travels between lines: beside always going to the nearest, and
// beside a run that is given a hundred times as long.
#include "cutplan/Tour.h"
#include "support/Plans.h"
#include "support/Shapes.h"
#include "support/Stacks.h"

#include <chrono>
#include <cstdio>
#include <random>

using namespace thinline;

namespace {

double secondsSince(std::chrono::steady_clock::time_point start) {
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

std::vector<cutplan::Visit> scattered(int count, unsigned seed) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> place(0, 280), size(3, 20);
    std::vector<cutplan::Visit> out;
    for (int i = 0; i < count; ++i) {
        const geometry::Point at{place(random), place(random)};
        cutplan::Visit visit;
        const double half = size(random) / 2;
        for (const geometry::Point by : {geometry::Point{half, 0}, {0, half}, {-half, 0}, {0, -half}})
            visit.gates.push_back({at + by, at + by});
        out.push_back(std::move(visit));
    }
    return out;
}

double nearestFirst(const std::vector<cutplan::Visit>& visits) {
    std::vector<char> done(visits.size(), 0);
    geometry::Point at;
    double sum = 0;
    for (size_t n = 0; n < visits.size(); ++n) {
        double nearest = 1e300;
        size_t best = 0;
        geometry::Point there;
        for (size_t v = 0; v < visits.size(); ++v)
            for (const cutplan::Gate& gate : visits[v].gates)
                if (const double away = geometry::distance(at, gate.in); !done[v] && away < nearest) {
                    nearest = away;
                    best = v;
                    there = gate.out;
                }
        done[best] = 1;
        sum += nearest;
        at = there;
    }
    return sum;
}

} // namespace

int main() {
    std::printf("%-10s %10s %10s %10s %8s\n", "outlines", "nearest", "ours", "long run", "s");
    for (const int count : {50, 100, 200, 300, 500}) {
        double nearest = 0, ours = 0, best = 0, seconds = 0;
        for (unsigned seed = 1; seed <= 5; ++seed) {
            const auto visits = scattered(count, seed);
            nearest += nearestFirst(visits);
            const auto start = std::chrono::steady_clock::now();
            ours += cutplan::shortTour(visits, {0, 0})->travelMm;
            seconds += secondsSince(start);
            cutplan::TourOptions patient;
            patient.kicks = 800;
            best += cutplan::shortTour(visits, {0, 0}, patient)->travelMm;
        }
        std::printf("%-10d %10.0f %10.0f %10.0f %8.3f\n", count, nearest / 5, ours / 5, best / 5,
                    seconds / 5);
        std::fflush(stdout);
    }
    // A whole plan of many small pieces on one large mat.
    for (const int across : {30, 71}) {
        design::Stack stack{{{"sea", "sea", {}, 0.3, 216}}, {support::layer(1, "sea")}, {}};
        const int count = across * across;
        design::PlacedSheet sheet{"sea", 0, 0, 2000, 2000, 5, {}};
        stack.pieces.push_back(support::laid(1, support::rectangle(0, 0, 22, 21), 1, count));
        for (int i = 0; i < count; ++i)
            sheet.pieces.push_back(support::placed(stack, support::id(1), i,
                                                   {6.0 + 27 * (i % across), 6.0 + 27 * (i / across)}));
        const design::Load load{{"m", "m", 2000, 2000, 0}, {sheet}};
        const auto start = std::chrono::steady_clock::now();
        const design::PlannedLoad planned = support::planOf(load, stack);
        std::printf("%d pieces planned in %.3f s, %.0f mm between them\n", count, secondsSince(start),
                    planned.travelMm());
    }
}
