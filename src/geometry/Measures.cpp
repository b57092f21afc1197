// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Measures.h"

#include "geometry/Boolean.h"
#include "geometry/Cubic.h"

#include <algorithm>
#include <numbers>
#include <random>
#include <utility>

namespace thinline::geometry {
namespace {

constexpr double kHullMm = 0.0001;

template <class Visit>
void eachContour(const Shape& shape, Visit visit) {
    visit(shape.outline, size_t{0});
    for (size_t i = 0; i < shape.openings.size(); ++i)
        visit(shape.openings[i], i + 1);
}

/// How often a ray from p to the right passes the curve.
int passes(const Cubic& curve, bool isLine, Point p) {
    const auto one = [&](double t0, double t1) {
        const Point a = curve.at(t0), b = curve.at(t1);
        if ((a.y > p.y) == (b.y > p.y))
            return 0;
        double low = t0, high = t1; // monotone in y: halve until the height is met
        for (int i = 0; i < 60 && !isLine; ++i) {
            const double middle = (low + high) / 2;
            ((curve.at(middle).y > p.y) == (a.y > p.y) ? low : high) = middle;
        }
        const double x = isLine ? a.x + (b.x - a.x) * (p.y - a.y) / (b.y - a.y) : curve.at(low).x;
        return p.x < x ? 1 : 0;
    };
    if (isLine)
        return one(0, 1);
    int count = 0;
    double from = 0;
    for (double t : turningPoints(curve)) {
        count += one(from, t);
        from = t;
    }
    return count + one(from, 1);
}

Polygon hullOf(const std::vector<Shape>& shapes) {
    Polygon points;
    for (const Shape& shape : shapes)
        for (Point p : flatten(shape.outline, kHullMm))
            points.push_back(p);
    return convexHull(std::move(points));
}

Point turned(Point p, double turnRad) {
    return {p.x * std::cos(turnRad) - p.y * std::sin(turnRad),
            p.x * std::sin(turnRad) + p.y * std::cos(turnRad)};
}

/// The farthest points of a hull, found by the directions its sides face.
class Supports {
  public:
    explicit Supports(const Polygon& hull) {
        for (size_t i = 0; i < hull.size(); ++i) {
            const Point side = hull[(i + 1) % hull.size()] - hull[i];
            m_facing.emplace_back(wrapped(std::atan2(side.y, side.x) - std::numbers::pi / 2), hull[i]);
        }
        std::sort(m_facing.begin(), m_facing.end(),
                  [](const auto& a, const auto& b) { return a.first < b.first; });
    }
    /// The farthest point in a direction. A corner is farthest between the directions its two sides face.
    Point far(double direction) const {
        const auto at = std::lower_bound(m_facing.begin(), m_facing.end(), wrapped(direction),
                                         [](const auto& side, double d) { return side.first < d; });
        return at == m_facing.end() ? m_facing.front().second : at->second;
    }
    /// The frame after a turn.
    /// Cost:   O(log h).
    Box turnedBox(double turnRad) const {
        constexpr double kHalf = std::numbers::pi;
        Box box;
        for (double direction : {-turnRad, kHalf - turnRad, kHalf / 2 - turnRad, -kHalf / 2 - turnRad})
            box.include(turned(far(direction), turnRad));
        return box;
    }

  private:
    static double wrapped(double angle) {
        constexpr double kWhole = 2 * std::numbers::pi;
        const double inside = std::fmod(angle, kWhole);
        return inside < 0 ? inside + kWhole : inside;
    }
    std::vector<std::pair<double, Point>>
        m_facing; ///< the direction a side faces, and the corner it begins at
};

/// The turns that lay one side of the hull straight, from 0 to 90 degrees, ascending.
std::vector<double> sideTurns(const Polygon& hull) {
    constexpr double kQuarter = std::numbers::pi / 2;
    std::vector<double> turns;
    for (size_t i = 0; i < hull.size(); ++i) {
        const Point side = hull[(i + 1) % hull.size()] - hull[i];
        double turn = std::fmod(-std::atan2(side.y, side.x), kQuarter);
        turns.push_back(turn < 0 ? turn + kQuarter : turn);
    }
    std::sort(turns.begin(), turns.end());
    return turns;
}

} // namespace

bool contains(const Shape& shape, Point p) {
    int count = 0;
    eachContour(shape, [&](const Contour& contour, size_t) {
        eachCurve(contour, [&](const Cubic& k, const Segment& s) {
            const auto [low, high] = std::minmax({k.a.y, k.b.y, k.c.y, k.d.y});
            if (p.y < low || p.y > high)
                return;
            const auto [left, right] = std::minmax({k.a.x, k.b.x, k.c.x, k.d.x});
            if (p.x < left) // all of it is passed: as often, but for an even number, as its ends part
                count += (k.a.y > p.y) != (k.d.y > p.y);
            else if (p.x <= right)
                count += passes(k, s.isLine, p);
        });
    });
    return count % 2 == 1;
}

std::optional<EdgePlace> nearestOnEdge(const Shape& shape, Point p) {
    return nearestOnEdge(shape, p, INFINITY);
}

std::optional<EdgePlace> nearestOnEdge(const Shape& shape, Point p, double withinMm) {
    std::optional<EdgePlace> best;
    double least = withinMm;
    eachContour(shape, [&](const Contour& contour, size_t c) {
        size_t segment = 0;
        eachCurve(contour, [&](const Cubic& k, const Segment& s) {
            Box box;
            for (Point q : {k.a, k.b, k.c, k.d})
                box.include(q);
            const Point inBox{std::clamp(p.x, box.least.x, box.most.x),
                              std::clamp(p.y, box.least.y, box.most.y)};
            if (distance(inBox, p) < least) {
                const Foot foot = s.isLine ? nearestFrom(k, p, 0.5) : nearest(k, p);
                if (foot.distance < least) {
                    least = foot.distance;
                    best = EdgePlace{k.at(foot.t), foot.distance, c, segment, foot.t};
                }
            }
            ++segment;
        });
    });
    return best;
}

bool isNearEdge(const Shape& shape, Point p, double withinMm) {
    const auto isNear = [&](const Contour& contour) {
        Point from = contour.start;
        for (const Segment& s : contour.segments) {
            const Point begin = std::exchange(from, s.end);
            Box box;
            box.include(begin);
            box.include(s.end);
            if (!s.isLine) {
                box.include(s.control1);
                box.include(s.control2);
            }
            if (!box.grownBy(withinMm).contains(p))
                continue;
            if (s.isLine ? distanceToStretch(p, begin, s.end) < withinMm
                         : isNearer(Cubic::of(begin, s), p, withinMm))
                return true;
        }
        return false;
    };
    return isNear(shape.outline) || std::any_of(shape.openings.begin(), shape.openings.end(), isNear);
}

Polygon convexHull(Polygon points) {
    std::sort(points.begin(), points.end(),
              [](Point a, Point b) { return a.x != b.x ? a.x < b.x : a.y < b.y; });
    points.erase(std::unique(points.begin(), points.end()), points.end());
    if (points.size() < 3)
        return points;
    Polygon hull;
    const auto chain = [&](auto begin, auto end) {
        const size_t base = hull.size();
        for (auto it = begin; it != end; ++it) {
            while (hull.size() >= base + 2 &&
                   cross(hull.back() - hull[hull.size() - 2], *it - hull.back()) <= 0)
                hull.pop_back();
            hull.push_back(*it);
        }
        hull.pop_back(); // it begins the other chain
    };
    chain(points.begin(), points.end());
    chain(points.rbegin(), points.rend());
    return hull;
}

TurnedRectangle leastRectangle(const std::vector<Shape>& shapes) {
    const Polygon hull = hullOf(shapes);
    TurnedRectangle best;
    if (hull.empty())
        return best;
    const Supports supports(hull);
    double least = std::numeric_limits<double>::infinity();
    for (double turn : sideTurns(hull)) {
        const Box box = supports.turnedBox(turn);
        if (box.width() * box.height() >= least)
            continue;
        least = box.width() * box.height();
        best = {turn, box.width(), box.height(), turned(box.centre(), -turn)};
    }
    if (best.widthMm < best.heightMm) {
        std::swap(best.widthMm, best.heightMm);
        best.turnRad -= std::numbers::pi / 2;
    }
    return best;
}

BestTurn bestTurn(const std::vector<Shape>& shapes, double widthMm, double heightMm) {
    const Polygon hull = hullOf(shapes);
    BestTurn best;
    if (hull.empty() || !(widthMm > 0) || !(heightMm > 0))
        return best;
    const Supports supports(hull);
    const auto offer = [&](double turn) {
        const Box box = supports.turnedBox(turn);
        const double scale =
            std::min(widthMm / std::max(1e-12, box.width()), heightMm / std::max(1e-12, box.height()));
        if (scale > best.scale * (1 + 1e-12) ||
            (scale > best.scale * (1 - 1e-12) && std::abs(turn) < std::abs(best.turnRad)))
            best = {turn, scale};
    };
    constexpr double kQuarter = std::numbers::pi / 2;
    std::vector<double> turns = sideTurns(hull);
    turns.insert(turns.begin(), 0.0);
    turns.push_back(kQuarter);
    // The quarter turn beyond serves the place turned on its side.
    for (int quarter : {0, -1})
        for (size_t i = 0; i < turns.size(); ++i) {
            const double turn = turns[i] + quarter * kQuarter;
            offer(turn);
            if (i + 1 == turns.size() || turns[i + 1] - turns[i] < 1e-12)
                continue;
            // Between two such turns the same points bound the box, so width and height are sines of the
            // turn, and where width : height is the place's own a single angle solves.
            const double inside = (turns[i] + turns[i + 1]) / 2 + quarter * kQuarter;
            constexpr double kHalf = std::numbers::pi;
            const Point across = supports.far(-inside) - supports.far(kHalf - inside),
                        down = supports.far(kHalf / 2 - inside) - supports.far(-kHalf / 2 - inside);
            // heightMm (across.x cos - across.y sin) = widthMm (down.x sin + down.y cos)
            const double a = heightMm * across.x - widthMm * down.y,
                         b = heightMm * across.y + widthMm * down.x;
            for (double even :
                 {std::atan2(a, b), std::atan2(a, b) + std::numbers::pi, std::atan2(a, b) - std::numbers::pi})
                if (even > turn && even < turns[i + 1] + quarter * kQuarter)
                    offer(even);
        }
    return best;
}

Circle enclosingCircle(const std::vector<Shape>& shapes) {
    Polygon points = hullOf(shapes);
    std::mt19937 random(1);
    std::shuffle(points.begin(), points.end(), random);
    const auto holds = [](const Circle& c, Point p) {
        return distance(c.centre, p) <= c.radius * (1 + 1e-12) + 1e-12;
    };
    const auto through2 = [](Point a, Point b) { return Circle{(a + b) * 0.5, distance(a, b) / 2}; };
    const auto through3 = [&](Point a, Point b, Point c) {
        const Point u = b - a, v = c - a;
        const double twice = 2 * (u.x * v.y - u.y * v.x);
        if (std::abs(twice) < 1e-18) // on one line: the two farthest decide
            return distance(a, b) > std::max(distance(b, c), distance(a, c)) ? through2(a, b)
                   : distance(b, c) > distance(a, c)                         ? through2(b, c)
                                                                             : through2(a, c);
        const double uu = u.x * u.x + u.y * u.y, vv = v.x * v.x + v.y * v.y;
        const Point off{(v.y * uu - u.y * vv) / twice, (u.x * vv - v.x * uu) / twice};
        return Circle{a + off, length(off)};
    };
    Circle circle;
    for (size_t i = 0; i < points.size(); ++i) {
        if (i > 0 && holds(circle, points[i]))
            continue;
        circle = {points[i], 0};
        for (size_t j = 0; j < i; ++j) {
            if (holds(circle, points[j]))
                continue;
            circle = through2(points[i], points[j]);
            for (size_t k = 0; k < j; ++k)
                if (!holds(circle, points[k]))
                    circle = through3(points[i], points[j], points[k]);
        }
    }
    return circle;
}

base::Result<std::vector<int>> connectedGroups(const std::vector<Shape>& shapes,
                                               const base::Progress& progress) {
    auto joined = weld(shapes, progress);
    if (!joined)
        return joined.error();
    std::vector<int> groups, nameOf(joined->size(), -1);
    int next = 0;
    for (const Shape& shape : shapes) {
        const Point inside = pointInside(shape);
        int group = -1;
        for (size_t i = 0; i < joined->size() && group < 0; ++i)
            if (bounds((*joined)[i]).contains(inside) && contains((*joined)[i], inside))
                group = nameOf[i] >= 0 ? nameOf[i] : (nameOf[i] = next++);
        groups.push_back(group >= 0 ? group : next++); // a shape without area hangs on nothing
    }
    return groups;
}

base::Result<std::vector<size_t>> islands(const std::vector<Shape>& shapes, const std::vector<Shape>& held,
                                          const base::Progress& progress) {
    std::vector<Shape> all = held;
    all.insert(all.end(), shapes.begin(), shapes.end());
    const auto groups = connectedGroups(all, progress);
    if (!groups)
        return groups.error();
    std::vector<size_t> loose;
    for (size_t i = 0; i < shapes.size(); ++i) {
        const auto heldEnd = groups->begin() + static_cast<std::ptrdiff_t>(held.size());
        if (std::find(groups->begin(), heldEnd, (*groups)[held.size() + i]) == heldEnd)
            loose.push_back(i);
    }
    return loose;
}

} // namespace thinline::geometry
