// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/JobCommands.h"

#include "base/Length.h"
#include "batch/Report.h"
#include "document/JobFile.h"
#include "formats/svg/WriteDrawing.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <tuple>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using document::Job;
using json = nlohmann::ordered_json;

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

CommandSpec importSpec() {
    return {
        "import",
        "IN.svg",
        "Takes an SVG drawing as it is: every connected area a piece, its stock chosen by its colour.",
        {{"--unit", "96|90|72",
          "Units to the inch, when the file states no real size. Without it 96, as CSS has it.", "", false},
         {"--width", "LENGTH", "Real width of the whole page instead of what the file states.", "", false},
         {"--job", "OUT.thinline", "Writes the job, to be opened in the window or arranged on sheets.", "",
          true},
         {"--report", "REPORT.json", "Writes layers, pieces, nodes, sizes, findings and seconds.", "",
          false}}};
}

CommandSpec sizeSpec() {
    return {
        "size",
        "JOB.thinline",
        "Gives the finished design an exact size, or the largest at which every piece fits a mat or sheet.",
        {{"--width", "LENGTH", "Width of the design; the height follows unless it is given too.", "", false},
         {"--height", "LENGTH", "Height of the design; the width follows unless it is given too.", "", false},
         {"--fit", "FORMAT",
          "Largest that fits: " + idsOf(catalogue().formats.mats) + ", " + idsOf(catalogue().formats.sheets) +
              ". Pieces may be turned by 90 degrees if the job lets them.",
          "", false},
         {"--job", "OUT.thinline", "Where to write the job; without it the same file.", "", false}}};
}

CommandSpec fitSpec() {
    return {"fit",
            "JOB.thinline",
            "Tells for every mat and sheet the largest size at which every piece fits, and what limits it.",
            {{"--json", "", "As JSON on standard output.", "", false}}};
}

base::Result<trace::LineDrawingRecipe> recipeOf(const Options& options) {
    trace::LineDrawingRecipe recipe;
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
    const auto slash = options.operand.rfind('/');
    auto opened = document::openPicture(document::newJob(catalogue()), *bytes,
                                        options.operand.substr(slash == std::string::npos ? 0 : slash + 1));
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

base::Status importCommand(Session& session, const Options& options) {
    if (options.has("--unit") && options.has("--width"))
        return Error{Code::InvalidArgument, "Give --unit or --width, not both: either settles the size."};
    auto bytes = session.store.read(options.operand, base::kMostFileBytes);
    if (!bytes)
        return bytes.error();
    const auto slash = options.operand.rfind('/');
    auto opened = document::openDrawing(document::newJob(catalogue()), *bytes,
                                        options.operand.substr(slash == std::string::npos ? 0 : slash + 1),
                                        catalogue());
    if (!opened)
        return opened.error();
    std::string note = opened->note;
    Job job = opened.take().job;
    double widthMm = job.pictureWidthMm;
    if (options.has("--unit")) {
        const auto guesses = document::unitGuesses(job);
        const auto guess = std::find_if(guesses.begin(), guesses.end(), [&](const document::UnitGuess& g) {
            return std::to_string(g.perInch) == options["--unit"];
        });
        if (guesses.empty())
            return Error{Code::InvalidArgument, "The file states its real size; --unit would contradict it."};
        if (guess == guesses.end())
            return Error{Code::InvalidArgument, "--unit is '" + options["--unit"] + "'; it is 96, 90 or 72."};
        widthMm = guess->widthMm;
        note.clear();
    } else if (options.has("--width")) {
        const auto width = base::parseLength(options["--width"], base::LengthUnit::Millimetre);
        if (!width)
            return width.error();
        widthMm = width->inMm();
        note.clear();
    }
    if (!note.empty())
        session.out << note << "\n";
    auto sized = document::withPictureWidth(job, widthMm);
    if (!sized)
        return sized.error();
    if (auto saved = document::saveJob(session.store, options["--job"], *sized); !saved)
        return saved;
    session.out << "wrote " << options["--job"] << "\n";
    return conclude(session, *sized, options);
}

/// A mat or sheet by id, with what is usable of it.
struct Place {
    std::string id, name;
    double widthMm = 0, heightMm = 0;
};

std::vector<Place> places() {
    std::vector<Place> out;
    for (const design::MatFormat& mat : catalogue().formats.mats)
        out.push_back({mat.id, "mat " + mat.name, mat.usableWidthMm(), mat.usableHeightMm()});
    for (const design::SheetFormat& sheet : catalogue().formats.sheets)
        if (!catalogue().formats.mat(sheet.id)) // a sheet as large as its mat gives the same answer
            out.push_back({sheet.id, "sheet " + sheet.name, sheet.usableWidthMm(), sheet.usableHeightMm()});
    return out;
}

base::Result<Job> loadWithPieces(Session& session, const std::string& path) {
    auto job = document::loadJob(session.store, path);
    if (job && !job->stack)
        return Error{Code::Degenerate, path + " has no pieces yet; trace its picture first."};
    return job;
}

base::Status sizeCommand(Session& session, const Options& options) {
    const bool hasWidth = options.has("--width"), hasHeight = options.has("--height"),
               hasFit = options.has("--fit");
    if (hasFit == (hasWidth || hasHeight))
        return Error{Code::InvalidArgument, "Say how large: --width, --height or both, or --fit alone."};
    auto job = loadWithPieces(session, options.operand);
    if (!job)
        return job.error();
    const geometry::Box box = document::designBox(*job);
    double widthMm = box.width(), heightMm = box.height();
    if (hasFit) {
        const std::vector<Place> all = places();
        const auto place =
            std::find_if(all.begin(), all.end(), [&](const Place& p) { return p.id == options["--fit"]; });
        if (place == all.end())
            return Error{Code::InvalidArgument, "There is no mat or sheet '" + options["--fit"] +
                                                    "'; choose from " + idsOf(catalogue().formats.mats) +
                                                    ", " + idsOf(catalogue().formats.sheets) + "."};
        const auto fit =
            sheets::largestThatFits(*job->stack, place->widthMm, place->heightMm, job->plan.mayTurn);
        widthMm *= fit.scale;
        heightMm *= fit.scale;
    } else {
        for (const auto& [name, size, other] :
             {std::tuple{"--width", &widthMm, &heightMm}, std::tuple{"--height", &heightMm, &widthMm}}) {
            if (!options.has(name))
                continue;
            const auto length = base::parseLength(options[name], base::LengthUnit::Millimetre);
            if (!length)
                return length.error();
            if (!(hasWidth && hasHeight))
                *other *= length->inMm() / *size;
            *size = length->inMm();
        }
    }
    auto sized = document::resized(*job, widthMm, heightMm);
    if (!sized)
        return sized.error();
    const std::string path = options.has("--job") ? options["--job"] : options.operand;
    if (auto saved = document::saveJob(session.store, path, *sized); !saved)
        return saved;
    session.out << "wrote " << path << "\n";
    return conclude(session, *sized, options);
}

base::Status fitCommand(Session& session, const Options& options) {
    auto job = loadWithPieces(session, options.operand);
    if (!job)
        return job.error();
    const geometry::Box box = document::designBox(*job);
    json rows = json::array();
    for (const Place& place : places()) {
        const auto fit =
            sheets::largestThatFits(*job->stack, place.widthMm, place.heightMm, job->plan.mayTurn);
        const std::string limits = design::pieceName(*job->stack, fit.limitedBy);
        rows.push_back({{"id", place.id},
                        {"name", place.name},
                        {"usableMm", {place.widthMm, place.heightMm}},
                        {"scale", fit.scale},
                        {"sizeMm", {box.width() * fit.scale, box.height() * fit.scale}},
                        {"limitedBy", limits},
                        {"turned", fit.isTurned}});
        if (!options.has("--json"))
            session.out << place.name << ": "
                        << base::formatSize(box.width() * fit.scale, box.height() * fit.scale,
                                            base::LengthUnit::Millimetre)
                        << ", " << base::formatNumber(fit.scale, 3) << " times as now, limited by " << limits
                        << (fit.isTurned ? ", turned by 90°" : "") << "\n";
    }
    if (options.has("--json"))
        session.out << json{{"job", job->name}, {"sizeMm", {box.width(), box.height()}}, {"fits", rows}}.dump(
                           2)
                    << "\n";
    return base::Done{};
}

} // namespace

std::vector<Command> jobCommands() {
    return {{traceSpec(), traceCommand},
            {importSpec(), importCommand},
            {sizeSpec(), sizeCommand},
            {fitSpec(), fitCommand}};
}

} // namespace thinline::batch
