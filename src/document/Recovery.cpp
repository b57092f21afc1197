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
// Whose a copy is must be told when its program is dead, and while it runs. A number of the process tells neither:
// in a container every program has the same one, and numbers come round. So a copy begins with a key drawn at
// random, and as long as its program runs it holds the claim on `KEY.lock`, which the system ends with it. A copy
// whose claim is free was left behind and is offered at the next start; who takes it back claims it first, so that
// two windows never have the same.
//
// Work that is taken back is not copied: its copy becomes ours, with everything in it, until the next autosave has
// written all of it anew and has read that back. So a full disk costs nothing.
//
// Files from this folder are read like any file from outside: list and entries may be damaged, which costs
// a sentence and nothing else.
#include "document/Recovery.h"

#include "document/JobFile.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <charconv>
#include <cstdio>
#include <random>

namespace thinline::document {
namespace {

using base::Bytes;
using base::Code;
using base::Error;
using json = nlohmann::ordered_json;

constexpr const char* kList = ".copy";

constexpr const char* kLock = ".lock";

/// The key in front of a name: up to its first dot.
std::string keyOf(const std::string& name) {
    return name.substr(0, name.find('.'));
}

std::string freshKey() {
    std::random_device chance;
    std::string out;
    constexpr int kWords = 4;
    for (int i = 0; i < kWords; ++i) {
        char word[9];
        std::snprintf(word, sizeof word, "%08x", static_cast<unsigned>(chance()));
        out += word;
    }
    return out;
}

Error hadByAnother() {
    return {Code::NotFound, "Another window has this work already; go on there."};
}

/// An entry's name as part of a file's.
std::string plain(std::string entry) {
    std::replace(entry.begin(), entry.end(), '/', '+');
    return entry;
}

struct List {
    Origin origin;
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
        out.origin.path = in.at("origin").get<std::string>();
    if (in.contains("checksum") && in.at("checksum").is_number_unsigned())
        out.origin.checksum = in.at("checksum").get<std::uint64_t>();
    for (const auto& [entry, file] : in.at("files").items())
        if (file.is_string() && file.get<std::string>().find('/') == std::string::npos)
            out.files[entry] = file.get<std::string>();
    return out;
}

} // namespace

Recovery::Recovery(base::FileStore& store, std::string folder)
    : m_store(store), m_folder(std::move(folder)) {}

/// Where the file system knows no claims there is none, and copies are offered to every window rather than to nobody.
base::Result<std::shared_ptr<base::FileLock>> Recovery::lockOf(const std::string& key) const {
    auto lock = m_store.lock(pathOf(key + kLock));
    if (!lock)
        return std::shared_ptr<base::FileLock>();
    if (!*lock)
        return hadByAnother();
    return std::shared_ptr<base::FileLock>(lock.take());
}

base::Status Recovery::beginCopy() {
    if (auto made = m_store.makeFolder(m_folder); !made)
        return made;
    if (!m_key.empty())
        return base::Done{};
    const std::string key = freshKey();
    auto lock = lockOf(key);
    if (!lock)
        return lock.error();
    m_lock = lock.take();
    m_key = key;
    return base::Done{};
}

base::Status Recovery::keep(const job::State& state, const Origin& origin) {
    m_lastWritten = 0;
    if (auto begun = beginCopy(); !begun)
        return begun;
    const JobEntries entries = entriesOf(state, m_written, false);
    std::map<std::string, std::string> files;
    for (const auto& [name, entry] : entries) {
        const auto known = m_written.find(name);
        if (known != m_written.end() && entry.of && known->second.of == entry.of) {
            files[name] = m_files[name];
            continue;
        }
        const std::string file = m_key + "." + plain(name) + "-" + std::to_string(m_next++);
        if (auto written = m_store.writeWhole(pathOf(file), *entry.bytes); !written)
            return written;
        m_lastWritten += entry.bytes->size();
        files[name] = file;
        if (!m_isAdopted)
            continue;
        const auto back = m_store.read(pathOf(file), entry.bytes->size());
        if (!back || *back != *entry.bytes)
            return Error{Code::IoError, pathOf(file) +
                                            " was written and reads otherwise; the disk may be failing. "
                                            "Save the job elsewhere."};
    }
    const std::string list =
        json{{"origin", origin.path}, {"checksum", origin.checksum}, {"files", files}}.dump(
            1, ' ', false, json::error_handler_t::replace);
    if (auto written = m_store.writeWhole(pathOf(m_key + kList), Bytes(list.begin(), list.end())); !written)
        return written;
    m_isAdopted = false;
    m_lastWritten += list.size();
    m_written = entries;
    m_files = files;
    for (auto& [name, entry] : m_written)
        entry.bytes = nullptr; // they are on the disk
    std::vector<std::string> listed;
    for (const auto& [name, file] : files)
        listed.push_back(file);
    return removeUnlisted(m_key, listed);
}

base::Status Recovery::removeUnlisted(const std::string& key, const std::vector<std::string>& listed) {
    base::Status out = base::Done{};
    for (const std::string& name : m_store.list(m_folder)) {
        const bool isOurs = keyOf(name) == key && name != key + kList && name != key + kLock;
        if (isOurs && std::find(listed.begin(), listed.end(), name) == listed.end())
            if (auto removed = m_store.remove(pathOf(name)); !removed)
                out = removed;
    }
    return out;
}

/// The list first: entries without one are waste, a list without entries would be damage.
base::Status Recovery::removeCopy(const std::string& key) {
    auto listed = m_store.remove(pathOf(key + kList));
    auto files = removeUnlisted(key, {});
    return listed ? files : listed;
}

base::Status Recovery::discard() {
    m_written.clear();
    m_files.clear();
    m_isAdopted = false;
    if (m_key.empty())
        return base::Done{};
    auto removed = removeCopy(m_key);
    m_lock.reset();
    m_key.clear();
    return removed;
}

base::Status Recovery::adopt(const Claimed& claimed) {
    auto discarded = discard();
    m_key = claimed.lost.key;
    m_lock = claimed.lock;
    m_isAdopted = true;
    for (const std::string& name : m_store.list(m_folder)) // what is written gets names nobody has
        if (const auto dash = name.rfind('-'); keyOf(name) == m_key && dash != std::string::npos) {
            int number = 0;
            std::from_chars(name.data() + dash + 1, name.data() + name.size(), number);
            m_next = std::max(m_next, number + 1);
        }
    return discarded;
}

base::Status Recovery::forget(const Lost& lost) {
    const auto lock = lockOf(lost.key);
    return lock ? removeCopy(lost.key) : lock.error();
}

std::vector<Recovery::Lost> Recovery::findLost() const {
    std::vector<Lost> lost;
    for (const std::string& name : m_store.list(m_folder)) {
        const std::string key = keyOf(name);
        if (name != key + kList || !lockOf(key)) // ours is claimed as well
            continue;
        const auto list = readList(m_store, pathOf(name));
        if (list || list.error().code != Code::NotFound) // it may go while we look
            lost.push_back({key, list ? list->origin : Origin{}});
    }
    return lost;
}

base::Result<Recovery::Claimed> Recovery::claim(const Lost& lost, const base::Progress& progress) const {
    auto lock = lockOf(lost.key);
    if (!lock)
        return lock.error();
    const auto list = readList(m_store, pathOf(lost.key + kList));
    if (!list)
        return list.error();
    std::map<std::string, Bytes> entries;
    for (const auto& [name, file] : list->files) {
        auto bytes = m_store.read(pathOf(file), base::kMostFileBytes);
        if (!bytes)
            return bytes.error();
        entries[name] = bytes.take();
    }
    auto state = stateOf(std::move(entries), progress);
    if (!state)
        return state.error();
    return Claimed{{lost.key, list->origin}, state.take(), lock.take()};
}

} // namespace thinline::document
