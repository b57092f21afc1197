// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Heights.h"

#include <cstddef>
#include <vector>

/// What is put together after cutting, and in which order.
namespace thinline::assembly {

/// A finished work, as it is put together.
struct Work {
    const design::Stack& stack;
    const design::Heights& heights; ///< of this stack
    design::RowMemory& rows;
    std::vector<design::StepId> divisions = {}; ///< steps whose parts are joined to one piece again
};

/// Who touches whom. Pieces are named by their place in the stack.
struct Contacts {
    std::vector<std::vector<std::size_t>> under; ///< of every piece: those that carry it
    std::vector<std::vector<std::size_t>>
        before; ///< of every piece: those it covers; they are there before it
    std::vector<std::size_t>
        order; ///< of building: a piece comes after all it covers, the front's before the back's
    std::vector<std::vector<std::size_t>>
        divided; ///< parts of one piece that are joined first, in reading order
};

/// Returns who touches whom.
/// Shape:  a piece is carried by those it overlaps by more than a sliver and whose card or foam it reaches within 0.05 mm; one
///         behind the base by the base in the same way. Parts of a divided piece do not carry one another.
/// Errors: Cancelled.
/// Cost:   as design::heightsOf.
base::Result<Contacts> contactsOf(const Work& work, const base::Progress& progress = {});

/// Returns whether a piece is glued onto what it lies on from behind.
bool isBehind(const design::Stack& stack, const design::Laid& laid);

/// Two parts of a divided piece that meet.
struct Seam {
    design::PieceId upper, lower;
    bool isGlued =
        false; ///< the upper one lies on a strip of the lower one; else they meet edge to edge and are taped
};
/// Returns where the parts of a divided piece meet, in reading order.
/// Shape:  edges that run side by side within half a millimetre for at least 3 mm.
/// Cost:   O(rows) for each pair whose boxes meet.
std::vector<Seam> seamsOf(const Work& work, const std::vector<std::size_t>& parts);

} // namespace thinline::assembly
