// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/Length.h"

#include <array>
#include <charconv>
#include <cmath>
#include <cstdlib>
#include <optional>

namespace thinline::base {
namespace {

std::string quoted(std::string_view text) {
    constexpr size_t kShown = 40; // a pasted novel must not fill the message
    return "'" + std::string(text.substr(0, kShown)) + (text.size() > kShown ? "…'" : "'");
}

Error refuse(std::string_view text, const std::string& why) {
    return {Code::InvalidArgument, "The size " + quoted(text) + " " + why};
}

/// The text without surrounding blanks, vulgar fractions spelled out, comma turned to point, lower case.
std::string normalised(std::string_view text) {
    static constexpr std::array<std::pair<std::string_view, std::string_view>, 7> kSpelled = {
        {{"½", " 1/2"},
         {"¼", " 1/4"},
         {"¾", " 3/4"},
         {"⅛", " 1/8"},
         {"\u00a0", " "},
         {"\u2009", " "},
         {"″", "\""}}};
    std::string out;
    for (size_t i = 0; i < text.size();) {
        bool wasSpelled = false;
        for (const auto& [from, to] : kSpelled) {
            if (text.substr(i, from.size()) == from) {
                out += to;
                i += from.size();
                wasSpelled = true;
                break;
            }
        }
        if (wasSpelled)
            continue;
        const char c = text[i++];
        out += c == ',' ? '.' : static_cast<char>(c >= 'A' && c <= 'Z' ? c - 'A' + 'a' : c);
    }
    const auto first = out.find_first_not_of(" \t");
    if (first == std::string::npos)
        return {};
    return out.substr(first, out.find_last_not_of(" \t") - first + 1);
}

/// Cursor over the normalised text; reads unsigned decimal numbers without exponent or locale.
struct Cursor {
    std::string_view rest;

    void skipBlanks() {
        while (!rest.empty() && (rest.front() == ' ' || rest.front() == '\t'))
            rest.remove_prefix(1);
    }
    bool takeIf(char c) {
        if (rest.empty() || rest.front() != c)
            return false;
        rest.remove_prefix(1);
        return true;
    }
    std::optional<double> number() {
        double value = 0;
        if (rest.empty() || (rest.front() != '.' && (rest.front() < '0' || rest.front() > '9')))
            return std::nullopt; // the library would also read signs, inf and nan
        const auto [end, code] =
            std::from_chars(rest.data(), rest.data() + rest.size(), value, std::chars_format::fixed);
        if (code != std::errc() || end == rest.data())
            return std::nullopt;
        rest.remove_prefix(static_cast<size_t>(end - rest.data()));
        return value;
    }
};

/// Reads "11", "11.5", "1/2" or "11 1/2".
std::optional<double> mixedNumber(Cursor& cursor) {
    const auto first = cursor.number();
    if (!first)
        return std::nullopt;
    if (cursor.takeIf('/')) {
        const auto below = cursor.number();
        return below && *below > 0 ? std::optional(*first / *below) : std::nullopt;
    }
    Cursor ahead = cursor;
    ahead.skipBlanks();
    if (const auto above = ahead.number()) {
        const auto below = ahead.takeIf('/') ? ahead.number() : std::nullopt;
        if (!below || !(*below > 0))
            return std::nullopt;
        cursor = ahead;
        return *first + *above / *below;
    }
    return first;
}

std::optional<double> mmPerUnit(std::string_view unit, LengthUnit otherwise) {
    static constexpr std::array<std::pair<std::string_view, double>, 8> kUnits = {{{"mm", 1},
                                                                                   {"cm", 10},
                                                                                   {"m", 1000},
                                                                                   {"in", kMmPerInch},
                                                                                   {"inch", kMmPerInch},
                                                                                   {"inches", kMmPerInch},
                                                                                   {"\"", kMmPerInch},
                                                                                   {"in.", kMmPerInch}}};
    if (unit.empty())
        return otherwise == LengthUnit::Inch ? kMmPerInch : 1.0;
    for (const auto& [name, factor] : kUnits)
        if (name == unit)
            return factor;
    return std::nullopt;
}

} // namespace

Result<Length> parseLength(std::string_view text, LengthUnit unit, LengthRange range) {
    const std::string plain = normalised(text);
    if (plain.empty())
        return refuse(text, "is empty; type a number such as 240 mm or 9 1/2 in.");
    Cursor cursor{plain};
    const bool isNegative = cursor.takeIf('-');
    const auto number = mixedNumber(cursor);
    if (!number)
        return refuse(text, "is not a number; type it like 240 mm, 24,5 cm or 11 1/2 in.");
    cursor.skipBlanks();
    const auto factor = mmPerUnit(cursor.rest, unit);
    if (!factor)
        return refuse(text, "has a unit I do not know; use mm, cm, m or in.");
    const double lengthMm = *number * *factor;
    if (isNegative && lengthMm > 0)
        return refuse(text, "is negative; a size must be above zero.");
    if (lengthMm == 0)
        return refuse(text, "is zero; a size must be above zero.");
    if (!std::isfinite(lengthMm) || lengthMm < range.leastMm || lengthMm > range.largestMm)
        return refuse(text, "is out of range; sizes go from " +
                                formatNumber(range.leastMm, range.leastMm < 1 ? 2 : 0) + " mm to " +
                                formatNumber(range.largestMm, 0) + " mm.");
    return mm(lengthMm);
}

Result<double> parsePlaceMm(std::string_view text, LengthUnit unit) {
    const std::string plain = normalised(text);
    Cursor cursor{plain};
    const bool isNegative = cursor.takeIf('-');
    const std::string away(cursor.rest);
    const auto number = mixedNumber(cursor);
    cursor.skipBlanks();
    if (number && *number == 0 && mmPerUnit(cursor.rest, unit))
        return 0.0;
    const auto length = parseLength(away, unit, {.leastMm = 1e-6});
    if (!length)
        return length.error();
    return isNegative ? -length->inMm() : length->inMm();
}

Result<double> parseAreaMm2(std::string_view text) {
    const std::string plain = normalised(text);
    Cursor cursor{plain};
    const auto number = cursor.number();
    if (!number || !std::isfinite(*number))
        return Error{Code::InvalidArgument,
                     "The area " + quoted(text) + " is not a number; type it like 0.5 mm2."};
    cursor.skipBlanks();
    double factor = 1;
    if (cursor.rest == "in2" || cursor.rest == "in²")
        factor = kMmPerInch * kMmPerInch;
    else if (!cursor.rest.empty() && cursor.rest != "mm2" && cursor.rest != "mm²")
        return Error{Code::InvalidArgument,
                     "The area " + quoted(text) + " has a unit I do not know; use mm2 or in2."};
    const double areaMm2 = *number * factor;
    constexpr double kLargestMm2 = 1e6;
    if (areaMm2 > kLargestMm2)
        return Error{Code::InvalidArgument, "The area " + quoted(text) + " is larger than a square metre."};
    return areaMm2;
}

std::string formatNumber(double value, int decimals) {
    std::array<char, 64> buffer{};
    if (!std::isfinite(value) || std::abs(value) > 1e15)
        return "?";
    const auto [end, code] = std::to_chars(buffer.data(), buffer.data() + buffer.size(), value,
                                           std::chars_format::fixed, decimals);
    std::string text = code == std::errc() ? std::string(buffer.data(), end) : "?";
    return text.find_first_not_of("-0.") == std::string::npos && text.front() == '-' ? text.substr(1) : text;
}

std::string formatLength(double lengthMm, LengthUnit unit, bool withUnit) {
    const bool isInch = unit == LengthUnit::Inch;
    std::string text = formatNumber(isInch ? lengthMm / kMmPerInch : lengthMm, isInch ? 3 : 1);
    return withUnit ? text + (isInch ? " in" : " mm") : text;
}

std::string formatSize(double widthMm, double heightMm, LengthUnit unit) {
    return formatLength(widthMm, unit, false) + " × " + formatLength(heightMm, unit);
}

std::string counted(long long count, const std::string& thing) {
    return formatCount(count) + " " + thing + (count == 1 ? "" : "s");
}

std::string formatCount(long long value) {
    std::string digits = std::to_string(std::llabs(value));
    for (int at = static_cast<int>(digits.size()) - 3; at > 0; at -= 3)
        digits.insert(static_cast<size_t>(at), "\u2009");
    return value < 0 ? "-" + digits : digits;
}

Result<StatedSize> parseSize(std::string_view text, LengthUnit unit, LengthRange range) {
    constexpr std::string_view kTimes = "\u00d7";
    size_t at = text.find_first_of("xX"), long_ = 1;
    if (const size_t sign = text.find(kTimes); sign < at) {
        at = sign;
        long_ = kTimes.size();
    }
    if (at == text.npos)
        return Error{Code::InvalidArgument,
                     "'" + std::string(text) + "' is no size; type a width and a height like 200 x 150 mm."};
    std::string first(text.substr(0, at));
    const std::string second(text.substr(at + long_));
    constexpr const char* kOfUnits = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ\"'";
    if (const size_t named = second.find_first_of(kOfUnits);
        first.find_first_of(kOfUnits) == first.npos && named != second.npos)
        first += " " + second.substr(named);
    const auto width = parseLength(first, unit, range), height = parseLength(second, unit, range);
    if (!width || !height)
        return !width ? width.error() : height.error();
    return StatedSize{*width, *height};
}

} // namespace thinline::base
