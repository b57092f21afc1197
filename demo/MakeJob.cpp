// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Makes the finished demo job from the drawing, by the same steps a person takes in the window:
//     make-demo-job demo/gull-point-lighthouse.png demo/gull-point-lighthouse.thinline

#include "document/DiskFileStore.h"
#include "document/JobFile.h"

#include <QCoreApplication>

#include <iostream>

namespace {

using namespace thinline;

base::Result<document::Job> finishedJob(const base::Bytes& drawing) {
    const document::Catalogue& catalogue = document::shippedCatalogue();
    auto opened = document::openPicture(document::newJob(catalogue), drawing, "gull-point-lighthouse.png");
    if (!opened)
        return opened.error();
    document::Job job = opened->job;
    job.name = "Gull Point lighthouse";
    job.pictureWidthMm = 200;
    // The gap in the wave is closed by two clicks; the one in the cloud stays, to be found.
    const double pxPerMm = opened->picture->width / 200.0;
    trace::Recipe recipe;
    recipe.closings.push_back(
        {{87.3 * pxPerMm, 246.4 * pxPerMm}, {90.5 * pxPerMm, 246.4 * pxPerMm}, 1.5 * pxPerMm});
    auto traced = document::traced(job, *opened->picture, recipe, catalogue);
    if (!traced)
        return traced.error();
    auto sized = document::resized(*traced, 280, 280 * 251.2 / 179.2);
    if (!sized)
        return sized.error();
    document::SheetPlan plan = sized->plan;
    plan.matId = "long24";
    plan.sheetId = "long24";
    return document::arranged(document::withPlan(*sized, plan), catalogue.formats);
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
    const auto job = drawing ? finishedJob(*drawing) : base::Result<document::Job>(drawing.error());
    const base::Status saved = job ? document::saveJob(store, argv[2], *job) : base::Status(job.error());
    if (!saved) {
        std::cerr << "make-demo-job: " << saved.error().message << "\n";
        return 1;
    }
    return 0;
}
