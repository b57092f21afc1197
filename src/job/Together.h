// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Making.h"

#include <span>

/// Several designs in one job, so that they are laid on sheets, cut and told as one.
namespace thinline::job {

inline constexpr int kMostSourcesTogether = 900; ///< lines of pieces are numbered by their source
inline constexpr double kApartMm = 10;           ///< between designs that lie beside one another

/// Returns a job with all pieces of another one in it, each with what was done to it and said of it.
/// Shape:  the other's sources, steps and what it prints get new numbers, sources are moved by `by`, mm. A layer of the same
///         number, stock and side is the same layer; every other one comes new on top. A stock of the same id is the job's own.
///         What is said of the whole work stays the job's: mat, sheets, machine, frame, numbers and texts of the assembly. Places
///         of the other's copies on sheets are given up.
/// Errors: LimitExceeded above kMostSourcesTogether.
/// Cost:   O(what is decided in the other one).
base::Result<Job> withJob(Job job, const Job& other, geometry::Point by);

/// Returns designs side by side in one job, in rows about as wide as they are high together; of the name of the first, and
/// without its frame when there are several.
/// Shape:  `of` are as they were made, up to the finish. They lie upper left corner to upper left corner, kApartMm apart.
/// Errors: InvalidArgument without any design; as withJob.
base::Result<Job> together(std::span<const State* const> of);

} // namespace thinline::job
