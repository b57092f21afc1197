// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "split/Steps.h"

/// Seams laid by hand. Lines in, lines out; what they come to is told by dividedBy.
namespace thinline::split {

using Lines = std::vector<geometry::Line>;

/// Which seams the lines that come out were part of; -1 for a new one.
struct Laid {
    Lines seams;
    std::vector<int> from;
};

/// Returns the seams with everything that lies at one point moved to another: an end on an edge stays on the edge, one
/// where seams meet takes all of them along, a bend goes alone.
Laid movedAt(const Lines& seams, geometry::Point at, geometry::Point to, const geometry::Shape& shape);
/// Returns the seams with a bend more, where a seam is nearest to a point.
Laid bentAt(const Lines& seams, size_t seam, geometry::Point at);
/// Returns the seams with one more. Its ends go to the nearest edge or seam within reach; it runs along the edge of
/// something laid above where both ends lie on that and `along` is given.
/// Errors: InvalidArgument when it has no length or lies beside the shape.
base::Result<Laid> withSeam(const Lines& seams, geometry::Point from, geometry::Point to,
                            const geometry::Shape& shape, double reachMm,
                            const std::vector<geometry::Shape>& along = {});
/// Returns the seams without one. Where two others met it and go straight on, they become one again.
Laid withoutSeam(const Lines& seams, size_t seam);

/// Returns the seams cut where they cross and where one ends on another, so that each has one part on either side.
/// Every piece of a seam keeps its joint.
std::vector<SeamWish> knotted(const std::vector<SeamWish>& seams);

} // namespace thinline::split
