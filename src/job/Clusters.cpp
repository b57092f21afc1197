// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Clusters as steps of a job, and what is proposed.
//
// Two things are proposed because nobody wants to lay them out again by hand. What is cut to a carrier (vinyl) keeps
// its places until it is moved over, so the pieces of one source and layer belong together. And a piece with others of
// its layer in its openings is a pattern in its frame: a stencil and its counters, an inlay and its plate. Both are
// found by looking at boxes first and at one inside point after that; no outline is computed. A proposal is never
// taken by itself: card letters that are glued one by one are better laid close, and only the maker knows.
#include "job/Clusters.h"

#include "base/Length.h"
#include "design/Cluster.h"
#include "job/Source.h"

#include <algorithm>
#include <map>

namespace thinline::job {
namespace {

using base::Code;
using base::Error;
using design::Cluster;
using design::Laid;
using design::PieceId;

bool has(const std::vector<PieceId>& pieces, PieceId id) {
    return std::find(pieces.begin(), pieces.end(), id) != pieces.end();
}

/// Itself, or as a part of one that is named.
bool isNamedIn(const Cluster& cluster, PieceId piece) {
    return std::any_of(cluster.pieces.begin(), cluster.pieces.end(),
                       [&](PieceId id) { return id == piece || piece.isPartOf(id); });
}

Error noCluster() {
    return {Code::NotFound, "That cluster is not in the job any more."};
}

/// Why pieces cannot be lifted off together.
base::Status canGoTogether(const design::Stack& work, const std::vector<PieceId>& pieces) {
    const Laid* first = nullptr;
    for (const PieceId id : pieces) {
        const Laid* laid = work.find(id);
        if (!laid)
            return Error{Code::NotFound, "A piece is not there any more; choose the pieces anew."};
        first = first ? first : laid;
        const std::string &a = work.layerOf(*first).stockId, &b = work.layerOf(*laid).stockId;
        if (a != b)
            return Error{Code::InvalidArgument,
                         "They are cut from " + design::stockName(work.stocks, a) + " and " +
                             design::stockName(work.stocks, b) +
                             "; a cluster is lifted off one sheet. Choose pieces of one stock."};
        if (laid->up != first->up)
            return Error{
                Code::InvalidArgument,
                design::pieceName(work, *laid) +
                    " has its other side up and is cut from the back; leave it out, or turn it over."};
    }
    const design::Stock* stock =
        first ? design::findStock(work.stocks, work.layerOf(*first).stockId) : nullptr;
    if (stock && stock->isCutByHand)
        return Error{Code::InvalidArgument, stock->name + " is cut by hand and goes on no mat."};
    return base::Done{};
}

base::Status isClusterName(const std::string& name) {
    if (name.empty() || name.size() > 60 || name.find('\n') != std::string::npos)
        return Error{Code::InvalidArgument, "A name has 1 to 60 letters and no line break."};
    return base::Done{};
}

/// Proposes one cluster for each source and layer cut to the carrier.
void proposeCarried(const State& state, std::vector<ProposedCluster>& out) {
    const design::Stack& work = *state.made.work();
    const design::ClusterIndex standing = design::clusterIndex(work);
    std::map<std::pair<design::SourceId, design::LayerId>, std::vector<PieceId>> groups;
    for (const Laid& laid : work.pieces) {
        const design::Stock* stock = design::findStock(work.stocks, work.layerOf(laid).stockId);
        if (stock && stock->cut == design::Depth::ToCarrier && laid.up == design::Side::Front &&
            !standing.contains(laid.id()))
            groups[{laid.id().source(), laid.layer}].push_back(laid.id());
    }
    for (auto& [where, pieces] : groups)
        if (const Source* source = findSource(state.job, where.first); source && pieces.size() > 1)
            out.push_back({source->name(),
                           "Cut to the carrier, they keep their places until they are moved over together.",
                           std::move(pieces)});
}

/// Proposes a piece with everything that lies in its openings.
void proposeFramed(const State& state, std::vector<ProposedCluster>& out, const base::Progress& progress) {
    const design::Stack& work = *state.made.work();
    const design::ClusterIndex standing = design::clusterIndex(work);
    std::vector<geometry::Box> boxes;
    for (const Laid& laid : work.pieces)
        boxes.push_back(geometry::bounds(laid.shape()));
    std::vector<bool> isTaken(work.pieces.size(), false);
    for (size_t i = 0; i < work.pieces.size() && !progress.isCancelled(); ++i) {
        const Laid& frame = work.pieces[i];
        if (frame.shape().openings.empty() || isTaken[i] || standing.contains(frame.id()))
            continue;
        std::vector<PieceId> pieces{frame.id()};
        for (size_t k = 0; k < work.pieces.size(); ++k) {
            const Laid& inner = work.pieces[k];
            if (k == i || isTaken[k] || inner.layer != frame.layer || inner.up != frame.up ||
                !boxes[i].contains(boxes[k].least) || !boxes[i].contains(boxes[k].most) ||
                standing.contains(inner.id()) ||
                !design::openingAt(frame.shape(), geometry::pointInside(inner.shape())))
                continue;
            pieces.push_back(inner.id());
            isTaken[k] = true;
        }
        if (pieces.size() > 1)
            out.push_back({design::pieceName(work, frame) + " and what lies in it",
                           "They are one pattern: lifted off together, nothing has to be laid out again.",
                           std::move(pieces)});
    }
}

} // namespace

base::Result<Job> withCluster(const State& state, const std::string& name,
                              const std::vector<PieceId>& pieces) {
    const design::Stack* work = state.made.work();
    if (!work || pieces.size() < 2)
        return Error{Code::InvalidArgument, "Choose two pieces or more to lift off together."};
    if (auto ok = canGoTogether(*work, pieces); !ok)
        return ok.error();
    Job out = state.job;
    for (Cluster& cluster : out.clusters)
        std::erase_if(cluster.pieces, [&](PieceId id) { return has(pieces, id); });
    std::erase_if(out.clusters, [](const Cluster& cluster) { return cluster.pieces.size() < 2; });
    out.clusters.push_back(
        {name.empty() ? "cluster " + std::to_string(out.clusters.size() + 1) : name, pieces});
    return withClusterNamed(out, out.clusters.size() - 1, out.clusters.back().name);
}

base::Result<Job> withoutCluster(const Job& job, size_t cluster) {
    if (cluster >= job.clusters.size())
        return noCluster();
    Job out = job;
    out.clusters.erase(out.clusters.begin() + static_cast<std::ptrdiff_t>(cluster));
    return out;
}

base::Result<Job> withClusterCopies(const Job& job, size_t cluster, int copies) {
    if (cluster >= job.clusters.size())
        return noCluster();
    if (copies < 1 || copies > 999)
        return Error{Code::InvalidArgument, "Copies go from 1 to 999."};
    Job out = job;
    out.clusters[cluster].copies = copies;
    return out;
}

base::Result<Job> withClusterFrame(const State& state, size_t cluster, double roomMm) {
    if (cluster >= state.job.clusters.size())
        return noCluster();
    if (roomMm != 0 && !(roomMm >= 1 && roomMm <= design::kMostFrameMm))
        return Error{Code::InvalidArgument, "The room to a frame goes from 1 to 50 mm; 0 is for no frame."};
    const design::Stack* work = state.made.work();
    for (const PieceId id : state.job.clusters[cluster].pieces) {
        const Laid* laid = work && roomMm > 0 ? work->find(id) : nullptr;
        const design::Stock* stock =
            laid ? design::findStock(work->stocks, work->layerOf(*laid).stockId) : nullptr;
        if (stock && stock->cut != design::Depth::ToCarrier)
            return Error{Code::InvalidArgument,
                         stock->name +
                             " is cut through and lies on no carrier; a frame is cut round what is lifted "
                             "off with its carrier."};
    }
    Job out = state.job;
    out.clusters[cluster].frameMm = roomMm;
    return out;
}

base::Result<Job> withFrameThrough(const Job& job, size_t cluster, bool isThrough) {
    if (cluster >= job.clusters.size())
        return noCluster();
    if (isThrough && !(job.clusters[cluster].frameMm > 0))
        return Error{Code::InvalidArgument, "There is no frame round " + job.clusters[cluster].name +
                                                "; say first how far away it is cut."};
    Job out = job;
    out.clusters[cluster].isFrameThrough = isThrough;
    return out;
}

base::Result<Job> withClusterNamed(const Job& job, size_t cluster, const std::string& name) {
    if (cluster >= job.clusters.size())
        return noCluster();
    if (auto ok = isClusterName(name); !ok)
        return ok.error();
    Job out = job;
    out.clusters[cluster].name = name;
    return out;
}

std::optional<size_t> clusterWith(const State& state, PieceId piece) {
    for (size_t i = 0; i < state.job.clusters.size(); ++i)
        if (isNamedIn(state.job.clusters[i], piece))
            return i;
    return std::nullopt;
}

std::vector<ProposedCluster> proposedClusters(const State& state, const base::Progress& progress) {
    std::vector<ProposedCluster> out;
    if (state.made.work()) {
        proposeCarried(state, out);
        proposeFramed(state, out, progress);
    }
    return out;
}

std::vector<PieceId> apartFromCluster(const State& state, size_t cluster) {
    std::vector<PieceId> out;
    const design::Stack* work = state.made.work();
    if (!work || cluster >= state.job.clusters.size())
        return out;
    const design::ClusterIndex standing = design::clusterIndex(*work);
    for (const Laid& laid : work->pieces)
        if (!standing.contains(laid.id()) && isNamedIn(state.job.clusters[cluster], laid.id()))
            out.push_back(laid.id());
    return out;
}

} // namespace thinline::job
