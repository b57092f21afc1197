// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Drawer.h"
#include "job/Opening.h"
#include "sheets/Rest.h"

/// The drawer in use: what loads take out of it, what comes back, and what to cut from when a card is out.
namespace thinline::job {

/// A drawer and what happened to it, in a sentence; empty when nothing did.
struct DrawerNow {
    design::Drawer drawer;
    std::string told = {};
};

/// Takes the whole sheets of a load out of a drawer, as far as somebody counted those of their size, and those of a job's scraps
/// that came from there; or puts them back. Scraps that are cut for the load are not counted. What is left of a scrap of the
/// drawer is a scrap of its own there, until the cut one is put back.
DrawerNow withoutSheetsOf(const design::Drawer& drawer, const design::Load& load,
                          const std::vector<design::Scrap>& scraps = {}, const sheets::Rests& rests = {});
DrawerNow withSheetsOf(const design::Drawer& drawer, const design::Load& load,
                       const std::vector<design::Scrap>& scraps = {}, const sheets::Rests& rests = {});

/// Puts a scrap into a drawer, where it gets a number that is given once.
/// Errors: NotFound for a stock that is not there; as sheets::checkScrap; LimitExceeded for the kMostScrapsInADrawer-th.
base::Result<design::Drawer> withScrapKept(const design::Drawer& drawer, design::Scrap scrap);
inline constexpr std::size_t kMostScrapsInADrawer = 500;
/// Says that a scrap of a job is one of the drawer: it leaves the drawer when a load on it was cut.
Job withScrapOfDrawer(const Job& job, int scrapId, int drawerId);
/// Returns how a scrap is spoken of: "rust 85 × 130 mm, offcut of the pier".
std::string scrapWords(const design::Scrap& scrap, const std::vector<design::Stock>& stocks,
                       base::LengthUnit unit);
/// Throws a scrap away.
/// Errors: NotFound.
base::Result<design::Drawer> withoutScrapKept(const design::Drawer& drawer, int drawerId);
/// Takes a scrap of the drawer into a job. It stays in the drawer until a load that it lies on was cut.
/// Errors: NotFound for the scrap and for its stock; InvalidArgument when the job has it; as withScrap.
base::Result<Job> withScrapFromDrawer(const Job& job, const design::Drawer& drawer, int drawerId);

/// Puts sheets of a size into a drawer or, below zero, takes them out; a size it does not know is added.
/// Errors: NotFound for an unknown stock; InvalidArgument for taking out more than there are, or of a size nobody counted.
base::Result<design::Drawer> withSheets(const design::Drawer& drawer, const std::string& stockId,
                                        double widthMm, double heightMm, int count);

/// A stock that could take the place of one that is out.
struct Instead {
    std::string stockId;
    double colourDifference = 0;    ///< as raster::ciede2000; about 1 is just noticeable
    bool doesFoldAlike = false;     ///< of the same kind, within 15 per cent of weight and thickness
    std::optional<int> sheets = {}; ///< there are, of all sizes; unset when nobody counted
    std::string changes;            ///< what is not the same, in words; empty for nothing
};
/// Returns the other stocks of a job that could stand in for one, the best first: those that fold alike, then by colour. None that is
/// used up is among them, no laminate of this stock, and none that is cut by hand where this one is not.
std::vector<Instead> insteadOf(const Job& job, const std::string& stockId);

/// Returns the job with every layer of a stock cut from another. The sheets chosen for the old one, its scraps and its setting stay
/// its own; what is pinned stays where it lies. The note tells what changed.
/// Errors: NotFound; InvalidArgument when nothing is cut from the stock, or for itself.
base::Result<Noted> withStockSwapped(const Job& job, const std::string& from, const std::string& to);

} // namespace thinline::job
