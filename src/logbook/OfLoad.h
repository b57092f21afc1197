// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/CutSteps.h"
#include "logbook/Entry.h"

namespace thinline::logbook {

/// Returns what is entered when a load was cut: one entry for each of its stocks, with its setting, its metres, its sheets and the
/// finished size of the work. `at` counts in the order of the plan.
/// Errors: NotFound when there is no such load.
base::Result<std::vector<Entry>> entriesOf(const job::State& state, const design::CutPlan& plan,
                                           std::size_t at, Outcome outcome, const std::string& note = {});
/// The same of its test tile: one entry.
/// Errors: NotFound when it has none.
base::Result<Entry> tileEntryOf(const job::State& state, const design::CutPlan& plan, std::size_t at,
                                Outcome outcome);

} // namespace thinline::logbook
