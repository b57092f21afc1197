// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Every piece by itself: too large, too small, too narrow, as large as its sheet.
#include "base/Length.h"
#include "inspect/Findings.h"
#include "sheets/Arrange.h"

#include <algorithm>
#include <cmath>

namespace thinline::inspect {
namespace {

using design::Laid;
using geometry::Box;

void inspectLarge(const Look& look, const Laid& laid, Gathering& into) {
    const auto& mats = look.formats.mats;
    const design::Stock* stock = design::findStock(look.work.stocks, look.work.layerOf(laid).stockId);
    const bool fits = mats.empty() || (stock && stock->isCutByHand) ||
                      std::any_of(mats.begin(), mats.end(), [&](const design::MatFormat& mat) {
                          return sheets::fitsTurned(laid.shape(), mat.usableWidthMm(), mat.usableHeightMm());
                      });
    if (fits)
        return;
    const auto largest = std::max_element(mats.begin(), mats.end(), [](const auto& a, const auto& b) {
        return a.usableWidthMm() * a.usableHeightMm() < b.usableWidthMm() * b.usableHeightMm();
    });
    const Box box = geometry::bounds(laid.shape());
    into.add(Severity::SpoilsCard, Kind::LargerThanEveryMat,
             "The largest takes " +
                 base::formatSize(largest->usableWidthMm(), largest->usableHeightMm(),
                                  base::LengthUnit::Millimetre) +
                 ". Divide it at Split, or make the design smaller at Size.",
             {look.called(laid) + " is " + sizeOf(box) + ", larger than every mat", laid.id(), box});
}

base::Result<std::vector<geometry::Neck>> necksOf(const Look& look, const Laid& laid) {
    const double limit = look.limits.leastNeckMm;
    if (const auto known = look.memory.necks.find(laid.piece.body); known && known->limitMm == limit)
        return known->below;
    auto found = geometry::findNecks(laid.shape(), limit, look.progress);
    if (!found && found.error().code == base::Code::Cancelled)
        return found.error();
    std::vector<geometry::Neck> necks = found ? found.take() : std::vector<geometry::Neck>{};
    look.memory.necks.keep(laid.piece.body,
                           std::make_shared<const Memory::Necks>(Memory::Necks{limit, necks}));
    return necks;
}

/// Narrow places, the narrowest piece first.
base::Status inspectNecks(const Look& look, Gathering& into) {
    std::vector<std::pair<double, Case>> all;
    for (const Laid& laid : look.work.pieces) {
        if (look.progress.isCancelled())
            return base::cancelled();
        if (look.isHidden(laid) || design::acrossMm(laid.shape()) < look.limits.leastAcrossMm)
            continue;
        const auto necks = necksOf(look, laid);
        if (!necks)
            return necks.error();
        if (necks->empty())
            continue;
        const geometry::Neck& worst = necks->front();
        const std::string more = necks->size() < 2 ? ""
                                 : necks->size() == 2
                                     ? " and another place like it"
                                     : " and " + std::to_string(necks->size() - 1) + " more places like it";
        Box place;
        place.include(worst.place);
        all.emplace_back(worst.widthMm, Case{look.called(laid) + " has a neck of " +
                                                 base::formatNumber(worst.widthMm, 2) + " mm" + more,
                                             laid.id(), place.grownBy(3)});
    }
    std::stable_sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    for (auto& [width, one] : all)
        into.add(Severity::RisksCard, Kind::NarrowNeck,
                 "Below " + inMm(look.limits.leastNeckMm) +
                     " card tears when it is lifted. Make the design larger or thicken the drawing there.",
                 std::move(one));
    return base::Done{};
}

void inspectSmall(const Look& look, Gathering& into) {
    std::vector<std::pair<double, const Laid*>> small;
    for (const Laid& laid : look.work.pieces)
        if (const double across = design::acrossMm(laid.shape());
            !look.isHidden(laid) && across < look.limits.leastAcrossMm)
            small.emplace_back(across, &laid);
    std::stable_sort(small.begin(), small.end(),
                     [](const auto& a, const auto& b) { return a.first < b.first; });
    for (const auto& [across, laid] : small)
        into.add(
            Severity::RisksCard, Kind::TooSmall,
            "Such small pieces are hard to cut and to glue. Drop them at Trace or make the design larger.",
            {look.called(*laid) + " is only " + inMm(across) + " across", laid->id(),
             geometry::bounds(laid->shape()).grownBy(4)});
}

/// A piece exactly as large as its sheet leaves no room for a skewed sheet or a blunt corner.
void inspectExact(const Look& look, const Laid& laid, Gathering& into) {
    constexpr double kRoomMm = 0.5; // what a sheet laid by hand is off by at least (from memory)
    const Box box = geometry::bounds(laid.shape());
    const double shorter = std::min(box.width(), box.height()), longer = std::max(box.width(), box.height());
    for (const design::SheetFormat& sheet : look.formats.sheets) {
        const double w = std::min(sheet.widthMm, sheet.heightMm), h = std::max(sheet.widthMm, sheet.heightMm);
        if (shorter > w || longer > h || (w - shorter > kRoomMm && h - longer > kRoomMm))
            continue;
        if (std::abs(w - shorter) > kRoomMm && shorter < w * 0.5)
            continue; // a strip as long as the sheet is cut from a longer one
        into.add(Severity::RisksCard, Kind::ExactlyTheSheet,
                 "A sheet lies never quite straight. Make the piece a little smaller, or cut it from a "
                 "larger sheet.",
                 {look.called(laid) + " is exactly as large as a sheet of " + sheet.name, laid.id(), box});
        return;
    }
}

} // namespace

base::Status inspectPieces(const Look& look, Gathering& into) {
    for (const Laid& laid : look.work.pieces)
        if (!look.isHidden(laid))
            inspectLarge(look, laid, into);
    inspectSmall(look, into);
    if (auto ok = inspectNecks(look, into); !ok)
        return ok;
    for (const Laid& laid : look.work.pieces)
        if (!look.isHidden(laid))
            inspectExact(look, laid, into);
    return base::Done{};
}

} // namespace thinline::inspect
