// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "sheets/Nest.h"

/// Laying what is a rectangle or nearly one: side by side along the sheet, as a search by overlaps never brings it to lie.
namespace thinline::sheets {

/// Returns how much of their boxes the outlines of a task fill that are not pinned, together, each turned as its stock allows so that its box is
/// smallest: 1 for rectangles.
/// Shape:  0 where something is blocked on a sheet or an outline has one turn of its own.
double boxShare(const NestTask& task, const std::vector<std::shared_ptr<const NestTable>>& tables);

/// Returns a closer layout than the one it begins with, by boxes beside one another, or that one.
/// Shape:  as nest. Pinned items are boxes to lie beside.
/// Errors: none; a stopped search returns the best so far.
/// Cost:   the budget; a step for six looks for room on a sheet.
NestLayout nestBoxes(const NestTask& task, const std::vector<std::shared_ptr<const NestTable>>& tables,
                     NestLayout from, const NestBudget& budget,
                     const std::function<void(const NestLayout&)>& publish = {},
                     const base::Progress& progress = {});

} // namespace thinline::sheets
