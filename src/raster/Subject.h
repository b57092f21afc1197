// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Point.h"
#include "raster/Picture.h"

namespace thinline::raster {

/// Returns where in a picture most is to be seen, as a point of the unit square: the middle of the third of it, as wide and as high, in which
/// brightness changes most from pixel to pixel; what lies near the middle counts a little more. The middle for an even picture.
/// Cost: O(pixels).
geometry::Point subjectOf(const Picture& picture);

} // namespace thinline::raster
