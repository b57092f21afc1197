// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/Layers.h"

#include "geometry/Offset.h"

#include <algorithm>

namespace thinline::trace {

using base::Code;
using base::Error;

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
