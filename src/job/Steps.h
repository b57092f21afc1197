// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/StepKind.h"
#include "job/Making.h"

/// The steps at Shape, Folds and Split as they come into a job.
namespace thinline::job {

using Steps = std::vector<std::shared_ptr<const design::Step>>;

/// Returns what is known of a step whichever station it is of; null for one of no station.
const design::StepKind* kindOf(const design::Step& step);
/// Returns a step in words: "Grow or shrink, 3 mm, 7, round".
std::string stepText(const design::Step& step);
/// Returns the pieces after a step; see shape::apply, folds::apply and split::apply.
base::Result<design::Outcome> applied(const design::Step& step, const design::Pieces& pieces,
                                      const design::Pieces* before = nullptr,
                                      const base::Progress& progress = {});

/// Adds a step. One that takes every piece of a word or drawing is kept as taking the whole of it, so that it holds
/// when the word is retyped.
/// Errors: InvalidArgument when there are no pieces, or a value is out of range. Whether it can be done is seen when
///         it is made: Made::after tells.
base::Result<Job> withStep(const State& state, const design::Step& step);
/// Puts another step in the place of one; it keeps its id, and the names of parts where the action is the same.
base::Result<Job> withStepChanged(const State& state, size_t index, const design::Step& step);
Job withoutStep(const Job& job, size_t index);

/// Returns the state after a step is added, everything made up to a stage.
/// Errors: as withStep, and why it cannot be done; Cancelled.
base::Result<State> stepped(const State& state, const design::Step& step, Stage upTo = Stage::Finish,
                            const base::Progress& progress = {});

} // namespace thinline::job
