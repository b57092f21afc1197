// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Canvas.h"

/// Print beyond the cut, made of the print within it.
namespace thinline::raster {

/// Paints what lies around a piece with the print on it, mirrored about the edge; where the print is too narrow for that, its edge
/// is drawn out.
/// Shape:  `within` is 255 on the piece, `painted` where there is print, `region` above 0 as far as print may go; all as large as the
///         canvas. A pixel of the region beyond the piece that is not painted is, when the piece's pixel nearest to it is. Pixels of
///         the piece are never changed.
/// Returns the number of pixels that were made so.
/// Cost:   O(pixels).
std::int64_t extendBeyond(Canvas& canvas, Grey& painted, const Grey& within, const Grey& region);

} // namespace thinline::raster
