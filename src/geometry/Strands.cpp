// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Strands: as few chords as will do, and fine ones only where it matters.
//
// The polygon engine knows straight steps. The plain way is to flatten all curves finely, let the engine
// work and guess afterwards which of its steps came from which curve. A prototype did so, with chords that
// stray 2 um: the engine then spends its time on thousands of steps that meet nothing, and 2 um are still
// coarse where two curves cross at a flat angle, for there the crossing moves by many times that.
//
// What is built turns the question round. Chords need not be near their curves at all, as long as they are
// passed on the same side by everything else. An edge of the net lies in the box of its ends
// (EdgeNet.cpp), and so does its chord. If nothing else reaches into that box, then nothing can tell the
// chord from the curve: every point outside the box is wound around equally often by both. The same holds
// for a whole chain of edges that all run into one quadrant and that nobody else joins on the way: one
// chord stands for it from end to end. On drawings most chains meet nothing, and an outline of a hundred
// curves becomes a dozen chords.
//
// Where boxes meet, chains are halved, first between edges, then within a curve, until the boxes meet no
// more or the chord strays at most `kFineMm`. Each halving quarters the stray of a curve and halves its
// box, so the number of looks grows with the logarithm of the fineness, and only at the places where
// outlines really come together.
//
// Two things need care:
//
// - Boxes that share a corner always meet, for neighbours on an outline touch. Two chords that leave a
//   common node into different quadrants have nothing else in common, since each stays in its own; they
//   are let go at once (`partAtTheirEnd`). Without this every chain would be refined around each of its
//   own ends.
// - Nodes have been joined by up to half a micrometre and are rounded to the grid, so an edge may leave
//   the box of its ends by that much. Boxes are grown by `kSlack` grid units, 1.5 um, which is more than
//   both together.
//
// It is done in two passes, because cuts must be known before curves are split. The first settles down to
// whole edges; edges that come near each other are asked for cuts; if there are any, chains are made anew
// and everything is looked at again. The second goes on to fine chords. A strand remembers its chain, its
// edges and, when it is a part of one edge, its stretch of the source: that is how Restore.cpp finds the
// way back.
//
// If the engine hands back a step that belongs to no strand, the caller repeats the operation with
// `isFineEverywhere`: every chord fine, nothing left to reasoning about boxes. It has a test of its own,
// since hardly anything real gets there.
//
// Cost: a sweep over boxes in strips (Meetings.h), O(n log n) in the chains; measured for whole operations
// in docs/bench.md.
#include "geometry/Strands.h"

#include "geometry/Meetings.h"

#include <utility>

namespace thinline::geometry {
namespace {

/// What edges may stray from the box of their ends: nodes that were joined, and the grid's rounding.
constexpr std::int64_t kSlack = 1500;

size_t index(int i) {
    return static_cast<size_t>(i);
}

int signOf(std::int64_t v) {
    return v > 0 ? 1 : v < 0 ? -1 : 0;
}

GridPoint gridOf(const EdgeNet& net, int node) {
    return net.nodeGrid[index(node)];
}

/// The quadrant into which an edge runs, as a small number; equal numbers run alike.
int headingOf(const EdgeNet& net, EdgeUse use) {
    const GridPoint a = gridOf(net, net.fromNode(use)), b = gridOf(net, net.toNode(use));
    return 3 * signOf(b.x - a.x) + signOf(b.y - a.y);
}

/// Breaks the walks into chains and writes them anew over chains.
void makeChains(const EdgeNet& net, StrandSet& out) {
    std::vector<int> ends(net.nodes.size(), 0);
    for (const NetEdge& e : net.edges) {
        ++ends[index(e.from)];
        ++ends[index(e.to)];
    }
    for (const std::vector<EdgeUse>& walk : net.walks)
        for (size_t i = 0; i < walk.size(); ++i)
            if (const EdgeUse next = walk[(i + 1) % walk.size()]; next.edge == walk[i].edge)
                ++ends[index(net.toNode(walk[i]))]; // a spike turns back here: no chain runs on
    struct Place {
        int chain = -1;
        bool isForward = true; ///< of the edge within its chain
    };
    std::vector<Place> placeOf(net.edges.size());
    for (const std::vector<EdgeUse>& walk : net.walks) {
        int last = -1;
        for (EdgeUse use : walk) {
            Place& place = placeOf[index(use.edge)];
            if (place.chain >= 0) {
                last = -1; // walked before; whoever comes next starts afresh
                continue;
            }
            const bool joins = last >= 0 && ends[index(net.fromNode(use))] == 2 &&
                               headingOf(net, use) == headingOf(net, out.chains[index(last)].back());
            if (!joins) {
                last = static_cast<int>(out.chains.size());
                out.chains.emplace_back();
            }
            out.chains[index(last)].push_back(use);
            place = {last, use.isForward};
        }
    }
    for (const std::vector<EdgeUse>& walk : net.walks) {
        std::vector<EdgeUse>& fresh = out.walks.emplace_back();
        // A chain is entered at its first edge or, backwards, at its last; a walk that starts inside one sees
        // that edge at its end again.
        for (EdgeUse use : walk) {
            const Place& place = placeOf[index(use.edge)];
            const Chain& chain = out.chains[index(place.chain)];
            const bool isForward = place.isForward == use.isForward;
            if ((isForward ? chain.front() : chain.back()).edge == use.edge)
                fresh.push_back({place.chain, isForward});
        }
    }
}

Strand strandOf(const EdgeNet& net, const StrandSet& set, int chain, int first, int last) {
    const Chain& uses = set.chains[index(chain)];
    Strand strand{chain,
                  first,
                  last,
                  0,
                  1,
                  gridOf(net, net.fromNode(uses[index(first)])),
                  gridOf(net, net.toNode(uses[index(last - 1)])),
                  false};
    const NetEdge& edge = net.edges[index(uses[index(first)].edge)];
    strand.t0 = uses[index(first)].isForward ? edge.t0 : edge.t1;
    strand.t1 = uses[index(first)].isForward ? edge.t1 : edge.t0;
    return strand;
}

GridBox boxOf(const Strand& s) {
    return {std::min(s.from.x, s.to.x) - kSlack, std::min(s.from.y, s.to.y) - kSlack,
            std::max(s.from.x, s.to.x) + kSlack, std::max(s.from.y, s.to.y) + kSlack};
}

/// Strands that only share an end, each in its own quadrant, cannot cross.
bool partAtTheirEnd(const Strand& a, const Strand& b) {
    if (!(a.from == b.from || a.from == b.to || a.to == b.from || a.to == b.to))
        return false;
    const std::int64_t width = std::min(std::max(a.from.x, a.to.x), std::max(b.from.x, b.to.x)) -
                               std::max(std::min(a.from.x, a.to.x), std::min(b.from.x, b.to.x));
    const std::int64_t height = std::min(std::max(a.from.y, a.to.y), std::max(b.from.y, b.to.y)) -
                                std::max(std::min(a.from.y, a.to.y), std::min(b.from.y, b.to.y));
    return width <= 0 || height <= 0;
}

/// Splits strands until only those still meet that cannot be split.
class Refiner {
  public:
    Refiner(const EdgeNet& net, const StrandSet& set, const Grid& grid, const base::Progress& progress)
        : m_net(net), m_set(set), m_grid(grid), m_progress(progress) {}

    enum class Depth { Edges, Fine };

    /// Returns the strands that are settled; those that meet others are marked.
    base::Result<std::vector<Strand>> settle(std::vector<Strand> active, Depth depth) {
        std::vector<Strand> settled;
        std::vector<GridBox> boxes;
        std::vector<unsigned> state, isAtom;
        constexpr unsigned kAtom = 1, kCoarse = 2; // what comes near
        while (!active.empty()) {
            if (m_progress.isCancelled())
                return base::cancelled();
            boxes.clear();
            isAtom.clear();
            for (const Strand& s : active) {
                boxes.push_back(boxOf(s));
                isAtom.push_back(isAtomic(s, depth));
            }
            state.assign(active.size(), 0);
            size_t looks = 0;
            bool isStopped = false;
            eachMeeting(boxes, [&](size_t i, size_t j) {
                if (++looks % 65536 == 0)
                    isStopped = isStopped || m_progress.isCancelled();
                constexpr unsigned done = kAtom | kCoarse;
                if (isStopped || (state[i] == done && state[j] == done) ||
                    partAtTheirEnd(active[i], active[j]))
                    return;
                state[i] |= isAtom[j] ? kAtom : kCoarse;
                state[j] |= isAtom[i] ? kAtom : kCoarse;
            });
            if (isStopped)
                return base::cancelled();
            std::vector<Strand> next;
            for (size_t i = 0; i < active.size(); ++i) {
                active[i].meets = active[i].meets || (isAtom[i] && (state[i] & kAtom));
                if (!state[i] || (isAtom[i] && !(state[i] & kCoarse))) {
                    settled.push_back(active[i]);
                } else if (isAtom[i]) {
                    next.push_back(active[i]);
                } else {
                    split(active[i], next);
                }
            }
            active = std::move(next);
        }
        return settled;
    }

    /// Splits every strand as far as it goes.
    std::vector<Strand> splitAll(std::vector<Strand> strands) const {
        std::vector<Strand> out;
        while (!strands.empty()) {
            const Strand s = strands.back();
            strands.pop_back();
            if (isAtomic(s, Depth::Fine)) {
                out.push_back(s);
                out.back().meets = true;
            } else {
                split(s, strands);
            }
        }
        return out;
    }

  private:
    bool isAtomic(const Strand& s, Depth depth) const {
        if (s.last - s.first > 1)
            return false;
        if (depth == Depth::Edges)
            return true;
        const NetSource& source = m_net.sourceOf(m_set.chains[index(s.chain)][index(s.first)].edge);
        const double dt = s.t1 - s.t0;
        return source.isLine || source.curve.largestBend() * dt * dt / 8 <= kFineMm || s.from == s.to;
    }

    void split(const Strand& s, std::vector<Strand>& out) const {
        if (s.last - s.first > 1) {
            const int middle = (s.first + s.last) / 2;
            out.push_back(strandOf(m_net, m_set, s.chain, s.first, middle));
            out.push_back(strandOf(m_net, m_set, s.chain, middle, s.last));
            return;
        }
        const double middle = (s.t0 + s.t1) / 2;
        const Cubic& curve = m_net.sourceOf(m_set.chains[index(s.chain)][index(s.first)].edge).curve;
        const GridPoint between = m_grid.snap(curve.at(middle));
        Strand a = s, b = s;
        a.t1 = b.t0 = middle;
        a.to = b.from = between;
        out.push_back(a);
        out.push_back(b);
    }

    const EdgeNet& m_net;
    const StrandSet& m_set;
    const Grid& m_grid;
    const base::Progress& m_progress;
};

std::vector<Strand> wholeChains(const EdgeNet& net, const StrandSet& set) {
    std::vector<Strand> strands;
    strands.reserve(set.chains.size());
    for (size_t c = 0; c < set.chains.size(); ++c)
        strands.push_back(strandOf(net, set, static_cast<int>(c), 0, static_cast<int>(set.chains[c].size())));
    return strands;
}

/// The cuts that edges near each other make in one another.
std::vector<NetCut> cutsAmong(const EdgeNet& net, const StrandSet& set, const std::vector<Strand>& settled) {
    std::vector<GridBox> boxes;
    std::vector<int> edges;
    for (const Strand& s : settled)
        if (s.meets) {
            boxes.push_back(boxOf(s));
            edges.push_back(set.chains[index(s.chain)][index(s.first)].edge);
        }
    std::vector<NetCut> cuts;
    eachMeeting(boxes, [&](size_t i, size_t j) { findCuts(net, edges[i], edges[j], cuts); });
    std::sort(cuts.begin(), cuts.end());
    cuts.erase(std::unique(cuts.begin(), cuts.end()), cuts.end());
    return cuts;
}

void sortIntoChains(StrandSet& set) {
    std::sort(set.strands.begin(), set.strands.end(), [](const Strand& a, const Strand& b) {
        if (a.chain != b.chain)
            return a.chain < b.chain;
        if (a.first != b.first)
            return a.first < b.first;
        return a.t0 < a.t1 ? a.t0 < b.t0 : a.t0 > b.t0; // along the chain
    });
    set.firstOfChain.assign(set.chains.size() + 1, set.strands.size());
    for (size_t i = set.strands.size(); i-- > 0;)
        set.firstOfChain[index(set.strands[i].chain)] = i;
    for (size_t c = set.chains.size(); c-- > 0;)
        set.firstOfChain[c] = std::min(set.firstOfChain[c], set.firstOfChain[c + 1]);
}

} // namespace

base::Result<StrandSet> layStrands(EdgeNet& net, const Grid& grid, const StrandOptions& options,
                                   const base::Progress& progress) {
    StrandSet set;
    makeChains(net, set);
    auto settled = Refiner(net, set, grid, progress).settle(wholeChains(net, set), Refiner::Depth::Edges);
    if (!settled)
        return settled.error();
    std::vector<Strand> rough = settled.take();
    if (std::vector<NetCut> cuts = cutsAmong(net, set, rough); !cuts.empty()) {
        applyCuts(net, std::move(cuts));
        set = {};
        makeChains(net, set);
        rough = wholeChains(net, set);
        for (Strand& s : rough)
            s.meets = true; // to be looked at anew
    }
    Refiner refiner(net, set, grid, progress);
    if (options.isFineEverywhere) {
        set.strands = refiner.splitAll(std::move(rough));
    } else {
        std::vector<Strand> meeting;
        for (Strand& s : rough)
            (std::exchange(s.meets, false) ? meeting : set.strands).push_back(s);
        auto fine = refiner.settle(std::move(meeting), Refiner::Depth::Fine);
        if (!fine)
            return fine.error();
        set.strands.insert(set.strands.end(), fine->begin(), fine->end());
    }
    sortIntoChains(set);
    return set;
}

} // namespace thinline::geometry
