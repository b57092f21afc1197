// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Piece.h"

#include <mutex>
#include <unordered_map>

namespace thinline::design {

/// What was found out about bodies or other values that never change, kept by their address for as long as they live, so
/// that it stays true. Safe from any thread; two that ask at once may both compute.
template <class T, class Of = Body>
class Remembered {
  public:
    std::shared_ptr<const T> find(const std::shared_ptr<const Of>& of) const {
        const std::lock_guard lock(m_guard);
        const auto at = m_known.find(of.get());
        // The address of a value that is gone may have been given to another one.
        return at != m_known.end() && at->second.of.lock() == of ? at->second.what : nullptr;
    }
    void keep(const std::shared_ptr<const Of>& of, std::shared_ptr<const T> what) {
        const std::lock_guard lock(m_guard);
        if (m_known.size() > 2 * m_alive + kFew) {
            std::erase_if(m_known, [](const auto& entry) { return entry.second.of.expired(); });
            m_alive = m_known.size();
        }
        m_known[of.get()] = {of, std::move(what)};
    }
    std::size_t size() const {
        const std::lock_guard lock(m_guard);
        return m_known.size();
    }

  private:
    static constexpr std::size_t kFew = 64;
    struct Entry {
        std::weak_ptr<const Of> of;
        std::shared_ptr<const T> what;
    };
    mutable std::mutex m_guard;
    std::unordered_map<const Of*, Entry> m_known;
    std::size_t m_alive = 0; ///< when last cleared
};

} // namespace thinline::design
