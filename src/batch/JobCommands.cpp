// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/JobCommands.h"

#include "base/Length.h"
#include "batch/Report.h"
#include "document/JobFile.h"
#include "formats/svg/WriteDrawing.h"

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using document::Job;

CommandSpec traceSpec() {
    return {"trace",
            "IN.png",
            "Traces a PNG or JPEG line drawing: its filled silhouette becomes the backing, every enclosed "
            "area a piece.",
            {{"--mode", "MODE", "How to trace: lineart (areas on backing).", "lineart", false},
             {"--width", "LENGTH",
              "Real width of the whole picture, such as 240mm or 9.5in. Without it the picture's own "
              "resolution counts.",
              "", false},
             {"--threshold", "0-254",
              "Brightness up to which a pixel is ink. Without it chosen automatically.", "", false},
             {"--min-area", "AREA", "Smaller areas drop into the ink, smaller specks of ink vanish.",
              "0.5mm2", false},
             {"--smoothness", "0-1.3", "0 keeps every corner, 1.3 rounds them all.", "1", false},
             {"--gap", "LENGTH", "Narrower passages between areas are reported as leaks.", "2mm", false},
             {"--clearance", "LENGTH", "Room taken off every area on all sides, 0 for none.", "0", false},
             {"--out", "OUT.svg",
              "Writes the layers as one drawing, backing first, then one group per stock.", "", false},
             {"--job", "OUT.thinline", "Writes the job, to be opened in the window or arranged on sheets.",
              "", false},
             {"--report", "REPORT.json", "Writes layers, pieces, nodes, sizes, findings and seconds.", "",
              false}}};
}

base::Result<trace::Recipe> recipeOf(const Options& options) {
    trace::Recipe recipe;
    if (options["--mode"] != "lineart")
        return Error{Code::InvalidArgument,
                     "The mode '" + options["--mode"] + "' is not known; use lineart."};
    if (options.has("--threshold")) {
        const auto threshold = numberBetween("--threshold", options["--threshold"], 0, 254);
        if (!threshold)
            return threshold.error();
        recipe.threshold = static_cast<int>(*threshold);
    }
    const auto area = base::parseAreaMm2(options["--min-area"]);
    const auto smooth = numberBetween("--smoothness", options["--smoothness"], 0, 1.3);
    const auto gap = lengthOrZero(options["--gap"]);
    if (!area || !smooth || !gap)
        return !area ? area.error() : !smooth ? smooth.error() : gap.error();
    recipe.leastAreaMm2 = *area;
    recipe.smoothness = *smooth;
    recipe.widestGapMm = *gap;
    return recipe;
}

base::Status traceCommand(Session& session, const Options& options) {
    const auto recipe = recipeOf(options);
    const auto clearance = lengthOrZero(options["--clearance"]);
    if (!recipe || !clearance)
        return !recipe ? recipe.error() : clearance.error();
    auto bytes = session.store.read(options.operand, base::kMostFileBytes);
    if (!bytes)
        return bytes.error();
    auto opened = document::openPicture(document::newJob(catalogue()), *bytes, fileOf(options.operand));
    if (!opened)
        return opened.error();
    Job job = opened->job;
    if (options.has("--width")) {
        const auto width = base::parseLength(options["--width"], base::LengthUnit::Millimetre);
        if (!width)
            return width.error();
        job.pictureWidthMm = width->inMm();
    } else if (!opened->note.empty()) {
        return Error{Code::InvalidArgument,
                     "The picture does not say how large it is; give its width, such as --width 240mm."};
    }
    job.clearanceMm = *clearance;
    auto traced = document::traced(job, *opened->picture, *recipe, catalogue());
    if (!traced)
        return traced.error();
    if (options.has("--out"))
        if (auto written =
                writeText(session, options["--out"], formats::svg::writeLayers(*traced->stack, traced->name));
            !written)
            return written;
    if (options.has("--job")) {
        if (auto saved = document::saveJob(session.store, options["--job"], *traced); !saved)
            return saved;
        session.out << "wrote " << options["--job"] << "\n";
    }
    return conclude(session, *traced, options);
}

} // namespace

std::vector<Command> jobCommands() {
    return {{traceSpec(), traceCommand}};
}

} // namespace thinline::batch
