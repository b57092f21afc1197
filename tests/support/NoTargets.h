// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Canvas.h"
#include "raster/Targets.h"

#include <algorithm>
#include <random>

namespace thinline::support {

/// Pictures with everything but targets: rings, crosses, letters' shapes, bars, stripes, noise.
inline raster::Picture withoutTargets(unsigned seed) {
    std::mt19937 random(seed);
    const auto between = [&](double least, double most) {
        return std::uniform_real_distribution<double>(least, most)(random);
    };
    const auto colour = [&] {
        return raster::Rgb{static_cast<std::uint8_t>(between(0, 255)),
                           static_cast<std::uint8_t>(between(0, 255)),
                           static_cast<std::uint8_t>(between(0, 255))};
    };
    raster::Canvas canvas(360, 280, colour());
    const geometry::Polygons target = raster::targetRings();
    for (int i = 0; i < 40; ++i) {
        const geometry::Point at{between(0, 360), between(0, 280)};
        const double size = between(0.8, 6);
        const auto put = [&](geometry::Polygons rings) {
            for (auto& ring : rings)
                for (geometry::Point& p : ring)
                    p = at + p * size;
            canvas.fill(rings, colour());
        };
        switch (static_cast<int>(between(0, 6))) {
        case 0:
            put({target[0], target[1]}); // a ring
            break;
        case 1:
            put({target[2]}); // a cross
            break;
        case 2:
            put({target[0]}); // a disc
            break;
        case 3:
            put({{{-5, -1}, {5, -1}, {5, 1}, {-5, 1}}});
            break;
        case 4: // a ring with a bar across
            put({target[0], target[1]});
            put({{{-3.5, -0.6}, {3.5, -0.6}, {3.5, 0.6}, {-3.5, 0.6}}});
            break;
        default:
            put({{{-4, -4}, {4, -4}, {4, 4}, {-4, 4}}});
        }
    }
    raster::Picture out = canvas.picture();
    std::normal_distribution<double> noise(0, between(0, 8));
    for (std::uint8_t& value : out.rgb)
        value = static_cast<std::uint8_t>(std::clamp(value + noise(random), 0.0, 255.0));
    return out;
}

} // namespace thinline::support
