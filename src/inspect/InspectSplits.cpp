// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What was divided: where seams go through narrow places or lie on those of another layer, and parts that are crumbs. The
// search avoids all of it; hands, and changes of the work after it was divided, may not.
#include "geometry/Lines.h"
#include "geometry/Measures.h"
#include "inspect/Findings.h"
#include "job/SplitSteps.h"

#include <algorithm>
#include <cmath>

namespace thinline::inspect {
namespace {

using geometry::Line;
using geometry::Point;

/// How near two lines come where they run alike, within 30 degrees, for longer than a moment; infinite where they do not.
double nearestAlong(const Line& a, const Line& b, double withinMm) {
    constexpr double kStepMm = 2, kLeastMm = 6;
    const double length = geometry::contourLength(a);
    double out = 1e9, along = 0;
    if (!geometry::hullBox(a).grownBy(withinMm).meets(geometry::hullBox(b)))
        return out;
    for (double at = 0; at + kStepMm <= length; at += kStepMm) {
        const Line piece = geometry::stretchOfLine(a, at, at + kStepMm);
        const auto near = geometry::nearestOnEdge({b, {}}, geometry::middleOf(piece), withinMm);
        if (!near)
            continue;
        const Point before = near->segment == 0 ? b.start : b.segments[near->segment - 1].end;
        const Point way = geometry::direction(geometry::endOf(piece) - piece.start),
                    other = geometry::direction(b.segments[near->segment].end - before);
        if (std::abs(geometry::cross(way, other)) > 0.5)
            continue;
        along += kStepMm;
        out = std::min(out, near->distance);
    }
    return along >= kLeastMm ? out : 1e9;
}

} // namespace

void inspectSplits(const Look& look, Gathering& into) {
    const split::Options usual;
    std::vector<job::LaidSeam> seams = job::seamsIn(look.state.made);
    std::erase_if(seams, [&](const job::LaidSeam& seam) { return !look.work.find(seam.part); });
    for (const job::LaidSeam& seam : seams) {
        const design::Laid& part = *look.work.find(seam.part);
        const double length = geometry::contourLength(seam.path);
        const bool isFromEdgeToEdge =
            std::none_of(seams.begin(), seams.end(), [&](const job::LaidSeam& other) {
                return &other != &seam && other.whole == seam.whole &&
                       (geometry::distanceTo(other.path, seam.path.start) < 0.05 ||
                        geometry::distanceTo(other.path, geometry::endOf(seam.path)) < 0.05);
            });
        if (isFromEdgeToEdge && length < usual.thinMm)
            into.add(Severity::RisksCard, Kind::SeamThroughNeck,
                     "Open it at Split and drag the seam to a wider place.",
                     {"A seam beside " + design::pieceName(look.work, part) + " goes through a place only " +
                          inMm(length) + " wide",
                      seam.part, geometry::hullBox(seam.path).grownBy(6)});
        for (const job::LaidSeam& other : seams) {
            if (other.whole == seam.whole || look.work.find(other.part)->layer == part.layer ||
                !(seam.whole < other.whole))
                continue;
            const double near = nearestAlong(seam.path, other.path, usual.staggerMm);
            if (near < usual.staggerMm)
                into.add(Severity::RisksCard, Kind::SeamsOnOneAnother,
                         "Open one of them at Split and drag its seam away: layers that are joined in "
                         "different places stiffen one another.",
                         {"A seam beside " + design::pieceName(look.work, part) +
                              " lies along one of another layer, " + inMm(near) + " away",
                          seam.part, geometry::hullBox(seam.path).grownBy(6)});
        }
    }
    const std::set<design::StepId> dividing = job::dividingSteps(look.state.made);
    for (const design::Laid& laid : look.work.pieces)
        if (dividing.contains(laid.id().madeBy()) && geometry::area(laid.shape()) < usual.leastPartMm2)
            into.add(Severity::RisksCard, Kind::PartTooSmall,
                     "Open its step at Split and lay the seam elsewhere.",
                     {capitalised(design::pieceName(look.work, laid)) + " is " +
                          sizeOf(geometry::bounds(laid.shape())) + ", too small to be handled",
                      laid.id(), geometry::bounds(laid.shape())});
}

} // namespace thinline::inspect
