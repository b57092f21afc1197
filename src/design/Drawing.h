// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "base/Progress.h"
#include "base/Result.h"
#include "design/Piece.h"
#include "geometry/FillRule.h"
#include "raster/Picture.h"

#include <map>
#include <memory>
#include <optional>
#include <set>
#include <string>
#include <vector>

/// A page of outlines as a reader found it, whatever format it came in.
namespace thinline::design {

/// Contours and how they bound areas.
struct Outlines {
    std::vector<geometry::Contour> contours; ///< mm, closed
    geometry::FillRule rule = geometry::FillRule::NonZero;
};
/// What an item is cut down to: all of these together.
using Clip = std::vector<Outlines>;

/// One drawn element.
struct DrawnItem {
    std::string id;    ///< unique in the drawing
    std::string layer; ///< the name of the innermost group or layer it lies in; empty at the top
    std::vector<geometry::Contour> contours; ///< mm; those that bound an area, closed
    std::vector<geometry::Contour> lines;    ///< mm; open paths that are stroked and not filled
    geometry::FillRule rule = geometry::FillRule::NonZero;
    std::optional<raster::Rgb> fill, stroke;
    double strokeWidthMm = 0;
    bool isDashed = false;
    std::vector<std::shared_ptr<const Clip>> clips; ///< all of them hold; items of one group share them
};

/// How far the file itself says how large it is.
enum class StatedSize {
    Real,   ///< in mm, cm, in, pt ...
    Pixels, ///< in px or plain numbers, taken as 96 to the inch as CSS has it
    None    ///< not at all
};

/// A picture of pixels in a drawing.
struct DrawnPicture {
    base::Bytes bytes;                                             ///< its file
    geometry::Transform place;                                     ///< from the unit square to mm of the page
    enum class Fit { Whole, Filling, Stretched } fit = Fit::Whole; ///< how it lies in that square
};

struct DrawnPage {
    double widthMm = 0, heightMm = 0;
    StatedSize stated = StatedSize::None;
    std::vector<DrawnItem> items;
    std::vector<DrawnPicture> pictures = {};
    std::vector<std::string> said; ///< what was skipped or repaired, one short sentence each
};

/// Takes steps out of outlines that have more than 20,000: no knife and no eye sees them, and everything that comes after
/// pays for them. Strays at most 0.25 um; what was done is said.
void thinOut(DrawnPage& page);

/// What strokes stand for: one drawing uses a line for the cut, the next for a fold.
enum class DrawnAs { Outline, Fold, Score, Slit, Tear, Pen, Placement, Parts, LeftOut };
/// "outline", "fold", ... "parts", "none": in files and at the batch tool.
std::string drawnAsWord(DrawnAs as);
std::optional<DrawnAs> drawnAsOf(const std::string& word);

/// Returns what the name of a layer says its lines are; nothing when it says nothing.
std::optional<DrawnAs> drawnAsNamed(const std::string& layer);

/// Strokes of one kind: of one layer, colour, width and way of dashing, all open or all closed.
struct LineKind {
    std::string key;   ///< tells it from the other kinds of its drawing, whatever else is drawn there
    std::string words; ///< "8 dashed grey lines in inner"
    std::string layer;
    int lines = 0;
    double lengthMm = 0;
    bool isClosed = false;
    DrawnAs proposed = DrawnAs::Outline;
    std::string why;                  ///< of the proposal: "drawn dashed"
    bool isSure = true;               ///< else they are left out until somebody says what they are
    DrawnAs taken = DrawnAs::Outline; ///< as what they were taken
    bool operator==(const LineKind&) const = default;
};

/// How outlines become pieces.
struct TakeOptions {
    int page = 0;                  ///< of a file with several, from 0
    bool appliesClips = true;      ///< items are cut down to their clips, as the drawing shows them
    bool strokesAsAreas = false;   ///< a stroke is a strip of its width; else it is what its kind is taken as
    std::set<std::string> leftOut; ///< layers not taken, by name
    std::map<std::string, DrawnAs> lines = {}; ///< what was said about kinds of lines, by their key
    std::set<std::string> leftOutLines = {};   ///< layers of which the areas are taken, but not the lines

    bool operator==(const TakeOptions&) const = default;
};

/// A connected area of a drawing.
struct DrawnPiece {
    geometry::Shape shape; ///< mm on its page
    std::optional<raster::Rgb> colour;
    std::string name; ///< its item's id
    std::string layer;
    std::vector<PieceLine> lines =
        {}; ///< on its card; a line over several pieces has one number on all of them
};

/// Everything a page comes to.
struct TakenPage {
    std::vector<DrawnPiece> pieces; ///< in the page's order
    std::vector<LineKind> kinds;    ///< of its lines, in order of appearance
    std::vector<std::string> said;  ///< what was taken as what, and what was not, one short sentence each
};

/// Returns the pieces of a page with the lines that lie on them.
/// Shape:  loose lines of one kind whose ends meet within 0.1 mm are one line, and closed when they come round; short cuts
///         in a row are the one line they stand for. A closed outline within another of its kind is an opening of it. A
///         line lies on the piece that holds most of it, of several on that of its layer, then on the last drawn; where
///         it runs on to others it lies on those too. Ends nearer than 0.5 mm to the edge are run on to it.
/// Errors: InvalidArgument for a page without extent or larger than 10 m, or when nothing bounds an area;
///         those of the set operations; Cancelled.
/// Cost:   one set operation per item, one more per clip; lines and pieces are compared by their boxes first.
base::Result<TakenPage> takenFrom(const DrawnPage& page, const TakeOptions& options = {},
                                  const base::Progress& progress = {});

/// Returns the pieces of a page alone.
base::Result<std::vector<DrawnPiece>> piecesOf(const DrawnPage& page, const TakeOptions& options = {},
                                               const base::Progress& progress = {});

/// A layer of a drawing in numbers.
struct DrawnLayer {
    std::string name;
    int items = 0;
    std::optional<raster::Rgb> colour; ///< of its first item
};
/// Returns the layers in order of appearance.
std::vector<DrawnLayer> layersOf(const DrawnPage& page);

} // namespace thinline::design
