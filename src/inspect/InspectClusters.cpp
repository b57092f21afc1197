// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Two pieces of a cluster that lie on one another are cut through each other, for a cluster is laid as it was drawn.
// The question is the same that heights ask (does one lie on the other by more than a sliver?), so it is answered by
// the same rows of card, which are remembered by body; a cluster of two thousand letters costs its boxes only.

// What is lifted off together.
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
    for (size_t a = 0; a < pieces.size(); ++a) {
        if (look.progress.isCancelled())
            return base::cancelled();
        for (size_t b = a + 1; b < pieces.size(); ++b)
            if (boxes[a].meets(boxes[b]) &&
                design::overlap(*look.rowsOf(*pieces[a]), *look.rowsOf(*pieces[b])))
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
