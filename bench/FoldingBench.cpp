// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Works from measures: how long they take to be made, folded up, checked and drawn.
#include "construct/Construction.h"
#include "folding/Draw.h"
#include "support/FoldedWorks.h"

#include <algorithm>
#include <chrono>
#include <cstdio>

using namespace thinline;

namespace {

/// The median of some runs, ms.
template <class Work>
double medianMs(int runs, Work work) {
    std::vector<double> took;
    for (int i = 0; i < runs; ++i) {
        const auto begun = std::chrono::steady_clock::now();
        work();
        took.push_back(
            std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begun).count());
    }
    std::sort(took.begin(), took.end());
    return took[took.size() / 2];
}

void fold(const char* name) {
    const construct::Given given = support::given(name);
    const auto built = construct::built(given);
    const double made = medianMs(9, [&] { (void)construct::built(given); });
    const double parted = medianMs(9, [&] { (void)support::folded(*built, given.thicknessMm); });
    const folding::Model model = support::folded(*built, given.thicknessMm);
    size_t leaves = 0;
    for (const folding::Sheet& sheet : model.sheets)
        leaves += sheet.leaves.size();
    const folding::Posed done = folding::posed(model, 1);
    const double checked = medianMs(9, [&] {
        (void)folding::closingsOf(model, done);
        (void)folding::clashesOf(model, done);
    });
    const folding::View view;
    const double frame = medianMs(31, [&] { (void)folding::drawn(model, folding::posed(model, 0.8), view); });
    std::printf("%-10s %3zu leaves: made %.2f ms, parted %.1f ms, joints and clashes %.1f ms, one frame of "
                "%d x %d %.1f ms\n",
                name, leaves, made, parted, checked, view.widthPx, view.heightPx, frame);
}

} // namespace

int main() {
    for (const char* name : {"round-box", "lid-box", "carton", "lantern", "cup"})
        fold(name);
    construct::Given puzzle = support::given("jigsaw");
    puzzle.values[0] = puzzle.values[1] = 1000;
    puzzle.values[2] = 40;
    puzzle.values[3] = 25;
    std::printf("jigsaw of 1000 pieces: %.0f ms\n", medianMs(5, [&] { (void)construct::built(puzzle); }));
    return 0;
}
