// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "job/Making.h"

#include <map>
#include <memory>
#include <string>

/// A job as the entries of its file (docs/formats/thinline.md). What was not changed keeps its bytes, so that neither
/// autosave nor saving writes megabytes of outlines anew because one piece moved.
namespace thinline::document {

inline constexpr int kJobFormat = 4; ///< 2 added the steps at Shape, 3 the sources, 4 holds decisions only

/// One entry, and the value it was made of.
struct JobEntry {
    std::shared_ptr<const base::Bytes> bytes;
    bool isStored = false; ///< kept as it is, for what is already compressed
    std::shared_ptr<const void>
        of; ///< the kept value; an entry of the same value has the same bytes. Null for
            ///< job.json, which holds the decisions
};
using JobEntries = std::map<std::string, JobEntry>;

/// Returns the entries of a state. Those whose value is the one they were made of in `before` are taken from there.
/// Shape:  without the preview picture unless `withPreview`; without bytes, to tell only which value is in which
///         entry, unless `withBytes`.
/// Cost:   O(what changed) and the decisions.
JobEntries entriesOf(const job::State& state, const JobEntries& before, bool withPreview,
                     bool withBytes = true);

/// Returns whether entries are those of a job of the present format.
bool isCurrentFormat(const std::map<std::string, base::Bytes>& entries);

/// Returns the state that entries hold: the job, and what follows from it; the arrangement that was kept with it stays.
/// Errors: ParseError (damaged, missing or mistaken entries: says which), Unsupported (written by a newer program),
///         LimitExceeded; those of making; Cancelled.
base::Result<job::State> stateOf(std::map<std::string, base::Bytes> entries,
                                 const base::Progress& progress = {});

} // namespace thinline::document
