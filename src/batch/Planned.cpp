// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/Planned.h"

#include "base/Length.h"
#include "batch/Report.h"

#include <algorithm>
#include <map>

namespace thinline::batch {

using base::Code;
using base::Error;
using job::Job;

base::Result<job::State> onSheets(Session& session, const std::string& path) {
    auto loaded = loadState(session, path);
    if (!loaded)
        return loaded.error();
    return job::make(loaded->job, job::Stage::Sheets, loaded->made);
}

base::Result<Asked> asked(Session& session, const std::string& path, const Options& options) {
    auto state = onSheets(session, path);
    if (!state)
        return state.error();
    auto plan = job::planned(*state);
    if (!plan)
        return plan.error();
    const size_t count = plan->loads.size();
    size_t first = 0, last = count;
    if (options.has("--load")) {
        const auto load =
            numberBetween("--load", options["--load"], 1, static_cast<double>(std::max<size_t>(count, 1)));
        if (!load)
            return load.error();
        last = std::min(static_cast<size_t>(*load), count);
        first = last - std::min<size_t>(last, 1);
    }
    return Asked{state.take(), plan.take(), first, last};
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

std::vector<OptionSpec> cutOptions() {
    return {
        {"--machine", "MACHINE", "Cuts on this one: " + idsOf(catalogue().machines) + ".", "", false},
        {"--own", "WHAT=VALUE,...",
         "Makes the machine your own: name, width, longest, least, most (gf), speed, travel (mm/s), "
         "bladeprice, "
         "bladelasts (m); tools=pen+stylus+shallow; holders=pen+stylus/shallow+steep.",
         "", false},
        {"--set", "STOCK=BLADE:GF:PASSES:GF",
         "How a stock is cut, BLADE shallow or steep, the second force through its carrier; STOCK=usual takes back what was said. Several, "
         "parted by commas.",
         "", false},
        {"--offset", "LENGTH",
         "Leads the knife for a tip that trails by so much; 0 leaves it to the machine.", "", false},
        {"--overcut", "LENGTH", "Lets closed cuts go on so far beyond where they began; 0 for none.", "",
         false},
        {"--tabs", "COUNT[:WIDTH]", "Holds small pieces with so many uncut bridges; 0 for none.", "", false},
        {"--tiles", "yes|no", "Lays a test tile into the waste of each load, cut first.", "", false}};
}

namespace {

base::Result<Job> setAs(const Job& job, const std::string& said) {
    const Error wrong{Code::InvalidArgument, "--set: '" + said + "' is not like lichen=shallow:210:1."};
    const size_t sign = said.find('=');
    if (sign == std::string::npos)
        return wrong;
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
    if (blade == design::kToolWords.end() || parts.size() > 4)
        return wrong;
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
    if (parts.size() > 3) {
        const auto through = numberBetween("--set", parts[3], 1, design::kMostGf);
        if (!through)
            return through.error();
        now.throughGf = *through;
    }
    return job::withSetting(job, *stock, now);
}

base::Result<std::vector<design::ToolKind>> toolsSaid(const std::string& text) {
    std::vector<design::ToolKind> out;
    for (const std::string& word : partedBy(text, '+')) {
        const auto at = std::find(design::kToolWords.begin(), design::kToolWords.end(), word);
        if (at == design::kToolWords.end())
            return Error{Code::InvalidArgument,
                         "--own: '" + word + "' is no tool; there are pen, stylus, wheel, shallow, steep."};
        out.push_back(design::kToolKinds[static_cast<size_t>(at - design::kToolWords.begin())]);
    }
    return out;
}

base::Status sayOfMachine(design::Machine& machine, const std::string& what, const std::string& value) {
    static const std::map<std::string, double design::Machine::*> kNumbers{
        {"least", &design::Machine::leastGf},         {"most", &design::Machine::mostGf},
        {"speed", &design::Machine::cutMmPerS},       {"travel", &design::Machine::travelMmPerS},
        {"bladeprice", &design::Machine::bladePrice}, {"bladelasts", &design::Machine::bladeLastsM}};
    static const std::map<std::string, double design::Machine::*> kLengths{
        {"width", &design::Machine::usableWidthMm}, {"longest", &design::Machine::longestMm}};
    constexpr double kMost = 1e6;
    if (const auto number = kNumbers.find(what); number != kNumbers.end()) {
        const auto said = numberBetween("--own " + what, value, 0, kMost);
        if (!said)
            return said.error();
        machine.*number->second = *said;
    } else if (const auto length = kLengths.find(what); length != kLengths.end()) {
        const auto said = lengthOrZero(value);
        if (!said)
            return said.error();
        machine.*length->second = *said;
    } else if (what == "name") {
        machine.name = value;
    } else if (what == "tools") {
        const auto tools = toolsSaid(value);
        if (!tools)
            return tools.error();
        machine.tools = *tools;
    } else if (what == "holders") {
        machine.holders.clear();
        for (const std::string& holder : partedBy(value, '/')) {
            const auto takes = toolsSaid(holder);
            if (!takes)
                return takes.error();
            machine.holders.push_back({*takes});
        }
    } else {
        return Error{Code::InvalidArgument, "--own: a machine has no '" + what + "'; see --help."};
    }
    return base::Done{};
}

base::Result<Job> withOwnMachine(const Job& job, const std::string& text) {
    design::Machine machine = job::machineOf(job);
    machine.id = job::kOwnMachine;
    machine.name = "your own";
    for (const std::string& one : partedBy(text, ',')) {
        const size_t sign = one.find('=');
        if (sign == std::string::npos)
            return Error{Code::InvalidArgument, "--own: '" + one + "' is not like width=330mm."};
        if (auto ok = sayOfMachine(machine, one.substr(0, sign), one.substr(sign + 1)); !ok)
            return ok.error();
    }
    return job::withMachine(job, machine);
}

base::Result<design::CutAids> aidsSaid(design::CutAids aids, const Options& options) {
    for (const auto& [name, field] :
         {std::pair{"--offset", &design::CutAids::bladeOffsetMm}, {"--overcut", &design::CutAids::overcutMm}})
        if (options.has(name)) {
            const auto length = lengthOrZero(options[name]);
            if (!length)
                return length.error();
            aids.*field = *length;
        }
    if (options.has("--tabs")) {
        const std::vector<std::string> parts = partedBy(options["--tabs"], ':');
        const auto count = numberBetween("--tabs", parts[0], 0, design::kMostTabs);
        if (!count)
            return count.error();
        aids.tabs = static_cast<int>(*count);
        if (parts.size() > 1) {
            const auto width = lengthOrZero(parts[1]);
            if (!width)
                return width.error();
            aids.tabMm = *width;
        }
    }
    return aids;
}

} // namespace

base::Result<Job> cutAsSaid(const Job& before, const Options& options) {
    Job job = before;
    const auto take = [&](base::Result<Job> next) -> base::Status {
        if (!next)
            return next.error();
        job = next.take();
        return base::Done{};
    };
    if (options.has("--machine")) {
        const design::Machine* machine = catalogue().machine(options["--machine"]);
        if (!machine)
            return Error{Code::InvalidArgument, "There is no machine '" + options["--machine"] +
                                                    "'; there are " + idsOf(catalogue().machines) + "."};
        if (auto ok = take(job::withMachine(job, *machine)); !ok)
            return ok.error();
    }
    if (options.has("--own"))
        if (auto ok = take(withOwnMachine(job, options["--own"])); !ok)
            return ok.error();
    if (options.has("--set"))
        for (const std::string& said : partedBy(options["--set"], ','))
            if (auto ok = take(setAs(job, said)); !ok)
                return ok.error();
    const auto aids = aidsSaid(job.cut.aids, options);
    if (!aids)
        return aids.error();
    if (auto ok = take(job::withAids(job, *aids)); !ok)
        return ok.error();
    if (options.has("--tiles")) {
        if (options["--tiles"] != "yes" && options["--tiles"] != "no")
            return Error{Code::InvalidArgument, "--tiles: say yes or no."};
        job.cut.hasTiles = options["--tiles"] == "yes";
    }
    return job;
}

} // namespace thinline::batch
