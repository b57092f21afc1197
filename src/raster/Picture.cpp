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

using Histogram = std::array<double, 256>;

/// How a histogram parts into dark and light.
struct Partition {
    int threshold = 0;
    double gap = 0;       ///< levels between the two means
    double explained = 0; ///< share of the variance that lies between the two
    double below = 0;     ///< pixels on the dark side
};

/// Otsu's partition of the levels 0 to `most`.
Partition partition(const Histogram& histogram, int most) {
    double total = 0, sum = 0, squares = 0;
    int darkest = -1;
    for (int v = 0; v <= most; ++v) {
        const double n = histogram[static_cast<size_t>(v)];
        total += n;
        sum += v * n;
        squares += static_cast<double>(v) * v * n;
        if (darkest < 0 && n > 0)
            darkest = v;
    }
    Partition out{darkest - 1, 0, 0, 0};
    double below = 0, sumBelow = 0, best = -1;
    int first = darkest - 1, last = darkest - 1;
    for (int v = 0; v <= most; ++v) {
        below += histogram[static_cast<size_t>(v)];
        sumBelow += v * histogram[static_cast<size_t>(v)];
        if (below == 0 || below == total)
            continue;
        const double gap = (sum - sumBelow) / (total - below) - sumBelow / below;
        const double between = below * (total - below) * gap * gap;
        if (between > best * (1 + 1e-12)) {
            best = between;
            first = last = v;
            out.gap = gap;
            out.below = below;
        } else if (between >= best * (1 - 1e-12)) {
            last = v; // a flat maximum: an empty stretch of the histogram, take its middle
        }
    }
    const double variance = squares * total - sum * sum;
    out.explained = variance > 0 ? best / variance : 0;
    out.threshold = (first + last) / 2;
    return out;
}

} // namespace

std::string hexOf(Rgb colour) {
    static constexpr char kHex[] = "0123456789abcdef";
    std::string out;
    for (std::uint8_t channel : colour)
        out += {kHex[channel >> 4], kHex[channel & 15]};
    return out;
}

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
    Histogram histogram{};
    for (std::uint8_t v : grey.values)
        histogram[v] += 1;
    return partition(histogram, 255).threshold;
}

int inkThreshold(const Grey& grey) {
    constexpr int kEven = 8;             // levels between neighbours that JPEG and paper grain still produce
    constexpr double kLeastShare = 0.2;  // of all pixels; below it the picture has no even areas to speak of
    constexpr double kLeastGap = 40;     // levels between ink and a wash, else they are one colour
    constexpr double kLeastParted = 0.8; // of the variance explained by two levels
    constexpr double kLeastInk = 0.002;  // of the even pixels; less is dust
    Histogram histogram{};
    double count = 0;
    for (int y = 0; y + 1 < grey.height; ++y)
        for (int x = 0; x + 1 < grey.width; ++x) {
            const int v = grey.at(x, y);
            if (std::abs(v - grey.at(x + 1, y)) <= kEven && std::abs(v - grey.at(x, y + 1)) <= kEven) {
                histogram[static_cast<size_t>(v)] += 1;
                count += 1;
            }
        }
    if (count < kLeastShare * static_cast<double>(grey.values.size()))
        return otsuThreshold(grey);
    Partition parts = partition(histogram, 255);
    for (;;) {
        const Partition dark = partition(histogram, parts.threshold);
        if (dark.gap < kLeastGap || dark.explained < kLeastParted || dark.below < kLeastInk * count)
            return parts.threshold;
        parts = dark;
    }
}

Grey inkMask(const Grey& grey, int threshold) {
    Grey mask{grey.width, grey.height, {}};
    mask.values.resize(grey.values.size());
    std::transform(grey.values.begin(), grey.values.end(), mask.values.begin(), [threshold](std::uint8_t v) {
        return static_cast<std::uint8_t>(v <= threshold ? 255 : 0);
    });
    return mask;
}

void inkLine(Grey& grey, double x0, double y0, double x1, double y1, double widthPx, std::uint8_t ink) {
    const double radius = widthPx / 2, reach = radius + 0.5, dx = x1 - x0, dy = y1 - y0,
                 square = dx * dx + dy * dy;
    const auto bound = [](double v, int most) {
        return static_cast<int>(std::clamp(v, 0.0, static_cast<double>(most)));
    };
    const int left = bound(std::floor(std::min(x0, x1) - reach), grey.width);
    const int right = bound(std::ceil(std::max(x0, x1) + reach), grey.width);
    const int top = bound(std::floor(std::min(y0, y1) - reach), grey.height);
    const int bottom = bound(std::ceil(std::max(y0, y1) + reach), grey.height);
    for (int y = top; y < bottom; ++y)
        for (int x = left; x < right; ++x) {
            const double px = x + 0.5 - x0, py = y + 0.5 - y0;
            const double t = square > 0 ? std::clamp((px * dx + py * dy) / square, 0.0, 1.0) : 0;
            const double cover = std::clamp(reach - std::hypot(px - t * dx, py - t * dy), 0.0, 1.0);
            const int there = grey.at(x, y);
            if (there > ink)
                grey.at(x, y) = static_cast<std::uint8_t>(std::lround(there + cover * (ink - there)));
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
