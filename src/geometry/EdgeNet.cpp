// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The net: how two outlines come to know that they share a cut.
//
// Designs are full of edges that coincide: a piece and its own copy, two areas traced from one border, a
// letter welded to the bar it stands on, what one knife left beside what it took. In exact arithmetic
// coincidence is an ordinary case. In floating point it is the worst one: the same curve parted at another
// place has other control points, its points differ in the last digits, and a polygon engine that is
// handed both versions finds thousands of crossings between them. In a prototype a disc welded with a
// turned copy of itself had 736 nodes; with coincidence found first it had eight.
//
// So before anything is combined, everything that is meant to be the same is made the same:
//
// 1. Every contour becomes a walk over edges. A curve is parted where it turns back in x or in y. From
//    then on an edge lies within the box of its two ends, which is what all later stages build on
//    (Strands.cpp), and it crosses any horizontal or vertical line once.
// 2. Ends that lie within `kSameMm` (half a micrometre) of each other are one node. Whoever comes first is
//    the node; its place is not averaged, because a mean that wanders with every arrival would make the
//    result depend on how many pieces happen to touch there.
// 3. Edges between the same two nodes that run within `kSameMm` of each other are one edge. Three looks
//    along the edge decide, at a quarter, a half and three quarters: both are monotone, both begin and end
//    alike, so a curve that passes all three and strays between them would have to bend more often than a
//    cubic can.
// 4. Where one edge merely touches another, or runs along a part of it, an end lies on the other's inside.
//    `findCuts` finds these among edges that come near each other, `applyCuts` parts the edges there and
//    walks everything anew, so that rule 3 sees stretches with common ends. One round is enough: a cut
//    makes new ends only at nodes that exist already.
//
// A stretch that shrinks to one node is left out and its neighbour takes over its parameter range; without
// that, a step of a tenth of a micrometre would leave an edge from a node to itself, which no chord can
// stand for.
//
// What it costs in truth: joined ends and edges may be moved by half a micrometre, a two-hundredth of what
// a good knife can place. What is exact stays exact: a source is never changed, an edge only refers to a
// stretch of it.
//
// Considered and left: snapping all points to a coarser grid before the engine (moves everything, and
// still leaves two versions of every curve), and finding coincidence after the engine among the crumbs it
// leaves (they cannot be told from true thin parts).
//
// Cost: nodes are found through cells of 8 um, edges through a hash of their nodes; both O(1) on the
// average.
#include "geometry/EdgeNet.h"

#include "geometry/HashIndex.h"

#include <optional>

namespace thinline::geometry {
namespace {

size_t index(int i) {
    return static_cast<size_t>(i);
}

/// Gives every place its node; places within kSameMm of a node are that node.
class NodeFinder {
  public:
    NodeFinder(EdgeNet& net, const Grid& grid, size_t expected)
        : m_net(net), m_grid(grid), m_cells(expected) {}

    int nodeAt(Point p) {
        const GridPoint g = m_grid.snap(p);
        const std::int64_t x0 = (g.x - kRadius) >> kCellBits, x1 = (g.x + kRadius) >> kCellBits;
        const std::int64_t y0 = (g.y - kRadius) >> kCellBits, y1 = (g.y + kRadius) >> kCellBits;
        for (std::int64_t y = y0; y <= y1; ++y)
            for (std::int64_t x = x0; x <= x1; ++x)
                for (int n = m_cells.first(keyOf(x, y)); n >= 0; n = m_cells.next(n))
                    if (distance(m_net.nodes[index(n)], p) <= kSameMm)
                        return n;
        m_net.nodes.push_back(p);
        m_net.nodeGrid.push_back(g);
        return m_cells.add(keyOf(g.x >> kCellBits, g.y >> kCellBits));
    }

  private:
    static constexpr std::int64_t kRadius = 600; // grid units; a little more than kSameMm
    static constexpr int kCellBits = 13;         // cells of 8 um: most places look into one cell only
    static std::uint64_t keyOf(std::int64_t x, std::int64_t y) {
        return HashIndex::mix(static_cast<std::uint64_t>(x), static_cast<std::uint64_t>(y));
    }
    EdgeNet& m_net;
    const Grid& m_grid;
    HashIndex m_cells;
};

/// The parameter at which an edge passes p within kSameMm.
std::optional<double> placeOn(const EdgeNet& net, int edge, Point p) {
    const NetEdge& e = net.edges[index(edge)];
    const NetSource& source = net.sources[index(e.source)];
    const Point a = source.curve.at(e.t0), b = source.curve.at(e.t1);
    const Point along = b - a;
    const double square = dot(along, along);
    if (!(square > 0))
        return std::nullopt;
    const double share = std::clamp(dot(p - a, along) / square, 0.0, 1.0),
                 guess = e.t0 + (e.t1 - e.t0) * share;
    const double toChord = distance(p, a + along * share);
    if (source.isLine)
        return toChord <= kSameMm ? std::optional(guess) : std::nullopt;
    const double dt = e.t1 - e.t0;
    if (toChord > source.curve.largestBend() * dt * dt / 8 + kSameMm)
        return std::nullopt;
    const Foot foot = nearestFrom(source.curve, p, guess);
    if (foot.distance > kSameMm || foot.t < e.t0 || foot.t > e.t1)
        return std::nullopt;
    return foot.t;
}

/// Whether two edges between the same two nodes run along each other.
bool isSameStretch(const EdgeNet& net, const NetEdge& a, const NetEdge& b) {
    const NetSource &sa = net.sources[index(a.source)], &sb = net.sources[index(b.source)];
    if (sa.isLine && sb.isLine)
        return true;
    const bool isReversed = a.from != b.from;
    for (double share : {0.5, 0.25, 0.75}) {
        const Point p = sa.curve.at(a.t0 + (a.t1 - a.t0) * share);
        const double other = isReversed ? 1 - share : share;
        if (nearestFrom(sb.curve, p, b.t0 + (b.t1 - b.t0) * other).distance > kSameMm)
            return false;
    }
    return true;
}

/// Collects edges so that each stretch is kept once.
class EdgeCollector {
  public:
    explicit EdgeCollector(EdgeNet& net, size_t expected) : m_net(net), m_index(expected) {}

    /// Adds the stretch to a walk; nothing when it has shrunk to a node.
    void walk(const NetEdge& edge, bool isForward, std::vector<EdgeUse>& walk) {
        if (edge.from == edge.to)
            return;
        const auto low = static_cast<std::uint64_t>(std::min(edge.from, edge.to)),
                   high = static_cast<std::uint64_t>(std::max(edge.from, edge.to));
        const std::uint64_t key = (low << 32) | high;
        for (int e = m_index.first(key); e >= 0; e = m_index.next(e)) {
            const NetEdge& known = m_net.edges[index(e)];
            if (isSameStretch(m_net, edge, known)) {
                walk.push_back({e, (known.from == edge.from) == isForward});
                return;
            }
        }
        m_net.edges.push_back(edge);
        walk.push_back({m_index.add(key), isForward});
    }

  private:
    EdgeNet& m_net;
    HashIndex m_index;
};

} // namespace

base::Result<EdgeNet> makeNet(const std::vector<const Contour*>& contours, const Grid& grid,
                              const base::Progress& progress) {
    EdgeNet net;
    size_t expected = 0;
    for (const Contour* contour : contours)
        expected += contour->segments.size() + 1;
    net.sources.reserve(expected);
    net.edges.reserve(expected);
    net.nodes.reserve(expected);
    net.nodeGrid.reserve(expected);
    NodeFinder nodes(net, grid, expected);
    EdgeCollector edges(net, expected);
    const auto add = [&](const Cubic& curve, bool isLine, int contour, std::vector<EdgeUse>& walk) {
        const int source = static_cast<int>(net.sources.size());
        net.sources.push_back({curve, isLine, contour});
        double from = 0;
        int node = nodes.nodeAt(curve.a);
        const auto step = [&](double to, Point end) {
            const int next = nodes.nodeAt(end);
            edges.walk({source, from, to, node, next}, true, walk);
            if (next != node) // a stretch that shrank to a node is left to its neighbour
                from = to;
            node = next;
        };
        if (!isLine)
            for (double t : turningPoints(curve))
                if (t > from)
                    step(t, curve.at(t));
        step(1, curve.d);
    };
    size_t sinceLook = 0;
    for (size_t c = 0; c < contours.size(); ++c) {
        std::vector<EdgeUse>& walk = net.walks.emplace_back();
        walk.reserve(contours[c]->segments.size());
        Point from = contours[c]->start;
        for (const Segment& s : contours[c]->segments) {
            add(Cubic::of(from, s), s.isLine, static_cast<int>(c), walk);
            from = s.end;
            if (++sinceLook % 4096 == 0 && progress.isCancelled())
                return base::cancelled();
        }
        if (!(from == contours[c]->start))
            add(Cubic::line(from, contours[c]->start), true, static_cast<int>(c), walk);
    }
    return net;
}

void findCuts(const EdgeNet& net, int a, int b, std::vector<NetCut>& cuts) {
    const NetEdge &ea = net.edges[index(a)], &eb = net.edges[index(b)];
    const auto look = [&](int edge, const NetEdge& e, int node) {
        if (node == e.from || node == e.to)
            return;
        if (const auto t = placeOn(net, edge, net.nodes[index(node)]); t && *t > e.t0 && *t < e.t1)
            cuts.push_back({edge, *t, node});
    };
    look(a, ea, eb.from);
    look(a, ea, eb.to);
    look(b, eb, ea.from);
    look(b, eb, ea.to);
}

void applyCuts(EdgeNet& net, std::vector<NetCut> cuts) {
    std::sort(cuts.begin(), cuts.end());
    std::vector<NetEdge> old = std::move(net.edges);
    std::vector<std::vector<EdgeUse>> oldWalks = std::move(net.walks);
    net.edges.clear();
    net.edges.reserve(old.size() + cuts.size());
    net.walks.clear();
    std::vector<size_t> firstCut(old.size() + 1, cuts.size());
    for (size_t i = cuts.size(); i-- > 0;)
        firstCut[index(cuts[i].edge)] = i;
    EdgeCollector edges(net, old.size() + cuts.size());
    std::vector<NetEdge> parts;
    for (const std::vector<EdgeUse>& walk : oldWalks) {
        std::vector<EdgeUse>& fresh = net.walks.emplace_back();
        fresh.reserve(walk.size());
        for (EdgeUse use : walk) {
            NetEdge rest = old[index(use.edge)];
            parts.clear();
            for (size_t i = firstCut[index(use.edge)]; i < cuts.size() && cuts[i].edge == use.edge; ++i) {
                if (cuts[i].t <= rest.t0 || cuts[i].node == rest.from || cuts[i].node == rest.to)
                    continue;
                parts.push_back({rest.source, rest.t0, cuts[i].t, rest.from, cuts[i].node});
                rest.t0 = cuts[i].t;
                rest.from = cuts[i].node;
            }
            parts.push_back(rest);
            for (size_t i = 0; i < parts.size(); ++i)
                edges.walk(parts[use.isForward ? i : parts.size() - 1 - i], use.isForward, fresh);
        }
    }
}

} // namespace thinline::geometry
