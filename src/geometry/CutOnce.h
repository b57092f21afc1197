// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Lines.h"

#include <vector>

namespace thinline::geometry {

/// What the knife travels for one shape.
struct CutLines {
    std::vector<Contour> outlines; ///< closed, as they were
    std::vector<Line> lines;       ///< what is left of outlines that run along others
    /// The length of all of them.
    double length() const;
};

/// Returns what is to be cut for shapes that lie side by side, every stretch once: where outlines coincide, the
/// first shape has it.
/// Shape:  one answer for each shape, in their order. An outline that runs along none comes back to the bit; of
///         one that does, the open stretches nobody had before, none when that is nothing. Outlines that cross
///         are not cut off at the crossing.
/// Units:  outlines nearer than 0.5 um are the same.
/// Errors: InvalidArgument for a coordinate that is not finite; LimitExceeded beyond 2 x 2 m; Cancelled.
/// Cost:   one look at every pair of curves whose boxes meet.
base::Result<std::vector<CutLines>> cutOnce(const std::vector<Shape>& shapes,
                                            const base::Progress& progress = {});

} // namespace thinline::geometry
