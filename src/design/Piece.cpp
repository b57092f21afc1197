// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Piece.h"

#include <algorithm>

namespace thinline::design {

const Piece* findPiece(const std::vector<Piece>& pieces, PieceId id) {
    const auto at = std::find_if(pieces.begin(), pieces.end(), [id](const Piece& p) { return p.id == id; });
    return at == pieces.end() ? nullptr : &*at;
}

} // namespace thinline::design
