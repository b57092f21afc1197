// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <unistd.h>
#include <utility>

namespace thinline::document {

/// A file descriptor that closes itself.
class Handle {
  public:
    explicit Handle(int fd) : m_fd(fd) {}
    Handle(Handle&& other) noexcept : m_fd(std::exchange(other.m_fd, -1)) {}
    Handle& operator=(Handle&&) = delete;
    ~Handle() { close(); }
    int get() const { return m_fd; }
    void close() {
        if (m_fd >= 0)
            ::close(std::exchange(m_fd, -1));
    }

  private:
    int m_fd;
};

} // namespace thinline::document
