// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Measures.h"
#include "shape/Steps.h"

#include <algorithm>

namespace thinline::shape {

base::Result<OutcomeNumbers> numbersOf(const Pieces& before, const Step& step, const Outcome& outcome,
                                       const base::Progress& progress) {
    OutcomeNumbers out;
    const std::vector<PieceId> pieces = design::resolved(step.on, before.now);
    const auto isAmong = [](const std::vector<PieceId>& all, PieceId id) {
        return std::find(all.begin(), all.end(), id) != all.end();
    };
    for (const design::Piece& piece : before.now)
        if (isAmong(pieces, piece.id)) {
            ++out.piecesBefore;
            out.nodesBefore += geometry::nodeCount(piece.shape());
        }
    std::vector<geometry::Shape> made;
    for (const design::Piece& piece : outcome.pieces.now)
        if (isAmong(outcome.made, piece.id) || isAmong(pieces, piece.id)) { // twins leave their originals
            ++out.piecesAfter;
            out.nodesAfter += geometry::nodeCount(piece.shape());
            made.push_back(piece.shape());
            auto neck = geometry::narrowestNeck(piece.shape(), progress);
            if (!neck)
                return neck.error();
            if (*neck && (!out.narrowest || (*neck)->widthMm < out.narrowest->widthMm))
                out.narrowest = **neck;
        }
    if (made.empty())
        return out;
    const auto groups = geometry::connectedGroups(made, progress);
    if (!groups)
        return groups.error();
    out.looseParts = *std::max_element(groups->begin(), groups->end()) + 1;
    return out;
}

} // namespace thinline::shape
