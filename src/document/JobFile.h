// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "document/JobEntries.h"

/// Jobs in one file: a zip container of the entries in JobEntries.h.
namespace thinline::document {

/// What a file held when it was last read or written, so that saving takes over what has not changed.
struct SavedFile {
    std::string path;
    std::uint64_t checksum = 0; ///< of the whole file
    JobEntries entries;         ///< bytes may be missing: they are in the file
};

struct LoadedJob {
    job::State state;
    SavedFile saved;
};

/// Returns the container of a state: job.json, kept results, files as they came in, a preview picture.
/// Errors: IoError when it cannot be built.
/// Cost:   O(artwork + nodes); what is compressed already is stored, not packed again.
base::Result<base::Bytes> writeJob(const job::State& state);

/// Returns the state in a container, everything made up to the finish.
/// Errors: those of stateOf and of the container.
base::Result<job::State> readJob(const base::Bytes& file, const base::Progress& progress = {});

/// Reads a job; messages name the file.
base::Result<LoadedJob> loadJob(const base::FileStore& store, const std::string& path,
                                const base::Progress& progress = {});
/// The same of bytes that are there already.
base::Result<LoadedJob> loadJob(const base::Bytes& file, const std::string& path,
                                const base::Progress& progress = {});

/// What becomes of a file that somebody else wrote since it was read.
enum class Theirs { Keep, Overwrite };

/// Writes a job in one step. Entries that are as `before` has them are copied packed from that file, if it is still
/// the file that was read or written then.
/// Errors: those of the store; ChangedMeanwhile when `path` is the file of `before` and holds something else by now,
///         unless it is to be overwritten.
base::Result<SavedFile> saveJob(base::FileStore& store, const std::string& path, const job::State& state,
                                const SavedFile* before = nullptr, Theirs theirs = Theirs::Keep);

/// Returns a path with the ending of jobs, which every name gets that has not got it: "gull.v2" becomes
/// "gull.v2.thinline".
std::string withJobEnding(const std::string& path);
/// Returns a name beside a file that is not taken: "gull 2.thinline".
std::string freeNameBeside(const base::FileStore& store, const std::string& path);

} // namespace thinline::document
