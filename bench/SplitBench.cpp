// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How works larger than a mat are divided: parts, thin places cut, slivers, crumbs, seam that is seen, and time.
// bench_split [random works] [first seed]
#include "split/Split.h"
#include "support/SplitShapes.h"

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>

using namespace thinline;

namespace {

double secondsSince(std::chrono::steady_clock::time_point start) {
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

} // namespace

int main(int argc, char** argv) {
    const int randoms = argc > 1 ? std::atoi(argv[1]) : 120;
    const int firstSeed = argc > 2 ? std::atoi(argv[2]) : 1;
    std::printf("%-32s %5s %4s %7s %6s %8s %8s %6s\n", "work", "parts", "thin", "slivers", "crumbs",
                "seen mm", "seam mm", "s");
    const auto row = [](const test::LargeWork& work, const split::Division& best, double seconds) {
        std::printf("%-32s %5zu %4d %7d %6d %8.0f %8.0f %6.2f\n", work.name.c_str(), best.parts.size(),
                    best.thinCuts, best.slivers, best.crumbs, best.seenMm, best.seamMm, seconds);
        std::fflush(stdout);
    };
    for (const test::LargeWork& work : test::largeWorks()) {
        const auto start = std::chrono::steady_clock::now();
        const auto found = split::divisions({work.shape, work.cover}, {work.widthMm, work.heightMm});
        if (!found) {
            std::printf("%-32s %s\n", work.name.c_str(), found.error().message.c_str());
            continue;
        }
        row(work, found->front(), secondsSince(start));
        const auto roughStart = std::chrono::steady_clock::now();
        split::Options rough;
        rough.isRough = true;
        if (const auto first =
                split::divisions({work.shape, work.cover}, {work.widthMm, work.heightMm}, rough))
            row({"  roughly", {}, {}}, first->front(), secondsSince(roughStart));
        for (size_t i = 1; i < found->size(); ++i)
            row({"  or", {}, {}}, (*found)[i], 0);
    }
    for (const bool areTangles : {false, true}) {
        std::vector<double> times;
        int thin = 0, slivers = 0, crumbs = 0, refused = 0, parts = 0;
        for (int i = 0; i < randoms; ++i) {
            const auto seed = static_cast<unsigned>(firstSeed + i);
            const test::LargeWork work = areTangles ? test::randomTangle(seed) : test::randomWork(seed);
            const auto start = std::chrono::steady_clock::now();
            const auto found = split::divisions({work.shape, work.cover}, {work.widthMm, work.heightMm});
            times.push_back(secondsSince(start));
            if (!found) {
                ++refused;
                std::printf("%-32s %s\n", work.name.c_str(), found.error().message.c_str());
                continue;
            }
            const split::Division& best = found->front();
            thin += best.thinCuts;
            slivers += best.slivers;
            crumbs += best.crumbs;
            parts += static_cast<int>(best.parts.size());
            if (best.slivers + best.crumbs > 0 || times.back() > 1.2)
                row(work, best, times.back());
        }
        std::sort(times.begin(), times.end());
        if (!times.empty())
            std::printf("%d random %s: %d parts, %d thin cuts, %d slivers, %d crumbs, %d refused; %.2f s "
                        "median, %.2f s for nine of "
                        "ten, %.2f s at most\n",
                        randoms, areTangles ? "tangles" : "works", parts, thin, slivers, crumbs, refused,
                        times[times.size() / 2], times[times.size() * 9 / 10], times.back());
    }
}
