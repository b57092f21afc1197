// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"
#include "raster/Canvas.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <random>

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
    Drawing& ink(const geometry::Polygons& ringsPx) {
        m_canvas.fill(ringsPx, kInk);
        return *this;
    }

    raster::Picture picture() const { return m_canvas.picture(); }

    static constexpr raster::Rgb kInk{20, 24, 28};

  private:
    raster::Canvas m_canvas;
};

/// The picture as a scanner sees it: softened by a Gaussian of `blurPx`, every pixel off by up to `noise` levels.
inline raster::Picture scanned(raster::Picture picture, double blurPx, int noise) {
    if (blurPx > 0) {
        const int reach = static_cast<int>(std::ceil(3 * blurPx));
        std::vector<double> taps;
        for (int k = -reach; k <= reach; ++k)
            taps.push_back(std::exp(-k * k / (2 * blurPx * blurPx)));
        const double sum = std::accumulate(taps.begin(), taps.end(), 0.0);
        for (const bool isAcross : {true, false}) {
            const raster::Picture before = picture;
            for (int y = 0; y < picture.height; ++y)
                for (int x = 0; x < picture.width; ++x)
                    for (int c = 0; c < 3; ++c) {
                        double level = 0;
                        for (int k = -reach; k <= reach; ++k) {
                            const int fromX = std::clamp(x + (isAcross ? k : 0), 0, picture.width - 1),
                                      fromY = std::clamp(y + (isAcross ? 0 : k), 0, picture.height - 1);
                            level += taps[static_cast<size_t>(k + reach)] / sum *
                                     before.rgb[static_cast<size_t>((fromY * picture.width + fromX) * 3 + c)];
                        }
                        picture.rgb[static_cast<size_t>((y * picture.width + x) * 3 + c)] =
                            static_cast<std::uint8_t>(std::lround(level));
                    }
        }
    }
    std::mt19937 random(11);
    for (std::uint8_t& level : picture.rgb)
        if (noise > 0)
            level = static_cast<std::uint8_t>(
                std::clamp(static_cast<int>(level) +
                               static_cast<int>(random() % (2u * static_cast<unsigned>(noise) + 1)) - noise,
                           0, 255));
    return picture;
}

} // namespace thinline::support
