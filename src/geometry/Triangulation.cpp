// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Points are dropped one after the other into a triangle around all of them. Each splits the triangle it falls into,
// and sides are flipped until no circle around a triangle holds another point (Lawson). Then the rings' sides are put
// in: what crosses one is flipped out of its way, and what came about by that is made Delaunay again (Sloan).
//
// Samples of an outline lie on straight lines by the dozen, and no arithmetic in doubles decides on which side of such
// a line its own points are. So all decisions are made on a copy of the points that is shaken by a hundredth of a
// micron: enough to settle them, far too little to show. What is returned are numbers of points, so nothing moves.
#include "geometry/Triangulation.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <deque>
#include <optional>

namespace thinline::geometry {
namespace {

constexpr int kNext[3] = {1, 2, 0};
constexpr int kBefore[3] = {2, 0, 1};

struct Corner3 {
    int corner[3];
    int across[3];
    bool isFixed[3] = {false, false, false}; ///< the side opposite to each corner is a side of a ring
};
using Side = std::pair<int, int>;

class Building {
  public:
    Building(const Polygon& points, const base::Progress& progress)
        : m_points(points), m_progress(progress) {}

    base::Status run(const std::vector<Side>& sides) {
        shake();
        if (auto ok = dropIn(); !ok)
            return ok;
        for (size_t i = 0; i < sides.size(); ++i) {
            if (i % 256 == 0 && m_progress.isCancelled())
                return base::Error{base::Code::Cancelled, "Stopped."};
            fix(sides[i].first, sides[i].second);
        }
        return base::Done{};
    }

    /// The triangles an odd number of rings away from the outside.
    Triangulation inside() const {
        std::vector<int> depth = depths();
        Triangulation out;
        std::vector<int> number(m_all.size(), -1);
        for (size_t t = 0; t < m_all.size(); ++t)
            if (depth[t] % 2 == 1) {
                number[t] = static_cast<int>(out.triangles.size());
                out.triangles.push_back({});
            }
        for (size_t t = 0; t < m_all.size(); ++t) {
            if (number[t] < 0)
                continue;
            auto& one = out.triangles[static_cast<size_t>(number[t])];
            for (size_t k = 0; k < 3; ++k) {
                one.corner[k] = m_all[t].corner[k];
                const int other = m_all[t].across[k];
                one.across[k] = m_all[t].isFixed[k] || other < 0 ? -1 : number[static_cast<size_t>(other)];
            }
        }
        return out;
    }

  private:
    const Corner3& at(int t) const { return m_all[static_cast<size_t>(t)]; }
    Corner3& at(int t) { return m_all[static_cast<size_t>(t)]; }
    Point place(int p) const { return m_shaken[static_cast<size_t>(p)]; }
    /// Positive where c lies clockwise of the way from a to b.
    double turn(int a, int b, int c) const { return cross(place(b) - place(a), place(c) - place(a)); }

    void shake() {
        Box box;
        for (const Point p : m_points)
            box.include(p);
        uint32_t state = 2463534242U;
        const auto next = [&state] {
            state ^= state << 13;
            state ^= state >> 17;
            state ^= state << 5;
            return (state / 4294967296.0 - 0.5) * 2e-5;
        };
        m_shaken = m_points;
        for (Point& p : m_shaken)
            p = p + Point{next(), next()};
        const Point middle = box.centre();
        const double reach = 20 * std::max({box.width(), box.height(), 1.0});
        m_first = static_cast<int>(m_points.size());
        for (const Point p : {Point{0, -reach}, Point{reach, reach}, Point{-reach, reach}})
            m_shaken.push_back(middle + p);
        m_all.push_back({{m_first, m_first + 1, m_first + 2}, {-1, -1, -1}});
        m_of.assign(m_shaken.size(), -1);
    }

    /// Points that follow one another lie near each other: rows of cells, every other one backwards.
    std::vector<int> order() const {
        Box box;
        for (const Point p : m_points)
            box.include(p);
        const double cells = std::max(1.0, std::sqrt(static_cast<double>(m_points.size()) / 3));
        const double step = std::max({box.width(), box.height(), 1e-9}) / cells;
        std::vector<std::pair<int64_t, int>> keyed;
        for (size_t i = 0; i < m_points.size(); ++i) {
            const auto row = static_cast<int64_t>((m_points[i].y - box.least.y) / step);
            const auto column = static_cast<int64_t>((m_points[i].x - box.least.x) / step);
            keyed.emplace_back(row * 1'000'000 + (row % 2 == 0 ? column : 999'999 - column),
                               static_cast<int>(i));
        }
        std::sort(keyed.begin(), keyed.end());
        std::vector<int> out;
        for (const auto& [key, i] : keyed)
            out.push_back(i);
        return out;
    }

    base::Status dropIn() {
        int near = 0, count = 0;
        for (const int p : order()) {
            if (++count % 256 == 0 && m_progress.isCancelled())
                return base::Error{base::Code::Cancelled, "Stopped."};
            near = locate(p, near);
            split(near, p);
            near = m_of[static_cast<size_t>(p)];
        }
        for (size_t t = 0; t < m_all.size(); ++t)
            for (const int c : m_all[t].corner)
                m_of[static_cast<size_t>(c)] = static_cast<int>(t);
        return base::Done{};
    }

    int locate(int p, int from) const {
        int t = from;
        for (size_t steps = 0; steps < 3 * m_all.size() + 9; ++steps) {
            int onTo = -1;
            for (int k = 0; k < 3 && onTo < 0; ++k)
                if (turn(at(t).corner[kNext[k]], at(t).corner[kBefore[k]], p) < 0)
                    onTo = at(t).across[k];
            if (onTo < 0)
                return t;
            t = onTo;
        }
        return t;
    }

    void split(int t, int p) {
        const Corner3 old = at(t);
        const int one = t, two = static_cast<int>(m_all.size()), three = two + 1;
        m_all.resize(m_all.size() + 2);
        const int name[3] = {one, two, three};
        for (int k = 0; k < 3; ++k) { // the triangle over the side opposite to corner k
            at(name[k]) = {{p, old.corner[kNext[k]], old.corner[kBefore[k]]},
                           {old.across[k], name[kNext[k]], name[kBefore[k]]}};
            if (old.across[k] >= 0)
                rejoin(old.across[k], t, name[k]);
        }
        m_of[static_cast<size_t>(p)] = one;
        std::vector<int> open{one, two, three};
        while (!open.empty()) {
            const int now = open.back();
            open.pop_back();
            const int k = placeOf(now, p);
            const int other = at(now).across[k];
            if (other < 0 || !isInCircle(other, p))
                continue;
            flip(now, k);
            open.push_back(now);
            open.push_back(other);
        }
    }

    void rejoin(int t, int from, int to) {
        for (int& a : at(t).across)
            if (a == from) {
                a = to;
                return;
            }
    }
    int placeOf(int t, int p) const { return at(t).corner[0] == p ? 0 : at(t).corner[1] == p ? 1 : 2; }

    bool isInCircle(int t, int p) const {
        const Point d = place(p);
        const Point a = place(at(t).corner[0]) - d, b = place(at(t).corner[1]) - d,
                    c = place(at(t).corner[2]) - d;
        return dot(a, a) * cross(b, c) + dot(b, b) * cross(c, a) + dot(c, c) * cross(a, b) > 0;
    }

    /// Turns the side opposite to corner k of t into the other diagonal. t keeps that corner, and so does the other.
    void flip(int t, int k) {
        const int other = at(t).across[k];
        const int p = at(t).corner[k], a = at(t).corner[kNext[k]], b = at(t).corner[kBefore[k]];
        int j = 0;
        while (at(other).across[j] != t || at(other).corner[kNext[j]] != b)
            ++j;
        const int q = at(other).corner[j];
        const Corner3 one = at(t), two = at(other);
        // t: p a q, other: p q b
        at(t) = {{p, a, q},
                 {two.across[kNext[j]], other, one.across[kBefore[k]]},
                 {two.isFixed[kNext[j]], false, one.isFixed[kBefore[k]]}};
        at(other) = {{p, q, b},
                     {two.across[kBefore[j]], one.across[kNext[k]], t},
                     {two.isFixed[kBefore[j]], one.isFixed[kNext[k]], false}};
        if (two.across[kNext[j]] >= 0)
            rejoin(two.across[kNext[j]], other, t);
        if (one.across[kNext[k]] >= 0)
            rejoin(one.across[kNext[k]], t, other);
        for (const int c : {p, a, q})
            m_of[static_cast<size_t>(c)] = t;
        m_of[static_cast<size_t>(b)] = other;
    }

    /// The triangle that has a side from a to b in its own order, and which side it is.
    struct Held {
        int triangle, k;
    };
    std::optional<Held> sideOf(int a, int b) const {
        const int start = m_of[static_cast<size_t>(a)];
        int t = start;
        for (size_t steps = 0; t >= 0 && steps < m_all.size(); ++steps) {
            const int i = placeOf(t, a);
            if (at(t).corner[kNext[i]] == b)
                return Held{t, kBefore[i]};
            t = at(t).across[kNext[i]]; // round a, over the side from a to the corner before it
            if (t == start)
                break;
        }
        return std::nullopt; // all points lie in the hull of the first triangle, so every way round closes
    }

    bool isCrossed(Side side, int a, int b) const {
        return (turn(a, b, side.first) < 0) != (turn(a, b, side.second) < 0) &&
               (turn(side.first, side.second, a) < 0) != (turn(side.first, side.second, b) < 0);
    }

    /// The sides between a and b, in their order; nothing when one of them may not be crossed.
    std::optional<std::deque<Side>> crossed(int a, int b) const {
        std::deque<Side> out;
        const int start = m_of[static_cast<size_t>(a)];
        int t = start, k = -1;
        for (size_t steps = 0; steps < m_all.size(); ++steps) {
            const int i = placeOf(t, a);
            if (turn(a, at(t).corner[kNext[i]], b) >= 0 && turn(a, at(t).corner[kBefore[i]], b) < 0) {
                k = i;
                break;
            }
            t = at(t).across[kNext[i]];
            if (t < 0 || t == start)
                return std::nullopt;
        }
        for (size_t steps = 0; k >= 0 && steps < m_all.size(); ++steps) {
            if (at(t).isFixed[k] || at(t).across[k] < 0)
                return std::nullopt;
            const Side side{at(t).corner[kNext[k]], at(t).corner[kBefore[k]]};
            out.push_back(side);
            const int other = at(t).across[k];
            int apex = 0;
            while (at(other).corner[apex] == side.first || at(other).corner[apex] == side.second)
                ++apex;
            const int q = at(other).corner[apex];
            if (q == b)
                return out;
            // On through the side that has its ends left and right of the way.
            const bool isRight = turn(a, b, q) >= 0;
            const int leaves = isRight ? side.second : side.first; // the end on q's own side
            t = other;
            k = placeOf(other, leaves);
        }
        return std::nullopt;
    }

    void fix(int a, int b) {
        if (a == b)
            return;
        if (!sideOf(a, b) && !clearTheWay(a, b))
            return;
        for (const auto& held : {sideOf(a, b), sideOf(b, a)})
            if (held)
                at(held->triangle).isFixed[held->k] = true;
    }

    bool clearTheWay(int a, int b) {
        auto open = crossed(a, b);
        if (!open)
            return false;
        std::vector<Side> made;
        size_t tries = 50 * (open->size() + 4) * (open->size() + 4);
        while (!open->empty() && tries-- > 0) {
            const Side side = open->front();
            open->pop_front();
            const auto held = sideOf(side.first, side.second);
            if (!held)
                continue;
            if (!isConvexAround(*held)) {
                open->push_back(side);
                continue;
            }
            const int p = at(held->triangle).corner[held->k];
            flip(held->triangle, held->k);
            const Side now{p, at(held->triangle).corner[kBefore[placeOf(held->triangle, p)]]};
            const bool isShared = now.first == a || now.first == b || now.second == a || now.second == b;
            if (!isShared && isCrossed(now, a, b))
                open->push_back(now);
            else
                made.push_back(now);
        }
        restore(made, a, b);
        return open->empty();
    }

    bool isConvexAround(const Held& held) const {
        const Corner3& t = at(held.triangle);
        const int p = t.corner[held.k], a = t.corner[kNext[held.k]], b = t.corner[kBefore[held.k]];
        const Corner3& other = at(t.across[held.k]);
        int j = 0;
        while (other.corner[j] == a || other.corner[j] == b)
            ++j;
        const int q = other.corner[j];
        return turn(p, a, q) > 0 && turn(p, q, b) > 0;
    }

    void restore(const std::vector<Side>& made, int a, int b) {
        for (int round = 0; round < 8; ++round) {
            bool isChanged = false;
            for (const Side& side : made) {
                if ((side.first == a && side.second == b) || (side.first == b && side.second == a))
                    continue;
                const auto held = sideOf(side.first, side.second);
                if (!held || at(held->triangle).isFixed[held->k] || at(held->triangle).across[held->k] < 0)
                    continue;
                const int other = at(held->triangle).across[held->k];
                if (!isConvexAround(*held) || !isInCircle(other, at(held->triangle).corner[held->k]))
                    continue;
                flip(held->triangle, held->k);
                isChanged = true;
            }
            if (!isChanged)
                return;
        }
    }

    std::vector<int> depths() const {
        std::vector<int> depth(m_all.size(), -1);
        std::deque<int> open;
        for (size_t t = 0; t < m_all.size() && open.empty(); ++t)
            if (std::any_of(std::begin(m_all[t].corner), std::end(m_all[t].corner),
                            [&](int c) { return c >= m_first; })) {
                depth[t] = 0;
                open.push_back(static_cast<int>(t));
            }
        while (!open.empty()) { // sides that are none of a ring first, so that depths come in ascending order
            const int t = open.front();
            open.pop_front();
            for (int k = 0; k < 3; ++k) {
                const int other = at(t).across[k];
                if (other < 0 || depth[static_cast<size_t>(other)] >= 0)
                    continue;
                depth[static_cast<size_t>(other)] =
                    depth[static_cast<size_t>(t)] + (at(t).isFixed[k] ? 1 : 0);
                at(t).isFixed[k] ? open.push_back(other) : open.push_front(other);
            }
        }
        return depth;
    }

    const Polygon& m_points;
    const base::Progress& m_progress;
    Polygon m_shaken;
    int m_first = 0; ///< corner of the triangle around all
    std::vector<Corner3> m_all;
    std::vector<int> m_of; ///< a triangle at every point
};

} // namespace

base::Result<Triangulation> triangulated(const Polygons& rings, const Polygon& loose,
                                         const base::Progress& progress) {
    Polygon points;
    std::vector<Side> sides;
    for (const Polygon& ring : rings) {
        const int first = static_cast<int>(points.size()), count = static_cast<int>(ring.size());
        for (int i = 0; i < count && count > 2; ++i)
            sides.emplace_back(first + i, first + (i + 1) % count);
        points.insert(points.end(), ring.begin(), ring.end());
    }
    points.insert(points.end(), loose.begin(), loose.end());
    if (points.size() > 200'000)
        return base::Error{base::Code::LimitExceeded,
                           "The outline has more points than can be divided (200,000)."};
    if (sides.empty())
        return Triangulation{};
    Building building(points, progress);
    if (auto ok = building.run(sides); !ok)
        return ok.error();
    return building.inside();
}

} // namespace thinline::geometry
