// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "trace/Recipe.h"

#include <string>

namespace thinline::trace {

/// What kind of picture one is, and by what that was told.
struct Kind {
    Mode mode = Mode::LineDrawing;
    bool isLightOnDark = false; ///< of a line drawing: its lines are lighter than what they are drawn on
    std::string why;            ///< "8 flat colours, 3 % of their borders along ink"

    // what was measured
    int colours = 0;     ///< that stand apart, the ground's among them
    double even = 0;     ///< share of pixels that are surely of one of them
    double left = 0;     ///< share of pixels that no mixture of them explains
    double alongInk = 0; ///< share of the borders between colours that run along lines of ink
    double strokePx = 0; ///< how thick those lines are
    double texture = 0;  ///< levels by which things differ from light and gradients over some pixels
    double grain = 0;    ///< and from pixel to pixel
};

/// Returns the way that suits a picture: lines where nearly every border of colour runs along thin ink, a photo where hardly
/// any pixel is surely of one of a few colours, flat art else. Light over the picture and gradients count as neither.
/// Cost:   O(pixels), of a picture above 0.6 megapixels only every n-th.
Kind kindOf(const raster::Picture& picture);

} // namespace thinline::trace
