// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/CutSteps.h"
#include "job/PrintPages.h"
#include "registration/Solve.h"

/// A load whose page was found by its marks.
namespace thinline::job {

/// What a sensor saw of a page, mm from the upper left corner of the mat.
struct Sighting {
    std::vector<std::pair<std::size_t, geometry::Point>>
        marks; ///< which, from 0: upper left, upper right, lower right, lower left
    std::optional<geometry::Point> bar = {};
    std::optional<int> number = {}; ///< what the cells beside the bar say
};

struct RegisteredLoad {
    registration::Registration found; ///< from the page to the mat
    design::PlannedLoad load; ///< as it is cut now: its lines follow the page, the standing error taken off
    design::Load laid;        ///< the sheet and its pieces as they are for that
};

/// Returns a load of a plan as it is cut once its page was found.
/// Shape:  a standing error that the job has accepted for this machine is taken off all lines.
/// Errors: NotFound for a load without a printed page; those of registration::registered; Degenerate for another page by its
///         number.
base::Result<RegisteredLoad> registeredLoad(const State& state, const design::CutPlan& plan, std::size_t load,
                                            const Sighting& seen);

/// Returns which page is on a load; null when none is printed.
std::optional<PrintPage> pageOn(const State& state, std::size_t load);

/// What was found, in words: shift, turn, scale, and how far each mark is off; in mm, for it is little.
std::vector<std::string> registrationLines(const registration::Registration& found);

/// Returns the standing error that is taken off what a machine cuts; null where the job has none, or that of another machine.
const registration::StandingError* standingErrorOf(const Job& job, const std::string& machine);

/// Takes a standing error for the machine of a job, or none any more. What is cut from then on is corrected by it.
Job withStandingError(const Job& job, const std::optional<registration::StandingError>& standing);

} // namespace thinline::job
