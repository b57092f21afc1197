// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Point.h"
#include "raster/Picture.h"

#include <optional>

/// Gaps in drawn lines.
namespace thinline::raster {

/// A stroke of ink that would close a gap.
struct Bridge {
    geometry::Point from, to; ///< px, in the middle of the lines it goes on from
    double widthPx = 0;       ///< as wide as they are
};

/// Returns the stroke that closes a gap at `place`, `gapPx` wide: from the end of a line to the end it faces,
/// or to the line it should have reached.
/// Shape:  nothing where no end of a line faces the gap: two lines that run past one another leave a real
///         opening.
/// Cost:   O(the surroundings), a square of about 8 gaps and lines.
std::optional<Bridge> bridgeOver(const Grey& inkMask, geometry::Point place, double gapPx);

} // namespace thinline::raster
