// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What lies badly on its sheet, or on none.
#include "inspect/Findings.h"
#include "sheets/Faults.h"

#include <algorithm>
#include <set>

namespace thinline::inspect {
namespace {

using design::Laid;
using geometry::Box;

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
        into.add(Severity::SpoilsCard, Kind::LargerThanSheet,
                 "Choose a larger sheet or mat at Sheets, or make the design smaller at Size.",
                 {look.called(*laid) + " is " + sizeOf(box) + " and fits no " + sheetName + " sheet",
                  copy.piece, box});
    }
}

/// What lies badly as it is laid, outline by outline.
base::Status inspectLaid(const Look& look, Gathering& into) {
    const auto laidBy = job::arrangeOptions(look.state.job.plan, look.formats);
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
    return inspectLaid(look, into);
}

} // namespace thinline::inspect
