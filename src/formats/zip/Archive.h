// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"
#include "base/Result.h"

#include <map>
#include <memory>
#include <string>

/// Zip containers in memory.
namespace thinline::formats::zip {

/// What a container may hold. A file that promises or delivers more is refused, whatever its header says.
struct Limits {
    size_t mostEntries = 1024;
    std::uint64_t mostBytesPerEntry = base::kMostFileBytes;
    std::uint64_t mostBytesTogether = base::kMostFileBytes + (256ull << 20);
    /// And, beyond 64 MB, so many times the container's own size: our text packs to a fifth.
    std::uint64_t mostTimesPacked = 30;
};

struct Entry {
    std::shared_ptr<const base::Bytes> bytes; ///< may be null for one that is copied
    bool isStored = false;                    ///< kept as it is, for what is already compressed (pictures)
    bool isCopied = false; ///< taken over packed from the container given, without unpacking it
};

/// Returns the entries by name.
/// Errors: ParseError (not a zip, damaged, a checksum that does not match, an unsafe or repeated name),
///         LimitExceeded.
/// Cost:   O(uncompressed bytes); never holds more than the limits allow.
base::Result<std::map<std::string, base::Bytes>> readArchive(const base::Bytes& file,
                                                             const Limits& limits = {});

/// Returns a zip with these entries in name order, without dates: the same entries give the same bytes. Entries that
/// are copied come from the container `from`.
/// Errors: IoError when the library gives up (out of memory); NotFound when an entry to copy is not in `from`.
/// Cost:   O(bytes) for new entries; a copied one costs its packed size.
base::Result<base::Bytes> writeArchive(const std::map<std::string, Entry>& entries,
                                       const base::Bytes* from = nullptr);

} // namespace thinline::formats::zip
