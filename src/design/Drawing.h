// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/FillRule.h"
#include "geometry/Shape.h"
#include "raster/Picture.h"

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
    std::vector<std::shared_ptr<const Clip>> clips; ///< all of them hold; items of one group share them
};

/// How far the file itself says how large it is.
enum class StatedSize {
    Real,   ///< in mm, cm, in, pt ...
    Pixels, ///< in px or plain numbers, taken as 96 to the inch as CSS has it
    None    ///< not at all
};

struct DrawnPage {
    double widthMm = 0, heightMm = 0;
    StatedSize stated = StatedSize::None;
    std::vector<DrawnItem> items;
    std::vector<std::string> said; ///< what was skipped or repaired, one short sentence each
};

/// Takes steps out of outlines that have more than 20,000: no knife and no eye sees them, and everything that comes after
/// pays for them. Strays at most 0.25 um; what was done is said.
void thinOut(DrawnPage& page);

/// How outlines become pieces.
struct TakeOptions {
    int page = 0;                  ///< of a file with several, from 0
    bool appliesClips = true;      ///< items are cut down to their clips, as the drawing shows them
    bool strokesAsAreas = false;   ///< a stroke is a strip of its width; else closed strokes bound areas, as
                                   ///< cut files draw them, and open ones are left out
    std::set<std::string> leftOut; ///< layers not taken, by name

    bool operator==(const TakeOptions&) const = default;
};

/// A connected area of a drawing.
struct DrawnPiece {
    geometry::Shape shape; ///< mm on its page
    std::optional<raster::Rgb> colour;
    std::string name; ///< its item's id
    std::string layer;
};

/// Returns the pieces of a page, in its order.
/// Errors: InvalidArgument for a page without extent or larger than 10 m, or when nothing bounds an area;
///         those of the set operations; Cancelled.
/// Cost:   one set operation per item, one more per clip.
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
