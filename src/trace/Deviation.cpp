// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/Deviation.h"

#include "raster/Canvas.h"
#include "raster/Shading.h"

#include <algorithm>

namespace thinline::trace {

namespace {

/// The picture as its areas' colours are given: in even light, its paper as white as theirs.
raster::Picture inEvenLight(const raster::Picture& picture, raster::Rgb paper) {
    raster::Picture out = raster::unshaded(picture, raster::shadingOf(picture));
    std::vector<std::uint32_t> frame;
    const auto w = static_cast<std::uint32_t>(out.width), h = static_cast<std::uint32_t>(out.height);
    for (std::uint32_t x = 0; x < w; ++x)
        frame.insert(frame.end(), {x, (h - 1) * w + x});
    for (std::uint32_t y = 0; y < h; ++y)
        frame.insert(frame.end(), {y * w, y * w + w - 1});
    const raster::Rgb seen = raster::medianColour(out, frame);
    for (size_t i = 0; i < out.rgb.size(); ++i)
        out.rgb[i] = static_cast<std::uint8_t>(std::min(255, out.rgb[i] * paper[i % 3] / std::max<int>(1, seen[i % 3])));
    return out;
}

/// A colour as it looks in a shadow.
raster::Rgb dimmed(raster::Rgb colour, double light) {
    for (std::uint8_t& v : colour)
        v = static_cast<std::uint8_t>(v * light + 0.5);
    return colour;
}

} // namespace

Deviation deviationOf(const raster::Picture& given, const Tracing& tracing) {
    const raster::Picture evened = tracing.isInEvenLight ? inEvenLight(given, tracing.paper) : raster::Picture{};
    const raster::Picture& picture = evened.isEmpty() ? given : evened;
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
    const double light = tracing.shadow && tracing.shadow->isTakenOut ? tracing.shadow->light : 1;
    std::vector<std::uint8_t> differs(static_cast<size_t>(picture.pixels()), 0);
    for (size_t i = 0; i < differs.size(); ++i) {
        const std::uint32_t drawn = canvas.pixels()[i];
        const raster::Rgb there{picture.rgb[3 * i], picture.rgb[3 * i + 1], picture.rgb[3 * i + 2]},
            here{static_cast<std::uint8_t>(drawn >> 16), static_cast<std::uint8_t>(drawn >> 8),
                 static_cast<std::uint8_t>(drawn)};
        if (there != here)
            differs[i] = raster::colourDistance(there, here) > kClearly &&
                         (light == 1 || raster::colourDistance(there, dimmed(here, light)) > kClearly);
    }
    Deviation out{given, 0};
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
