// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "batch/Names.h"

#include "batch/Session.h"
#include "design/Step.h"
#include "job/Source.h"

#include <algorithm>
#include <charconv>

namespace thinline::batch {
namespace {

using base::Code;
using base::Error;
using design::PieceId;
using Ids = std::vector<PieceId>;

std::string trimmed(const std::string& text) {
    const auto from = text.find_first_not_of(' '), to = text.find_last_not_of(' ');
    return from == std::string::npos ? "" : text.substr(from, to - from + 1);
}

/// A list for a sentence, cut off where it gets long.
std::string listOf(const std::vector<std::string>& words) {
    constexpr size_t kMost = 12;
    std::string out;
    for (size_t i = 0; i < std::min(words.size(), kMost); ++i)
        out += (i ? ", " : "") + words[i];
    return out + (words.size() > kMost ? ", ..." : "");
}

base::Result<Ids> piecesOfOne(const job::State& state, const std::string& text) {
    const design::Stack& work = *state.made.work();
    Ids out;
    if (text == "all") {
        for (const design::Laid& laid : work.pieces)
            out.push_back(laid.id());
        return out;
    }
    if (const auto id = PieceId::read(text)) {
        std::vector<design::Piece> pieces;
        for (const design::Laid& laid : work.pieces)
            pieces.push_back(laid.piece);
        if (out = design::resolved(std::vector<design::Chosen>{*id}, pieces); !out.empty())
            return out;
    }
    for (const design::Layer& layer : work.layers)
        if (text == design::layerName(work, layer) || text == design::layerGroup(work, layer)) {
            for (const design::Laid* laid : work.in(layer.id))
                out.push_back(laid->id());
            return out;
        }
    for (const design::Laid& laid : work.pieces)
        if (text == laid.piece.name || text == design::pieceName(work, laid))
            out.push_back(laid.id());
    if (out.size() > 1) {
        std::vector<std::string> ids;
        for (const PieceId id : out)
            ids.push_back(id.text());
        return Error{Code::InvalidArgument,
                     "'" + text + "' may be any of " + listOf(ids) + "; say which by its id."};
    }
    if (out.empty())
        return Error{Code::NotFound, "There is no piece and no layer called '" + text +
                                         "'; 'thinline-batch show' tells what there is."};
    return out;
}

} // namespace

base::Result<design::FoldsAs> foldsAsCalled(const std::string& word) {
    for (size_t i = 0; i < design::kFoldsAsWords.size(); ++i)
        if (word == design::kFoldsAsWords[i])
            return static_cast<design::FoldsAs>(i);
    return Error{Code::InvalidArgument,
                 "Folds cannot be made as '" + word + "'; choose score, perforation or hand."};
}

std::string nameOf(const job::State& state, const design::Layer& layer) {
    const design::Stack* work = state.made.work();
    return work && work->layer(layer.id) ? design::layerName(*work, layer)
                                         : design::layerName({state.job.stocks, state.job.layers, {}}, layer);
}

base::Result<Ids> piecesCalled(const job::State& state, const std::string& text) {
    if (!state.made.work())
        return Error{Code::Degenerate, "This job has no pieces yet."};
    auto whole = piecesOfOne(state, trimmed(text)); // names may hold commas
    if (whole || whole.error().code != Code::NotFound || text.find(',') == std::string::npos)
        return whole;
    Ids out;
    for (const std::string& word : partedByCommas(text)) {
        auto some = piecesOfOne(state, trimmed(word));
        if (!some)
            return some.error();
        for (const PieceId id : *some)
            if (std::find(out.begin(), out.end(), id) == out.end())
                out.push_back(id);
    }
    return out;
}

base::Result<design::LayerId> layerCalled(const job::State& state, const std::string& text) {
    std::vector<design::LayerId> found;
    std::vector<std::string> names;
    int number = 0;
    const auto [end, code] = std::from_chars(text.data(), text.data() + text.size(), number);
    const bool isNumber = code == std::errc() && end == text.data() + text.size();
    for (const design::Layer& layer : state.job.layers) {
        names.push_back(nameOf(state, layer));
        if ((isNumber && numberOf(layer.id) == number) || names.back() == text)
            found.push_back(layer.id);
    }
    if (found.size() > 1)
        return Error{Code::InvalidArgument, "Two layers are called '" + text + "'; say which by its number."};
    if (found.empty())
        return Error{Code::NotFound, "There is no layer '" + text + "'; there are " + listOf(names) + "."};
    return found.front();
}

base::Result<design::SourceId> sourceCalled(const job::State& state, const std::string& text) {
    std::vector<design::SourceId> out;
    std::vector<std::string> known;
    for (const auto& source : state.job.sources) {
        const std::string number = std::to_string(numberOf(source->id));
        if (text == number)
            return source->id;
        if (text == source->name())
            out.push_back(source->id);
        known.push_back(number + " (" + source->name() + ")");
    }
    if (out.size() > 1)
        return Error{Code::InvalidArgument,
                     "'" + text + "' may be any of " + listOf(known) + "; say its number."};
    if (out.empty())
        return Error{Code::NotFound,
                     "There is no source '" + text + "'" +
                         (known.empty() ? " in this job." : "; there are " + listOf(known) + ".")};
    return out.front();
}

} // namespace thinline::batch
