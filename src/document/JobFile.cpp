// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/JobFile.h"

#include "formats/zip/Archive.h"

#include <set>

namespace thinline::document {
namespace {

using base::Bytes;
using base::Error;

/// FNV-1a, eight bytes at a time: tells a changed file from the one that was written, nothing more.
std::uint64_t checksumOf(const Bytes& bytes) {
    std::uint64_t hash = 0xcbf29ce484222325u ^ bytes.size();
    size_t i = 0;
    for (; i + 8 <= bytes.size(); i += 8) {
        std::uint64_t word = 0;
        for (size_t k = 0; k < 8; ++k)
            word |= static_cast<std::uint64_t>(bytes[i + k]) << (8 * k);
        hash = (hash ^ word) * 0x100000001b3u;
        hash ^= hash >> 29;
    }
    for (; i < bytes.size(); ++i)
        hash = (hash ^ bytes[i]) * 0x100000001b3u;
    return hash;
}

std::map<std::string, formats::zip::Entry> packed(const JobEntries& entries, const JobEntries* unchanged) {
    std::map<std::string, formats::zip::Entry> out;
    for (const auto& [name, entry] : entries) {
        bool isCopied = false;
        if (unchanged && entry.of) {
            const auto known = unchanged->find(name);
            isCopied = known != unchanged->end() && known->second.of == entry.of;
        }
        out[name] = {entry.bytes, entry.isStored, isCopied};
    }
    return out;
}

} // namespace

base::Result<Bytes> writeJob(const job::State& state) {
    return formats::zip::writeArchive(packed(entriesOf(state, {}, true), nullptr));
}

base::Result<job::State> readJob(const Bytes& file, const base::Progress& progress) {
    auto archive = formats::zip::readArchive(file);
    if (!archive)
        return archive.error();
    return stateOf(archive.take(), progress);
}

base::Result<LoadedJob> loadJob(const Bytes& file, const std::string& path, const base::Progress& progress) {
    auto archive = formats::zip::readArchive(file);
    if (!archive)
        return Error{archive.error().code, path + ": " + archive.error().message};
    const bool isCurrent = isCurrentFormat(*archive);
    std::set<std::string> names;
    for (const auto& [name, bytes] : *archive)
        names.insert(name);
    auto state = stateOf(archive.take(), progress);
    if (!state)
        return Error{state.error().code, path + ": " + state.error().message};
    LoadedJob out{state.take(), {path, checksumOf(file), {}}};
    // An old job is written anew altogether: its entries have other names and contents.
    if (isCurrent)
        for (auto& [name, entry] : entriesOf(out.state, {}, false, false))
            if (names.contains(name))
                out.saved.entries[name] = entry;
    return out;
}

base::Result<LoadedJob> loadJob(const base::FileStore& store, const std::string& path,
                                const base::Progress& progress) {
    auto bytes = store.read(path, base::kMostFileBytes);
    if (!bytes)
        return bytes.error();
    return loadJob(*bytes, path, progress);
}

base::Result<SavedFile> saveJob(base::FileStore& store, const std::string& path, const job::State& state,
                                const SavedFile* before) {
    base::Result<Bytes> old = Error{};
    if (before && !before->entries.empty())
        old = store.read(before->path, base::kMostFileBytes);
    const bool isKnown = old && checksumOf(*old) == before->checksum;
    const JobEntries none;
    SavedFile out{path, 0, entriesOf(state, isKnown ? before->entries : none, true)};
    auto file = formats::zip::writeArchive(packed(out.entries, isKnown ? &before->entries : nullptr),
                                           isKnown ? &*old : nullptr);
    if (!file)
        return file.error();
    if (auto written = store.writeWhole(path, *file); !written)
        return written.error();
    out.checksum = checksumOf(*file);
    for (auto& [name, entry] : out.entries)
        entry.bytes = nullptr; // they are in the file
    return out;
}

} // namespace thinline::document
