// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "construct/Construction.h"
#include "folding/Model.h"

#include <map>
#include <stdexcept>

/// Constructions folded up without a job, for tests and benchmarks.
namespace thinline::support {

/// Measures by name over the usual ones.
inline construct::Given given(const std::string& name, const std::map<std::string, double>& said = {},
                              double thicknessMm = 0.3, const std::string& word = "") {
    const construct::Construction* one = construct::constructionNamed(name);
    if (!one)
        throw std::runtime_error("no construction " + name);
    construct::Given out{name, {}, word, thicknessMm};
    for (const construct::Measure& measure : one->measures) {
        const auto at = said.find(measure.parameter.name);
        out.values.push_back(at == said.end() ? measure.parameter.usual : at->second);
    }
    return out;
}

/// All its parts on one card.
inline folding::Model folded(const construct::Built& built, double thicknessMm) {
    std::vector<folding::Card> cards;
    for (const std::string& key : built.form.order)
        for (const construct::Part& part : built.parts)
            if (folding::pieceKey(key) == part.key)
                cards.push_back({key,
                                 part.name,
                                 std::make_shared<const design::Body>(part.body),
                                 thicknessMm,
                                 {240, 230, 210},
                                 part.role == construct::Role::Pane});
    auto out = folding::modelOf(std::move(cards), built.form);
    if (!out)
        throw std::runtime_error(out.error().message);
    return out.take();
}

} // namespace thinline::support
