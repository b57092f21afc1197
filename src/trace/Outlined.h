// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "trace/LineDrawing.h"

namespace thinline::trace {

/// One piece of a drawing that came as outlines.
struct OutlinedPiece {
    geometry::Shape shape; ///< mm on its page
    std::optional<raster::Rgb> colour;
};

/// How finely the page of such a drawing is counted in the tracing's pixels.
inline constexpr double kOutlinedPxPerMm = 100;

/// Returns a drawing that came as outlines in the form of a tracing, so that sizing, painting and all later
/// steps treat both alike: every piece is an area, there is no backing, nothing leaks. Shape:  pieces in the
/// order given, numbered from 1; without a colour they count as paper. Units:  pixels of about 1/100 mm; the
/// page is a whole number of them wide, so mm per pixel is page width over
///         `widthPx`.
/// Errors: InvalidArgument for a page without extent or larger than 10 m, or without pieces.
base::Result<Tracing> tracingOfOutlines(double pageWidthMm, double pageHeightMm,
                                        const std::vector<OutlinedPiece>& pieces);

} // namespace thinline::trace
