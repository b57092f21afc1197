// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/DiskFileStore.h"

#include "document/Handle.h"

#include <algorithm>
#include <cerrno>
#include <cstdio>
#include <cstring>
#include <fcntl.h>
#include <filesystem>
#include <initializer_list>
#include <sys/file.h>
#include <sys/stat.h>

namespace thinline::document {
namespace {

using base::Bytes;
using base::Code;
using base::Error;
namespace fs = std::filesystem;

constexpr int kNoFile = -1; ///< a device, pipe or socket; beside the system's own numbers

/// Why a file was not read or written, in words, and what to do about it.
struct Reason {
    std::initializer_list<int> numbers;
    const char* why;
    const char* forReading; ///< null where it does not happen
    const char* forWriting;
};
const Reason kReasons[] = {
    {{ENOSPC, EDQUOT}, "the disk is full", nullptr, "make room or save elsewhere"},
    {{EACCES, EPERM, EROFS},
     "you have no permission",
     "ask its owner, or take a copy you may read",
     "save elsewhere"},
    {{EISDIR}, "it is a folder", "name a file in it", "choose another name"},
    {{kNoFile}, "it is a device or a pipe", "name a file", "choose another name"},
    {{ELOOP}, "its links lead round in a ring", "name the file itself", "choose another name"},
    {{ENAMETOOLONG}, "its name is too long", "check it", "choose a shorter one"}};

std::string inWords(int number, bool isWriting) {
    if (number == ENOENT || number == ENOTDIR)
        return isWriting ? "the folder is not there; save elsewhere"
                         : "there is no such file; check its name and folder";
    for (const Reason& reason : kReasons) {
        const char* const advice = isWriting ? reason.forWriting : reason.forReading;
        if (advice && std::find(reason.numbers.begin(), reason.numbers.end(), number) != reason.numbers.end())
            return std::string(reason.why) + "; " + advice;
    }
    return std::strerror(number);
}

Error notRead(const std::string& path, int reason) {
    return {reason == ENOENT ? Code::NotFound : Code::IoError,
            path + " could not be read: " + inWords(reason, false) + "."};
}

Error notWritten(const std::string& path, int reason) {
    return {Code::IoError, path + " could not be written: " + inWords(reason, true) + "."};
}

/// Writes and flushes; returns 0 or errno.
int fill(int file, const Bytes& bytes) {
    size_t done = 0;
    while (done < bytes.size()) {
        const ssize_t wrote = ::write(file, bytes.data() + done, bytes.size() - done);
        if (wrote < 0 && errno == EINTR)
            continue;
        if (wrote < 0)
            return errno;
        done += static_cast<size_t>(wrote);
    }
    return ::fsync(file) != 0 ? errno : 0;
}

/// Where a path leads when its links are followed, also to what is not there yet; returns 0 or errno.
int followLinks(std::string& path) {
    constexpr int kMostLinks = 40; // as many as the system follows
    for (int i = 0; i < kMostLinks; ++i) {
        std::error_code error;
        if (!fs::is_symlink(path, error))
            return 0;
        const fs::path aim = fs::read_symlink(path, error);
        if (error)
            return error.value();
        path = (aim.is_absolute() ? aim : fs::path(path).parent_path() / aim).string();
    }
    return ELOOP;
}

std::string folderOf(const std::string& path) {
    const fs::path folder = fs::path(path).parent_path();
    return folder.empty() ? "." : folder.string();
}

/// The name a file has while it is written: one for each target, so that nothing gathers, and short, since a name
/// of full length has no room for an ending.
std::string nameWhileWriting(const std::string& path) {
    char name[40];
    std::snprintf(name, sizeof name, "/.thinline-%016zx.new",
                  std::hash<std::string>()(fs::path(path).filename().string()));
    return folderOf(path) + name;
}

/// What replaces the old file takes its permissions and, where we may, its owner. Some file systems know neither.
void takeOver(int file, const struct stat& old) {
    const bool isGiven = ::fchown(file, old.st_uid, old.st_gid) == 0;
    (void)::fchmod(file, old.st_mode & (isGiven ? 07777 : 0777));
}

/// Keeps other windows from writing in a folder at the same moment, as they would use the same name while writing. It
/// is held for moments; who holds it for ever, or a file system that knows no locks, holds nobody up.
void waitForTurn(int folder) {
    constexpr int kMostTries = 500;
    constexpr useconds_t kPauseUs = 10'000;
    for (int i = 0; i < kMostTries && ::flock(folder, LOCK_EX | LOCK_NB) != 0 && errno == EWOULDBLOCK; ++i)
        ::usleep(kPauseUs);
}

constexpr mode_t kUsual = 0644;
constexpr int kCannot = -2; ///< this way is not open here

/// Writes the bytes to a file without a name and gives it one when it is whole, so that a kill leaves nothing behind.
/// Returns 0, errno, or kCannot where the file system or the system cannot do that.
int writeNameless(int folder, const std::string& fresh, const Bytes& bytes, const struct stat* old) {
    const Handle file(::open(folderOf(fresh).c_str(), O_TMPFILE | O_WRONLY | O_CLOEXEC, kUsual));
    if (file.get() < 0)
        return kCannot;
    if (const int reason = fill(file.get(), bytes); reason != 0)
        return reason;
    if (old)
        takeOver(file.get(), *old);
    waitForTurn(folder);
    ::unlink(fresh.c_str()); // left by a kill
    const std::string own = "/proc/self/fd/" + std::to_string(file.get());
    const bool isNamed = ::linkat(AT_FDCWD, own.c_str(), AT_FDCWD, fresh.c_str(), AT_SYMLINK_FOLLOW) == 0;
    return isNamed ? 0 : kCannot;
}

/// The same with a name from the beginning.
int writeNamed(int folder, const std::string& fresh, const Bytes& bytes, const struct stat* old) {
    waitForTurn(folder);
    ::unlink(fresh.c_str()); // left by a kill
    const Handle file(::open(fresh.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC | O_NOFOLLOW, kUsual));
    if (file.get() < 0)
        return errno;
    const int reason = fill(file.get(), bytes);
    if (reason != 0)
        ::unlink(fresh.c_str());
    else if (old)
        takeOver(file.get(), *old);
    return reason;
}

/// Writes the bytes under another name and moves them over the old file; returns 0 or errno.
int replaceBy(const std::string& path, const Bytes& bytes, const struct stat* old) {
    const Handle folder(::open(folderOf(path).c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
    const std::string fresh = nameWhileWriting(path);
    int reason = writeNameless(folder.get(), fresh, bytes, old);
    if (reason == kCannot)
        reason = writeNamed(folder.get(), fresh, bytes, old);
    if (reason != 0)
        return reason;
    if (::rename(fresh.c_str(), path.c_str()) != 0) {
        reason = errno;
        ::unlink(fresh.c_str());
        return reason;
    }
    ::fsync(folder.get()); // so that the new name survives a power cut
    return 0;
}

class DiskLock final : public base::FileLock {
  public:
    DiskLock(Handle file, std::string path) : m_file(std::move(file)), m_path(std::move(path)) {}
    ~DiskLock() override { ::unlink(m_path.c_str()); } // while it is still held

  private:
    Handle m_file;
    std::string m_path;
};

} // namespace

base::Result<Bytes> DiskFileStore::read(const std::string& path, std::uint64_t mostBytes) const {
    Handle file(::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK)); // a pipe would be waited for
    struct stat info {};
    if (file.get() < 0 || ::fstat(file.get(), &info) != 0)
        return notRead(path, errno == ENXIO ? kNoFile : errno);
    if (!S_ISREG(info.st_mode))
        return notRead(path, S_ISDIR(info.st_mode) ? EISDIR : kNoFile);
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

base::Status DiskFileStore::writeWhole(const std::string& said, const Bytes& bytes) {
    std::string path = said;
    if (const int reason = followLinks(path); reason != 0)
        return notWritten(said, reason);
    struct stat old {};
    const bool isThere = ::stat(path.c_str(), &old) == 0;
    if (isThere && !S_ISREG(old.st_mode))
        return notWritten(said, S_ISDIR(old.st_mode) ? EISDIR : kNoFile);
    // A rename would quietly replace a file the person has made read-only.
    if (isThere && ::access(path.c_str(), W_OK) != 0)
        return notWritten(said, errno);
    if (const int reason = replaceBy(path, bytes, isThere ? &old : nullptr); reason != 0)
        return notWritten(said, reason);
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

base::Result<std::unique_ptr<base::FileLock>> DiskFileStore::lock(const std::string& path) {
    Handle file(::open(path.c_str(), O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW, 0600));
    if (file.get() < 0)
        return notWritten(path, errno);
    if (::flock(file.get(), LOCK_EX | LOCK_NB) == 0)
        return std::unique_ptr<base::FileLock>(std::make_unique<DiskLock>(std::move(file), path));
    if (errno == EWOULDBLOCK)
        return std::unique_ptr<base::FileLock>();
    return notWritten(path, errno);
}

} // namespace thinline::document
