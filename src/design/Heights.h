// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "base/Result.h"
#include "design/Remembered.h"
#include "design/Stack.h"

/// How high every piece lies: a piece rests on what lies under it.
namespace thinline::design {

/// Where a piece's card begins and ends, mm above the lowest front piece's under side.
struct Height {
    double bottomMm = 0, topMm = 0;
};

struct Heights {
    std::vector<Height> of; ///< of every piece, in the stack's order
    double lowestMm = 0, highestMm = 0;
    double tallMm() const { return highestMm - lowestMm; }
};

/// A body as rows of card, for telling quickly whether two of them overlap. Coordinates are kept in single
/// precision: a hundredth of a millimetre at ten metres.
struct Rows {
    int first = 0; ///< the row of `begin[0]`; row r lies at (r + 0.5) times the pitch
    double pitchMm = 0;
    std::vector<int> begin;                     ///< where each row's stretches begin; one more at the end
    std::vector<std::pair<float, float>> spans; ///< from, to; ascending within a row
};
using RowMemory = Remembered<Rows>;

/// Returns the heights.
/// Shape:  pieces of front layers lie on the highest top among the lower pieces they overlap by more than a
///         sliver, plus their lift; on the table where they overlap none. Pieces of layers behind the base hang
///         below it in the same way, the first of them nearest to it. Areas side by side on a backing are one
///         card high. Hidden layers count: they are there.
/// Units:  mm. A sliver is an overlap of less than 1 mm2 or nowhere 0.5 mm wide; told on rows 0.25 mm apart, of
///         works above 2 m on fewer.
/// Errors: Cancelled.
/// Cost:   O(rows x stretches) for every pair whose boxes meet; rows are remembered by body.
base::Result<Heights> heightsOf(const Stack& stack, RowMemory& memory, const base::Progress& progress = {});

/// A piece that rests on one piece and hangs over another one that is lower.
struct Uneven {
    std::size_t piece = 0, lower = 0; ///< places in the stack
    double gapMm = 0;                 ///< from the lower one's top to the piece's under side
    double areaMm2 = 0;               ///< of the piece that hangs over it
};
/// Returns the front pieces that rest on two heights, each with the lower piece it hangs over most.
/// Shape:  a gap below 0.05 mm is none; what hangs over less than 25 mm2, less than a tenth of the piece or nowhere
///         3 mm wide bends no card; what hangs over nothing hangs free.
/// Errors: Cancelled.
/// Cost:   as heightsOf, for pieces with something lower beneath them.
base::Result<std::vector<Uneven>> unevenOf(const Stack& stack, const Heights& heights, RowMemory& memory,
                                           const base::Progress& progress = {});

/// Returns a body as rows. Cost: O(points x rows crossed).
Rows rowsOf(const Body& body, double pitchMm);
/// The same, remembered by body.
std::shared_ptr<const Rows> rowsOf(const std::shared_ptr<const Body>& body, double pitchMm,
                                   RowMemory& memory);
/// The pitch at which heights are told of works that are not very large.
inline constexpr double kRowPitchMm = 0.25;
/// Returns whether two bodies overlap by more than a sliver.
bool overlap(const Rows& a, const Rows& b);

} // namespace thinline::design
