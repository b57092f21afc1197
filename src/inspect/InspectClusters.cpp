// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What is lifted off together.
//
// Two pieces of a cluster that lie on one another are cut through each other, for a cluster is laid as it was drawn.
// The question is the same that heights ask (does one lie on the other by more than a sliver?), so it is answered by
// the same rows of card, which are remembered by body; a cluster of two thousand letters costs its boxes only.
#include "inspect/Findings.h"
#include "job/Clusters.h"

#include <algorithm>

namespace thinline::inspect {
namespace {

using design::Laid;
using geometry::Box;

/// Why a piece cannot lie with the others of its cluster.
std::string reasonApart(const Look& look, const Laid& laid, const design::Cluster& said) {
    const Laid* other = nullptr;
    for (const design::PieceId id : said.pieces)
        if (const Laid* one = look.work.find(id); one && one->id() != laid.id() && !other)
            other = one;
    if (!other)
        return " is the only one left of " + said.name;
    const std::string& stock = look.work.layerOf(laid).stockId;
    return stock != look.work.layerOf(*other).stockId
               ? " is cut from " + design::stockName(look.work.stocks, stock) + ", apart from " + said.name
               : " has its other side up, apart from " + said.name;
}

base::Status inspectOverlaps(const Look& look, const design::Cluster& cluster, Gathering& into) {
    std::vector<const Laid*> pieces;
    std::vector<Box> boxes;
    for (const design::PieceId id : cluster.pieces)
        if (const Laid* laid = look.work.find(id)) {
            pieces.push_back(laid);
            boxes.push_back(geometry::bounds(laid->shape()));
        }
    const auto rowsOf = [&](const Laid& laid) {
        return design::rowsOf(laid.piece.body, design::kRowPitchMm, look.memory.rows);
    };
    for (size_t a = 0; a < pieces.size(); ++a) {
        if (look.progress.isCancelled())
            return base::cancelled();
        for (size_t b = a + 1; b < pieces.size(); ++b)
            if (boxes[a].meets(boxes[b]) && design::overlap(*rowsOf(*pieces[a]), *rowsOf(*pieces[b])))
                into.add(Severity::SpoilsCard, Kind::ClusterOverlaps,
                         "One would cut through the other. Move one at Shape, or part the cluster at Sheets.",
                         {look.called(*pieces[b]) + " lies on " + design::pieceName(look.work, *pieces[a]) +
                              " in " + cluster.name,
                          pieces[b]->id(), boxes[b]});
    }
    return base::Done{};
}

} // namespace

base::Status inspectClusters(const Look& look, Gathering& into) {
    const auto& said = look.state.job.clusters;
    for (const design::Cluster& cluster : look.work.clusters)
        if (const auto at = job::clusterWith(look.state, cluster.pieces.front());
            at && said[*at].frameMm > 0 && cluster.frameMm == 0)
            into.add(
                Severity::RisksCard, Kind::FrameLeftOut,
                "Take the frame out at Sheets, or cut the cluster from a stock that is cut to its carrier.",
                {"The frame of " + cluster.name + " is left out: its stock is cut through and has no carrier",
                 cluster.pieces.front(),
                 {}});
    for (size_t i = 0; i < said.size(); ++i)
        for (const design::PieceId id : job::apartFromCluster(look.state, i))
            if (const Laid* laid = look.work.find(id))
                into.add(Severity::RisksCard, Kind::ClusterApart,
                         "It is laid alone, its distances are lost. Cut it from the same stock, or part the "
                         "cluster at Sheets.",
                         {look.called(*laid) + reasonApart(look, *laid, said[i]), id,
                          geometry::bounds(laid->shape())});
    for (const design::Cluster& cluster : look.work.clusters)
        if (auto ok = inspectOverlaps(look, cluster, into); !ok)
            return ok;
    return base::Done{};
}

} // namespace thinline::inspect
