// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Lines.h"

#include <vector>

/// Where a closed cut begins and ends.
namespace thinline::cutplan {

/// A place on a closed line: `share` of the way along one of its segments, 0 at its start.
struct Beginning {
    std::size_t segment = 0;
    double share = 0;
    geometry::Point at;
};

/// Returns up to `most` good places to begin a closed line, in the order of the line.
/// Shape:  middles of straight stretches of kStraightMm and more with kWideMm to the next edge on both sides: a knife that
///         comes down and leaves there frays no narrow place and no corner. Of more than `most` the longest. Where there
///         is none, ends of segments with as much room where the line goes on without a corner, spread over the line; else
///         the one end with most room.
/// `edges`: all edges of the piece, this line's too.
/// Cost:   O(segments of the line + edges).
std::vector<Beginning> beginningsOf(const geometry::Contour& line, const geometry::Polygons& edges,
                                    std::size_t most = 8);
inline constexpr double kStraightMm = 4, kWideMm = 3; ///< from memory

/// Returns a closed line as it runs from a place on it.
geometry::Contour begunAt(const geometry::Contour& line, const Beginning& beginning);

} // namespace thinline::cutplan
