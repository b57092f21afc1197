// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "trace/Tracing.h"

namespace thinline::trace {

/// Returns the drawing as a filled silhouette, the ink, and enclosed areas.
/// Shape:  every border between ink and paper is fitted once; each area has its openings. Ink is found
///         against the paper's own brightness nearby, so that a shadow or a tint of the paper is none.
/// Errors: Degenerate when there is no ink or all is smaller than the least area; Cancelled.
/// Cost:   O(pixels) plus fitting; about 20 bytes per pixel. Cancel is polled per border.
base::Result<Tracing> traceLineDrawing(const raster::Picture& picture, double mmPerPx, const Recipe& recipe,
                                       const base::Progress& progress = {});

/// The same with a line of ink over every gap between ends of lines; see tracedGapless.
base::Result<Gapless> traceGapless(const raster::Picture& picture, double mmPerPx, Recipe recipe,
                                   const base::Progress& progress = {});

} // namespace thinline::trace
