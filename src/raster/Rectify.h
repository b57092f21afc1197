// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"
#include "geometry/Point.h"
#include "raster/Picture.h"

#include <array>

/// A flat rectangle, photographed aslant, laid straight at its true size. For all who rectify.
namespace thinline::raster {

/// How a rectangle of known size is seen in a picture. Pixel centres lie at +0.5.
class Seen {
  public:
    /// Shape:  corners in px, in the order upper left, upper right, lower right, lower left of the rectangle. `bend` is the
    ///         lens's: a place as far from the picture's middle as its corners belongs `bend` as much further out.
    /// Errors: InvalidArgument for corners that bound no convex area, or a size that is not above zero.
    static base::Result<Seen> by(const std::array<geometry::Point, 4>& corners, double bend, int widthPx,
                                 int heightPx, double widthMm, double heightMm);

    geometry::Point toMm(geometry::Point px) const;
    geometry::Point toPx(geometry::Point mm) const;
    const std::array<geometry::Point, 4>& corners() const { return m_corners; }
    double bend() const { return m_bend; }
    double widthMm() const { return m_widthMm; }
    double heightMm() const { return m_heightMm; }

    /// Returns a place as an unbent lens would show it, and back.
    geometry::Point unbent(geometry::Point px) const;
    geometry::Point bent(geometry::Point px) const;

  private:
    std::array<geometry::Point, 4> m_corners{};
    double m_bend = 0;
    geometry::Point m_middle;
    double m_reach = 1; ///< from the middle to a corner of the picture, px
    double m_widthMm = 0, m_heightMm = 0;
    std::array<double, 9> m_toMm{}, m_toPx{}; ///< from and to unbent px
};

/// Returns the rectangle laid straight.
/// Shape:  so many px a mm; between pixels interpolated.
/// Cost:   O(pixels that come out).
Picture rectified(const Picture& picture, const Seen& seen, double pxPerMm);

/// Returns the corners of the one large even area that lies on another ground, such as a mat on a table, and the bend of the
/// lens that makes its edges straight.
/// Shape:  the upper left corner is the one nearest to the picture's; where the rectangle is high and the picture wide, or the
///         other way round, its upper left one is at the lower left of the picture.
/// Units:  edges are measured within a tenth of a pixel where they are sharp.
/// Errors: Degenerate in a sentence where there is no such area, its edges are not straight, or they run out of the picture.
/// Cost:   O(pixels).
base::Result<Seen> findRectangle(const Picture& picture, double widthMm, double heightMm);

} // namespace thinline::raster
