// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Load.h"

#include "geometry/Measures.h"
#include "geometry/Placing.h"

#include <cmath>
#include <numbers>

namespace thinline::design {
namespace {

using geometry::Point;
using geometry::Transform;

/// A turn about the origin, whole quarters exact.
Transform turned(double turnRad) {
    const double quarters = turnRad / (std::numbers::pi / 2), whole = std::round(quarters);
    constexpr double kExact = 1e-12;
    return std::abs(quarters - whole) < kExact ? Transform::quarterTurns(static_cast<int>(whole))
                                               : geometry::turnAbout({}, turnRad);
}

/// Flipped and turned, held at `held` of the design, which lies at the origin then.
Transform aroundHeld(Point held, double turnRad, bool isFlipped) {
    return Transform::move(held * -1).then(turnedOver(turnRad, isFlipped));
}

} // namespace

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

Transform turnedOver(double turnRad, bool isFlipped) {
    return Transform::scale(isFlipped ? -1 : 1, 1).then(turned(turnRad));
}

Transform placement(const Piece& piece, const Pose& pose) {
    return aroundHeld(piece.placed(pose.held), pose.turnRad, pose.isFlipped).then(Transform::move(pose.at));
}

Pose poseAtCorner(const Piece& piece, Point corner, double turnRad, bool isFlipped) {
    const Point held = geometry::enclosingCircle({piece.shape()}).centre;
    const auto map = aroundHeld(held, turnRad, isFlipped);
    const geometry::Box box = geometry::bounds(geometry::transformed(piece.shape(), map));
    return {geometry::inverse(piece.placed)(held), corner - box.least, turnRad, isFlipped};
}

Pose poseIn(const Piece& piece, const Transform& map, double turnRad, bool isFlipped) {
    const Point held = geometry::enclosingCircle({piece.shape()}).centre;
    return {geometry::inverse(piece.placed)(held), map(held), turnRad, isFlipped};
}

Pose turnedByQuarter(Pose pose, double heightMm) {
    pose.at = {heightMm - pose.at.y, pose.at.x};
    pose.turnRad += std::numbers::pi / 2;
    return pose;
}

Pose turnedBack(Pose pose, double widthMm) {
    pose.at = {pose.at.y, widthMm - pose.at.x};
    pose.turnRad -= std::numbers::pi / 2;
    return pose;
}

std::string tapedText(const PlacedSheet& sheet) {
    return sheet.isPair() ? "two taped edge to edge; the tape is on their backs, which lie up" : "";
}

geometry::Polygons outlineOf(const PlacedSheet& sheet) {
    const geometry::Point corner{sheet.xMm, sheet.yMm}, wide{sheet.widthMm, 0}, high{0, sheet.heightMm};
    if (sheet.outline.empty())
        return {{corner, corner + wide, corner + wide + high, corner + high}};
    geometry::Polygons out = sheet.outline;
    for (geometry::Polygon& ring : out)
        for (geometry::Point& p : ring)
            p = p + corner;
    return out;
}

std::set<PieceId> flippedIn(const Arrangement& arrangement) {
    std::set<PieceId> out;
    for (const Load& load : arrangement.loads)
        for (const PlacedSheet& sheet : load.sheets)
            for (const PlacedPiece& placed : sheet.pieces)
                if (placed.pose.isFlipped)
                    out.insert(placed.what.piece);
    return out;
}

} // namespace thinline::design
