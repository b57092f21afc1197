// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/EdgeNet.h"

#include <vector>

/// Straight stand-ins for the edges of a net: long ones where nothing else is near, fine ones where edges
/// meet. So the polygon engine gets little more than what can cross. Internal to the folder.
namespace thinline::geometry {

/// Where strands cross they stray at most this much from their curves.
inline constexpr double kFineMm = 0.00015;

/// A chain: edges one after the other that no other edge joins on the way, all running into one quadrant.
using Chain = std::vector<EdgeUse>;

/// The chord of a part of a chain. Its curves lie in the box the chord spans.
struct Strand {
    int chain = 0;
    int first = 0, last = 1; ///< edges of the chain, `last` exclusive
    double t0 = 0, t1 = 1;   ///< with one edge: the stretch of its source, in the chain's direction
    GridPoint from, to;
    bool meets = false; ///< something else comes near: it is as fine as kFineMm
};

struct StrandSet {
    std::vector<Chain> chains;
    std::vector<Strand> strands;      ///< sorted by chain and place
    std::vector<size_t> firstOfChain; ///< and one past the last

    /// One closed walk per contour, over chains.
    std::vector<std::vector<EdgeUse>> walks; ///< EdgeUse::edge is a chain here
};

struct StrandOptions {
    /// Makes every strand fine, also where nothing is near: the second rung of the ladder in Boolean.cpp.
    bool isFineEverywhere = false;
};

/// Cuts what touches and lays strands over the net.
/// Errors: Cancelled.
/// Cost:   O(n log n) for n chains, and for every place where edges meet the logarithm of its fineness.
base::Result<StrandSet> layStrands(EdgeNet& net, const Grid& grid, const StrandOptions& options,
                                   const base::Progress& progress);

} // namespace thinline::geometry
