// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"
#include "geometry/Lines.h"

#include <string_view>
#include <vector>

/// Reads plotter files back. It shares nothing with the writer.
namespace thinline::formats::plotter {

/// What one pen draws while it is down.
struct Drawn {
    int pen = 0;
    geometry::Polygon way; ///< mm, y up, from the lower left corner
};
struct PlotterPage {
    std::vector<Drawn> lines;
    std::vector<std::string> skipped = {}; ///< commands that are not known, once each
    bool endsLifted = false;               ///< the pen is up and put away
};

/// Returns what an HP-GL file draws.
/// Accepts:IN, SP, PU, PD, PA, PR with any number of places, labels (LB) passed over; other commands are skipped and told.
/// Units:  1016 to the inch.
/// Errors: ParseError saying where: a place with one number, a number that is none; LimitExceeded above 64 MB or two million
///         places.
/// Cost:   O(bytes).
base::Result<PlotterPage> readPlotter(std::string_view bytes);

} // namespace thinline::formats::plotter
