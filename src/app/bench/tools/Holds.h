// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Tool.h"

/// Places a pointer holds on to: corners and notches, middles, edges.
namespace thinline::app {

/// How near the pointer must come, px.
inline constexpr double kHoldReachPx = 9;

/// Returns the place a pointer holds on to; its own place where there is none.
Scene::Snap heldPlace(const Pointer& pointer);

/// Marks a place by what it is: a square for a node, a ring for a centre, a triangle for a middle, a cross on an edge.
void paintHold(QPainter& painter, const Scene::Snap& place, const BenchMap& map);

} // namespace thinline::app
