// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What lies badly on its sheet, or on none.
//
// A piece that is too large for its sheet is often too large by its glue flap alone, and a flap may be any depth that holds
// glue. So for a piece with folds the flaps are cut off in thought, down to the least that holds; if it fits then, the
// deepest flap that still fits is searched by halving (to a twentieth of a millimetre, told in tenths), and the finding
// carries the step that leaves just that. Panels are never cut: they are what the box is.
#include "folds/Panels.h"
#include "folds/Steps.h"
#include "inspect/Findings.h"
#include "job/CardSteps.h"
#include "job/CutSteps.h"
#include "sheets/Faults.h"
#include "sheets/Zones.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <set>

namespace thinline::inspect {
namespace {

using design::Laid;
using geometry::Box;

/// A step that shortens a flap so that a piece fits a place; nothing when no flap is to blame.
std::optional<design::Step> shorterFlap(const Look& look, const Laid& laid, const Box& place) {
    const design::Body& body = *laid.piece.body;
    const auto folded = folds::foldedOf(body, look.progress);
    if (!folded)
        return std::nullopt;
    for (const folds::Flap& flap : folded->flaps) {
        const folds::Panel& panel = folded->panels[flap.panel];
        const auto fits = [&](double depthMm) {
            const auto shape = folds::shortened(body, panel, depthMm, look.progress);
            return shape && sheets::fitsTurned(*shape, place.width(), place.height());
        };
        double keeps = folds::kLeastFlapMm, tooDeep = flap.depthMm;
        if (tooDeep <= keeps || !fits(keeps))
            continue;
        while (tooDeep - keeps > 0.05) {
            const double between = (keeps + tooDeep) / 2;
            (fits(between) ? keeps : tooDeep) = between;
        }
        design::Step step = folds::panelStep(folds::Action::ShortenFlap, laid.piece, panel.middle);
        step.values["depth"] = std::max(folds::kLeastFlapMm, std::floor(keeps * 10) / 10);
        return step;
    }
    return std::nullopt;
}

/// The first place on the mat where pieces of a stock may lie.
Box usablePlace(const Look& look, const std::string& stockId, bool inPairs = false) {
    const auto options = job::arrangeOptions(look.state.job, look.formats);
    if (!options)
        return {};
    design::SheetFormat sheet = options->sheetFor(stockId);
    sheet.inPairs = sheet.inPairs || inPairs;
    const auto places = sheets::sheetPlaces(options->mat, sheet);
    return places && !places->empty() ? sheets::usableArea(options->mat, sheet, places->front()) : Box{};
}

/// Whether a piece would lie on two sheets that are taped together.
bool fitsOnPair(const Look& look, const Laid& laid) {
    const std::string& stock = look.work.layerOf(laid).stockId;
    const Box pair = job::checkTaped(look.state.job, stock) ? usablePlace(look, stock, true) : Box{};
    return !pair.isEmpty() && sheets::fitsTurned(laid.shape(), pair.width(), pair.height());
}

/// The ways out for what fits no sheet: larger, smaller by how much, in parts.
std::string waysOut(const Look& look, const Laid& laid, const Box& usable) {
    std::string smaller = "make the design smaller at Size";
    if (!usable.isEmpty()) {
        design::Stack alone{look.work.stocks, look.work.layers, {laid}};
        const double scale = sheets::largestThatFits(alone, usable.width(), usable.height()).scale;
        if (scale > 0 && scale < 1)
            smaller +=
                " (" + base::formatNumber(std::floor(1000 * scale) / 10, 1) + " % of its size would do)";
    }
    return "Choose a larger sheet or mat at Sheets, " +
           std::string(fitsOnPair(look, laid) ? "tape two sheets together there, " : "") + smaller + ", or divide the piece at Split.";
}

void inspectUnplaced(const Look& look, const std::string& sheetName, Gathering& into) {
    std::set<design::PieceId> told;
    for (const design::CopyOf& copy : look.state.made.sheets->unplaced) {
        const Laid* laid = look.work.find(copy.piece);
        if (!laid || !told.insert(copy.piece).second)
            continue;
        const auto& mats = look.formats.mats;
        const bool fitsSomeMat = std::any_of(mats.begin(), mats.end(), [&](const design::MatFormat& mat) {
            return sheets::fitsTurned(laid->shape(), mat.usableWidthMm(), mat.usableHeightMm());
        });
        if (!fitsSomeMat)
            continue; // told as larger than every mat
        const Box box = geometry::bounds(laid->shape());
        const Box usable = usablePlace(look, look.work.layerOf(*laid).stockId);
        const auto shorter = shorterFlap(look, *laid, usable);
        const bool isPrinted = look.state.job.print.hasMarks &&
                               look.state.job.print.stocks.contains(look.work.layerOf(*laid).stockId);
        into.add(Severity::SpoilsCard, Kind::LargerThanSheet, waysOut(look, *laid, usable),
                 {look.called(*laid) + " is " + sizeOf(box) + " and fits no " + sheetName + " sheet" +
                      (isPrinted ? " inside the marks, which leave " + sizeOf(usable) : "") +
                      (shorter ? "; without its deep flap it would" : ""),
                  copy.piece, box, shorter},
                 shorter ? "Shorten the flap" : "");
    }
}

/// What the machine cannot do, and stocks on one mat that it would have to cut unlike one another: a photo lays what lies on
/// the mat, whatever it is.
void inspectMachine(const Look& look, Gathering& into) {
    for (const design::PlanFault& fault : job::cutFaults(look.state))
        into.add(fault.kind == design::PlanFault::Kind::OneHolder ? Severity::Note : Severity::RisksCard,
                 fault.kind == design::PlanFault::Kind::Unlike ? Kind::UnlikeOnMat : Kind::MachineCannot,
                 fault.remedy, {fault.what, {}, {}});
}

/// What lies badly as it is laid, outline by outline.
base::Status inspectLaid(const Look& look, Gathering& into) {
    const auto laidBy = job::arrangeOptions(look.state.job, look.formats);
    if (!laidBy)
        return base::Done{}; // the arrangement says so
    auto faults = sheets::faultsOf(look.work, *look.state.made.sheets, *laidBy, look.progress);
    if (!faults)
        return faults.error();
    for (const sheets::Fault& fault : *faults) {
        const Laid* laid = look.work.find(fault.what.piece);
        into.add(
            Severity::SpoilsCard, Kind::OverlapsOnSheet,
            fault.isPinned ? "Drag it to a free place, or let it go with a double click."
                           : "Lay the pieces anew at Pack.",
            {capitalised(fault.message), fault.what.piece, laid ? geometry::bounds(laid->shape()) : Box{}});
    }
    return base::Done{};
}

} // namespace

base::Status inspectSheets(const Look& look, const std::string& sheetName, Gathering& into) {
    if (!look.state.made.sheets)
        return base::Done{};
    inspectUnplaced(look, sheetName, into);
    inspectMachine(look, into);
    return inspectLaid(look, into);
}

} // namespace thinline::inspect
