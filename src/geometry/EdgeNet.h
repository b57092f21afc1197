// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "geometry/Cubic.h"
#include "geometry/PolygonEngine.h"

#include <vector>

/// The first half of a curve-true operation: outlines become walks over a net of edges in which what
/// coincides is one and the same. Internal to the folder; the doors are in Boolean.h.
namespace thinline::geometry {

/// Nodes nearer than this are one node, stretches nearer than this are one edge. Half of what a result may
/// stray (1 um), far below what a knife can place (0.1 mm).
inline constexpr double kSameMm = 0.0005;

/// One step of a given outline, the curve everything found later refers to.
struct NetSource {
    Cubic curve;
    bool isLine = true;
    int contour = 0;
};

/// A stretch of one source, monotone in x and y.
struct NetEdge {
    int source = 0;
    double t0 = 0, t1 = 1; ///< ascending
    int from = 0, to = 0;  ///< nodes at t0 and t1
};

struct EdgeUse {
    int edge = 0;
    bool isForward = true;
};

struct EdgeNet {
    std::vector<NetSource> sources;
    std::vector<NetEdge> edges; ///< no two cover the same stretch
    std::vector<Point> nodes;
    std::vector<GridPoint> nodeGrid;
    std::vector<std::vector<EdgeUse>> walks; ///< one closed walk per contour; empty for one without extent

    int fromNode(EdgeUse use) const {
        const NetEdge& e = edges[static_cast<size_t>(use.edge)];
        return use.isForward ? e.from : e.to;
    }
    int toNode(EdgeUse use) const { return fromNode({use.edge, !use.isForward}); }
    const NetSource& sourceOf(int edge) const {
        return sources[static_cast<size_t>(edges[static_cast<size_t>(edge)].source)];
    }
};

/// Returns the net of some contours: edges split where they turn back in x or y, nodes and whole edges that
/// coincide joined. Contours that are not closed are closed by a straight step.
/// Errors: Cancelled. Coordinates must be finite and on the grid.
/// Cost:   O(segments).
base::Result<EdgeNet> makeNet(const std::vector<const Contour*>& contours, const Grid& grid,
                              const base::Progress& progress);

/// A node of one edge lies on another edge: the other is to be cut there.
struct NetCut {
    int edge = 0;
    double t = 0;
    int node = 0;
    auto operator<=>(const NetCut&) const = default;
};

/// Adds the cuts that two edges, which lie near each other, make in one another.
void findCuts(const EdgeNet& net, int a, int b, std::vector<NetCut>& cuts);

/// Cuts the edges and joins what coincides afterwards.
/// Cost:   O(edges + cuts log cuts).
void applyCuts(EdgeNet& net, std::vector<NetCut> cuts);

} // namespace thinline::geometry
