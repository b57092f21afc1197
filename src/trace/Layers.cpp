// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/Layers.h"

#include "geometry/Boolean.h"
#include "geometry/Offset.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <set>

namespace thinline::trace {

using base::Code;
using base::Error;

namespace {

using geometry::Shape;

std::shared_ptr<const Shape> shared(Shape shape) {
    return std::make_shared<const Shape>(std::move(shape));
}

/// The part that holds most of an area; nothing when it is gone.
std::optional<Shape> largestOf(std::vector<Shape> parts) {
    if (parts.empty())
        return std::nullopt;
    return std::move(*std::max_element(parts.begin(), parts.end(), [](const Shape& a, const Shape& b) {
        return geometry::area(a) < geometry::area(b);
    }));
}

/// Pieces by their boxes, for asking which lie near one.
struct Neighbours {
    std::vector<Shape> shapes;
    std::vector<geometry::Box> boxes;

    explicit Neighbours(std::vector<Shape> all) : shapes(std::move(all)) {
        for (const Shape& shape : shapes)
            boxes.push_back(geometry::bounds(shape));
    }
    template <class Wanted>
    std::vector<Shape> near(size_t index, double reach, Wanted isWanted) const {
        std::vector<Shape> out;
        for (size_t i = 0; i < shapes.size(); ++i)
            if (i != index && isWanted(i) && boxes[i].grownBy(reach).meets(boxes[index]))
                out.push_back(shapes[i]);
        return out;
    }
};

/// The area with its tuck: grown, and kept out of (or within) what lies near it.
base::Result<std::optional<Shape>> tucked(const Shape& area, double tuckMm, const std::vector<Shape>& near,
                                          Stacking how, const base::Progress& progress) {
    auto grown = geometry::offset({area}, tuckMm, {}, progress);
    if (!grown)
        return grown.error();
    if (how == Stacking::Inlay) { // under the ink, up to the other areas
        if (near.empty())
            return largestOf(std::move(grown->shapes));
        auto rest = geometry::subtract(grown->shapes, near, progress);
        if (!rest)
            return rest.error();
        return largestOf(rest.take());
    }
    auto under = geometry::intersect(grown->shapes, near, progress);
    if (!under)
        return under.error();
    std::vector<Shape> parts = under.take();
    if (parts.empty())
        return std::optional(area);
    parts.push_back(area);
    auto whole = geometry::weld(parts, progress);
    if (!whole)
        return whole.error();
    return largestOf(whole.take());
}

} // namespace

geometry::Transform pictureToDesign(const Tracing& tracing, const Sizing& sizing) {
    geometry::Box box;
    for (const Shape& shape : tracing.backing)
        box.include(geometry::bounds(shape));
    if (tracing.backing.empty())
        for (const Area& area : tracing.areas)
            box.include(geometry::bounds(area.shape));
    const geometry::Point corner = box.isEmpty() ? geometry::Point{} : box.least;
    return geometry::Transform::move(corner * -1)
        .then(geometry::Transform::scale(sizing.mmPerPx * sizing.scaleX, sizing.mmPerPx * sizing.scaleY));
}

base::Result<SizedShapes> sizeShapes(const Tracing& tracing, const Sizing& sizing, const Laying& laying,
                                     const base::Progress& progress) {
    if (!(sizing.mmPerPx > 0) || !(sizing.scaleX > 0) || !(sizing.scaleY > 0) || sizing.clearanceMm < 0)
        return Error{Code::InvalidArgument, "The size must be above zero; type a width or a height."};
    const geometry::Transform map = pictureToDesign(tracing, sizing);
    const bool isInkOnTop = laying.build == Build::InkOnTop && !tracing.ink.empty();
    SizedShapes out;
    out.ground = isInkOnTop ? design::LayerRole::Ink : design::LayerRole::Backing;
    for (const Shape& shape : isInkOnTop ? tracing.ink : tracing.backing)
        out.backing.push_back(
            {-static_cast<int>(out.backing.size()) - 1, shared(geometry::transformed(shape, map)), 1});
    std::vector<Shape> placed;
    for (const Area& area : tracing.areas)
        placed.push_back(geometry::transformed(area.shape, map));
    const Neighbours all(std::move(placed));
    const auto placeOf = [&](size_t i) {
        const auto found = laying.place.find(tracing.areas[i].id);
        return found == laying.place.end() ? tracing.areas[i].level : found->second;
    };
    const bool isStacked = tracing.backing.empty() && laying.stacking == Stacking::Stacked;
    for (size_t i = 0; i < tracing.areas.size(); ++i) {
        if (progress.isCancelled())
            return base::cancelled();
        progress.report(static_cast<double>(i) / static_cast<double>(tracing.areas.size()),
                        "Sizing the pieces");
        std::optional<Shape> shape = all.shapes[i];
        if (isInkOnTop && laying.tuckMm > 0) {
            auto wider =
                tucked(*shape, laying.tuckMm, all.near(i, laying.tuckMm, [](size_t) { return true; }),
                       Stacking::Inlay, progress);
            if (!wider)
                return wider.error();
            shape = wider.take();
        } else if (isStacked && laying.tuckMm > 0) {
            const auto above =
                all.near(i, laying.tuckMm, [&](size_t other) { return placeOf(other) > placeOf(i); });
            if (!above.empty()) {
                auto wider = tucked(*shape, laying.tuckMm, above, Stacking::Stacked, progress);
                if (!wider)
                    return wider.error();
                shape = wider.take();
            }
        }
        if (shape && sizing.clearanceMm > 0) {
            auto shrunk = geometry::offset({*shape}, -sizing.clearanceMm);
            if (!shrunk)
                return shrunk.error();
            shape = largestOf(std::move(shrunk->shapes));
        }
        if (!shape) {
            out.vanished.push_back(tracing.areas[i].id);
            continue;
        }
        out.areas.push_back({tracing.areas[i].id, shared(std::move(*shape)), 1});
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
            if (layer.role == role && (role != design::LayerRole::Areas || layer.stockId == stockId))
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
    std::string dark = fallback; // ink on top is of the card the backing would be
    for (const LayerSetting& s : settings)
        if (s.role == design::LayerRole::Backing)
            dark = s.stockId;
    for (const design::Piece& piece : shapes.backing)
        lay(piece, shapes.ground, dark);
    for (const design::Piece& piece : shapes.areas) {
        const auto found = paint.find(piece.id);
        lay(piece, design::LayerRole::Areas, found == paint.end() ? fallback : found->second);
    }
    std::erase_if(stack.layers, [](const design::Layer& layer) { return layer.pieces.empty(); });
    std::stable_partition(stack.layers.begin(), stack.layers.end(),
                          [](const design::Layer& layer) { return layer.role != design::LayerRole::Ink; });
    return stack;
}

PaintProposal proposePaint(const Tracing& tracing, const std::vector<design::Stock>& stocks,
                           const std::map<design::PieceId, std::string>& paint,
                           const std::string& plainStockId) {
    constexpr double kLikePaper = 0.06; // uneven paper and soft scans stay below this
    constexpr double kLikeHue = 0.035;  // a grey of a photo is no pale green
    PaintProposal out{stocks, {}};
    // Colours of a palette were told apart on purpose: no two of them share a stock.
    std::map<raster::Rgb, std::string> byColour;
    std::set<std::string> used;
    for (const auto& [id, stock] : paint)
        used.insert(stock);
    const auto stockOf = [&](raster::Rgb colour) {
        if (const auto known = byColour.find(colour); known != byColour.end())
            return known->second;
        std::vector<design::Stock> free;
        for (const design::Stock& stock : out.stocks)
            if (tracing.palette.empty() ||
                (!used.contains(stock.id) &&
                 std::abs(raster::colourfulness(stock.colour) - raster::colourfulness(colour)) < kLikeHue))
                free.push_back(stock);
        const size_t there = free.size();
        const std::string id = design::stockOfColour(free, colour).id;
        if (free.size() > there) {
            free.back().name = "new card " + std::to_string(out.stocks.size() + 1);
            if (!design::findStock(out.stocks, id))
                out.stocks.push_back(free.back());
        }
        used.insert(id);
        return byColour[colour] = id;
    };
    for (const Area& area : tracing.areas) {
        if (const auto kept = paint.find(area.id); kept != paint.end()) {
            out.paint.insert(*kept);
            byColour.try_emplace(area.colour, kept->second);
        }
    }
    for (const Area& area : tracing.areas) {
        if (out.paint.contains(area.id))
            continue;
        const bool isPlain =
            tracing.palette.empty() && raster::colourDistance(area.colour, tracing.paper) < kLikePaper;
        out.paint[area.id] = isPlain ? plainStockId : stockOf(area.colour);
    }
    return out;
}

} // namespace thinline::trace
