// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Heights.h"
#include "design/Remembered.h"
#include "job/Making.h"

/// The numbers that pieces bear on request; for the finish.
namespace thinline::job {

inline constexpr int kFirstDigit = 2'100'000'000; ///< above the numbers of marks

/// What the numbering remembers of a body.
struct NumberMemo {
    int number = 0;
    bool isScored = false;
    std::vector<std::shared_ptr<const design::Body>> covers;
    std::shared_ptr<const design::Body> numbered; ///< the same body where there is no room
};

/// Puts every piece's number of the assembly sheets onto its face, where what lies on it covers it.
/// Shape:  digits 2.5 to 5 mm high, 1.5 mm inside the piece and what covers it, upright as the piece lies in the design; copies
///         share one. Pieces with their back up bear none.
/// Errors: those of the set operations; Cancelled.
/// Cost:   that of assembly::numbersOf, and two set operations for each piece whose covers changed.
base::Result<NumbersTold> numberPieces(const Job& job, design::Stack& work, const design::Heights& heights,
                                       design::RowMemory& rows, design::Remembered<NumberMemo>& memory,
                                       const base::Progress& progress);

} // namespace thinline::job
