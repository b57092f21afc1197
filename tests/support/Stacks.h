// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Cuts.h"
#include "support/Shapes.h"

#include <stdexcept>

/// Pieces, layers and loads by hand.
namespace thinline::support {

inline design::PieceId id(const std::string& text) {
    const auto out = design::PieceId::read(text);
    if (!out)
        throw std::runtime_error(out.error().message);
    return *out;
}
/// "1:7", the seventh piece of the first source.
inline design::PieceId id(int number) {
    return design::PieceId::found(design::SourceId{1}, std::to_string(number));
}

inline std::shared_ptr<const design::Body> body(geometry::Shape shape) {
    return std::make_shared<const design::Body>(design::Body{std::move(shape)});
}
inline design::Piece piece(design::PieceId own, geometry::Shape shape) {
    return {own, body(std::move(shape))};
}

inline design::Layer layer(int number, const std::string& stockId, const std::string& name = "",
                           double liftMm = 0) {
    return {design::LayerId{number}, name, stockId, design::Layer::At::Front, liftMm, false};
}
inline design::Laid laid(design::PieceId own, geometry::Shape shape, int inLayer = 1, int copies = 1) {
    return {piece(own, std::move(shape)), design::LayerId{inLayer}, copies};
}
inline design::Laid laid(int number, geometry::Shape shape, int inLayer = 1, int copies = 1) {
    return laid(id(number), std::move(shape), inLayer, copies);
}

/// A copy whose box, so turned, has its corner there.
inline design::PlacedPiece placed(const design::Stack& stack, design::PieceId own, int copy,
                                  geometry::Point corner, double turnRad = 0, bool isPinned = false) {
    return {{own, copy}, design::poseAtCorner(stack.find(own)->piece, corner, turnRad), isPinned};
}

} // namespace thinline::support
