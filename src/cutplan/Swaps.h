// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/CutPlan.h"

/// Who has to stand up, and when.
namespace thinline::cutplan {

/// Returns the holder of a machine that takes a tool: of several the one that takes fewest others, so that those find room.
std::optional<std::size_t> holderFor(const design::Machine& machine, design::ToolKind tool);

/// Orders the loads of a plan so that tools are swapped as rarely as can be, and says before which pass who is swapped.
/// Shape:  what an empty holder gets is put in before the first load and is no swap. Loads that need the same tools in the
///         same order stay together, in the order of their numbers; of equal orders that of the numbers is taken.
/// Cost:   every order of up to seven kinds of loads; of more the nearest kind follows.
void orderForFewestSwaps(design::CutPlan& plan);

} // namespace thinline::cutplan
