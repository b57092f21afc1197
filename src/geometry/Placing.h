// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"
#include "geometry/Shape.h"

#include <optional>
#include <vector>

/// Transforms by exact measures, and the moves that align and space things.
namespace thinline::geometry {

/// Returns the map that gives a box an exact width, height or both, its upper left corner staying; with one
/// of them the proportions are kept.
/// Errors: InvalidArgument for a size not above zero, and for a box without extent in a wanted direction.
base::Result<Transform> toSize(const Box& box, std::optional<double> widthMm, std::optional<double> heightMm);

/// Returns the same map done about another point instead of the origin.
Transform about(Point fixed, const Transform& map);
/// Returns a turn, clockwise on screen when positive, about a point.
Transform turnAbout(Point fixed, double turnRad);

enum class Axis { Horizontal, Vertical };
/// Returns the mirror about the line through a point: Axis::Vertical swaps left and right.
Transform mirrorAbout(Point through, Axis axis);

/// Where along an axis boxes are brought into line.
enum class Edge { Low, Middle, High };
/// Returns for each box how far it must move along an axis (Horizontal: in x) so that all agree with the
/// common box of all. Zero for empty boxes.
std::vector<double> alignMoves(const std::vector<Box>& boxes, Axis along, Edge edge);

/// What even spacing amounts to.
struct Spacing {
    std::vector<double> moves; ///< along the axis, per box
    double gapMm = 0;          ///< between neighbours; negative when they must overlap
};
/// Returns the moves that leave equal gaps between boxes along an axis, the outermost staying where they are.
/// Shape: fewer than three boxes need no move.
Spacing evenSpacing(const std::vector<Box>& boxes, Axis along);
/// Returns the moves that leave gaps of a given size, the first along the axis staying.
Spacing spacingOf(const std::vector<Box>& boxes, Axis along, double gapMm);

} // namespace thinline::geometry
