// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/AssemblySteps.h"

#include "split/Steps.h"

namespace thinline::job {
namespace {

using base::Code;
using base::Error;

base::Status checkedWords(const std::string& text) {
    if (text.size() > assembly::kMostWords)
        return Error{Code::InvalidArgument, "A text has at most " + std::to_string(assembly::kMostWords) +
                                                " letters; this one has " + std::to_string(text.size()) +
                                                "."};
    return base::Done{};
}

} // namespace

assembly::Work workOf(const State& state, design::RowMemory& rows) {
    const Finished& finished = *state.made.finished;
    assembly::Work out{finished.stack, finished.heights, rows};
    for (const AfterStep& after : state.made.after)
        if (split::isDivision(*after.step) && !after.whyNot)
            out.divisions.push_back(after.step->id);
    return out;
}

base::Result<assembly::Instructions> instructionsOf(const State& state, const base::Progress& progress) {
    if (!state.made.work())
        return Error{Code::InvalidArgument, "There is nothing to put together yet."};
    design::RowMemory rows;
    return assembly::instructionsOf(workOf(state, rows), state.job.assembly, state.job.unit, progress);
}

base::Result<Job> withItem(const State& state, const assembly::OwnItem& item) {
    if (item.text.empty())
        return Error{Code::InvalidArgument, "Say what it is: \"a stick, 40 cm\"."};
    if (auto ok = checkedWords(item.text); !ok)
        return ok.error();
    if (item.at && (!state.made.work() || !state.made.work()->find(item.at)))
        return Error{Code::NotFound, "There is no piece " + item.at.text() + " to put it into."};
    Job job = state.job;
    if (job.assembly.items.size() == assembly::kMostItems)
        return Error{Code::LimitExceeded, "A job takes " + std::to_string(assembly::kMostItems) +
                                              " own items; take one away first."};
    job.assembly.items.push_back(item);
    return job;
}

base::Result<Job> withoutItem(const Job& job, std::size_t item) {
    if (item >= job.assembly.items.size())
        return Error{Code::NotFound,
                     "There are " + std::to_string(job.assembly.items.size()) + " own items."};
    Job out = job;
    out.assembly.items.erase(out.assembly.items.begin() + static_cast<std::ptrdiff_t>(item));
    return out;
}

Job withNumbers(const Job& job, assembly::Numbers numbers) {
    Job out = job;
    out.assembly.numbers = numbers;
    return out;
}

Job withGoesTo(const Job& job, GoesTo goesTo) {
    Job out = job;
    out.goesTo = goesTo;
    return out;
}

base::Result<Job> withStepText(const Job& job, const std::string& key, const std::string& text) {
    if (auto ok = checkedWords(text); !ok)
        return ok.error();
    if (key.empty())
        return Error{Code::InvalidArgument, "Say which step."};
    Job out = job;
    if (text.empty())
        out.assembly.texts.erase(key);
    else
        out.assembly.texts[key] = text;
    return out;
}

} // namespace thinline::job
