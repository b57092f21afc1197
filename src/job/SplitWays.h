// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/SplitSteps.h"

/// What could be done instead of one division: another way, another mat, another size; each with its count.
namespace thinline::job {

/// Returns for every way of a piece on how many sheets its stock would lie, all other pieces of that stock divided as
/// they are looked at: `chosen` is a draft for each of `all`.
/// Shape:  a number a way; laid by boxes, so true outlines may need fewer.
/// Errors: those of sheets::arrange; Cancelled.
base::Result<std::vector<int>> sheetsOfWays(const State& state, const std::vector<Considered>& all,
                                            std::size_t at, const std::vector<const Draft*>& chosen,
                                            const design::Formats& formats,
                                            const base::Progress& progress = {});

/// A size at which the work falls into fewer parts.
struct FewerParts {
    double scale = 1; ///< multiply the present size by this
    int parts = 0;    ///< of all pieces that are too large together; 1 for each that fits then
    int fewer = 0;    ///< than now
};
/// Returns the largest of some sizes at which there is a part less; nothing when only the size without any seam is left.
/// Shape:  sizes are whole per cent. A rough search finds where to look, the full one confirms.
/// Errors: Cancelled.
/// Cost:   ten rough searches, and a full one for each that promises something.
base::Result<std::optional<FewerParts>> fewerParts(const State& state, const std::vector<Considered>& all,
                                                   const SplitOptions& options,
                                                   const base::Progress& progress = {});

/// A mat of the catalogue that takes what is now too large.
struct LongerMat {
    std::string id, name;
    int stillTooLarge = 0;
};
/// Returns the mats on which fewer pieces are too large, were the sheets as large as the mat.
std::vector<LongerMat> longerMats(const State& state, const std::vector<Oversize>& pieces,
                                  const design::Formats& formats);
/// Returns the job on a mat with sheets as large as it, also for stocks of pieces that are too large for their own.
/// Errors: NotFound when the catalogue has no such mat.
base::Result<Job> onMat(const State& state, const std::vector<Oversize>& pieces, const std::string& matId,
                        const design::Formats& formats);

/// Returns by what the whole would have to be multiplied so that nothing needs a seam; 1 when nothing does.
double scaleWithoutSeams(const State& state, const std::vector<Oversize>& pieces);

} // namespace thinline::job
