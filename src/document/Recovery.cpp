// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Recovery copies: what is lost when the machine is switched off.
//
// Two seconds after a change, the job is written to a folder of our own. A job may hold twenty megabytes
// of pictures, and a person makes a change every few seconds for hours. Writing everything each time wears
// the disk and holds up what else runs. But hardly anything changes: the decisions, which are a few
// kilobytes. So the copy is not one file but one for each entry, and a list that says which belong
// together. An entry that was made from the same value as the time before is not written again; moving one
// piece of four hundred writes ten kilobytes instead of four megabytes (docs/bench.md).
//
// Being switched off while writing must not hurt. Files are written whole under a new name and then named
// in the list; the list is replaced in one step. Until that has happened the list before holds, with all
// its files, for those are removed only afterwards. Whatever lies in the folder under our number without
// being listed is waste of an interrupted writing, and goes the next time.
//
// Names begin with the number of the process. A copy whose process does not run any more was left behind,
// and is offered at the next start. Numbers come round, so it is also asked whether the process of that
// number is one of ours.
//
// Files from this folder are read like any file from outside: list and entries may be damaged, which costs
// a sentence and nothing else.
#include "document/Recovery.h"

#include "document/JobFile.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <charconv>

namespace thinline::document {
namespace {

using base::Bytes;
using base::Code;
using base::Error;
using json = nlohmann::ordered_json;

constexpr const char* kList = ".copy";

/// The process number in front of a name, and what follows it.
bool splitName(const std::string& name, int& process, std::string& rest) {
    const auto [end, code] = std::from_chars(name.data(), name.data() + name.size(), process);
    rest = code == std::errc() ? std::string(end, name.data() + name.size()) : "";
    return code == std::errc() && !rest.empty() && rest[0] == '.';
}

/// An entry's name as part of a file's.
std::string plain(std::string entry) {
    std::replace(entry.begin(), entry.end(), '/', '+');
    return entry;
}

struct List {
    std::string origin;
    std::map<std::string, std::string> files; ///< by entry
};

base::Result<List> readList(const base::FileStore& store, const std::string& path) {
    constexpr std::uint64_t kMostBytes = 1 << 20;
    const auto bytes = store.read(path, kMostBytes);
    if (!bytes)
        return bytes.error();
    const json in = json::parse(bytes->begin(), bytes->end(), nullptr, false);
    List out;
    if (!in.is_object() || !in.contains("files") || !in.at("files").is_object())
        return Error{Code::ParseError, path + ": the list of an autosaved copy is damaged."};
    if (in.contains("origin") && in.at("origin").is_string())
        out.origin = in.at("origin").get<std::string>();
    for (const auto& [entry, file] : in.at("files").items())
        if (file.is_string() && file.get<std::string>().find('/') == std::string::npos)
            out.files[entry] = file.get<std::string>();
    return out;
}

} // namespace

Recovery::Recovery(base::FileStore& store, std::string folder, int ownProcess,
                   std::function<bool(int)> isRunning)
    : m_store(store), m_folder(std::move(folder)), m_own(ownProcess), m_isRunning(std::move(isRunning)) {}

base::Status Recovery::keep(const job::State& state, const std::string& originPath) {
    m_lastWritten = 0;
    if (auto made = m_store.makeFolder(m_folder); !made)
        return made;
    const JobEntries entries = entriesOf(state, m_written, false);
    std::map<std::string, std::string> files;
    for (const auto& [name, entry] : entries) {
        const auto known = m_written.find(name);
        if (known != m_written.end() && entry.of && known->second.of == entry.of) {
            files[name] = m_files[name];
            continue;
        }
        const std::string file = std::to_string(m_own) + "." + plain(name) + "-" + std::to_string(m_next++);
        if (auto written = m_store.writeWhole(pathOf(file), *entry.bytes); !written)
            return written;
        m_lastWritten += entry.bytes->size();
        files[name] = file;
    }
    const std::string list =
        json{{"origin", originPath}, {"files", files}}.dump(1, ' ', false, json::error_handler_t::replace);
    if (auto written =
            m_store.writeWhole(pathOf(std::to_string(m_own) + kList), Bytes(list.begin(), list.end()));
        !written)
        return written;
    m_lastWritten += list.size();
    m_written = entries;
    m_files = files;
    for (auto& [name, entry] : m_written)
        entry.bytes = nullptr; // they are on the disk
    std::vector<std::string> listed;
    for (const auto& [name, file] : files)
        listed.push_back(file);
    return removeUnlisted(m_own, listed);
}

base::Status Recovery::removeUnlisted(int process, const std::vector<std::string>& listed) {
    base::Status out = base::Done{};
    for (const std::string& name : m_store.list(m_folder)) {
        int number = 0;
        std::string rest;
        const bool isOwn = splitName(name, number, rest) && number == process;
        if (isOwn && rest != kList && std::find(listed.begin(), listed.end(), name) == listed.end())
            if (auto removed = m_store.remove(pathOf(name)); !removed)
                out = removed;
    }
    return out;
}

base::Status Recovery::discard() {
    m_written.clear();
    m_files.clear();
    return forget({"", m_own});
}

base::Status Recovery::forget(const Lost& lost) {
    auto listed = m_store.remove(pathOf(std::to_string(lost.process) + kList));
    auto files = removeUnlisted(lost.process, {});
    return listed ? files : listed;
}

std::vector<Recovery::Lost> Recovery::findLost() const {
    std::vector<Lost> lost;
    for (const std::string& name : m_store.list(m_folder)) {
        int process = 0;
        std::string rest;
        if (!splitName(name, process, rest) || rest != kList || process == m_own || m_isRunning(process))
            continue;
        const auto list = readList(m_store, pathOf(name));
        lost.push_back({list ? list->origin : "", process});
    }
    std::sort(lost.begin(), lost.end(), [](const Lost& a, const Lost& b) { return a.process < b.process; });
    return lost;
}

base::Result<job::State> Recovery::read(const Lost& lost, const base::Progress& progress) const {
    const auto list = readList(m_store, pathOf(std::to_string(lost.process) + kList));
    if (!list)
        return list.error();
    std::map<std::string, Bytes> entries;
    for (const auto& [name, file] : list->files) {
        auto bytes = m_store.read(pathOf(file), base::kMostFileBytes);
        if (!bytes)
            return bytes.error();
        entries[name] = bytes.take();
    }
    return stateOf(std::move(entries), progress);
}

} // namespace thinline::document
