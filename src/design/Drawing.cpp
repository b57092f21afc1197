// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Drawing.h"

#include "design/DrawnLines.h"
#include "geometry/Boolean.h"
#include "geometry/Offset.h"
#include "geometry/Thin.h"

#include <algorithm>
#include <map>
#include <string_view>
#include <unordered_map>

namespace thinline::design {
namespace {

using Shapes = std::vector<geometry::Shape>;

/// The colour of card that is drawn by its outline alone. Black is a pen's colour, not a card's: nobody said what it is cut from.
std::optional<raster::Rgb> cardOf(const std::optional<raster::Rgb>& stroke) {
    constexpr int kInk = 60;
    return stroke && std::max({(*stroke)[0], (*stroke)[1], (*stroke)[2]}) < kInk ? std::nullopt : stroke;
}

/// The band along a closed outline, half of the stroke's width to either side.
base::Result<Shapes> bandOf(const geometry::Contour& outline, double widthMm,
                            const base::Progress& progress) {
    auto area = geometry::areasOf({outline}, geometry::FillRule::NonZero, progress);
    if (!area)
        return area.error();
    auto outer = geometry::offset(*area, widthMm / 2, {.join = geometry::Join::Mitre}, progress);
    if (!outer)
        return outer.error();
    auto inner = geometry::offset(*area, -widthMm / 2, {.join = geometry::Join::Mitre}, progress);
    if (!inner)
        return inner.error();
    return geometry::subtract(outer->shapes, inner->shapes, progress);
}

/// The strips a stroke covers.
base::Result<Shapes> stripsOf(const DrawnItem& item, const base::Progress& progress) {
    Shapes all;
    const auto take = [&](base::Result<Shapes> strip) -> base::Status {
        if (!strip)
            return strip.error();
        all.insert(all.end(), strip->begin(), strip->end());
        return base::Done{};
    };
    for (const geometry::Contour& outline : item.contours)
        if (auto ok = take(bandOf(outline, item.strokeWidthMm, progress)); !ok)
            return ok.error();
    for (const geometry::Contour& line : item.lines)
        if (auto ok = take(geometry::strokeOutline(line, item.strokeWidthMm, geometry::Cap::Butt,
                                                   {.join = geometry::Join::Mitre}, progress));
            !ok)
            return ok.error();
    return geometry::weld(all, progress);
}

/// What clips leave to be seen, each worked out once.
using Rooms = std::map<const Clip*, Shapes>;

base::Result<const Shapes*> roomOf(const Clip& clip, Rooms& rooms, const base::Progress& progress) {
    const auto [at, isNew] = rooms.try_emplace(&clip);
    if (!isNew)
        return &at->second;
    for (const Outlines& one : clip) {
        auto areas = geometry::areasOf(one.contours, one.rule, progress);
        if (!areas)
            return areas.error();
        at->second.insert(at->second.end(), areas->begin(), areas->end());
    }
    return &at->second;
}

base::Result<Shapes> clipped(Shapes shapes, const std::vector<std::shared_ptr<const Clip>>& clips,
                             Rooms& rooms, const base::Progress& progress) {
    for (const auto& clip : clips) {
        const auto room = roomOf(*clip, rooms, progress);
        if (!room)
            return room.error();
        auto rest = geometry::intersect(shapes, **room, progress);
        if (!rest)
            return rest.error();
        shapes = rest.take();
    }
    return shapes;
}

base::Result<Shapes> areasOfItem(const DrawnItem& item, const TakeOptions& options, Rooms& rooms,
                                 const base::Progress& progress) {
    Shapes all;
    const bool isStrip = options.strokesAsAreas && item.stroke && item.strokeWidthMm > 0;
    if (!item.contours.empty() && (item.fill || !isStrip)) {
        auto areas = geometry::areasOf(item.contours, item.rule, progress);
        if (!areas)
            return areas.error();
        all = areas.take();
    }
    if (isStrip) {
        auto strips = stripsOf(item, progress);
        if (!strips)
            return strips.error();
        Shapes both = strips.take();
        both.insert(both.end(), all.begin(), all.end());
        auto welded = geometry::weld(both, progress);
        if (!welded)
            return welded.error();
        all = welded.take();
    }
    return options.appliesClips && !item.clips.empty() ? clipped(std::move(all), item.clips, rooms, progress)
                                                       : std::move(all);
}

} // namespace

void thinOut(DrawnPage& page) {
    constexpr size_t kMany = 20'000;
    constexpr double kStrayMm = 0.00025;
    size_t before = 0, after = 0;
    for (DrawnItem& item : page.items)
        for (auto* contours : {&item.contours, &item.lines})
            for (geometry::Contour& contour : *contours) {
                if (contour.segments.size() <= kMany)
                    continue;
                before += contour.segments.size();
                contour = geometry::thinned(contour, kStrayMm);
                after += contour.segments.size();
            }
    if (after < before)
        page.said.push_back("outlines of " + std::to_string(before) + " steps were drawn with " +
                            std::to_string(after) + ", nowhere more than 0.00025 mm beside them");
}

namespace {

base::Result<std::vector<DrawnPiece>>
areasOfPage(const std::vector<DrawnItem>& items, const TakeOptions& options, const base::Progress& progress) {
    std::vector<DrawnPiece> out;
    Rooms rooms;
    size_t done = 0;
    for (const DrawnItem& item : items) {
        const double at = static_cast<double>(done++) / static_cast<double>(items.size());
        progress.report(at, "Cleaning the outlines");
        if (options.leftOut.contains(item.layer))
            continue;
        auto areas = areasOfItem(item, options, rooms, progress.part(at, at));
        if (!areas)
            return areas.error();
        const bool isStrip = options.strokesAsAreas && item.stroke && !item.fill;
        for (const geometry::Shape& shape : *areas)
            out.push_back({shape,
                           isStrip     ? item.stroke
                           : item.fill ? item.fill
                                       : cardOf(item.stroke),
                           item.id, item.layer});
    }
    return out;
}

} // namespace

base::Result<TakenPage> takenFrom(const DrawnPage& page, const TakeOptions& options,
                                  const base::Progress& progress) {
    constexpr double kLargestMm = 10'000;
    if (!(page.widthMm > 0) || !(page.heightMm > 0) || page.widthMm > kLargestMm ||
        page.heightMm > kLargestMm)
        return base::Error{
            base::Code::Degenerate,
            "The page of this drawing has no size that can be meant; set one where it was drawn."};
    TakenPage out;
    std::vector<Strokes> strokes;
    std::vector<DrawnItem> nested;
    const std::vector<DrawnItem>* items = &page.items;
    if (!options.strokesAsAreas) {
        auto found = strokesOf(page, options, progress.part(0, 0));
        if (!found)
            return found.error();
        strokes = found.take();
    }
    if (!strokes.empty()) {
        nested = page.items;
        nestOutlines(strokes, nested);
        items = &nested;
    }
    auto pieces = areasOfPage(*items, options, progress.part(0, 0.8));
    if (!pieces)
        return pieces.error();
    out.pieces = pieces.take();
    for (Strokes& kind : strokes)
        judge(kind, out.pieces, options);
    if (auto ok = layStrokes(strokes, page.items, out, progress.part(0.8, 1)); !ok)
        return ok.error();
    for (const Strokes& kind : strokes)
        out.kinds.push_back(kind.kind);
    if (out.pieces.empty() && options.leftOut.empty())
        return base::Error{
            base::Code::Degenerate,
            "No outline in this drawing bounds an area" +
                (out.kinds.empty() ? std::string(".") : "; it holds " + out.kinds.front().words + ".")};
    return out;
}

base::Result<std::vector<DrawnPiece>> piecesOf(const DrawnPage& page, const TakeOptions& options,
                                               const base::Progress& progress) {
    auto taken = takenFrom(page, options, progress);
    if (!taken)
        return taken.error();
    return std::move(taken.take().pieces);
}

std::vector<DrawnLayer> layersOf(const DrawnPage& page) {
    std::vector<DrawnLayer> out;
    std::unordered_map<std::string_view, size_t> known;
    for (const DrawnItem& item : page.items) {
        const auto [at, isNew] = known.try_emplace(item.layer, out.size());
        if (isNew)
            out.push_back({item.layer, 0, item.fill ? item.fill : item.stroke});
        ++out[at->second].items;
    }
    return out;
}

} // namespace thinline::design
