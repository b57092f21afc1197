// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Necks and gaps: where card is thinner than a limit, and where the distance between pieces is.
//
// A neck is a place that tears when the sheet is weeded. The textbook answer is the medial axis, which
// knows the width everywhere. It was considered and left: the axis grows a branch into every dent of an
// outline, so a jitter of a micrometre changes its shape altogether, and for curves it needs a Voronoi
// diagram of curves. The question people ask is smaller: is anything narrower than this?
//
// That one a disc answers. A disc as wide as the limit is rolled about within the piece: shrink by half
// the limit, grow by the same. What it has covered is wide enough. What remains is narrow, and is of three
// kinds:
//
// - tips and corners, which a disc never fills: they touch the covered part along one run of their edge
//   and have one side;
// - strips between two wide parts, and strips to an edge: they have two sides or more, and the least
//   distance between two sides is the neck;
// - a piece into which the disc does not fit at all: it is a neck as a whole, as wide as the largest disc
//   that fits.
//
// So the remainder is taken apart, the runs of each part's edge that do not touch the covered part are its
// sides, and those with one side are dropped. The covered part is grown a little further than it shrank
// (by 2 % of the limit), or rounding would leave a film along every edge.
//
// One thing fools the disc: the round tip of a corner looks like a strip to a disc of exactly the wrong
// size, since its remainder may break in two. A true neck is there for a somewhat larger disc as well. The
// search for the narrowest place therefore asks twice, the second time with a limit 1.6 times as large,
// and believes only what both have seen.
//
// Gaps between pieces are the necks of what is not card: the same search on the box around everything,
// less the pieces.
//
// Straight steps are good enough here: outlines are flattened at 1 % of the limit, and a width is told to
// 0.01 mm. Cost: two offsets and a subtraction by the polygon engine for each limit; which is why whoever
// searches remembers what was found for each body (see inspect/Inspect.h).
#include "geometry/Necks.h"

#include "geometry/PolygonEngine.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <utility>

namespace thinline::geometry {
namespace {

/// The ring with extra points so that no step is longer than `stepMm`.
Polygon densified(const Polygon& ring, double stepMm) {
    Polygon out;
    for (size_t i = 0; i < ring.size(); ++i) {
        const Point a = ring[i], b = ring[(i + 1) % ring.size()];
        const int parts = static_cast<int>(std::clamp(std::ceil(distance(a, b) / stepMm), 1.0, 1000.0));
        for (int k = 0; k < parts; ++k)
            out.push_back(a + (b - a) * (static_cast<double>(k) / parts));
    }
    return out;
}

/// What polygons cover, asked point by point: their edges by rows of y.
/// Cost: O(n) to build, as each edge lies in two rows on average at most; a point asks the edges of its row alone.
class Covered {
  public:
    explicit Covered(const Polygons& rings) {
        Box box = bounds(rings);
        size_t edges = 0;
        double climbs = 0;
        eachEdge(rings, [&](Point a, Point b) {
            ++edges;
            climbs += std::abs(a.y - b.y);
        });
        if (edges == 0)
            return;
        m_top = box.least.y;
        m_rowMm =
            std::max({climbs / static_cast<double>(edges), box.height() / static_cast<double>(edges), 1e-9});
        m_rows.resize(static_cast<size_t>(box.height() / m_rowMm) + 1);
        eachEdge(rings, [&](Point a, Point b) {
            const size_t last = rowOf(std::max(a.y, b.y));
            for (size_t row = rowOf(std::min(a.y, b.y)); row <= last; ++row)
                m_rows[row].push_back({a, b});
        });
    }
    /// By the even-odd rule.
    bool holds(Point p) const {
        if (p.y < m_top || rowOf(p.y) >= m_rows.size())
            return false;
        bool isInside = false;
        for (const auto& [a, b] : m_rows[rowOf(p.y)])
            if ((a.y > p.y) != (b.y > p.y) && p.x < a.x + (b.x - a.x) * (p.y - a.y) / (b.y - a.y))
                isInside = !isInside;
        return isInside;
    }

  private:
    template <class Visit>
    static void eachEdge(const Polygons& rings, Visit visit) {
        for (const Polygon& ring : rings)
            for (size_t i = 0, j = ring.size() - 1; i < ring.size(); j = i++)
                visit(ring[i], ring[j]);
    }
    size_t rowOf(double y) const { return static_cast<size_t>((y - m_top) / m_rowMm); }

    double m_top = 0, m_rowMm = 1;
    std::vector<std::vector<std::pair<Point, Point>>> m_rows;
};

/// The sides of a narrow remainder: the runs of its edge that do not touch the reachable part.
std::vector<Polygon> sidesOf(const Polygons& remainder, const Covered& reachable, double stepMm) {
    std::vector<Polygon> sides;
    for (const Polygon& ring : remainder) {
        const Polygon dense = densified(ring, stepMm);
        std::vector<bool> touches;
        for (Point p : dense)
            touches.push_back(reachable.holds(p));
        const auto firstContact = std::find(touches.begin(), touches.end(), true);
        if (firstContact == touches.end()) {
            sides.push_back(dense);
            continue;
        }
        const size_t n = dense.size(), from = static_cast<size_t>(firstContact - touches.begin());
        bool isOpen = false;
        for (size_t i = 0; i < n; ++i) {
            const size_t at = (from + i) % n;
            if (touches[at]) {
                isOpen = false;
            } else {
                if (!isOpen)
                    sides.emplace_back();
                isOpen = true;
                sides.back().push_back(dense[at]);
            }
        }
    }
    return sides;
}

/// The least distance between two points of different sides, by a sweep along the longer way of their box: only points
/// that lie no further ahead than the best found so far are compared.
std::optional<Neck> narrowestBetween(const std::vector<Polygon>& sides) {
    struct OfSide {
        Point at;
        size_t side;
    };
    std::vector<OfSide> points;
    Box box;
    for (size_t i = 0; i < sides.size(); ++i)
        for (Point p : sides[i]) {
            points.push_back({p, i});
            box.include(p);
        }
    const auto along = [&](Point p) { return box.width() >= box.height() ? p.x : p.y; };
    std::stable_sort(points.begin(), points.end(),
                     [&](const OfSide& a, const OfSide& b) { return along(a.at) < along(b.at); });
    std::optional<Neck> best;
    for (size_t i = 0; i < points.size(); ++i)
        for (size_t j = i; j-- > 0 && (!best || along(points[i].at) - along(points[j].at) < best->widthMm);)
            if (points[i].side != points[j].side &&
                (!best || distance(points[i].at, points[j].at) < best->widthMm))
                best = Neck{middle(points[i].at, points[j].at), distance(points[i].at, points[j].at)};
    return best;
}

/// The diameter of the largest disc inside, by halving the shrink distance.
double widestDisc(const Polygons& rings, double limitMm) {
    double fits = 0, fails = limitMm;
    for (int i = 0; i < 12; ++i) {
        const double trial = (fits + fails) / 2;
        const auto shrunk = grown(rings, -trial / 2, 0.01);
        (shrunk && !shrunk->empty() ? fits : fails) = trial;
    }
    return fits;
}

/// The necks of connected rings; `inside` is a point of theirs.
base::Result<std::vector<Neck>> necksOf(const Polygons& rings, Point inside, double limitMm,
                                        const base::Progress& progress) {
    const double fine = limitMm * 0.02;
    auto core = grown(rings, -limitMm / 2, fine / 2);
    if (!core)
        return core.error();
    if (core->empty())
        return std::vector<Neck>{{inside, widestDisc(rings, limitMm)}};
    auto reachable = grown(*core, limitMm / 2 + fine, fine / 2);
    if (!reachable)
        return reachable.error();
    if (progress.isCancelled())
        return base::cancelled();
    auto remainder = subtract(rings, *reachable);
    if (!remainder)
        return remainder.error();
    auto narrow = separated(*remainder);
    if (!narrow)
        return narrow.error();
    auto touching = grown(*core, limitMm / 2 + 2 * fine, fine / 2);
    if (!touching)
        return touching.error();
    const Covered touched(*touching);
    std::vector<Neck> necks;
    for (const Polygons& part : *narrow) {
        if (progress.isCancelled())
            return base::cancelled();
        const std::vector<Polygon> sides = sidesOf(part, touched, limitMm / 10);
        if (sides.size() < 2)
            continue;
        if (const auto neck = narrowestBetween(sides))
            necks.push_back(*neck);
    }
    std::sort(necks.begin(), necks.end(), [](const Neck& a, const Neck& b) { return a.widthMm < b.widthMm; });
    return necks;
}

/// Doubles the limit until something is found. The round tip of a corner can look like a neck to a disc of one size;
/// a true neck is there for a somewhat larger disc too.
template <class Find>
base::Result<std::optional<Neck>> narrowest(double largestMm, Find find) {
    constexpr double kLarger = 1.6;
    for (double limitMm = 0.5;; limitMm *= 2) {
        const bool isLast = limitMm >= largestMm;
        const double limit = std::min(limitMm, largestMm);
        auto found = find(limit);
        if (!found)
            return found.error();
        if (!found->empty()) {
            const auto again = find(limit * kLarger);
            if (!again)
                return again.error();
            for (const Neck& neck : *found)
                for (const Neck& other : *again)
                    if (distance(neck.place, other.place) <= limit * kLarger)
                        return std::optional(neck);
        }
        if (isLast)
            return std::optional<Neck>{};
    }
}

} // namespace

base::Result<std::vector<Neck>> findNecks(const Shape& shape, double limitMm,
                                          const base::Progress& progress) {
    return necksOf(flatten(shape, limitMm * 0.01), pointInside(shape), limitMm, progress);
}

base::Result<std::vector<Neck>> findGaps(const std::vector<Shape>& shapes, double limitMm,
                                         const base::Progress& progress) {
    Polygons rings;
    for (const Shape& shape : shapes)
        for (Polygon& ring : flatten(shape, limitMm * 0.01))
            rings.push_back(std::move(ring));
    const Box all = bounds(rings);
    if (all.isEmpty())
        return std::vector<Neck>{};
    const Box box = all.grownBy(2 * limitMm);
    auto free =
        subtract({{box.least, {box.most.x, box.least.y}, box.most, {box.least.x, box.most.y}}}, rings);
    if (!free)
        return free.error();
    auto parts = separated(*free);
    if (!parts)
        return parts.error();
    std::vector<Neck> gaps;
    for (const Polygons& part : *parts) {
        Shape area{contourThrough(part.front()), {}};
        for (size_t i = 1; i < part.size(); ++i)
            area.openings.push_back(contourThrough(part[i]));
        auto found = necksOf(part, pointInside(area), limitMm, progress);
        if (!found)
            return found.error();
        gaps.insert(gaps.end(), found->begin(), found->end());
    }
    std::sort(gaps.begin(), gaps.end(), [](const Neck& a, const Neck& b) { return a.widthMm < b.widthMm; });
    return gaps;
}

base::Result<std::optional<Neck>> narrowestNeck(const Shape& shape, const base::Progress& progress) {
    const Box box = bounds(shape);
    return narrowest(std::max(0.5, std::min(box.width(), box.height())),
                     [&](double limitMm) { return findNecks(shape, limitMm, progress); });
}

base::Result<std::optional<Neck>> narrowestGap(const std::vector<Shape>& shapes,
                                               const base::Progress& progress) {
    Box box;
    for (const Shape& shape : shapes)
        box.include(bounds(shape));
    return narrowest(std::max(0.5, std::min(box.width(), box.height()) / 2),
                     [&](double limitMm) { return findGaps(shapes, limitMm, progress); });
}

} // namespace thinline::geometry
