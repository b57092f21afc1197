// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Sheets are laid anew by 'sheets', whose options say the whole plan, and taken as they are by 'pack': what somebody
// arranged and pinned in the window is packed as it lies. Both end in the same package, read back before it is written,
// and stop at the first file that does not say what it should.
#include "base/Length.h"
#include "batch/JobCommands.h"
#include "batch/Names.h"
#include "batch/Report.h"
#include "formats/svg/WriteDrawing.h"
#include "job/SheetSteps.h"
#include "job/SourceSteps.h"
#include "job/TraceSteps.h"
#include "pack/Package.h"

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using job::State;

CommandSpec sheetsSpec() {
    return {"sheets",
            "JOB.thinline",
            "Lays the pieces of a job on sheets and writes one SVG per load, an overview and the job with "
            "its arrangement.",
            {{"--mat", "MAT", "The mat: " + idsOf(catalogue().formats.mats) + ".", catalogue().defaultMatId,
              false},
             {"--sheet", "SHEET",
              "The sheet: " + idsOf(catalogue().formats.sheets) +
                  ", or WIDTHxHEIGHT such as 200x150mm or 8x10in.",
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
            {{"--anew", "", "Lays the pieces anew first, by the job's own plan; what is pinned stays.", "",
              false},
             {"--folds-as", "score|perforation|hand", "How folds are made this time, whatever the job says.",
              "", false},
             {"--out", "DIR", "The folder to write to; made when it is not there.", "", true},
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

base::Status writePackage(Session& session, const State& state, const std::string& folder,
                          design::FoldsAs foldsAs) {
    const auto laidBy = job::arrangeOptions(state.job.plan, catalogue().formats);
    if (!laidBy)
        return laidBy.error();
    auto package = pack::makePackage(*state.made.work(), *state.made.sheets, *laidBy,
                                     {state.job.name, job::originsOf(state.job).lines, foldsAs});
    if (!package)
        return package.error();
    if (!package->faults.empty())
        return Error{Code::Degenerate,
                     "Nothing was packed, it would spoil card. " + pack::faultText(package->faults) +
                         " Lay the pieces anew by --anew; what was pinned stays where it is."};
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

base::Result<job::SheetPlan> planOf(const job::Job& job, const Options& options) {
    job::SheetPlan plan = job.plan;
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
    const auto size = base::parseSize(plan.sheetId, base::LengthUnit::Millimetre);
    if (!size)
        return Error{Code::InvalidArgument, "There is no sheet '" + plan.sheetId + "'; choose from " +
                                                idsOf(catalogue().formats.sheets) +
                                                ", or give a size such as 200x150mm or 8x10in."};
    plan.sheetId = "own";
    plan.ownSheet.widthMm = size->width.inMm();
    plan.ownSheet.heightMm = size->height.inMm();
    return plan;
}

/// The state with its pieces on sheets.
base::Result<State> arranged(const State& state) {
    auto laid = job::make(state.job, job::Stage::Sheets, state.made);
    if (laid && !laid->made.sheets)
        return Error{Code::Degenerate, laid->made.sheetsProblem.empty()
                                           ? "There are no pieces yet; trace a picture first."
                                           : laid->made.sheetsProblem};
    return laid;
}

base::Status sheetsCommand(Session& session, const Options& options) {
    auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    auto plan = planOf(state->job, options);
    if (!plan)
        return plan.error();
    if (const auto asked = job::arrangeOptions(*plan, catalogue().formats))
        if (const auto places = sheets::sheetPlaces(asked->mat, asked->sheet); !places)
            return places.error(); // the call is wrong, not the job
    auto laid = arranged({job::withPlan(state->job, *plan), state->made});
    if (!laid)
        return laid.error();
    if (auto written = writePackage(session, *laid, options["--out"], laid->job.plan.foldsAs); !written)
        return written;
    if (auto saved = saveState(session, options["--out"] + "/" + fileOf(options.operand), *laid); !saved)
        return saved;
    return conclude(session, *laid, options);
}

/// Packs a job, arranged first if it was not.
base::Status packState(Session& session, const State& state, const Options& options) {
    auto laid = arranged(state);
    if (!laid)
        return laid.error();
    design::FoldsAs foldsAs = laid->job.plan.foldsAs;
    if (options.has("--folds-as")) {
        const auto asked = foldsAsCalled(options["--folds-as"]);
        if (!asked)
            return asked.error();
        foldsAs = *asked;
    }
    if (auto written = writePackage(session, *laid, options["--out"], foldsAs); !written)
        return written;
    return conclude(session, *laid, options);
}

base::Status packCommand(Session& session, const Options& options) {
    auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    if (options.has("--anew"))
        state = State{state->job, job::withoutSheets(state->made)};
    return packState(session, *state, options);
}

base::Status demoCommand(Session& session, const Options& options) {
    auto state = loadState(session, session.demoFolder + "/gull-point-lighthouse.thinline");
    if (!state)
        return state.error();
    auto pixels = job::pixelsOf(state->job);
    if (!pixels)
        return pixels.error();
    const auto& recipe = job::asA<job::Picture>(job::pictureSource(state->job))->recipe;
    auto traced = madeOf(job::traced(state->job, **pixels, recipe, catalogue()), *state);
    if (!traced)
        return traced.error();
    if (auto made = session.store.makeFolder(options["--out"]); !made)
        return made;
    if (auto written = writeText(session, options["--out"] + "/layers.svg",
                                 formats::svg::writeLayers(*traced->made.work(), traced->job.name));
        !written)
        return written;
    return packState(session, *traced, options);
}

} // namespace

std::vector<Command> sheetCommands() {
    return {{sheetsSpec(), sheetsCommand}, {packSpec(), packCommand}, {demoSpec(), demoCommand}};
}

} // namespace thinline::batch
