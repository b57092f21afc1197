// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What lies badly on its sheet, or on none.
#include "design/Cluster.h"
#include "inspect/Findings.h"
#include "sheets/Arrange.h"

#include <algorithm>
#include <set>

namespace thinline::inspect {
namespace {

using design::Laid;
using geometry::Box;

/// The box of a copy as it lies on its mat.
Box placedBox(const Look& look, const design::PlacedPiece& placed) {
    const Laid* laid = look.work.find(placed.what.piece);
    return laid ? geometry::bounds(
                      geometry::transformed(laid->shape(), design::placement(laid->piece, placed.pose)))
                : Box{};
}

/// Inside a cluster pieces keep the distances they have.
bool areTogether(const design::ClusterIndex& clusters, const design::CopyOf& a, const design::CopyOf& b) {
    const auto one = clusters.find(a.piece), other = clusters.find(b.piece);
    return one != clusters.end() && other != clusters.end() && one->second == other->second &&
           a.copy == b.copy;
}

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

void inspectPinned(const Look& look, const design::ClusterIndex& clusters, const design::PlacedSheet& sheet,
                   size_t index, const std::string& load, Gathering& into) {
    const design::PlacedPiece& pinned = sheet.pieces[index];
    const Laid* laid = look.work.find(pinned.what.piece);
    if (!laid)
        return;
    const Box usable =
        Box{{sheet.xMm, sheet.yMm}, {sheet.xMm + sheet.widthMm, sheet.yMm + sheet.heightMm}}.grownBy(
            -sheet.marginMm + 1e-6);
    const Box box = placedBox(look, pinned), place = geometry::bounds(laid->shape());
    if (!usable.contains(box.least) || !usable.contains(box.most))
        into.add(Severity::SpoilsCard, Kind::OverlapsOnSheet,
                 "Drag it back inside, or let it go with a double click.",
                 {look.called(*laid) + " runs over the edge of its sheet on " + load, laid->id(), place});
    for (size_t k = 0; k < sheet.pieces.size(); ++k) {
        if (k == index || (sheet.pieces[k].isPinned && k < index) ||
            areTogether(clusters, pinned.what, sheet.pieces[k].what))
            continue;
        if (box.grownBy(-1e-6).meets(placedBox(look, sheet.pieces[k]).grownBy(-1e-6)))
            into.add(Severity::SpoilsCard, Kind::OverlapsOnSheet,
                     "Their frames overlap where they were pinned. Drag one away, or let it go with a double "
                     "click.",
                     {look.called(*laid) + " may overlap " +
                          design::pieceName(look.work, sheet.pieces[k].what.piece) + " on " + load,
                      laid->id(), place});
    }
}

} // namespace

void inspectSheets(const Look& look, const std::string& sheetName, Gathering& into) {
    if (!look.state.made.sheets)
        return;
    inspectUnplaced(look, sheetName, into);
    const design::ClusterIndex clusters = design::clusterIndex(look.work);
    const auto& loads = look.state.made.sheets->loads;
    for (size_t l = 0; l < loads.size(); ++l)
        for (const design::PlacedSheet& sheet : loads[l].sheets)
            for (size_t i = 0; i < sheet.pieces.size(); ++i)
                if (sheet.pieces[i].isPinned) // what the program lays keeps its distances
                    inspectPinned(look, clusters, sheet, i, "load " + std::to_string(l + 1), into);
}

} // namespace thinline::inspect
