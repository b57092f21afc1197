// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "logbook/Entry.h"

#include "base/Length.h"
#include "logbook/Fields.h"

#include <chrono>
#include <cmath>
#include <cstdio>

namespace thinline::logbook {
namespace {

using base::Code;
using base::Error;

constexpr double kMostNumber = 1e9;

template <std::size_t N>
bool takeWord(const Value& value, const std::array<const char*, N>& words, auto& into) {
    const std::string* word = std::get_if<std::string>(&value);
    const auto at = word ? std::find(words.begin(), words.end(), *word) : words.end();
    if (at == words.end())
        return false;
    into = static_cast<std::remove_reference_t<decltype(into)>>(at - words.begin());
    return true;
}

template <auto member>
constexpr Field ofText(const char* name) {
    return {name, false, [](const Entry& entry) -> Value { return entry.*member; },
            [](Entry& entry, const Value& value) {
                const std::string* text = std::get_if<std::string>(&value);
                if (text)
                    entry.*member = *text;
                return text != nullptr;
            }};
}

template <auto member>
constexpr Field ofNumber(const char* name) {
    return {name, true, [](const Entry& entry) -> Value { return static_cast<double>(entry.*member); },
            [](Entry& entry, const Value& value) {
                const double* number = std::get_if<double>(&value);
                if (!number || !(std::abs(*number) <= kMostNumber))
                    return false;
                using Kind = std::remove_reference_t<decltype(entry.*member)>;
                entry.*member = static_cast<Kind>(*number);
                return static_cast<double>(entry.*member) == *number; // 1.5 sheets are none
            }};
}

template <auto member, const auto& words>
constexpr Field ofWord(const char* name) {
    return {name, false,
            [](const Entry& entry) -> Value {
                return std::string(words[static_cast<std::size_t>(entry.*member)]);
            },
            [](Entry& entry, const Value& value) { return takeWord(value, words, entry.*member); }};
}

/// Whether a text is a time as nowWord writes it.
bool isTime(const std::string& text) {
    static const std::string pattern = "0000-00-00T00:00:00Z";
    if (text.size() != pattern.size())
        return false;
    for (std::size_t i = 0; i < text.size(); ++i)
        if (pattern[i] == '0' ? text[i] < '0' || text[i] > '9' : text[i] != pattern[i])
            return false;
    const auto number = [&](std::size_t at) { return (text[at] - '0') * 10 + text[at + 1] - '0'; };
    const std::chrono::year_month_day day{std::chrono::year{number(0) * 100 + number(2)},
                                          std::chrono::month{static_cast<unsigned>(number(5))},
                                          std::chrono::day{static_cast<unsigned>(number(8))}};
    return day.ok() && number(11) < 24 && number(14) < 60 && number(17) < 60;
}

} // namespace

const std::vector<Field>& fields() {
    static const std::vector<Field> all{
        ofText<&Entry::id>("id"),
        ofText<&Entry::when>("when"),
        ofWord<&Entry::what, kWhatWords>("what"),
        ofWord<&Entry::outcome, kOutcomeWords>("outcome"),
        ofText<&Entry::job>("job"),
        ofNumber<&Entry::load>("load"),
        ofText<&Entry::stockId>("stockId"),
        ofText<&Entry::stock>("stock"),
        ofText<&Entry::kind>("kind"),
        ofNumber<&Entry::thicknessMm>("thicknessMm"),
        ofNumber<&Entry::gramsPerM2>("gramsPerM2"),
        ofText<&Entry::machine>("machine"),
        ofWord<&Entry::blade, design::kToolWords>("blade"),
        ofNumber<&Entry::forceGf>("forceGf"),
        ofNumber<&Entry::passes>("passes"),
        ofNumber<&Entry::mmPerS>("mmPerS"),
        ofWord<&Entry::tack, design::kTackWords>("tack"),
        ofText<&Entry::mat>("mat"),
        ofNumber<&Entry::lineMm>("lineMm"),
        ofNumber<&Entry::sheets>("sheets"),
        ofNumber<&Entry::widthMm>("widthMm"),
        ofNumber<&Entry::heightMm>("heightMm"),
        ofNumber<&Entry::stepMm>("stepMm"),
        ofText<&Entry::note>("note"),
    };
    return all;
}

base::Status checkEntry(const Entry& entry) {
    constexpr std::size_t kMostWord = 200;
    if (!entry.when.empty() && !isTime(entry.when))
        return Error{Code::InvalidArgument,
                     "'" + entry.when.substr(0, 40) + "' is no time; write it like 2026-05-02T14:03:00Z."};
    for (const Field& field : fields()) {
        const Value value = field.get(entry);
        if (const double* number = std::get_if<double>(&value);
            number && !(*number >= 0 && *number <= kMostNumber))
            return Error{Code::InvalidArgument,
                         std::string("The logbook takes no such number for ") + field.name + "."};
        const std::string* text = std::get_if<std::string>(&value);
        const std::size_t most = std::string(field.name) == "note" ? kMostNote : kMostWord;
        if (text && text->size() > most)
            return Error{Code::InvalidArgument, std::string("The ") + field.name + " of an entry may have " +
                                                    std::to_string(most) + " bytes at most."};
        if (text && text->find('\0') != std::string::npos)
            return Error{Code::InvalidArgument,
                         std::string("The ") + field.name + " of an entry has a sign that is no letter."};
    }
    if ((entry.what == What::Cut || entry.what == What::Tile) &&
        (entry.forceGf <= 0 || entry.passes < 1 || !design::isBlade(entry.blade)))
        return Error{Code::InvalidArgument, "A cut is entered with its blade, its force and its passes."};
    return base::Done{};
}

std::string entryText(const Entry& entry) {
    const auto blade = [&] { return std::string(design::toolName(entry.blade)); };
    std::string out = entry.when.substr(0, 10) + (entry.when.empty() ? "" : ", ");
    if (!entry.stock.empty())
        out += entry.stock + ": ";
    switch (entry.what) {
    case What::Cut:
    case What::Tile:
        out += entry.what == What::Tile ? "test tile " : "cut ";
        out += std::string(kOutcomeWords[static_cast<std::size_t>(entry.outcome)]) + " at " +
               base::formatNumber(entry.forceGf, 0) + " gf, " + blade();
        if (entry.passes > 1)
            out += ", " + std::to_string(entry.passes) + " passes";
        break;
    case What::NewBlade:
        out += "a new " + blade();
        break;
    case What::NewMat:
        out += "a new mat";
        break;
    case What::Fit:
        out += "fitted";
        if (entry.widthMm > 0)
            out += " at " + base::formatSize(entry.widthMm, entry.heightMm, base::LengthUnit::Millimetre);
        if (entry.stepMm > 0)
            out += " with a step of " + base::formatLength(entry.stepMm, base::LengthUnit::Millimetre);
        break;
    case What::Calibration:
        out += "calibrated";
        break;
    case What::Note:
        return out + (entry.note.empty() ? "a note" : entry.note);
    }
    return entry.note.empty() ? out : out + " (" + entry.note + ")";
}

std::string timeWord(long long secondsSince1970) {
    using namespace std::chrono;
    const sys_seconds at{seconds{secondsSince1970}};
    const auto day = floor<days>(at);
    const year_month_day date{day};
    const hh_mm_ss<seconds> time{at - day};
    std::array<char, 48> out{};
    std::snprintf(out.data(), out.size(), "%04d-%02u-%02uT%02d:%02d:%02dZ", static_cast<int>(date.year()),
                  static_cast<unsigned>(date.month()), static_cast<unsigned>(date.day()),
                  static_cast<int>(time.hours().count()), static_cast<int>(time.minutes().count()),
                  static_cast<int>(time.seconds().count()));
    return out.data();
}

std::string nowWord() {
    return timeWord(
        std::chrono::duration_cast<std::chrono::seconds>(std::chrono::system_clock::now().time_since_epoch())
            .count());
}

} // namespace thinline::logbook
