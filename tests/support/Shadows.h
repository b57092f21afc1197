// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Picture.h"

#include <algorithm>
#include <cmath>
#include <random>

namespace thinline::support {

/// A picture as a camera sees it with a shadow over its right part: everything beyond a slanting edge is `light` as light, the
/// edge a few pixels soft, all of it with a little grain.
inline raster::Picture inShadow(raster::Picture picture, double light, double softPx = 1, double grain = 1.5) {
    std::mt19937 random(7);
    std::normal_distribution<double> noise(0, grain);
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x) {
            const double beyond = x + 0.4 * y - 0.62 * picture.width,
                         factor = 1 - (1 - light) / (1 + std::exp(-beyond / softPx));
            for (size_t k = 0; k < 3; ++k) {
                std::uint8_t& v = picture.rgb[(static_cast<size_t>(y) * static_cast<size_t>(picture.width) + static_cast<size_t>(x)) * 3 + k];
                v = static_cast<std::uint8_t>(std::clamp(std::lround(v * factor + noise(random)), 0L, 255L));
            }
        }
    return picture;
}

} // namespace thinline::support
