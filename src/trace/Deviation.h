// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "trace/Tracing.h"

namespace thinline::trace {

/// The picture held against what was traced.
struct Deviation {
    raster::Picture picture; ///< the picture, pale, with what the tracing lost or added in a strong colour
    double share = 0;        ///< of the pixels that differ clearly, soft edges aside
};

/// Returns where a tracing differs from the picture it came from.
/// Shape:  a pixel differs when its colour is clearly another than that of the area, ink or paper that lies
///         there now, and so are all its neighbours: the soft edge of a line in its place is none.
/// Cost:   O(pixels) and the tracing drawn once at the picture's size.
Deviation deviationOf(const raster::Picture& picture, const Tracing& tracing);

} // namespace thinline::trace
