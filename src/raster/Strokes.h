// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Shape.h"
#include "raster/Picture.h"

#include <cstdint>
#include <vector>

/// Short straight strokes of a drawing: dashes, and what sticks out of thicker or crossing ink like one.
namespace thinline::raster {

struct Stroke {
    geometry::Point ends[2];           ///< px; the second one lies in other ink when it is rooted
    double thickness = 0;              ///< px
    bool isRooted = false;             ///< one end only is free
    std::vector<std::uint32_t> pixels; ///< its ink, by row and column

    double length() const { return geometry::distance(ends[0], ends[1]); }
};

struct StrokeOptions {
    double longestPx = 60;  ///< longer ones are no dashes
    double thickestPx = 12; ///< thicker ink is an area
    bool onlyFree = false;  ///< none that touch other ink
};

/// Returns the ink of a mask that a disc of `discPx` does not fit into, once for each margin in px that it keeps from
/// where the disc does.
/// Cost:   O(pixels).
std::vector<Grey> thinInk(const Grey& ink, double discPx, const std::vector<double>& margins);

/// The bar that spreads as some places do.
struct Bar {
    geometry::Point middle, along; ///< `along` of unit length
    double length = 0, width = 0;
};
Bar barOf(const geometry::Polygon& places);

/// Returns whether there is ink at a place; none is outside of the picture.
bool isInkAt(const Grey& ink, geometry::Point place);

/// Returns the short strokes of a drawing, free ones first.
/// Shape:  at least 1.8 times as long as thick; at most 5000: a picture with more is a pattern.
/// Errors: Cancelled.
/// Cost:   O(pixels), times half the thickest stroke for thinning it.
base::Result<std::vector<Stroke>> findStrokes(const Grey& ink, const StrokeOptions& options,
                                              const base::Progress& progress = {});

/// Returns how thick a drawing's lines are, a value for every pixel in their middles; px. Ink thicker than
/// `thickestPx` is no line.
/// Cost:   O(pixels).
std::vector<double> widthsAlong(const Grey& ink, double thickestPx);

/// How far the ink reaches to both sides of a place, seen along a unit direction; px, at most `most`.
struct Sides {
    double left = 0, right = 0;
};
Sides sidesAt(const Grey& ink, geometry::Point place, geometry::Point along, double most);

} // namespace thinline::raster
