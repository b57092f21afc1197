// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <bit>
#include <cstddef>
#include <cstdint>
#include <vector>

namespace thinline::geometry {

/// From 64-bit keys to chains of whole numbers; several entries may share a key. A key stands for what was
/// mixed into it, so two things may share one by chance: whoever looks up compares what was found.
/// Cost: O(1) per call; 16 bytes per slot at most half filled, 4 per entry. Made for floods of small keys.
class HashIndex {
  public:
    explicit HashIndex(std::size_t expected) : m_slots(std::bit_ceil(2 * expected + 16), Slot{0, -1}) {
        m_next.reserve(expected);
    }

    /// Adds an entry; entries are numbered 0, 1, 2 ... in the order they are added.
    int add(std::uint64_t key) {
        if (2 * (m_used + 1) > m_slots.size())
            grow();
        Slot& slot = m_slots[placeOf(m_slots, key)];
        m_used += slot.first < 0 ? 1 : 0;
        m_next.push_back(slot.first);
        slot = {key, static_cast<int>(m_next.size()) - 1};
        return slot.first;
    }
    /// Returns the newest entry of a key, or -1; `next` leads to the older ones.
    int first(std::uint64_t key) const { return m_slots[placeOf(m_slots, key)].first; }
    int next(int entry) const { return m_next[static_cast<std::size_t>(entry)]; }

    static std::uint64_t mix(std::uint64_t a, std::uint64_t b) {
        std::uint64_t h = a * 0x9E3779B97F4A7C15ull + b;
        h = (h ^ (h >> 32)) * 0xD6E8FEB86659FD93ull;
        return h ^ (h >> 29);
    }

  private:
    struct Slot {
        std::uint64_t key;
        int first;
    };
    /// Where a key is, or where it would go.
    static std::size_t placeOf(const std::vector<Slot>& slots, std::uint64_t key) {
        const std::size_t mask = slots.size() - 1;
        std::size_t at = static_cast<std::size_t>(mix(key, 1)) & mask;
        while (slots[at].first >= 0 && slots[at].key != key)
            at = (at + 1) & mask;
        return at;
    }
    void grow() {
        std::vector<Slot> larger(m_slots.size() * 2, Slot{0, -1});
        for (const Slot& slot : m_slots)
            if (slot.first >= 0)
                larger[placeOf(larger, slot.key)] = slot;
        m_slots = std::move(larger);
    }

    std::vector<Slot> m_slots;
    std::size_t m_used = 0;
    std::vector<int> m_next;
};

} // namespace thinline::geometry
