// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "assembly/Instructions.h"

namespace thinline::assembly {

/// Gives assemblies their names, steps their keys and texts: somebody's own words where there are some.
void write(const design::Stack& stack, const Wishes& wishes, base::LengthUnit unit, Instructions& out);

/// Returns an act as a heading: "Glue".
const char* headingOf(Act act);

} // namespace thinline::assembly
