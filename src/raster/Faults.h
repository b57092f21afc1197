// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Grain.h"

#include <vector>

/// How far the pixels of one colour lie off it.
namespace thinline::raster {

/// Brightness and the two differences of colour of a pixel, as JPEG parts them: y, blue less y, red less y.
/// Source: ITU-R BT.601.
inline Vec yccOf(const Vec& v) {
    const double y = 0.299 * v[0] + 0.587 * v[1] + 0.114 * v[2];
    return {y, 0.564 * (v[2] - y), 0.713 * (v[0] - y)};
}
inline Vec yccOf(const std::uint8_t* p) {
    return yccOf(vecOf(p));
}
/// The way back, rounded.
Rgb rgbOfYcc(const Vec& v);

/// How much a squared level counts, of brightness and of colour.
struct Weights {
    double y = 1, c = 1;

    double square(const Vec& a, const Vec& b) const {
        return y * (a[0] - b[0]) * (a[0] - b[0]) +
               c * ((a[1] - b[1]) * (a[1] - b[1]) + (a[2] - b[2]) * (a[2] - b[2]));
    }
};

/// A picture's faults: grain everywhere, and beside edges what compression leaves.
class Faults {
  public:
    /// Cost: O(pixels), two bytes a pixel; nothing kept of an exact picture.
    explicit Faults(const Picture& picture);

    bool isExact() const { return m_isExact; }
    bool hasCoarseColour() const { return m_isCoarse; }
    double grain() const { return m_grain; }
    /// What compression leaves of a step beside it, a share.
    double edgeShare() const { return m_share; }
    /// Levels of brightness between which the pixels within four of this one lie.
    int rangeAt(int x, int y) const { return m_near.empty() ? 0 : m_near[index(x, y)]; }
    /// For a pixel held against one colour.
    Weights at(int x, int y) const;
    /// For a pixel held against mixtures of two colours this far apart.
    Weights between(const Vec& step) const;

  private:
    size_t index(int x, int y) const {
        return static_cast<size_t>(y) * static_cast<size_t>(m_width) + static_cast<size_t>(x);
    }
    int m_width = 0;
    bool m_isExact = true, m_isCoarse = false;
    double m_grain = 0, m_level = 0, m_share = 0;
    std::vector<std::uint8_t> m_near;      ///< range of brightness within 4 px
    std::vector<std::uint8_t> m_nearColour; ///< range of colour within 8 px
};

} // namespace thinline::raster
