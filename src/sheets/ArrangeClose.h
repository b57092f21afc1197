// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "sheets/Arrange.h"
#include "sheets/Nest.h"

/// Laying by true outlines: closer than boxes allow.
namespace thinline::sheets {

/// Of more copies than that the given arrangement is kept as it is.
inline constexpr std::size_t kMostClose = 5000;

struct CloseOptions {
    NestBudget budget; ///< of all stocks together
    /// What lay so before the work changed: what can stays where it is, as long as that costs no sheet. May be null.
    const design::Arrangement* before = nullptr;
};

/// Returns an arrangement in which pieces lie in one another's bays, turned as their stock allows, or the one it was given
/// where it finds no closer one for any stock.
/// Shape:  as arrange; with ArrangeOptions::isMixed the last sheets of stocks become scraps that share mats where that saves one
///         (sheets/Zones.h). One stock to a sheet, pins as they are, clusters as one, what fits nowhere told as unplaced. A stock's
///         sheets count first, then how much of its last one is used. Where the given arrangement holds every copy of a
///         stock soundly the search begins with it; else with a first layout of its own.
/// Units:  the spacing is kept within 0.02 mm of what is asked.
/// Errors: those of sheetPlaces and arrange; Cancelled only before there is any layout: later the best so far is returned.
/// Cost:   the budget; tables before that, about a millisecond for each outline.
base::Result<design::Arrangement>
arrangeClose(const design::Stack& stack, const ArrangeOptions& options, const CloseOptions& how,
             const design::Arrangement& given,
             const std::function<void(const design::Arrangement&)>& publish = {},
             const base::Progress& progress = {});

/// What an arrangement needs of one stock beside its scraps: whole sheets, and how much of the last one, from its upper edge.
struct StockNeed {
    std::string stockId;
    int sheets = 0;
    double lastLengthMm = 0;
};
std::vector<StockNeed> needsOf(const design::Arrangement& arrangement, const design::Stack& stack);

/// A rectangle of card that is left whole: the last sheet of a stock below all that lies on it.
struct Offcut {
    std::string stockId;
    double widthMm = 0, heightMm = 0;
};
/// Returns the offcuts worth keeping, the largest first.
/// Shape:  a rectangle narrower than 40 mm is none; the least is from memory.
std::vector<Offcut> offcutsOf(const design::Arrangement& arrangement, const design::Stack& stack);

} // namespace thinline::sheets
