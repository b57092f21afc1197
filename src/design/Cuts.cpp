// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Cut lines of a sheet, each once.
//
// Pieces laid by the program keep their spacing and touch nothing, so their outlines are cut as they are, to the bit.
// Only inside a cluster may pieces meet, and there what coincides must be cut once (geometry/CutOnce.h tells why). The
// net of edges is made only for clusters in which two boxes meet; a word of separate letters costs nothing.
//
// The frame of a cluster is not stored with the arrangement: it follows from where the first piece lies, by the same
// map, and so cannot be forgotten when a pin moves it.
#include "design/Cuts.h"

#include "design/Cluster.h"

#include <algorithm>
#include <map>
#include <unordered_map>

namespace thinline::design {
namespace {

/// The boxes of some pieces meet: their outlines may coincide.
bool mayTouch(const std::vector<geometry::Shape>& shapes) {
    constexpr double kNearMm = 0.001;
    std::vector<geometry::Box> boxes;
    for (const geometry::Shape& shape : shapes) {
        const geometry::Box box = geometry::bounds(shape).grownBy(kNearMm);
        if (std::any_of(boxes.begin(), boxes.end(), [&](const geometry::Box& one) { return one.meets(box); }))
            return true;
        boxes.push_back(box);
    }
    return false;
}

geometry::CutLines whole(const geometry::Shape& shape) {
    geometry::CutLines out{{shape.outline}, {}};
    out.outlines.insert(out.outlines.end(), shape.openings.begin(), shape.openings.end());
    return out;
}

} // namespace

std::vector<FrameCut> framesOn(const Stack& stack, const PlacedSheet& sheet) {
    std::vector<FrameCut> out;
    if (std::none_of(stack.clusters.begin(), stack.clusters.end(),
                     [](const Cluster& cluster) { return cluster.frameMm > 0; }))
        return out;
    for (const Rigid& rigid : rigidOf(stack)) {
        const auto frame = rigid.frame();
        if (!frame)
            continue;
        for (const PlacedPiece& placed : sheet.pieces)
            if (placed.what.piece == rigid.held().id())
                out.push_back({rigid.cluster, placed.what.copy,
                               geometry::transformed(*frame, placement(rigid.held().piece, placed.pose))});
    }
    return out;
}

base::Result<SheetCuts> cutsOn(const Stack& stack, const PlacedSheet& sheet, const base::Progress& progress) {
    SheetCuts out;
    std::unordered_map<PieceId, const Laid*> laidOf;
    for (const Laid& laid : stack.pieces)
        laidOf[laid.id()] = &laid;
    const ClusterIndex clusterOf = clusterIndex(stack);
    std::vector<geometry::Shape> shapes;
    std::map<std::pair<const Cluster*, int>, std::vector<size_t>> clusters;
    for (const PlacedPiece& placed : sheet.pieces) {
        const auto laid = laidOf.find(placed.what.piece);
        if (laid == laidOf.end())
            return base::Error{base::Code::NotFound,
                               "Piece " + placed.what.piece.text() +
                                   " on a sheet is not in the work any more; arrange the sheets anew."};
        if (const auto in = clusterOf.find(placed.what.piece); in != clusterOf.end())
            clusters[{in->second, placed.what.copy}].push_back(shapes.size());
        shapes.push_back(
            geometry::transformed(laid->second->shape(), placement(laid->second->piece, placed.pose)));
        out.pieces.push_back({placed.what, whole(shapes.back())});
    }
    for (const auto& [in, members] : clusters) {
        std::vector<geometry::Shape> own;
        for (const size_t i : members)
            own.push_back(shapes[i]);
        if (!mayTouch(own))
            continue;
        auto once = geometry::cutOnce(own, progress);
        if (!once)
            return once.error();
        for (size_t i = 0; i < members.size(); ++i)
            out.pieces[members[i]].cuts = std::move((*once)[i]);
    }
    out.frames = framesOn(stack, sheet);
    return out;
}

} // namespace thinline::design
