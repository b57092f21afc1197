// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Picture.h"

namespace thinline::raster {

/// What lies beyond the frame of a mask.
enum class Beyond { Outside, Unknown };

/// Returns how far every pixel of a mask lies from the nearest one outside it, in pixels; 0 outside.
/// Shape:  255 is inside; width * height values; very large ones where nothing
///         is outside.
/// Cost:   O(pixels).
std::vector<float> depthsOf(const Grey& mask, Beyond frame = Beyond::Outside);

} // namespace thinline::raster
