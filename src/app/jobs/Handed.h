// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <mutex>
#include <utility>

namespace thinline::app {

/// What a worker has so far: put there by it as it gets on, taken by the interface whenever it looks. The latest counts.
template <class T>
class Handed {
  public:
    void put(T value) {
        auto one = std::make_shared<const T>(std::move(value));
        const std::lock_guard lock(m_guard);
        m_latest = std::move(one);
    }
    /// Null when nothing was put since.
    std::shared_ptr<const T> take() {
        const std::lock_guard lock(m_guard);
        return std::exchange(m_latest, nullptr);
    }

  private:
    std::mutex m_guard;
    std::shared_ptr<const T> m_latest;
};

} // namespace thinline::app
