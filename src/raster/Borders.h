// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Shape.h"
#include "raster/Picture.h"

#include <cstdint>
#include <functional>
#include <optional>
#include <vector>

/// The borders between labelled pixels: first along the pixels' sides, then where the grey says they are.
namespace thinline::raster {

/// A label per pixel, rows top to bottom. Pixels outside the picture count as -1.
struct LabelMap {
    int width = 0;
    int height = 0;
    std::vector<std::int32_t> labels; ///< width * height, 0 or above

    std::int32_t at(int x, int y) const {
        return x < 0 || y < 0 || x >= width || y >= height
                   ? -1
                   : labels[static_cast<size_t>(y) * static_cast<size_t>(width) + static_cast<size_t>(x)];
    }
};

/// One side of a pixel: it begins at a pixel corner and runs one pixel right (0), down (1), left (2), up (3).
struct Side {
    int x = 0, y = 0;
    int way = 0;

    bool operator==(const Side&) const = default;
};
/// The steps of the four ways.
inline constexpr int kWayX[] = {1, 0, -1, 0};
inline constexpr int kWayY[] = {0, 1, 0, -1};

/// An unbroken stretch of border: the same label all along its right-hand side, the same along its left.
struct Border {
    std::int32_t right = -1, left = -1;
    std::vector<Side> sides;
    int from = -1, to = -1; ///< junctions at its ends; -1 for a closed ring
};

struct Borders {
    std::vector<Side> junctions; ///< pixel corners where three or more borders end; `way` has no meaning
    std::vector<Border> all;
};

/// Returns every border of a label map, each once.
/// Shape:  rings have the greater label on their right-hand side; the picture's frame is a border to -1.
///         Where two pixels of one label touch only at a corner and the other two are alike or the corner is
///         theirs alone, the label with the lower `rank` runs through and the other is parted.
/// Errors: Cancelled.
/// Cost:   O(pixels + sides); one byte per pixel besides the result.
base::Result<Borders> findBorders(const LabelMap& map, const std::vector<std::int32_t>& rank,
                                  const base::Progress& progress = {});

/// The level of a pixel between two plain ones, any unit; NaN where the pixel belongs to neither.
using LevelAt = std::function<double(int x, int y)>;

/// Returns a picture's own brightness as levels, its frame going on outside. The picture must outlive them.
LevelAt levelsOf(const Grey& grey);

/// How levels are read.
struct EdgeReading {
    double leastStep = 24; ///< levels; below it there is no edge to go by and the pixels' sides stand
    std::optional<double> darkest = {}, lightest = {}; ///< the plain levels where they are known: what is
                                                       ///< thinner than a few pixels never reaches them
    std::optional<double> contour = {}; ///< the border is where the levels cross this one, not half-way from
                                        ///< plain to plain
    bool carriesOn = false; ///< no point where a pixel that would say where the edge is has no level: whoever
                            ///< draws the border carries it on there; else the pixels' sides stand
};

/// Returns where a border really runs, by the grey of the pixels on either side: a point for every row or
/// column that crosses it, in order.
/// Shape:  a row's sum of levels from plain to plain says where the edge crosses it, exactly for a straight
///         edge under an even pixel. A contour is found between two pixels by a straight line.
/// Cost:   O(sides).
geometry::Polygon edgePoints(const std::vector<Side>& sides, bool isRing, const LevelAt& levelAt,
                             const EdgeReading& reading);

} // namespace thinline::raster
