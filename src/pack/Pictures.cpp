// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/Pictures.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace thinline::pack {
namespace {

using geometry::Transform;

constexpr raster::Rgb kMat{241, 238, 232};
constexpr raster::Rgb kEdge{208, 203, 195};
constexpr raster::Rgb kInk{30, 42, 49};

geometry::Polygons drawn(const geometry::Shape& shape, const Transform& map) {
    return geometry::flatten(geometry::transformed(shape, map), 0.2);
}

geometry::Polygons rectangle(double x, double y, double width, double height, const Transform& map) {
    return {{map({x, y}), map({x + width, y}), map({x + width, y + height}), map({x, y + height})}};
}

void drawLoad(raster::Canvas& canvas, const design::Load& load, const design::Stack& stack,
              const Transform& map) {
    const auto mat = rectangle(0, 0, load.mat.widthMm, load.mat.heightMm, map);
    canvas.fill(mat, kMat);
    canvas.stroke(mat, 1, kEdge);
    for (const design::PlacedSheet& sheet : load.sheets) {
        const raster::Rgb colour = design::colourOf(stack.stocks, sheet.stockId);
        geometry::Polygons outline = design::outlineOf(sheet);
        for (geometry::Polygon& ring : outline)
            for (geometry::Point& p : ring)
                p = map(p);
        canvas.fill(outline, colour, 0.25);
        canvas.stroke(outline, 1, kEdge);
        for (const design::PlacedPiece& placed : sheet.pieces) {
            const design::Laid* laid = stack.find(placed.what.piece);
            if (!laid)
                continue;
            const auto rings = drawn(laid->shape(), design::placement(laid->piece, placed.pose).then(map));
            canvas.fill(rings, colour);
            canvas.stroke(rings, 1, kInk);
        }
    }
}

} // namespace

namespace {

/// A picture of pieces from above, each in the colour that is asked for.
template <class Colour>
raster::Picture fromAbove(const design::Stack& stack, int mostPx, Colour colourOf) {
    const geometry::Box box = design::measure(stack).box;
    const double longer = std::max({box.width(), box.height(), 1e-6});
    const double pxPerMm = mostPx / longer;
    const auto map = Transform::move(box.isEmpty() ? geometry::Point{} : box.least * -1)
                         .then(Transform::scale(pxPerMm, pxPerMm));
    raster::Canvas canvas(std::max(1, static_cast<int>(box.width() * pxPerMm)),
                          std::max(1, static_cast<int>(box.height() * pxPerMm)), {255, 255, 255});
    for (const design::Laid& laid : stack.pieces)
        if (const std::optional<raster::Rgb> colour = colourOf(laid))
            canvas.fill(drawn(laid.shape(), map), *colour);
    return canvas.picture();
}

} // namespace

raster::Picture pictureOfStack(const design::Stack& stack, int mostPx) {
    return fromAbove(stack, mostPx, [&](const design::Laid& laid) -> std::optional<raster::Rgb> {
        const design::Layer& layer = stack.layerOf(laid);
        if (layer.isHidden)
            return std::nullopt;
        return design::colourOf(stack.stocks, layer.stockId);
    });
}

raster::Picture pictureOfLayer(const design::Stack& stack, design::LayerId layer, int mostPx) {
    // The layer last: what lies on it must not hide it.
    design::Stack turned = stack;
    std::stable_partition(turned.pieces.begin(), turned.pieces.end(),
                          [&](const design::Laid& laid) { return laid.layer != layer; });
    return fromAbove(turned, mostPx, [&](const design::Laid& laid) -> std::optional<raster::Rgb> {
        constexpr raster::Rgb kPale{232, 230, 226};
        return laid.layer == layer ? design::colourOf(stack.stocks, stack.layerOf(laid).stockId) : kPale;
    });
}

raster::Picture pictureOfLoad(const design::Load& load, const design::Stack& stack, double pxPerMm) {
    return overview({{load}, {}}, stack, pxPerMm, 1);
}

namespace {

constexpr double kGapMm = 12; // between loads

/// How loads stand side by side.
struct Grid {
    int columns = 0, rows = 0;
    double cellWidth = 0, cellHeight = 0;

    Grid(const design::Arrangement& arrangement, int across) {
        for (const design::Load& load : arrangement.loads) {
            cellWidth = std::max(cellWidth, load.mat.widthMm);
            cellHeight = std::max(cellHeight, load.mat.heightMm);
        }
        const int count = static_cast<int>(arrangement.loads.size());
        columns = std::min(count, across);
        rows = columns > 0 ? (count + columns - 1) / columns : 0;
    }
    double widthMm() const { return columns * (cellWidth + kGapMm) + kGapMm; }
    double heightMm() const { return rows * (cellHeight + kGapMm) + kGapMm; }
};

} // namespace

double overviewPxPerMm(const design::Arrangement& arrangement, double wanted, int across) {
    constexpr double kMostPx = 2e7;
    const Grid grid(arrangement, across);
    return std::min(wanted, std::sqrt(kMostPx / (grid.widthMm() * grid.heightMm())));
}

raster::Picture overview(const design::Arrangement& arrangement, const design::Stack& stack, double pxPerMm,
                         int across) {
    if (arrangement.loads.empty())
        return raster::Canvas(32, 32, {255, 255, 255}).picture();
    const Grid grid(arrangement, across);
    const auto toPx = [pxPerMm](double mm) { return std::max(1, static_cast<int>(mm * pxPerMm + 0.5)); };
    raster::Canvas canvas(toPx(grid.widthMm()), toPx(grid.heightMm()), {255, 255, 255});
    for (int i = 0; i < static_cast<int>(arrangement.loads.size()); ++i) {
        const geometry::Point corner{kGapMm + i % grid.columns * (grid.cellWidth + kGapMm),
                                     kGapMm + i / grid.columns * (grid.cellHeight + kGapMm)};
        drawLoad(canvas, arrangement.loads[static_cast<size_t>(i)], stack,
                 Transform::move(corner).then(Transform::scale(pxPerMm, pxPerMm)));
    }
    return canvas.picture();
}

} // namespace thinline::pack
