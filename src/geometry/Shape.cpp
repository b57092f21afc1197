// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Shape.h"

#include <array>

namespace thinline::geometry {
namespace {

Point onCurve(Point a, const Segment& s, double t) {
    const double u = 1 - t;
    return a * (u * u * u) + s.control1 * (3 * u * u * t) + s.control2 * (3 * u * t * t) +
           s.end * (t * t * t);
}

Point speedOnCurve(Point a, const Segment& s, double t) {
    const double u = 1 - t;
    return (s.control1 - a) * (3 * u * u) + (s.control2 - s.control1) * (6 * u * t) +
           (s.end - s.control2) * (3 * t * t);
}

/// Twice the area between the curve and the origin: the integral of x dy - y dx over one cubic.
double doubledSweep(Point a, const Segment& s) {
    if (s.isLine)
        return cross(a, s.end);
    const Point b = s.control1, c = s.control2, d = s.end;
    return (6 * cross(a, b) + 3 * cross(a, c) + cross(a, d) + 3 * cross(b, c) + 3 * cross(b, d) +
            6 * cross(c, d)) /
           10;
}

/// The 16-node Gauss-Legendre rule on [0, 1] (positive half; mirrored about 0.5).
constexpr std::array<std::array<double, 2>, 8> kGauss = {{{0.0950125098376374, 0.1894506104550685},
                                                          {0.2816035507792589, 0.1826034150449236},
                                                          {0.4580167776572274, 0.1691565193950025},
                                                          {0.6178762444026438, 0.1495959888165767},
                                                          {0.7554044083550030, 0.1246289712555339},
                                                          {0.8656312023878318, 0.0951585116824928},
                                                          {0.9445750230732326, 0.0622535239386479},
                                                          {0.9894009349916499, 0.0271524594117541}}};

double curveLength(Point a, const Segment& s, double t0, double t1) {
    const double half = (t1 - t0) / 2, mid = (t0 + t1) / 2;
    double sum = 0;
    for (const auto& [node, weight] : kGauss)
        sum += weight * (length(speedOnCurve(a, s, mid - half * node)) +
                         length(speedOnCurve(a, s, mid + half * node)));
    return sum * half;
}

/// Grows the box by the extreme points of one cubic in one coordinate's derivative.
void includeExtremes(Box& box, Point a, const Segment& s, double a0, double b0, double c0, double d0) {
    const double qa = -a0 + 3 * b0 - 3 * c0 + d0, qb = 2 * (a0 - 2 * b0 + c0), qc = b0 - a0;
    const auto take = [&](double t) {
        if (t > 0 && t < 1)
            box.include(onCurve(a, s, t));
    };
    if (std::abs(qa) < 1e-12 * (std::abs(qb) + std::abs(qc))) {
        if (qb != 0)
            take(-qc / qb);
        return;
    }
    const double under = qb * qb - 4 * qa * qc;
    if (under < 0)
        return;
    const double q = -0.5 * (qb + std::copysign(std::sqrt(under), qb));
    take(q / qa);
    if (q != 0)
        take(qc / q);
}

template <class Visit>
void eachSegment(const Contour& contour, Visit visit) {
    Point from = contour.start;
    for (const Segment& segment : contour.segments) {
        visit(from, segment);
        from = segment.end;
    }
}

} // namespace

double distanceToStretch(Point p, Point a, Point b) {
    const Point along = b - a;
    const double square = dot(along, along);
    const double t = square > 0 ? std::clamp(dot(p - a, along) / square, 0.0, 1.0) : 0;
    return distance(p, a + along * t);
}

Contour contourThrough(const Polygon& points) {
    Contour contour;
    if (points.size() < 3)
        return contour;
    contour.start = points.front();
    for (size_t i = 1; i <= points.size(); ++i)
        contour.segments.push_back(Segment::line(points[i % points.size()]));
    return contour;
}

Contour transformed(const Contour& contour, const Transform& map) {
    Contour out{map(contour.start), contour.segments};
    for (Segment& s : out.segments)
        s = {map(s.control1), map(s.control2), map(s.end), s.isLine};
    return out;
}

Contour reversed(const Contour& contour) {
    Contour out;
    if (contour.segments.empty())
        return contour;
    out.start = contour.segments.back().end;
    out.segments.reserve(contour.segments.size());
    for (size_t i = contour.segments.size(); i-- > 0;) {
        const Segment& s = contour.segments[i];
        const Point to = i == 0 ? contour.start : contour.segments[i - 1].end;
        out.segments.push_back(s.isLine ? Segment::line(to) : Segment::curve(s.control2, s.control1, to));
    }
    return out;
}

Shape transformed(const Shape& shape, const Transform& map) {
    const bool isMirror = map.a * map.d - map.b * map.c < 0;
    const auto one = [&](const Contour& c) {
        return isMirror ? reversed(transformed(c, map)) : transformed(c, map);
    };
    Shape out{one(shape.outline), {}};
    out.openings.reserve(shape.openings.size());
    for (const Contour& opening : shape.openings)
        out.openings.push_back(one(opening));
    return out;
}

double signedArea(const Contour& contour) {
    // Relative to the start, so that a small piece far from the origin keeps its digits.
    double doubled = 0;
    const Point o = contour.start;
    eachSegment(contour, [&](Point from, const Segment& s) {
        doubled += doubledSweep(from - o, {s.control1 - o, s.control2 - o, s.end - o, s.isLine});
    });
    return doubled / 2;
}

double area(const Shape& shape) {
    double sum = signedArea(shape.outline);
    for (const Contour& opening : shape.openings)
        sum += signedArea(opening);
    return sum;
}

double contourLength(const Contour& contour) {
    double sum = 0;
    eachSegment(contour, [&](Point from, const Segment& s) {
        sum += s.isLine ? distance(from, s.end) : curveLength(from, s, 0, 0.5) + curveLength(from, s, 0.5, 1);
    });
    return sum;
}

double cutLength(const Shape& shape) {
    double sum = contourLength(shape.outline);
    for (const Contour& opening : shape.openings)
        sum += contourLength(opening);
    return sum;
}

Box bounds(const Contour& contour) {
    Box box;
    if (contour.segments.empty())
        return box;
    eachSegment(contour, [&](Point from, const Segment& s) {
        box.include(from);
        box.include(s.end);
        if (s.isLine || (box.contains(s.control1) && box.contains(s.control2)))
            return; // a curve lies within the hull of its four points
        includeExtremes(box, from, s, from.x, s.control1.x, s.control2.x, s.end.x);
        includeExtremes(box, from, s, from.y, s.control1.y, s.control2.y, s.end.y);
    });
    return box;
}

Box bounds(const Shape& shape) {
    return bounds(shape.outline);
}

int nodeCount(const Shape& shape) {
    size_t count = shape.outline.segments.size();
    for (const Contour& opening : shape.openings)
        count += opening.segments.size();
    return static_cast<int>(count);
}

Polygon flatten(const Contour& contour, double tolerance) {
    Polygon points;
    eachSegment(contour, [&](Point from, const Segment& s) {
        points.push_back(from);
        if (s.isLine)
            return;
        const double bend =
            std::max(length(from - s.control1 * 2 + s.control2), length(s.control1 - s.control2 * 2 + s.end));
        // Wang's bound on the distance between a cubic and its chords.
        const int steps =
            static_cast<int>(std::clamp(std::ceil(std::sqrt(0.75 * bend / tolerance)), 1.0, 512.0));
        for (int i = 1; i < steps; ++i)
            points.push_back(onCurve(from, s, static_cast<double>(i) / steps));
    });
    return points;
}

Polygons flatten(const Shape& shape, double tolerance) {
    Polygons rings;
    rings.reserve(1 + shape.openings.size());
    rings.push_back(flatten(shape.outline, tolerance));
    for (const Contour& opening : shape.openings)
        rings.push_back(flatten(opening, tolerance));
    return rings;
}

double signedArea(const Polygon& polygon) {
    double doubled = 0;
    for (size_t i = 0; i + 1 < polygon.size(); ++i)
        doubled += cross(polygon[i] - polygon[0], polygon[i + 1] - polygon[0]);
    return doubled / 2;
}

Box bounds(const Polygons& polygons) {
    Box box;
    for (const Polygon& ring : polygons)
        for (Point p : ring)
            box.include(p);
    return box;
}

bool contains(const Polygons& polygons, Point p) {
    bool isInside = false;
    for (const Polygon& ring : polygons) {
        for (size_t i = 0, j = ring.size() - 1; i < ring.size(); j = i++) {
            const Point a = ring[i], b = ring[j];
            if ((a.y > p.y) != (b.y > p.y) && p.x < a.x + (b.x - a.x) * (p.y - a.y) / (b.y - a.y))
                isInside = !isInside;
        }
    }
    return isInside;
}

Point pointInside(const Shape& shape) {
    const Box box = bounds(shape);
    if (box.isEmpty())
        return {};
    const Polygons rings = flatten(shape, std::max(1e-9, std::max(box.width(), box.height()) / 2000));
    double bestSpan = -1;
    Point best = box.centre();
    for (double share : {0.5, 0.38, 0.62, 0.25, 0.75, 0.12, 0.88}) {
        const double y = box.least.y + box.height() * share;
        std::vector<double> crossings;
        for (const Polygon& ring : rings)
            for (size_t i = 0, j = ring.size() - 1; i < ring.size(); j = i++)
                if ((ring[i].y > y) != (ring[j].y > y))
                    crossings.push_back(ring[i].x +
                                        (ring[j].x - ring[i].x) * (y - ring[i].y) / (ring[j].y - ring[i].y));
        std::sort(crossings.begin(), crossings.end());
        for (size_t i = 0; i + 1 < crossings.size(); i += 2) {
            if (crossings[i + 1] - crossings[i] > bestSpan) {
                bestSpan = crossings[i + 1] - crossings[i];
                best = {(crossings[i] + crossings[i + 1]) / 2, y};
            }
        }
    }
    return best;
}

} // namespace thinline::geometry
