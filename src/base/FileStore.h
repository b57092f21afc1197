// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Result.h"

#include <cstdint>
#include <memory>
#include <string>
#include <vector>

namespace thinline::base {

using Bytes = std::vector<std::uint8_t>;

/// A claim on a file's name, held as long as it lives; it ends with the process, however that ends.
class FileLock {
  public:
    virtual ~FileLock() = default;
};

/// The door to the file system. The disk twin lives in `document`, the memory and failing twins in
/// `tests/support`. Paths are UTF-8. Every call is safe from any thread as long as the paths differ.
class FileStore {
  public:
    virtual ~FileStore() = default;

    /// Returns the whole file.
    /// Errors: NotFound, IoError (no permission, a folder, a device or pipe, read failed), LimitExceeded above
    ///         `mostBytes`. Nothing is waited for: what is no file is not opened for reading.
    virtual Result<Bytes> read(const std::string& path, std::uint64_t mostBytes) const = 0;

    /// Replaces the file in one step: whoever looks sees the old bytes or all of the new ones, also after a
    /// crash. On error the old file is untouched and nothing is left behind; a kill leaves at most one hidden file
    /// beside it, which the next writing takes away. Through a link the file it points to is written; a file that
    /// was there keeps its permissions, and its owner where we may give it to them.
    /// Errors: IoError naming the path and the reason (disk full, read-only, folder gone, a device or pipe).
    virtual Status writeWhole(const std::string& path, const Bytes& bytes) = 0;

    /// Creates the folder and its parents; no error if it is there.
    virtual Status makeFolder(const std::string& path) = 0;

    /// Returns the names in a folder, sorted; empty if there is no such folder.
    virtual std::vector<std::string> list(const std::string& folder) const = 0;

    /// Removes a file; no error if it is not there.
    virtual Status remove(const std::string& path) = 0;

    /// Returns the claim on a name, null when somebody else holds it, whichever program that is.
    /// Errors: IoError where the file system knows no claims or cannot be written.
    virtual Result<std::unique_ptr<FileLock>> lock(const std::string& path) = 0;
};

/// Largest file the program reads: artwork of 100 megapixels, uncompressed, with room to spare.
inline constexpr std::uint64_t kMostFileBytes = 768ull << 20;

} // namespace thinline::base
