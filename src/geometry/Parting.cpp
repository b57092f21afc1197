// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How a shape is parted by lines.
//
// The set operations know areas only, and a line is none. Making a line an area (a hair wide) and subtracting
// it was tried first: it eats a hair of every part, so that areas no longer add up and neighbours no longer
// share their border; and it cannot tell which lines dangle. So the division is made as a graph.
//
// 1. Every curve of outline, openings and lines is cut where another one crosses it or ends on it. What is
//    nearer than kSame is one node. Of two stretches that coincide one stays, an edge of the card before a
//    line.
// 2. An end of a line that meets nothing is a dangling end. Its edge is taken away, and with it what dangles
//    then: such edges have the same face on both sides and bound nothing.
// 3. Every edge is two half-edges. Around a node they are sorted by the way they leave, ties by curvature. A
//    face is walked by turning off, at every node, into the next half-edge round: so each half-edge belongs
//    to exactly one face.
// 4. An edge of the shape has card on one side only, its right as it runs (the rule of `Shape`). A walk that
//    uses it the other way round is no card and is dropped: the outside, and the insides of openings.
// 5. Walks of positive area are the parts' outlines. Those of negative area go round something that touches
//    nothing: an opening, or lines that lie free within a part. They become openings of the smallest part
//    around them.
//
// Stretches are put together again where only two edges meet, so that a curve nothing touches comes out with
// the control points it went in with; where three meet both neighbours are split alike and agree to the bit.
#include "geometry/Parting.h"

#include "geometry/Cubic.h"
#include "geometry/Measures.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

namespace thinline::geometry {
namespace {

constexpr double kSame = 0.001; // mm: what is nearer is one node; a knife places to 0.1 mm

/// A curve as it was given.
struct Given {
    Cubic curve;
    bool isStraight = true;
    bool isEdge = false; ///< of the card; else of a line
    Box box;
    std::vector<double> cuts; ///< where it is cut, inside (0, 1)
};

/// A stretch of a given curve between two nodes.
struct Edge {
    size_t given = 0;
    double t0 = 0, t1 = 1;
    size_t from = 0, to = 0;
    bool isGone = false;
};

/// Half-edge 2i runs along edge i, 2i + 1 against it.
using Half = size_t;

/// Nodes by place.
class Nodes {
  public:
    size_t at(Point p) {
        const long long cx = cell(p.x), cy = cell(p.y);
        for (long long x = cx - 1; x <= cx + 1; ++x)
            for (long long y = cy - 1; y <= cy + 1; ++y)
                if (const auto found = m_cells.find({x, y}); found != m_cells.end())
                    for (size_t node : found->second)
                        if (distance(m_places[node], p) <= kSame)
                            return node;
        m_cells[{cx, cy}].push_back(m_places.size());
        m_places.push_back(p);
        return m_places.size() - 1;
    }
    Point place(size_t node) const { return m_places[node]; }
    size_t count() const { return m_places.size(); }

  private:
    static long long cell(double v) { return static_cast<long long>(std::floor(v / kSame)); }
    std::map<std::pair<long long, long long>, std::vector<size_t>> m_cells;
    std::vector<Point> m_places;
};

class Parting {
  public:
    Parting(const Shape& shape, const std::vector<Line>& lines, const base::Progress& progress)
        : m_shape(shape), m_lines(lines), m_progress(progress) {}

    base::Result<Parted> run() {
        take(m_shape.outline, true);
        for (const Contour& opening : m_shape.openings)
            take(opening, true);
        for (const Line& line : m_lines) {
            auto onCard = clippedTo(line, m_shape);
            if (!onCard)
                return onCard.error();
            for (const Line& part : *onCard)
                take(part, false);
        }
        for (size_t i = 0; i < m_given.size(); ++i) {
            if (m_progress.isCancelled())
                return base::cancelled();
            cutByOthers(i);
        }
        for (size_t i = 0; i < m_given.size(); ++i)
            addEdges(i);
        prune();
        sortAround();
        walkAll();
        return assemble();
    }

  private:
    void take(const Contour& contour, bool isEdge) {
        eachCurve(contour, [&](const Cubic& k, const Segment& s) {
            Box box;
            for (const Point p : {k.a, k.b, k.c, k.d})
                box.include(p);
            m_given.push_back({k, s.isLine, isEdge, box.grownBy(kSame), {}});
        });
    }

    void cutByOthers(size_t i) {
        Given& one = m_given[i];
        for (size_t j = 0; j < m_given.size(); ++j) {
            const Given& other = m_given[j];
            // Edges of a shape do not cross one another.
            if (i == j || (one.isEdge && other.isEdge) || !one.box.meets(other.box))
                continue;
            if (i < j)
                for (const auto& [t, s] : crossingsOf(one.curve, other.curve)) {
                    one.cuts.push_back(t);
                    m_given[j].cuts.push_back(s);
                }
            for (const Point end : {other.curve.a, other.curve.d})
                if (const Foot foot = nearest(one.curve, end); foot.distance <= kSame)
                    one.cuts.push_back(foot.t);
        }
    }

    void addEdges(size_t i) {
        Given& one = m_given[i];
        std::sort(one.cuts.begin(), one.cuts.end());
        double t0 = 0;
        size_t from = m_nodes.at(one.curve.a);
        const auto step = [&](double t1, Point end) {
            const size_t to = m_nodes.at(end);
            const bool isLoop = from == to && curveLength(one.curve, t0, t1) > 4 * kSame;
            if (from == to && !isLoop)
                return; // shrunk to a node
            add({i, t0, t1, from, to, false});
            t0 = t1;
            from = to;
        };
        for (double t : one.cuts)
            if (t > t0 + 1e-9 && t < 1 - 1e-9)
                step(t, one.curve.at(t));
        step(1, one.curve.d);
    }

    /// Adds an edge unless one that is there covers the same stretch.
    void add(const Edge& edge) {
        const auto [low, high] = std::minmax(edge.from, edge.to);
        auto& known = m_between[{low, high}];
        const auto pointOf = [&](const Edge& e, double share) {
            return m_given[e.given].curve.at(e.t0 + (e.t1 - e.t0) * share);
        };
        for (size_t k : known) {
            const Cubic& curve = m_given[m_edges[k].given].curve;
            if (nearest(curve, pointOf(edge, 0.5)).distance <= kSame &&
                nearest(curve, pointOf(edge, 0.3)).distance <= kSame)
                return;
        }
        known.push_back(m_edges.size());
        m_edges.push_back(edge);
    }

    void prune() {
        std::vector<std::vector<size_t>> at(m_nodes.count());
        for (size_t e = 0; e < m_edges.size(); ++e) {
            at[m_edges[e].from].push_back(e);
            at[m_edges[e].to].push_back(e);
        }
        std::vector<size_t> ends;
        for (size_t n = 0; n < at.size(); ++n)
            if (at[n].size() == 1)
                ends.push_back(n);
        m_out.danglingEnds = static_cast<int>(ends.size());
        while (!ends.empty()) {
            const size_t node = ends.back();
            ends.pop_back();
            if (at[node].size() != 1)
                continue;
            const size_t e = at[node].front();
            m_edges[e].isGone = true;
            for (const size_t n : {m_edges[e].from, m_edges[e].to}) {
                std::erase(at[n], e);
                if (at[n].size() == 1)
                    ends.push_back(n);
            }
        }
    }

    const Edge& edgeOf(Half h) const { return m_edges[h / 2]; }
    size_t startOf(Half h) const { return h % 2 ? edgeOf(h).to : edgeOf(h).from; }
    Cubic curveOf(Half h) const {
        const Edge& e = edgeOf(h);
        const Cubic k = stretch(m_given[e.given].curve, e.t0, e.t1);
        return h % 2 ? k.reversed() : k;
    }

    /// Half-edges leaving every node, clockwise on screen.
    void sortAround() {
        struct Leaving {
            double angle, curvature;
            Half half;
        };
        std::vector<std::vector<Leaving>> leaving(m_nodes.count());
        for (Half h = 0; h < 2 * m_edges.size(); ++h) {
            if (edgeOf(h).isGone)
                continue;
            const Cubic k = curveOf(h);
            const Point way = directionAt(k, 0);
            leaving[startOf(h)].push_back({std::atan2(way.y, way.x), curvatureAt(k, 0), h});
        }
        m_next.resize(2 * m_edges.size());
        m_meets.resize(m_nodes.count());
        for (size_t n = 0; n < leaving.size(); ++n) {
            auto& all = leaving[n];
            constexpr double kSameWay = 1e-7; // radians
            std::sort(all.begin(), all.end(), [](const Leaving& a, const Leaving& b) {
                return std::abs(a.angle - b.angle) > kSameWay ? a.angle < b.angle : a.curvature < b.curvature;
            });
            m_meets[n] = all.size();
            // Arriving along the twin of one, the walk that keeps its face at the right leaves by the one
            // before it.
            for (size_t i = 0; i < all.size(); ++i)
                m_next[all[i].half ^ 1] = all[(i + all.size() - 1) % all.size()].half;
        }
    }

    void walkAll() {
        std::vector<bool> isSeen(m_next.size(), false);
        for (Half first = 0; first < m_next.size(); ++first) {
            if (isSeen[first] || edgeOf(first).isGone)
                continue;
            std::vector<Half> walk;
            bool isCard = true;
            for (Half h = first; !isSeen[h]; h = m_next[h]) {
                isSeen[h] = true;
                walk.push_back(h);
                if (m_given[edgeOf(h).given].isEdge && h % 2)
                    isCard = false;
            }
            if (isCard)
                m_walks.push_back(std::move(walk));
        }
    }

    /// The outline of a walk, stretches put together where nothing else meets.
    Contour contourOf(std::vector<Half> walk) const {
        const auto goesOn = [&](Half a, Half b) {
            const Edge &ea = edgeOf(a), &eb = edgeOf(b);
            return ea.given == eb.given && a % 2 == b % 2 && m_meets[startOf(b)] == 2 &&
                   (a % 2 ? ea.t0 == eb.t1 : ea.t1 == eb.t0);
        };
        const auto begin = std::find_if(walk.begin(), walk.end(), [&](const Half& h) {
            const Half before = &h == &walk.front() ? walk.back() : *(&h - 1);
            return !goesOn(before, h);
        });
        if (begin != walk.end())
            std::rotate(walk.begin(), begin, walk.end());
        Contour out{m_nodes.place(startOf(walk.front())), {}};
        for (size_t i = 0; i < walk.size();) {
            size_t end = i + 1;
            while (end < walk.size() && goesOn(walk[end - 1], walk[end]))
                ++end;
            const Edge &first = edgeOf(walk[i]), &last = edgeOf(walk[end - 1]);
            const Given& given = m_given[first.given];
            const bool isBack = walk[i] % 2;
            const Cubic forward =
                isBack ? stretch(given.curve, last.t0, first.t1) : stretch(given.curve, first.t0, last.t1);
            const Cubic along = isBack ? forward.reversed() : forward;
            Segment s = segmentOf(along, given.isStraight);
            s.end = m_nodes.place(startOf(walk[end - 1] ^ 1));
            if (s.isLine)
                s = Segment::line(s.end);
            out.segments.push_back(s);
            i = end;
        }
        return out;
    }

    base::Result<Parted> assemble() {
        constexpr double kNothing = 1e-9; // mm2
        std::vector<Contour> openings;
        for (const std::vector<Half>& walk : m_walks) {
            Contour contour = contourOf(walk);
            const double size = signedArea(contour);
            if (size > kNothing)
                m_out.parts.push_back({std::move(contour), {}});
            else if (size < -kNothing)
                openings.push_back(std::move(contour));
        }
        for (Contour& opening : openings) {
            Shape* holder = nullptr;
            double least = 0;
            const Point on = opening.start;
            for (Shape& part : m_out.parts) {
                const double size = signedArea(part.outline);
                if ((!holder || size < least) && size > -signedArea(opening) &&
                    bounds(part.outline).contains(on) && contains(Shape{part.outline, {}}, on)) {
                    holder = &part;
                    least = size;
                }
            }
            if (holder)
                holder->openings.push_back(std::move(opening));
        }
        std::stable_sort(m_out.parts.begin(), m_out.parts.end(), [](const Shape& a, const Shape& b) {
            const Point p = bounds(a.outline).least, q = bounds(b.outline).least;
            return p.y != q.y ? p.y < q.y : p.x < q.x;
        });
        return std::move(m_out);
    }

    const Shape& m_shape;
    const std::vector<Line>& m_lines;
    const base::Progress& m_progress;
    std::vector<Given> m_given;
    Nodes m_nodes;
    std::vector<Edge> m_edges;
    std::map<std::pair<size_t, size_t>, std::vector<size_t>> m_between; ///< edges by their two nodes
    std::vector<Half> m_next;
    std::vector<size_t> m_meets; ///< half-edges that leave a node
    std::vector<std::vector<Half>> m_walks;
    Parted m_out;
};

} // namespace

base::Result<Parted> partedBy(const Shape& shape, const std::vector<Line>& lines,
                              const base::Progress& progress) {
    if (!isFinite(shape))
        return base::Error{base::Code::InvalidArgument, "An outline has a point that is not a number."};
    if (lines.empty())
        return Parted{{shape}, 0};
    return Parting(shape, lines, progress).run();
}

} // namespace thinline::geometry
