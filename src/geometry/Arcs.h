// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

/// Circles and ellipses as cubic curves.
namespace thinline::geometry {

/// Appends an arc of an axis-parallel ellipse to a contour that has come to the arc's first point.
/// Units:  angles in radians, clockwise on screen from the right; a negative sweep runs anticlockwise.
/// Shape:  cubics of at most 45 degrees, so that the radius errs by less than 5 millionths.
/// Source: the tangent rule k = 4/3 tan(sweep/4); A. Riskus, Approximation of a cubic Bezier curve by
///         circular arcs and vice versa, 2006.
void appendEllipseArc(Contour& contour, Point centre, double radiusX, double radiusY, double fromRad,
                      double sweepRad);

/// Returns a whole ellipse, clockwise on screen, starting at its right.
Contour ellipse(Point centre, double radiusX, double radiusY);

} // namespace thinline::geometry
