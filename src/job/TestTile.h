// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/CutPlan.h"
#include "job/Making.h"

#include <map>

/// Test tiles: a load's hardest places on a small piece in the waste, cut before the load is.
namespace thinline::job {

/// Returns a tile for every load that has room for one beside its pieces, by load; of a mixed load for the stock of its first
/// sheet, as one setting serves all.
/// Shape:  as wide as what it shows: two slots that leave a strip as narrow as the narrowest of the load's (below 3 mm), a round
///         opening as large as its smallest (below 10 mm), a slot as wide as its tightest fit leaves to the card, a
///         perforation as fine as its finest. Where a load has none of these, one opening of 5 mm.
/// Errors: those of geometry::findNecks; Cancelled.
/// Cost:   findNecks for every piece of the loads, once; O(edges) for every 2 mm of the sheets for the place.
base::Result<std::map<std::size_t, design::TestTile>> testTiles(const State& state,
                                                                const base::Progress& progress = {});

/// Returns what a tile shows, in words: "a strip of 0.8 mm, an opening of 2.1 mm".
std::string tileText(const design::TestTile& tile, base::LengthUnit unit);

} // namespace thinline::job
