// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "trace/Tracing.h"

namespace thinline::trace {

/// Returns a photo as layers of tone, each darker one lying on the lighter one.
/// Shape:  the lightest is the whole picture; each of the others its connected parts, which lie wholly on the
///         layer below. No part, and no gap in one, is narrower than the least neck, by construction.
/// Errors: InvalidArgument for tones outside 2 to 8; Degenerate for a picture of one tone; Cancelled.
/// Cost:   O(pixels); the work is done at about six pixels per neck.
base::Result<Tracing> tracePhoto(const raster::Picture& picture, double mmPerPx, const Recipe& recipe,
                                 const base::Progress& progress = {});

} // namespace thinline::trace
