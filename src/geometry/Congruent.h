// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

#include <optional>

namespace thinline::geometry {

/// Returns the map that lays one shape onto another of the same form and size; nothing when they are not alike.
/// Shape:  moved, turned, and mirrored where nothing else does. Of several maps (a square has four) the one that turns
///         least. Outlines are told alike by their nodes: the same outline drawn with other nodes is another one.
/// Units:  nodes and handles lie within `toleranceMm`.
/// Cost:   O(nodes) where the forms differ, else O(nodes x symmetries).
std::optional<Transform> congruence(const Shape& from, const Shape& to, double toleranceMm = 0.01);

} // namespace thinline::geometry
