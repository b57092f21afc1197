// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Shape.h"
#include "raster/Picture.h"

#include <vector>

/// Printed targets: a ring with a cross in it, by which a page is found again.
namespace thinline::raster {

/// How one looks, mm.
struct TargetLook {
    double outerMm = 5, innerMm = 3.7; ///< radii of the ring
    double armMm = 2.7;                ///< from the middle to the end of an arm
    double wideMm = 1.2;               ///< of an arm
};
inline constexpr TargetLook kTarget{};

/// Returns the areas of a target about the origin, mm.
geometry::Polygons targetRings();

/// A target in a picture.
struct SeenTarget {
    geometry::Point at;  ///< its middle, px; pixel centres lie at +0.5
    double radiusPx = 0; ///< of the ring's outer edge, the mean of all directions
    double likeness = 0; ///< how well it is one, 0 to 1: the correlation with what it should look like
};

/// Returns the targets in a picture, the likest first.
/// Shape:  black on light, at any turn, seen aslant by some 20 degrees, kLeastAcrossPx to a fifth of the picture's shorter side
///         across; a shadow's edge may run across one.
/// Units:  middles within a tenth of a pixel.
/// Errors: Cancelled.
/// Cost:   O(pixels) for a search at every size, four sizes to an octave.
base::Result<std::vector<SeenTarget>> findTargets(const Picture& picture,
                                                  const base::Progress& progress = {});
inline constexpr double kLeastAcrossPx = 11;

} // namespace thinline::raster
