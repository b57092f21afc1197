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
    geometry::Polygon middle; ///< px, about a point a pixel, from end to end
    double thicknessPx = 0;
    bool isDashed = false;
    std::vector<std::uint32_t> pixels; ///< its ink, by row and column
};

struct FineLineOptions {
    double thinnerPx = 0;      ///< lines thinner than this are fine; 0 looks for none
    bool dashes = false;       ///< whether rows of dashes are lines
    double leastPx = 24;       ///< shorter lines are none
    double longestDashPx = 60; ///< longer strokes are no dashes
};

/// Returns the fine lines of a drawing, thin ones first.
/// Shape:  a thin line is ink that a disc as wide as asked does not fit into; where several meet, the longest
///         goes through. A dashed one is three or more short strokes in a row, each going on where the last
///         one points, with gaps not much longer than the strokes.
/// Errors: Cancelled.
/// Cost:   O(pixels) and O(dashes²).
base::Result<std::vector<FineLine>> findFineLines(const Grey& inkMask, const FineLineOptions& options,
                                                  const base::Progress& progress = {});

} // namespace thinline::raster
