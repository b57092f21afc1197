// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/Photo.h"

#include "raster/Palette.h"
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
    // Lightest first: the mask of everything darker than each threshold.
    const double neckPx = neckMm * pxPerMm;
    const double leastAreaPx = std::max(recipe.leastAreaMm2, neckMm * neckMm) * pxPerMm * pxPerMm;
    std::vector<Grey> soft;
    raster::LabelMap tones{work.width, work.height, std::vector<std::int32_t>(work.values.size(), 0)};
    for (size_t k = thresholds.size(); k-- > 0;) {
        Grey dark = steps;
        for (std::uint8_t& v : dark.values)
            v = v <= thresholds[k] ? 255 : 0;
        auto kept = raster::sturdy(dark, neckPx, leastAreaPx, progress);
        if (!kept)
            return kept.error();
        for (size_t i = 0; i < tones.labels.size(); ++i)
            tones.labels[i] += kept->values[i] ? 1 : 0;
        soft.push_back(raster::bordered(work, steps, thresholds[k], *kept));
    }
    auto found = raster::partsOf(tones, progress);
    if (!found)
        return found.error();
    const raster::Parts parts = found.take();
    progress.report(0.5, "Fitting curves");
    // Between two tones runs the border of every mask that parts them; the middle one says where.
    const LevelsFor levels = [&](int right, int left) -> raster::LevelAt {
        const std::int32_t a = parts.label[static_cast<size_t>(right)],
                           b = parts.label[static_cast<size_t>(left)];
        return [&grey = soft[static_cast<size_t>((a + b - 1) / 2)]](int x, int y) {
            return static_cast<double>(
                grey.at(std::clamp(x, 0, grey.width - 1), std::clamp(y, 0, grey.height - 1)));
        };
    };
    std::vector<std::int32_t> rank;
    for (const std::int32_t tone : parts.label)
        rank.push_back(recipe.tones - tone); // the darker runs through
    geometry::MeasuredOptions options;
    options.tolerance = 0.3; // of six per neck: a twentieth of the finest part
    options.leastTurnRad = 0.8;
    options.smoothness = recipe.smoothness;
    auto drawn = drawMap(parts.map, rank, levels, {.leastStep = 16, .contour = raster::kBorderLevel}, options,
                         progress.part(0.5, 0.95));
    if (!drawn)
        return drawn.error();
    const auto toPicture = geometry::Transform::scale(static_cast<double>(picture.width) / work.width,
                                                      static_cast<double>(picture.height) / work.height);
    for (int tone = 0; tone < recipe.tones; ++tone) {
        // A tone that shows nowhere would lie wholly under the next darker one.
        if (std::find(parts.label.begin(), parts.label.end(), tone) == parts.label.end())
            continue;
        for (const geometry::Shape& shape :
             outlinesOf(*drawn, [&](int face) { return parts.label[static_cast<size_t>(face)] >= tone; })) {
            const geometry::Shape placed = keptShape(geometry::transformed(shape, toPicture));
            out.areas.push_back({static_cast<design::PieceId>(out.areas.size() + 1), placed,
                                 geometry::pointInside(placed), out.palette[static_cast<size_t>(tone)],
                                 tone});
        }
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
