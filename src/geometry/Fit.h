// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

namespace thinline::geometry {

struct FitOptions {
    /// Farthest a given point may lie from the curve, in the points' own unit. A knife places to about 0.1
    /// mm.
    double tolerance = 0.01;
    /// A turn sharper than this at one point is a corner and stays one. Flattened arcs turn by a few degrees.
    double cornerRad = 0.45;
};

/// Returns a closed outline of few cubic curves and lines through a dense ring of points.
/// Shape:  corners stay where they are, tangents run through everywhere else; straight runs become lines;
///         orientation kept; empty for fewer than three points.
/// Cost:   O(n log n) typical.
/// Source: P. J. Schneider, An Algorithm for Automatically Fitting Digitized Curves, Graphics Gems, 1990.
Contour fitContour(const Polygon& ring, const FitOptions& options = {});

} // namespace thinline::geometry
