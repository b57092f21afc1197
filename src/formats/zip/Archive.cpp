// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/zip/Archive.h"

#include <zip.h>

#include <memory>

namespace thinline::formats::zip {
namespace {

using base::Bytes;
using base::Code;
using base::Error;

struct DiscardArchive {
    void operator()(zip_t* archive) const { zip_discard(archive); }
};
using ArchiveHandle = std::unique_ptr<zip_t, DiscardArchive>;

struct CloseEntry {
    void operator()(zip_file_t* file) const { zip_fclose(file); }
};

Error damaged(const std::string& what) {
    return {Code::ParseError, "The file is damaged (" + what + "); use a backup or the last autosaved copy."};
}

bool isSafeName(const std::string& name) {
    return !name.empty() && name.size() < 200 && name.front() != '/' &&
           name.find("..") == std::string::npos && name.find('\\') == std::string::npos;
}

base::Result<Bytes> readEntry(zip_t* archive, zip_uint64_t index, std::uint64_t mostBytes,
                              const std::string& name) {
    const std::unique_ptr<zip_file_t, CloseEntry> file(zip_fopen_index(archive, index, 0));
    if (!file)
        return damaged(name + " cannot be opened");
    Bytes bytes;
    constexpr size_t kStep = 1 << 20;
    for (;;) {
        const size_t before = bytes.size();
        bytes.resize(before + kStep);
        const zip_int64_t got = zip_fread(file.get(), bytes.data() + before, kStep);
        if (got < 0)
            return damaged(name + " cannot be unpacked");
        bytes.resize(before + static_cast<size_t>(got));
        if (bytes.size() > mostBytes)
            return Error{Code::LimitExceeded,
                         "The file unpacks to more than it may (" + name + "); it was not opened."};
        if (got == 0)
            return bytes;
    }
}

} // namespace

base::Result<std::map<std::string, Bytes>> readArchive(const Bytes& file, const Limits& limits) {
    if (file.empty())
        return damaged("it is empty"); // the library takes nothing for an empty container
    zip_error_t error;
    zip_error_init(&error);
    zip_source_t* source = zip_source_buffer_create(file.data(), file.size(), 0, &error);
    if (!source)
        return damaged("no memory");
    const ArchiveHandle archive(zip_open_from_source(source, ZIP_RDONLY, &error));
    if (!archive) {
        zip_source_free(source);
        return damaged("it is no readable container");
    }
    const zip_int64_t count = zip_get_num_entries(archive.get(), 0);
    if (count < 0 || static_cast<size_t>(count) > limits.mostEntries)
        return Error{Code::LimitExceeded, "The file holds " + std::to_string(count) +
                                              " entries, more than it may; it was not opened."};
    std::map<std::string, Bytes> entries;
    std::uint64_t together = 0;
    constexpr std::uint64_t kSmall = 64ull << 20;
    const std::uint64_t mostTogether =
        std::min(limits.mostBytesTogether, kSmall + limits.mostTimesPacked * file.size());
    for (zip_int64_t i = 0; i < count; ++i) {
        zip_stat_t stat;
        zip_stat_init(&stat);
        if (zip_stat_index(archive.get(), static_cast<zip_uint64_t>(i), 0, &stat) != 0 || !stat.name)
            return damaged("entry " + std::to_string(i + 1));
        const std::string name = stat.name;
        if (!isSafeName(name) || entries.contains(name))
            return damaged("entry " + std::to_string(i + 1) + " has a bad name");
        const std::uint64_t most = std::min(limits.mostBytesPerEntry, mostTogether - together);
        if ((stat.valid & ZIP_STAT_SIZE) && stat.size > most)
            return Error{Code::LimitExceeded,
                         "The file unpacks to more than it may (" + name + "); it was not opened."};
        auto bytes = readEntry(archive.get(), static_cast<zip_uint64_t>(i), most, name);
        if (!bytes)
            return bytes.error();
        together += bytes->size();
        entries.emplace(name, bytes.take());
    }
    return entries;
}

namespace {

const Error kFailed{Code::IoError, "The container could not be built: out of memory."};

/// A container in memory, read only.
base::Result<ArchiveHandle> opened(const Bytes& file) {
    zip_error_t error;
    zip_error_init(&error);
    zip_source_t* source = zip_source_buffer_create(file.data(), file.size(), 0, &error);
    if (!source)
        return kFailed;
    ArchiveHandle archive(zip_open_from_source(source, ZIP_RDONLY, &error));
    if (!archive) {
        zip_source_free(source);
        return Error{Code::NotFound, "The container to copy from cannot be read."};
    }
    return archive;
}

base::Status addEntry(zip_t* archive, const std::string& name, const Entry& entry, zip_t* from) {
    zip_source_t* source = nullptr;
    zip_int32_t method = entry.isStored ? ZIP_CM_STORE : ZIP_CM_DEFLATE;
    if (entry.isCopied) {
        const zip_int64_t at = from ? zip_name_locate(from, name.c_str(), ZIP_FL_ENC_UTF_8) : -1;
        zip_stat_t is{};
        if (at < 0 || zip_stat_index(from, static_cast<zip_uint64_t>(at), 0, &is) != 0)
            return Error{Code::NotFound, name + " is not in the container to copy from."};
        method = is.comp_method; // another one would pack it anew
        source = zip_source_zip(archive, from, static_cast<zip_uint64_t>(at), ZIP_FL_COMPRESSED, 0, -1);
    } else if (entry.bytes) {
        source = zip_source_buffer(archive, entry.bytes->data(), entry.bytes->size(), 0);
    }
    const zip_int64_t index = source ? zip_file_add(archive, name.c_str(), source, ZIP_FL_ENC_UTF_8) : -1;
    if (index < 0) {
        zip_source_free(source);
        return kFailed;
    }
    const auto place = static_cast<zip_uint64_t>(index);
    zip_set_file_compression(archive, place, method, 0);
    zip_file_set_dostime(archive, place, 0, 0x21, 0); // 1 January 1980
    return base::Done{};
}

} // namespace

base::Result<Bytes> writeArchive(const std::map<std::string, Entry>& entries, const Bytes* from) {
    zip_error_t error;
    zip_error_init(&error);
    ArchiveHandle source; // outlives the archive that copies from it
    if (from) {
        auto old = opened(*from);
        if (!old)
            return old.error();
        source = old.take();
    }
    zip_source_t* target = zip_source_buffer_create(nullptr, 0, 0, &error);
    if (!target)
        return kFailed;
    zip_source_keep(target); // it outlives the archive, which is where the bytes are read from
    ArchiveHandle archive(zip_open_from_source(target, ZIP_TRUNCATE, &error));
    const auto releaseTarget = [&](base::Result<Bytes> result) {
        archive.reset();
        zip_source_free(target);
        return result;
    };
    if (!archive) {
        zip_source_free(target);
        return releaseTarget(kFailed);
    }
    for (const auto& [name, entry] : entries)
        if (auto ok = addEntry(archive.get(), name, entry, source.get()); !ok)
            return releaseTarget(ok.error());
    if (zip_close(archive.get()) != 0)
        return releaseTarget(kFailed);
    (void)archive.release(); // closed
    zip_stat_t stat;
    zip_stat_init(&stat);
    Bytes bytes;
    if (zip_source_open(target) != 0 || zip_source_stat(target, &stat) != 0)
        return releaseTarget(kFailed);
    bytes.resize(stat.size);
    const zip_int64_t got = zip_source_read(target, bytes.data(), bytes.size());
    zip_source_close(target);
    if (got < 0 || static_cast<zip_uint64_t>(got) != stat.size)
        return releaseTarget(kFailed);
    return releaseTarget(std::move(bytes));
}

} // namespace thinline::formats::zip
