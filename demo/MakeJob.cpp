// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Makes the finished demo job from the drawing, by the same steps a person takes in the window:
//     make-demo-job demo/gull-point-lighthouse.png demo/gull-point-lighthouse.thinline

#include "document/DiskFileStore.h"
#include "document/JobFile.h"
#include "job/SheetSteps.h"
#include "job/Sizing.h"
#include "job/SourceSteps.h"
#include "job/TraceSteps.h"

#include <QCoreApplication>

#include <iostream>

namespace {

using namespace thinline;

base::Result<job::State> finishedJob(const base::Bytes& drawing) {
    const job::Catalogue& catalogue = job::shippedCatalogue();
    auto opened = job::openPicture(job::newJob(catalogue),
                                   {drawing, "gull-point-lighthouse.png", job::recognise(drawing)});
    if (!opened)
        return opened.error();
    constexpr double kPictureMm = 200, kDesignMm = 280;
    job::Job job = opened->job;
    job.name = "Gull Point lighthouse";
    auto sized = job::withSourceWidth(job, job::pictureSource(job)->id, kPictureMm);
    if (!sized)
        return sized.error();
    // The gap in the wave is closed by two clicks; the one in the cloud stays, to be found.
    const double pxPerMm = opened->picture->width / kPictureMm;
    trace::Recipe recipe;
    recipe.closings.push_back(
        {{87.3 * pxPerMm, 246.4 * pxPerMm}, {90.5 * pxPerMm, 246.4 * pxPerMm}, 1.5 * pxPerMm});
    auto traced = job::traced(*sized, *opened->picture, recipe, catalogue);
    if (!traced)
        return traced.error();
    auto made = job::make(traced.take(), job::Stage::Finish, {});
    if (!made)
        return made.error();
    auto large = job::withWidth(*made, kDesignMm);
    if (!large)
        return large.error();
    job::SheetPlan plan = large->state.job.plan;
    plan.matId = "long24";
    plan.sheetId = "long24";
    return job::make(job::withPlan(large->state.job, plan), job::Stage::Sheets, large->state.made);
}

} // namespace

int main(int argc, char** argv) {
    const QCoreApplication app(argc, argv);
    if (argc != 3) {
        std::cerr << "Usage: make-demo-job DRAWING.png JOB.thinline\n";
        return 2;
    }
    document::DiskFileStore store;
    const auto drawing = store.read(argv[1], base::kMostFileBytes);
    const auto state = drawing ? finishedJob(*drawing) : base::Result<job::State>(drawing.error());
    base::Status saved = state ? base::Status(base::Done{}) : base::Status(state.error());
    if (state)
        if (auto written = document::saveJob(store, argv[2], *state); !written)
            saved = written.error();
    if (!saved) {
        std::cerr << "make-demo-job: " << saved.error().message << "\n";
        return 1;
    }
    return 0;
}
