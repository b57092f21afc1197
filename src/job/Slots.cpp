// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Slots.h"

#include "job/Constructions.h"
#include "job/PrintSteps.h"
#include "print/Codes.h"
#include "print/Steps.h"

#include <algorithm>
#include <cctype>
#include <cmath>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;

/// The first cell of a line of a table.
std::string firstCell(const std::string& line) {
    std::string out;
    bool isQuoted = false;
    for (size_t i = 0; i < line.size(); ++i) {
        const char c = line[i];
        if (c == '"') {
            if (isQuoted && i + 1 < line.size() && line[i + 1] == '"')
                out += line[++i];
            else
                isQuoted = !isQuoted;
        } else if (!isQuoted && (c == ',' || c == ';' || c == '\t')) {
            break;
        } else {
            out += c;
        }
    }
    const auto from = out.find_first_not_of(" \t\r"), to = out.find_last_not_of(" \t\r");
    return from == std::string::npos ? "" : out.substr(from, to - from + 1);
}

/// Whether a line says what the column below it holds.
bool isHeading(std::string words) {
    for (char& c : words)
        c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return words == "name" || words == "names" || words == "word" || words == "words" || words == "text";
}

Error gone() {
    return {Code::NotFound, "That word is not in this job any more."};
}

/// What a printing step shows that is read: "text TIDE", "square code quay 4"; nothing for any other step.
std::optional<std::string> printedIn(const Job& job, const design::Step& step) {
    const auto* info = print::infoOf(step);
    if (!info || info->action == print::Action::TakeOff)
        return std::nullopt;
    const auto kind = static_cast<design::Face::Kind>(info->action);
    const auto at = step.values.find("shows");
    const auto* shows = at == step.values.end() ? nullptr : std::get_if<std::string>(&at->second);
    if (!shows || !design::isRead(kind))
        return std::nullopt;
    if (kind != design::Face::Kind::Text)
        return (kind == design::Face::Kind::SquareCode ? "square code " : "line code ") + *shows;
    const auto number = artNumber(*shows);
    const auto art = number ? job.art.find(*number) : job.art.end();
    if (art == job.art.end())
        return std::nullopt;
    const auto* text = std::get_if<PrintedText>(&art->second->what);
    return text ? std::optional("text " + text->text) : std::nullopt;
}

/// Where a step prints, from a unit square; in its source's own units.
std::optional<geometry::Transform> placeOf(const design::Step& step) {
    const auto point = [&](const char* name) {
        const auto at = step.values.find(name);
        return at == step.values.end() ? nullptr : std::get_if<geometry::Point>(&at->second);
    };
    const auto *corner = point("corner"), *right = point("right"), *down = point("down");
    if (!corner || !right || !down)
        return std::nullopt;
    const geometry::Point across = *right - *corner, along = *down - *corner;
    return geometry::Transform{across.x, across.y, along.x, along.y, corner->x, corner->y};
}

/// The unit square of the new ink in that of the old: capitals as high, on the same line about the same middle; smaller where
/// it would come out wider.
geometry::Transform inPlaceOf(const geometry::Box& before, const geometry::Box& now) {
    const double fits = std::min(1.0, before.width() / now.width());
    const auto square = [](const geometry::Box& box) {
        return geometry::Transform{box.width(), 0, 0, box.height(), box.least.x, box.least.y};
    };
    return square(now).then(geometry::Transform::scale(fits, fits)).then(geometry::inverse(square(before)));
}

base::Result<Job> withPrintFilled(const Job& job, design::StepId id, const std::string& text,
                                  const base::FontStore& fonts) {
    const auto at =
        std::find_if(job.steps.begin(), job.steps.end(), [&](const auto& step) { return step->id == id; });
    if (at == job.steps.end() || !printedIn(job, **at))
        return gone();
    Job out = job;
    design::Step step = **at;
    const auto kind = static_cast<design::Face::Kind>(print::infoOf(step)->action);
    if (kind == design::Face::Kind::Text) {
        const std::string shows = std::get<std::string>(step.values.at("shows"));
        const PrintedText before = std::get<PrintedText>(job.art.at(*artNumber(shows))->what);
        const auto place = placeOf(step);
        auto art = printedText(text, before.font, fonts);
        if (!art || !place)
            return art ? gone() : art.error();
        const auto was = inkOf(*before.letters), now = inkOf(*art->letters);
        if (!was || !now)
            return was ? now.error() : was.error();
        const geometry::Transform laid = inPlaceOf(*was, *now).then(*place);
        const bool isShownElsewhere = std::any_of(out.steps.begin(), out.steps.end(), [&](const auto& other) {
            const auto what = other->values.find("shows");
            return other->id != id && what != other->values.end() && what->second == design::Value(shows);
        });
        if (!isShownElsewhere)
            out.art.erase(*artNumber(shows));
        step.values["shows"] = addArt(out, {art.take()});
        step.values["corner"] = laid({0, 0});
        step.values["right"] = laid({1, 0});
        step.values["down"] = laid({0, 1});
    } else {
        const auto code = print::codeOf(kind, text);
        if (!code)
            return code.error();
        step.values["shows"] = text;
    }
    out.steps[static_cast<size_t>(at - job.steps.begin())] =
        std::make_shared<const design::Step>(std::move(step));
    return out;
}

base::Result<Job> withWordFilled(const Job& job, const Source& source, const Word& word,
                                 const std::string& text, const base::FontStore& fonts,
                                 const base::Progress& progress) {
    const double room = source.box().width();
    lettering::Recipe recipe = word.recipe;
    recipe.text = text;
    if (recipe.sizeBy == lettering::SizeBy::Width && word.letters) {
        // As high as the old word came out, not as wide.
        const auto set = lettering::setWord(*word.letters, unstretched(word.recipe, source.stretchY));
        if (!set)
            return set.error();
        recipe.sizeBy = lettering::SizeBy::CapHeight;
        recipe.sizeMm = set->capHeightMm * source.stretchY;
    }
    auto filled = withWordChanged(job, source.id, recipe, fonts, progress);
    if (!filled)
        return filled.error();
    constexpr double kSameMm = 0.01;
    if (findSource(filled->job, source.id)->box().width() <= room + kSameMm)
        return filled.take().job;
    recipe.sizeBy = lettering::SizeBy::Width;
    recipe.sizeMm = room;
    auto fitted = withWordChanged(job, source.id, recipe, fonts, progress);
    return fitted ? base::Result<Job>(fitted.take().job) : fitted.error();
}

} // namespace

base::Result<Names> namesOf(const std::string& list) {
    constexpr const char* kByteOrderMark = "\xEF\xBB\xBF";
    std::string text = list.starts_with(kByteOrderMark) ? list.substr(3) : list;
    Names out;
    size_t number = 0;
    for (size_t from = 0; from < text.size(); ++number) {
        const size_t to = std::min(text.find('\n', from), text.size());
        const std::string name = firstCell(text.substr(from, to - from));
        from = to + 1;
        if (name.empty())
            continue;
        if (name.size() > lettering::kMostTextBytes)
            return Error{Code::LimitExceeded, "Line " + std::to_string(number + 1) +
                                                  " of the list is too long for a word; up to " +
                                                  std::to_string(lettering::kMostTextBytes) +
                                                  " letters can be set."};
        if (out.all.empty() && out.heading.empty() && isHeading(name)) {
            out.heading = name;
            continue;
        }
        out.all.push_back(name);
        if (out.all.size() > kMostNames)
            return Error{Code::LimitExceeded,
                         "The list has more than " + std::to_string(kMostNames) + " names; part it."};
    }
    if (out.all.empty())
        return Error{Code::InvalidArgument, "There are no names in the list; write one a line."};
    return out;
}

std::vector<NamedSlot> slotsOf(const Job& job) {
    std::vector<NamedSlot> out;
    for (const auto& source : job.sources) {
        const auto* made = asA<Construction>(source.get());
        const auto* one = made ? construct::constructionNamed(made->given.name) : nullptr;
        if (asA<Word>(source.get()) || (one && one->word))
            out.push_back({{source->id, {}}, source->name(), std::to_string(numberOf(source->id))});
    }
    for (const auto& step : job.steps)
        if (const auto text = printedIn(job, *step))
            out.push_back(
                {{{}, step->id}, "the printed " + *text, "print " + std::to_string(numberOf(step->id))});
    return out;
}

base::Result<NamedSlot> slotOf(const Job& job, const std::optional<std::string>& number) {
    const std::vector<NamedSlot> all = slotsOf(job);
    std::string known;
    for (const NamedSlot& one : all)
        known += (known.empty() ? "" : ", ") + one.number + " is " + one.called;
    if (all.empty())
        return Error{Code::NotFound,
                     "There is no word in this design to put names in; set one at Source, or print one."};
    if (number) {
        const auto at =
            std::find_if(all.begin(), all.end(), [&](const NamedSlot& one) { return one.number == *number; });
        if (at == all.end())
            return Error{Code::NotFound, "There is no word of the number " + *number + "; " + known + "."};
        return *at;
    }
    if (all.size() > 1)
        return Error{Code::InvalidArgument,
                     "There are several words in this design; say which one is replaced: " + known + "."};
    return all.front();
}

base::Result<Job> withSlotFilled(const Job& job, const Slot& slot, const std::string& text,
                                 const base::FontStore& fonts, const base::Progress& progress) {
    const Source* source = findSource(job, slot.source);
    if (slot.print != design::StepId{})
        return withPrintFilled(job, slot.print, text, fonts);
    if (const auto* word = asA<Word>(source))
        return withWordFilled(job, *source, *word, text, fonts, progress);
    if (const auto* made = asA<Construction>(source)) {
        construct::Given given = made->given;
        given.word = text;
        auto filled = withConstructionChanged(job, slot.source, std::move(given), fonts, progress);
        return filled ? base::Result<Job>(filled.take().job) : filled.error();
    }
    return gone();
}

double slotWidthMm(const Job& job, const Slot& slot) {
    if (const Source* source = findSource(job, slot.source))
        return source->box().width();
    for (const auto& step : job.steps)
        if (step->id == slot.print)
            if (const auto place = placeOf(*step))
                return std::hypot(place->a, place->b);
    return 0;
}

} // namespace thinline::job
