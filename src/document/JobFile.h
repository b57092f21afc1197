// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "base/Result.h"
#include "document/Job.h"

/// The `*.thinline` container. The format is described in docs/formats/thinline.md.
namespace thinline::document {

inline constexpr int kJobFormat = 3; ///< 2 added the steps at Shape, 3 the sources

/// Returns the container: job.json, the untouched artwork, a preview picture.
/// Errors: IoError when it cannot be built.
/// Cost:   O(artwork + nodes); the artwork is stored, not packed again.
base::Result<base::Bytes> writeJob(const Job& job);

/// Returns the job in a container, its stack derived anew.
/// Errors: ParseError (damaged, missing or mistaken entries: says which), Unsupported (written by a newer
///         program), LimitExceeded (unpacks to more than it may).
base::Result<Job> readJob(const base::Bytes& file);

/// Reads and writes through a file store; messages name the file.
base::Result<Job> loadJob(const base::FileStore& store, const std::string& path);
base::Status saveJob(base::FileStore& store, const std::string& path, const Job& job);

} // namespace thinline::document
