// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Making.h"
#include "sheets/Why.h"

#include <functional>

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

/// Returns the state with its pieces laid by their true outlines; its sheets are made first where they are not.
/// Shape:  `publish` is called with every better arrangement as it comes, on the computing thread.
/// Errors: those of making the sheets; InvalidArgument without pieces; Cancelled before there is anything better.
base::Result<State> laidCloser(const State& state, const sheets::CloseOptions& how,
                               const std::function<void(const design::Arrangement&)>& publish = {},
                               const base::Progress& progress = {});
/// Returns what decides how many sheets there are, and what other plans would come to.
/// Errors: InvalidArgument without sheets; as sheets::alternativesTo.
base::Result<std::vector<sheets::Alternative>> otherLayouts(const State& state,
                                                            const base::Progress& progress = {});
/// Returns the job with the plan by which an alternative was laid.
Job withWay(const Job& job, sheets::Alternative::Kind way);

/// Returns a state with another arrangement of the same pieces.
State withSheets(State state, design::Arrangement sheets);

} // namespace thinline::job
