// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "shape/Tuck.h"

#include "geometry/Boolean.h"
#include "geometry/Offset.h"

namespace thinline::shape {

using geometry::Shape;

base::Result<Shape> tucked(const Shape& piece, double tuckMm, const std::vector<Shape>& above,
                           const base::Progress& progress) {
    auto grown = geometry::offset({piece}, tuckMm, {}, progress);
    if (!grown)
        return grown.error();
    auto under = geometry::intersect(grown->shapes, above, progress);
    if (!under)
        return under.error();
    std::vector<Shape> parts = under.take();
    if (parts.empty())
        return piece;
    parts.push_back(piece);
    auto whole = geometry::weld(parts, progress);
    if (!whole)
        return whole.error();
    return whole->empty() ? piece : whole->front(); // largest first
}

base::Result<std::vector<Shape>> withRoom(const Shape& piece, double roomMm, const base::Progress& progress) {
    auto shrunk = geometry::offset({piece}, -roomMm, {}, progress);
    if (!shrunk)
        return shrunk.error();
    std::vector<Shape> out = std::move(shrunk.take().shapes);
    if (out.size() > 1)
        out.resize(1); // largest first
    return out;
}

} // namespace thinline::shape
