// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Computations of the main job, timed. Figures go to docs/bench.md with the date and the machine's cores.

#include "document/DiskFileStore.h"
#include "document/JobFile.h"
#include "inspect/Inspect.h"
#include "job/Catalogue.h"
#include "job/CutSteps.h"
#include "pack/Package.h"
#include "pack/Pictures.h"
#include "trace/Tracing.h"

#include <QCoreApplication>
#include <benchmark/benchmark.h>

#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <random>
#include <sys/resource.h>

namespace {

using namespace thinline;

const job::State& demo() {
    static const job::State state = [] {
        const document::DiskFileStore store;
        auto loaded = document::loadJob(store, THINLINE_SOURCE_DIR "/demo/gull-point-lighthouse.thinline");
        if (!loaded) {
            std::fprintf(stderr, "%s\n", loaded.error().message.c_str());
            std::exit(1);
        }
        return loaded.take().state;
    }();
    return state;
}

/// The lighthouse drawn at about this many megapixels.
raster::Picture drawing(double megapixels) {
    const geometry::Box box = job::workBox(demo().made);
    const double longer = std::sqrt(megapixels * 1e6 * box.height() / box.width());
    return pack::pictureOfStack(*demo().made.work(), static_cast<int>(longer));
}

void traceDrawing(benchmark::State& state) {
    const raster::Picture picture = drawing(static_cast<double>(state.range(0)));
    size_t areas = 0;
    for (auto _ : state) {
        const auto tracing = trace::traced(picture, 280.0 / picture.width, {});
        areas = tracing ? tracing->areas.size() : 0;
        benchmark::DoNotOptimize(areas);
    }
    rusage usage{};
    getrusage(RUSAGE_SELF, &usage);
    state.counters["megapixels"] = static_cast<double>(picture.pixels()) / 1e6;
    state.counters["areas"] = static_cast<double>(areas);
    state.counters["peakMB"] = static_cast<double>(usage.ru_maxrss) / 1024;
}
BENCHMARK(traceDrawing)->Arg(12)->Unit(benchmark::kMillisecond)->UseRealTime();

void arrangePieces(benchmark::State& state) {
    std::mt19937 random(1);
    std::uniform_real_distribution<double> side(8, 90);
    design::Stack stack{{{"sea", "sea", {}}}, {{design::LayerId{1}, "", "sea"}}, {}};
    for (int i = 1; i <= state.range(0); ++i) {
        const double w = side(random), h = side(random);
        const geometry::Shape shape{geometry::contourThrough({{0, 0}, {w, 0}, {w, h}, {0, h}}), {}};
        const auto id = design::PieceId::found(design::SourceId{1}, std::to_string(i));
        stack.pieces.push_back(
            {{id, std::make_shared<const design::Body>(design::Body{shape})}, design::LayerId{1}});
    }
    const auto& formats = job::shippedCatalogue().formats;
    int sheetCount = 0;
    double waste = 0;
    for (auto _ : state) {
        const auto out =
            sheets::arrange(stack, {.mat = *formats.mat("square12"), .sheet = *formats.sheet("square12")});
        const auto measures = sheets::measure(*out, stack);
        sheetCount = measures.sheets;
        waste = measures.wasteShare;
    }
    state.counters["sheets"] = sheetCount;
    state.counters["wastePercent"] = 100 * waste;
}
BENCHMARK(arrangePieces)->Arg(200)->Unit(benchmark::kMillisecond);

void inspectDemo(benchmark::State& state) {
    size_t count = 0;
    for (auto _ : state) {
        inspect::Memory memory; // everything is searched
        count = inspect::inspect(demo(), job::shippedCatalogue().formats, memory)->size();
    }
    state.counters["findings"] = static_cast<double>(count);
}
BENCHMARK(inspectDemo)->Unit(benchmark::kMillisecond);

void inspectDemoAgain(benchmark::State& state) {
    inspect::Memory memory;
    for (auto _ : state)
        benchmark::DoNotOptimize(inspect::inspect(demo(), job::shippedCatalogue().formats, memory)->size());
}
BENCHMARK(inspectDemoAgain)->Unit(benchmark::kMillisecond);

void packDemo(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(
            pack::makePackage(*demo().made.work(), *demo().made.sheets, *job::planned(demo()),
                              *job::arrangeOptions(demo().job, job::shippedCatalogue().formats), {"demo"}));
}
BENCHMARK(packDemo)->Unit(benchmark::kMillisecond);

void saveAndOpenJob(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(document::readJob(*document::writeJob(demo())));
}
BENCHMARK(saveAndOpenJob)->Unit(benchmark::kMillisecond);

} // namespace

int main(int argc, char** argv) {
    const QCoreApplication app(argc, argv);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
    return 0;
}
