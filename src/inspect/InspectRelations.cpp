// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What belongs together: one scale within a set, plugs in their openings, bases under their lids.
#include "base/Length.h"
#include "inspect/Findings.h"
#include "job/Relations.h"

#include <cmath>
#include <map>
#include <set>

namespace thinline::inspect {
namespace {

using base::formatNumber;
using design::Laid;
using geometry::Box;

bool differs(const design::Piece& piece, double x, double y) {
    constexpr double kSame = 1e-6;
    return std::abs(piece.ownScaleX - x) > kSame * x || std::abs(piece.ownScaleY - y) > kSame * y;
}

void tell(const Laid& laid, const std::string& from, const Look& look, Gathering& into) {
    if (laid.isFree)
        return;
    into.add(
        Severity::SpoilsCard, Kind::ScaledAlone,
        "What fits together must keep one scale. Size the others along, undo it, or let this piece be free "
        "at Size.",
        {look.called(laid) + " was scaled apart from " + from, laid.id(), geometry::bounds(laid.shape())});
}

/// The pieces of a set that are there; parts stand in for what was parted.
std::vector<const Laid*> membersOf(const design::PieceSet& set, const design::Stack& work) {
    std::vector<const Laid*> out;
    for (const design::PieceId id : set.pieces)
        for (const Laid& laid : work.pieces)
            if (laid.id() == id || laid.id().isPartOf(id))
                out.push_back(&laid);
    return out;
}

/// The scale most members have; of two pieces the one at the design's scale is right.
std::pair<double, double> usualScale(const std::vector<const Laid*>& members) {
    std::map<std::pair<double, double>, int> counts;
    for (const Laid* laid : members)
        ++counts[{laid->piece.ownScaleX, laid->piece.ownScaleY}];
    std::pair<double, double> usual{1, 1};
    int most = counts.contains(usual) ? counts[usual] : 0;
    for (const auto& [scale, count] : counts)
        if (count > most) {
            most = count;
            usual = scale;
        }
    return usual;
}

} // namespace

/// Pieces sized apart from what they belong to. Within a set the scale most of its pieces have counts, elsewhere the
/// design's.
void inspectScales(const Look& look, Gathering& into) {
    std::set<design::PieceId> inSets;
    for (const design::PieceSet& set : look.state.job.sets) {
        const std::vector<const Laid*> members = membersOf(set, look.work);
        const auto usual = usualScale(members);
        for (const Laid* laid : members) {
            inSets.insert(laid->id());
            if (differs(laid->piece, usual.first, usual.second))
                tell(*laid, set.name, look, into);
        }
    }
    for (const Laid& laid : look.work.pieces)
        if (!inSets.contains(laid.id()) && differs(laid.piece, 1, 1))
            tell(laid, "the rest of the design", look, into);
}

base::Status inspectFits(const Look& look, Gathering& into) {
    for (const design::Fit& fit : look.state.job.fits) {
        const auto stands = job::fitStateOf(look.state, fit, look.progress);
        if (!stands) {
            if (stands.error().code == base::Code::Cancelled)
                return stands.error();
            continue;
        }
        const Laid* inner = look.work.find(fit.inner);
        if (!inner || !look.work.find(fit.outer))
            continue;
        const std::string what = look.called(*inner), outer = design::pieceName(look.work, fit.outer);
        const std::string where =
            fit.kind == design::FitKind::LidOver ? "under " + outer : "into its opening in " + outer;
        const Box box = geometry::bounds(inner->shape());
        const std::string right =
            base::formatSize(box.width() * stands->rightScale, box.height() * stands->rightScale,
                             base::LengthUnit::Millimetre);
        if (!stands->isThere)
            into.add(Severity::SpoilsCard, Kind::DoesNotFit, "State the fit anew at Size, or take it out.",
                     {what + " has lost its opening in " + outer, fit.inner, box});
        else if (stands->jams())
            into.add(
                Severity::SpoilsCard, Kind::DoesNotFit,
                "With " + formatNumber(fit.clearanceMm, 2) + " mm of clearance the right size is " + right +
                    ". Make it fit at Size.",
                {what + " does not go " + where + ": " + formatNumber(-stands->playMm, 2) + " mm too large",
                 fit.inner, box});
        else if (stands->isLoose())
            into.add(Severity::Note, Kind::DoesNotFit,
                     "The right size is " + right + ". Make it fit at Size.",
                     {what + " is loose " + where + ": " + formatNumber(stands->playMm, 2) + " mm of play",
                      fit.inner, box});
    }
    return base::Done{};
}

} // namespace thinline::inspect
