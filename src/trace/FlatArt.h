// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "trace/Tracing.h"

namespace thinline::trace {

/// Returns the areas of flat colour art, every border between two colours fitted once.
/// Shape:  areas in reading order, each of one colour of the palette, its level by what encloses what. The
///         paper around (the colour of most of the picture's edge) and colours that are not cut stay out.
/// Errors: Degenerate when the picture has only one colour; Cancelled.
/// Cost:   O(pixels) plus fitting; about 25 bytes per pixel.
base::Result<Tracing> traceFlatArt(const raster::Picture& picture, double mmPerPx, const Recipe& recipe,
                                   const base::Progress& progress = {});

} // namespace thinline::trace
