// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How pieces come to lie on one another.
#include "base/Length.h"
#include "inspect/Findings.h"

#include <algorithm>

namespace thinline::inspect {

using geometry::Box;

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

void inspectFrame(const Look& look, Gathering& into) {
    const auto& frame = look.state.job.frame;
    if (!frame || !look.state.made.finished)
        return;
    constexpr double kMet = 1e-3;
    const Box box = look.state.made.finished->measures.box;
    const double tall = look.state.made.finished->heights.tallMm();
    if (frame->depthMm > 0 && tall > frame->depthMm + kMet)
        into.add(
            Severity::RisksCard, Kind::LargerThanFrame,
            "Lower lifts in the side view, leave a layer out, or fit it to the frame again at Size.",
            {"The work is " + inMm(tall) + " high and its frame " + inMm(frame->depthMm) + " deep", {}, {}});
    if (box.width() > frame->widthMm + kMet || box.height() > frame->heightMm + kMet)
        into.add(Severity::RisksCard, Kind::LargerThanFrame,
                 "Fit it to the frame again at Size, or forget the frame there.",
                 {"The work is " + sizeOf(box) + " and its frame " +
                      base::formatSize(frame->widthMm, frame->heightMm, base::LengthUnit::Millimetre) +
                      " inside",
                  {},
                  box});
}

} // namespace thinline::inspect
