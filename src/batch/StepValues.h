// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "batch/Options.h"
#include "design/StepKind.h"

#include <map>
#include <string>
#include <vector>

/// The values of a step as they are written on the command line.
namespace thinline::batch {

/// Returns the values that were said: --by for the first, and further words such as "amount=3mm". Where a step takes
/// more than what is said, the others have their usual values, as the window writes them.
/// Errors: InvalidArgument naming the word that is no value of this kind of step, or what a value takes.
base::Result<std::map<std::string, design::Value>> valuesSaid(const design::StepKind& kind,
                                                              const Options& options);

/// Returns the names of actions with the values each takes: "offset (amount, count, join); turn (angle)".
template <class Info>
std::string namesOf(const std::vector<Info>& infos) {
    std::string out;
    for (const design::StepKind& kind : infos) {
        out += (out.empty() ? "" : "; ") + std::string(kind.name);
        for (const base::Parameter& p : kind.parameters)
            out += std::string(&p == &kind.parameters.front() ? " (" : ", ") + p.name;
        out += kind.parameters.empty() ? "" : ")";
    }
    return out;
}

/// Returns the action that --do names.
/// Errors: InvalidArgument naming all there are.
template <class Info>
base::Result<const Info*> actionSaid(const std::vector<Info>& infos, const Options& options) {
    if (const Info* info = design::kindNamed(infos, options["--do"]))
        return info;
    return base::Error{base::Code::InvalidArgument,
                       "There is no action '" + options["--do"] + "'; there are " + namesOf(infos) + "."};
}

} // namespace thinline::batch
