// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Shape.h"

#include <vector>

namespace thinline::shape {

/// Returns the outline of a lower piece that runs on under the upper ones beside it, so that no gap shows where cut
/// and glue are not exact.
/// Shape:  the piece, and what of its surroundings within `tuckMm` lies under an upper piece; it never shows
///         beside them. A part that would come off is left out.
/// Errors: those of the set operations; Cancelled.
/// Cost:   one offset, one intersection, one weld.
base::Result<geometry::Shape> tucked(const geometry::Shape& piece, double tuckMm,
                                     const std::vector<geometry::Shape>& above,
                                     const base::Progress& progress = {});

/// Returns the piece smaller by `roomMm` on all sides: its largest part where it falls into several, nothing where
/// nothing is left.
base::Result<std::vector<geometry::Shape>> withRoom(const geometry::Shape& piece, double roomMm,
                                                    const base::Progress& progress = {});

} // namespace thinline::shape
