// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"
#include "raster/Picture.h"
#include "raster/Regions.h"

#include <vector>

namespace thinline::raster {

/// One border of a region, followed around.
struct EdgeRing {
    geometry::Polygon
        points; ///< where the edge runs, in px of the picture, about one point per pixel of length
    bool isOpening = false; ///< it runs around something that is not the region
};

/// Returns where the edges of a region run, to a fraction of a pixel: not along the pixels' sides but where
/// the grey of the soft edge says. Shape:  outlines run clockwise on screen, openings the other way; an
/// outline comes before its openings. Pixels that
///         touch only at a corner are apart. Along the picture's own frame the edge is the frame.
/// Units:  px; pixel (0, 0) covers 0 to 1. Exact for straight edges drawn with true coverage: the sum of the
/// coverages
///         along a row or column is where the edge lies in its middle. The two plain levels are looked for
///         within three pixels on either side, so that neighbouring lines do not count.
/// Cost:   O(box + border).
std::vector<EdgeRing> edgePointsOf(const Grey& grey, const Region& region);

} // namespace thinline::raster
