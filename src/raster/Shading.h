// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Picture.h"

#include <vector>

/// The light over a painted picture, whatever its colours are.
namespace thinline::raster {

/// A smooth factor for every place of a picture, 1 where it is lightest.
class Shading {
  public:
    Shading() = default; ///< even light
    /// Factors on a lattice whose places lie `step` px apart, the first at the picture's corner.
    Shading(int across, int down, double stepPx, std::vector<float> factors)
        : m_across(across), m_down(down), m_step(stepPx), m_factors(std::move(factors)) {}

    bool isEven() const { return m_factors.empty(); }
    /// Units: px; between places of the lattice by straight lines.
    double at(double x, double y) const;
    double darkest() const;

  private:
    int m_across = 0, m_down = 0;
    double m_step = 1;
    std::vector<float> m_factors;
};

/// Returns the light over a picture: what changes by degrees and in everything alike.
/// Shape:  even where a program drew (areas even to the level) and where the light varies by less than 4 %.
/// Cost:   O(pixels) for a reduced copy, then bounded.
/// Source: robust regression (Tukey's biweight) of the differences between neighbouring pixels on cubic B-splines.
Shading shadingOf(const Picture& picture);

/// Returns the picture as it would be in even light.
Picture unshaded(const Picture& picture, const Shading& shading);

} // namespace thinline::raster
