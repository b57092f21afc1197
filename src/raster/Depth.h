// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Picture.h"

namespace thinline::raster {

/// Returns how far every pixel of a mask lies from the nearest one outside it, in pixels; 0 outside.
/// Shape:  255 is inside; beyond the frame is outside, or unknown. width * height values; very large ones where nothing
///         is outside.
/// Cost:   O(pixels).
enum class Beyond { Outside, Unknown };
std::vector<float> depthsOf(const Grey& mask, Beyond frame = Beyond::Outside);

} // namespace thinline::raster
