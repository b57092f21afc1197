// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "trace/RefineSteps.h"

/// Other steps a border could be made of, to be tried where the picture is explained badly.
namespace thinline::trace {

/// Returns other ways the steps may run around the place t of the step `at`: with a corner there, with a
/// short side that cuts the corner off, with what cuts a tip off left out, with a step that bends in two.
/// Each ends where the given steps end.
std::vector<Steps> otherWays(const Steps& steps, size_t at, double t);

/// Returns the steps without the one at `at`: either neighbour drawn out over it, or one step in place of it
/// and the next, where the one nearly runs on into the other.
std::vector<Steps> waysWithout(const Steps& steps, size_t at);

/// Returns whether no step is shorter than 0.8 px, unless those they replace had one as short, and none
/// cross.
/// Cost:   O(steps²).
bool isPlausible(const Steps& steps, const Steps& before);

} // namespace thinline::trace
