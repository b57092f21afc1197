// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Rectify.h"

#include <array>
#include <cmath>
#include <random>

namespace thinline::support {

/// A sheet as a camera sees it: aslant on a table of wood, in light that falls off, with some grain.
/// Shape: `corners` are where the sheet's lie in the photo, clockwise from its upper left one.
inline raster::Picture photographed(const raster::Picture& sheet, const std::array<geometry::Point, 4>& corners, int width,
                                    int height) {
    const auto seen = raster::Seen::by(corners, 0, width, height, sheet.width, sheet.height);
    raster::Picture out{width, height, {}};
    std::mt19937 random(3);
    std::normal_distribution<double> grain(0, 2);
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            // The mean of three by three places, so that edges are soft as a lens's.
            std::array<double, 3> sum{};
            for (int j = 0; j < 3; ++j)
                for (int i = 0; i < 3; ++i) {
                    const geometry::Point p = seen->toMm({x + (i + 0.5) / 3, y + (j + 0.5) / 3});
                    const bool isOn = p.x >= 0 && p.y >= 0 && p.x < sheet.width && p.y < sheet.height;
                    const double wood = 12 * std::sin(y / 9.0 + 2 * std::sin(x / 60.0));
                    for (size_t k = 0; k < 3; ++k)
                        sum[k] += isOn ? sheet.row(static_cast<int>(p.y))[static_cast<size_t>(p.x) * 3 + k]
                                       : std::array{118.0, 82.0, 56.0}[k] + wood;
                }
            const double light = 1 - 0.25 * x / width - 0.1 * y / height;
            for (const double v : sum)
                out.rgb.push_back(
                    static_cast<std::uint8_t>(std::clamp(std::lround(v / 9 * light + grain(random)), 0L, 255L)));
        }
    return out;
}

} // namespace thinline::support
