// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/Outlined.h"

#include <cmath>

namespace thinline::trace {

base::Result<Tracing> tracingOfOutlines(double pageWidthMm, double pageHeightMm,
                                        const std::vector<OutlinedPiece>& pieces) {
    constexpr double kLargestMm = 10'000;
    if (!(pageWidthMm > 0) || !(pageHeightMm > 0) || pageWidthMm > kLargestMm || pageHeightMm > kLargestMm)
        return base::Error{
            base::Code::InvalidArgument,
            "The page of this drawing has no size that can be meant; set one where it was drawn."};
    if (pieces.empty())
        return base::Error{base::Code::InvalidArgument, "No outline in this drawing bounds an area."};
    Tracing out;
    out.widthPx = std::max(1, static_cast<int>(std::lround(pageWidthMm * kOutlinedPxPerMm)));
    const double pxPerMm = out.widthPx / pageWidthMm;
    out.heightPx = std::max(1, static_cast<int>(std::lround(pageHeightMm * pxPerMm)));
    for (const OutlinedPiece& piece : pieces) {
        const geometry::Shape shape =
            keptShape(geometry::transformed(piece.shape, geometry::Transform::scale(pxPerMm, pxPerMm)));
        out.areas.push_back({static_cast<design::PieceId>(out.areas.size() + 1), shape,
                             geometry::pointInside(shape), piece.colour.value_or(out.paper)});
    }
    return out;
}

} // namespace thinline::trace
