// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Drawing.h"

#include <string_view>

/// Reads DXF drawings into outlines in millimetres. What it skips it says.
namespace thinline::formats::dxf {

struct DxfLimits {
    size_t mostBytes = 256u << 20;
    size_t mostSegments = 1'500'000; ///< blocks counted each time they are used
    int deepest = 16;                ///< blocks within blocks
    double joinWithinMm = 0.1; ///< ends nearer than this are one place; drawings by hand rarely miss by more
};

/// Whether some bytes look like a DXF file.
bool looksLikeDxf(std::string_view bytes);

/// Returns the drawing.
/// Accepts:the text form, R12 to 2000: LINE, POLYLINE and LWPOLYLINE with bulges, ARC, CIRCLE, ELLIPSE,
///         SPLINE, blocks and their inserts (scaled, turned, in rows), layers, colours by index or by layer,
///         the header's unit. Later files as far as they hold these.
/// Shape:  one item per layer, colour and way of dashing; closed outlines nest (even-odd), so one inside another is
///         its opening; loose ends are joined within `joinWithinMm` where all of an item come round so. Layers that are off or frozen are left
///         out, said. y runs down; the upper left corner of all outlines is the page's.
/// Units:  by $INSUNITS; without it a unit is taken for a millimetre and `stated` is None. Skips: text,
///         dimensions, hatches, pictures, points and solids; said.
/// Errors: ParseError (binary DXF, no section, nothing drawn), LimitExceeded, Cancelled.
/// Cost:   O(bytes + n log n).
/// Source: DXF R12 group codes; the library dxflib reads them. Colours by index from memory.
base::Result<design::DrawnPage> readDxf(std::string_view bytes, const DxfLimits& limits = {},
                                        const base::Progress& progress = {});

} // namespace thinline::formats::dxf
