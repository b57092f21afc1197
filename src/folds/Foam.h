// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Point.h"
#include "raster/Picture.h"

#include <vector>

/// Spots of foam under lifted pieces.
namespace thinline::folds {

/// How foam is laid in a job.
struct FoamPlan {
    bool isAsked = false;
    double acrossMm = 8; ///< of a spot, where there is room

    bool operator==(const FoamPlan&) const = default;
};
inline constexpr double kLeastFoamMm = 0.5;   ///< lower than that it is glued, not lifted
inline constexpr double kFoamToEdgeMm = 3;    ///< so that nobody sees it from the side
inline constexpr double kLeastSpotMm = 3;     ///< a smaller one does not hold
inline constexpr double kFoamReachMm = 30;    ///< card further than that from any spot sags
inline constexpr double kOneSpotBelowMm = 20; ///< a piece smaller than that rests on one
inline constexpr int kLeastSpots = 3;         ///< a larger one rocks on fewer
inline constexpr double kLongArmMm = 15;      ///< an arm longer than that has one of its own

/// Where foam may stand under a piece: square cells, row by row.
struct FoamBed {
    geometry::Point corner; ///< where the first cell begins, mm in the design
    double cellMm = 1;
    raster::Grey card;           ///< 255 where a cell is card of the piece all over
    std::vector<float> heightMm; ///< how high foam would be in each cell; 0 where none may stand
};

struct FoamSpot {
    geometry::Point middle;
    double acrossMm = 0, heightMm = 0;
    size_t cell = 0; ///< that its middle lies in
};
struct FoamSpots {
    std::vector<FoamSpot> all;
    int armsWithout = 0; ///< long arms in which none has room
};

/// Returns where foam goes under a piece.
/// Shape:  one spot under a piece below 20 mm across, else at least three where there is room, spread so that no place for
///         one is further than 30 mm from the next along the card, and one in every arm longer than 15 mm. Every spot has
///         one height all over and lies 3 mm inside the card and what carries it. A spot without room is smaller, down to
///         3 mm.
/// Errors: Cancelled.
/// Cost:   O(cells log cells) for each spot at most; each later one looks at what lies nearer to it than to the others.
/// Source: the distances are from memory.
base::Result<FoamSpots> foamSpotsOf(const FoamBed& bed, const FoamPlan& plan,
                                    const base::Progress& progress = {});

} // namespace thinline::folds
