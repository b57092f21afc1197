// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Load.h"

#include "geometry/Placing.h"

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

geometry::Transform placement(const geometry::Shape& shape, const PlacedPiece& placed) {
    geometry::Transform free;
    if (placed.turnRad != 0)
        free = geometry::turnAbout({}, placed.turnRad);
    const geometry::Box pieceBox =
        geometry::bounds(placed.turnRad != 0 ? geometry::transformed(shape, free) : shape);
    const auto turned = free.then(geometry::Transform::move(pieceBox.least * -1))
                            .then(geometry::Transform::quarterTurns(placed.quarterTurns));
    const auto quarters = geometry::Transform::quarterTurns(placed.quarterTurns);
    geometry::Box box;
    box.include(quarters({}));
    box.include(quarters(pieceBox.most - pieceBox.least));
    return turned.then(geometry::Transform::move(geometry::Point{placed.xMm, placed.yMm} - box.least));
}

std::string operationGroup(const std::string& stockId) {
    return stockId + "-cut";
}

} // namespace thinline::design
