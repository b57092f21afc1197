// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/Deviation.h"

#include "raster/Canvas.h"

#include <algorithm>

namespace thinline::trace {

Deviation deviationOf(const raster::Picture& picture, const Tracing& tracing) {
    constexpr double kFlatPx = 0.1;
    constexpr raster::Rgb kInk{24, 24, 24}, kStrong{214, 40, 90};
    raster::Canvas canvas(picture.width, picture.height, tracing.paper);
    for (const geometry::Shape& shape : tracing.ink)
        canvas.fill(geometry::flatten(shape, kFlatPx), kInk);
    std::vector<const Area*> order; // lowest first, as they lie on one another
    for (const Area& area : tracing.areas)
        order.push_back(&area);
    std::stable_sort(order.begin(), order.end(),
                     [](const Area* a, const Area* b) { return a->level < b->level; });
    for (const Area* area : order)
        canvas.fill(geometry::flatten(area->shape, kFlatPx), area->colour);

    constexpr double kClearly = 0.16; // about eight just visible steps: grain and shade stay below
    const auto w = static_cast<size_t>(picture.width);
    std::vector<std::uint8_t> differs(static_cast<size_t>(picture.pixels()), 0);
    for (size_t i = 0; i < differs.size(); ++i) {
        const std::uint32_t drawn = canvas.pixels()[i];
        const raster::Rgb there{picture.rgb[3 * i], picture.rgb[3 * i + 1], picture.rgb[3 * i + 2]},
            here{static_cast<std::uint8_t>(drawn >> 16), static_cast<std::uint8_t>(drawn >> 8),
                 static_cast<std::uint8_t>(drawn)};
        if (there != here)
            differs[i] = raster::colourDistance(there, here) > kClearly;
    }
    Deviation out{picture, 0};
    for (std::uint8_t& v : out.picture.rgb)
        v = static_cast<std::uint8_t>(255 - (255 - v) * 2 / 5);
    std::int64_t count = 0;
    for (int y = 1; y + 1 < picture.height; ++y)
        for (int x = 1; x + 1 < picture.width; ++x) {
            const size_t at = static_cast<size_t>(y) * w + static_cast<size_t>(x);
            if (!differs[at] || !differs[at - 1] || !differs[at + 1] || !differs[at - w] || !differs[at + w])
                continue;
            ++count;
            for (const size_t near : {at, at - 1, at + 1, at - w, at + w})
                std::copy(kStrong.begin(), kStrong.end(),
                          out.picture.rgb.begin() + static_cast<std::ptrdiff_t>(3 * near));
        }
    out.share = picture.isEmpty() ? 0 : static_cast<double>(count) / static_cast<double>(picture.pixels());
    return out;
}

} // namespace thinline::trace
