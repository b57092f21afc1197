// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Slots.h"

#include <algorithm>

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

} // namespace

base::Result<std::vector<std::string>> namesOf(const std::string& list) {
    constexpr const char* kByteOrderMark = "\xEF\xBB\xBF";
    std::string text = list.starts_with(kByteOrderMark) ? list.substr(3) : list;
    std::vector<std::string> out;
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
        out.push_back(name);
        if (out.size() > kMostNames)
            return Error{Code::LimitExceeded,
                         "The list has more than " + std::to_string(kMostNames) + " names; part it."};
    }
    if (out.empty())
        return Error{Code::InvalidArgument, "There are no names in the list; write one a line."};
    return out;
}

base::Result<SourceId> slotOf(const Job& job, std::optional<SourceId> said) {
    std::vector<SourceId> words;
    std::string known;
    for (const auto& source : job.sources)
        if (asA<Word>(source.get())) {
            words.push_back(source->id);
            known +=
                (known.empty() ? "" : ", ") + std::to_string(numberOf(source->id)) + " is " + source->name();
        }
    if (words.empty())
        return Error{Code::NotFound, "There is no word in this design to put names in; set one at Source."};
    if (said) {
        if (std::find(words.begin(), words.end(), *said) == words.end())
            return Error{Code::NotFound,
                         "Source " + std::to_string(numberOf(*said)) + " is no word; " + known + "."};
        return *said;
    }
    if (words.size() > 1)
        return Error{Code::InvalidArgument,
                     "There are several words in this design; say which one is replaced: " + known + "."};
    return words.front();
}

base::Result<Job> withSlotFilled(const Job& job, SourceId id, const std::string& text,
                                 const base::FontStore& fonts, const base::Progress& progress) {
    const Source* source = findSource(job, id);
    const Word* word = asA<Word>(source);
    if (!word)
        return Error{Code::NotFound, "That word is not in this job any more."};
    const double room = source->box().width();
    lettering::Recipe recipe = word->recipe;
    recipe.text = text;
    if (recipe.sizeBy == lettering::SizeBy::Width && word->letters) {
        // As high as the old word came out, not as wide.
        const auto set = lettering::setWord(*word->letters, unstretched(word->recipe, source->stretchY));
        if (!set)
            return set.error();
        recipe.sizeBy = lettering::SizeBy::CapHeight;
        recipe.sizeMm = set->capHeightMm * source->stretchY;
    }
    auto filled = withWordChanged(job, id, recipe, fonts, progress);
    if (!filled)
        return filled.error();
    constexpr double kSameMm = 0.01;
    if (findSource(filled->job, id)->box().width() <= room + kSameMm)
        return filled.take().job;
    recipe.sizeBy = lettering::SizeBy::Width;
    recipe.sizeMm = room;
    auto fitted = withWordChanged(job, id, recipe, fonts, progress);
    return fitted ? base::Result<Job>(fitted.take().job) : fitted.error();
}

} // namespace thinline::job
