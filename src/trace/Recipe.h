// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"
#include "raster/Picture.h"

#include <optional>
#include <vector>

namespace thinline::trace {

/// What kind of picture is traced.
enum class Mode { LineDrawing, FlatArt, Photo };

/// How the pieces of a line drawing lie.
enum class Build {
    AreasOnBacking, ///< every area a piece on the filled silhouette of the ink
    InkOnTop        ///< the ink with its openings above, the areas below running on under its lines
};

/// How the layers of flat art lie.
enum class Stacking {
    Inlay,  ///< edge to edge, on the same sheet
    Stacked ///< an upper piece on a lower one, which runs on under it by the tuck
};

/// What a part of the picture is in which all colours are darker by one factor.
enum class DarkPart {
    Unsaid, ///< a shadow where no paint does this, and over the paper of a line drawing; else paint, and the person is asked
    Shadow,
    Paint
};

/// A line of ink the person adds to close a gap, in pixels of the picture.
struct ClosingLine {
    geometry::Point from;
    geometry::Point to;
    double widthPx = 3;

    bool operator==(const ClosingLine&) const = default;
};

/// A part of the picture that is taken out before it is looked at, in pixels. The artwork itself stays whole.
struct Erasure {
    enum class Kind {
        Rectangle, ///< between two corners, or within four
        Brush,     ///< along a line, `widthPx` wide
        Spill,     ///< what is connected with a point and of its colour, soft edges included
        Outside    ///< all but what lies between two corners, or within four
    };
    Kind kind = Kind::Rectangle;
    std::vector<geometry::Point> points;
    double widthPx = 0;
    std::optional<raster::Rgb> ground = {}; ///< what lies there then; unset: the colour of the picture's edge

    bool operator==(const Erasure&) const = default;
};

/// A colour of flat art that goes with another one.
struct ColourMerge {
    raster::Rgb from{};
    raster::Rgb into{};

    bool operator==(const ColourMerge&) const = default;
};

/// A part of the picture whose ink is told from its paper by itself.
struct OwnPart {
    geometry::Box box; ///< px
    std::optional<int> threshold =
        {}; ///< brightness 0-254 up to which a pixel is ink there; unset: chosen there

    bool operator==(const OwnPart&) const = default;
};

/// A colour of the picture this far from one that is named is not the one that is meant.
inline constexpr double kNamedColour = 0.15;
/// More colours are no card anybody has.
inline constexpr int kMostColours = 32;

/// How a picture is traced. Kept in the job, so that it can be opened again and replayed.
struct Recipe {
    Mode mode = Mode::LineDrawing;

    // every way
    double turnDeg = 0; ///< the picture is turned by this, clockwise on screen, before anything else
    std::vector<Erasure> erasures; ///< in the turned picture
    double leastAreaMm2 = 0.5; ///< smaller areas join their surroundings, smaller ink specks vanish; below
                               ///< this nothing can be picked up
    double smoothness = 1.0;   ///< 0 keeps every corner that can be told, 1 true corners, 1.3 rounds them all
    double tuckMm = 0.6; ///< how far a lower piece runs on under an upper one; cut and glue are not exact

    // line drawings and flat colour art
    DarkPart darkPart = DarkPart::Unsaid;

    // line drawings
    bool isLightOnDark = false; ///< the lines are lighter than what they are drawn on
    std::optional<int>
        threshold; ///< brightness 0-254 up to which a pixel is ink; unset: raster::inkThreshold
    std::vector<OwnPart> ownParts; ///< for what is lost by the threshold of the whole
    double widestGapMm = 3.0; ///< narrower gaps between ends of lines are reported as leaks; pens rarely miss
                              ///< by more
    std::vector<ClosingLine> closings;
    Build build = Build::AreasOnBacking;
    double foldsBelowMm = 0; ///< lines thinner than this are folds and bound no area; 0: none are
    bool dashesFold = false; ///< rows of dashes are folds

    // flat colour art
    int colours = 0;                 ///< how many; 0: as many as are found
    std::vector<raster::Rgb> picked; ///< colours taken from the picture by hand, besides those found
    std::vector<ColourMerge> merges;
    std::vector<raster::Rgb> notCut; ///< colours that stay out, besides the paper
    Stacking stacking = Stacking::Inlay;

    // photos
    int tones = 5;        ///< 2 to 8
    double bridgesMm = 0; ///< loose parts of a layer this near to its largest are joined to it; 0: none are
    double neckMm = 1.5;  ///< no part of a layer, and no gap in it, is narrower

    bool operator==(const Recipe&) const = default;
};

} // namespace thinline::trace
