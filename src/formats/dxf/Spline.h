// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

#include <vector>

namespace thinline::formats::dxf {

/// A B-spline as files state it.
struct Spline {
    int degree = 3;
    std::vector<double> knots;
    std::vector<geometry::Point> points;
    std::vector<double> weights;          ///< one per point; all 1 for a plain spline
    std::vector<geometry::Point> through; ///< points on the curve, used when there are no control points
};

/// Returns the curve as cubic segments, open.
/// Shape:  exact for plain splines of degree 1 to 3; others (weighted, higher) are sampled and fitted within
///         a hundredth of their size's thousandth. Empty when knots and points do not agree.
/// Source: knot insertion: W. Boehm, Inserting new knots into B-spline curves, 1980; evaluation: C. de Boor,
///         On calculating with B-splines, 1972. Points to pass through: the natural cubic spline.
geometry::Contour curvesOf(const Spline& spline);

} // namespace thinline::formats::dxf
