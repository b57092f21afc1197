// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <cmath>
#include <limits>

/// Points, boxes and transforms of the design plane. x to the right, y down, as on the screen and in SVG;
/// units are whatever the caller's numbers are (mm in a design, px in a tracing) and stay the same
/// throughout.
namespace thinline::geometry {

struct Point {
    double x = 0;
    double y = 0;

    constexpr bool operator==(const Point&) const = default;
    constexpr Point operator+(Point o) const { return {x + o.x, y + o.y}; }
    constexpr Point operator-(Point o) const { return {x - o.x, y - o.y}; }
    constexpr Point operator*(double k) const { return {x * k, y * k}; }
};

constexpr double dot(Point a, Point b) {
    return a.x * b.x + a.y * b.y;
}
/// Positive when b lies clockwise of a as seen on screen.
constexpr double cross(Point a, Point b) {
    return a.x * b.y - a.y * b.x;
}
inline double length(Point a) {
    return std::sqrt(dot(a, a)); // sizes here are far from overflow, and hypot takes five times as long
}
inline double distance(Point a, Point b) {
    return length(a - b);
}
constexpr Point middle(Point a, Point b) {
    return (a + b) * 0.5;
}
/// Returns the unit vector, or the zero vector for one too short to have a direction.
inline Point direction(Point a) {
    const double l = length(a);
    return l > 1e-12 ? a * (1 / l) : Point{};
}
inline bool isFinite(Point p) {
    return std::isfinite(p.x) && std::isfinite(p.y);
}
/// Returns the distance from p to the straight stretch a-b.
double distanceToStretch(Point p, Point a, Point b);

/// An axis-parallel box; a default box is empty and grows by `include`.
struct Box {
    Point least{std::numeric_limits<double>::infinity(), std::numeric_limits<double>::infinity()};
    Point most{-std::numeric_limits<double>::infinity(), -std::numeric_limits<double>::infinity()};

    constexpr bool operator==(const Box&) const = default;
    bool isEmpty() const { return !(least.x <= most.x && least.y <= most.y); }
    double width() const { return isEmpty() ? 0 : most.x - least.x; }
    double height() const { return isEmpty() ? 0 : most.y - least.y; }
    Point centre() const { return middle(least, most); }
    void include(Point p) {
        least = {std::min(least.x, p.x), std::min(least.y, p.y)};
        most = {std::max(most.x, p.x), std::max(most.y, p.y)};
    }
    void include(const Box& box) {
        if (!box.isEmpty()) {
            include(box.least);
            include(box.most);
        }
    }
    Box grownBy(double margin) const {
        return {{least.x - margin, least.y - margin}, {most.x + margin, most.y + margin}};
    }
    bool contains(Point p) const {
        return p.x >= least.x && p.x <= most.x && p.y >= least.y && p.y <= most.y;
    }
    bool meets(const Box& o) const {
        return least.x <= o.most.x && o.least.x <= most.x && least.y <= o.most.y && o.least.y <= most.y;
    }
};

/// An affine map: p -> (a x + c y + e, b x + d y + f), the order of SVG's matrix().
struct Transform {
    double a = 1, b = 0, c = 0, d = 1, e = 0, f = 0;

    static constexpr Transform scale(double sx, double sy) { return {sx, 0, 0, sy, 0, 0}; }
    static constexpr Transform move(Point by) { return {1, 0, 0, 1, by.x, by.y}; }
    /// A turn by whole quarters about the origin; one quarter is clockwise on screen: +x goes to +y.
    static constexpr Transform quarterTurns(int quarters) {
        switch (((quarters % 4) + 4) % 4) {
        case 1:
            return {0, 1, -1, 0, 0, 0};
        case 2:
            return {-1, 0, 0, -1, 0, 0};
        case 3:
            return {0, -1, 1, 0, 0, 0};
        default:
            return {};
        }
    }
    constexpr bool operator==(const Transform&) const = default;
    constexpr Point operator()(Point p) const { return {a * p.x + c * p.y + e, b * p.x + d * p.y + f}; }
    /// Returns the map that does this one first, then `next`.
    constexpr Transform then(const Transform& n) const {
        return {n.a * a + n.c * b, n.b * a + n.d * b,       n.a * c + n.c * d,
                n.b * c + n.d * d, n.a * e + n.c * f + n.e, n.b * e + n.d * f + n.f};
    }
};

/// Returns the map that undoes one; the map must not flatten the plane.
constexpr Transform inverse(const Transform& t) {
    const double det = t.a * t.d - t.b * t.c;
    return {t.d / det,
            -t.b / det,
            -t.c / det,
            t.a / det,
            (t.c * t.f - t.d * t.e) / det,
            (t.b * t.e - t.a * t.f) / det};
}

/// Returns the box of a box's mapped corners: where it is turned, larger than what lies in it; empty for an empty one.
inline Box transformed(const Box& box, const Transform& map) {
    Box out;
    if (!box.isEmpty())
        for (const Point corner :
             {box.least, Point{box.most.x, box.least.y}, box.most, Point{box.least.x, box.most.y}})
            out.include(map(corner));
    return out;
}

} // namespace thinline::geometry
