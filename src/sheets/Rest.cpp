// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "sheets/Rest.h"

#include "design/Stack.h"
#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "sheets/Cards.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace thinline::sheets {
namespace {

using geometry::Box;
using geometry::Point;
using geometry::Shape;

Shape rectangleOf(const Box& box) {
    return {
        geometry::contourThrough({box.least, {box.most.x, box.least.y}, box.most, {box.least.x, box.most.y}}),
        {}};
}

/// Everything cut from a scrap lies in this.
Box cutFrom(const design::PlacedSheet& scrap, const design::Stack& stack) {
    Box out;
    for (const design::PlacedPiece& piece : scrap.pieces)
        if (const design::Laid* laid = stack.find(piece.what.piece))
            out.include(geometry::bounds(
                geometry::transformed(laid->shape(), design::placement(laid->piece, piece.pose))));
    return out;
}

} // namespace

std::optional<geometry::Polygons> restOf(const design::PlacedSheet& scrap, const design::Stack& stack) {
    const Box cut = cutFrom(scrap, stack);
    const geometry::Polygons outline = design::outlineOf(scrap);
    const Box all = geometry::bounds(outline);
    std::vector<geometry::Contour> rings;
    for (const geometry::Polygon& ring : outline)
        rings.push_back(geometry::contourThrough(ring));
    const auto card = geometry::areasOf(rings, geometry::FillRule::EvenOdd);
    if (!card || cut.isEmpty())
        return std::nullopt;
    const Box kept = cut.grownBy(kScrapMarginMm);
    const std::array<Box, 4> sides{
        Box{{all.least.x, kept.most.y}, all.most}, Box{all.least, {all.most.x, kept.least.y}},
        Box{{kept.most.x, all.least.y}, all.most}, Box{all.least, {kept.least.x, all.most.y}}};
    double most = 0;
    std::optional<Shape> best;
    for (const Box& side : sides) {
        if (side.width() < kLeastRestMm || side.height() < kLeastRestMm)
            continue;
        const auto left = geometry::intersect(*card, {rectangleOf(side)});
        if (!left)
            continue;
        for (const Shape& part : *left) {
            const Box box = geometry::bounds(part);
            const double area = geometry::area(part);
            if (box.width() < kLeastRestMm || box.height() < kLeastRestMm || area <= most)
                continue;
            most = area;
            best = part;
        }
    }
    if (!best)
        return std::nullopt;
    const Point corner = geometry::bounds(*best).least;
    constexpr double kStraightMm = 0.01; // scraps have straight edges
    return geometry::flatten(geometry::transformed(*best, geometry::Transform::move(corner * -1)),
                             kStraightMm);
}

Rests restsOf(const design::Load& load, const design::Stack& stack) {
    Rests out;
    for (const design::PlacedSheet& sheet : load.sheets)
        if (sheet.scrapId != 0)
            if (auto rest = restOf(sheet, stack))
                out[sheet.scrapId] = std::move(*rest);
    return out;
}

} // namespace thinline::sheets
