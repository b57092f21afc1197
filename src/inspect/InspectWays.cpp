// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What goes through a piece, and the foam under it.
#include "folds/Foam.h"
#include "geometry/Boolean.h"
#include "geometry/Lines.h"
#include "geometry/Measures.h"
#include "inspect/Findings.h"

namespace thinline::inspect {
namespace {

using design::Laid;

constexpr double kOfItMm = 0.1; // from a slit's middle to the end of its way
constexpr const char* kFirstThrough = "Put it through first, then glue; and keep glue off the way.";

/// Whether two areas share more than a sliver.
bool isOverlap(const geometry::Shape& a, const geometry::Shape& b) {
    constexpr double kSliverMm2 = 1;
    if (!geometry::bounds(a).meets(geometry::bounds(b)))
        return false;
    const auto common = geometry::intersect({a}, {b});
    double area = 0;
    if (common)
        for (const geometry::Shape& one : *common)
            area += geometry::area(one);
    return area > kSliverMm2;
}

/// Ways: whether what goes through gets through, and whether they are open when it does.
void inspectWaysOf(const Look& look, const Laid& laid, Gathering& into) {
    const auto place = static_cast<size_t>(&laid - look.work.pieces.data());
    for (const design::Zone& way : laid.piece.body->zones) {
        if (way.kind != design::Zone::Kind::Way)
            continue;
        const std::string what = "a " + way.takes + " of " + inMm(way.takesMm);
        for (const design::PieceLine& line : laid.piece.body->lines) {
            const double length = geometry::contourLength(line.path);
            const bool isOfIt = std::holds_alternative<design::Slit>(line.does) &&
                                geometry::nearestOnEdge(way.area, geometry::middleOf(line.path), kOfItMm);
            if (isOfIt && length < way.takesMm - 0.01)
                into.add(Severity::RisksCard, Kind::SlitTooNarrow,
                         "Make the slit a little longer than what goes through is wide.",
                         {"A slit of " + design::pieceName(look.work, laid) + " is " + inMm(length) +
                              " long and takes " + what,
                          laid.id(), geometry::bounds(line.path).grownBy(6)});
        }
        for (const design::Zone& glue : laid.piece.body->zones)
            if (glue.kind == design::Zone::Kind::Glue && glue.side == way.side &&
                isOverlap(glue.area, way.area))
                into.add(Severity::RisksCard, Kind::WayClosed, kFirstThrough,
                         {"Glue on " + design::pieceName(look.work, laid) + " closes the way of " + what,
                          laid.id(), geometry::bounds(way.area)});
        for (size_t i = 0; i < look.work.pieces.size(); ++i) {
            const Laid& other = look.work.pieces[i];
            const bool isAbove = i > place;
            // In front of a piece what lies flat on it closes the way; behind it what it lies flat on.
            const bool isOnIt = look.work.layerOf(other).at == look.work.layerOf(laid).at && i != place &&
                                isAbove == (way.side == design::Side::Front) &&
                                (isAbove ? other : laid).liftMm < folds::kLeastFoamMm;
            if (isOnIt && isOverlap(other.shape(), way.area))
                into.add(Severity::Note, Kind::WayClosed, kFirstThrough,
                         {design::pieceName(look.work, other) + " closes the way of " + what + " on " +
                              design::pieceName(look.work, laid),
                          laid.id(), geometry::bounds(way.area)});
        }
        into.add(Severity::Note, Kind::SmallChildren,
                 "Keep it from small children, and loops too short for a head.",
                 {capitalised(what) + " runs through " + design::pieceName(look.work, laid), laid.id(),
                  geometry::bounds(way.area)});
    }
}

} // namespace

void inspectWays(const Look& look, Gathering& into) {
    for (const Laid& laid : look.work.pieces)
        if (!look.isHidden(laid))
            inspectWaysOf(look, laid, into);
}

void inspectMarksAndFoam(const Look& look, Gathering& into) {
    const auto& finished = look.state.made.finished;
    if (!finished)
        return;
    for (const design::PieceId id : finished->unmarked)
        if (const Laid* laid = look.work.find(id); laid && !look.isHidden(*laid))
            into.add(Severity::Note, Kind::MarkOnBack,
                     "Sheets are worked on from their front. Turn the piece over, or measure where the upper "
                     "ones go.",
                     {look.called(*laid) + " shows its back: what goes on it is not marked", laid->id(),
                      geometry::bounds(laid->shape())});
    for (const job::FoamTold& one : finished->foam) {
        const Laid* laid = look.work.find(one.piece);
        if (!laid || look.isHidden(*laid) || (one.spots > 0 && one.armsWithout == 0))
            continue;
        const std::string arms =
            one.armsWithout == 1 ? "a long arm" : std::to_string(one.armsWithout) + " long arms";
        into.add(Severity::Note, Kind::NoFoamRoom, "Cut foam narrower by hand, or lift it by strips of card.",
                 {one.spots == 0 ? look.called(*laid) + " is lifted and has no room for foam"
                                 : look.called(*laid) + " has " + arms + " too narrow for foam",
                  laid->id(), geometry::bounds(laid->shape())});
    }
}

} // namespace thinline::inspect
