// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Colouring.h"

#include <array>
#include <optional>

namespace thinline::raster {

/// A part of a painted picture in which everything is darker by one factor, as beyond the hard edge of a shadow.
struct CastShadow {
    std::array<double, 3> light{1, 1, 1}; ///< what is left of it there, red, green, blue
    int pairs = 0;                        ///< colours that are seen in both lights
    bool isOnGround = false; ///< the picture's ground among them, in a part that reaches the picture's edge
    bool isSure = false;     ///< no paint does this
    double areaPx = 0;
    int x = 0, y = 0; ///< a pixel deep in it
    Grey shares; ///< how much of every pixel is in the shadow, 0 to 255; of a very large picture reduced
};

/// Returns the shadow over a picture whose colours were told apart without knowing of it.
/// Shape:  found where a colour borders on one that is darker by about the same factor in all channels. Sure when three
///         colours and more do so by one factor, the picture's ground among them, and the dark part reaches the picture's
///         edge: a shadow falls in from outside. One or two colours may as well be paint. None in a picture that a
///         program drew, when less than a hundredth of the picture is so, or when it is stopped.
/// Cost:   O(pixels), about forty bytes for each of at most four million.
std::optional<CastShadow> castShadowIn(const Picture& picture, const Colouring& colouring, const base::Progress& progress = {});

/// Returns the same of a picture whose colours were not told apart; that is done on a reduced copy, and only if some of its
/// ground is darker than the rest.
/// Cost:   O(pixels) for a reduced copy, and for that as `coloured` and above.
std::optional<CastShadow> castShadowIn(const Picture& picture, const base::Progress& progress = {});

/// Returns the picture as it would be without the shadow.
Picture withoutShadow(const Picture& picture, const CastShadow& shadow);

} // namespace thinline::raster
