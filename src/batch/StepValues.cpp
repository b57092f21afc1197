// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Values come as words, "amount=3mm", and are read by the parameter they are for: the same table that the panel of the
// window builds its fields from. A step that is whole after being made (a line with its way) takes only what is said.
#include "batch/StepValues.h"

#include <algorithm>

namespace thinline::batch {

using base::Code;
using base::Error;

base::Result<std::map<std::string, design::Value>> valuesSaid(const design::StepKind& kind,
                                                              const Options& options) {
    std::map<std::string, design::Value> out;
    if (!kind.takesOnlySaid) {
        std::vector<double> usual;
        for (const base::Parameter& p : kind.parameters)
            usual.push_back(p.usual);
        out = design::stepValues(kind, usual);
    }
    const auto put = [&](const base::Parameter& p, const std::string& text) -> base::Status {
        const auto value = base::readValue(p, text);
        if (!value)
            return value.error();
        out[p.name] = p.quantity == base::Quantity::Choice ? design::Value(base::valueText(p, *value))
                                                           : design::Value(*value);
        return base::Done{};
    };
    if (options.has("--by")) {
        if (kind.parameters.empty())
            return Error{Code::InvalidArgument, std::string(kind.name) + " takes no value."};
        if (auto ok = put(kind.parameters.front(), options["--by"]); !ok)
            return ok.error();
    }
    for (const std::string& word : options.more) {
        const auto equals = word.find('=');
        const auto p =
            std::find_if(kind.parameters.begin(), kind.parameters.end(),
                         [&](const base::Parameter& one) { return word.substr(0, equals) == one.name; });
        if (equals == std::string::npos || p == kind.parameters.end())
            return Error{Code::InvalidArgument,
                         "'" + word + "' is no value of " + kind.name + "; see --help."};
        if (auto ok = put(*p, word.substr(equals + 1)); !ok)
            return ok.error();
    }
    return out;
}

} // namespace thinline::batch
