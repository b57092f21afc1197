// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Cubic.h"
#include "support/Shapes.h"

#include <random>

/// Seeded random outlines, and a naive referee for set operations on them.
namespace thinline::support {

using geometry::Contour;
using geometry::Point;
using geometry::Segment;
using geometry::Shape;

/// A smooth closed curve through points on a wobbling circle (Catmull-Rom handles), positive area.
inline Shape blob(std::mt19937& random, Point centre, double radius, int nodes, double wobble) {
    std::uniform_real_distribution<double> share(1 - wobble, 1 + wobble);
    std::vector<Point> p;
    for (int i = 0; i < nodes; ++i) {
        const double a = 2 * std::numbers::pi * i / nodes, r = radius * share(random);
        p.push_back(centre + Point{r * std::cos(a), r * std::sin(a)});
    }
    Contour contour{p[0], {}};
    const size_t n = p.size();
    for (size_t i = 0; i < n; ++i) {
        const Point before = p[(i + n - 1) % n], here = p[i], next = p[(i + 1) % n], after = p[(i + 2) % n];
        contour.segments.push_back(
            Segment::curve(here + (next - before) * (1.0 / 6), next - (after - here) * (1.0 / 6), next));
    }
    return {contour, {}};
}

/// A closed walk of random cubics and lines within a square: crosses itself at will.
inline Contour tangle(std::mt19937& random, double side, int steps) {
    std::uniform_real_distribution<double> place(0, side);
    const auto point = [&] { return Point{place(random), place(random)}; };
    Contour contour{point(), {}};
    for (int i = 0; i < steps; ++i) {
        const Point end = i + 1 == steps ? contour.start : point();
        contour.segments.push_back(random() % 4 == 0 ? Segment::line(end)
                                                     : Segment::curve(point(), point(), end));
    }
    return contour;
}

inline Shape moved(const Shape& shape, Point by) {
    return geometry::transformed(shape, geometry::Transform::move(by));
}

inline Shape turned(const Shape& shape, double turnRad, Point about = {}) {
    const double c = std::cos(turnRad), s = std::sin(turnRad);
    return geometry::transformed(shape, geometry::Transform::move(about * -1)
                                            .then({c, s, -s, c, 0, 0})
                                            .then(geometry::Transform::move(about)));
}

/// What lies on one horizontal line: sorted places where the inside begins and ends.
using Row = std::vector<double>;

/// The inside of some outlines on the line y, by counting how often they wind; `isInside` judges the count.
template <class IsInside>
Row rowOf(const std::vector<geometry::Polygon>& rings, double y, IsInside isInside) {
    std::vector<std::pair<double, int>> steps;
    for (const auto& ring : rings)
        for (size_t i = 0, j = ring.size() - 1; i < ring.size(); j = i++)
            if ((ring[j].y > y) != (ring[i].y > y))
                steps.emplace_back(ring[j].x +
                                       (ring[i].x - ring[j].x) * (y - ring[j].y) / (ring[i].y - ring[j].y),
                                   ring[i].y > ring[j].y ? -1 : 1);
    std::sort(steps.begin(), steps.end());
    Row row;
    int wind = 0;
    for (const auto& [x, step] : steps) {
        const bool before = isInside(wind);
        wind += step;
        if (isInside(wind) != before)
            row.push_back(x);
    }
    return row;
}

/// Combines two rows by a rule on (in a, in b).
template <class Rule>
Row combined(const Row& a, const Row& b, Rule rule) {
    Row out, all = a;
    all.insert(all.end(), b.begin(), b.end());
    std::sort(all.begin(), all.end());
    const auto within = [](const Row& row, double x) {
        return (std::upper_bound(row.begin(), row.end(), x) - row.begin()) % 2 == 1;
    };
    bool isIn = false;
    for (double x : all)
        if (const bool next = rule(within(a, x), within(b, x)); next != isIn) {
            out.push_back(x);
            isIn = next;
        }
    return out;
}

/// The length by which two rows differ.
inline double difference(const Row& a, const Row& b) {
    double sum = 0;
    const Row either = combined(a, b, [](bool in, bool also) { return in != also; });
    for (size_t i = 0; i + 1 < either.size(); i += 2)
        sum += either[i + 1] - either[i];
    return sum;
}

inline std::vector<geometry::Polygon> finely(const std::vector<Contour>& contours) {
    std::vector<geometry::Polygon> rings;
    for (const Contour& contour : contours)
        rings.push_back(geometry::flatten(contour, 1e-5));
    return rings;
}

inline std::vector<Contour> contoursOf(const std::vector<Shape>& shapes) {
    std::vector<Contour> all;
    for (const Shape& shape : shapes) {
        all.push_back(shape.outline);
        all.insert(all.end(), shape.openings.begin(), shape.openings.end());
    }
    return all;
}

/// The area by which `result` misses what a rule makes of a and b, estimated on `rows` lines.
template <class InA, class InB, class Rule>
double missedArea(const std::vector<Contour>& a, InA inA, const std::vector<Contour>& b, InB inB, Rule rule,
                  const std::vector<Shape>& result, int rows = 250) {
    const auto ra = finely(a), rb = finely(b), rr = finely(contoursOf(result));
    geometry::Box box = geometry::bounds(ra);
    box.include(geometry::bounds(rb));
    const double step = box.height() / rows;
    double missed = 0;
    for (int i = 0; i < rows; ++i) {
        const double y = box.least.y + (i + 0.4371) * step;
        const Row wanted = combined(rowOf(ra, y, inA), rowOf(rb, y, inB), rule);
        missed += difference(wanted, rowOf(rr, y, [](int w) { return w == 1; })) * step;
    }
    return missed;
}

inline double perimeter(const std::vector<Contour>& contours) {
    double sum = 0;
    for (const Contour& contour : contours)
        sum += geometry::contourLength(contour);
    return sum;
}

inline int nodes(const std::vector<Shape>& shapes) {
    int sum = 0;
    for (const Shape& shape : shapes)
        sum += geometry::nodeCount(shape);
    return sum;
}

inline double area(const std::vector<Shape>& shapes) {
    double sum = 0;
    for (const Shape& shape : shapes)
        sum += geometry::area(shape);
    return sum;
}

} // namespace thinline::support
