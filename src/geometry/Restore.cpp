// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Restoring: from the engine's rings back to curves.
//
// The engine returns rings of grid points. Some of these points are ends of strands that went in, others
// are crossings it found between chords, rounded to the grid. Nothing says which chord a step came from:
// the library can carry a number with every point, but is built without that in Debian, and the numbers of
// two chords that cross would not say more than we find here.
//
// 1. Each step of a ring is looked up by its ends. Nearly always one end, and mostly both, are ends of a
//    strand: a hash of grid points finds it. If both ends belong to the same strand, the step is that
//    strand. If one does, the other end lies somewhere along it. Only a step between two crossings on one
//    and the same strand has neither; for these a grid of cells is filled the first time one is met. Among
//    strands between the same two places (there and back along a cut) the one that continues the chain of
//    the step before is preferred, for then the two merge and leave no node.
// 2. Strands become spans: a stretch of a source curve from one parameter to another. Spans that run on in
//    the same source are merged. This takes every node away again that the net and the strands have put in
//    (turning points, halvings, cuts), and is the reason why an outline that was not touched comes back
//    bit for bit.
// 3. Where two spans meet, the joint is settled. If a node of the net is there, it is the node. If two
//    curves cross, Newton steps move the parameters of both until they agree within 1e-11 mm; the guess
//    comes from chords that stray at most 0.15 um, so it converges in a few steps or the curves run
//    alongside. For these, no crossing is better than another one: the middle between both is taken, and
//    each is at most half a tolerance away from it.
// 4. What has shrunk to nothing goes: spans under 0.05 um, nodes on a straight side between two outlines
//    (two rectangles welded edge to edge have no node in the middle of their common side), and at last
//    rings that are thinner than what counts as the same. Such rings are what is left between two curves
//    that were nearly but not quite joined; they are never card.
//
// How it is known to be right: the length of steps for which no strand was found is summed up. Crumbs at
// crossings are a fraction of a micrometre each; more than 5 um in all means that something was
// misunderstood, and Boolean.cpp climbs to the next rung of its ladder.
//
// Considered and left: the nearest curve at every step (it jumps to a neighbour where two run alongside),
// and fitting curves to the ring's points (loses what was exact; it is kept as the last rung). When a
// span's end is moved to its joint the handle beside it moves along (`written`): the end alone would put a
// kink into short spans.
//
// Cost: O(1) for a step on the average; the cells are filled only when a step between two crossings is
// met.
#include "geometry/Restore.h"

#include <optional>

namespace thinline::geometry {
namespace {

constexpr double kNearGrid = 4;      // grid units by which the engine's rounding moves a crossing
constexpr double kCrumbMm = 0.00005; // stretches shorter than this are noise of the last digits
constexpr double kStraightMm =
    0.00005; // a node that bends two lines of different outlines by less is dropped

size_t index(int i) {
    return static_cast<size_t>(i);
}

std::uint64_t keyOf(GridPoint g) {
    return HashIndex::mix(static_cast<std::uint64_t>(g.x), static_cast<std::uint64_t>(g.y));
}

Point vectorOf(GridPoint from, GridPoint to) {
    return {static_cast<double>(to.x - from.x), static_cast<double>(to.y - from.y)};
}

/// How far along a-b a place lies (0 to 1), if it lies on it within the engine's rounding.
std::optional<double> shareOn(GridPoint a, GridPoint b, GridPoint p, double& away) {
    const Point along = vectorOf(a, b), to = vectorOf(a, p);
    const double square = dot(along, along);
    if (!(square > 0))
        return std::nullopt;
    away = std::abs(cross(along, to)) / std::sqrt(square);
    const double share = dot(along, to) / square, slack = kNearGrid / std::sqrt(square);
    if (away > kNearGrid || share < -slack || share > 1 + slack)
        return std::nullopt;
    return std::clamp(share, 0.0, 1.0);
}

/// Where two curves cross, by Newton steps from a guess on each; none when they run alongside.
struct Crossing {
    double t = 0, s = 0;
};
std::optional<Crossing> crossingNear(const Cubic& a, const Cubic& b, double t, double s) {
    const Point begin = a.at(t);
    for (int i = 0; i < 24; ++i) {
        const Point miss = a.at(t) - b.at(s);
        if (length(miss) < 1e-11)
            break;
        const Point va = a.speed(t), vb = b.speed(s);
        const double det = cross(va, vb);
        if (std::abs(det) < 1e-9 * length(va) * length(vb))
            return std::nullopt;
        t = std::clamp(t - cross(miss, vb) / det, 0.0, 1.0);
        s = std::clamp(s - cross(miss, va) / det, 0.0, 1.0);
    }
    constexpr double kReachMm = 0.01; // farther away it is another crossing
    if (distance(a.at(t), b.at(s)) > 1e-6 || distance(a.at(t), begin) > kReachMm)
        return std::nullopt;
    return Crossing{t, s};
}

} // namespace

struct Restorer::Span {
    int source = -1; ///< -1: straight, between grid points
    double t0 = 0, t1 = 1;
    GridPoint from, to;
    int nodeFrom = -1, nodeTo = -1;
};

Restorer::Restorer(const EdgeNet& net, const StrandSet& set, const Grid& grid)
    : m_net(net), m_set(set), m_grid(grid), m_ends(2 * set.strands.size()) {
    for (const Strand& s : set.strands) {
        m_ends.add(keyOf(s.from));
        m_ends.add(keyOf(s.to));
    }
}

Restorer::Step Restorer::stepBetween(GridPoint from, GridPoint to, int previousStrand) {
    Step whole, part;
    double least = kNearGrid + 1;
    const auto lookAt = [&](GridPoint here, GridPoint there, bool isStart) {
        for (int e = m_ends.first(keyOf(here)); e >= 0; e = m_ends.next(e)) {
            const Strand& s = m_set.strands[index(e / 2)];
            const bool atFrom = e % 2 == 0;
            if (!((atFrom ? s.from : s.to) == here))
                continue; // another place with the same key
            if ((atFrom ? s.to : s.from) == there && isStart) {
                const bool continues =
                    previousStrand >= 0 && m_set.strands[index(previousStrand)].chain == s.chain;
                if (whole.strand < 0 || continues)
                    whole = {e / 2, atFrom ? 0.0 : 1.0, atFrom ? 1.0 : 0.0};
                continue;
            }
            if (s.last - s.first > 1)
                continue; // nothing comes near a strand of several edges
            double away = 0;
            const auto share = shareOn(s.from, s.to, there, away);
            if (share && away < least) {
                least = away;
                const double end = atFrom ? 0.0 : 1.0;
                part = {e / 2, isStart ? end : *share, isStart ? *share : end};
            }
        }
    };
    lookAt(from, to, true);
    if (whole.strand >= 0)
        return whole;
    lookAt(to, from, false);
    return part.strand >= 0 ? part : searchCells(from, to);
}

void Restorer::fillCells() {
    double extent = 0;
    size_t count = 0;
    for (const Strand& s : m_set.strands)
        if (s.meets) {
            const Point v = vectorOf(s.from, s.to);
            extent += std::max(std::abs(v.x), std::abs(v.y));
            ++count;
        }
    m_cell =
        std::max<std::int64_t>(64, static_cast<std::int64_t>(2 * extent / static_cast<double>(count + 1)));
    m_cells = HashIndex(2 * count);
    constexpr std::int64_t kMostCells = 256;
    for (size_t i = 0; i < m_set.strands.size(); ++i) {
        const Strand& s = m_set.strands[i];
        if (!s.meets)
            continue;
        const auto cell = [&](std::int64_t v) { return v >= 0 ? v / m_cell : -((-v + m_cell - 1) / m_cell); };
        const std::int64_t x0 = cell(std::min(s.from.x, s.to.x) - 4),
                           x1 = cell(std::max(s.from.x, s.to.x) + 4),
                           y0 = cell(std::min(s.from.y, s.to.y) - 4),
                           y1 = cell(std::max(s.from.y, s.to.y) + 4);
        if ((x1 - x0 + 1) * (y1 - y0 + 1) > kMostCells) {
            m_long.push_back(static_cast<int>(i));
            continue;
        }
        for (std::int64_t y = y0; y <= y1; ++y)
            for (std::int64_t x = x0; x <= x1; ++x) {
                m_cells.add(keyOf({x, y}));
                m_cellStrand.push_back(static_cast<int>(i));
            }
    }
}

Restorer::Step Restorer::searchCells(GridPoint from, GridPoint to) {
    if (m_cell == 0)
        fillCells();
    Step best;
    double least = 2 * kNearGrid + 1;
    const auto consider = [&](int strand) {
        const Strand& s = m_set.strands[index(strand)];
        double away0 = 0, away1 = 0;
        const auto f0 = shareOn(s.from, s.to, from, away0), f1 = shareOn(s.from, s.to, to, away1);
        if (f0 && f1 && away0 + away1 < least) {
            least = away0 + away1;
            best = {strand, *f0, *f1};
        }
    };
    const GridPoint middle{(from.x + to.x) / 2, (from.y + to.y) / 2};
    const auto cell = [&](std::int64_t v) { return v >= 0 ? v / m_cell : -((-v + m_cell - 1) / m_cell); };
    for (int e = m_cells.first(keyOf({cell(middle.x), cell(middle.y)})); e >= 0; e = m_cells.next(e))
        consider(m_cellStrand[index(e)]);
    for (int strand : m_long)
        consider(strand);
    return best;
}

void Restorer::append(std::vector<Span>& spans, const Step& step, GridPoint from, GridPoint to) const {
    const auto add = [&](Span span) {
        if (!spans.empty()) {
            Span& last = spans.back();
            const bool isOneWay = (last.t1 > last.t0) == (span.t1 > span.t0);
            if (last.source == span.source && last.source >= 0 && isOneWay &&
                std::abs(last.t1 - span.t0) < 1e-9) {
                last.t1 = span.t1;
                last.to = span.to;
                last.nodeTo = span.nodeTo;
                return;
            }
        }
        spans.push_back(span);
    };
    if (step.strand < 0) {
        add({-1, 0, 1, from, to, -1, -1});
        return;
    }
    const Strand& s = m_set.strands[index(step.strand)];
    const Chain& chain = m_set.chains[index(s.chain)];
    const bool isForward = step.f0 < step.f1;
    if (s.last - s.first > 1) {
        for (int k = s.first; k < s.last; ++k) {
            EdgeUse use = chain[index(isForward ? k : s.last - 1 - (k - s.first))];
            use.isForward = use.isForward == isForward;
            const NetEdge& e = m_net.edges[index(use.edge)];
            const int a = m_net.fromNode(use), b = m_net.toNode(use);
            add({e.source, use.isForward ? e.t0 : e.t1, use.isForward ? e.t1 : e.t0, m_net.nodeGrid[index(a)],
                 m_net.nodeGrid[index(b)], a, b});
        }
        return;
    }
    const NetEdge& e = m_net.edges[index(chain[index(s.first)].edge)];
    const auto place = [&](double f) { return f == 0 ? s.t0 : f == 1 ? s.t1 : s.t0 + (s.t1 - s.t0) * f; };
    const auto nodeOf = [&](double t) { return t == e.t0 ? e.from : t == e.t1 ? e.to : -1; };
    const double t0 = place(step.f0), t1 = place(step.f1);
    if (t0 != t1)
        add({e.source, t0, t1, from, to, nodeOf(t0), nodeOf(t1)});
}

Point Restorer::settleJoint(Span& a, Span& b) const {
    if (a.nodeTo >= 0 && b.nodeFrom >= 0)
        return m_net.nodes[index(a.nodeTo)];
    const auto curve = [&](const Span& span) -> const Cubic& {
        return m_net.sources[index(span.source)].curve;
    };
    if (a.nodeTo >= 0 || b.nodeFrom >= 0) {
        const Point p = m_net.nodes[index(a.nodeTo >= 0 ? a.nodeTo : b.nodeFrom)];
        if (a.nodeTo < 0 && a.source >= 0)
            a.t1 = nearestFrom(curve(a), p, a.t1).t;
        if (b.nodeFrom < 0 && b.source >= 0)
            b.t0 = nearestFrom(curve(b), p, b.t0).t;
        return p;
    }
    if (a.source < 0 || b.source < 0) {
        const Point p = m_grid.place(b.from);
        if (a.source >= 0)
            a.t1 = nearestFrom(curve(a), p, a.t1).t;
        if (b.source >= 0)
            b.t0 = nearestFrom(curve(b), p, b.t0).t;
        return p;
    }
    if (const auto crossing = crossingNear(curve(a), curve(b), a.t1, b.t0)) {
        a.t1 = crossing->t;
        b.t0 = crossing->s;
        return curve(a).at(a.t1);
    }
    // They run alongside: the middle between both, half a tolerance from either.
    const Point p = middle(curve(a).at(a.t1), curve(b).at(b.t0));
    a.t1 = nearestFrom(curve(a), p, a.t1).t;
    b.t0 = nearestFrom(curve(b), p, b.t0).t;
    return middle(curve(a).at(a.t1), curve(b).at(b.t0));
}

Contour Restorer::written(const std::vector<Span>& spans, const std::vector<Point>& joints) const {
    const size_t n = spans.size();
    Contour out{joints[0], {}};
    out.segments.reserve(n);
    for (size_t i = 0; i < n; ++i) {
        const Span& span = spans[i];
        const Point from = joints[i], to = joints[(i + 1) % n];
        if (span.source < 0 || m_net.sources[index(span.source)].isLine) {
            out.segments.push_back(Segment::line(to));
            continue;
        }
        const Cubic& source = m_net.sources[index(span.source)].curve;
        const Cubic part = span.t0 == 0 && span.t1 == 1   ? source
                           : span.t0 == 1 && span.t1 == 0 ? source.reversed()
                                                          : stretch(source, span.t0, span.t1);
        out.segments.push_back(Segment::curve(part.b + (from - part.a), part.c + (to - part.d), to));
    }
    return out;
}

Contour Restorer::outlineOf(const GridRing& ring) {
    std::vector<Span> spans;
    spans.reserve(ring.size());
    int previous = -1;
    for (size_t i = 0; i < ring.size(); ++i) {
        const GridPoint from = ring[i], to = ring[(i + 1) % ring.size()];
        const Step step = stepBetween(from, to, previous);
        previous = step.strand;
        if (step.strand < 0)
            m_lostMm += length(vectorOf(from, to)) / Grid::kUnitsPerMm;
        append(spans, step, from, to);
    }
    // The ring starts anywhere: its last stretch may run on into its first.
    if (spans.size() > 1) {
        Span &first = spans.front(), &last = spans.back();
        if (first.source == last.source && first.source >= 0 && std::abs(last.t1 - first.t0) < 1e-9 &&
            (last.t1 > last.t0) == (first.t1 > first.t0)) {
            first.t0 = last.t0;
            first.from = last.from;
            first.nodeFrom = last.nodeFrom;
            spans.pop_back();
        }
    }
    const auto settleAll = [&] {
        std::vector<Point> joints(spans.size());
        for (size_t i = 0; i < spans.size(); ++i)
            joints[i] = settleJoint(spans[(i + spans.size() - 1) % spans.size()], spans[i]);
        return joints;
    };
    std::vector<Point> joints = settleAll();
    // What has shrunk to nothing, and nodes on straight sides between different outlines, go.
    const auto isSpare = [&](size_t i) {
        const size_t n = spans.size(), before = (i + n - 1) % n;
        const Point from = joints[i], to = joints[(i + 1) % n];
        if (distance(from, to) < kCrumbMm) {
            if (spans[i].source < 0 || m_net.sources[index(spans[i].source)].isLine)
                return true;
            const Cubic part = stretch(m_net.sources[index(spans[i].source)].curve, spans[i].t0, spans[i].t1);
            return distance(part.a, part.b) + distance(part.b, part.c) + distance(part.c, part.d) <
                   4 * kCrumbMm;
        }
        const Span &a = spans[before], &b = spans[i];
        if (a.source < 0 || b.source < 0)
            return false;
        const NetSource &sa = m_net.sources[index(a.source)], &sb = m_net.sources[index(b.source)];
        return sa.isLine && sb.isLine && sa.contour != sb.contour &&
               dot(from - joints[before], to - from) > 0 &&
               distanceToStretch(from, joints[before], to) < kStraightMm;
    };
    for (size_t i = 0; i < spans.size() && spans.size() > 1;) {
        if (isSpare(i)) {
            // The stretch before takes its place; a crumb leaves the joint behind it to the next one.
            spans.erase(spans.begin() + static_cast<std::ptrdiff_t>(i));
            joints.erase(joints.begin() + static_cast<std::ptrdiff_t>(i));
        } else {
            ++i;
        }
    }
    if (spans.size() < 2 && (spans.empty() || spans[0].source < 0))
        return {};
    Contour out = written(spans, joints);
    // Twice the area over the length is about the width of a thin ring; one below what counts as the same is
    // none.
    const double size = contourLength(out);
    return size > 0 && 2 * std::abs(signedArea(out)) / size > kSameMm ? out : Contour{};
}

} // namespace thinline::geometry
