// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "sheets/Zones.h"

#include <functional>

/// Which mat a laid card comes onto.
namespace thinline::sheets {

/// A card with what lies on it.
struct LaidCard {
    const design::Stock* stock = nullptr;
    const Card* card = nullptr;
    design::PlacedSheet sheet; ///< its pieces only, their poses from the card's corner
};

/// What is still to be cut from a sheet, to lie with others.
struct ToCut {
    ZoneWish wish;
    std::size_t insteadOf = 0; ///< the last sheet of its stock, among the laid ones
    std::function<design::PlacedSheet(const ZonePlace&)> sheet; ///< as it then lies on its mat
};

/// Puts cards onto mats behind those there are.
/// Shape:  whole sheets as many as a mat takes, one stock to a mat; scraps that lie on a mat already on that one; other scraps
///         and what is to be cut where there is room, stocks together only by ArrangeOptions::isMixed. A scrap without
///         pieces is left out, and what would be cut to lie alone stays a sheet.
void addToMats(std::vector<design::Load>& loads, std::vector<LaidCard> laid, const std::vector<ToCut>& toCut,
               const ArrangeOptions& options);

} // namespace thinline::sheets
