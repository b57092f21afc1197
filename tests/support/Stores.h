// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/FileStore.h"

#include <map>
#include <memory>
#include <mutex>
#include <set>

/// The twins of the disk: one that keeps files in memory, one that fails on demand.
namespace thinline::support {

class MemoryFileStore : public base::FileStore {
  public:
    base::Result<base::Bytes> read(const std::string& path, std::uint64_t mostBytes) const override {
        const std::lock_guard lock(m_guard);
        const auto at = m_files.find(path);
        if (at == m_files.end())
            return base::Error{base::Code::NotFound, path + " is not there."};
        if (at->second.size() > mostBytes)
            return base::Error{base::Code::LimitExceeded, path + " is too large."};
        return at->second;
    }
    base::Status writeWhole(const std::string& path, const base::Bytes& bytes) override {
        const std::lock_guard lock(m_guard);
        m_files[path] = bytes;
        return base::Done{};
    }
    base::Status makeFolder(const std::string&) override { return base::Done{}; }
    std::vector<std::string> list(const std::string& folder) const override {
        const std::lock_guard lock(m_guard);
        std::vector<std::string> names;
        for (const auto& [path, bytes] : m_files)
            if (path.rfind(folder + "/", 0) == 0)
                names.push_back(path.substr(folder.size() + 1));
        return names;
    }
    base::Status remove(const std::string& path) override {
        const std::lock_guard lock(m_guard);
        m_files.erase(path);
        return base::Done{};
    }
    base::Result<std::unique_ptr<base::FileLock>> lock(const std::string& path) override {
        const std::lock_guard lock(m_locked->guard);
        if (!m_locked->names.insert(path).second)
            return std::unique_ptr<base::FileLock>();
        return std::unique_ptr<base::FileLock>(std::make_unique<Lock>(m_locked, path));
    }
    bool has(const std::string& path) const {
        const std::lock_guard lock(m_guard);
        return m_files.contains(path);
    }

  private:
    struct Locked {
        std::mutex guard;
        std::set<std::string> names;
    };
    struct Lock : base::FileLock {
        Lock(std::shared_ptr<Locked> all, std::string name) : locked(std::move(all)), path(std::move(name)) {}
        ~Lock() override {
            const std::lock_guard lock(locked->guard);
            locked->names.erase(path);
        }
        std::shared_ptr<Locked> locked;
        std::string path;
    };
    mutable std::mutex m_guard;
    std::map<std::string, base::Bytes> m_files;
    std::shared_ptr<Locked> m_locked = std::make_shared<Locked>(); ///< a lock may outlive its store
};

/// Fails every write after the first `goodWrites`.
class FailingFileStore : public MemoryFileStore {
  public:
    explicit FailingFileStore(int goodWrites) : m_left(goodWrites) {}
    void fillUpAfter(int goodWrites) { m_left = goodWrites; }
    base::Status writeWhole(const std::string& path, const base::Bytes& bytes) override {
        if (m_left-- <= 0)
            return base::Error{base::Code::IoError,
                               path +
                                   " could not be written: the disk is full; make room or save elsewhere."};
        return MemoryFileStore::writeWhole(path, bytes);
    }

  private:
    int m_left;
};

} // namespace thinline::support
