// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What happens on the machine: said, told, written for a plotter, printed to be read beside it.
#include "base/Length.h"
#include "batch/JobCommands.h"
#include "batch/Names.h"
#include "batch/Report.h"
#include "design/PartNames.h"
#include "devices/MatAfter.h"
#include "job/CutSteps.h"

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
    return {
        "plan",
        "JOB.thinline",
        "Tells what happens on the machine: what is done in which order with which tool, swaps and minutes.",
        {{"--machine", "MACHINE", "Cuts on this one: " + idsOf(catalogue().machines) + ".", "", false},
         {"--set", "STOCK=BLADE:GF:PASSES",
          "How a stock is cut, BLADE shallow or steep; STOCK=usual takes back what was said. Several, "
          "parted by commas.",
          "", false},
         {"--plot", "DIR",
          "Writes a plotter file (HP-GL) for each load and tool. Try it without a blade first.", "", false},
         {"--json", "", "Tells it as JSON.", "", false},
         kJobOption}};
}

CommandSpec checklistSpec() {
    return {"checklist",
            "JOB.thinline",
            "Tells what to do beside the machine, load by load.",
            {{"--load", "NUMBER", "Only this one, as the plan counts them.", "", false}}};
}

CommandSpec simulateSpec() {
    return {
        "simulate",
        "JOB.thinline",
        "Runs the plan on a simulated cutter and tells what lies on the mats: what comes free, what tears.",
        {{"--load", "NUMBER", "Only this one, as the plan counts them.", "", false},
         {"--until", "SECONDS", "Only so far; else to the end.", "", false},
         {"--dull", "", "With a dull blade.", "", false},
         {"--json", "", "Tells it as JSON.", "", false}}};
}

/// A job whose pieces lie on sheets.
base::Result<State> onSheets(Session& session, const Options& options) {
    auto loaded = loadState(session, options.operand);
    if (!loaded)
        return loaded.error();
    return job::make(loaded->job, job::Stage::Sheets, loaded->made);
}

std::vector<std::string> partedBy(const std::string& text, char sign) {
    std::vector<std::string> out{""};
    for (const char c : text) {
        if (c == sign)
            out.emplace_back();
        else
            out.back() += c;
    }
    return out;
}

base::Result<job::Job> setAs(const job::Job& job, const std::string& said) {
    const size_t sign = said.find('=');
    if (sign == std::string::npos)
        return Error{Code::InvalidArgument, "--set: '" + said + "' is not like lichen=shallow:210:1."};
    const auto stock = stockSaid(job, said.substr(0, sign));
    if (!stock)
        return stock.error();
    const std::vector<std::string> parts = partedBy(said.substr(sign + 1), ':');
    if (parts == std::vector<std::string>{"usual"})
        return job::withSetting(job, *stock, {});
    auto setting = job::settingOf(job, *stock);
    if (!setting)
        return setting.error();
    const auto blade = std::find(design::kToolWords.begin(), design::kToolWords.end(), parts[0]);
    if (blade == design::kToolWords.end() || parts.size() > 3)
        return Error{Code::InvalidArgument, "--set: '" + said + "' is not like lichen=shallow:210:1."};
    design::Setting now = *setting;
    now.blade = design::kToolKinds[static_cast<size_t>(blade - design::kToolWords.begin())];
    if (parts.size() > 1) {
        const auto force = numberBetween("--set", parts[1], 1, design::kMostGf);
        if (!force)
            return force.error();
        now.forceGf = *force;
    }
    if (parts.size() > 2) {
        const auto passes = numberBetween("--set", parts[2], 1, design::kMostPasses);
        if (!passes)
            return passes.error();
        now.passes = static_cast<int>(*passes);
    }
    return job::withSetting(job, *stock, now);
}

/// What the options decide.
base::Result<job::Job> decided(const job::Job& before, const Options& options) {
    job::Job job = before;
    if (options.has("--machine")) {
        const design::Machine* machine = catalogue().machine(options["--machine"]);
        if (!machine)
            return Error{Code::InvalidArgument, "There is no machine '" + options["--machine"] +
                                                    "'; there are " + idsOf(catalogue().machines) + "."};
        auto next = job::withMachine(job, *machine);
        if (!next)
            return next.error();
        job = next.take();
    }
    if (options.has("--set"))
        for (const std::string& said : partedBy(options["--set"], ',')) {
            auto next = setAs(job, said);
            if (!next)
                return next.error();
            job = next.take();
        }
    return job;
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
    for (const design::PlanFault& fault : plan.faults)
        out << "cannot be run so: " << fault.text() << "\n";
}

base::Status plot(Session& session, const State& state, const design::CutPlan& plan,
                  const std::string& folder) {
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
        session.out << "wrote " << folder << "/" << file.name << ", for the " << design::toolName(file.tool)
                    << "\n";
    }
    return base::Done{};
}

base::Status planCommand(Session& session, const Options& options) {
    const auto loaded = onSheets(session, options);
    if (!loaded)
        return loaded.error();
    auto job = decided(loaded->job, options);
    if (!job)
        return job.error();
    const bool hasChanged = !(job->cut == loaded->job.cut);
    const State state{job.take(), loaded->made};
    const auto plan = job::planned(state);
    if (!plan)
        return plan.error();
    if (options.has("--json"))
        session.out << planJson(state, *plan).dump(2) << "\n";
    else
        tell(state, *plan, session.out);
    if (options.has("--plot"))
        if (auto ok = plot(session, state, *plan, options["--plot"]); !ok)
            return ok;
    return hasChanged || options.has("--job") ? keep(session, options, state.job, *loaded)
                                              : base::Status(base::Done{});
}

/// The loads of a plan that are asked for: from the first one up to the last.
base::Result<std::pair<size_t, size_t>> loadsSaid(const Options& options, const design::CutPlan& plan) {
    const size_t count = plan.loads.size();
    if (!options.has("--load"))
        return std::pair{size_t{0}, count};
    const auto load =
        numberBetween("--load", options["--load"], 1, static_cast<double>(std::max<size_t>(count, 1)));
    if (!load)
        return load.error();
    const auto at = std::min(static_cast<size_t>(*load), count);
    return std::pair{at - std::min<size_t>(at, 1), at};
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
    return {{"load", load.load + 1},
            {"free", after.count(devices::Comes::Free)},
            {"held", after.count(devices::Comes::Held)},
            {"notThrough", after.count(devices::Comes::NotThrough)},
            {"tears", tears}};
}

void tellAfter(const State& state, const design::PlannedLoad& load, const devices::MatAfter& after,
               std::ostream& out) {
    out << "load " << load.load + 1 << ": " << base::counted(after.count(devices::Comes::Free), "piece")
        << " free";
    if (const int held = after.count(devices::Comes::Held))
        out << ", " << held << " still held";
    if (const int shallow = after.count(devices::Comes::NotThrough))
        out << ", " << shallow << " not cut through";
    out << "\n";
    for (const devices::Tear& tear : after.tears)
        out << "  tears: a strip of " << base::formatNumber(tear.widthMm, 2) << " mm of "
            << design::pieceName(*state.made.work(), tear.what.piece) << "; it would have to be "
            << base::formatNumber(tear.neededMm, 2) << " mm wide (our model)\n";
}

/// A job and its plan, and which loads are asked for.
struct Asked {
    State state;
    design::CutPlan plan;
    size_t first = 0, last = 0;
};
base::Result<Asked> asked(Session& session, const Options& options) {
    auto state = onSheets(session, options);
    if (!state)
        return state.error();
    auto plan = job::planned(*state);
    if (!plan)
        return plan.error();
    const auto loads = loadsSaid(options, *plan);
    if (!loads)
        return loads.error();
    return Asked{state.take(), plan.take(), loads->first, loads->second};
}

base::Status simulateCommand(Session& session, const Options& options) {
    const auto run = asked(session, options);
    if (!run)
        return run.error();
    double until = 1e9;
    if (options.has("--until")) {
        const auto seconds = numberBetween("--until", options["--until"], 0, until);
        if (!seconds)
            return seconds.error();
        until = *seconds;
    }
    json all = json::array();
    for (size_t i = run->first; i < run->last; ++i) {
        const design::PlannedLoad& load = run->plan.loads[i];
        const job::Made& made = run->state.made;
        const auto after = devices::matAfter(load, made.sheets->loads[load.load], *made.work(),
                                             run->plan.machine, until, {options.has("--dull")});
        if (!after)
            return after.error();
        if (options.has("--json"))
            all.push_back(afterJson(run->state, load, *after));
        else
            tellAfter(run->state, load, *after, session.out);
    }
    if (options.has("--json"))
        session.out << all.dump(2) << "\n";
    return base::Done{};
}

base::Status checklistCommand(Session& session, const Options& options) {
    const auto run = asked(session, options);
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
