// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Pins: what a hand laid.
//
// A pin is kept for a piece and a copy, on the n-th sheet of its stock, by a pose of the piece held at its middle: so it
// stays where it was put when the outline is edited, when other stocks gain or lose sheets, and when the piece is sized.
// It is forgotten only when mat or sheet become others, for it was measured on those. A piece dropped on a mat goes to
// the nearest sheet of its own stock there; dropped where there is none it stays where it was, and a sentence says so.
// What lies in a cluster is pinned by one of its pieces: a new pin takes the place of any other of the same copy.
#include "job/SheetSteps.h"

#include "design/Cluster.h"
#include "job/Catalogue.h"
#include "sheets/Cards.h"

#include <algorithm>
#include <optional>

namespace thinline::job {

using base::Code;
using base::Error;

Job withFoldsAs(const Job& job, design::FoldsAs as) {
    Job out = job;
    out.plan.foldsAs = as;
    return out;
}

Job withPlan(const Job& job, const SheetPlan& plan) {
    Job out = job;
    const bool movesSheets = plan.matId != job.plan.matId || plan.sheetId != job.plan.sheetId ||
                             !(plan.ownSheet == job.plan.ownSheet);
    out.plan = plan;
    if (movesSheets)
        out.plan.pins.clear();
    return out;
}

/// The way from a scrap that is still to be cut to the sheet its pieces are laid on by: as of what a hand laid there before;
/// else where they begin.
static base::Result<geometry::Point> fromScrapToSheet(const State& state, const design::PlacedSheet& scrap,
                                                      int sheetOfStock, const design::CopyOf& but) {
    for (const design::PlacedPiece& placed : scrap.pieces)
        for (const sheets::Pin& pin : state.job.plan.pins)
            if (pin.what == placed.what && pin.what != but && pin.scrapId == sheets::kScrapToCut)
                return pin.pose.at - (placed.pose.at - geometry::Point{scrap.xMm, scrap.yMm});
    const auto options = arrangeOptions(state.job, shippedCatalogue().formats);
    if (!options)
        return options.error();
    const auto cards = sheets::cardsOf(scrap.stockId, *options);
    if (!cards)
        return cards.error();
    const auto& sheet = cards->sheets[static_cast<size_t>(sheetOfStock) % cards->sheets.size()];
    return sheet.usable.least - geometry::Point{scrap.marginMm, scrap.marginMm};
}

base::Result<Job> pinnedAt(const State& state, const design::CopyOf& what, const design::Pose& pose,
                           size_t load) {
    const design::Stack* work = state.made.work();
    const design::Laid* laid = work ? work->find(what.piece) : nullptr;
    if (!state.made.sheets || load >= state.made.sheets->loads.size() || !laid)
        return Error{Code::NotFound, "That load is not there any more."};
    const design::Load& target = state.made.sheets->loads[load];
    const std::string& stockId = work->layerOf(*laid).stockId;
    std::optional<size_t> nearest;
    double least = 0;
    for (size_t i = 0; i < target.sheets.size(); ++i) {
        const design::PlacedSheet& sheet = target.sheets[i];
        if (sheet.stockId != stockId)
            continue;
        const double away =
            geometry::distance(pose.at, {std::clamp(pose.at.x, sheet.xMm, sheet.xMm + sheet.widthMm),
                                         std::clamp(pose.at.y, sheet.yMm, sheet.yMm + sheet.heightMm)});
        if (!nearest || away < least) {
            nearest = i;
            least = away;
        }
    }
    if (!nearest)
        return Error{Code::InvalidArgument, "This load holds no " + design::stockName(work->stocks, stockId) +
                                                "; drop the piece on a sheet of its own stock."};
    const design::PlacedSheet& sheet = target.sheets[*nearest];
    design::Pose onSheet = pose;
    onSheet.at = pose.at - geometry::Point{sheet.xMm, sheet.yMm};
    if (sheet.isTurned)
        onSheet = design::turnedBack(onSheet, sheet.widthMm);
    const int sheetOfStock = sheets::sheetOfStock(*state.made.sheets, load, *nearest);
    int scrapId = sheet.scrapId;
    if (sheet.isScrap) { // as it lay on the sheet that is cut from
        const auto by = fromScrapToSheet(state, sheet, sheetOfStock, what);
        if (!by)
            return by.error();
        onSheet.at = onSheet.at + *by;
        scrapId = sheets::kScrapToCut;
    }
    Job out = unpinned(state, what);
    out.plan.pins.push_back({what, sheetOfStock, onSheet, scrapId});
    return out;
}

Job unpinned(const State& state, const design::CopyOf& what) {
    Job out = state.job;
    const design::Stack* work = state.made.work();
    const design::Cluster* cluster = work ? design::clusterOf(*work, what.piece) : nullptr;
    std::erase_if(out.plan.pins, [&](const sheets::Pin& pin) {
        return pin.what.copy == what.copy &&
               (pin.what.piece == what.piece ||
                (cluster && std::find(cluster->pieces.begin(), cluster->pieces.end(), pin.what.piece) !=
                                cluster->pieces.end()));
    });
    return out;
}

base::Result<State> laidCloser(const State& state, const sheets::CloseOptions& how,
                               const std::function<void(const design::Arrangement&)>& publish,
                               const base::Progress& progress) {
    auto laid = make(state.job, Stage::Sheets, state.made, progress);
    if (!laid)
        return laid;
    if (!laid->made.sheets)
        return base::Error{base::Code::InvalidArgument, laid->made.sheetsProblem.empty()
                                                            ? "There are no pieces to lay."
                                                            : laid->made.sheetsProblem};
    const auto options = arrangeOptions(laid->job, shippedCatalogue().formats);
    if (!options)
        return options.error();
    auto closer =
        sheets::arrangeClose(*laid->made.work(), *options, how, *laid->made.sheets, publish, progress);
    if (!closer)
        return closer.error();
    return withSheets(laid.take(), closer.take());
}

base::Result<std::vector<sheets::Alternative>> otherLayouts(const State& state,
                                                            const base::Progress& progress) {
    constexpr long long kSteps = 3000;
    if (!state.made.sheets || !state.made.work())
        return Error{Code::InvalidArgument, "There are no sheets yet."};
    const auto options = arrangeOptions(state.job, shippedCatalogue().formats);
    if (!options)
        return options.error();
    return sheets::alternativesTo(*state.made.work(), *options, *state.made.sheets, kSteps, progress);
}

Job withWay(const Job& job, sheets::Alternative::Kind way) {
    sheets::ArrangeOptions options;
    options.isMixed = job.plan.isMixed;
    options.intoOpenings = job.plan.intoOpenings;
    options.mayTurn = job.plan.mayTurn;
    options = sheets::optionsFor(std::move(options), way);
    Job out = job;
    out.plan.isMixed = options.isMixed;
    out.plan.intoOpenings = options.intoOpenings;
    out.plan.mayTurn = options.mayTurn;
    return out;
}

State withSheets(State state, design::Arrangement sheets) {
    state.made.sheets = std::make_shared<const design::Arrangement>(std::move(sheets));
    state.made.sheetsProblem.clear();
    return state;
}

} // namespace thinline::job
