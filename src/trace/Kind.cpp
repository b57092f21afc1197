// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/Kind.h"

#include "base/Length.h"
#include "raster/CastShadow.h"
#include "raster/Colour.h"
#include "raster/Colouring.h"

#include <algorithm>
#include <cmath>
#include <tuple>

namespace thinline::trace {
namespace {

/// Every n-th pixel of every n-th row: no colours are mixed.
raster::Picture thinned(const raster::Picture& picture, int step) {
    raster::Picture out{(picture.width + step - 1) / step, (picture.height + step - 1) / step, {}};
    out.rgb.reserve(static_cast<size_t>(out.pixels()) * 3);
    for (int y = 0; y < picture.height; y += step)
        for (int x = 0; x < picture.width; x += step) {
            const std::uint8_t* p = picture.row(y) + static_cast<size_t>(x) * 3;
            out.rgb.insert(out.rgb.end(), p, p + 3);
        }
    return out;
}

/// How much of each colour there is, and how its borders run.
struct Use {
    double area = 0, border = 0, frame = 0;
    double strokePx() const { return border > 0 ? 2 * area / (border * 0.8) : 0; } // stairs are longer than lines
};

std::vector<Use> usesOf(const raster::LabelMap& map, size_t colours) {
    std::vector<Use> out(colours);
    for (int y = 0; y < map.height; ++y)
        for (int x = 0; x < map.width; ++x) {
            const std::int32_t mine = map.at(x, y);
            Use& use = out[static_cast<size_t>(mine)];
            ++use.area;
            use.frame += x == 0 || y == 0 || x + 1 == map.width || y + 1 == map.height;
            for (const auto& [dx, dy] : {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}})
                use.border += map.at(x + dx, y + dy) >= 0 && map.at(x + dx, y + dy) != mine;
        }
    return out;
}

double alongOf(const raster::LabelMap& map, const std::vector<bool>& isInk) {
    double all = 0, along = 0;
    for (int y = 0; y < map.height; ++y)
        for (int x = 0; x < map.width; ++x)
            for (const auto& [dx, dy] : {std::pair{1, 0}, {0, 1}}) {
                const std::int32_t a = map.at(x, y), b = map.at(x + dx, y + dy);
                if (b < 0 || a == b)
                    continue;
                ++all;
                along += isInk[static_cast<size_t>(a)] || isInk[static_cast<size_t>(b)];
            }
    return all > 0 ? along / all : 0;
}

/// Colours that lines may be drawn in on a ground.
std::vector<bool> inksOn(size_t ground, const std::vector<raster::Rgb>& palette, const std::vector<Use>& uses,
                         double thickestPx) {
    constexpr double kDark = 45, kGrey = 28, kContrast = 22, kThinContrast = 12, kThinPx = 4.5; // thin lines are blurred away
    std::vector<bool> out(palette.size(), false);
    const raster::Lab below = raster::labOf(palette[ground]);
    for (size_t i = 0; i < palette.size(); ++i) {
        const raster::Lab lab = raster::labOf(palette[i]);
        const bool isGrey = std::hypot(lab.a, lab.b) < kGrey;
        const double contrast = uses[i].strokePx() < kThinPx ? kThinContrast : kContrast;
        const bool isDarker = below.l - lab.l > contrast, isLighter = below.l < kDark && lab.l - below.l > 2 * contrast;
        out[i] = i != ground && isGrey && (isDarker || isLighter) && uses[i].strokePx() < thickestPx;
    }
    return out;
}

/// By how much the pixels of a thing differ from its local colour: averaged over three by three, and one from another within
/// them. Grain is lost in the average; what a photo shows is not.
std::pair<double, double> textureOf(const raster::Picture& picture, const raster::Colouring& colouring) {
    double coarse = 0, fine = 0, count = 0;
    constexpr int kClear = 4; // px from soft edges
    for (int y = kClear; y + kClear < picture.height; y += 2)
        for (int x = kClear; x + kClear < picture.width; x += 2) {
            const std::int32_t label = colouring.map.at(x, y);
            bool isOne = true;
            for (int dy = -kClear; dy <= kClear && isOne; dy += 2)
                for (int dx = -kClear; dx <= kClear && isOne; dx += 2)
                    isOne = colouring.map.at(x + dx, y + dy) == label;
            if (!isOne)
                continue;
            double sum = 0, squares = 0;
            for (int dy = -1; dy <= 1; ++dy)
                for (int dx = -1; dx <= 1; ++dx) {
                    const double v = raster::yccOf(raster::pixel(picture, x + dx, y + dy))[0];
                    sum += v;
                    squares += v * v;
                }
            const double mean = sum / 9;
            coarse += std::abs(mean - colouring.colours.near(static_cast<size_t>(label), x, y)[0]);
            fine += std::sqrt(std::max(0.0, squares / 9 - mean * mean));
            ++count;
        }
    return count > 0 ? std::pair{coarse / count, fine / count} : std::pair{0.0, 0.0};
}

bool isLines(const Kind& kind) {
    constexpr double kMostly = 0.82;
    return kind.alongInk > kMostly || kind.colours < 2;
}

void decide(Kind& kind) {
    constexpr double kTextured = 1, kOverGrain = 0.54, kRounding = 0.3;
    // Lines a pixel or two thick leave something of themselves in what lies beside them.
    const double overGrain = kind.alongInk > 0.9 && kind.colours <= 3 ? 1.5 * kOverGrain : kOverGrain;
    constexpr int kMany = 24; // colours nobody would draw with
    const auto percent = [](double share) { return std::to_string(static_cast<int>(std::lround(100 * share))) + " %"; };
    // Where much is left unexplained the local colours are wrong, and so is the texture.
    constexpr double kFailed = 0.04;
    if ((kind.texture > kTextured && kind.texture > overGrain * (kind.grain + kRounding) && kind.left < kFailed) ||
        kind.colours > kMany) {
        kind.mode = Mode::Photo;
        kind.isLightOnDark = false;
        kind.why = kind.colours > kMany ? std::to_string(kind.colours) + " colours stand apart"
                                        : "its things are textured, by " + base::formatNumber(kind.texture, 1) +
                                              " levels beyond light and gradients";
        return;
    }
    if (isLines(kind)) {
        kind.mode = Mode::LineDrawing;
        kind.why = kind.colours < 2 ? "nothing is drawn that stands apart from the paper"
                                    : percent(kind.alongInk) + " of its borders run along " +
                                          (kind.isLightOnDark ? "light lines on a dark ground" : "lines") + " " +
                                          base::formatNumber(kind.strokePx, 0) + " px thick";
        return;
    }
    kind.mode = Mode::FlatArt;
    kind.isLightOnDark = false;
    kind.why = std::to_string(kind.colours) + " colours, " + percent(kind.alongInk) + " of their borders along lines";
}

/// What a picture is taken for whose colours are told apart.
Kind readAs(const raster::Picture& picture, const raster::Colouring& colouring, int step) {
    Kind out;
    std::tie(out.texture, out.grain) = textureOf(picture, colouring);
    const std::vector<raster::Rgb>& palette = colouring.palette;
    out.colours = static_cast<int>(palette.size());
    out.even = colouring.sure;
    out.left = colouring.unexplained;
    const std::vector<Use> uses = usesOf(colouring.map, palette.size());
    const auto ground = static_cast<size_t>(
        std::max_element(uses.begin(), uses.end(), [](const Use& a, const Use& b) { return a.frame < b.frame; }) -
        uses.begin());
    constexpr double kThickest = 0.04;
    const double thickest = std::max(4.0, kThickest * std::min(picture.width, picture.height));
    const std::vector<bool> isInk = inksOn(ground, palette, uses, thickest);
    out.alongInk = alongOf(colouring.map, isInk);
    double most = 0;
    for (size_t i = 0; i < palette.size(); ++i)
        if (isInk[i] && uses[i].border > most) {
            most = uses[i].border;
            out.strokePx = uses[i].strokePx() * step;
            out.isLightOnDark = raster::labOf(palette[i]).l > raster::labOf(palette[ground]).l;
        }
    return out;
}

} // namespace

Kind kindOf(const raster::Picture& given) {
    if (given.isEmpty())
        return {};
    constexpr double kMostPixels = 6e5;
    const int step = std::max(
        1, static_cast<int>(std::lround(std::sqrt(static_cast<double>(given.pixels()) / kMostPixels))));
    const raster::Picture picture = step > 1 ? thinned(given, step) : given;
    const auto found = raster::coloured(picture);
    if (!found)
        return {};
    Kind out = readAs(picture, *found, step);
    constexpr double kFlat = 0.05; // a photo is full of shadows
    const auto shadow = out.left < kFlat ? raster::castShadowIn(picture, *found) : std::nullopt;
    if (shadow && shadow->isOnGround) {
        const raster::Picture light = raster::withoutShadow(picture, *shadow);
        if (const auto again = raster::coloured(light)) {
            Kind without = readAs(light, *again, step);
            without.texture = out.texture; // the shadow's grain is brightened along
            without.grain = out.grain;
            if (shadow->isSure || isLines(without))
                out = without;
        }
    }
    decide(out);
    return out;
}

} // namespace thinline::trace
