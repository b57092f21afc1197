// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Values of steps. A step is kept as words and numbers by name, so that a parameter that is added later never makes an old
// job damaged: what is absent takes its usual value. Choices are kept by their word, not by their number, for the same
// reason. What may be asked for is checked when a step is taken (`checkValues`); what a job holds is replayed also beyond
// that, since sizing multiplies it: a margin of 100 mm in a design made ten times as large is still what was meant. Only
// counts are held to their range always, because they bound the work.
#include "design/StepKind.h"

#include <algorithm>
#include <cmath>

namespace thinline::design {

std::map<std::string, Value> stepValues(const StepKind& kind, const std::vector<double>& values) {
    std::map<std::string, Value> out;
    for (size_t i = 0; i < std::min(values.size(), kind.parameters.size()); ++i) {
        const base::Parameter& p = kind.parameters[i];
        if (p.quantity == base::Quantity::Choice)
            out[p.name] = base::valueText(p, values[i]);
        else
            out[p.name] = values[i];
    }
    return out;
}

std::vector<double> valuesOf(const StepKind& kind, const Step& step) {
    std::vector<double> out;
    for (const base::Parameter& p : kind.parameters) {
        const auto at = step.values.find(p.name);
        double value = p.usual;
        if (at != step.values.end()) {
            if (const auto* number = std::get_if<double>(&at->second))
                value = *number;
            else if (const auto* word = std::get_if<std::string>(&at->second))
                if (const auto read = base::readValue(p, *word))
                    value = *read;
        }
        out.push_back(value);
    }
    return out;
}

base::Status checkValues(const StepKind& kind, const Step& step) {
    if (const auto values = base::checkedValues(kind.parameters, valuesOf(kind, step)); !values)
        return values.error();
    return base::Done{};
}

base::Status checkBounds(const StepKind& kind, const std::vector<double>& values) {
    for (size_t i = 0; i < values.size(); ++i) {
        const base::Parameter& p = kind.parameters[i];
        const bool isCount = p.quantity == base::Quantity::Count;
        const double most = isCount ? p.most : 1e9;
        if (!(std::abs(values[i]) <= most) || (isCount && values[i] < p.least))
            return base::Error{base::Code::InvalidArgument,
                               "\"" + std::string(p.label) + "\" is out of range."};
    }
    return base::Done{};
}

std::string stepText(const StepKind& kind, const Step& step) {
    std::string text = kind.label;
    const std::vector<double> values = valuesOf(kind, step);
    for (size_t i = 0; i < kind.parameters.size(); ++i) {
        if (kind.takesOnlySaid && !step.values.contains(kind.parameters[i].name))
            continue;
        const bool isMeasure = kind.parameters[i].quantity != base::Quantity::Choice;
        text += ", " + base::valueText(kind.parameters[i],
                                       isMeasure ? std::round(values[i] * 100) / 100 : values[i]);
    }
    return text;
}

Step sizedBy(const StepKind& kind, Step step, double factorX, double factorY, bool growsMargins) {
    for (const base::Parameter& p : kind.parameters)
        if (const auto at = step.values.find(p.name); at != step.values.end())
            if (auto* number = std::get_if<double>(&at->second))
                *number *= base::growthOf(p, factorX, factorY, growsMargins);
    return step;
}

} // namespace thinline::design
