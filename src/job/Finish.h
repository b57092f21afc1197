// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Making.h"
#include "job/Source.h"

/// The later stages of Making; for its own sources and tests.
namespace thinline::job {

/// What the finish remembers of a body.
struct FinishMemo;
std::shared_ptr<Memory> makeMemory();

/// Returns the pieces in their layers: where somebody laid them, else where their source proposed, else in its layer.
/// Shape:  layers without pieces are left out; pieces of one layer keep their order.
/// Cost:   O(pieces log wishes).
design::Stack stackOf(const Job& job, const std::vector<design::Piece>& pieces);

/// Puts the clusters that stand into a stack, and gives their pieces the copies of the whole.
/// Shape: a piece joined into another by one of these steps is answered for by that one.
void gatherClusters(const Job& job, const std::vector<AfterStep>& after, design::Stack& stack);

/// What a source asks of the finish; equal where nothing changes.
struct FinishOptions {
    double tuckMm = 0;           ///< how far its lower pieces run on under its upper ones; 0 for not at all
    bool isUnderInkOnly = false; ///< areas of a line drawing run on under its lines, never under one another
    double roomMm = 0;           ///< taken off its areas on all sides
    bool operator==(const FinishOptions&) const = default;
};
FinishOptions finishOf(const Source& source);

/// Returns the work as it is cut.
/// Shape:  of a source with a tuck every piece runs on under those of the same source that lie above it; then its
///         areas give way by the room, lines carried along. Everything else stays as it is, by pointer.
/// Errors: those of the set operations; Cancelled.
/// Cost:   one tuck for each piece whose upper neighbours changed.
base::Result<Finished> finishedWork(const Job& job, const design::Stack& stack, Memory& memory,
                                    const base::Progress& progress);

/// Returns whether two stacks lead to the same sheets: the same bodies of the same stocks in the same numbers.
bool isCutAlike(const design::Stack& a, const design::Stack& b);

} // namespace thinline::job
