// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/CastShadow.h"
#include "trace/Tracing.h"

namespace thinline::trace {

/// What is told of a shadow. What is sure goes into the light unasked, the rest where the person says so.
SeenShadow seenShadow(const raster::CastShadow& shadow, DarkPart said, bool isSure);

/// A picture without the shadow over it.
struct Lightened {
    raster::Picture picture; ///< empty: nothing was taken out
    std::optional<SeenShadow> shadow;
};
/// Returns a line drawing without the shadow that falls in over its ground.
/// Shape:  taken out unless the recipe says that it is paint: a line drawing's areas are bounded by lines, so nobody's
///         area is lost with it.
Lightened lightenedLines(const raster::Picture& picture, const Recipe& recipe, const base::Progress& progress);

} // namespace thinline::trace
