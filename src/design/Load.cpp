// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Load.h"

namespace thinline::design {

const MatFormat* Formats::mat(const std::string& id) const {
    for (const MatFormat& one : mats)
        if (one.id == id)
            return &one;
    return nullptr;
}

const SheetFormat* Formats::sheet(const std::string& id) const {
    for (const SheetFormat& one : sheets)
        if (one.id == id)
            return &one;
    return nullptr;
}

geometry::Transform placement(const geometry::Box& pieceBox, const PlacedPiece& placed) {
    const auto turned = geometry::Transform::move(pieceBox.least * -1)
                            .then(geometry::Transform::quarterTurns(placed.quarterTurns));
    geometry::Box box;
    box.include(turned(pieceBox.least));
    box.include(turned(pieceBox.most));
    return turned.then(geometry::Transform::move(geometry::Point{placed.xMm, placed.yMm} - box.least));
}

std::string operationGroup(const std::string& stockId) {
    return stockId + "-cut";
}

} // namespace thinline::design
