// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Point.h"

#include <optional>

/// Where on a piece something is printed: maps from the unit square to the design, never stretched.
namespace thinline::print {

/// Returns the place in which something of an aspect fills a box and as little as may be of it is lost: `subject` of it, a point of
/// the unit square, comes as near to the box's middle as the box stays filled.
/// `turnRad`: clockwise on screen, about the box's middle; then it fills the box however it is turned.
geometry::Transform covering(const geometry::Box& box, double aspect, geometry::Point subject = {0.5, 0.5},
                             double turnRad = 0);
/// Returns the place in which it lies in the middle of a box, whole, with a margin that is a share of the box.
geometry::Transform within(const geometry::Box& box, double aspect, double turnRad = 0,
                           double marginShare = 0.1);

/// Returns a place moved, then sized and turned about a point, which is the middle of the place where none is given.
struct Shift {
    geometry::Point by{};
    double scale = 1;
    double turnRad = 0;
};
geometry::Transform shifted(const geometry::Transform& place, const Shift& shift,
                            const std::optional<geometry::Point>& about = {});

/// Width of a place, mm, and how far it is turned, clockwise on screen.
double widthOf(const geometry::Transform& place);
double turnOf(const geometry::Transform& place);

} // namespace thinline::print
