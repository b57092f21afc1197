// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Load.h"
#include "raster/Canvas.h"

/// Pictures of the finished work and of its loads, drawn without an interface library.
namespace thinline::pack {

/// Returns the stack seen from above, at most `mostPx` on its longer side, on white.
raster::Picture pictureOfStack(const design::Stack& stack, int mostPx);

/// Returns one layer where it lies, the rest of the work pale, at most `mostPx` on the longer side, on white.
raster::Picture pictureOfLayer(const design::Stack& stack, design::LayerId layer, int mostPx);

/// Returns one load at `pxPerMm`: the mat, its sheets in a tint of their stock, the pieces with their cut
/// lines.
raster::Picture pictureOfLoad(const design::Load& load, const design::Stack& stack, double pxPerMm);

/// Returns at how many pixels to a millimetre an overview is drawn: as wanted, and fewer where it would grow beyond 20
/// megapixels. Of thousands of loads nobody makes out a piece, but the picture opens.
double overviewPxPerMm(const design::Arrangement& arrangement, double wanted, int across = 3);

/// Returns all loads side by side, at most `across` in a row, every one at `pxPerMm`; a small white picture
/// when there are none.
raster::Picture overview(const design::Arrangement& arrangement, const design::Stack& stack, double pxPerMm,
                         int across = 3);

} // namespace thinline::pack
