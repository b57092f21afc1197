// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"
#include "raster/Picture.h"

#include <cstdint>
#include <vector>

namespace thinline::raster {

/// An opaque picture to draw areas into: 0xffRRGGBB per pixel, rows top to bottom.
///
/// Antialiased by exact area coverage per pixel. It serves the bench's tiles, the overview picture, previews
/// and the read-back checks, all without an interface library (docs/adr/0004). Not safe to share between
/// threads.
class Canvas {
  public:
    Canvas(int width, int height, Rgb background);

    int width() const { return m_width; }
    int height() const { return m_height; }
    const std::vector<std::uint32_t>& pixels() const { return m_pixels; }
    std::uint32_t* data() { return m_pixels.data(); }

    /// Fills the area inside rings given in pixels. Rings must follow the outline/opening orientation rule;
    /// where areas of one call overlap they count once (non-zero rule).
    /// Cost:   O(edges + box of the area).
    void fill(const geometry::Polygons& ringsPx, Rgb colour, double opacity = 1);

    /// Draws closed rings as lines `widthPx` wide, mitred, sharp corners bevelled.
    void stroke(const geometry::Polygons& ringsPx, double widthPx, Rgb colour, double opacity = 1);

    /// Draws one open line, dashed when `dashPx` > 0 (equal dash and gap).
    void line(geometry::Point a, geometry::Point b, double widthPx, Rgb colour, double dashPx = 0);

    Picture picture() const;

  private:
    void addEdge(geometry::Point a, geometry::Point b);
    void addStretch(geometry::Point a, geometry::Point b, double halfPx);
    bool begin(geometry::Box boxPx);
    void blend(Rgb colour, double opacity);

    int m_width;
    int m_height;
    std::vector<std::uint32_t> m_pixels;
    // The accumulation buffer of the area being filled: signed coverage differences within its clipped box.
    std::vector<float> m_cover;
    geometry::Polygon m_edge; ///< one edge of a line being drawn; kept to spare allocations
    int m_left = 0, m_top = 0, m_boxWidth = 0, m_boxHeight = 0;
};

} // namespace thinline::raster
