// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/FineLines.h"
#include "trace/Tracing.h"

/// The folds of a line drawing: found, taken out of its ink, given to its areas.
namespace thinline::trace {

struct FoldLines {
    std::vector<raster::FineLine> lines;
    raster::Grey
        covered; ///< 255 where a line lies or lay over an edge: there the picture tells nothing of it
};

/// Takes the lines that are folds out of a drawing's ink, soft edges and all: they bound no area.
/// Shape:  where a line runs into thicker ink, its last stretch is taken as well, and the ink it runs into is
///         covered up to its far edge.
/// Errors: Cancelled.
/// Cost:   as raster::findFineLines.
base::Result<FoldLines> takeFolds(raster::Grey& grey, raster::Grey& ink, int threshold, double mmPerPx,
                                  const Recipe& recipe, const base::Progress& progress);

/// Returns which of the lines left in a drawing's ink may be folds.
/// Shape:  straight ones of 10 mm and more; thin ones only where the pen's widths are clearly two. Looked for at 1.5
///         megapixels at most; a picture that would then be coarser than 4 px per mm is not asked.
/// Errors: Cancelled.
/// Cost:   O(pixels), the rest as raster::findFineLines on the reduced one, at most four times.
base::Result<FoldHint> foldsLeft(const raster::Grey& grey, int threshold, double mmPerPx,
                                 const Recipe& recipe, const base::Progress& progress);

/// Returns the folds of every area: run on to its edge, or to the fold they nearly reach.
std::vector<geometry::Line> foldsOn(const std::vector<Area>& areas,
                                    const std::vector<raster::FineLine>& lines);

} // namespace thinline::trace
