// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Stack.h"

#include <array>
#include <set>

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

/// How whole sheets are laid on a mat.
struct SheetLie {
    enum class From {
        UpperLeft,
        UpperRight,
        LowerLeft,
        LowerRight
    } from = From::UpperLeft; ///< the corner they begin at
    enum class Way { AsMostFit, Portrait, Landscape } way = Way::AsMostFit;
    bool operator==(const SheetLie&) const = default;
};
inline constexpr std::array<const char*, 4> kSheetFromWords{"upper-left", "upper-right", "lower-left",
                                                            "lower-right"};
inline constexpr std::array<const char*, 3> kSheetWayWords{"as-most-fit", "portrait", "landscape"};

/// A rectangle of stock as it is bought or cut to size. Its margin stays free of cuts on every edge.
struct SheetFormat {
    std::string id;
    std::string name;
    double widthMm = 0;
    double heightMm = 0;
    double marginMm = 0;
    SheetLie lies = {};
    bool inPairs = false; ///< two are taped together edge to edge and cut across the join, see Join

    double usableWidthMm() const { return widthMm - 2 * marginMm; }
    double usableHeightMm() const { return heightMm - 2 * marginMm; }
    bool operator==(const SheetFormat&) const = default;
};

/// Whether a sheet on a mat is two that are taped together, and how the join runs through their middle: upright between one on
/// the left and one on the right, level between one above and one below. The taped face lies up and is their back, so that
/// pieces lie on them flipped over.
enum class Join { None, Upright, Level };
inline constexpr std::array<const char*, 3> kJoinWords{"none", "upright", "level"};

/// A piece of card that is there, of any outline. All lengths in mm.
struct Scrap {
    int id = 0; ///< of its job, never given twice
    std::string stockId;
    std::string name;
    geometry::Polygons
        rings; ///< the outline clockwise on screen, openings the other way; its box begins at (0, 0)
    double marginMm = 3;                    ///< stays free of cuts along its edges
    std::optional<geometry::Point> at = {}; ///< where its box begins on the mat it already lies on
    std::string mat = {};                   ///< which mat that is: those of one name lie on one
    int drawerId = 0;                       ///< its number in the drawer it was taken from; 0: from none

    bool operator==(const Scrap&) const = default;
};

/// The mats and sheets the program knows; read from data, see job/Catalogue.
struct Formats {
    std::vector<MatFormat> mats;
    std::vector<SheetFormat> sheets;

    const MatFormat* mat(const std::string& id) const;
    const SheetFormat* sheet(const std::string& id) const;
};

/// One copy of one piece.
struct CopyOf {
    PieceId piece;
    int copy = 0; ///< 0 for the first
    auto operator<=>(const CopyOf&) const = default;
};

/// How a piece lies on something: held at one of its own points, flipped over if at all, then turned, then that
/// point is put at its place. So an outline that is edited elsewhere does not slide.
struct Pose {
    geometry::Point held; ///< in the own units of the piece's source, see Piece::placed
    geometry::Point at;   ///< where that point lies
    double turnRad = 0;   ///< clockwise on screen; whole quarters are exact
    bool isFlipped = false;

    bool operator==(const Pose&) const = default;
};

/// Returns the map that flips, if asked, and then turns about the origin; whole quarters are exact.
geometry::Transform turnedOver(double turnRad, bool isFlipped);
/// Returns the map from where a piece lies in the design to where its pose puts it.
geometry::Transform placement(const Piece& piece, const Pose& pose);
/// Returns the pose in which the box of a piece so turned has its upper left corner at `corner`; the piece is
/// held at the middle of its smallest circle.
Pose poseAtCorner(const Piece& piece, geometry::Point corner, double turnRad, bool isFlipped = false);

/// Returns the pose in which a piece lies when the design is mapped so; `isFlipped` and `turnRad` are the map's.
Pose poseIn(const Piece& piece, const geometry::Transform& map, double turnRad, bool isFlipped);

/// The same pose on a card turned by a quarter, clockwise on screen, that is so high before; and back from one so wide.
Pose turnedByQuarter(Pose pose, double heightMm);
Pose turnedBack(Pose pose, double widthMm);

/// A copy at its place on a mat.
struct PlacedPiece {
    CopyOf what;
    Pose pose;             ///< on the mat
    bool isPinned = false; ///< laid by hand; the program does not move it

    bool operator==(const PlacedPiece&) const = default;
};

/// A sheet on a mat.
struct PlacedSheet {
    std::string stockId;
    double xMm = 0, yMm = 0;          ///< upper left corner on the mat
    double widthMm = 0, heightMm = 0; ///< as it lies, after turning
    double marginMm = 0;
    std::vector<PlacedPiece> pieces;
    bool isScrap = false;            ///< cut to this size from a sheet, to lie on a mat with others
    int scrapId = 0;                 ///< of the piece of card that it is, see Scrap; 0 for a sheet
    bool isTurned = false;           ///< that piece lies turned by a quarter, clockwise on screen
    geometry::Polygons outline = {}; ///< as it lies, from the corner; empty for a rectangle
    Join join = Join::None;          ///< of two taped together

    bool isPair() const { return join != Join::None; }
    /// The sheets it is made of, and the size of one of them as it lies.
    int count() const { return isPair() ? 2 : 1; }
    double oneWidthMm() const { return join == Join::Upright ? widthMm / 2 : widthMm; }
    double oneHeightMm() const { return join == Join::Level ? heightMm / 2 : heightMm; }
    bool operator==(const PlacedSheet&) const = default;
};

/// Whether a piece lies flipped over: it shows its back in the work, or the card lies face down; if both, it does not.
inline bool liesFlipped(const Laid& laid, bool isCardFaceDown) {
    return (laid.up == Side::Back) != isCardFaceDown;
}

/// Returns how two sheets that are taped together lie, in words; nothing for one: "two taped edge to edge; the tape is on
/// their backs, which lie up".
std::string tapedText(const PlacedSheet& sheet);

/// The edges of a sheet or scrap where it lies on its mat.
geometry::Polygons outlineOf(const PlacedSheet& sheet);

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

/// Returns the pieces of which some copy lies flipped over on its mat.
std::set<PieceId> flippedIn(const Arrangement& arrangement);

/// How folds are made. The fold is the design's; this is the cutter's choice.
enum class FoldsAs { Score, Perforation, Hand };
inline constexpr std::array<const char*, 3> kFoldsAsWords{"score", "perforation", "hand"};

} // namespace thinline::design
