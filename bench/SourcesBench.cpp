// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How fast drawings open and how fast the largest size is found. Every measurement in a process of its own, so that
// its peak memory is its own.
//
//     bench_sources

#include "BenchJobs.h"
#include "job/SizeAnswers.h"
#include "support/Jobs.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <functional>
#include <numbers>
#include <random>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

namespace {

using namespace thinline;
using bench::msOf;

/// Runs a measurement apart and prints its line with the peak memory.
void apart(const std::function<void()>& measure) {
    std::fflush(stdout);
    if (fork() == 0) {
        measure();
        rusage usage{};
        getrusage(RUSAGE_SELF, &usage);
        std::printf("    peak %ld MB\n", usage.ru_maxrss / 1024);
        std::fflush(stdout);
        _exit(0);
    }
    int state = 0;
    wait(&state);
}

/// A job of odd pieces, from a drawing.
job::State jobOfPieces(int pieces, int nodes) {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> radius(20, 60);
    std::string svg =
        "<svg xmlns='http://www.w3.org/2000/svg' width='1400mm' height='1400mm' viewBox='0 0 1400 1400'>\n";
    for (int i = 0; i < pieces; ++i) {
        svg += "<path fill='#3c7d8c' d='M";
        for (int k = 0; k < nodes; ++k) {
            const double a = 2 * std::numbers::pi * k / nodes, r = radius(random);
            svg += std::to_string(70 + i % 10 * 130 + r * std::cos(a)) + " " +
                   std::to_string(70 + i / 10 * 130 + 0.7 * r * std::sin(a)) + " ";
        }
        svg += "z'/>\n";
    }
    return support::made(support::openedDrawing(svg + "</svg>", "pieces.svg").job);
}

} // namespace

int main() {
    const auto& catalogue = job::shippedCatalogue();
    const std::string svg = bench::svgOfDiscs(2000, 100);
    apart([&] {
        const support::MemoryFontStore fonts;
        const base::Bytes bytes(svg.begin(), svg.end());
        size_t pieces = 0;
        const double ms = msOf([&] {
            const auto opened = job::openDrawing(job::newJob(catalogue),
                                                 {bytes, "big.svg", job::recognise(bytes)}, catalogue, fonts);
            if (opened)
                pieces = support::made(opened->job).made.work()->pieces.size();
        });
        std::printf("open an SVG of %.1f MB with 200,000 nodes: %zu pieces, %.0f ms\n",
                    static_cast<double>(svg.size()) / 1e6, pieces, ms);
    });
    apart([&] {
        const job::State state = jobOfPieces(100, 200);
        size_t rows = 0;
        double best = 1e9;
        for (int i = 0; i < 5; ++i)
            best = std::min(best, msOf([&] { rows = job::largestOnEach(state, catalogue.formats)->size(); }));
        std::printf("largest that fits, 100 pieces of 200 nodes, %zu mats and sheets: %.1f ms\n", rows, best);
        best = 1e9;
        for (int i = 0; i < 5; ++i)
            best = std::min(best,
                            msOf([&] { (void)sheets::largestThatFits(*state.made.work(), 292.1, 596.9); }));
        std::printf("the same for one mat: %.1f ms\n", best);
    });
    apart([&] {
        support::MemoryFontStore fonts = support::shippedFonts();
        lettering::Recipe recipe;
        recipe.text = "HARBOUR OPEN DAY";
        recipe.font = support::kBold;
        recipe.overlapMm = 3;
        recipe.isJoined = true;
        double best = 1e9;
        for (int i = 0; i < 5; ++i)
            best = std::min(best,
                            msOf([&] { (void)job::withWord(support::emptyState(), recipe, "sea", fonts); }));
        std::printf("set, overlap and join a word of 14 letters: %.1f ms\n", best);
    });
}
