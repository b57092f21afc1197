// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FontStore.h"
#include "base/Progress.h"
#include "base/Result.h"
#include "design/Drawing.h"

#include <string_view>

/// Reads SVG of any origin into outlines in millimetres. What it skips it says.
namespace thinline::formats::svg {

struct SvgLimits {
    size_t mostBytes = 256u << 20;
    size_t mostElements = 1'000'000; ///< visited, copies by <use> counted each time
    size_t mostSegments = 1'500'000;
    int deepest = 200; ///< groups within groups, and uses of uses
};

/// Returns the drawing.
/// Accepts:paths and basic shapes, groups, symbols, <use> of parts of the same file, nested <svg>,
///         transforms, viewBox and preserveAspectRatio, units, fill and stroke by attribute, style and style
///         sheet. UTF-8 and UTF-16, with or without a mark. Entities of the file's own are not expanded. Clip
///         paths in user units go with their items. Text becomes outlines when there is a font store: whole
///         stretches at their place, in one line, anchored, with the nearest typeface. Skips: pictures,
///         scripts, animation, links to elsewhere, masks, filters, markers, text along paths; said. Closed
///         outlines count as areas even when they are only stroked, as cut files draw them.
/// Errors: ParseError (not XML: line and column; no svg element; nothing drawn), LimitExceeded, Cancelled.
/// Cost:   O(bytes + segments); about 10 times the file in memory at the worst.
base::Result<design::DrawnPage> readSvg(std::string_view bytes, const SvgLimits& limits = {},
                                        const base::Progress& progress = {},
                                        const base::FontStore* fonts = nullptr);

} // namespace thinline::formats::svg
