// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Stack.h"

#include <functional>
#include <memory>
#include <utility>
#include <vector>

namespace thinline::job {

/// What somebody said about pieces, as one value that shares its parts with the values it was made from: a thousand
/// clicks on two thousand pieces keep a thousand of these. Kept in order, in runs of a few dozen; a change copies
/// one run and the list of runs.
class Wishes {
  public:
    using Entry = std::pair<design::PieceId, design::Wish>;

    /// Returns the wish for exactly this piece, or null. Cost: O(log n).
    const design::Wish* find(design::PieceId piece) const;
    /// Returns the wishes with this one in the place of the piece's; an empty one takes it out.
    /// Cost: O(runs + a run).
    Wishes with(design::PieceId piece, const design::Wish& wish) const;

    /// Returns what holds for a piece: its own words, then those of what it was made of. A twin does not take over
    /// the count of its original. Cost: O(depth log n).
    design::Wish resolved(design::PieceId piece) const;

    std::size_t size() const { return m_size; }
    void each(const std::function<void(const Entry&)>& visit) const;
    /// Whether nothing was said in between. By content, quickly where runs are shared.
    bool operator==(const Wishes& other) const;

  private:
    using Run = std::vector<Entry>;
    static constexpr std::size_t kMostInRun = 64;
    std::size_t runOf(design::PieceId piece) const;
    std::vector<std::shared_ptr<const Run>> m_runs; ///< none empty
    std::size_t m_size = 0;
};

/// Returns whom wishes are kept for that is neither there, nor aside, nor what one of these was made of.
std::vector<design::PieceId> strayWishes(const Wishes& wishes, const design::Pieces& pieces);

} // namespace thinline::job
