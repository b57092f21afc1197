// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Making.h"

/// What belongs together and what goes into what, as steps of a job.
namespace thinline::job {

/// Makes pieces a set that keeps one scale; a piece leaves the set it was in.
/// Errors: InvalidArgument for fewer than two pieces, and for a piece that is not there.
base::Result<Job> withSet(const State& state, const std::string& name,
                          const std::vector<design::PieceId>& pieces);
Job withoutSet(const Job& job, size_t set);

/// States a fit. The opening of a fit into one is given by a point of the design inside it.
/// Errors: NotFound when a piece or its opening is not there; InvalidArgument for a clearance outside 0 to 20 mm.
base::Result<Job> withFit(const State& state, const design::Fit& fit, geometry::Point insideOpening);
Job withoutFit(const Job& job, size_t fit);
/// Returns how a fit stands. Where a piece is not there any more, its first part is asked.
/// Errors: those of design::checkFit.
base::Result<design::FitState> fitStateOf(const State& state, const design::Fit& fit,
                                          const base::Progress& progress = {});
/// Sizes a fit's inner piece so that it just fits.
/// Errors: Degenerate when nothing would fit.
base::Result<State> withFitMade(const State& state, size_t fit, const base::Progress& progress = {});

} // namespace thinline::job
