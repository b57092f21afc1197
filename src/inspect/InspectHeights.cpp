// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How pieces come to lie on one another.
#include "base/Length.h"
#include "inspect/Findings.h"

#include <algorithm>

namespace thinline::inspect {

base::Status inspectHeights(const Look& look, Gathering& into) {
    const auto& finished = look.state.made.finished;
    if (!finished)
        return base::Done{};
    auto found = design::unevenOf(look.work, finished->heights, look.memory.rows, look.progress);
    if (!found)
        return found.error();
    std::vector<design::Uneven> uneven = found.take();
    std::stable_sort(uneven.begin(), uneven.end(),
                     [](const design::Uneven& a, const design::Uneven& b) { return a.areaMm2 > b.areaMm2; });
    for (const design::Uneven& one : uneven) {
        const design::Laid& laid = look.work.pieces[one.piece];
        if (look.isHidden(laid))
            continue;
        const std::string gap = base::formatNumber(one.gapMm, 2) + " mm";
        into.add(Severity::Note, Kind::TwoHeights,
                 "It bends there, or rocks. Lay foam as high as the gap under the part that hangs, or lift "
                 "what lies "
                 "lower by as much.",
                 {look.called(laid) + " rests on two heights: it hangs " + gap + " over " +
                      design::pieceName(look.work, look.work.pieces[one.lower]),
                  laid.id(), geometry::bounds(laid.shape())});
    }
    return base::Done{};
}

} // namespace thinline::inspect
