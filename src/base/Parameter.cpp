// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/Parameter.h"

#include "base/Length.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <string_view>

namespace thinline::base {
namespace {

/// "12" or "0.25": no more decimals than the number needs, four at most.
std::string plainNumber(double value) {
    std::string text = formatNumber(value, 4);
    if (text.find('.') != std::string::npos) {
        text.erase(text.find_last_not_of('0') + 1);
        if (text.back() == '.')
            text.pop_back();
    }
    return text;
}

std::string rangeText(const Parameter& p) {
    return plainNumber(p.least) + " to " + plainNumber(p.most) + unitOf(p.quantity);
}

std::string listed(const Parameter& p) {
    std::string out;
    for (const std::string& word : choicesOf(p))
        out += (out.empty() ? "" : ", ") + word;
    return out;
}

} // namespace

double growthOf(const Parameter& parameter, double factorX, double factorY, bool growsMargins) {
    const double mean = std::sqrt(factorX * factorY);
    switch (parameter.follows) {
    case Follows::Width:
        return factorX;
    case Follows::Height:
        return factorY;
    case Follows::Both:
        return mean;
    case Follows::Area:
        return factorX * factorY;
    case Follows::Nothing:
        break;
    }
    return growsMargins && parameter.quantity == Quantity::Length ? mean : 1;
}

std::vector<std::string> choicesOf(const Parameter& parameter) {
    std::vector<std::string> out;
    if (!parameter.choices)
        return out;
    const std::string all = parameter.choices;
    for (size_t from = 0; from <= all.size();) {
        const size_t to = std::min(all.find('|', from), all.size());
        out.push_back(all.substr(from, to - from));
        from = to + 1;
    }
    return out;
}

std::string unitOf(Quantity quantity) {
    switch (quantity) {
    case Quantity::Length:
        return " mm";
    case Quantity::Area:
        return " mm²";
    case Quantity::Angle:
        return "°";
    case Quantity::Percent:
        return " %";
    case Quantity::Count:
    case Quantity::Choice:
        break;
    }
    return "";
}

std::string valueText(const Parameter& parameter, double value) {
    if (parameter.quantity == Quantity::Choice) {
        const auto words = choicesOf(parameter);
        const auto index = static_cast<size_t>(std::max(0.0, value));
        return index < words.size() ? words[index] : "";
    }
    return plainNumber(value) + unitOf(parameter.quantity);
}

namespace {

/// "0 mm": no size, but a distance.
bool isNoLength(const std::string& text) {
    char* end = nullptr;
    if (std::strtod(text.c_str(), &end) != 0 || end == text.c_str())
        return false;
    const std::string_view rest = end;
    for (const std::string_view unit : {"", "mm", "cm", "m", "in", "\""})
        if (rest == unit || rest == " " + std::string(unit))
            return true;
    return false;
}

} // namespace

Result<double> readValue(const Parameter& parameter, const std::string& text) {
    const std::string name = parameter.name;
    if (parameter.quantity == Quantity::Choice) {
        const auto words = choicesOf(parameter);
        const auto at = std::find(words.begin(), words.end(), text);
        if (at == words.end())
            return Error{Code::InvalidArgument,
                         name + " is '" + text + "'; it is one of " + listed(parameter) + "."};
        return static_cast<double>(at - words.begin());
    }
    const bool isLength = parameter.quantity == Quantity::Length;
    if (isLength && !text.empty() && text.front() != '-' && text != "0") {
        if (parameter.least <= 0 && isNoLength(text))
            return 0.0;
        const auto length = parseLength(text, LengthUnit::Millimetre);
        if (!length)
            return Error{Code::InvalidArgument, name + ": " + length.error().message};
        return length->inMm();
    }
    char* end = nullptr;
    const double value = std::strtod(text.c_str(), &end);
    std::string rest = end;
    rest.erase(0,
               rest.find_first_not_of(' ') == std::string::npos ? rest.size() : rest.find_first_not_of(' '));
    std::string unit = unitOf(parameter.quantity);
    unit.erase(0, unit.find_first_not_of(' ') == std::string::npos ? 0 : unit.find_first_not_of(' '));
    if (end == text.c_str() || !std::isfinite(value) ||
        (!rest.empty() && rest != unit && !(rest == "mm2" && parameter.quantity == Quantity::Area)))
        return Error{Code::InvalidArgument,
                     name + " is '" + text + "'; it takes a number, " + rangeText(parameter) + "."};
    return value;
}

Result<std::vector<double>> checkedValues(const std::vector<Parameter>& parameters,
                                          const std::vector<double>& values) {
    std::vector<double> out;
    for (size_t i = 0; i < parameters.size(); ++i) {
        const Parameter& p = parameters[i];
        double value = i < values.size() ? values[i] : p.usual;
        if (p.quantity == Quantity::Count || p.quantity == Quantity::Choice)
            value = std::round(value);
        const double most =
            p.quantity == Quantity::Choice ? static_cast<double>(choicesOf(p).size()) - 1 : p.most;
        if (!(value >= p.least && value <= most))
            return Error{Code::InvalidArgument,
                         "\"" + std::string(p.label) + "\" goes from " + rangeText(p) + "."};
        out.push_back(value);
    }
    return out;
}

} // namespace thinline::base
