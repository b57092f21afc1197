// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Picture.h"

namespace thinline::raster {

/// Returns the picture as if its paper were evenly lit: every pixel against the brightness of the paper
/// nearby.
/// Shape:  evenly lit paper stays as it is, to the value. Where no paper is near (a large dark area) the
///         paper around it counts.
/// Cost:   O(pixels).
Grey evenedLight(const Grey& grey);

} // namespace thinline::raster
