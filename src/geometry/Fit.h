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

/// Returns an open line of few cubic curves and straight steps through dense points; its ends are the first
/// and the last point. Otherwise as fitContour; empty for fewer than two points.
Contour fitLine(const Polygon& points, const FitOptions& options = {});

/// What cleaning came to.
struct Cleaned {
    Contour contour;
    double strayMm = 0; ///< the farthest the old outline lies from the new one
};

/// Returns an outline with fewer nodes that strays at most the tolerance from the given one.
/// Shape:  corners sharper than `cornerRad` and straight sides longer than 4 tolerances stay; elsewhere
///         curves in, fewer curves out, tangents running through. Never more nodes than before.
/// Units:  `strayMm` is measured on 24 points of every old step, not estimated.
/// Cost:   O(nodes log nodes) typical.
Cleaned reduced(const Contour& contour, const FitOptions& options);

/// Returns an outline without jitter: points along it are averaged over about `reachMm`.
/// Shape:  corners sharper than `cornerRad` over the reach stay where they are; an outline shorter than six
///         reaches is returned as it is.
/// Source: a Gaussian of sigma reachMm / 2 along the length, then fitContour.
Cleaned smoothed(const Contour& contour, double reachMm, double cornerRad = 0.8);

/// Returns an outline without nicks and spikes: detours at most `sizeMm` wide and deep, from an edge that
/// runs on in the same direction (within 30 degrees) behind them, are replaced by a straight step.
/// Errors: none; an outline of which nothing sound is left is returned as it is.
/// Cost:   O(nodes x nodes within four sizes).
Cleaned withoutNicks(const Contour& contour, double sizeMm);

} // namespace thinline::geometry
