// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Making.h"

/// The steps at Sheets.
namespace thinline::job {

/// Says how folds are made.
Job withFoldsAs(const Job& job, design::FoldsAs as);
/// Sets the sheet plan. Pins are forgotten when mat or sheet become others: they were measured on those.
Job withPlan(const Job& job, const SheetPlan& plan);
/// Pins a copy where a hand laid it: `pose` in the axes of the mat of a load, on the sheet of its stock that lies
/// nearest. The rest is laid around it.
/// Errors: NotFound for a load or piece that is not there; InvalidArgument when the load holds no sheet of its stock.
base::Result<Job> pinnedAt(const State& state, const design::CopyOf& what, const design::Pose& pose,
                           size_t load);
/// Lets a copy go again, and what lies in a cluster with it.
Job unpinned(const State& state, const design::CopyOf& what);

} // namespace thinline::job
