// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Stack.h"

#include <functional>
#include <optional>
#include <string>
#include <unordered_map>
#include <vector>

/// What is lifted off together.
namespace thinline::design {

/// What is laid on a sheet as one: the pieces of a cluster, or a single piece.
struct Rigid {
    std::vector<const Laid*> pieces; ///< never empty; the first one holds the rest
    int copies = 1;
    double frameMm = 0;
    std::string stockId;
    const Cluster* cluster = nullptr; ///< null for a single piece

    const Laid& held() const { return *pieces.front(); }
    /// Of all pieces, with the frame round them, where they lie in the design.
    geometry::Box box() const;
    /// The frame cut round them, where they lie in the design; nothing without one.
    std::optional<geometry::Shape> frame() const;
    /// The outlines to keep clear of: the frame, else the pieces.
    std::vector<geometry::Shape> outlines() const;
};

/// Returns everything that is laid on sheets: clusters as one, every other piece alone, in the order of their first
/// pieces. Hidden layers and stocks cut by hand are left out.
/// Cost: O(pieces + clusters' pieces log pieces).
std::vector<Rigid> rigidOf(const Stack& stack);

/// Returns the clusters as they stand: those of their pieces that are there, also as the parts they were parted
/// into, of one stock and with one side up, which are the first one's. One of fewer than two pieces is none. A frame
/// stands only where the stock is cut to a carrier.
/// Shape: `standsFor` says by which piece one is answered for that was joined into another.
std::vector<Cluster> standingOf(const std::vector<Cluster>& said, const Stack& stack,
                                const std::function<PieceId(PieceId)>& standsFor);

/// Returns the cluster a piece lies in, or null. Cost: O(clusters' pieces).
const Cluster* clusterOf(const Stack& stack, PieceId piece);
/// Returns the cluster of every piece that lies in one.
using ClusterIndex = std::unordered_map<PieceId, const Cluster*>;
ClusterIndex clusterIndex(const Stack& stack);

/// Returns the pieces of visible layers that are cut by hand, on no mat.
std::vector<const Laid*> cutByHand(const Stack& stack);

} // namespace thinline::design
