// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "batch/Session.h"

#include <vector>

namespace thinline::batch {

/// The commands on drawings of shapes: weld, subtract, intersect, exclude, slice, divide, offset, measure.
std::vector<Command> shapeCommands();

} // namespace thinline::batch
