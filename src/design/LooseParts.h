// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Stack.h"

namespace thinline::design {

/// Returns the boxes of the parts of a work that lie side by side, touching nothing of one another, the largest first:
/// sources put beside each other are no single design, and their common box is the size of nothing.
/// Shape:  pieces belong together when their boxes meet; hidden layers count, they are there.
/// Cost:   O(n log n + pairs that overlap from left to right).
std::vector<geometry::Box> looseParts(const Stack& stack);

} // namespace thinline::design
