// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/PageProcess.h"

#include "document/Handle.h"
#include "document/PageWire.h"

#include <cerrno>
#include <chrono>
#include <fcntl.h>
#include <filesystem>
#include <poll.h>
#include <spawn.h>
#include <sys/mman.h>
#include <sys/wait.h>

extern char** environ; // NOLINT: what POSIX calls it

namespace thinline::document {
namespace {

using base::Code;
using base::Error;
using Clock = std::chrono::steady_clock;

const Error kNobody{
    Code::IoError,
    "PDF files cannot be opened: thinline-page, which draws their pages, does not start. Install Thin "
    "Line anew."};
const Error kTooMuch{
    Code::LimitExceeded,
    "This page takes more than 8 seconds or 900 MB to be drawn; it was not opened. Save it anew with "
    "fewer parts, or export it as SVG where it was drawn."};

/// The bytes as a file without a name, from its beginning.
int fileOf(const base::Bytes& bytes) {
    const int fd = ::memfd_create("page", MFD_CLOEXEC);
    size_t done = 0;
    while (fd >= 0 && done < bytes.size()) {
        const ssize_t wrote = ::write(fd, bytes.data() + done, bytes.size() - done);
        if (wrote < 0 && errno != EINTR)
            break;
        done += static_cast<size_t>(std::max<ssize_t>(wrote, 0));
    }
    ::lseek(fd, 0, SEEK_SET);
    return fd;
}

/// Starts the program with these for its input and output; what it complains of is for nobody. Returns its number, or
/// -1.
pid_t start(const std::string& program, int page, int in, int out) {
    posix_spawn_file_actions_t actions;
    ::posix_spawn_file_actions_init(&actions);
    ::posix_spawn_file_actions_adddup2(&actions, in, STDIN_FILENO);
    ::posix_spawn_file_actions_adddup2(&actions, out, STDOUT_FILENO);
    ::posix_spawn_file_actions_addopen(&actions, STDERR_FILENO, "/dev/null", O_WRONLY, 0);
    std::string name = program, number = std::to_string(page);
    char* const words[] = {name.data(), number.data(), nullptr};
    pid_t child = -1;
    const bool isStarted = ::posix_spawn(&child, program.c_str(), &actions, nullptr, words, environ) == 0;
    ::posix_spawn_file_actions_destroy(&actions);
    return isStarted ? child : -1;
}

/// Reads what a process writes until it ends, or until that is enough.
base::Result<std::string> readAll(int from, const base::Progress& progress) {
    constexpr auto kLongest = std::chrono::seconds(20); // the process itself ends after eight of computing
    constexpr size_t kMost = 400ull << 20;              // a picture of 100 megapixels, and outlines
    constexpr int kLookMs = 50;
    const auto begun = Clock::now();
    std::string out;
    for (;;) {
        if (progress.isCancelled())
            return base::cancelled();
        if (Clock::now() - begun > kLongest || out.size() > kMost)
            return kTooMuch;
        pollfd ready{from, POLLIN, 0};
        if (::poll(&ready, 1, kLookMs) <= 0)
            continue;
        constexpr size_t kStep = 1 << 18;
        const size_t before = out.size();
        out.resize(before + kStep);
        const ssize_t got = ::read(from, out.data() + before, kStep);
        out.resize(before + static_cast<size_t>(std::max<ssize_t>(got, 0)));
        if (got == 0 || (got < 0 && errno != EINTR))
            return out;
    }
}

std::string besideUs() {
    std::error_code error;
    const auto own = std::filesystem::read_symlink("/proc/self/exe", error);
    return (own.parent_path() / "thinline-page").string();
}

} // namespace

PageProcess::PageProcess(std::string program)
    : m_program(program.empty() ? besideUs() : std::move(program)) {}

base::Result<base::PdfPage> PageProcess::page(const base::Bytes& file, int page,
                                              const base::Progress& progress) const {
    const Handle in(fileOf(file));
    int ends[2] = {-1, -1};
    if (in.get() < 0 || ::pipe2(ends, O_CLOEXEC) != 0)
        return kNobody;
    const Handle from(ends[0]);
    Handle to(ends[1]);
    const pid_t child = start(m_program, page, in.get(), to.get());
    if (child < 0)
        return kNobody;
    to.close(); // so that reading ends with the process
    auto said = readAll(from.get(), progress);
    if (!said)
        ::kill(child, SIGKILL);
    int status = 0;
    while (::waitpid(child, &status, 0) < 0 && errno == EINTR) {
    }
    if (!said)
        return said.error();
    constexpr int kNotThere = 127; // where starting is only found out by the new process
    if (WIFEXITED(status) && WEXITSTATUS(status) == kNotThere && said->empty())
        return kNobody;
    const bool isWhole = WIFEXITED(status) && WEXITSTATUS(status) == 0;
    auto drawn = isWhole ? pageFromWire(*said) : base::Result<base::PdfPage>(kTooMuch);
    constexpr size_t kMostOutlines = 64ull << 20;
    if (drawn && drawn->svg.size() > kMostOutlines)
        return kTooMuch;
    return drawn;
}

} // namespace thinline::document
