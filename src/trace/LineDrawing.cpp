// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/LineDrawing.h"

#include "base/Length.h"
#include "geometry/Offset.h"
#include "raster/Regions.h"
#include "trace/Outlines.h"

#include <algorithm>

namespace thinline::trace {
namespace {

using base::Code;
using base::Error;
using raster::Connectivity;
using raster::Grey;
using raster::Region;
using raster::Regions;

constexpr std::uint8_t kInk = 255;
constexpr std::uint8_t kPaper = 0;

void paintRegion(Grey& mask, const Region& region, std::uint8_t value) {
    for (const raster::Run& run : region.runs)
        std::fill(&mask.at(run.x0, run.y), &mask.at(run.x0, run.y) + (run.x1 - run.x0), value);
}

/// The colour of an area, away from the fringes of the ink.
raster::Rgb colourOf(const raster::Picture& picture, const Region& region) {
    constexpr std::int64_t kSamples = 20000; // plenty for a median, and bounded for the largest area
    constexpr int kFringePx = 2;
    const std::int64_t stride = std::max<std::int64_t>(1, region.areaPx / kSamples);
    const auto collect = [&](int fringe) {
        std::vector<std::uint32_t> pixels;
        std::int64_t count = 0;
        for (const raster::Run& run : region.runs)
            for (int x = run.x0 + fringe; x < run.x1 - fringe; ++x)
                if (count++ % stride == 0)
                    pixels.push_back(static_cast<std::uint32_t>(run.y) *
                                         static_cast<std::uint32_t>(picture.width) +
                                     static_cast<std::uint32_t>(x));
        return pixels;
    };
    std::vector<std::uint32_t> pixels = collect(kFringePx);
    if (pixels.empty())
        pixels = collect(0);
    return raster::medianColour(picture, pixels);
}

base::Result<Grey> inkOf(const raster::Picture& picture, const LineDrawingRecipe& recipe, int& threshold) {
    const Grey grey = raster::brightness(picture);
    threshold = recipe.threshold ? *recipe.threshold : raster::inkThreshold(grey);
    Grey mask = raster::inkMask(grey, threshold);
    for (const ClosingLine& line : recipe.closings)
        raster::inkLine(mask, line.from.x, line.from.y, line.to.x, line.to.y, line.widthPx);
    if (std::find(mask.values.begin(), mask.values.end(), kInk) == mask.values.end())
        return Error{Code::Degenerate, "There is no ink in this picture at threshold " +
                                           std::to_string(threshold) +
                                           "; raise the threshold or choose a picture with dark lines."};
    return mask;
}

base::Status checkInput(const raster::Picture& picture, double mmPerPx, const LineDrawingRecipe& recipe) {
    if (picture.isEmpty())
        return Error{Code::InvalidArgument, "The picture is empty; open one with at least one pixel."};
    if (!(mmPerPx > 0) || !std::isfinite(mmPerPx))
        return Error{Code::InvalidArgument, "The picture's real size is not set; give its width."};
    if (recipe.threshold && (*recipe.threshold < 0 || *recipe.threshold > 254))
        return Error{Code::InvalidArgument, "The threshold " + std::to_string(*recipe.threshold) +
                                                " is out of range; it goes from 0 to 254."};
    return base::Done{};
}

/// Drops regions of `wanted` below the least size into their surroundings; says how many.
int dropSmall(Grey& mask, const Regions& regions, double leastPx, std::uint8_t becomes) {
    int dropped = 0;
    for (const Region& region : regions.all)
        if (static_cast<double>(region.areaPx) < leastPx && !(becomes == kInk && region.touchesEdge)) {
            paintRegion(mask, region, becomes);
            ++dropped;
        }
    return dropped;
}

/// The silhouette of the ink with everything it encloses filled in.
base::Result<std::vector<geometry::Shape>> backingOf(const Grey& ink, const Regions& paper, double leastPx,
                                                     double smoothness, const base::Progress& progress) {
    Grey silhouette{ink.width, ink.height, std::vector<std::uint8_t>(ink.values.size(), kInk)};
    for (const Region& region : paper.all)
        if (region.touchesEdge)
            paintRegion(silhouette, region, kPaper);
    auto parts = raster::findRegions(silhouette, kInk, Connectivity::Four, progress);
    if (!parts)
        return parts.error();
    std::vector<geometry::Shape> shapes;
    for (const Region& part : parts->all) {
        if (static_cast<double>(part.areaPx) < leastPx)
            continue;
        auto outlines = outlinesOf(part, smoothness, false);
        if (!outlines)
            return outlines.error();
        for (const geometry::Shape& shape : *outlines)
            shapes.push_back(keptShape(shape));
    }
    std::sort(shapes.begin(), shapes.end(),
              [](const auto& a, const auto& b) { return geometry::area(a) > geometry::area(b); });
    return shapes;
}

raster::Rgb paperColour(const raster::Picture& picture, const Regions& paper) {
    const Region* largest = nullptr;
    for (const Region& region : paper.all)
        if (region.touchesEdge && (!largest || region.areaPx > largest->areaPx))
            largest = &region;
    return largest ? colourOf(picture, *largest) : raster::Rgb{255, 255, 255};
}

std::vector<Leak> leaksOf(const std::vector<raster::Passage>& passages, const Regions& paper,
                          const Grey& ink) {
    std::vector<Leak> leaks;
    for (const raster::Passage& p : passages) {
        // A passage in an area that was dropped into the ink is gone with it.
        if (p.label < 1 || ink.at(static_cast<int>(p.x), static_cast<int>(p.y)) == kInk)
            continue;
        leaks.push_back({{p.x, p.y},
                         p.widthPx,
                         paper.all[static_cast<size_t>(p.label - 1)].touchesEdge,
                         {p.insideX, p.insideY}});
    }
    return leaks;
}

} // namespace

base::Result<Tracing> traceLineDrawing(const raster::Picture& picture, double mmPerPx,
                                       const LineDrawingRecipe& recipe, const base::Progress& progress) {
    if (auto ok = checkInput(picture, mmPerPx, recipe); !ok)
        return ok.error();
    Tracing out;
    out.widthPx = picture.width;
    out.heightPx = picture.height;
    const double leastPx = recipe.leastAreaMm2 / (mmPerPx * mmPerPx);

    progress.report(0.0, "Finding the ink");
    auto inkResult = inkOf(picture, recipe, out.threshold);
    if (!inkResult)
        return inkResult.error();
    Grey ink = inkResult.take();
    {
        auto specks = raster::findRegions(ink, kInk, Connectivity::Eight, progress);
        if (!specks)
            return specks.error();
        out.droppedSpecks = dropSmall(ink, *specks, leastPx, kPaper);
    }
    progress.report(0.2, "Finding the areas");
    auto paperResult = raster::findRegions(ink, kPaper, Connectivity::Four, progress);
    if (!paperResult)
        return paperResult.error();
    const Regions paper = paperResult.take();
    out.droppedAreas = dropSmall(ink, paper, leastPx, kInk);
    out.paper = paperColour(picture, paper);

    progress.report(0.4, "Outlining the backing");
    auto backing = backingOf(ink, paper, leastPx, recipe.smoothness, progress);
    if (!backing)
        return backing.error();
    out.backing = backing.take();
    if (out.backing.empty())
        return Error{Code::Degenerate, "All ink is smaller than " +
                                           base::formatNumber(recipe.leastAreaMm2, 2) +
                                           " mm²; lower the least size or give the picture a larger width."};

    progress.report(0.55, "Looking for leaks");
    const double widestPx = recipe.widestGapMm / mmPerPx;
    auto passages = raster::findPassages(
        ink, paper, {.widestPx = widestPx, .leastSidePx = std::max(4 * leastPx, 2 * widestPx * widestPx)},
        progress);
    if (!passages)
        return passages.error();
    out.leaks = leaksOf(*passages, paper, ink);

    size_t done = 0;
    for (const Region& region : paper.all) {
        if (progress.isCancelled())
            return base::cancelled();
        progress.report(0.7 + 0.3 * static_cast<double>(done++) / static_cast<double>(paper.all.size()),
                        "Fitting curves");
        if (region.touchesEdge || static_cast<double>(region.areaPx) < leastPx)
            continue;
        auto shapes = outlinesOf(region, recipe.smoothness, true);
        if (!shapes)
            return shapes.error();
        const raster::Rgb colour = colourOf(picture, region);
        for (const geometry::Shape& fitted : *shapes) {
            const geometry::Shape shape = keptShape(fitted);
            out.areas.push_back({static_cast<design::PieceId>(out.areas.size() + 1), shape,
                                 geometry::pointInside(shape), colour});
        }
    }
    progress.report(1, "Done");
    return out;
}

geometry::Shape keptShape(geometry::Shape shape) {
    const auto rounded = [](geometry::Point p) {
        return geometry::Point{std::round(p.x * 1e4) / 1e4, std::round(p.y * 1e4) / 1e4};
    };
    const auto roundAll = [&](geometry::Contour& contour) {
        contour.start = rounded(contour.start);
        for (geometry::Segment& s : contour.segments)
            s = {rounded(s.control1), rounded(s.control2), rounded(s.end), s.isLine};
    };
    roundAll(shape.outline);
    for (geometry::Contour& opening : shape.openings)
        roundAll(opening);
    return shape;
}

void carryIds(const Tracing& before, Tracing& after) {
    struct Candidate {
        geometry::Box box;
        geometry::Polygons rings;
        bool isNamed = false;
    };
    std::vector<Candidate> candidates;
    for (const Area& area : after.areas)
        candidates.push_back({geometry::bounds(area.shape), geometry::flatten(area.shape, 0.5), false});
    design::PieceId highest = 0;
    for (const Area& old : before.areas)
        highest = std::max(highest, old.id);
    for (const Area& old : before.areas)
        for (size_t i = 0; i < candidates.size(); ++i) {
            Candidate& c = candidates[i];
            if (!c.isNamed && c.box.contains(old.inside) && geometry::contains(c.rings, old.inside)) {
                after.areas[i].id = old.id;
                c.isNamed = true;
                break;
            }
        }
    for (size_t i = 0; i < candidates.size(); ++i)
        if (!candidates[i].isNamed)
            after.areas[i].id = ++highest;
}

geometry::Transform pictureToDesign(const Tracing& tracing, const Sizing& sizing) {
    geometry::Box box;
    for (const geometry::Shape& shape : tracing.backing)
        box.include(geometry::bounds(shape));
    const geometry::Point corner = box.isEmpty() ? geometry::Point{} : box.least;
    return geometry::Transform::move(corner * -1)
        .then(geometry::Transform::scale(sizing.mmPerPx * sizing.scaleX, sizing.mmPerPx * sizing.scaleY));
}

base::Result<SizedShapes> sizeShapes(const Tracing& tracing, const Sizing& sizing,
                                     const base::Progress& progress) {
    if (!(sizing.mmPerPx > 0) || !(sizing.scaleX > 0) || !(sizing.scaleY > 0) || sizing.clearanceMm < 0)
        return Error{Code::InvalidArgument, "The size must be above zero; type a width or a height."};
    const geometry::Transform map = pictureToDesign(tracing, sizing);
    SizedShapes out;
    for (const geometry::Shape& shape : tracing.backing)
        out.backing.push_back({-static_cast<int>(out.backing.size()) - 1,
                               std::make_shared<const geometry::Shape>(geometry::transformed(shape, map)),
                               1});
    size_t done = 0;
    for (const Area& area : tracing.areas) {
        if (progress.isCancelled())
            return base::cancelled();
        progress.report(static_cast<double>(done++) / static_cast<double>(tracing.areas.size()),
                        "Sizing the pieces");
        geometry::Shape shape = geometry::transformed(area.shape, map);
        if (sizing.clearanceMm > 0) {
            auto shrunk = geometry::offset({shape}, -sizing.clearanceMm);
            if (!shrunk)
                return shrunk.error();
            if (shrunk->shapes.empty()) {
                out.vanished.push_back(area.id);
                continue;
            }
            shape = shrunk->shapes.front();
        }
        out.areas.push_back({area.id, std::make_shared<const geometry::Shape>(std::move(shape)), 1});
    }
    return out;
}

design::Stack buildStack(const SizedShapes& shapes, const std::vector<design::Stock>& stocks,
                         const std::map<design::PieceId, std::string>& paint,
                         const std::map<design::PieceId, int>& copies,
                         const std::vector<LayerSetting>& settings) {
    design::Stack stack{stocks, {}};
    for (const LayerSetting& s : settings)
        stack.layers.push_back({s.role, s.stockId, s.liftMm, s.isHidden, {}});
    const auto layerFor = [&](design::LayerRole role, const std::string& stockId) -> design::Layer& {
        for (design::Layer& layer : stack.layers)
            if (layer.role == role && (role == design::LayerRole::Backing || layer.stockId == stockId))
                return layer;
        stack.layers.push_back({role, stockId, 0, false, {}});
        return stack.layers.back();
    };
    const auto lay = [&](design::Piece piece, design::LayerRole role, const std::string& stockId) {
        const auto wanted = copies.find(piece.id);
        piece.copies = wanted == copies.end() ? 1 : wanted->second;
        layerFor(role, stockId).pieces.push_back(std::move(piece));
    };
    const std::string fallback = stocks.empty() ? "card" : stocks.front().id;
    for (const design::Piece& piece : shapes.backing)
        lay(piece, design::LayerRole::Backing, fallback);
    for (const design::Piece& piece : shapes.areas) {
        const auto found = paint.find(piece.id);
        lay(piece, design::LayerRole::Areas, found == paint.end() ? fallback : found->second);
    }
    std::erase_if(stack.layers, [](const design::Layer& layer) { return layer.pieces.empty(); });
    return stack;
}

PaintProposal proposePaint(const Tracing& tracing, const std::vector<design::Stock>& stocks,
                           const std::map<design::PieceId, std::string>& paint,
                           const std::string& plainStockId) {
    constexpr double kLikePaper = 0.06; // uneven paper and soft scans stay below this
    PaintProposal out{stocks, {}};
    for (const Area& area : tracing.areas) {
        if (const auto kept = paint.find(area.id); kept != paint.end()) {
            out.paint.insert(*kept);
            continue;
        }
        if (raster::colourDistance(area.colour, tracing.paper) < kLikePaper) {
            out.paint[area.id] = plainStockId;
            continue;
        }
        out.paint[area.id] = design::stockOfColour(out.stocks, area.colour).id;
    }
    return out;
}

} // namespace thinline::trace
