// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

#include <vector>

/// The openings of a shape: counters, windows, slits, specks.
namespace thinline::geometry {

struct OpeningSize {
    size_t index = 0;   ///< into Shape::openings
    double areaMm2 = 0; ///< positive
    double widthMm =
        0; ///< the shorter side of the least rectangle around it: a slit is as wide as it is narrow
    Box box;
};
/// Returns the openings of a shape, smallest area first.
std::vector<OpeningSize> openingsOf(const Shape& shape);

/// Returns the shape without the openings that are smaller than either limit.
Shape withSmallOpeningsFilled(const Shape& shape, double leastAreaMm2, double leastWidthMm);

/// Returns the shape without the chosen openings. Unknown indices are left alone.
Shape withOpeningsFilled(const Shape& shape, const std::vector<size_t>& chosen);

/// Returns the shape with the chosen openings only.
Shape withOpeningsKept(const Shape& shape, const std::vector<size_t>& chosen);

} // namespace thinline::geometry
