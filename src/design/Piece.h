// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/PieceId.h"
#include "geometry/Lines.h"
#include "raster/Picture.h"

#include <array>
#include <memory>
#include <optional>
#include <string>
#include <variant>
#include <vector>

/// A piece and what belongs to it. Outline, lines, faces, zones and panels go through every operation together
/// (design/Carry.h): no binding step can be forgotten, because there is none.
namespace thinline::design {

/// Of a piece of card, as it lies in the design.
enum class Side { Front, Back };

// ---- lines ------------------------------------------------------------------------------------------------

/// How a line folds. How it is made (score, perforation, by hand) is chosen when the work is packed.
struct Fold {
    Side scored = Side::Front;
    bool isTowards = false; ///< towards the maker; flaps and walls usually go away from the visible face
    double angleDeg = 90;
    bool operator==(const Fold&) const = default;
};
struct Score { ///< for ornament
    bool operator==(const Score&) const = default;
};
struct Slit { ///< a cut that bounds nothing: for a ribbon, a stick, up to a fold
    bool operator==(const Slit&) const = default;
};
struct Tear { ///< a perforation meant to be torn
    double cutMm = 2, leftMm = 1.5;
    bool operator==(const Tear&) const = default;
};
struct Pen {
    std::string inkId;
    double widthMm = 0.5;
    bool operator==(const Pen&) const = default;
};
struct Placement {        ///< shows where upper pieces go
    PieceId shows;        ///< one of them
    bool isScored = true; ///< pressed in; else drawn by a pen
    bool operator==(const Placement&) const = default;
};
using LineUse = std::variant<Fold, Score, Slit, Tear, Pen, Placement>;

struct PieceLine {
    LineId id{};         ///< parts of one line keep it
    geometry::Line path; ///< mm in the design
    LineUse does;
    bool beginsAtEdge = false, endsAtEdge = false; ///< such an end follows the edge when the outline changes
    bool operator==(const PieceLine&) const = default;
};

// ---- faces, zones, panels ---------------------------------------------------------------------------------

/// What is printed on a piece: one of the things that become one picture with all others on that side of it.
struct Face {
    enum class Kind {
        Picture,
        Colour,   ///< even, all over the piece or panel
        Gradient, ///< from one colour to a second, along the place from left to right, all over the piece or panel
        Text,
        SquareCode, ///< a QR code
        LineCode,   ///< a Code 128
        Outline     ///< of another piece, filled
    };
    Kind kind = Kind::Colour;
    std::string shows = {}; ///< the id of a picture or a text of the job; what a code says
    raster::Rgb colour{};
    geometry::Transform place = {}; ///< from a unit square, its upper left corner at the origin, to the design
    Side side = Side::Front;
    raster::Rgb second{255, 255, 255};
    std::optional<geometry::Point> panel = {}; ///< mm in the design: only the panel that holds it; else the whole
    std::vector<geometry::Contour> drawn = {}; ///< of an outline, in the unit square
    int step = 0;                              ///< the number of the step that laid it; 0 for a source
    bool operator==(const Face&) const = default;
};
/// Whether it is read: it is never mirrored.
inline bool isRead(Face::Kind kind) {
    return kind == Face::Kind::Text || kind == Face::Kind::SquareCode || kind == Face::Kind::LineCode;
}
inline constexpr std::array<const char*, 7> kFaceWords{"picture",     "colour",    "gradient", "text",
                                                       "square-code", "line-code", "outline"};

/// An area of a piece where something goes, or nothing may.
struct Zone {
    /// A way is where a ribbon or a stick runs; it is kept free like what is said to be.
    enum class Kind { Glue, Foam, KeepFree, KeepWhole, Way };
    Kind kind = Kind::Glue;
    geometry::Shape area;    ///< mm in the design
    double heightMm = 0;     ///< of foam
    PieceId meets = {};      ///< what is glued to it; nothing when that is not said
    std::optional<geometry::Point> behind = {}; ///< of a flap: the middle of the edge of its own piece behind which it is glued, mm
    Side side = Side::Front; ///< the face it is on; between its slits a way runs there
    double takesMm = 0;      ///< how wide what goes through a way is
    std::string takes = {};  ///< what goes through a way: "ribbon"
    bool operator==(const Zone&) const = default;
};

/// What somebody said of a part of a piece between its folds; all the rest follows from the folds (folds/Panels.h).
struct Panel {
    geometry::Point inside;           ///< mm in the design
    std::optional<double> upRad = {}; ///< where up is once it is folded, clockwise on screen from straight up
    std::string name = {};
    bool isFront = false; ///< it is looked at from the front
    bool operator==(const Panel&) const = default;
};

// ---- pieces -----------------------------------------------------------------------------------------------

/// One connected shape and everything bound to it. Never changes once it is shared: what is known of it (necks,
/// flattened outlines, pictures) is remembered by its address.
struct Body {
    geometry::Shape shape; ///< mm in the design
    std::vector<PieceLine> lines = {};
    std::vector<Face> faces = {};
    std::vector<Zone> zones = {};
    std::vector<Panel> panels = {};

    bool isBare() const { return lines.empty() && faces.empty() && zones.empty() && panels.empty(); }
    bool operator==(const Body&) const = default;
};

struct Piece {
    PieceId id;
    std::shared_ptr<const Body> body;
    std::string name = {};               ///< how it is spoken of: "the H of HARBOUR", "area 12"
    double ownScaleX = 1, ownScaleY = 1; ///< by how much it was sized apart from the design
    geometry::Transform placed = {};     ///< from where it was found, in its source's own units, to where it
                                         ///< lies: places of a piece that are remembered go through it

    const geometry::Shape& shape() const { return body->shape; }
};

/// The pieces between two steps. What was left over waits in the scrap; nothing is lost until it is emptied.
struct Pieces {
    std::vector<Piece> now, scrap;
};

/// Returns the piece of this name, or null.
const Piece* findPiece(const std::vector<Piece>& pieces, PieceId id);

} // namespace thinline::design
