// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <numeric>
#include <vector>

namespace thinline::base {

/// Numbers from 0 that are joined into groups; a group is called by its lowest number.
/// Cost:   nearly O(1) a call.
/// Source: union and find with halved paths; R. E. Tarjan, Efficiency of a Good But Not Linear Set Union Algorithm, JACM 22(2), 1975.
class Joined {
  public:
    explicit Joined(std::size_t count = 0) : m_parent(count) { std::iota(m_parent.begin(), m_parent.end(), 0); }

    /// One more, by itself.
    std::int32_t add() {
        m_parent.push_back(static_cast<std::int32_t>(m_parent.size()));
        return m_parent.back();
    }
    std::int32_t of(std::int32_t i) {
        while (parent(i) != i)
            i = parent(i) = parent(parent(i));
        return i;
    }
    void join(std::int32_t a, std::int32_t b) {
        a = of(a);
        b = of(b);
        parent(std::max(a, b)) = std::min(a, b);
    }

  private:
    std::int32_t& parent(std::int32_t i) { return m_parent[static_cast<std::size_t>(i)]; }
    std::vector<std::int32_t> m_parent;
};

} // namespace thinline::base
