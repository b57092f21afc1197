// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/JobFile.h"

#include "formats/zip/Archive.h"

#include <algorithm>
#include <cctype>
#include <set>
#include <string_view>

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
                                const SavedFile* before, Theirs theirs) {
    base::Result<Bytes> old = Error{};
    const bool isSameFile = before && before->path == path;
    if (before && (isSameFile || !before->entries.empty()))
        old = store.read(before->path, base::kMostFileBytes);
    const bool isKnown = old && checksumOf(*old) == before->checksum;
    if (isSameFile && old && !isKnown && theirs == Theirs::Keep)
        return Error{base::Code::ChangedMeanwhile,
                     path + " was changed by another program or window since it was opened here; save under "
                            "another name, or overwrite it."};
    const bool isTakenOver = isKnown && !before->entries.empty();
    const JobEntries none;
    SavedFile out{path, 0, entriesOf(state, isTakenOver ? before->entries : none, true)};
    auto file = formats::zip::writeArchive(packed(out.entries, isTakenOver ? &before->entries : nullptr),
                                           isTakenOver ? &*old : nullptr);
    if (!file)
        return file.error();
    if (auto written = store.writeWhole(path, *file); !written)
        return written.error();
    out.checksum = checksumOf(*file);
    for (auto& [name, entry] : out.entries)
        entry.bytes = nullptr; // they are in the file
    return out;
}

namespace {

constexpr std::string_view kEnding = ".thinline";

bool hasEnding(const std::string& path) {
    return path.size() > kEnding.size() &&
           std::equal(kEnding.rbegin(), kEnding.rend(), path.rbegin(),
                      [](char a, char b) { return a == std::tolower(static_cast<unsigned char>(b)); });
}

} // namespace

std::string withJobEnding(const std::string& path) {
    return hasEnding(path) ? path : path + std::string(kEnding);
}

std::string freeNameBeside(const base::FileStore& store, const std::string& path) {
    const size_t slash = path.rfind('/');
    const std::string folder = slash == std::string::npos ? "." : path.substr(0, slash);
    const std::vector<std::string> names = store.list(folder);
    const std::set<std::string> taken(names.begin(), names.end());
    std::string stem = path.substr(slash == std::string::npos ? 0 : slash + 1);
    if (hasEnding(stem))
        stem.resize(stem.size() - kEnding.size());
    for (int i = 2;; ++i) {
        const std::string name = stem + " " + std::to_string(i) + std::string(kEnding);
        if (!taken.contains(name))
            return path.substr(0, slash == std::string::npos ? 0 : slash + 1) + name;
    }
}

} // namespace thinline::document
