// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/DiskFileStore.h"

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <filesystem>
#include <sys/stat.h>
#include <unistd.h>

namespace thinline::document {
namespace {

using base::Bytes;
using base::Code;
using base::Error;
namespace fs = std::filesystem;

Error notRead(const std::string& path, int reason) {
    std::string why = std::strerror(reason);
    if (reason == ENOENT || reason == ENOTDIR)
        why = "there is no such file; check its name and folder";
    else if (reason == EACCES || reason == EPERM)
        why = "you may not read it; ask its owner, or take a copy you may read";
    else if (reason == EISDIR)
        why = "it is a folder; name a file in it";
    return {reason == ENOENT ? Code::NotFound : Code::IoError, path + " could not be read: " + why + "."};
}

Error notWritten(const std::string& path, int reason) {
    std::string why = std::strerror(reason);
    if (reason == ENOSPC || reason == EDQUOT)
        why = "the disk is full; make room or save elsewhere";
    else if (reason == EACCES || reason == EPERM || reason == EROFS)
        why = "you may not write there; save elsewhere";
    else if (reason == ENOENT || reason == ENOTDIR)
        why = "the folder is not there; save elsewhere";
    else if (reason == EISDIR)
        why = "it is a folder; choose another name";
    return {Code::IoError, path + " could not be written: " + why + "."};
}

/// A file descriptor that closes itself.
class Handle {
  public:
    explicit Handle(int fd) : m_fd(fd) {}
    Handle(const Handle&) = delete;
    Handle& operator=(const Handle&) = delete;
    ~Handle() {
        if (m_fd >= 0)
            ::close(m_fd);
    }
    int get() const { return m_fd; }
    int close() {
        const int result = ::close(m_fd);
        m_fd = -1;
        return result;
    }

  private:
    int m_fd;
};

/// Writes and flushes; returns 0 or errno.
int fillFile(const std::string& path, const Bytes& bytes, mode_t mode) {
    Handle file(::open(path.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, mode));
    if (file.get() < 0)
        return errno;
    size_t done = 0;
    while (done < bytes.size()) {
        const ssize_t wrote = ::write(file.get(), bytes.data() + done, bytes.size() - done);
        if (wrote < 0 && errno == EINTR)
            continue;
        if (wrote < 0)
            return errno;
        done += static_cast<size_t>(wrote);
    }
    if (::fsync(file.get()) != 0 || file.close() != 0)
        return errno;
    return 0;
}

} // namespace

base::Result<Bytes> DiskFileStore::read(const std::string& path, std::uint64_t mostBytes) const {
    Handle file(::open(path.c_str(), O_RDONLY | O_CLOEXEC));
    struct stat info {};
    if (file.get() < 0 || ::fstat(file.get(), &info) != 0)
        return notRead(path, errno);
    if (S_ISDIR(info.st_mode))
        return notRead(path, EISDIR);
    if (static_cast<std::uint64_t>(info.st_size) > mostBytes)
        return Error{Code::LimitExceeded, path + " is " + std::to_string(info.st_size >> 20) +
                                              " MB, more than the " + std::to_string(mostBytes >> 20) +
                                              " MB that are read."};
    Bytes bytes;
    constexpr size_t kStep = 1 << 20;
    for (;;) {
        const size_t before = bytes.size();
        bytes.resize(before + std::max(kStep, static_cast<size_t>(info.st_size) > before
                                                  ? static_cast<size_t>(info.st_size) - before
                                                  : 0));
        const ssize_t got = ::read(file.get(), bytes.data() + before, bytes.size() - before);
        if (got < 0 && errno != EINTR)
            return notRead(path, errno);
        bytes.resize(before + static_cast<size_t>(std::max<ssize_t>(got, 0)));
        if (got == 0)
            return bytes;
        if (bytes.size() > mostBytes)
            return Error{Code::LimitExceeded, path + " is larger than the " +
                                                  std::to_string(mostBytes >> 20) + " MB that are read."};
    }
}

base::Status DiskFileStore::writeWhole(const std::string& path, const Bytes& bytes) {
    struct stat old {};
    const bool isThere = ::stat(path.c_str(), &old) == 0;
    if (isThere && S_ISDIR(old.st_mode))
        return notWritten(path, EISDIR);
    // A rename would quietly replace a file the person has made read-only.
    if (isThere && ::access(path.c_str(), W_OK) != 0)
        return notWritten(path, errno);
    const std::string fresh = path + ".new" + std::to_string(::getpid());
    ::unlink(fresh.c_str()); // left by a crash of an earlier program with our number
    const int reason = fillFile(fresh, bytes, isThere ? old.st_mode & 0777 : 0644);
    if (reason != 0) {
        ::unlink(fresh.c_str());
        return notWritten(path, reason);
    }
    if (::rename(fresh.c_str(), path.c_str()) != 0) {
        const int why = errno;
        ::unlink(fresh.c_str());
        return notWritten(path, why);
    }
    const std::string folder = fs::path(path).has_parent_path() ? fs::path(path).parent_path().string() : ".";
    const Handle parent(::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
    if (parent.get() >= 0)
        ::fsync(parent.get()); // so that the new name survives a power cut
    return base::Done{};
}

base::Status DiskFileStore::makeFolder(const std::string& path) {
    std::error_code error;
    fs::create_directories(path, error);
    if (error && !fs::is_directory(path))
        return Error{Code::IoError, "The folder " + path + " could not be made: " + error.message() + "."};
    return base::Done{};
}

std::vector<std::string> DiskFileStore::list(const std::string& folder) const {
    std::vector<std::string> names;
    std::error_code error;
    for (fs::directory_iterator at(folder, error), end; !error && at != end; at.increment(error))
        names.push_back(at->path().filename().string());
    std::sort(names.begin(), names.end());
    return names;
}

base::Status DiskFileStore::remove(const std::string& path) {
    if (::unlink(path.c_str()) != 0 && errno != ENOENT)
        return Error{Code::IoError, path + " could not be removed: " + std::strerror(errno) + "."};
    return base::Done{};
}

} // namespace thinline::document
