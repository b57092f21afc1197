// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Works from measures: the card they lie on, and whether they still close when they are folded as they are now, with all that
// was done to their pieces since.
#include "base/Length.h"
#include "inspect/Findings.h"
#include "job/Constructions.h"

#include <algorithm>

namespace thinline::inspect {
namespace {

using base::formatNumber;

/// The first of its pieces that is there.
const design::Laid* firstOf(const Look& look, const job::Source& source) {
    for (const design::Laid& laid : look.work.pieces)
        if (laid.id().source() == source.id)
            return &laid;
    return nullptr;
}

void tellCard(const Look& look, const job::Source& source, const construct::Built& built,
              const design::Laid& first, Gathering& into) {
    const job::CardFit fit = job::cardFitOf(look.state.job, source, built);
    if (!fit.isOther())
        return;
    std::string message = capitalised(source.name()) + " was made for card of " +
                          formatNumber(fit.madeForMm, 2) + " mm and lies on " +
                          formatNumber(fit.liesOnMm, 2) + " mm";
    constexpr double kLooseMm = 0.6;
    const bool jams = !fit.what.empty() && fit.playMm < 0,
               isLoose = !fit.what.empty() && fit.playMm > kLooseMm;
    if (jams)
        message += ": " + fit.what + " jams by " + formatNumber(-fit.playMm, 2) + " mm";
    else if (isLoose)
        message += ": " + fit.what + " is " + formatNumber(fit.playMm, 2) + " mm too wide";
    into.add(jams ? Severity::SpoilsCard : Severity::RisksCard, Kind::OtherCard,
             "Make it anew for this card at Source, or lay it on the card it was made for.",
             {message, first.id(), geometry::bounds(first.shape())});
}

base::Status tellFolded(const Look& look, const job::Source& source, const design::Laid& first,
                        Gathering& into) {
    const auto model = job::foldedOf(look.state, first.id(), {}, look.progress);
    if (!model)
        return model.error().code == base::Code::Cancelled ? base::Status(model.error()) : base::Done{};
    if (model->form.isEmpty())
        return base::Done{};
    const folding::Posed done = folding::posed(*model, 1);
    const auto placeOf = [&](const std::string& key) {
        const design::Laid* laid = look.work.find(design::PieceId::found(source.id, key));
        return laid ? geometry::bounds(laid->shape()) : geometry::Box{};
    };
    for (const folding::Closing& one : folding::closingsOf(*model, done))
        if (one.gapMm > folding::kMostGapMm + 1e-6)
            into.add(Severity::SpoilsCard, Kind::JointOpen,
                     "Undo what moved or changed one of its pieces, or change its measures at Source.",
                     {"Folded, " + one.name + " of " + source.name() + " is open by " + inMm(one.gapMm),
                      design::PieceId::found(source.id, one.a), placeOf(one.a)});
    const auto clashes = folding::clashesOf(*model, done, look.progress);
    if (!clashes)
        return clashes.error();
    for (const folding::Clash& clash : *clashes)
        into.add(Severity::RisksCard, Kind::PanelsClash, "Look at it folded, and change what is in the way.",
                 {"Folded, " + clash.a +
                      (clash.a == clash.b ? " passes through itself" : " passes through " + clash.b),
                  first.id(), geometry::bounds(first.shape())});
    return base::Done{};
}

} // namespace

base::Status inspectConstructions(const Look& look, Gathering& into) {
    for (const auto& source : look.state.job.sources) {
        const auto* construction = job::asA<job::Construction>(source.get());
        const design::Laid* first = construction ? firstOf(look, *source) : nullptr;
        if (!first || look.isHidden(*first))
            continue;
        const auto built = construct::built(construction->given, look.progress);
        if (!built) {
            if (built.error().code == base::Code::Cancelled)
                return built.error();
            continue;
        }
        tellCard(look, *source, *built, *first, into);
        if (built->form.isEmpty())
            continue;
        for (const std::string& key : built->form.order)
            if (const design::Laid* laid = look.work.find(design::PieceId::found(source->id, key))) {
                if (auto ok = tellFolded(look, *source, *laid, into); !ok)
                    return ok;
                break;
            }
    }
    return base::Done{};
}

} // namespace thinline::inspect
