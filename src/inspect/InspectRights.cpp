// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What may be done with the sources of a work that is given on or sold.
#include "inspect/Findings.h"
#include "job/Source.h"

namespace thinline::inspect {

void inspectRights(const Look& look, Gathering& into) {
    if (look.state.job.goesTo == job::GoesTo::Myself)
        return;
    const bool isSold = look.state.job.goesTo == job::GoesTo::Buyers;
    const std::string done = isSold ? "to be sold" : "for others";
    for (const auto& source : look.state.job.sources) {
        const bool isBrought = std::holds_alternative<job::Drawing>(source->what) ||
                               std::holds_alternative<job::Picture>(source->what);
        if (!isBrought || source->origin.licence == job::Licence::Own ||
            source->origin.licence == job::Licence::MaySell)
            continue;
        const bool isOwnUse = source->origin.licence == job::Licence::FreeForOwnUse;
        into.add(Severity::Note, Kind::MayNotBeGiven,
                 "Ask its owner, note at Source what was agreed, or take it out.",
                 {source->name() +
                      (isOwnUse ? " is free for own use only, and this work is "
                                : ": nobody said what may be done with it, and this work is ") +
                      done,
                  {},
                  {}});
    }
}

} // namespace thinline::inspect
