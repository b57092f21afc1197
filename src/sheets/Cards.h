// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "sheets/Arrange.h"

/// What pieces of a stock can be laid on: scraps as they are, then whole sheets.
namespace thinline::sheets {

/// What is kept between cuts and an edge that a hand has cut; from memory.
inline constexpr double kScrapMarginMm = 3;
/// A blocked part no wider than that could slip through the cells of a first look.
inline constexpr double kLeastKeepOutMm = 6;

/// A sheet or a scrap as it lies. Lengths from its upper left corner.
struct Card {
    double widthMm = 0, heightMm = 0, marginMm = 0;
    geometry::Polygons outline = {}; ///< empty for a rectangle
    int scrap = 0;                   ///< its id; 0 for a whole sheet
    bool isTurned = false;           ///< the scrap, by a quarter, since it lies on its mat no other way
    std::optional<geometry::Point>
        at{};                        ///< its corner on the mat; nothing where it goes wherever there is room
    std::string mat = {};            ///< which mat it lies on, where that is known
    geometry::Box usable = {};       ///< the boxes of pieces stay inside
    geometry::Polygons blocked = {}; ///< what of that is not free: beyond the outline, kept free on the mat
    design::Join join = design::Join::None;
};

struct Cards {
    std::vector<Card> scraps; ///< each once
    std::vector<Card> sheets; ///< of one mat; then again on the next one

    const Card& operator[](std::size_t bin) const {
        return bin < scraps.size() ? scraps[bin] : sheets[(bin - scraps.size()) % sheets.size()];
    }
};

/// Returns what a stock can be laid on, by the plan.
/// Errors: those of sheetPlaces; InvalidArgument naming a scrap that lies on no mat or has no room inside its margin.
/// Cost:   O(nodes log nodes) of the scraps.
base::Result<Cards> cardsOf(const std::string& stockId, const ArrangeOptions& options);

/// Returns the largest rectangles of a card that are free; they overlap.
/// Shape:  what is blocked is covered by strips, so that beside slanted edges a little is lost.
std::vector<geometry::Box> freeRectangles(const Card& card);

/// Returns which of its stock's cards a pin lies on, and how it lies there.
std::size_t binOf(const Pin& pin, const Cards& cards);
std::size_t binOfScrap(int scrapId, const Cards& cards); ///< beyond all scraps when it is none of them
design::Pose poseOf(const Pin& pin, const Card& card);

/// Pin::scrapId of what lies on a scrap that is still to be cut from its sheet: it stays where it lies beside the others on
/// that scrap, wherever the scrap goes.
inline constexpr int kScrapToCut = -1;

/// What of a sheet lies under tape, from its corner.
std::vector<geometry::Box> tapedCorners(double widthMm, double heightMm);

/// Returns why a scrap cannot be: no outline, too small for its margin.
base::Status checkScrap(const design::Scrap& scrap);

/// Returns rings turned by a quarter clockwise on screen, again from the corner of their box.
geometry::Polygons turnedByQuarter(const geometry::Polygons& rings);

} // namespace thinline::sheets
