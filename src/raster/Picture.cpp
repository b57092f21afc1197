// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Picture.h"

#include <algorithm>
#include <cmath>

namespace thinline::raster {
namespace {

struct Oklab {
    double l, a, b;
};

double linear(std::uint8_t channel) {
    const double v = channel / 255.0;
    return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
}

Oklab oklab(Rgb c) {
    const double r = linear(c[0]), g = linear(c[1]), b = linear(c[2]);
    const double l = std::cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
    const double m = std::cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
    const double s = std::cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
    return {0.2104542553 * l + 0.7936177850 * m - 0.0040720468 * s,
            1.9779984951 * l - 2.4285922050 * m + 0.4505937099 * s,
            0.0259040371 * l + 0.7827717662 * m - 0.8086757660 * s};
}

} // namespace

Grey brightness(const Picture& picture) {
    Grey grey{picture.width, picture.height, {}};
    const size_t count = static_cast<size_t>(picture.pixels());
    grey.values.resize(count);
    const std::uint8_t* from = picture.rgb.data();
    for (size_t i = 0; i < count; ++i, from += 3)
        grey.values[i] = std::max({from[0], from[1], from[2]});
    return grey;
}

int otsuThreshold(const Grey& grey) {
    std::array<double, 256> histogram{};
    for (std::uint8_t v : grey.values)
        histogram[v] += 1;
    double total = 0, sum = 0;
    int darkest = -1;
    for (size_t v = 0; v < 256; ++v) {
        total += histogram[v];
        sum += static_cast<double>(v) * histogram[v];
        if (darkest < 0 && histogram[v] > 0)
            darkest = static_cast<int>(v);
    }
    double below = 0, sumBelow = 0, best = -1;
    int first = darkest - 1, last = darkest - 1;
    for (size_t v = 0; v < 256; ++v) {
        below += histogram[v];
        sumBelow += static_cast<double>(v) * histogram[v];
        if (below == 0 || below == total)
            continue;
        const double gap = sumBelow / below - (sum - sumBelow) / (total - below);
        const double between = below * (total - below) * gap * gap;
        if (between > best * (1 + 1e-12)) {
            best = between;
            first = last = static_cast<int>(v);
        } else if (between >= best * (1 - 1e-12)) {
            last = static_cast<int>(v); // a flat maximum: an empty stretch of the histogram, take its middle
        }
    }
    return (first + last) / 2;
}

Grey inkMask(const Grey& grey, int threshold) {
    Grey mask{grey.width, grey.height, {}};
    mask.values.resize(grey.values.size());
    std::transform(grey.values.begin(), grey.values.end(), mask.values.begin(), [threshold](std::uint8_t v) {
        return static_cast<std::uint8_t>(v <= threshold ? 255 : 0);
    });
    return mask;
}

void inkLine(Grey& mask, double x0, double y0, double x1, double y1, double widthPx) {
    const double radius = widthPx / 2, dx = x1 - x0, dy = y1 - y0, square = dx * dx + dy * dy;
    const auto bound = [](double v, int most) {
        return static_cast<int>(std::clamp(v, 0.0, static_cast<double>(most)));
    };
    const int left = bound(std::floor(std::min(x0, x1) - radius), mask.width);
    const int right = bound(std::ceil(std::max(x0, x1) + radius), mask.width);
    const int top = bound(std::floor(std::min(y0, y1) - radius), mask.height);
    const int bottom = bound(std::ceil(std::max(y0, y1) + radius), mask.height);
    for (int y = top; y < bottom; ++y)
        for (int x = left; x < right; ++x) {
            const double px = x + 0.5 - x0, py = y + 0.5 - y0;
            const double t = square > 0 ? std::clamp((px * dx + py * dy) / square, 0.0, 1.0) : 0;
            if (std::hypot(px - t * dx, py - t * dy) <= radius)
                mask.at(x, y) = 255;
        }
}

Rgb medianColour(const Picture& picture, const std::vector<std::uint32_t>& pixels) {
    Rgb colour{255, 255, 255};
    if (pixels.empty())
        return colour;
    for (size_t channel = 0; channel < 3; ++channel) {
        std::array<std::uint32_t, 256> histogram{};
        for (std::uint32_t p : pixels)
            ++histogram[picture.rgb[static_cast<size_t>(p) * 3 + channel]];
        std::uint64_t seen = 0;
        for (size_t v = 0; v < 256; ++v) {
            seen += histogram[v];
            if (seen * 2 >= pixels.size()) {
                colour[channel] = static_cast<std::uint8_t>(v);
                break;
            }
        }
    }
    return colour;
}

double colourDistance(Rgb a, Rgb b) {
    const Oklab p = oklab(a), q = oklab(b);
    return std::hypot(p.l - q.l, p.a - q.a, p.b - q.b);
}

double colourfulness(Rgb colour) {
    const Oklab lab = oklab(colour);
    return std::hypot(lab.a, lab.b);
}

} // namespace thinline::raster
