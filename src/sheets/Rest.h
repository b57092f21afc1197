// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Load.h"
#include "design/Piece.h"

#include <map>
#include <optional>

namespace thinline::design {
struct Stack;
}

/// What is left of scraps once they were cut.
namespace thinline::sheets {

/// A remnant narrower than that is not worth keeping; from memory.
inline constexpr double kLeastRestMm = 40;

/// Returns the outline of what is left whole of a scrap on one side of all that is cut from it, from the corner of its box as it lies.
/// Shape:  the largest of the four sides, kScrapMarginMm from the cuts; what is torn or holed stays so. Nothing where no
///         side is left that is kLeastRestMm both ways.
/// Cost:   O(nodes log nodes) of the scrap and the pieces on it.
std::optional<geometry::Polygons> restOf(const design::PlacedSheet& scrap, const design::Stack& stack);

/// The rests of a load's scraps, by the scraps' numbers in their job.
using Rests = std::map<int, geometry::Polygons>;
Rests restsOf(const design::Load& load, const design::Stack& stack);

} // namespace thinline::sheets
