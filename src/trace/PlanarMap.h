// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "geometry/Measured.h"
#include "geometry/Shape.h"
#include "raster/Borders.h"
#include "trace/Remainder.h"

#include <functional>
#include <vector>

/// A picture as areas that share their borders: every way of tracing ends in one.
namespace thinline::trace {

/// A border between two faces, fitted once; both neighbours use the same curve.
struct MapEdge {
    int right = -1, left = -1;   ///< faces along its direction; -1 outside the picture
    int from = -1, to = -1;      ///< junctions at its ends; -1 for a ring
    int leaves = 0, arrives = 0; ///< ways of the first and last pixel side, for the order around a junction
    geometry::Contour curve;     ///< px; open between two junctions, a ring ends at its start
};

struct PlanarMap {
    int width = 0, height = 0; ///< px of the picture
    int faces = 0;             ///< numbered 0 to faces - 1, as the labels they come from
    std::vector<geometry::Point> junctions;
    std::vector<MapEdge> edges;
};

/// The levels between two faces that border on one another, for measuring where their border runs.
struct Levels {
    raster::LevelAt at;
    double tolerance = 0; ///< px; farthest a curve may lie from the border found where that is in doubt

    std::optional<Remainder::Plain> plain; ///< of pixels wholly on one side; unset: measured

    Levels(raster::LevelAt levelAt, double doubt = 0, std::optional<Remainder::Plain> plainSides = {})
        : at(std::move(levelAt)), tolerance(doubt), plain(plainSides) {}
};
using LevelsFor = std::function<Levels(int right, int left)>;

/// More faces than this are noise: nobody cuts them.
inline constexpr int kMostFaces = 20'000;

/// Returns the planar map of a labelled picture.
/// Shape:  labels are the faces, each connected. Three or more borders end in one junction, placed where the
///         borders running into it meet; two of them that run on into one another do so smoothly. The
///         picture's frame is straight. Nodes are rounded to 1/10,000 px.
/// Errors: Degenerate for more than kMostFaces faces; Cancelled.
/// Cost:   O(pixels) plus fitting, n log n in the length of the borders.
base::Result<PlanarMap> drawMap(const raster::LabelMap& labels, const std::vector<std::int32_t>& rank,
                                const LevelsFor& levelsFor, const raster::EdgeReading& reading,
                                const geometry::MeasuredOptions& options,
                                const base::Progress& progress = {});

/// Returns the outlines of some faces taken together, borders between them left out.
/// Shape:  a shape for every connected part (along borders, not across a corner), in the order of its lowest
///         face; each with its openings. Borders are walked, not computed anew: neighbours agree to the bit.
/// Cost:   O(edges + faces).
std::vector<geometry::Shape> outlinesOf(const PlanarMap& map, const std::function<bool(int)>& isIn);

/// Returns the shape of every face at once, by its number.
std::vector<geometry::Shape> faceShapes(const PlanarMap& map);

} // namespace thinline::trace
