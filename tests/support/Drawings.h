// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"
#include "raster/Canvas.h"

/// Pictures of line drawings whose truth is known: antialiased ink on paper, made in memory.
namespace thinline::support {

class Drawing {
  public:
    Drawing(int width, int height, raster::Rgb paper = {255, 255, 255}) : m_canvas(width, height, paper) {}

    /// An ink outline: everything within `outer` and not within `inner`, in pixels.
    Drawing& ring(const geometry::Shape& outer, const geometry::Shape& inner) {
        geometry::Polygons rings = geometry::flatten(outer, 0.02);
        rings.push_back(geometry::flatten(geometry::reversed(inner.outline), 0.02));
        m_canvas.fill(rings, kInk);
        return *this;
    }
    Drawing& fill(const geometry::Shape& shape, raster::Rgb colour) {
        m_canvas.fill(geometry::flatten(shape, 0.02), colour);
        return *this;
    }
    Drawing& ink(const geometry::Shape& shape) { return fill(shape, kInk); }

    raster::Picture picture() const { return m_canvas.picture(); }

    static constexpr raster::Rgb kInk{20, 24, 28};

  private:
    raster::Canvas m_canvas;
};

} // namespace thinline::support
