// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

namespace thinline::trace {

/// Returns the points of a border with those added that are missing where something lay over it.
/// Shape:  points in order, a gap where two follow one another more than four pixels apart. Those close to it
///         are left out: what lay over it may have moved them. Both sides are carried on to where they meet in a corner, or into one another. A gap at the end of an open border
///         stays.
/// Units:  px.
/// Cost:   O(points).
geometry::Polygon carriedOn(const geometry::Polygon& points, bool isRing);

} // namespace thinline::trace
