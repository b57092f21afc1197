// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What a step costs once a job is large: how soon what follows from a changed step is there, how soon an undone
// one, how much an autosave writes, what a save copies, which bodies are searched again, what lines on pieces add.
//
//     bench_model

#include "BenchJobs.h"
#include "document/DiskFileStore.h"
#include "document/History.h"
#include "document/JobFile.h"
#include "document/Recovery.h"
#include "folds/Steps.h"
#include "inspect/Inspect.h"
#include "support/Jobs.h"

#include <QCoreApplication>
#include <QTemporaryDir>

namespace {

using namespace thinline;
using bench::msOf;
using bench::Times;

constexpr int kTimes = 9;

/// 400 discs of 60 curve nodes, every two of them over one another, under ten steps at Shape.
job::State workOf400() {
    job::State state = support::made(support::openedDrawing(bench::svgOfDiscs(400, 60), "discs.svg").job);
    const auto nth = [&](size_t i) { return state.made.work()->pieces[i].id(); };
    using shape::Action;
    const std::vector<design::PieceId> few{nth(40), nth(41), nth(42), nth(43)};
    state = support::after(state, Action::Offset, few, {1, 1, 0, 0});
    state = support::after(state, Action::Move, {nth(0)}, {12, 3});
    state = support::after(state, Action::Turn, {nth(10), nth(11)}, {15});
    state = support::after(state, Action::Join, {nth(20), nth(21)});
    state = support::after(state, Action::Move, {nth(31)}, {4, 0});
    state = support::after(state, Action::Move, {nth(70)}, {9, 5});
    state = support::after(state, Action::SizeAlone, {nth(80)}, {1.2});
    state = support::after(state, Action::MirrorTwin, {nth(90)});
    state = support::after(state, Action::Move, {nth(100)}, {9, 5});
    return support::after(state, Action::Offset, {nth(150), nth(151)}, {0.5, 1, 0, 0});
}

void measureMaking(const job::State& work) {
    Times last, first, undo;
    const size_t steps = work.job.steps.size();
    const auto changed = [&](size_t index, int turn) {
        const design::Step& step = *work.job.steps[index];
        std::vector<double> values = shape::valuesOf(step);
        values[0] = 0.6 + 0.1 * turn;
        design::Step other = shape::makeStep(shape::Action::Offset, {}, values);
        other.on = step.on;
        return support::must(job::withStepChanged(work, index, other));
    };
    document::History history(work.job);
    for (int i = 0; i < kTimes; ++i) {
        const job::Job lastJob = changed(steps - 1, i), firstJob = changed(0, i);
        last.ms.push_back(msOf([&] { support::made(lastJob, work.made); }));
        first.ms.push_back(msOf([&] { support::made(firstJob, work.made); }));
        history.push(lastJob, "Change");
        undo.ms.push_back(msOf([&] { history.undo(); }));
    }
    std::printf(
        "%zu pieces, %zu steps: made anew after the last step changed %.1f ms, after the first %.1f ms; "
        "undo %.3f ms\n",
        work.made.work()->pieces.size(), steps, last.median(), first.median(), undo.median());
    Times whole;
    for (int i = 0; i < kTimes; ++i)
        whole.ms.push_back(msOf([&] { support::made(work.job); }));
    std::printf("  with nothing kept %.1f ms: %.1f times the last step\n", whole.median(),
                whole.median() / last.median());
}

void measureFindings(const job::State& work) {
    const design::Formats& formats = job::shippedCatalogue().formats;
    Times all, one, none;
    for (int i = 0; i < 3; ++i) {
        inspect::Memory memory;
        all.ms.push_back(msOf([&] { (void)inspect::inspect(work, formats, memory); }));
        const job::State moved = support::after(work, shape::Action::SizeAlone,
                                                {work.made.work()->pieces[200].id()}, {1.1 + 0.1 * i});
        one.ms.push_back(msOf([&] { (void)inspect::inspect(moved, formats, memory); }));
        none.ms.push_back(msOf([&] { (void)inspect::inspect(moved, formats, memory); }));
    }
    std::printf("findings of all %.0f ms, after one piece was sized %.1f ms, after none %.1f ms\n",
                all.median(), one.median(), none.median());
}

void measureKeeping(const job::State& work) {
    const QTemporaryDir folder;
    document::DiskFileStore store;
    document::Recovery recovery(store, folder.path().toStdString());
    const job::State moved =
        support::after(work, shape::Action::Move, {work.made.work()->pieces[300].id()}, {2, 2});
    const double firstMs = msOf([&] { (void)recovery.keep(work, {}); });
    const double firstKb = static_cast<double>(recovery.lastWritten()) / 1000;
    const double againMs = msOf([&] { (void)recovery.keep(moved, {}); });
    std::printf("autosave: first %.0f KB in %.1f ms, after one piece was moved %.1f KB in %.1f ms\n", firstKb,
                firstMs, static_cast<double>(recovery.lastWritten()) / 1000, againMs);

    const std::string demo = THINLINE_SOURCE_DIR "/demo/gull-point-lighthouse.thinline";
    auto loaded = support::must(document::loadJob(store, demo));
    const std::string path = folder.path().toStdString() + "/saved.thinline";
    Times anew, copied;
    auto saved = support::must(document::saveJob(store, path, loaded.state));
    for (int i = 0; i < kTimes; ++i) {
        anew.ms.push_back(msOf([&] { (void)document::saveJob(store, path, loaded.state); }));
        saved = support::must(document::saveJob(store, path, loaded.state));
        copied.ms.push_back(msOf([&] { (void)document::saveJob(store, path, loaded.state, &saved); }));
    }
    std::printf("save the demo: every entry packed anew %.1f ms, unchanged ones copied packed %.1f ms\n",
                anew.median(), copied.median());
    Times open;
    for (int i = 0; i < kTimes; ++i)
        open.ms.push_back(msOf([&] { (void)document::loadJob(store, demo); }));
    std::printf("open the demo %.1f ms\n", open.median());
}

/// What a line on each of 500 pieces and copies of it add to the same work.
void measureLines(double copies) {
    const job::State bare =
        support::made(support::openedDrawing(bench::svgOfDiscs(500, 24), "discs.svg").job);
    const design::Chosen all = design::EveryPieceOf{bare.job.sources[0]->id};
    job::State lined = support::after(bare, folds::makeStep(folds::Action::AlongSides, {all}, {0, 5}));
    lined = support::after(lined, folds::makeStep(folds::Action::Repeat, {all}, {copies, 0, 1}));
    std::printf("500 pieces with %d lines on them, and without:\n", lined.made.finished->measures.lines);
    const auto compare = [&](const char* what, const std::function<void(const job::State&)>& work) {
        Times with, without;
        for (int i = 0; i < kTimes; ++i) { // one after the other, so that both meet the same machine
            without.ms.push_back(msOf([&] { work(bare); }));
            with.ms.push_back(msOf([&] { work(lined); }));
        }
        std::printf("  %s: %.1f ms with, %.1f ms without: %.2f times\n", what, with.median(),
                    without.median(), with.median() / without.median());
    };
    const auto shaped = [&](shape::Action action, const std::vector<double>& values) {
        return [action, values, all](const job::State& now) {
            design::Step step = shape::makeStep(action, {}, values);
            step.on = {all};
            support::after(now, step);
        };
    };
    compare("move all", shaped(shape::Action::Move, {3, 4}));
    compare("turn all", shaped(shape::Action::Turn, {15}));
    compare("grow all", shaped(shape::Action::Offset, {0.5, 1, 0}));
    compare("join two", [](const job::State& now) {
        support::after(now, shape::Action::Join,
                       {now.made.work()->pieces[10].id(), now.made.work()->pieces[11].id()});
    });
    compare("lay on sheets", [](const job::State& now) {
        support::arranged({now.job, job::withoutSheets(now.made)});
    });
    compare("findings", [](const job::State& now) {
        inspect::Memory memory;
        (void)inspect::inspect(now, job::shippedCatalogue().formats, memory);
    });
    compare("save", [](const job::State& now) { (void)document::writeJob(now); });
}

} // namespace

int main(int argc, char** argv) {
    const QCoreApplication qt(argc, argv);
    const job::State work = workOf400();
    measureMaking(work);
    measureFindings(work);
    measureKeeping(work);
    measureLines(4);
    measureLines(9);
}
