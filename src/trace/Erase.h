// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/Picture.h"
#include "trace/Recipe.h"

namespace thinline::trace {

/// Returns the picture without what is to be taken out: the colour of its edge lies there instead, or the one that is named.
/// Cost:   O(pixels) for a spill, else what the erasures cover.
raster::Picture erased(raster::Picture picture, const std::vector<Erasure>& erasures);

} // namespace thinline::trace
