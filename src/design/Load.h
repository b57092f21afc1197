// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Stack.h"

#include <map>
#include <string>
#include <utility>
#include <vector>

/// Mats, sheets and what lies where. All lengths in mm.
namespace thinline::design {

/// A sticky carrier. Its margin is lost to the rollers on every edge.
struct MatFormat {
    std::string id;   ///< "square12"
    std::string name; ///< "12 × 12 in"
    double widthMm = 0;
    double heightMm = 0;
    double marginMm = 0;

    double usableWidthMm() const { return widthMm - 2 * marginMm; }
    double usableHeightMm() const { return heightMm - 2 * marginMm; }
    bool operator==(const MatFormat&) const = default;
};

/// A rectangle of stock as it is bought or cut to size. Its margin stays free of cuts on every edge.
struct SheetFormat {
    std::string id;
    std::string name;
    double widthMm = 0;
    double heightMm = 0;
    double marginMm = 0;

    double usableWidthMm() const { return widthMm - 2 * marginMm; }
    double usableHeightMm() const { return heightMm - 2 * marginMm; }
    bool operator==(const SheetFormat&) const = default;
};

/// The mats and sheets the program knows; read from data, see document/Catalogue.
struct Formats {
    std::vector<MatFormat> mats;
    std::vector<SheetFormat> sheets;

    const MatFormat* mat(const std::string& id) const;
    const SheetFormat* sheet(const std::string& id) const;
};

/// One copy of one piece.
struct CopyOf {
    PieceId piece = 0;
    int copy = 0; ///< 0 for the first
    auto operator<=>(const CopyOf&) const = default;
};

/// A copy at its place: the piece is turned freely, then by quarters, then its box's upper left corner is put
/// at (xMm, yMm) of the mat.
struct PlacedPiece {
    CopyOf what;
    double xMm = 0;
    double yMm = 0;
    int quarterTurns = 0;
    bool isPinned = false; ///< laid by hand; the program does not move it
    double turnRad = 0;    ///< the free turn, clockwise on screen; 0 for pieces that fit straight

    bool operator==(const PlacedPiece&) const = default;
};

/// A sheet on a mat.
struct PlacedSheet {
    std::string stockId;
    double xMm = 0, yMm = 0;          ///< upper left corner on the mat
    double widthMm = 0, heightMm = 0; ///< as it lies, after turning
    double marginMm = 0;
    std::vector<PlacedPiece> pieces;

    bool operator==(const PlacedSheet&) const = default;
};

/// One mat as it goes through the machine.
struct Load {
    MatFormat mat;
    std::vector<PlacedSheet> sheets;

    bool operator==(const Load&) const = default;
};

/// Every load of a job, and what could not be placed.
struct Arrangement {
    std::vector<Load> loads;
    std::vector<CopyOf> unplaced; ///< larger than every place the chosen mat and sheet offer

    bool operator==(const Arrangement&) const = default;
};

/// Returns the map from the piece's own place in the design to its place on the mat.
/// Cost: O(nodes) for a freely turned piece, else that of its box.
geometry::Transform placement(const geometry::Shape& shape, const PlacedPiece& placed);

/// Returns "cut" groups' name within a load: "sea-cut".
std::string operationGroup(const std::string& stockId);

} // namespace thinline::design
