// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What happens on the machine: said, told, written for a plotter, printed to be read beside it.
#include "base/Length.h"
#include "batch/JobCommands.h"
#include "batch/Planned.h"
#include "batch/Report.h"
#include "design/PartNames.h"
#include "devices/MatAfter.h"
#include "devices/PlottedMat.h"
#include "formats/image/ImageFile.h"
#include "formats/plotter/ReadPlotter.h"
#include "job/TestTile.h"
#include "pack/LoadFiles.h"

#include <nlohmann/json.hpp>

#include <algorithm>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using job::State;
using json = nlohmann::ordered_json;

constexpr base::LengthUnit kMm = base::LengthUnit::Millimetre;

CommandSpec planSpec() {
    std::vector<OptionSpec> options = cutOptions();
    options.insert(
        options.end(),
        {{"--plot", "DIR",
          "Writes a plotter file (HP-GL) for each load and tool. Try it without a blade first.", "", false},
         {"--dxf", "DIR", "Writes a DXF file for each load.", "", false},
         {"--pdf", "FILE", "Writes one PDF of all loads, a page as large as its mat for each.", "", false},
         {"--json", "", "Tells it as JSON.", "", false},
         kJobOption});
    return {"plan", "JOB.thinline",
            "Tells what happens on the machine: what is done in which order with which tool, swaps, minutes "
            "and cost.",
            options};
}

CommandSpec checklistSpec() {
    return {"checklist", "JOB.thinline", "Tells what to do beside the machine, load by load.", {kLoadOption}};
}

CommandSpec simulateSpec() {
    return {
        "simulate",
        "JOB.thinline|FILE.plt",
        "Runs the plan, or a plotter file, on a simulated cutter and tells what lies on the mats.",
        {kLoadOption,
         {"--until", "SECONDS", "Only so far; else to the end.", "", false},
         {"--dull", "", "With a dull blade.", "", false},
         {"--worn", "", "On a mat that holds no more.", "", false},
         {"--askew", "LENGTH", "With the sheet's far end laid off by so much.", "", false},
         {"--again", "TIMES", "With the same cut run again so often before unloading.", "", false},
         {"--mat", "MAT", "The mat a plotter file is for: " + idsOf(catalogue().formats.mats) + ".",
          "square12", false},
         {"--print", "", "Prints its pages on a simulated printer, lays, finds and cuts them.", "", false},
         {"--camera", "", "With --print: a camera looks for the marks.", "", false},
         {"--blind", "", "With --print: cut without reading marks.", "", false},
         {"--only", "SOURCES",
          "With --print: only these errors, parted by commas: printer, feed, standing, sensor.", "", false},
         {"--seed", "NUMBER", "With --print: by which the errors are drawn.", "1", false},
         {"--runs", "NUMBER", "With --print: how many runs tell what a bleed covers.", "1000", false},
         {"--png", "OUT.png", "Draws the mat; of several loads each, numbered.", "", false},
         {"--report", "OUT.json", "Writes it as JSON.", "", false},
         {"--json", "", "Tells it as JSON.", "", false}}};
}

json swapJson(const design::Swap& swap) {
    json out{{"beforePass", swap.pass + 1}, {"holder", swap.holder + 1}, {"in", design::toolName(swap.in)}};
    out["out"] = swap.out ? json(design::toolName(*swap.out)) : json();
    return out;
}

json planJson(const State& state, const design::CutPlan& plan) {
    json out{{"machine", plan.machine.name}, {"minutes", plan.seconds() / 60},
             {"swaps", plan.swaps},          {"swapsInOrder", plan.swapsInOrder},
             {"start", json::array()},       {"loads", json::array()},
             {"faults", json::array()}};
    for (const auto& tool : plan.start)
        out["start"].push_back(tool ? json(design::toolName(*tool)) : json());
    for (const design::PlannedLoad& load : plan.loads) {
        json one{{"load", load.load + 1},       {"seconds", load.seconds}, {"lineMm", load.lineMm()},
                 {"travelMm", load.travelMm()}, {"swaps", json::array()},  {"passes", json::array()}};
        for (const design::Swap& swap : load.swaps)
            one["swaps"].push_back(swapJson(swap));
        for (const design::Pass& pass : load.passes)
            one["passes"].push_back({{"does", job::passText(state, pass)},
                                     {"stock", pass.stockId},
                                     {"tool", design::kToolWords[static_cast<size_t>(pass.tool)]},
                                     {"holder", pass.holder + 1},
                                     {"forceGf", pass.forceGf},
                                     {"mmPerS", pass.mmPerS},
                                     {"times", pass.times},
                                     {"lines", pass.paths.size()},
                                     {"lineMm", pass.lineMm},
                                     {"travelMm", pass.travelMm},
                                     {"seconds", pass.seconds}});
        out["loads"].push_back(std::move(one));
    }
    if (const auto cost = job::cutCost(state, plan))
        out["cost"] = {{"sheets", cost->sheets},  {"cardMm2", cost->cardMm2}, {"usedMm2", cost->usedMm2},
                       {"cutMm", cost->cutMm},    {"card", cost->cardCost},   {"blades", cost->bladeCost},
                       {"unknown", cost->unknown}};
    for (const design::PlanFault& fault : plan.faults)
        out["faults"].push_back(fault.text());
    return out;
}

void tell(const State& state, const design::CutPlan& plan, std::ostream& out) {
    out << plan.machine.name << ": " << base::counted(plan.loads.size(), "load") << ", "
        << job::timeText(plan.seconds()) << ", " << base::counted(plan.swaps, "swap") << " of tools";
    if (plan.swapsInOrder > plan.swaps)
        out << " (in the order of the sheets " << plan.swapsInOrder << ")";
    out << "\n";
    for (size_t h = 0; h < plan.start.size(); ++h)
        if (plan.start[h])
            out << "holder " << h + 1 << ": " << design::toolName(*plan.start[h]) << "\n";
    for (const design::PlannedLoad& load : plan.loads) {
        out << "load " << load.load + 1 << ": " << job::timeText(load.seconds) << ", "
            << base::formatLength(load.lineMm(), kMm) << " of lines, "
            << base::formatLength(load.travelMm(), kMm) << " between them\n";
        if (load.tile)
            out << "  test tile: " << job::tileText(*load.tile, kMm) << "\n";
        for (size_t p = 0; p < load.passes.size(); ++p) {
            for (const design::Swap& swap : load.swaps)
                if (swap.pass == p)
                    out << "  put the " << design::toolName(swap.in) << " into holder " << swap.holder + 1
                        << "\n";
            out << "  " << job::passText(state, load.passes[p]) << ": "
                << base::counted(load.passes[p].paths.size(), "line") << ", "
                << job::timeText(load.passes[p].seconds) << "\n";
        }
    }
    if (const auto cost = job::cutCost(state, plan)) {
        out << base::counted(cost->sheets, "sheet") << ", "
            << base::formatNumber(100 * cost->usedMm2 / cost->cardMm2, 0)
            << " % of their card used; the blade is drawn " << base::formatNumber(cost->cutMm / 1000, 1)
            << " m";
        if (cost->cardCost + cost->bladeCost > 0)
            out << "; costs " << base::formatNumber(cost->cardCost + cost->bladeCost, 2);
        if (!cost->unknown.empty()) {
            out << " (no price known:";
            for (const std::string& name : cost->unknown)
                out << " " << name;
            out << ")";
        }
        out << "\n";
    }
    if (const std::string aids = job::aidsText(plan.aids, kMm); !aids.empty())
        out << "lines are " << aids << "\n";
    for (const design::PlanFault& fault : plan.faults)
        out << (fault.kind == design::PlanFault::Kind::OneHolder ? "note: " : "cannot be run so: ")
            << fault.text() << "\n";
}

base::Status plot(Session& session, const State& state, const design::CutPlan& plan,
                  const std::string& folder, bool isTold) {
    if (auto made = session.store.makeFolder(folder); !made)
        return made;
    const auto files = job::plotterFiles(state, plan);
    if (!files)
        return files.error();
    for (const formats::plotter::PlotterFile& file : *files) {
        if (auto done =
                session.store.writeWhole(folder + "/" + file.name, {file.text.begin(), file.text.end()});
            !done)
            return done;
        if (isTold)
            session.out << "wrote " << folder << "/" << file.name << ", for the "
                        << design::toolName(file.tool) << "\n";
    }
    return base::Done{};
}

/// Loads as DXF and PDF.
base::Status writeOthers(Session& session, const Options& options, const State& state,
                         const design::CutPlan& plan) {
    std::vector<std::pair<std::string, pack::LoadFile>> files; // by where they go
    if (options.has("--dxf")) {
        if (auto made = session.store.makeFolder(options["--dxf"]); !made)
            return made;
        for (pack::LoadFile& file : pack::dxfFiles(plan, *state.made.sheets)) {
            const std::string path = options["--dxf"] + "/" + file.name;
            files.emplace_back(path, std::move(file));
        }
    }
    if (options.has("--pdf")) {
        auto file =
            pack::pdfFile(plan, *state.made.sheets, *state.made.work(), state.job.name, state.job.unit);
        if (!file)
            return file.error();
        files.emplace_back(options["--pdf"], file.take());
    }
    for (const auto& [path, file] : files) {
        if (auto done = session.store.writeWhole(path, file.bytes); !done)
            return done;
        if (!options.has("--json"))
            session.out << "wrote " << path << "\n";
    }
    return base::Done{};
}

base::Status planCommand(Session& session, const Options& options) {
    const auto loaded = onSheets(session, options.operand);
    if (!loaded)
        return loaded.error();
    auto job = cutAsSaid(loaded->job, options);
    if (!job)
        return job.error();
    const bool hasChanged = !(job->cut == loaded->job.cut);
    // Machine and settings may say which stocks share a mat, a led knife how far from its edge.
    const auto made = job::make(job.take(), job::Stage::Sheets, loaded->made);
    if (!made)
        return made.error();
    const State& state = *made;
    const auto plan = job::planned(state);
    if (!plan)
        return plan.error();
    if (options.has("--json"))
        session.out << planJson(state, *plan).dump(2) << "\n";
    else
        tell(state, *plan, session.out);
    if (options.has("--plot"))
        if (auto ok = plot(session, state, *plan, options["--plot"], !options.has("--json")); !ok)
            return ok;
    if (auto ok = writeOthers(session, options, state, *plan); !ok)
        return ok;
    return hasChanged || options.has("--job") ? keep(session, options, state.job, *loaded)
                                              : base::Status(base::Done{});
}

json afterJson(const State& state, const design::PlannedLoad& load, const devices::MatAfter& after) {
    json tears = json::array();
    for (const devices::Tear& tear : after.tears)
        tears.push_back({{"piece", tear.what.piece.text()},
                         {"name", design::pieceName(*state.made.work(), tear.what.piece)},
                         {"copy", tear.what.copy},
                         {"widthMm", tear.widthMm},
                         {"neededMm", tear.neededMm},
                         {"onMatMm", {tear.at.x, tear.at.y}}});
    json held = json::array(), slips = json::array();
    for (const devices::CopyAfter& one : after.copies)
        if (one.heldAt)
            held.push_back({one.heldAt->x, one.heldAt->y});
    for (const devices::Slip& slip : after.slips)
        slips.push_back({{"piece", slip.what.piece.text()},
                         {"copy", slip.what.copy},
                         {"what", devices::slipText(slip)},
                         {"onMatMm", {slip.at.x, slip.at.y}}});
    return {{"load", load.load + 1},
            {"free", after.count(devices::Comes::Free)},
            {"held", after.count(devices::Comes::Held)},
            {"tabbed", after.count(devices::Comes::Tabbed)},
            {"notThrough", after.count(devices::Comes::NotThrough)},
            {"heldAtMm", held},
            {"tears", tears},
            {"slips", slips}};
}

void tellAfter(const State& state, const design::PlannedLoad& load, const devices::MatAfter& after,
               std::ostream& out) {
    out << "load " << load.load + 1 << ": " << base::counted(after.count(devices::Comes::Free), "piece")
        << " free";
    if (const int held = after.count(devices::Comes::Held))
        out << ", " << held << " still held";
    if (const int shallow = after.count(devices::Comes::NotThrough))
        out << ", " << shallow << " not cut through";
    if (const int tabbed = after.count(devices::Comes::Tabbed))
        out << ", " << tabbed << " held by bridges";
    out << "\n";
    for (const devices::Slip& slip : after.slips)
        out << "  " << design::pieceName(*state.made.work(), slip.what.piece) << ": "
            << devices::slipText(slip) << "\n";
    for (const devices::Tear& tear : after.tears)
        out << "  tears: a strip of " << base::formatNumber(tear.widthMm, 2) << " mm of "
            << design::pieceName(*state.made.work(), tear.what.piece) << "; it would have to be "
            << base::formatNumber(tear.neededMm, 2) << " mm wide (our model)\n";
}

/// What is switched on.
base::Result<devices::WhatIf> whatIf(const Options& options) {
    devices::WhatIf out;
    out.isBladeDull = options.has("--dull");
    out.isMatWorn = options.has("--worn");
    if (options.has("--askew")) {
        const auto length = lengthOrZero(options["--askew"]);
        if (!length)
            return length.error();
        out.askewMm = *length;
    }
    if (options.has("--again")) {
        const auto times = numberBetween("--again", options["--again"], 0, design::kMostPasses);
        if (!times)
            return times.error();
        out.moreRounds = static_cast<int>(*times);
    }
    return out;
}

base::Result<double> secondsSaid(const Options& options) {
    constexpr double kAll = 1e9;
    return options.has("--until") ? numberBetween("--until", options["--until"], 0, kAll)
                                  : base::Result(kAll);
}

constexpr double kPicturePxPerMm = 3, kMostPicturePx = 6000;

base::Status draw(Session& session, const std::string& path, const design::PlannedLoad& load,
                  const design::MatFormat& mat, const std::vector<design::PlacedSheet>& sheets,
                  const std::vector<design::Stock>& stocks, const design::Machine& machine, double seconds,
                  const std::function<void(raster::Canvas&, double)>& show = {}) {
    const double scale = std::min(kPicturePxPerMm, kMostPicturePx / std::max(mat.widthMm, mat.heightMm));
    raster::Canvas canvas = devices::pictureOf(load, mat, sheets, stocks, machine, seconds, scale);
    if (show)
        show(canvas, scale);
    const raster::Picture picture = canvas.picture();
    if (auto done = session.store.writeWhole(path, formats::image::encodePng(picture, scale * 25.4)); !done)
        return done;
    session.out << "wrote " << path << "\n";
    return base::Done{};
}

/// "mat.png" for one load; "mat-3.png" for the third of several.
std::string pictureName(const std::string& path, size_t at, size_t count) {
    if (count < 2)
        return path;
    const size_t dot = path.rfind('.');
    return path.substr(0, dot) + "-" + std::to_string(at + 1) +
           (dot == std::string::npos ? "" : path.substr(dot));
}

base::Status tellJson(Session& session, const Options& options, const json& told) {
    if (options.has("--json"))
        session.out << told.dump(2) << "\n";
    return options.has("--report") ? writeText(session, options["--report"], told.dump(2) + "\n")
                                   : base::Status(base::Done{});
}

base::Status simulateFile(Session& session, const Options& options, double until) {
    constexpr std::uint64_t kMostBytes = 64 << 20;
    const auto bytes = session.store.read(options.operand, kMostBytes);
    if (!bytes)
        return bytes.error();
    const auto page =
        formats::plotter::readPlotter({reinterpret_cast<const char*>(bytes->data()), bytes->size()});
    if (!page)
        return Error{page.error().code, options.operand + ": " + page.error().message};
    const design::MatFormat* mat = catalogue().formats.mat(options["--mat"]);
    if (!mat)
        return Error{Code::InvalidArgument, "--mat: There is no mat '" + options["--mat"] + "'."};
    const design::Machine& machine = catalogue().machines.front();
    const devices::PlottedMat plotted = devices::plottedOn(*page, *mat, machine);
    const json told{{"lines", plotted.lines},
                    {"closed", plotted.closed},
                    {"open", plotted.open},
                    {"lineMm", plotted.load.lineMm()},
                    {"travelMm", plotted.load.travelMm()},
                    {"seconds", plotted.load.seconds},
                    {"staysOnMat", plotted.staysOnMat},
                    {"endsLifted", plotted.endsLifted},
                    {"skipped", page->skipped}};
    if (!options.has("--json")) {
        session.out << base::counted(plotted.lines, "line") << ", "
                    << base::formatLength(plotted.load.lineMm(), kMm) << " of them, "
                    << job::timeText(plotted.load.seconds) << " on " << machine.name << "\n"
                    << base::counted(plotted.closed, "outline") << ", each lets a part come free; "
                    << plotted.open << " that end where they did not begin\n";
        if (!plotted.staysOnMat)
            session.out << "  It leaves the part of the mat that may be used: do not send it to a machine.\n";
        if (!plotted.endsLifted)
            session.out << "  It ends with the tool down.\n";
        for (const std::string& command : page->skipped)
            session.out << "  Not followed: " << command << "\n";
    }
    if (options.has("--png"))
        if (auto ok = draw(session, options["--png"], plotted.load, *mat, {}, {}, machine, until); !ok)
            return ok;
    return tellJson(session, options, told);
}

base::Status simulateCommand(Session& session, const Options& options) {
    const auto until = secondsSaid(options);
    if (!until)
        return until.error();
    const std::string& path = options.operand;
    if (path.size() > 4 && path.compare(path.size() - 4, 4, ".plt") == 0)
        return simulateFile(session, options, *until);
    if (options.has("--print"))
        return simulatePrint(session, options);
    const auto what = whatIf(options);
    if (!what)
        return what.error();
    const auto run = asked(session, path, options);
    if (!run)
        return run.error();
    json all = json::array();
    for (size_t i = run->first; i < run->last; ++i) {
        const design::PlannedLoad& load = run->plan.loads[i];
        const job::Made& made = run->state.made;
        const design::Load& laid = made.sheets->loads[load.load];
        const auto after = devices::matAfter(load, laid, *made.work(), run->plan.machine, *until, *what);
        if (!after)
            return after.error();
        all.push_back(afterJson(run->state, load, *after));
        if (!options.has("--json"))
            tellAfter(run->state, load, *after, session.out);
        if (options.has("--png"))
            if (auto ok = draw(session, pictureName(options["--png"], i, run->last - run->first), load,
                               laid.mat, laid.sheets, made.work()->stocks, run->plan.machine, *until,
                               [&](raster::Canvas& canvas, double pxPerMm) {
                                   devices::showAfter(canvas, *after, laid, *made.work(), pxPerMm);
                               });
                !ok)
                return ok;
    }
    return tellJson(session, options, all);
}

base::Status checklistCommand(Session& session, const Options& options) {
    const auto run = asked(session, options.operand, options);
    if (!run)
        return run.error();
    const auto text = job::checklistText(run->state, run->plan, run->first, run->last);
    if (!text)
        return text.error();
    session.out << *text;
    return base::Done{};
}

} // namespace

std::vector<Command> cutCommands() {
    return {
        {planSpec(), planCommand}, {simulateSpec(), simulateCommand}, {checklistSpec(), checklistCommand}};
}

} // namespace thinline::batch
