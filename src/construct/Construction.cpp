// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Works made from measures.
//
// A construction is a row of numbers and a pure function from them to pieces. What makes it one, and not a drawing with
// numbers in it, is the split of these numbers into two kinds. What goes in (a candle of 58 x 104) is a size and grows with
// the design; laps, clearances, slits and teeth are margins, which a hand or a tube of glue decides and no scale changes. So
// sizing asks the declaration which is which, and makes the pieces anew.
//
// Thickness is taken in one way everywhere (construct/Blank.h): panels are measured at the middle of the card. A room of W
// between two walls has their middles W + t apart, and that is how far apart the folds are; a strip round a disc of D is as
// long as a circle of D + t; a lap that lies inside a wall begins t further in. Folded at their middles, all glued faces then
// meet exactly, which the folded preview checks by moving the very panels (folding/Pose.h) and knows nothing of these sums.
//
// Parts carry keys ("wall", "lid"), so what somebody decided about a part survives a change of measures, and every number
// that was derived comes with the sum it followed from.
#include "construct/Construction.h"

#include "construct/Set.h"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <cstring>

namespace thinline::construct {

using base::Code;
using base::Error;

double Said::operator[](const char* name) const {
    for (size_t i = 0; i < m_measures.size(); ++i)
        if (std::strcmp(m_measures[i].parameter.name, name) == 0)
            return m_values[i];
    assert(false && "a measure that is not declared");
    return 0;
}

namespace {

/// With one decimal, or two where they tell something.
std::string lengthText(double mm, base::LengthUnit unit) {
    const bool isInch = unit == base::LengthUnit::Inch;
    const double value = isInch ? mm / base::kMmPerInch : mm;
    const int most = isInch ? 3 : 2;
    std::string text = base::formatNumber(value, most);
    while (text.back() == '0' && text[text.size() - 2] != '.')
        text.pop_back();
    return text;
}

} // namespace

std::string textOf(const Derived& derived, base::LengthUnit unit) {
    std::string out = derived.name;
    if (!derived.how.empty())
        out += " = ";
    for (const auto& term : derived.how)
        out += std::holds_alternative<double>(term) ? lengthText(std::get<double>(term), unit)
                                                    : std::get<std::string>(term);
    const bool isInch = unit == base::LengthUnit::Inch;
    return out + " = " +
           base::formatNumber(isInch ? derived.mm / base::kMmPerInch : derived.mm, isInch ? 3 : 1) +
           (isInch ? " in" : " mm");
}

const Construction* constructionNamed(const std::string& name) {
    for (const Construction* one : constructions())
        if (name == one->name)
            return one;
    return nullptr;
}

std::vector<base::Parameter> parametersOf(const Construction& construction) {
    std::vector<base::Parameter> out;
    for (const Measure& measure : construction.measures)
        out.push_back(measure.parameter);
    return out;
}

base::Result<Built> built(const Given& given, const base::Progress& progress) {
    const Construction* one = constructionNamed(given.name);
    if (!one)
        return Error{Code::NotFound, "There is no construction '" + given.name + "'."};
    if (!(given.thicknessMm >= 0 && given.thicknessMm <= kMostThicknessMm))
        return Error{Code::InvalidArgument, "A card of " + base::formatNumber(given.thicknessMm, 2) +
                                                " mm cannot be folded here; up to " +
                                                base::formatNumber(kMostThicknessMm, 0) + " mm can."};
    auto values = base::checkedValues(parametersOf(*one), given.values);
    if (!values)
        return values.error();
    constexpr size_t kMostWordBytes = 400;
    if (given.word.size() > kMostWordBytes)
        return Error{Code::LimitExceeded, "That is too long a word; up to 400 letters can be taken."};
    auto made = one->build(Said(one->measures, values.take(), given), progress);
    if (!made)
        return made.error();
    Built out = made.take();
    if (out.parts.size() > kMostParts)
        return Error{Code::LimitExceeded, "That would be " + std::to_string(out.parts.size()) +
                                              " pieces; at most " + std::to_string(kMostParts) +
                                              " are made at once."};
    int line = 1; // lines are counted over the whole construction
    for (Part& part : out.parts)
        for (design::PieceLine& drawn : part.body.lines)
            drawn.id = design::LineId{line++};
    if (one->caution)
        out.said.emplace_back(one->caution);
    return out;
}

Given sizedBy(Given given, double factor, bool growsMargins) {
    const Construction* one = constructionNamed(given.name);
    if (!one)
        return given;
    for (size_t i = given.values.size(); i < one->measures.size(); ++i)
        given.values.push_back(one->measures[i].parameter.usual);
    for (size_t i = 0; i < one->measures.size(); ++i)
        given.values[i] *= base::growthOf(one->measures[i].parameter, factor, factor, growsMargins);
    return given;
}

} // namespace thinline::construct
