// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Shape.h"

#include "geometry/Cubic.h"

namespace thinline::geometry {
namespace {

/// Twice the area between the curve and the origin: the integral of x dy - y dx over one cubic.
double doubledSweep(const Cubic& k) {
    return (6 * cross(k.a, k.b) + 3 * cross(k.a, k.c) + cross(k.a, k.d) + 3 * cross(k.b, k.c) +
            3 * cross(k.b, k.d) + 6 * cross(k.c, k.d)) /
           10;
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
    Contour out{map(contour.start), {}};
    out.segments.reserve(contour.segments.size());
    for (const Segment& s : contour.segments)
        if (const Point end = map(s.end); s.isLine)
            out.segments.push_back(Segment::line(end));
        else
            out.segments.push_back(Segment::curve(map(s.control1), map(s.control2), end));
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

Shape rounded(Shape shape, double step) {
    const double perUnit = 1 / step;
    const auto near = [perUnit](Point p) {
        return Point{std::round(p.x * perUnit) / perUnit, std::round(p.y * perUnit) / perUnit};
    };
    const auto roundAll = [&](Contour& contour) {
        contour.start = near(contour.start);
        for (Segment& s : contour.segments)
            s = {near(s.control1), near(s.control2), near(s.end), s.isLine};
    };
    roundAll(shape.outline);
    for (Contour& opening : shape.openings)
        roundAll(opening);
    return shape;
}

double signedArea(const Contour& contour) {
    // Relative to the start, so that a small piece far from the origin keeps its digits.
    double doubled = 0;
    const Point o = contour.start;
    eachCurve(contour, [&](const Cubic& k, const Segment& s) {
        doubled += s.isLine ? cross(k.a - o, k.d - o) : doubledSweep({k.a - o, k.b - o, k.c - o, k.d - o});
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
    eachCurve(contour, [&](const Cubic& k, const Segment& s) {
        sum += s.isLine ? distance(k.a, k.d) : curveLength(k);
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
    box.include(contour.start); // all ends first: then most curves are seen to lie within the box
    for (const Segment& s : contour.segments)
        box.include(s.end);
    eachCurve(contour, [&](const Cubic& k, const Segment& s) {
        if (s.isLine || (box.contains(k.b) && box.contains(k.c)))
            return; // a curve lies within the hull of its four points
        for (double t : turningPoints(k))
            box.include(k.at(t));
    });
    return box;
}

Box bounds(const Shape& shape) {
    return bounds(shape.outline);
}

bool isFinite(const Contour& contour) {
    return isFinite(contour.start) &&
           std::all_of(contour.segments.begin(), contour.segments.end(), [](const Segment& s) {
               return isFinite(s.end) && (s.isLine || (isFinite(s.control1) && isFinite(s.control2)));
           });
}

bool isFinite(const Shape& shape) {
    return isFinite(shape.outline) && std::all_of(shape.openings.begin(), shape.openings.end(),
                                                  [](const Contour& c) { return isFinite(c); });
}

Box hullBox(const Contour& contour) {
    Box box;
    box.include(contour.start);
    for (const Segment& s : contour.segments) {
        box.include(s.end);
        if (!s.isLine) {
            box.include(s.control1);
            box.include(s.control2);
        }
    }
    return box;
}

int nodeCount(const Shape& shape) {
    size_t count = shape.outline.segments.size();
    for (const Contour& opening : shape.openings)
        count += opening.segments.size();
    return static_cast<int>(count);
}

Polygon flatten(const Contour& contour, double tolerance) {
    Polygon points;
    eachCurve(contour, [&](const Cubic& k, const Segment& s) {
        points.push_back(k.a);
        if (s.isLine)
            return;
        // Wang's bound on the distance between a cubic and its chords.
        const int steps =
            static_cast<int>(std::clamp(std::ceil(std::sqrt(k.largestBend() / (8 * tolerance))), 1.0, 512.0));
        for (int i = 1; i < steps; ++i)
            points.push_back(k.at(static_cast<double>(i) / steps));
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
