// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Lines.h"

#include <optional>
#include <vector>

/// Straight edges of a piece: what folds run along, and what is glued to what.
namespace thinline::folds {

/// A straight run of an outline or opening, over however many nodes that lie on it.
struct Edge {
    geometry::Point from, to; ///< mm in the design
    geometry::Point inward;   ///< unit vector towards the card

    double lengthMm() const { return geometry::distance(from, to); }
    geometry::Point middle() const { return geometry::middle(from, to); }
};

/// Returns the straight edges of a shape, its outline first, each contour in its own order.
/// Shape:  steps whose ends stray less than 0.01 mm from one line are one edge; curves are none.
/// Cost:   O(nodes).
std::vector<Edge> straightEdges(const geometry::Shape& shape);

/// Returns the straight edge that passes nearest to a point; nothing when a curve is nearer, or without any.
std::optional<Edge> straightEdgeAt(const geometry::Shape& shape, geometry::Point p);

} // namespace thinline::folds
