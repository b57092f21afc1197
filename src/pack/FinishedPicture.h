// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "design/Heights.h"
#include "raster/Picture.h"

/// The work as it will look: card above card, with the shadows that its true heights throw.
namespace thinline::pack {

struct Look {
    int mostPx = 1200;   ///< on the longer side
    double slantDeg = 0; ///< 0 looks straight at it, 35 from below; at most 60
    double lightUpDeg =
        45; ///< how high the one light at the upper left stands; at 45 a step of 3 mm throws a shadow 3 mm long
};

/// Returns a picture of a work on a white wall.
/// Shape:  shadows are as long as the difference of height makes them; what is lifted throws its shadow as if it were solid
///         down to what it stands on. Translucent card lets half of what is behind it through, acetate nearly all.
/// Units:  edges and shadows are true within a pixel; each pixel is the mean of nine.
/// Errors: InvalidArgument for a work without extent, or a look outside 16 to 6000 px, 0 to 60 degrees, light below 5;
///         Cancelled.
/// Cost:   O(pixels + rows of the pieces).
base::Result<raster::Picture> finishedPicture(const design::Stack& stack, const design::Heights& heights,
                                              const Look& look, const base::Progress& progress = {});

} // namespace thinline::pack
