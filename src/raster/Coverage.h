// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

#include <vector>

/// How much of each pixel a path covers: what an ideal camera would see of it.
namespace thinline::raster {

struct Covered {
    int x = 0, y = 0;
    double area = 0; ///< px², signed as geometry::signedArea: positive inside a ring clockwise on screen
};

/// Returns the area inside a closed ring, pixel by pixel, rows top to bottom.
/// Shape:  the closing step is implied; where the ring winds twice the area counts twice. Exact for straight
///         steps. Pixels left out have none.
/// Cost:   O(c log c) for c pixels crossed, plus the pixels inside.
std::vector<Covered> coveredPixels(const geometry::Polygon& ring);

} // namespace thinline::raster
