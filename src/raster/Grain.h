// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Picture.h"

#include <algorithm>
#include <array>
#include <cstdlib>

/// Pixels of flat art: how far apart they are, and how grainy a picture is.
namespace thinline::raster {

/// A colour or a step between two, in levels.
using Vec = std::array<double, 3>;

inline Vec vecOf(const std::uint8_t* p) {
    return {static_cast<double>(p[0]), static_cast<double>(p[1]), static_cast<double>(p[2])};
}
inline Vec vecOf(Rgb c) {
    return vecOf(c.data());
}
inline double square(const Vec& a, const Vec& b) {
    return (a[0] - b[0]) * (a[0] - b[0]) + (a[1] - b[1]) * (a[1] - b[1]) + (a[2] - b[2]) * (a[2] - b[2]);
}
inline int apart(const std::uint8_t* p, const std::uint8_t* q) {
    return std::max({std::abs(p[0] - q[0]), std::abs(p[1] - q[1]), std::abs(p[2] - q[2])});
}

inline const std::uint8_t* pixel(const Picture& picture, int x, int y) {
    return picture.row(y) + static_cast<size_t>(x) * 3;
}

/// How much neighbouring pixels of even areas differ: 0 in a clean picture, several levels in a noisy one.
double grainOf(const Picture& picture);

/// Whether even areas are even to the level: drawn by a program and never lossily kept.
bool isExact(const Picture& picture);

/// The picture with its grain taken out; an exact one has none to take.
Picture calmed(const Picture& picture, double grain);

} // namespace thinline::raster
