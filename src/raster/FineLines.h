// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Shape.h"
#include "raster/Picture.h"

#include <cstdint>
#include <vector>

/// Thin and dashed lines of a drawing: what a printed template shows its folds by.
namespace thinline::raster {

struct FineLine {
    geometry::Polygon
        middle; ///< px, from end to end: two points where it is straight, else about one a pixel
    double thicknessPx = 0;
    double gapPx = 0;                  ///< the widest gap of a dashed line; 0 for one drawn through
    double dashPx = 0;                 ///< its longest dash
    std::vector<std::uint32_t> pixels; ///< its ink, by row and column

    bool isDashed() const { return gapPx > 0; }
};

struct FineLineOptions {
    double thinnerPx = 0;      ///< lines thinner than this are fine; 0 looks for none
    bool dashes = false;       ///< whether rows of dashes are lines
    double leastPx = 24;       ///< shorter lines are none
    double longestDashPx = 60; ///< longer strokes are no dashes
    double thickestDashPx = 12;
};

/// Adds a straight way to the last of some points, one a pixel.
void addWay(geometry::Polygon& points, geometry::Point to);

/// Returns the ink of a drawing in which its lines are looked for: what is at most as bright as the threshold, and what
/// is thinner than `widestPx` and two fifths as dark as ink against what is around it.
/// Cost:   O(pixels).
Grey lineInk(const Grey& grey, int threshold, double widestPx);

/// Returns the fine lines in such ink roughly: that there are lines, not exactly where. Rows are those of two free dashes
/// and more, and ends are as they are found.
/// Errors and cost: as findFineLines, which looks at four times as many pixels where lines are thin.
base::Result<std::vector<FineLine>> glimpsedLines(const Grey& ink, const FineLineOptions& options,
                                                  const base::Progress& progress = {});

/// Returns the fine lines of a drawing, thin ones first.
/// Shape:  found in `lineInk`. A thin line is ink that a disc as wide as asked does not fit into; where several meet,
///         the longest goes through. A dashed one is three or more short strokes in a row, each going on where the
///         last one points, with gaps not much longer than the strokes; the first and the last may touch other ink.
///         Two that face each other across ink of their own are one line, and the others end at it.
/// Errors: Cancelled.
/// Cost:   O(pixels) and O(dashes²).
base::Result<std::vector<FineLine>> findFineLines(const Grey& grey, int threshold,
                                                  const FineLineOptions& options,
                                                  const base::Progress& progress = {});

} // namespace thinline::raster
