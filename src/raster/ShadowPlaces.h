// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "raster/Grain.h"
#include "raster/Picture.h"

#include <array>
#include <cmath>
#include <vector>

/// What is known of a shadow's edge on the way to it; see CastShadow.cpp.
namespace thinline::raster {

/// The mean of 3 x 3 pixels; all of them lie in the picture.
inline Vec meanAround(const Picture& picture, int x, int y) {
    Vec sum{};
    for (int dy = -1; dy <= 1; ++dy)
        for (int dx = -1; dx <= 1; ++dx) {
            const std::uint8_t* p = picture.row(y + dy) + static_cast<size_t>(x + dx) * 3;
            for (size_t k = 0; k < 3; ++k)
                sum[k] += p[k] / 9.0;
        }
    return sum;
}

/// A place where the picture goes from one label to another along a row or a column.
struct Place {
    int x = 0, y = 0;   ///< the last pixel of the first half
    int dx = 0, dy = 0; ///< to the next one
    int reach = 0;      ///< how far to either side it was looked at, px
    bool isFarDark = false;
    std::array<float, 3> logs{};   ///< of the darker end beside the lighter, by channel
    std::array<float, 3> levels{}; ///< of the lighter end
};

/// How far from a place it was looked whether the picture stays as it is, px.
inline int onFrom(int reach) {
    return reach + reach / 2;
}

/// The label at the lighter end of places and the one at the darker end.
using Labels = std::pair<std::int32_t, std::int32_t>;

/// Two labels of one colour, in the light and in the shadow; or one thing that runs through both.
struct Pair {
    std::int32_t lit = 0, dark = 0;
    std::vector<Place> places; ///< those that agree
    std::array<double, 3> factor{}; ///< of channels too dark to say anything: that of the others
    double mean = 0;
    double level = 0; ///< of the lighter end, 0 to 255

    double length() const { return static_cast<double>(places.size()); }
    /// Dark things waver, and paint comes as often as it likes.
    double tells() const { return std::sqrt(length() * level / 255); }
};

/// Returns of every pixel of a picture how much of it is in a shadow, 0 to 255.
/// `isDark` (1 or 0) and the places are of a picture `scale` times as small, which the picture is a finer one of; the sides of the
/// smaller one times `scale` are those of the picture but for a rest below `scale`.
/// Stopped, it is not filled. Cost: O(pixels), about 600 looks more for each pixel of the edge where nothing could be read; 28
/// bytes a pixel.
Grey shadowShares(const Picture& picture, const Grey& isDark, const std::vector<Pair>& pairs, double scale,
                  const base::Progress& progress);

} // namespace thinline::raster
