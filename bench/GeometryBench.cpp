// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Curve-true operations beside polygon and curve libraries on the same input, in one run. Every engine works
// in a process of its own, so that a crash, a hang or its memory is told and harms nobody. Polygon engines
// get the outlines flattened at 2 um; the time of flattening is theirs to have.
//
//     bench_geometry [case ...]

#include "BenchCases.h"
#include "geometry/Boolean.h"
#include "geometry/Offset.h"

#include <atomic>
#include <cstdio>
#include <cstring>
#include <sys/resource.h>
#include <sys/wait.h>
#include <thread>
#include <unistd.h>

namespace {

using namespace thinline::bench;
using thinline::geometry::Shape;

/// What one engine made of one case, sent through a pipe.
struct Outcome {
    double ms = -1;
    double areaMm2 = 0;
    long nodes = 0;
    long parts = 0;
    double megabytes = 0;
    double strayUm = -1; ///< not looked at when negative
    char trouble[120] = {};
};

Outcome measured(const Case& one, const Engine& engine) {
    int ends[2];
    if (pipe(ends) != 0)
        return {};
    const pid_t child = fork();
    if (child == 0) {
        close(ends[0]);
        constexpr unsigned kMostSeconds = 180;
        alarm(kMostSeconds);
        Outcome out;
        Made last;
        // The best of some runs: machines are shared, and only delays are noise.
        const auto run = [&] {
            last = engine.run(one);
            const Made& made = last;
            out.areaMm2 = made.areaMm2;
            out.nodes = made.nodes;
            out.parts = made.parts;
            std::strncpy(out.trouble, made.trouble.c_str(), sizeof out.trouble - 1);
            if (out.ms < 0 || made.ms < out.ms)
                out.ms = made.ms;
        };
        run();
        for (int i = 0; i < 4 && out.ms < 2000 && !out.trouble[0]; ++i)
            run();
        constexpr long kMostNodes = 5000; // every point is held against every outline near it
        if (!last.sample.empty() && one.nodesIn() < kMostNodes && one.kind != Kind::OffsetSeries)
            out.strayUm = 1000 * strayOf(last.sample, one);
        rusage usage{};
        getrusage(RUSAGE_SELF, &usage);
        out.megabytes = static_cast<double>(usage.ru_maxrss) / 1024;
        [[maybe_unused]] const auto sent = write(ends[1], &out, sizeof out);
        _exit(0);
    }
    close(ends[1]);
    Outcome out;
    const bool isWhole = read(ends[0], &out, sizeof out) == static_cast<ssize_t>(sizeof out);
    close(ends[0]);
    int status = 0;
    waitpid(child, &status, 0);
    if (!isWhole) {
        out = {};
        std::snprintf(out.trouble, sizeof out.trouble, "%s",
                      WIFSIGNALED(status) && WTERMSIG(status) == SIGALRM ? "more than 180 s" : "crashed");
    }
    return out;
}

/// How long a weld goes on after it was asked to stop, at worst over several moments, ms.
void tellStopping(const Case& one) {
    const Clock whole;
    (void)thinline::geometry::weld(one.shapes);
    const double wholeMs = whole.ms();
    double worst = 0;
    constexpr int kMoments = 12;
    for (int i = 0; i < kMoments; ++i) {
        std::atomic<bool> stop = false;
        const thinline::base::Progress::Listener none;
        double endedMs = 0;
        const Clock clock;
        std::thread worker([&] {
            (void)thinline::geometry::weld(one.shapes, thinline::base::Progress(&stop, &none));
            endedMs = clock.ms();
        });
        std::this_thread::sleep_for(
            std::chrono::duration<double, std::milli>(wholeMs * (i + 0.5) / kMoments));
        const double askedMs = clock.ms();
        stop = true;
        worker.join();
        worst = std::max(worst, endedMs - askedMs);
    }
    std::printf("\nstopping %s: whole %.0f ms, stopped within %.0f ms\n", one.name.c_str(), wholeMs, worst);
}

} // namespace

int main(int argc, char** argv) {
    for (const Case& one : allCases()) {
        bool isWanted = argc < 2;
        for (int i = 1; i < argc; ++i)
            isWanted = isWanted || one.name.find(argv[i]) != std::string::npos;
        if (!isWanted)
            continue;
        std::printf("\n%s: %ld nodes in, %ld flattened\n", one.name.c_str(), one.nodesIn(), one.flatNodes());
        double bare = 0;
        for (const Engine& engine : allEngines()) {
            const Outcome out = measured(one, engine);
            if (engine.name == std::string("bare engine"))
                bare = out.ms;
            char stray[40] = "";
            if (out.strayUm >= 0)
                std::snprintf(stray, sizeof stray, "  strays %.2f um", out.strayUm);
            if (out.trouble[0] || out.ms < 0)
                std::printf("  %-12s %s\n", engine.name, out.trouble[0] ? out.trouble : "not done");
            else
                std::printf("  %-12s %9.1f ms  %6.2f x  %8ld nodes %6ld parts  area %.6f  peak %.0f MB%s\n",
                            engine.name, out.ms, bare > 0 ? out.ms / bare : 0, out.nodes, out.parts,
                            out.areaMm2, out.megabytes, stray);
            std::fflush(stdout);
        }
    }
    for (const Case& one : stopCases()) {
        bool isWanted = argc < 2;
        for (int i = 1; i < argc; ++i)
            isWanted = isWanted || one.name.find(argv[i]) != std::string::npos;
        if (isWanted)
            tellStopping(one);
    }
}
