// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Remembered.h"
#include "job/Job.h"

/// Placement marks of a whole work; for the finish.
namespace thinline::job {

inline constexpr int kFirstMark = 2'000'000'000; ///< above the numbers of lines made by steps

/// What is asked of one lower piece by pieces that lie above it.
struct MarksAsked {
    design::PieceId shows;
    std::vector<std::shared_ptr<const design::Body>> covers, between;
    double liftMm = 0; ///< what holds them above it
    bool operator==(const MarksAsked&) const = default;
};
/// What the marking remembers of a body.
struct MarkMemo {
    folds::MarkPlan plan;
    std::vector<MarksAsked> asked;
    std::shared_ptr<const design::Body> marked;
};

/// Puts marks onto what lies directly below the pieces of layers that ask for them, in front of the base and behind it.
/// Returns the pieces that show their back there: they lie face down in the work, and a sheet is worked on from its front.
/// Shape:  marks have line numbers of their own, above those of sources and steps.
/// Errors: those of the set operations; Cancelled.
/// Cost:   one weld and one inset for a layer, one clipping for each piece under it; what is asked of a piece as before is
///         remembered.
base::Result<std::vector<design::PieceId>> mark(const Job& job, design::Stack& work,
                                                design::Remembered<MarkMemo>& memory,
                                                const base::Progress& progress);

} // namespace thinline::job
