// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

#include <QPainterPath>

#include <vector>

/// What drawing known curves and holding a tracing against them needs.
namespace thinline::bench {

/// A path of the painter with all outlines and openings.
QPainterPath pathOf(const std::vector<geometry::Shape>& shapes);

struct Corner {
    geometry::Point at;
    double turn = 0;              ///< rad, signed
    double before = 0, after = 0; ///< px, lengths of the steps that meet there
};
/// Where outlines turn by more than an angle.
std::vector<Corner> cornersOf(const std::vector<geometry::Shape>& shapes, double leastRad);

} // namespace thinline::bench
