// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "raster/Picture.h"

#include <vector>

/// A picture in a few tones.
namespace thinline::raster {

/// Returns the coded luminance of every pixel.
/// Source: ITU-R BT.709, luma.
Grey luma(const Picture& picture);

/// Returns the picture made smaller by averaging; at least one pixel each way.
Grey shrunk(const Grey& grey, int width, int height);

/// Returns the picture with grain and texture smoothed out and edges kept.
/// Source: bilateral filter; C. Tomasi and R. Manduchi, Bilateral filtering for gray and color images, 1998.
/// Cost:   O(pixels x reach^2).
Grey smoothed(const Grey& grey, double reachPx);

/// Returns the picture with steep edges made steps: a pixel on one takes the nearer of the levels beside it,
/// so that no tone in between runs along it.
Grey stepped(const Grey& grey);

/// Returns the `count` - 1 brightnesses that part a picture into tones with the least squared error; a pixel
/// at or below the first is of the darkest tone.
/// Cost:   O(pixels + count x 256^2).
/// Source: N. Otsu's criterion for several thresholds, solved exactly by dynamic programming.
std::vector<int> toneThresholds(const Grey& grey, int count);

/// Returns a mask (255 in, 0 out) without parts or gaps narrower than `leastPx` and without parts or openings
/// smaller than `leastAreaPx`.
/// Shape:  a larger mask stays larger: masks that lie in one another still do.
/// Errors: Cancelled.
/// Cost:   O(pixels x leastPx).
base::Result<Grey> sturdy(const Grey& mask, double leastPx, double leastAreaPx,
                          const base::Progress& progress = {});

/// Joins loose parts of a mask (255 in, 0 out) to its largest part by straight bridges, and returns how many.
/// Shape:  each at the narrowest gap, `widthPx` wide and no longer than `longestPx`; only where it lies
///         inside `within` all along. Parts farther off stay loose.
/// Errors: Cancelled.
/// Cost:   O(pixels).
base::Result<int> bridged(Grey& mask, const Grey& within, double longestPx, double widthPx,
                          const base::Progress& progress = {});

/// The level at which a border runs.
inline constexpr double kBorderLevel = 127.5;
/// Returns the levels (255 in, 0 out) by which the border of a mask runs: where the mask is just what lies at
/// or below the threshold, the picture's own brightness, else the mask itself; softened.
Grey bordered(const Grey& grey, int threshold, const Grey& mask);

} // namespace thinline::raster
