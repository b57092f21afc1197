// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "raster/Borders.h"

#include <cstdint>
#include <vector>

/// The connected parts of a labelled picture.
namespace thinline::raster {

/// A label map's connected parts.
struct Parts {
    LabelMap map;                    ///< the part of every pixel, numbered in reading order
    std::vector<std::int32_t> label; ///< of every part
    std::vector<std::int64_t> areaPx;
    std::vector<bool> touchesEdge;
};
/// Returns the parts connected across pixel sides.
/// Errors: Cancelled.
/// Cost:   O(pixels).
base::Result<Parts> partsOf(const LabelMap& labels, const base::Progress& progress = {});

/// Returns the side of the largest square of pixels in every part, px.
/// Cost:   O(pixels).
std::vector<int> squaresIn(const Parts& parts);

/// Gives every part below `leastPx` the label of the neighbour it shares most border with, smallest first.
/// Returns how many parts went. The map's labels change.
/// Cost:   O(pixels) a round; a few rounds.
base::Result<int> mergeSmall(LabelMap& labels, double leastPx, const base::Progress& progress = {});

} // namespace thinline::raster
