// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/Photo.h"

#include "raster/Parts.h"
#include "raster/Tones.h"
#include "trace/PlanarMap.h"

#include <algorithm>
#include <cmath>

namespace thinline::trace {
namespace {

using base::Code;
using base::Error;
using raster::Grey;

/// The middle brightness of every tone, darkest last.
std::vector<raster::Rgb> toneColours(const Grey& grey, const std::vector<int>& thresholds) {
    const size_t tones = thresholds.size() + 1;
    std::vector<double> sum(tones, 0), count(tones, 0);
    for (std::uint8_t v : grey.values) {
        const auto at = static_cast<size_t>(
            std::lower_bound(thresholds.begin(), thresholds.end(), static_cast<int>(v)) - thresholds.begin());
        sum[at] += v;
        count[at] += 1;
    }
    std::vector<raster::Rgb> out;
    for (size_t tone = tones; tone-- > 0;) {
        const auto v = static_cast<std::uint8_t>(std::lround(sum[tone] / std::max(1.0, count[tone])));
        out.push_back({v, v, v});
    }
    return out;
}

/// The parts of one layer: where the levels lie above their border.
base::Result<std::vector<geometry::Shape>> layerOf(const Grey& levels, double leastAreaPx, double smoothness,
                                                   const base::Progress& progress) {
    raster::LabelMap sides{levels.width, levels.height, {}};
    for (std::uint8_t v : levels.values)
        sides.labels.push_back(v > raster::kBorderLevel ? 1 : 0);
    if (auto merged = raster::mergeSmall(sides, leastAreaPx, progress); !merged) // what softening left over
        return merged.error();
    auto parts = raster::partsOf(sides, progress);
    if (!parts)
        return parts.error();
    std::vector<std::int32_t> rank; // the layer runs through where pixels meet at a corner
    for (const std::int32_t side : parts->label)
        rank.push_back(1 - side);
    geometry::MeasuredOptions options;
    options.tolerance = 0.4; // of six per neck: a fifteenth of the finest part
    options.leastTurnRad = 0.8;
    options.smoothness = smoothness;
    const raster::LevelAt level = raster::levelsOf(levels);
    auto map = drawMap(
        parts->map, rank, [&](int, int) { return level; }, {.contour = raster::kBorderLevel}, options,
        progress);
    if (!map)
        return map.error();
    return outlinesOf(*map, [&](int face) { return parts->label[static_cast<size_t>(face)] == 1; });
}

} // namespace

base::Result<Tracing> tracePhoto(const raster::Picture& picture, double mmPerPx, const Recipe& recipe,
                                 const base::Progress& progress) {
    if (recipe.tones < 2 || recipe.tones > 8)
        return Error{Code::InvalidArgument,
                     "A photo is cut in 2 to 8 tones, not " + std::to_string(recipe.tones) + "."};
    Tracing out;
    out.widthPx = picture.width;
    out.heightPx = picture.height;
    progress.report(0, "Finding the tones");
    // Finer than this nothing can be cut, so nothing is looked at.
    constexpr double kPxPerNeck = 6, kMostPxPerMm = 6;
    const double neckMm = std::max(0.2, recipe.neckMm);
    const double pxPerMm = std::min({1 / mmPerPx, kPxPerNeck / neckMm, kMostPxPerMm});
    const double shrink = pxPerMm * mmPerPx; // work pixels per picture pixel
    const Grey work = raster::smoothed(raster::shrunk(raster::luma(picture),
                                                      static_cast<int>(std::lround(picture.width * shrink)),
                                                      static_cast<int>(std::lround(picture.height * shrink))),
                                       kPxPerNeck / 2);
    if (progress.isCancelled())
        return base::cancelled();
    const Grey steps = raster::stepped(work);
    const std::vector<int> thresholds = raster::toneThresholds(steps, recipe.tones);
    out.palette = toneColours(steps, thresholds);
    const double neckPx = neckMm * pxPerMm;
    const double leastAreaPx = std::max(recipe.leastAreaMm2, neckMm * neckMm) * pxPerMm * pxPerMm;
    const auto toPicture = geometry::Transform::scale(static_cast<double>(picture.width) / work.width,
                                                      static_cast<double>(picture.height) / work.height);
    const auto lay = [&](const geometry::Shape& shape, int tone) {
        const geometry::Shape placed = geometry::rounded(geometry::transformed(shape, toPicture), 1e-4);
        out.areas.push_back({static_cast<int>(out.areas.size() + 1), placed, geometry::pointInside(placed),
                             out.palette[static_cast<size_t>(tone)], tone});
    };
    const double w = work.width, h = work.height;
    lay({geometry::contourThrough({{0, 0}, {w, 0}, {w, h}, {0, h}}), {}}, 0);
    // Lightest first: a map of two sides for everything darker than each threshold. The maps lie in one
    // another as the tones do; none of their borders meet.
    Grey before, below{work.width, work.height, std::vector<std::uint8_t>(work.values.size(), 255)};
    for (size_t k = thresholds.size(); k-- > 0;) {
        const int tone = static_cast<int>(thresholds.size() - k);
        const auto progressed = [&](double share) {
            return 0.3 + 0.7 * (tone - 1 + share) / (recipe.tones - 1);
        };
        progress.report(progressed(0), "Fitting curves");
        Grey mask = work;
        for (std::uint8_t& v : mask.values)
            v = v <= thresholds[k] ? 255 : 0;
        auto kept = raster::sturdy(mask, neckPx, leastAreaPx, progress);
        if (!kept)
            return kept.error();
        Grey sturdy = kept.take();
        if (recipe.bridgesMm > 0) {
            const auto joined = raster::bridged(sturdy, below, recipe.bridgesMm * pxPerMm, neckPx, progress);
            if (!joined)
                return joined.error();
            out.bridges += *joined;
        }
        below = sturdy;
        const Grey levels = raster::bordered(work, thresholds[k], sturdy);
        const bool isWhole =
            std::find(sturdy.values.begin(), sturdy.values.end(), std::uint8_t{0}) == sturdy.values.end();
        if (isWhole || levels.values == before.values)
            continue; // nothing lies lighter, or no tone in between
        auto layer =
            layerOf(levels, leastAreaPx, recipe.smoothness, progress.part(progressed(0), progressed(1)));
        if (!layer)
            return layer.error();
        for (const geometry::Shape& shape : *layer)
            lay(shape, tone);
        before = levels;
    }
    if (out.areas.size() < 2)
        return Error{Code::Degenerate,
                     "The picture has only one tone that is wide enough to cut; give it a larger "
                     "width or a smaller neck."};
    out.paper = out.palette.front();
    progress.report(1, "Done");
    return out;
}

} // namespace thinline::trace
