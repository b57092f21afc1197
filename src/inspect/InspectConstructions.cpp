// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Works from measures: the card they lie on, and whether they still close when they are folded as they are now, with all that
// was done to their pieces since.
#include "base/Length.h"
#include "folds/Panels.h"
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

/// The bodies a folded work is made of, and what lies under each: while they are the same it closes as it did.
std::vector<std::pair<std::weak_ptr<const design::Body>, double>> madeOf(const Look& look,
                                                                         design::SourceId source) {
    std::vector<std::pair<std::weak_ptr<const design::Body>, double>> out;
    for (const design::Laid& laid : look.work.pieces)
        if (laid.id().source() == source)
            out.emplace_back(laid.piece.body, design::thicknessOf(look.work, laid));
    return out;
}

} // namespace

struct FoldedWork {
    construct::Given given;
    std::vector<std::pair<std::weak_ptr<const design::Body>, double>> of;
    std::vector<folding::Closing> closings;
    std::vector<folding::Clash> clashes;
    std::vector<folding::Inside> inside;

    bool isOf(const construct::Given& now,
              const std::vector<std::pair<std::weak_ptr<const design::Body>, double>>& bodies) const {
        return given == now && std::equal(of.begin(), of.end(), bodies.begin(), bodies.end(),
                                          [](const auto& a, const auto& b) {
                                              return a.first.lock() == b.first.lock() && a.second == b.second;
                                          });
    }
};

namespace {

/// Folds a work up and looks whether it closes; what is the same as the last time is not folded again.
base::Result<std::shared_ptr<const FoldedWork>> foldedUp(const Look& look, const job::Source& source,
                                                         const design::Laid& first) {
    const construct::Given& given = std::get<job::Construction>(source.what).given;
    auto of = madeOf(look, source.id);
    if (auto known = look.memory.folded.find(first.piece.body); known && known->isOf(given, of))
        return known;
    const auto model = job::foldedOf(look.state, first.id(), {}, look.progress);
    if (!model)
        return model.error();
    const folding::Posed done = folding::posed(*model, 1);
    auto clashes = folding::clashesOf(*model, done, look.progress);
    if (!clashes)
        return clashes.error();
    auto out =
        std::make_shared<const FoldedWork>(FoldedWork{given, std::move(of), folding::closingsOf(*model, done),
                                                      clashes.take(), folding::printsInside(*model, done)});
    look.memory.folded.keep(first.piece.body, out);
    return std::shared_ptr<const FoldedWork>(out);
}

base::Status tellFolded(const Look& look, const job::Source& source, const design::Laid& first,
                        Gathering& into) {
    const auto work = foldedUp(look, source, first);
    if (!work)
        return work.error().code == base::Code::Cancelled ? base::Status(work.error()) : base::Done{};
    for (const folding::Closing& one : (*work)->closings) {
        if (one.gapMm <= folding::kMostGapMm + 1e-6)
            continue;
        const auto piece = design::PieceId::found(source.id, folding::pieceKey(one.a));
        const design::Laid* laid = look.work.find(piece);
        into.add(Severity::SpoilsCard, Kind::JointOpen,
                 "Undo what moved or changed one of its pieces, or change its measures at Source.",
                 {"Folded, " + one.name + " of " + source.name() + " is open by " + inMm(one.gapMm), piece,
                  laid ? geometry::bounds(laid->shape()) : geometry::Box{}});
    }
    for (const folding::Clash& clash : (*work)->clashes)
        into.add(Severity::RisksCard, Kind::PanelsClash, "Look at it folded, and change what is in the way.",
                 {"Folded, " + clash.a +
                      (clash.a == clash.b ? " passes through itself" : " passes through " + clash.b),
                  first.id(), geometry::bounds(first.shape())});
    for (const folding::Inside& print : (*work)->inside)
        into.add(
            Severity::Note, Kind::PrintInside,
            "Look at it folded; print it on the other side if it is to be seen.",
            {capitalised(print.sentence(look.state.job.unit)), first.id(), geometry::bounds(first.shape())});
    return base::Done{};
}

/// Flaps of a piece that is no part of a construction: whether each lies behind its edge once all is folded as it is said.
base::Status tellFlaps(const Look& look, const design::Laid& laid, Gathering& into) {
    const auto folded = folds::foldedOf(*laid.piece.body, look.progress);
    if (!folded)
        return folded.error().code == base::Code::Cancelled ? base::Status(folded.error()) : base::Done{};
    for (const folds::Flap& flap : folded->flaps) {
        const folds::Panel& panel = folded->panels[flap.panel];
        const auto glued = folds::glueOn(*laid.piece.body, panel);
        if (glued && laid.piece.body->zones[*glued].meets == laid.id() && flap.meets.size() > 1 &&
            !folds::takerOf(*laid.piece.body, folded->panels, flap))
            into.add(Severity::Note, Kind::FlapUnsaid, "Say at Folds behind which edge it is glued; then it is checked folded.",
                     {look.called(laid) + ": " + panel.name + " could be glued behind " + std::to_string(flap.meets.size()) +
                          " edges",
                      laid.id(), geometry::bounds(panel.area)});
    }
    auto of = std::vector{std::pair(std::weak_ptr<const design::Body>(laid.piece.body), design::thicknessOf(look.work, laid))};
    auto known = look.memory.folded.find(laid.piece.body);
    if (!known || !known->isOf({}, of)) {
        const auto model = job::foldedOf(look.state, laid.id(), {}, look.progress);
        if (!model)
            return model.error().code == base::Code::Cancelled ? base::Status(model.error()) : base::Done{};
        known = std::make_shared<const FoldedWork>(
            FoldedWork{{}, std::move(of), folding::closingsOf(*model, folding::posed(*model, 1)), {}, {}});
        look.memory.folded.keep(laid.piece.body, known);
    }
    for (const folding::Closing& one : known->closings)
        if (one.gapMm > folding::kMostGapMm + 1e-6)
            into.add(Severity::RisksCard, Kind::JointOpen,
                     "Set how far its folds turn, or say at Folds behind which other edge it is glued.",
                     {look.called(laid) + ", folded: " + one.name + " is open by " + inMm(one.gapMm), laid.id(),
                      geometry::bounds(laid.shape())});
    return base::Done{};
}

/// Whether a piece is glued to itself: a flap.
bool hasGluedFlap(const design::Laid& laid) {
    const auto& zones = laid.piece.body->zones;
    return std::any_of(zones.begin(), zones.end(), [&](const design::Zone& zone) {
        return zone.kind == design::Zone::Kind::Glue && zone.meets == laid.id();
    });
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
            if (const design::Laid* laid =
                    look.work.find(design::PieceId::found(source->id, folding::pieceKey(key)))) {
                if (auto ok = tellFolded(look, *source, *laid, into); !ok)
                    return ok;
                break;
            }
    }
    for (const design::Laid& laid : look.work.pieces)
        if (hasGluedFlap(laid) && !look.isHidden(laid))
            if (auto ok = tellFlaps(look, laid, into); !ok)
                return ok;
    return base::Done{};
}

} // namespace thinline::inspect
