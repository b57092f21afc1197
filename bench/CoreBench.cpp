// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Computations of the main job, timed. Figures go to docs/bench.md with the date and the machine's cores.

#include "document/DiskFileStore.h"
#include "document/JobFile.h"
#include "inspect/Inspect.h"
#include "pack/Package.h"
#include "pack/Pictures.h"

#include <QCoreApplication>
#include <benchmark/benchmark.h>

#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <random>
#include <sys/resource.h>

namespace {

using namespace thinline;

const document::Job& demoJob() {
    static const document::Job job = [] {
        document::DiskFileStore store;
        auto loaded = document::loadJob(store, THINLINE_SOURCE_DIR "/demo/gull-point-lighthouse.thinline");
        if (!loaded) {
            std::fprintf(stderr, "%s\n", loaded.error().message.c_str());
            std::exit(1);
        }
        return loaded.take();
    }();
    return job;
}

/// The lighthouse drawn at about this many megapixels.
raster::Picture drawing(double megapixels) {
    const geometry::Box box = document::designBox(demoJob());
    const double longer = std::sqrt(megapixels * 1e6 * box.height() / box.width());
    return pack::pictureOfStack(*demoJob().stack, static_cast<int>(longer));
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
    design::Stack stack{{{"sea", "sea", {}}}, {{design::LayerRole::Areas, "sea", 0, false, {}}}};
    for (int i = 1; i <= state.range(0); ++i) {
        const double w = side(random), h = side(random);
        stack.layers[0].pieces.push_back(
            {i,
             std::make_shared<const geometry::Shape>(
                 geometry::Shape{geometry::contourThrough({{0, 0}, {w, 0}, {w, h}, {0, h}}), {}}),
             1});
    }
    const auto& formats = document::shippedCatalogue().formats;
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
    const document::Job& job = demoJob();
    size_t count = 0;
    for (auto _ : state)
        count = inspect::inspect({.stack = job.stack.get(), .formats = &document::shippedCatalogue().formats})
                    ->size();
    state.counters["findings"] = static_cast<double>(count);
}
BENCHMARK(inspectDemo)->Unit(benchmark::kMillisecond);

void packDemo(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(pack::makePackage(*demoJob().stack, *demoJob().arrangement, {"demo"}));
}
BENCHMARK(packDemo)->Unit(benchmark::kMillisecond);

void saveAndOpenJob(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(document::readJob(*document::writeJob(demoJob())));
}
BENCHMARK(saveAndOpenJob)->Unit(benchmark::kMillisecond);

} // namespace

int main(int argc, char** argv) {
    const QCoreApplication app(argc, argv);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
    return 0;
}
