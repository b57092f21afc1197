// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "batch/Session.h"

#include <vector>

namespace thinline::batch {

/// The commands that make a job and size it: trace, import, size, fit.
std::vector<Command> traceCommands();
std::vector<Command> handworkCommands();
/// import, words, figure
std::vector<Command> sourceCommands();
/// construct, fold, slots
std::vector<Command> constructCommands();
/// size, fit
std::vector<Command> sizeCommands();

/// shape, layer, lay
std::vector<Command> stepCommands();
/// folds
std::vector<Command> foldCommands();
/// panels, marks
std::vector<Command> motifCommands();
std::vector<Command> panelCommands();
/// plan, simulate, checklist
std::vector<Command> cutCommands();
/// assembly, picture
std::vector<Command> assemblyCommands();
/// face, print, register, calibrate
std::vector<Command> printCommands();
/// What simulate does with --print.
base::Status simulatePrint(Session& session, const Options& options);
/// log, drawer, swap-stock
std::vector<Command> logCommands();
/// split
std::vector<Command> splitCommands();
/// cluster, relate
std::vector<Command> relationCommands();
/// place, pin
std::vector<Command> placeCommands();
/// stock
std::vector<Command> stockCommands();
/// show
std::vector<Command> showCommands();

/// The commands that lay a job on sheets and write its files: sheets, pack, demo.
std::vector<Command> sheetCommands();

} // namespace thinline::batch
