// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "raster/Picture.h"

#include <cstdint>
#include <vector>

namespace thinline::raster {

/// A horizontal run of pixels: [x0, x1) in row y.
struct Run {
    int y = 0;
    int x0 = 0;
    int x1 = 0;
};

/// One connected region of a mask.
struct Region {
    std::int64_t areaPx = 0;
    int left = 0, top = 0, width = 0, height = 0;
    bool touchesEdge = false; ///< reaches the first or last row or column of the picture
    std::vector<Run> runs;    ///< rows top to bottom, left to right
};

enum class Connectivity { Four, Eight };

/// Every pixel's region, and the regions.
struct Regions {
    int width = 0;
    int height = 0;
    std::vector<std::int32_t> labels; ///< width * height; 0 outside the mask, else 1 + index into `all`
    std::vector<Region> all;

    std::int32_t labelAt(int x, int y) const {
        return labels[static_cast<size_t>(y) * static_cast<size_t>(width) + static_cast<size_t>(x)];
    }
};

/// Returns the connected regions of the pixels whose mask value equals `wanted`, in reading order of their
/// first pixel. Ink joins across corners (Eight), paper does not (Four), or a line one pixel wide would leak.
/// Errors: Cancelled.
/// Cost:   O(pixels) time, 4 bytes per pixel plus the runs.
base::Result<Regions> findRegions(const Grey& mask, std::uint8_t wanted, Connectivity connectivity,
                                  const base::Progress& progress = {});

/// Returns the pixels of a region of a picture so wide: row x width + column, in order.
std::vector<std::uint32_t> pixelsOf(const Region& region, int width);

/// A narrow passage between two wide places of the same region.
struct Passage {
    double x = 0, y = 0;             ///< where it is narrowest, px
    double widthPx = 0;              ///< how wide it is there
    std::int32_t label = 0;          ///< the region it lies in
    double smallerSidePx = 0;        ///< area of the smaller of the two sides, px2
    double insideX = 0, insideY = 0; ///< the middle of the smaller side: its point farthest from the ink
    bool joinsEdge = false;          ///< one of the two sides reaches the picture's edge
};

struct PassageOptions {
    double widestPx = 10;      ///< wider passages are meant; in px of this picture
    double leastSidePx = 200;  ///< a side smaller than this (px2) is a nook, not an area
    double wideningFactor = 2; ///< both sides must widen to at least this many times the passage
};

/// Returns the narrow passages within the paper (mask 0): places where an outline may have a gap.
/// Shape:  narrowest first. The picture's frame counts as paper, so an outline cut off by it is no passage.
/// Errors: Cancelled.
/// Cost:   O(pixels near ink) after a distance transform; 4 + 4 bytes per pixel.
/// Source: the saddles of the distance to the ink, found by flooding from wide to narrow (component tree, as
///         in watershed by flooding: L. Vincent and P. Soille, IEEE PAMI 13(6), 1991).
base::Result<std::vector<Passage>> findPassages(const Grey& inkMask, const Regions& paper,
                                                const PassageOptions& options,
                                                const base::Progress& progress = {});

} // namespace thinline::raster
