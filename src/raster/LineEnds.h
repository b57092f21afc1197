// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "raster/FineLines.h"
#include "raster/Regions.h"

/// Where the fine lines of a drawing end, and how they meet.
namespace thinline::raster {

/// Settles the ends of fine lines against one another: those that face each other are one line, the ink in which
/// several meet is theirs, and an end that nearly reaches another line runs on to it.
/// Shape:  lines that are straight but for their ends become two points.
/// Errors: Cancelled.
/// Cost:   O(pixels + lines²).
base::Status settleEnds(const Grey& ink, const FineLineOptions& options, std::vector<FineLine>& lines,
                        const base::Progress& progress = {});

/// Makes a line two points where a straight one holds but for its ends.
void straighten(FineLine& line);

/// Returns the ink without that of some lines.
Grey without(Grey ink, const std::vector<FineLine>& lines);

} // namespace thinline::raster
