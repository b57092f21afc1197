// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Whether one piece fits into another one.
//
// A plug goes into an opening, a lid goes over a box. The question is not about boxes or areas but about
// outlines of any form, and the answer wanted is a length: how much play there is, or how much is too
// much.
//
// The room is the opening (or the outer piece's outline less twice its thickness), made smaller by the
// clearance with mitred corners, since rounded ones would forbid a square plug in a square hole. The inner
// piece is then scaled about its middle, centred in the room, until it just does not stick out: by
// halving, with a subtraction for each trial. The scale found is the right one, and the play is what it
// means in millimetres across the shorter side. The same scale answers "make it fit".
//
// Two equal outlines differ by rounding, so the room is taken a micrometre larger, and "sticks out" means
// more than a millionth of a square millimetre.
//
// It is centred, not searched: a plug that would fit only when shifted or turned is said not to fit. For
// the pairs that are made to fit that is what one wants to know.
#include "design/Relations.h"

#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Offset.h"
#include "geometry/Placing.h"

#include <algorithm>

namespace thinline::design {
namespace {

using geometry::Box;
using geometry::Point;
using geometry::Shape;

} // namespace

std::optional<size_t> openingAt(const Shape& shape, Point at) {
    for (size_t i = 0; i < shape.openings.size(); ++i)
        if (geometry::contains(Shape{shape.openings[i], {}}, at))
            return i;
    return std::nullopt;
}

base::Result<FitState> checkFit(const Piece& innerPiece, const Piece& outerPiece, const Fit& fit,
                                double thicknessMm, const base::Progress& progress) {
    FitState out;
    const Shape &inner = innerPiece.shape(), &outer = outerPiece.shape();
    Shape room{outer.outline, {}};
    double margin = fit.clearanceMm + thicknessMm;
    if (fit.kind == FitKind::IntoOpening) {
        const auto opening = openingAt(outer, outerPiece.placed(fit.opening));
        if (!opening)
            return out;
        room.outline = geometry::reversed(outer.openings[*opening]);
        margin = fit.clearanceMm;
    }
    out.isThere = true;
    out.place = geometry::bounds(room);
    std::vector<Shape> free{room};
    if (margin > 0) {
        auto shrunk = geometry::offset(free, -margin, {.join = geometry::Join::Mitre}, progress);
        if (!shrunk)
            return shrunk.error();
        free = shrunk.take().shapes;
    }
    const Box own = geometry::bounds(inner);
    const Shape plug{inner.outline, {}};
    if (free.empty() || !(own.width() > 0) || !(own.height() > 0)) {
        out.playMm = -std::max(own.width(), own.height());
        return out;
    }
    Box space;
    for (const Shape& shape : free)
        space.include(geometry::bounds(shape));
    // Two equal outlines differ by rounding: the room is taken a micron larger, and then nothing may stick
    // out.
    constexpr double kHairMm = 1e-3, kNothingMm2 = 1e-6;
    auto grown = geometry::offset(free, kHairMm, {.join = geometry::Join::Mitre}, progress);
    if (!grown)
        return grown.error();
    free = grown.take().shapes;
    const auto goesIn = [&](double scale) -> base::Result<bool> {
        const auto map = geometry::about(own.centre(), geometry::Transform::scale(scale, scale))
                             .then(geometry::Transform::move(space.centre() - own.centre()));
        const auto rest = geometry::subtract({geometry::transformed(plug, map)}, free, progress);
        if (!rest)
            return rest.error();
        double over = 0;
        for (const Shape& shape : *rest)
            over += geometry::area(shape);
        return over <= kNothingMm2;
    };
    double low = 0, high = std::min(space.width() / own.width(), space.height() / own.height()) * (1 + 1e-6);
    auto whole = goesIn(high);
    if (!whole)
        return whole.error();
    if (*whole)
        low = high;
    while (high - low > 1e-5 * high) {
        const double middle = (low + high) / 2;
        const auto in = goesIn(middle);
        if (!in)
            return in.error();
        (*in ? low : high) = middle;
    }
    out.rightScale = low;
    out.playMm = (low - 1) * std::min(own.width(), own.height());
    return out;
}

} // namespace thinline::design
