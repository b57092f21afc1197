// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Step.h"

#include <algorithm>

namespace thinline::design {
namespace {

void resolve(PieceId wanted, const std::vector<Piece>& pieces, std::vector<PieceId>& out) {
    if (findPiece(pieces, wanted)) {
        out.push_back(wanted);
        return;
    }
    for (const Piece& piece : pieces)
        if (piece.id.isPartOf(wanted))
            out.push_back(piece.id);
}

/// The piece as its source found it, when `id` is that one or a part of it.
PieceId foundOne(PieceId id) {
    PieceId first = id;
    while (!first.isFound())
        first = first.whole();
    return id == first || id.isPartOf(first) ? first : PieceId{};
}

} // namespace

std::vector<PieceId> resolved(const std::vector<Chosen>& chosen, const std::vector<Piece>& pieces) {
    std::vector<PieceId> all;
    for (const Chosen& one : chosen) {
        if (const auto* piece = std::get_if<PieceId>(&one))
            resolve(*piece, pieces, all);
        else if (const auto* line = std::get_if<LineOf>(&one))
            resolve(line->piece, pieces, all);
        else if (const auto* opening = std::get_if<OpeningOf>(&one))
            resolve(opening->piece, pieces, all);
        else
            for (const Piece& there : pieces)
                if (there.id.source() == std::get<EveryPieceOf>(one).source && foundOne(there.id))
                    all.push_back(there.id);
    }
    std::vector<PieceId> out;
    for (const PieceId id : all)
        if (std::find(out.begin(), out.end(), id) == out.end())
            out.push_back(id);
    return out;
}

const Piece* resolved(PieceId wanted, const std::vector<Piece>& pieces) {
    std::vector<PieceId> ids;
    resolve(wanted, pieces, ids);
    return ids.empty() ? nullptr : findPiece(pieces, ids.front());
}

} // namespace thinline::design
