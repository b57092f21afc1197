// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Tables for telling overlaps.
//
// A pair of outlines is asked about millions of times in a search, in ever new poses. So each has a grid of its signed
// distance, and the other one's places are looked up there: first a few discs that lie inside it, which tell at a glance
// that two lie deep on one another; then the points of its outline, in runs with a disc round each, so that a run far away
// costs one look. Two outlines that do not cross are nearest at a node of one of them, so the nodes, asked both ways, tell
// the exact distance between them; the points on long edges catch those that cross.
//
// Between nodes of the grid the distance is interpolated, which is exact beside a straight edge and too large round a
// corner. Cells in which the distance that is kept clear runs past more than one edge keep a list of the edges that can be
// nearest; there the distance is computed. A disc must never tell of an overlap that is not there, or what lies well is
// pushed apart again: for discs the distance is taken from above.
#include "sheets/NestTable.h"

#include "geometry/Measures.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace thinline::sheets {

using geometry::Point;
using geometry::Polygon;

namespace {

constexpr double kCells = 64; // along the longer side
constexpr double kLeastCellMm = 0.35, kMostCellMm = 2.5;
constexpr int kBlock = 4; // nodes that share their candidates
constexpr std::size_t kMostDiscs = 14, kRunLength = 16;
constexpr double kPointEveryMm = 7;

double toEdgeSquared(double x, double y, double ax, double ay, double bx, double by) {
    const double dx = bx - ax, dy = by - ay, l2 = dx * dx + dy * dy;
    const double t = l2 > 0 ? std::clamp(((x - ax) * dx + (y - ay) * dy) / l2, 0.0, 1.0) : 0;
    const double px = x - ax - t * dx, py = y - ay - t * dy;
    return px * px + py * py;
}
double toEdge(double x, double y, double ax, double ay, double bx, double by) {
    return std::sqrt(toEdgeSquared(x, y, ax, ay, bx, by));
}

} // namespace

Polygon hullOf(const geometry::Polygons& rings) {
    Polygon points;
    for (const Polygon& ring : rings)
        points.insert(points.end(), ring.begin(), ring.end());
    return geometry::convexHull(std::move(points));
}

NestPose NestPose::of(Point at, double turnRad) {
    turnRad = std::remainder(turnRad, 4 * std::acos(0.0));
    // Whole quarters are exact: a rectangle as wide as its sheet goes in.
    const double quarters = turnRad / std::acos(0.0), whole = std::round(quarters);
    if (std::abs(quarters - whole) < 1e-9) {
        const int q = static_cast<int>(std::llround(whole)) & 3;
        static constexpr double kCos[]{1, 0, -1, 0}, kSin[]{0, 1, 0, -1};
        return {at, turnRad, kCos[q], kSin[q]};
    }
    return {at, turnRad, std::cos(turnRad), std::sin(turnRad)};
}

NestTable::NestTable(geometry::Polygons rings, double clearMm, bool hasWalls) : m_rings(std::move(rings)) {
    std::vector<geometry::Shape> shapes;
    for (const Polygon& ring : m_rings)
        shapes.push_back({geometry::contourThrough(ring), {}});
    const geometry::Circle round = geometry::enclosingCircle(shapes);
    m_middle = round.centre;
    m_radius = round.radius;
    for (Polygon& ring : m_rings)
        for (Point& p : ring)
            p = p - m_middle;
    for (const Polygon& ring : m_rings) {
        m_area += geometry::signedArea(ring);
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Point a = ring[i], b = ring[(i + 1) % ring.size()];
            m_edges.push_back({static_cast<float>(a.x), static_cast<float>(a.y), static_cast<float>(b.x),
                               static_cast<float>(b.y)});
        }
    }
    m_area = std::abs(m_area);
    m_hull = hullOf(m_rings);
    m_tightRad = geometry::leastRectangle({{geometry::contourThrough(m_hull), {}}}).turnRad;
    measureGrid(clearMm);
    listEdges(clearMm, hasWalls);
    takeDiscs();
    takePoints();
}

geometry::Box NestTable::boxAt(double turnRad) const {
    const NestPose pose = NestPose::of({}, turnRad);
    geometry::Box out;
    for (const Point p : m_hull)
        out.include(pose(p));
    return out;
}

void NestTable::measureGrid(double clearMm) {
    const geometry::Box box = geometry::bounds(m_rings);
    m_cell = std::clamp(std::max(box.width(), box.height()) / kCells, kLeastCellMm, kMostCellMm);
    m_perMm = 1 / m_cell;
    m_pad = clearMm + 2 * m_cell;
    m_left = box.least.x - m_pad;
    m_top = box.least.y - m_pad;
    m_across = static_cast<int>(std::ceil((box.width() + 2 * m_pad) / m_cell)) + 1;
    m_down = static_cast<int>(std::ceil((box.height() + 2 * m_pad) / m_cell)) + 1;
    m_distances.assign(static_cast<std::size_t>(m_across) * static_cast<std::size_t>(m_down), 0);
    std::vector<double> away(m_edges.size());
    std::vector<std::size_t> near;
    for (int by = 0; by < m_down; by += kBlock)
        for (int bx = 0; bx < m_across; bx += kBlock) {
            // Nearest to the middle of a block, give or take the block's own size, are those that count in it.
            const double half = (kBlock - 1) / 2.0, reach = half * std::sqrt(2.0) * m_cell,
                         cx = m_left + (bx + half) * m_cell, cy = m_top + (by + half) * m_cell;
            double least = INFINITY;
            for (std::size_t e = 0; e < m_edges.size(); ++e) {
                const Edge& edge = m_edges[e];
                away[e] = toEdge(cx, cy, edge.ax, edge.ay, edge.bx, edge.by);
                least = std::min(least, away[e]);
            }
            near.clear();
            for (std::size_t e = 0; e < m_edges.size(); ++e)
                if (away[e] <= least + 2 * reach + 1e-6)
                    near.push_back(e);
            for (int y = by; y < std::min(by + kBlock, m_down); ++y)
                for (int x = bx; x < std::min(bx + kBlock, m_across); ++x) {
                    const double px = m_left + x * m_cell, py = m_top + y * m_cell;
                    double d = INFINITY;
                    for (const std::size_t e : near)
                        d = std::min(
                            d, toEdge(px, py, m_edges[e].ax, m_edges[e].ay, m_edges[e].bx, m_edges[e].by));
                    m_distances[static_cast<std::size_t>(y) * static_cast<std::size_t>(m_across) +
                                static_cast<std::size_t>(x)] = static_cast<float>(d);
                }
        }
    // Inside, row by row: between an odd and an even crossing.
    std::vector<double> crossings;
    for (int y = 0; y < m_down; ++y) {
        const double py = m_top + y * m_cell;
        crossings.clear();
        for (const Edge& edge : m_edges)
            if ((edge.ay <= py) != (edge.by <= py))
                crossings.push_back(edge.ax + (py - edge.ay) * (static_cast<double>(edge.bx) - edge.ax) /
                                                  (static_cast<double>(edge.by) - edge.ay));
        std::sort(crossings.begin(), crossings.end());
        for (std::size_t i = 0; i + 1 < crossings.size(); i += 2) {
            const int from = std::max(0, static_cast<int>(std::ceil((crossings[i] - m_left) / m_cell))),
                      to = std::min(m_across - 1,
                                    static_cast<int>(std::floor((crossings[i + 1] - m_left) / m_cell)));
            for (int x = from; x <= to; ++x) {
                float& d = m_distances[static_cast<std::size_t>(y) * static_cast<std::size_t>(m_across) +
                                       static_cast<std::size_t>(x)];
                d = -std::abs(d);
            }
        }
    }
}

void NestTable::listEdges(double clearMm, bool hasWalls) {
    const double diagonal = m_cell * std::sqrt(2.0);
    m_listBegin.push_back(0);
    std::vector<std::pair<double, std::uint32_t>> near;
    // Edges by rows of cells they come near, so that a cell does not ask all of them.
    const double reach = clearMm + 2 * diagonal;
    std::vector<std::vector<std::uint32_t>> byRow(static_cast<std::size_t>(m_down));
    for (std::uint32_t e = 0; e < m_edges.size(); ++e) {
        const double low = std::min(m_edges[e].ay, m_edges[e].by) - reach,
                     high = std::max(m_edges[e].ay, m_edges[e].by) + reach;
        const int from = std::max(0, static_cast<int>((low - m_top) / m_cell)),
                  to = std::min(m_down - 1, static_cast<int>((high - m_top) / m_cell));
        for (int y = from; y <= to; ++y)
            byRow[static_cast<std::size_t>(y)].push_back(e);
    }
    for (int y = 0; y + 1 < m_down; ++y)
        for (int x = 0; x + 1 < m_across; ++x) {
            const double corner = node(x, y);
            // Where the level runs through the cell or close by; negative clears have none.
            const bool isAtLevel = std::abs(corner - clearMm) <= 2 * diagonal && corner > -m_cell,
                       isAtEdge = hasWalls && std::abs(corner) <= 2 * diagonal;
            if (isAtLevel || isAtEdge) {
                const double cx = m_left + (x + 0.5) * m_cell, cy = m_top + (y + 0.5) * m_cell;
                near.clear();
                double least = INFINITY;
                for (const std::uint32_t e : byRow[static_cast<std::size_t>(y)]) {
                    const Edge& edge = m_edges[e];
                    if (std::max(edge.ax, edge.bx) < cx - reach || std::min(edge.ax, edge.bx) > cx + reach)
                        continue;
                    const double d = toEdge(cx, cy, edge.ax, edge.ay, edge.bx, edge.by);
                    least = std::min(least, d);
                    near.emplace_back(d, e);
                }
                std::erase_if(near, [&](const auto& one) { return one.first > least + diagonal; });
                for (const auto& one : near)
                    if (near.size() > 1)
                        m_listed.push_back(one.second);
            }
            m_listBegin.push_back(static_cast<std::uint32_t>(m_listed.size()));
        }
}

void NestTable::takeDiscs() {
    std::vector<std::uint32_t> order;
    for (std::uint32_t i = 0; i < m_distances.size(); ++i)
        if (m_distances[i] < -0.5 * static_cast<float>(m_cell))
            order.push_back(i);
    std::stable_sort(order.begin(), order.end(),
                     [&](std::uint32_t a, std::uint32_t b) { return m_distances[a] < m_distances[b]; });
    for (const std::uint32_t i : order) {
        if (m_discs.size() == kMostDiscs)
            break;
        const auto x = static_cast<float>(m_left + (i % static_cast<std::uint32_t>(m_across)) * m_cell),
                   y = static_cast<float>(m_top + (i / static_cast<std::uint32_t>(m_across)) * m_cell);
        const bool isCovered = std::any_of(m_discs.begin(), m_discs.end(), [&](const Disc& disc) {
            return std::hypot(x - disc.x, y - disc.y) < disc.r;
        });
        if (!isCovered)
            m_discs.push_back({x, y, -m_distances[i]});
    }
}

void NestTable::takePoints() {
    for (const Polygon& ring : m_rings) {
        std::vector<Disc> points;
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Point a = ring[i], b = ring[(i + 1) % ring.size()];
            const double length = geometry::distance(a, b);
            const int steps = std::max(1, static_cast<int>(std::ceil(length / kPointEveryMm)));
            for (int k = 0; k < steps; ++k) {
                const Point p = a + (b - a) * (static_cast<double>(k) / steps);
                points.push_back(
                    {static_cast<float>(p.x), static_cast<float>(p.y), static_cast<float>(length / steps)});
            }
        }
        for (std::size_t begin = 0; begin < points.size(); begin += kRunLength) {
            const std::size_t end = std::min(points.size(), begin + kRunLength);
            Run run{0, 0, 0, static_cast<std::uint32_t>(m_points.size()), 0};
            for (std::size_t i = begin; i < end; ++i) {
                run.x += points[i].x / static_cast<float>(end - begin);
                run.y += points[i].y / static_cast<float>(end - begin);
                m_points.push_back(points[i]);
            }
            for (std::size_t i = begin; i < end; ++i)
                run.r = std::max(run.r, std::hypot(points[i].x - run.x, points[i].y - run.y));
            run.end = static_cast<std::uint32_t>(m_points.size());
            m_runs.push_back(run);
        }
    }
    // In an order that has nothing to do with where they lie, so that poses without hope are known early.
    std::uint64_t state = 88172645463325252ull;
    for (std::size_t i = m_runs.size(); i > 1; --i) {
        state ^= state << 13, state ^= state >> 7, state ^= state << 17;
        std::swap(m_runs[i - 1], m_runs[state % i]);
    }
}

double NestTable::interpolated(double fx, double fy, int cx, int cy) const {
    const double u = fx - cx, v = fy - cy;
    const float* above = &m_distances[static_cast<std::size_t>(cy) * static_cast<std::size_t>(m_across) +
                                      static_cast<std::size_t>(cx)];
    const float* below = above + m_across;
    return (above[0] * (1 - u) + above[1] * u) * (1 - v) + (below[0] * (1 - u) + below[1] * u) * v;
}

double NestTable::distanceAt(double x, double y) const {
    const double fx = (x - m_left) * m_perMm, fy = (y - m_top) * m_perMm;
    if (!(fx >= 0 && fy >= 0 && fx < m_across - 1 && fy < m_down - 1))
        return INFINITY;
    const int cx = static_cast<int>(fx), cy = static_cast<int>(fy);
    const double d = interpolated(fx, fy, cx, cy);
    const std::size_t cell =
        static_cast<std::size_t>(cy) * static_cast<std::size_t>(m_across - 1) + static_cast<std::size_t>(cx);
    const std::uint32_t begin = m_listBegin[cell], end = m_listBegin[cell + 1];
    if (begin == end)
        return d;
    double exact = INFINITY;
    std::uint32_t nearest = begin;
    for (std::uint32_t i = begin; i < end; ++i) {
        const Edge& edge = m_edges[m_listed[i]];
        const double one = toEdgeSquared(x, y, edge.ax, edge.ay, edge.bx, edge.by);
        if (one < exact) {
            exact = one;
            nearest = i;
        }
    }
    const double distance = std::sqrt(exact);
    const bool isInside = std::abs(d) < m_cell ? isWithin(x, y, exact, nearest, begin, end) : d < 0;
    return isInside ? -distance : distance;
}

/// Near the outline the side of the nearest edge tells; where a corner is nearest, of the two edges there the one whose line
/// lies further away.
bool NestTable::isWithin(double x, double y, double nearestSquared, std::uint32_t nearest,
                         std::uint32_t begin, std::uint32_t end) const {
    constexpr double kSame = 1e-7;
    double furthest = -1, side = 0;
    for (std::uint32_t i = begin; i < end; ++i) {
        const Edge& edge = m_edges[m_listed[i]];
        if (i != nearest &&
            toEdgeSquared(x, y, edge.ax, edge.ay, edge.bx, edge.by) > nearestSquared * (1 + 1e-6) + kSame)
            continue;
        const double dx = static_cast<double>(edge.bx) - edge.ax, dy = static_cast<double>(edge.by) - edge.ay,
                     length = std::sqrt(dx * dx + dy * dy);
        const double off = length > 0 ? (dx * (y - edge.ay) - dy * (x - edge.ax)) / length : 0;
        if (std::abs(off) > furthest) {
            furthest = std::abs(off);
            side = off;
        }
    }
    return side > 0;
}

double NestTable::atMost(double x, double y) const {
    double fx = (x - m_left) * m_perMm, fy = (y - m_top) * m_perMm;
    if (fx >= 0 && fy >= 0 && fx < m_across - 1 && fy < m_down - 1)
        return interpolated(fx, fy, static_cast<int>(fx), static_cast<int>(fy)) + m_cell / 2;
    const double inX = std::clamp(fx, 0.0, m_across - 1.000001), inY = std::clamp(fy, 0.0, m_down - 1.000001);
    fx -= inX, fy -= inY;
    return interpolated(inX, inY, static_cast<int>(inX), static_cast<int>(inY)) + m_cell / 2 +
           std::sqrt(fx * fx + fy * fy) * m_cell;
}

double NestTable::overlapOf(const NestTable& points, const NestTable& of, double cos, double sin, Point by,
                            double clearMm, double limit) {
    double sum = 0;
    for (const Disc& disc : points.m_discs) {
        const double x = cos * disc.x - sin * disc.y + by.x, y = sin * disc.x + cos * disc.y + by.y;
        const double over = disc.r + clearMm - of.atMost(x, y);
        if (over > 0)
            sum += disc.r * over;
    }
    if (sum > limit)
        return sum;
    constexpr double kRoundingMm = 1e-3;
    const double right = of.m_left + (of.m_across - 1) * of.m_cell,
                 bottom = of.m_top + (of.m_down - 1) * of.m_cell;
    for (const Run& run : points.m_runs) {
        const double cx = cos * run.x - sin * run.y + by.x, cy = sin * run.x + cos * run.y + by.y;
        const double outX = cx - std::clamp(cx, of.m_left, right),
                     outY = cy - std::clamp(cy, of.m_top, bottom),
                     beyond = outX * outX + outY * outY; // squared
        if (beyond > run.r * run.r)
            continue;
        if (beyond == 0 && of.atMost(cx, cy) - 2 * of.m_cell - run.r > clearMm)
            continue;
        for (std::uint32_t i = run.begin; i < run.end; ++i) {
            const Disc& p = points.m_points[i];
            const double over =
                clearMm - of.distanceAt(cos * p.x - sin * p.y + by.x, sin * p.x + cos * p.y + by.y);
            if (over > kRoundingMm)
                sum += p.r * over;
        }
        if (sum > limit)
            return sum;
    }
    return sum;
}

double NestTable::overlap(const NestTable& a, const NestPose& poseA, const NestTable& b,
                          const NestPose& poseB, double clearMm, double limit) {
    const double dx = poseA.at.x - poseB.at.x, dy = poseA.at.y - poseB.at.y,
                 reach = a.m_radius + b.m_radius + clearMm;
    if (dx * dx + dy * dy >= reach * reach)
        return 0;
    // a in b's frame, and the other way round.
    const double cos = poseA.cos * poseB.cos + poseA.sin * poseB.sin,
                 sin = poseA.sin * poseB.cos - poseA.cos * poseB.sin;
    const Point inB{poseB.cos * dx + poseB.sin * dy, -poseB.sin * dx + poseB.cos * dy},
        inA{-poseA.cos * dx - poseA.sin * dy, poseA.sin * dx - poseA.cos * dy};
    const double first = overlapOf(a, b, cos, sin, inB, clearMm, limit);
    return first > limit ? first : first + overlapOf(b, a, cos, -sin, inA, clearMm, limit - first);
}

} // namespace thinline::sheets
