// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Shape.h"

#include <vector>

/// Holding what would fall out: the middle of an O that is cut out, the dot of an i.
namespace thinline::shape {

struct BridgeWish {
    double widthMm = 2;
    int count = 2; ///< for every piece that is held
    enum class Where { Nearest, AboveAndBelow, LeftAndRight } where = Where::Nearest;
};
inline constexpr double kMostBridgeMm = 100; ///< no bridge is longer

/// Returns the bars that tie pieces to the largest of them, each to what is tied already.
/// Shape:  straight, as wide as asked; their ends reach so far into both pieces that they are held over their whole width, where
///         these are wide enough. Where the gap is narrowest, the next ones as far round the piece as they stay short; or straight up
///         and down, or across, near its middle. Pieces that touch or lie on one another need none.
/// Errors: InvalidArgument where nothing needs a bridge, or a piece lies farther away than kMostBridgeMm; Cancelled.
/// Cost:   O(places x edges) of pieces that come near one another, up to 400 places on each.
base::Result<std::vector<geometry::Shape>> bridgesBetween(const std::vector<geometry::Shape>& pieces,
                                                          const BridgeWish& how,
                                                          const base::Progress& progress = {});

} // namespace thinline::shape
