// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Sheets are laid anew by 'sheets', whose options say the whole plan, and taken as they are by 'pack': what somebody
// arranged and pinned in the window is packed as it lies. Both end in the same package, read back before it is written,
// and stop at the first file that does not say what it should.
#include "base/Length.h"
#include "batch/JobCommands.h"
#include "batch/Names.h"
#include "batch/PlanOptions.h"
#include "batch/Releasing.h"
#include "batch/Report.h"
#include "formats/svg/WriteDrawing.h"
#include "inspect/Inspect.h"
#include "job/CutSteps.h"
#include "job/HandSteps.h"
#include "job/SheetSteps.h"
#include "job/TraceSteps.h"
#include "pack/Package.h"
#include "sheets/Zones.h"

#include <nlohmann/json.hpp>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using job::State;

const std::string kUsualSteps = std::to_string(sheets::NestBudget{}.steps);

CommandSpec sheetsSpec() {
    CommandSpec out{
        "sheets", "JOB.thinline",
        "Lays the pieces of a job on sheets and writes one SVG per load, an overview and the job with "
        "its arrangement.",
        planOptions()};
    for (OptionSpec& option : std::vector<OptionSpec>{
             {"--boxes", "", "Lays by the boxes of pieces: at once, and less close.", "", false},
             {"--steps", "COUNT",
              "How many places are looked at for a closer layout; the same number gives the same one.",
              kUsualSteps, false},
             {"--seconds", "SECONDS", "Looks for so long instead; what comes out hangs on the machine.", "",
              false},
             {"--seed", "NUMBER", "Another one searches another way.", "1", false},
             {"--fill", "PIECE", "Fills what is left of the sheets with copies of this piece.", "", false},
             {"--watch", "", "Tells each better layout as it comes.", "", false},
             {"--why", "", "Tells what decides, and what other ways come to, each laid again.", "", false},
             {"--out", "DIR", "The folder to write to; made when it is not there.", "", true},
             {"--json", "", "Tells mats, sheets and what is used of them as JSON.", "", false},
             {"--report", "REPORT.json", "Writes loads, sheets, waste, findings and seconds.", "", false}})
        out.options.push_back(std::move(option));
    return out;
}

CommandSpec packSpec() {
    std::vector<OptionSpec> options = {
        {"--anew", "", "Lays the pieces anew first, by the job's own plan; what is pinned stays.", "", false},
        {"--folds-as", "score|perforation|hand", "How folds are made this time, whatever the job says.", "",
         false},
        {"--out", "DIR|FILE.zip", "The folder to write to, made when it is not there; or a zip.", "", false},
        {"--report", "REPORT.json", "Writes loads, sheets, waste, findings and seconds.", "", false}};
    for (OptionSpec& option : releaseOptions())
        options.push_back(std::move(option));
    return {"pack", "JOB.thinline",
            "Writes the files of a job as it was arranged: one SVG per load, read back and compared, an "
            "overview, a list. With variants or formats, or as a zip: a package for somebody else.",
            options};
}

CommandSpec demoSpec() {
    return {"demo",
            "",
            "Traces the Gull Point lighthouse anew, lays it on sheets and packs it.",
            {{"--out", "DIR", "The folder to write to; made when it is not there.", "out", false},
             {"--report", "REPORT.json", "Writes layers, loads, sheets, waste, findings and seconds.", "",
              false}}};
}

/// What is found about pieces that are too large, with the ways out.
std::optional<Error> whyNothingFits(const State& state) {
    inspect::Memory memory;
    const auto findings = inspect::inspect(state, catalogue().formats, memory);
    if (findings)
        for (const inspect::Finding& one : *findings)
            if (one.kind == inspect::Kind::LargerThanSheet || one.kind == inspect::Kind::LargerThanEveryMat)
                return Error{Code::Degenerate,
                             "Nothing fits the chosen sheet. " + one.message + ". " + one.remedy};
    return std::nullopt;
}

base::Status writePackage(Session& session, const State& state, const std::string& folder,
                          design::FoldsAs foldsAs) {
    const auto laidBy = job::arrangeOptions(state.job, catalogue().formats);
    if (!laidBy)
        return laidBy.error();
    const auto labels = pack::labelsOf(state, foldsAs);
    if (!labels)
        return labels.error();
    const auto plan = job::planned({job::withFoldsAs(state.job, foldsAs), state.made});
    if (!plan)
        return plan.error();
    if (state.made.sheets->loads.empty() && !state.made.sheets->unplaced.empty())
        if (const auto why = whyNothingFits(state))
            return *why;
    auto package = pack::makePackage(*state.made.work(), *state.made.sheets, *plan, *laidBy, *labels);
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
    if (auto written = pack::writePackage(session.store, folder, *package); !written)
        return written;
    for (const pack::PackedFile& file : package->files)
        session.out << "wrote " << folder << "/" << file.name << "\n";
    return base::Done{};
}

using json = nlohmann::ordered_json;

std::string needText(const design::Arrangement& laid, const design::Stack& work) {
    std::string out = base::counted(laid.loads.size(), "mat");
    for (const sheets::StockNeed& need : sheets::needsOf(laid, work))
        out += "; " + design::stockName(work.stocks, need.stockId) + " " +
               base::counted(need.sheets, "sheet") + ", the last used to " +
               base::formatLength(need.lastLengthMm, base::LengthUnit::Millimetre);
    return out;
}
json needJson(const design::Arrangement& laid, const design::Stack& work) {
    json stocks = json::array(), unplaced = json::array();
    for (const sheets::StockNeed& need : sheets::needsOf(laid, work))
        stocks.push_back(
            {{"stock", need.stockId}, {"sheets", need.sheets}, {"lastLengthMm", need.lastLengthMm}});
    for (const design::CopyOf& one : laid.unplaced)
        unplaced.push_back({{"piece", one.piece.text()}, {"copy", one.copy}});
    json scraps = json::array();
    for (size_t l = 0; l < laid.loads.size(); ++l)
        for (const design::PlacedSheet& sheet : laid.loads[l].sheets)
            if (sheet.isScrap)
                scraps.push_back({{"stock", sheet.stockId},
                                  {"mat", l + 1},
                                  {"boxMm", {sheet.xMm, sheet.yMm, sheet.widthMm, sheet.heightMm}}});
    return {{"mats", laid.loads.size()}, {"stocks", stocks}, {"scraps", scraps}, {"unplaced", unplaced}};
}

/// Which scraps are to be cut, a line each.
void tellScraps(const State& state, std::ostream& out) {
    const design::Arrangement& laid = *state.made.sheets;
    for (size_t l = 0; l < laid.loads.size(); ++l)
        for (const design::PlacedSheet& sheet : laid.loads[l].sheets)
            if (sheet.isScrap)
                out << "mat " << l + 1 << ": a scrap of "
                    << sheets::scrapText(sheet, laid.loads[l].mat, state.job.stocks, state.job.unit) << "\n";
}

/// What decides and what other ways come to, a line each.
std::vector<std::string> othersIn(const std::vector<sheets::Alternative>& others, const State& state) {
    std::vector<std::string> out;
    for (const sheets::Alternative& other : others)
        out.push_back(sheets::alternativeText(other, sheets::effortOf(*state.made.sheets), *state.made.work(),
                                              state.job.unit));
    return out;
}

/// The state with its pieces laid as close as the options ask.
base::Result<State> laidClose(Session& session, const State& state, const Options& options) {
    sheets::CloseOptions how;
    const auto steps = numberBetween("--steps", options["--steps"], 0, 1e12),
               seed = numberBetween("--seed", options["--seed"], 0, 4e9);
    if (!steps || !seed)
        return !steps ? steps.error() : seed.error();
    how.budget.steps = static_cast<long long>(*steps);
    how.budget.seed = static_cast<unsigned>(*seed);
    if (options.has("--seconds")) {
        const auto seconds = numberBetween("--seconds", options["--seconds"], 0.1, 3600);
        if (!seconds)
            return seconds.error();
        how.budget.spent = [&session, from = session.seconds(), all = *seconds] {
            return (session.seconds() - from) / all;
        };
    }
    const auto publish = [&](const design::Arrangement& better) {
        if (options.has("--watch"))
            session.out << base::formatNumber(session.seconds(), 2)
                        << " s: " << needText(better, *state.made.work()) << "\n"
                        << std::flush;
    };
    return job::laidCloser(state, how, publish);
}

/// What is left of the sheets, filled with copies of a piece.
base::Result<State> filled(Session& session, const State& state, const Options& options) {
    const auto chosen = piecesCalled(state, options["--fill"]);
    if (!chosen)
        return chosen.error();
    auto more = job::withRestFilled(state, chosen->front());
    if (!more)
        return more.error();
    if (!options.has("--json"))
        session.out << more->note << "\n";
    return job::make(more.take().job, job::Stage::Sheets, state.made);
}

base::Status sheetsCommand(Session& session, const Options& options) {
    auto state = loadState(session, options.operand);
    if (!state)
        return state.error();
    auto planned = plannedBy(session, *state, options);
    if (!planned)
        return planned.error();
    auto laid = arranged({planned.take(), job::withoutSheets(state->made)});
    if (laid && !options.has("--boxes"))
        laid = laidClose(session, *laid, options);
    if (laid && options.has("--fill"))
        laid = filled(session, *laid, options);
    if (!laid)
        return laid.error();
    std::vector<sheets::Alternative> others;
    if (options.has("--why")) {
        auto found = job::otherLayouts(*laid);
        if (!found)
            return found.error();
        others = found.take();
    }
    if (!options.has("--json")) {
        tellScraps(*laid, session.out);
        for (const std::string& line : othersIn(others, *laid))
            session.out << line << "\n";
    } else {
        json out = needJson(*laid->made.sheets, *laid->made.work());
        if (options.has("--why"))
            out["why"] = othersIn(others, *laid);
        session.out << out.dump(2) << "\n";
    }
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
        state = job::laidCloser({state->job, job::withoutSheets(state->made)}, {});
    if (!state)
        return state.error();
    if (!options.has("--out") && !options.has("--table"))
        return Error{Code::InvalidArgument, "pack: name a folder or a zip with --out."};
    return asksForRelease(options) ? packRelease(session, *state, options)
                                   : packState(session, *state, options);
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
    const auto laid = job::laidCloser(*traced, {});
    return laid ? packState(session, *laid, options) : base::Status(laid.error());
}

} // namespace

std::vector<Command> sheetCommands() {
    return {{sheetsSpec(), sheetsCommand}, {packSpec(), packCommand}, {demoSpec(), demoCommand}};
}

} // namespace thinline::batch
