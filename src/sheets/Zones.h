// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Length.h"
#include "sheets/Cards.h"

/// Several stocks on one mat, each on a scrap in a zone of its own.
namespace thinline::sheets {

/// What is left between two scraps, so that a hand can lay and lift them; from memory.
inline constexpr double kHandMm = 5;
/// Whether one setting of the machine is likely to cut both: the same kind, and as thick within a fifth.
bool mayShareAMat(const design::Stock& a, const design::Stock& b);

/// A size in which a stock's pieces can be laid.
struct ZoneSize {
    double widthMm = 0, heightMm = 0; ///< of what is cut, without margins
};
struct ZoneWish {
    const design::Stock* stock = nullptr;
    std::vector<ZoneSize> sizes; ///< one of them is taken
    bool mayTurn = true;
    ZoneSize sheet = {};  ///< that it is cut from, either way round
    bool isThere = false; ///< a scrap as it is: the size is of its card, and nothing is cut from a sheet
};
/// What holds for all of them.
struct ZoneRules {
    bool mayMix = true;                                    ///< else every mat is of one stock
    double stepMm = 5;                                     ///< scraps are cut to whole steps of this
    const std::vector<geometry::Box>* keepOuts = nullptr;  ///< of the mat; no scrap lies there
    const std::map<std::string, int>* settingOf = nullptr; ///< see ArrangeOptions
};
struct ZonePlace {
    std::size_t mat = 0;
    std::size_t size = 0;  ///< which of its wish's
    bool isTurned = false; ///< by a quarter, clockwise on screen
    geometry::Box card;    ///< of the scrap, on the mat
};

/// Returns where scraps lie, of every wish, on as few mats as several orders of laying them reach, then with the least card.
/// Shape:  cuts stay inside the mat's margin and kScrapMarginMm inside their scrap; scraps of one mat may all share it. A
///         wish that goes on no mat in any size is nothing.
/// Cost:   O(orders x wishes x sizes x free rectangles); deterministic.
std::vector<std::optional<ZonePlace>> placeZones(const std::vector<ZoneWish>& wishes,
                                                 const design::MatFormat& mat, const ZoneRules& rules = {});

/// Returns a scrap in words: "rust 85 × 130 mm, upper right, lying": its long side is across.
std::string scrapText(const design::PlacedSheet& scrap, const design::MatFormat& mat,
                      const std::vector<design::Stock>& stocks, base::LengthUnit unit);

/// Returns what lies on a mat in words: "2 sea", "lamp + signal red (scraps)".
std::string loadText(const design::Load& load, const std::vector<design::Stock>& stocks);

} // namespace thinline::sheets
