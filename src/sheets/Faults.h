// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "sheets/Arrange.h"

#include <string>

/// Whether an arrangement may be cut.
namespace thinline::sheets {

/// Something on a mat that would spoil card.
struct Fault {
    enum class Kind {
        OtherFormat, ///< a mat or sheet that was not chosen, has no size, or does not lie on its mat
        NotThere,    ///< a piece, copy or stock the work has not got
        OtherStock,  ///< a piece on a sheet of another stock
        WrongFace,   ///< it lies the other way over than its sheet asks: it would come out mirrored
        Twice,       ///< a copy on two places
        Missing,     ///< a copy on no sheet, or said to be too large and is not
        OffSheet,    ///< an outline runs over the edge of what may be cut
        OnAnother,   ///< an outline lies on another one
        TooClose,    ///< nearer to another one than the spacing that was asked for
        Apart        ///< a cluster whose pieces have not their distances
    };
    Kind kind = Kind::OffSheet;
    design::CopyOf what;   ///< no piece where a sheet or mat is meant
    bool isPinned = false; ///< somebody laid it by hand
    std::size_t load = 0;  ///< its place among the loads; their count where it lies on none
    std::string message;   ///< one sentence without its full stop: what, on which load

    bool operator==(const Fault&) const = default;
};

/// Returns what would spoil card if these loads were cut: every outline as it lies, not its box, is held against the
/// sheet, against every other one, and every copy the work asks for is looked for. Nothing in the arrangement is
/// believed but where it says things lie.
/// Shape:  the worst first: what is not the work's, then what lies badly; of each kind kMostFaults at most. Where
///         somebody pinned a copy, being nearer than the spacing is her choice and no fault.
/// Units:  mm; outlines are flattened at 0.02 mm, and that much is let pass.
/// Errors: Cancelled.
/// Cost:   O(nodes + n log n), and for outlines nearer than the spacing the product of their near nodes.
base::Result<std::vector<Fault>> faultsOf(const design::Stack& stack, const design::Arrangement& arrangement,
                                          const ArrangeOptions& options, const base::Progress& progress = {});
inline constexpr std::size_t kMostFaults = 20;

} // namespace thinline::sheets
