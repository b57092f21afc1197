// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Boolean.h"
#include "raster/Picture.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

/// Reads SVG of any origin into outlines in millimetres. What it skips it says.
namespace thinline::formats::svg {

/// One drawn element.
struct SvgItem {
    std::string
        id; ///< its own, or made from its element's name and its place: "rect-3"; unique in the drawing
    std::string layer; ///< the name of the innermost group that has one; empty at the top
    std::vector<geometry::Contour> contours; ///< mm; those that bound an area, closed
    std::vector<geometry::Contour> lines;    ///< mm; open paths that are stroked and not filled
    geometry::FillRule rule = geometry::FillRule::NonZero;
    std::optional<raster::Rgb> fill, stroke;
    double strokeWidthMm = 0;
};

/// How far the file itself says how large it is.
enum class StatedSize {
    Real,   ///< width and height in mm, cm, in, pt ...
    Pixels, ///< in px or plain numbers, taken as 96 to the inch as CSS has it
    None    ///< not at all: the viewBox counts in px
};

struct SvgDrawing {
    double widthMm = 0, heightMm = 0; ///< of the page
    StatedSize stated = StatedSize::None;
    std::vector<SvgItem> items;
    std::vector<std::string> said; ///< what was skipped or repaired, one short sentence each
};

struct SvgLimits {
    size_t mostBytes = 256u << 20;
    size_t mostElements = 1'000'000; ///< visited, copies by <use> counted each time
    size_t mostSegments = 4'000'000;
    int deepest = 200; ///< groups within groups, and uses of uses
};

/// Returns the drawing.
/// Accepts: paths and basic shapes, groups, symbols, <use> of parts of the same file, nested <svg>,
/// transforms,
///          viewBox and preserveAspectRatio, units, fill and stroke by attribute, style and style sheet.
///          UTF-8 and UTF-16, with or without a mark. Entities of the file's own are not expanded.
/// Skips:   text, pictures, scripts, animation, links to elsewhere, clip paths, masks, filters, markers;
/// said.
///          Closed outlines count as areas even when they are only stroked, as cut files draw them.
/// Errors:  ParseError (not XML: line and column; no svg element; nothing drawn), LimitExceeded, Cancelled.
/// Cost:    O(bytes + segments); about 10 times the file in memory at the worst.
base::Result<SvgDrawing> readSvg(std::string_view bytes, const SvgLimits& limits = {},
                                 const base::Progress& progress = {});

} // namespace thinline::formats::svg
