// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Clusters: what is lifted off a sheet together.
//
// A cluster is a decision about pieces, not a piece: joining its pieces would lose their names, their wishes and the
// card between them. What a person says is a list of ids (Cluster), kept as she said it for ever. What stands of it is
// found anew whenever the stack is made (standingOf): a piece that was parted is stood for by its parts, one that was
// joined into another by that one, one that is not there waits. Pieces of another stock, or with their other side up,
// cannot lie on the same sheet face; the first piece of the list decides which, and the others are laid alone and told
// (inspect/InspectClusters.cpp). So painting a letter red and back again loses nothing.
//
// Sheets, cut lines and sizes never ask for clusters. They ask for what is rigid (rigidOf): a list in which a single
// piece and a whole cluster look alike, with the frame already round it. The first piece holds the rest: a pin, a pose
// or a copy number of any of them settles all.
#include "design/Cluster.h"

#include <algorithm>
#include <unordered_map>
#include <unordered_set>

namespace thinline::design {

geometry::Box Rigid::box() const {
    geometry::Box out;
    for (const Laid* laid : pieces)
        out.include(geometry::bounds(laid->shape()));
    return out.grownBy(frameMm);
}

std::optional<geometry::Shape> Rigid::frame() const {
    if (!(frameMm > 0))
        return std::nullopt;
    const geometry::Box b = box();
    return geometry::Shape{
        geometry::contourThrough({b.least, {b.most.x, b.least.y}, b.most, {b.least.x, b.most.y}}), {}};
}

std::vector<geometry::Shape> Rigid::outlines() const {
    if (auto around = frame())
        return {std::move(*around)};
    std::vector<geometry::Shape> out;
    for (const Laid* laid : pieces)
        out.push_back(laid->shape());
    return out;
}

namespace {

bool isByHand(const Stack& stack, const Layer& layer) {
    const Stock* stock = findStock(stack.stocks, layer.stockId);
    return stock && stock->isCutByHand;
}

bool hasCarrier(const Stack& stack, PieceId piece) {
    const Laid* laid = stack.find(piece);
    const Stock* stock = laid ? findStock(stack.stocks, stack.layerOf(*laid).stockId) : nullptr;
    return stock && stock->cut == Depth::ToCarrier;
}

} // namespace

ClusterIndex clusterIndex(const Stack& stack) {
    ClusterIndex out;
    for (const Cluster& cluster : stack.clusters)
        for (const PieceId id : cluster.pieces)
            out[id] = &cluster;
    return out;
}

std::vector<const Laid*> cutByHand(const Stack& stack) {
    std::vector<const Laid*> out;
    for (const Laid& laid : stack.pieces)
        if (const Layer& layer = stack.layerOf(laid); !layer.isHidden && isByHand(stack, layer))
            out.push_back(&laid);
    return out;
}

std::vector<Rigid> rigidOf(const Stack& stack) {
    const ClusterIndex clusters = clusterIndex(stack);
    std::unordered_map<const Cluster*, size_t> begun;
    std::vector<Rigid> out;
    for (const Laid& laid : stack.pieces) {
        const Layer& layer = stack.layerOf(laid);
        if (layer.isHidden || isByHand(stack, layer))
            continue;
        const auto in = clusters.find(laid.id());
        if (in == clusters.end()) {
            out.push_back({{&laid}, laid.copies, 0, layer.stockId});
            continue;
        }
        const auto [at, isNew] = begun.try_emplace(in->second, out.size());
        if (isNew)
            out.push_back({{}, in->second->copies, in->second->frameMm, layer.stockId, in->second});
        out[at->second].pieces.push_back(&laid);
    }
    return out;
}

namespace {

/// Takes pieces into a cluster as long as they go along with the first.
class Gathered {
  public:
    explicit Gathered(const Stack& stack) : m_stack(stack) {}

    void take(const Laid& laid) {
        const bool goesAlong = !m_first || (stockOf(laid) == stockOf(*m_first) && laid.up == m_first->up);
        if (!goesAlong || !m_taken.insert(laid.id()).second)
            return;
        m_first = m_first ? m_first : &laid;
        pieces.push_back(laid.id());
    }
    std::vector<PieceId> pieces;

  private:
    const std::string& stockOf(const Laid& laid) const { return m_stack.layerOf(laid).stockId; }
    const Stack& m_stack;
    const Laid* m_first = nullptr;
    std::unordered_set<PieceId> m_taken;
};

} // namespace

std::vector<Cluster> standingOf(const std::vector<Cluster>& said, const Stack& stack,
                                const std::function<PieceId(PieceId)>& standsFor) {
    std::vector<Cluster> out;
    if (said.empty())
        return out;
    std::unordered_map<PieceId, const Laid*> there;
    for (const Laid& laid : stack.pieces)
        there[laid.id()] = &laid;
    for (const Cluster& cluster : said) {
        Gathered gathered(stack);
        for (const PieceId id : cluster.pieces) {
            if (const auto at = there.find(id); at != there.end()) {
                gathered.take(*at->second);
                continue;
            }
            for (const Laid& laid : stack.pieces)
                if (laid.id().isPartOf(id))
                    gathered.take(laid);
            if (const auto at = there.find(standsFor(id)); at != there.end())
                gathered.take(*at->second);
        }
        if (gathered.pieces.size() < 2)
            continue;
        const double frameMm = hasCarrier(stack, gathered.pieces.front()) ? cluster.frameMm : 0;
        out.push_back(
            {cluster.name, std::move(gathered.pieces), cluster.copies, frameMm, cluster.isFrameThrough});
    }
    return out;
}

const Cluster* clusterOf(const Stack& stack, PieceId piece) {
    for (const Cluster& cluster : stack.clusters)
        if (std::find(cluster.pieces.begin(), cluster.pieces.end(), piece) != cluster.pieces.end())
            return &cluster;
    return nullptr;
}

} // namespace thinline::design
