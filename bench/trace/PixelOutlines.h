// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"
#include "geometry/Shape.h"
#include "raster/Regions.h"

#include <vector>

namespace thinline::trace {

/// Returns smooth outlines around one set of pixels.
/// Shape:  one Shape per connected outline (pixels that touch only at a corner are apart), openings included,
///         in picture coordinates: pixel (0, 0) covers 0..1. `keepOpenings` false leaves openings out.
/// Units:  px; `smoothness` as in the recipe.
/// Errors: Degenerate if the fitting library gives up.
/// Cost:   O(outline length) after O(box / 64) to lay out the bits.
base::Result<std::vector<geometry::Shape>> outlinesOf(const raster::Region& region, double smoothness,
                                                      bool keepOpenings);

} // namespace thinline::trace
