// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "split/Seams.h"

#include "geometry/Measures.h"
#include "split/Pose.h"
#include "split/Slivers.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <utility>

namespace thinline::split {

using geometry::Point;
using geometry::Polygon;
using geometry::Polygons;

Stretch SeamNet::stretch(size_t edge) const {
    const Node &a = nodes[static_cast<size_t>(edges[edge].first)],
               &b = nodes[static_cast<size_t>(edges[edge].second)];
    return {a.at, b.at, a.ring, b.ring};
}

std::vector<size_t> SeamNet::edgesAt(int node) const {
    std::vector<size_t> out;
    for (size_t i = 0; i < edges.size(); ++i)
        if (edges[i].first == node || edges[i].second == node)
            out.push_back(i);
    return out;
}

// ---- rings ------------------------------------------------------------------------------------------------

Track::Track(const Polygon& ring) : m_ring(ring), m_upTo{0} {
    for (size_t i = 0; i < ring.size(); ++i)
        m_upTo.push_back(m_upTo.back() + geometry::distance(ring[i], ring[(i + 1) % ring.size()]));
}

double Track::wrapped(double alongMm) const {
    const double around = std::fmod(alongMm, lengthMm());
    return around < 0 ? around + lengthMm() : around;
}

size_t Track::stepAt(double alongMm) const {
    const auto next = std::upper_bound(m_upTo.begin(), m_upTo.end(), alongMm);
    return std::min(static_cast<size_t>(next - m_upTo.begin()) - 1, m_ring.size() - 1);
}

Point Track::at(double alongMm) const {
    const double along = wrapped(alongMm);
    const size_t i = stepAt(along);
    const double length = m_upTo[i + 1] - m_upTo[i];
    const Point a = m_ring[i], b = m_ring[(i + 1) % m_ring.size()];
    return length > 0 ? a + (b - a) * ((along - m_upTo[i]) / length) : a;
}

Polygon Track::between(double fromMm, double toMm) const {
    Polygon out;
    const size_t first = stepAt(fromMm), last = stepAt(toMm);
    size_t steps = (last + m_ring.size() - first) % m_ring.size();
    if (steps == 0 && toMm <= fromMm)
        steps = m_ring.size();
    for (size_t k = 1; k <= steps; ++k) {
        const size_t corner = (first + k) % m_ring.size();
        if (std::abs(m_upTo[corner] - toMm) > 1e-9)
            out.push_back(m_ring[corner]);
    }
    return out;
}

// ---- the parts' outlines ----------------------------------------------------------------------------------

namespace {

/// A way from a node to a node with the card on its one side: along a seam, or along a ring.
struct HalfEdge {
    int from, to;
    double leaves, arrives; ///< directions; `arrives` looks back from the end
    Polygon between;        ///< without its ends
};

std::vector<HalfEdge> halfEdgesOf(const std::vector<Track>& tracks, const SeamNet& seams) {
    std::vector<HalfEdge> out;
    const auto angle = [](Point d) { return std::atan2(d.y, d.x); };
    for (const auto& [a, b] : seams.edges) {
        const Point d = seams.nodes[static_cast<size_t>(b)].at - seams.nodes[static_cast<size_t>(a)].at;
        out.push_back({a, b, angle(d), angle(d * -1), {}});
        out.push_back({b, a, angle(d * -1), angle(d), {}});
    }
    for (size_t r = 0; r < tracks.size(); ++r) {
        std::vector<std::pair<double, int>> on;
        for (size_t i = 0; i < seams.nodes.size(); ++i)
            if (seams.nodes[i].ring == static_cast<int>(r) && !seams.edgesAt(static_cast<int>(i)).empty())
                on.emplace_back(seams.nodes[i].alongMm, static_cast<int>(i));
        std::sort(on.begin(), on.end());
        for (size_t i = 0; i < on.size(); ++i) {
            const auto& [from, a] = on[i];
            const auto& [to, b] = on[(i + 1) % on.size()];
            Polygon way = tracks[r].between(from, to);
            const Point start = seams.nodes[static_cast<size_t>(a)].at,
                        end = seams.nodes[static_cast<size_t>(b)].at;
            const Point second = way.empty() ? end : way.front(), last = way.empty() ? start : way.back();
            out.push_back({a, b, angle(second - start), angle(last - end), std::move(way)});
        }
    }
    return out;
}

} // namespace

std::vector<Polygon> outlinesOf(const std::vector<Track>& tracks, const SeamNet& seams) {
    const std::vector<HalfEdge> ways = halfEdgesOf(tracks, seams);
    std::vector<std::vector<int>> leaving(seams.nodes.size());
    for (size_t i = 0; i < ways.size(); ++i)
        leaving[static_cast<size_t>(ways[i].from)].push_back(static_cast<int>(i));
    std::vector<char> isWalked(ways.size(), 0);
    std::vector<Polygon> out;
    for (size_t start = 0; start < ways.size(); ++start) {
        if (isWalked[start])
            continue;
        Polygon outline;
        for (size_t at = start; !isWalked[at];) {
            isWalked[at] = 1;
            const HalfEdge& way = ways[at];
            outline.push_back(seams.nodes[static_cast<size_t>(way.from)].at);
            outline.insert(outline.end(), way.between.begin(), way.between.end());
            // On by the way that lies next on the card's side.
            double least = 1e300;
            for (const int next : leaving[static_cast<size_t>(way.to)]) {
                double turn = way.arrives - ways[static_cast<size_t>(next)].leaves;
                while (turn <= 1e-12)
                    turn += 2 * std::numbers::pi;
                if (turn < least) {
                    least = turn;
                    at = static_cast<size_t>(next);
                }
            }
        }
        if (geometry::signedArea(outline) > 1e-6)
            out.push_back(std::move(outline));
    }
    // The outline itself, where no seam reaches it.
    if (std::none_of(seams.nodes.begin(), seams.nodes.end(), [](const Node& node) { return node.ring == 0; }))
        out.push_back(tracks[0].between(0, 0));
    return out;
}

// ---- moving them ------------------------------------------------------------------------------------------

namespace {

bool doCross(Point a, Point b, Point c, Point d) {
    const auto side = [](Point p, Point q, Point r) { return geometry::cross(q - p, r - p); };
    return side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
}

class Settling {
  public:
    Settling(SeamNet& seams, const std::vector<Track>& tracks, const Pricing& pricing, const Room& room,
             const base::Progress& progress)
        : m_seams(seams), m_tracks(tracks), m_pricing(pricing),
          m_progress(progress), m_room{room.widthMm - pricing.options().inHandMm,
                                       room.heightMm - pricing.options().inHandMm},
          m_parts(outlinesOf(tracks, seams).size()) {}

    void run() {
        dropBends();
        for (const auto& [reach, step] : {std::pair{20.0, 2.0}, {10.0, 1.0}, {4.0, 0.4}})
            for (size_t i = 0; i < m_seams.nodes.size() && !m_progress.isCancelled(); ++i) {
                if (m_seams.edgesAt(static_cast<int>(i)).empty())
                    continue;
                if (m_seams.nodes[i].ring != kInside)
                    slide(i, reach, step);
                else
                    shift(i, reach * 0.4);
            }
        dropBends();
    }

  private:
    double priceAround(int node) const {
        double out = 0;
        for (const size_t edge : m_seams.edgesAt(node))
            out += priceOf(edge);
        return out;
    }
    double priceOf(size_t edge) const {
        const auto& [a, b] = m_seams.edges[edge];
        const Stretch stretch = m_seams.stretch(edge);
        double out = m_pricing.of(stretch).price;
        // The last leg to where seams meet is no stump.
        const auto isMeeting = [&](int n) {
            return m_seams.nodes[static_cast<size_t>(n)].ring == kInside && m_seams.edgesAt(n).size() > 2;
        };
        if ((isMeeting(a) || isMeeting(b)) &&
            geometry::distance(stretch.a, stretch.b) < 1.1 * m_pricing.options().thinMm)
            out += 100;
        return out;
    }
    int sliversAround(int node) const {
        int out = 0;
        std::vector<Stretch> walls;
        for (size_t i = 0; i < m_seams.edges.size(); ++i)
            walls.push_back(m_seams.stretch(i));
        for (const size_t edge : m_seams.edgesAt(node))
            out += sliversBeside(m_pricing.rings(), m_seams.stretch(edge), walls, m_pricing.options().thinMm);
        return out;
    }

    /// Whether the seams at some node still part the shape as before: none crosses an edge or another one, the parts
    /// are as many, and all fit.
    bool isSound(int node) const {
        for (const size_t edge : m_seams.edgesAt(node)) {
            const Stretch s = m_seams.stretch(edge);
            if (geometry::distance(s.a, s.b) < 0.5 || crossesAnEdge(s))
                return false;
            for (size_t other = 0; other < m_seams.edges.size(); ++other)
                if (other != edge) {
                    const Stretch o = m_seams.stretch(other);
                    if (doCross(s.a, s.b, o.a, o.b))
                        return false;
                }
        }
        const std::vector<Polygon> outlines = outlinesOf(m_tracks, m_seams);
        return outlines.size() == m_parts &&
               std::all_of(outlines.begin(), outlines.end(),
                           [&](const Polygon& one) { return fits(geometry::convexHull(one), m_room); });
    }
    bool crossesAnEdge(const Stretch& s) const {
        // Its ends lie on edges: only what is between them counts.
        const Point a = s.a + (s.b - s.a) * 1e-6, b = s.b + (s.a - s.b) * 1e-6;
        geometry::Box box;
        box.include(a);
        box.include(b);
        for (const Polygon& ring : m_pricing.rings())
            for (size_t i = 0; i < ring.size(); ++i) {
                const Point c = ring[i], d = ring[(i + 1) % ring.size()];
                if (std::max(c.x, d.x) < box.least.x || std::min(c.x, d.x) > box.most.x ||
                    std::max(c.y, d.y) < box.least.y || std::min(c.y, d.y) > box.most.y)
                    continue;
                if (doCross(a, b, c, d))
                    return true;
            }
        return !geometry::contains(m_pricing.rings(), geometry::middle(a, b));
    }

    /// Tries other places for a node, the cheapest first; takes the first that is sound.
    void tryPlaces(size_t i, const std::vector<Node>& places) {
        const Node before = m_seams.nodes[i];
        const int number = static_cast<int>(i);
        const double now = priceAround(number);
        std::vector<std::pair<double, size_t>> cheaper;
        for (size_t k = 0; k < places.size(); ++k) {
            m_seams.nodes[i] = places[k];
            if (const double price = priceAround(number); price < now - 0.05)
                cheaper.emplace_back(price, k);
        }
        m_seams.nodes[i] = before;
        if (cheaper.empty())
            return;
        std::sort(cheaper.begin(), cheaper.end());
        for (size_t k = 0; k < std::min<size_t>(cheaper.size(), 6); ++k) {
            m_seams.nodes[i] = places[cheaper[k].second];
            if (!isSound(number))
                continue;
            const int slivers = sliversAround(number);
            if (slivers == 0) // mostly so, and nothing need be compared
                return;
            const Node there = std::exchange(m_seams.nodes[i], before);
            const int were = sliversAround(number);
            m_seams.nodes[i] = there;
            if (slivers <= were)
                return;
        }
        m_seams.nodes[i] = before;
    }

    void slide(size_t i, double reachMm, double stepMm) {
        const Node from = m_seams.nodes[i];
        const Track& track = m_tracks[static_cast<size_t>(from.ring)];
        std::vector<Node> places;
        for (double by = stepMm; by <= std::min(reachMm, track.lengthMm() / 2); by += stepMm)
            for (const double along : {from.alongMm + by, from.alongMm - by}) {
                double on = std::fmod(along, track.lengthMm());
                on = on < 0 ? on + track.lengthMm() : on;
                places.push_back({track.at(on), from.ring, on});
            }
        tryPlaces(i, places);
    }

    void shift(size_t i, double mostMm) {
        for (double by = mostMm; by >= 0.5; by /= 2) {
            std::vector<Node> places;
            for (int k = 0; k < 8; ++k)
                places.push_back(
                    {m_seams.nodes[i].at +
                         Point{std::cos(k * std::numbers::pi / 4), std::sin(k * std::numbers::pi / 4)} * by,
                     kInside, 0});
            tryPlaces(i, places);
        }
    }

    /// Bends that are worth nothing are taken out.
    void dropBends() {
        for (size_t i = 0; i < m_seams.nodes.size() && !m_progress.isCancelled(); ++i) {
            const std::vector<size_t> at = m_seams.edgesAt(static_cast<int>(i));
            if (m_seams.nodes[i].ring != kInside || at.size() != 2)
                continue;
            const SeamNet before = m_seams;
            const double price = priceOf(at[0]) + priceOf(at[1]);
            const int slivers = sliversAround(static_cast<int>(i));
            const auto other = [&](size_t edge) {
                const auto& [a, b] = m_seams.edges[edge];
                return a == static_cast<int>(i) ? b : a;
            };
            const int a = other(at[0]), b = other(at[1]);
            m_seams.edges[at[0]] = {a, b};
            m_seams.edges.erase(m_seams.edges.begin() + static_cast<std::ptrdiff_t>(at[1]));
            const size_t edge = at[0] - (at[1] < at[0] ? 1 : 0);
            if (a == b || priceOf(edge) > price + 1e-6 || !isSound(a) || sliversAround(a) > slivers)
                m_seams = before;
        }
    }

    SeamNet& m_seams;
    const std::vector<Track>& m_tracks;
    const Pricing& m_pricing;
    const base::Progress& m_progress;
    const Room m_room;
    const size_t m_parts;
};

} // namespace

void settle(SeamNet& seams, const std::vector<Track>& tracks, const Pricing& pricing, const Room& room,
            const base::Progress& progress) {
    if (!seams.edges.empty())
        Settling(seams, tracks, pricing, room, progress).run();
}

std::vector<geometry::Line> linesOf(const SeamNet& seams) {
    std::vector<geometry::Line> out;
    std::vector<char> isWalked(seams.edges.size(), 0);
    const auto isBend = [&](int node) {
        return seams.nodes[static_cast<size_t>(node)].ring == kInside && seams.edgesAt(node).size() == 2;
    };
    const auto walk = [&](size_t edge, int from) {
        geometry::Line line{seams.nodes[static_cast<size_t>(from)].at, {}};
        for (int at = from;;) {
            isWalked[edge] = 1;
            at = seams.edges[edge].first == at ? seams.edges[edge].second : seams.edges[edge].first;
            line.segments.push_back(geometry::Segment::line(seams.nodes[static_cast<size_t>(at)].at));
            if (!isBend(at))
                break;
            const std::vector<size_t> both = seams.edgesAt(at);
            const size_t next = both[0] == edge ? both[1] : both[0];
            if (isWalked[next])
                break;
            edge = next;
        }
        out.push_back(std::move(line));
    };
    for (size_t i = 0; i < seams.edges.size(); ++i)
        for (const int end : {seams.edges[i].first, seams.edges[i].second})
            if (!isWalked[i] && !isBend(end))
                walk(i, end);
    return out;
}

} // namespace thinline::split
