// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/Commands.h"

#include "base/Length.h"
#include "batch/Session.h"
#include "batch/ShapeCommands.h"
#include "document/Job.h"
#include "document/JobFile.h"
#include "formats/svg/WriteDrawing.h"
#include "inspect/Inspect.h"
#include "pack/Package.h"

#include <nlohmann/json.hpp>

#include <algorithm>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using document::Job;
using json = nlohmann::ordered_json;

const document::Catalogue& catalogue() {
    return document::shippedCatalogue();
}

std::string idsOf(const auto& formats) {
    std::string out;
    for (const auto& f : formats)
        out += (out.empty() ? "" : ", ") + f.id + " (" + f.name + ")";
    return out;
}

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

CommandSpec sheetsSpec() {
    return {"sheets",
            "JOB.thinline",
            "Lays the pieces of a job on sheets and writes one SVG per load, an overview and the job with "
            "its arrangement.",
            {{"--mat", "MAT", "The mat: " + idsOf(catalogue().formats.mats) + ".", catalogue().defaultMatId,
              false},
             {"--sheet", "SHEET",
              "The sheet: " + idsOf(catalogue().formats.sheets) + ", or WIDTHxHEIGHT such as 200mmx150mm.",
              catalogue().defaultSheetId, false},
             {"--spacing", "LENGTH", "Kept free between pieces, 0 for none.", "2.5mm", false},
             {"--no-turn", "", "Pieces keep their direction; otherwise they may be turned by 90 degrees.", "",
              false},
             {"--out", "DIR", "The folder to write to; made when it is not there.", "", true},
             {"--report", "REPORT.json", "Writes loads, sheets, waste, findings and seconds.", "", false}}};
}

CommandSpec packSpec() {
    return {"pack",
            "JOB.thinline",
            "Writes the files of a job as it was arranged: one SVG per load, read back and compared, an "
            "overview, a list.",
            {{"--out", "DIR", "The folder to write to; made when it is not there.", "", true},
             {"--report", "REPORT.json", "Writes loads, sheets, waste, findings and seconds.", "", false}}};
}

CommandSpec demoSpec() {
    return {"demo",
            "",
            "Traces the Gull Point lighthouse anew, lays it on sheets and packs it.",
            {{"--out", "DIR", "The folder to write to; made when it is not there.", "out", false},
             {"--report", "REPORT.json", "Writes layers, loads, sheets, waste, findings and seconds.", "",
              false}}};
}

base::Result<std::vector<inspect::Finding>> findingsOf(const Job& job) {
    inspect::Subject subject{job.stack.get(),
                             &catalogue().formats,
                             job.tracing.get(),
                             document::sizingOf(job),
                             job.shapes.get(),
                             job.arrangement.get(),
                             ""};
    if (const auto options = document::arrangeOptions(job, catalogue().formats))
        subject.sheetName = options->sheet.name;
    subject.passedOver = job.passedOver;
    return inspect::inspect(subject);
}

json sizeJson(const geometry::Box& box) {
    return {{"widthMm", box.width()}, {"heightMm", box.height()}};
}

json reportOf(const Session& session, const Job& job, const std::vector<inspect::Finding>& findings) {
    const design::StackMeasures m = design::measure(*job.stack);
    json layers = json::array();
    for (const design::Layer& layer : job.stack->layers) {
        design::Stack one{job.stack->stocks, {layer}};
        const design::StackMeasures lm = design::measure(one);
        layers.push_back({{"group", design::layerGroup(layer)},
                          {"stock", layer.stockId},
                          {"pieces", lm.pieces},
                          {"nodes", lm.nodes},
                          {"cutLengthMm", lm.cutLengthMm},
                          {"size", sizeJson(lm.box)}});
    }
    json out = {{"job", job.name},
                {"layers", layers},
                {"pieces", m.pieces},
                {"nodes", m.nodes},
                {"size", sizeJson(m.box)},
                {"smallestPiece", sizeJson(m.smallestPieceBox)},
                {"threshold", job.tracing->threshold},
                {"droppedAreas", job.tracing->droppedAreas},
                {"droppedSpecks", job.tracing->droppedSpecks},
                {"leaks", job.tracing->leaks.size()},
                {"findings", json::array()}};
    for (const inspect::Finding& f : findings)
        out["findings"].push_back(
            {{"severity", inspect::severityName(f.severity)}, {"message", f.message}, {"remedy", f.remedy}});
    if (job.arrangement) {
        const sheets::ArrangementMeasures a = sheets::measure(*job.arrangement, *job.stack);
        out["arrangement"] = {{"loads", a.loads},
                              {"sheets", a.sheets},
                              {"placed", a.pieces},
                              {"unplaced", job.arrangement->unplaced.size()},
                              {"wasteShare", a.wasteShare}};
    }
    out["seconds"] = session.seconds();
    return out;
}

/// Prints the numbers and the findings, and writes the report if one is wanted.
base::Status conclude(Session& session, const Job& job, const Options& options) {
    const auto findings = findingsOf(job);
    if (!findings)
        return findings.error();
    const design::StackMeasures m = design::measure(*job.stack);
    session.out << m.layers << " layers, " << m.pieces << " pieces, " << m.nodes << " nodes, "
                << base::formatSize(m.box.width(), m.box.height(), base::LengthUnit::Millimetre) << "\n";
    if (job.arrangement) {
        const sheets::ArrangementMeasures a = sheets::measure(*job.arrangement, *job.stack);
        session.out << a.loads << " loads, " << a.sheets << " sheets, " << a.pieces << " pieces laid, "
                    << job.arrangement->unplaced.size() << " too large, waste "
                    << base::formatNumber(100 * a.wasteShare, 0) << " %\n";
    }
    for (const inspect::Finding& f : *findings)
        session.out << inspect::severityName(f.severity) << ": " << f.message << ". " << f.remedy << "\n";
    if (!options.has("--report"))
        return base::Done{};
    return writeText(session, options["--report"], reportOf(session, job, *findings).dump(2) + "\n");
}

base::Status writePackage(Session& session, const Job& job, const std::string& folder) {
    auto package = pack::makePackage(*job.stack, *job.arrangement, job.name);
    if (!package)
        return package.error();
    for (const pack::FileCheck& check : package->checks)
        if (!check.isSound())
            return Error{Code::IoError, check.name + " was not written as it should be: " + check.problem +
                                            ". Please report this."};
    if (auto made = session.store.makeFolder(folder); !made)
        return made;
    for (const pack::PackedFile& file : package->files) {
        if (auto written = session.store.writeWhole(folder + "/" + file.name, file.bytes); !written)
            return written;
        session.out << "wrote " << folder << "/" << file.name << "\n";
    }
    return base::Done{};
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

base::Result<document::SheetPlan> planOf(const Job& job, const Options& options) {
    document::SheetPlan plan = job.plan;
    plan.matId = options["--mat"];
    plan.sheetId = options["--sheet"];
    plan.mayTurn = !options.has("--no-turn");
    const auto spacing = lengthOrZero(options["--spacing"]);
    if (!spacing)
        return spacing.error();
    plan.spacingMm = *spacing;
    if (!catalogue().formats.mat(plan.matId))
        return Error{Code::InvalidArgument, "There is no mat '" + plan.matId + "'; choose from " +
                                                idsOf(catalogue().formats.mats) + "."};
    if (catalogue().formats.sheet(plan.sheetId))
        return plan;
    const auto times = plan.sheetId.find('x');
    const auto width = base::parseLength(plan.sheetId.substr(0, times), base::LengthUnit::Millimetre);
    const auto height = times == std::string::npos
                            ? width
                            : base::parseLength(plan.sheetId.substr(times + 1), base::LengthUnit::Millimetre);
    if (times == std::string::npos || !width || !height)
        return Error{Code::InvalidArgument, "There is no sheet '" + plan.sheetId + "'; choose from " +
                                                idsOf(catalogue().formats.sheets) +
                                                ", or give a size such as 200mmx150mm."};
    plan.sheetId = "own";
    plan.ownSheet.widthMm = width->inMm();
    plan.ownSheet.heightMm = height->inMm();
    return plan;
}

base::Status sheetsCommand(Session& session, const Options& options) {
    auto job = document::loadJob(session.store, options.operand);
    if (!job)
        return job.error();
    auto plan = planOf(*job, options);
    if (!plan)
        return plan.error();
    auto arranged = document::arranged(document::withPlan(*job, *plan), catalogue().formats);
    if (!arranged)
        return arranged.error();
    if (auto written = writePackage(session, *arranged, options["--out"]); !written)
        return written;
    const auto slash = options.operand.rfind('/');
    const std::string path =
        options["--out"] + "/" + options.operand.substr(slash == std::string::npos ? 0 : slash + 1);
    if (auto saved = document::saveJob(session.store, path, *arranged); !saved)
        return saved;
    session.out << "wrote " << path << "\n";
    return conclude(session, *arranged, options);
}

/// Packs a job, arranged first if it was not.
base::Status packJob(Session& session, Job job, const Options& options) {
    if (!job.arrangement) {
        auto arranged = document::arranged(job, catalogue().formats);
        if (!arranged)
            return arranged.error();
        job = arranged.take();
    }
    if (auto written = writePackage(session, job, options["--out"]); !written)
        return written;
    return conclude(session, job, options);
}

base::Status packCommand(Session& session, const Options& options) {
    auto job = document::loadJob(session.store, options.operand);
    if (!job)
        return job.error();
    return packJob(session, job.take(), options);
}

base::Status demoCommand(Session& session, const Options& options) {
    auto job = document::loadJob(session.store, session.demoFolder + "/gull-point-lighthouse.thinline");
    if (!job)
        return job.error();
    auto picture = document::pictureOf(*job);
    if (!picture)
        return picture.error();
    auto traced = document::traced(*job, **picture, job->recipe, catalogue());
    if (!traced)
        return traced.error();
    if (auto made = session.store.makeFolder(options["--out"]); !made)
        return made;
    if (auto written = writeText(session, options["--out"] + "/layers.svg",
                                 formats::svg::writeLayers(*traced->stack, traced->name));
        !written)
        return written;
    return packJob(session, traced.take(), options);
}

std::vector<Command> commands() {
    std::vector<Command> all{{traceSpec(), traceCommand},
                             {importSpec(), importCommand},
                             {sheetsSpec(), sheetsCommand},
                             {packSpec(), packCommand},
                             {demoSpec(), demoCommand}};
    const std::vector<Command> shapes = shapeCommands();
    all.insert(all.end(), shapes.begin(), shapes.end());
    return all;
}

std::string overallHelp() {
    std::string out = "Thin Line turns drawings into pieces of card for a knife cutter.\n\nUsage: "
                      "thinline-batch COMMAND ...\n\n";
    for (const Command& command : commands()) {
        std::string name = "  " + command.spec.name;
        name.resize(12, ' ');
        out += name + command.spec.summary + "\n";
    }
    return out + "\nthinline-batch COMMAND --help tells the rest.\n";
}

} // namespace

int run(const std::vector<std::string>& arguments, base::FileStore& store, const std::string& demoFolder,
        std::ostream& out, std::ostream& err) {
    if (arguments.empty() || arguments[0] == "--help" || arguments[0] == "-h") {
        (arguments.empty() ? err : out) << overallHelp();
        return arguments.empty() ? kBadCall : kDone;
    }
    for (const Command& command : commands()) {
        if (command.spec.name != arguments[0])
            continue;
        const std::vector<std::string> rest(arguments.begin() + 1, arguments.end());
        for (const std::string& word : rest)
            if (word == "--help" || word == "-h") {
                out << helpText(command.spec);
                return kDone;
            }
        const auto options = parseOptions(command.spec, rest);
        if (!options) {
            err << "thinline-batch: " << options.error().message << "\n";
            return kBadCall;
        }
        Session session{store, demoFolder, out};
        const base::Status status = command.call(session, *options);
        if (!status) {
            err << "thinline-batch: " << status.error().message << "\n";
            return status.error().code == Code::InvalidArgument ? kBadCall : kFailed;
        }
        return kDone;
    }
    err << "thinline-batch: There is no command '" << arguments[0] << "'. See thinline-batch --help.\n";
    return kBadCall;
}

} // namespace thinline::batch
