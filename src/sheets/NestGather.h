// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "sheets/Nest.h"

/// Short ways for the tool: what lies loosely is pushed together.
namespace thinline::sheets {

/// Returns how far a tool goes from sheet to sheet and from middle to middle, always to the nearest that is left, beginning in each sheet's corner. mm.
/// Cost:   O(items of a sheet, squared).
double travelMm(const NestTask& task, const NestLayout& layout);

/// Returns the layout with everything that is not pinned pushed to the upper left as far as it goes, or as it is where that
/// makes the tool's way no shorter.
/// Shape:  no sheet is left for another, nothing turned; no sheet is used any farther. A layout that is returned is sound.
/// Cost:   O(items squared) looks at boxes, and a look at outlines for those that are near.
NestLayout gathered(const NestTask& task, const std::vector<std::shared_ptr<const NestTable>>& tables,
                    const NestLayout& layout, const base::Progress& progress = {});

} // namespace thinline::sheets
