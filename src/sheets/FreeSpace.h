// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Point.h"

#include <optional>
#include <vector>

namespace thinline::sheets {

/// The free part of one sheet, kept as all maximal empty rectangles (they overlap each other).
class FreeSpace {
  public:
    explicit FreeSpace(const geometry::Box& all) : m_free{all} {}
    /// Rectangles that may overlap.
    static FreeSpace of(std::vector<geometry::Box> free) {
        FreeSpace out{geometry::Box{}};
        out.m_free = std::move(free);
        return out;
    }
    const std::vector<geometry::Box>& rectangles() const { return m_free; }

    struct Spot {
        geometry::Point corner; ///< upper left of the laid box
        bool isTurned = false;
    };

    /// Returns the spot whose shorter leftover side is smallest (ties: topmost, then leftmost), or nothing.
    /// Cost: O(free rectangles).
    std::optional<Spot> find(double width, double height, bool mayTurn) const;

    /// Removes a box from the free part.
    /// Cost: O(free rectangles squared).
    void take(const geometry::Box& box);

  private:
    std::vector<geometry::Box> m_free;
};

} // namespace thinline::sheets
