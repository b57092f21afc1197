// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "folding/Model.h"

/// For the sources of this folder only.
namespace thinline::folding {

/// Returns the leaves of a card in the directions of its root; `folded` counts stages.
std::vector<Stand> leavesAt(const Sheet& sheet, double folded);
/// Finds a model's joints and where its cards stand when all is done.
void putTogether(Model& model);

} // namespace thinline::folding
