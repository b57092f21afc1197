// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

#include <vector>

/// One cubic curve (or a straight step written as one) and what is asked of it.
namespace thinline::geometry {

/// Four control points. A line has its handles at the thirds, so that parameter and length agree.
struct Cubic {
    Point a, b, c, d;

    static Cubic line(Point from, Point to) {
        return {from, from + (to - from) * (1.0 / 3), from + (to - from) * (2.0 / 3), to};
    }
    static Cubic of(Point from, const Segment& s) {
        return s.isLine ? line(from, s.end) : Cubic{from, s.control1, s.control2, s.end};
    }
    bool operator==(const Cubic&) const = default;

    Point at(double t) const {
        const double u = 1 - t;
        return a * (u * u * u) + b * (3 * u * u * t) + c * (3 * u * t * t) + d * (t * t * t);
    }
    /// The derivative by the parameter.
    Point speed(double t) const {
        const double u = 1 - t;
        return (b - a) * (3 * u * u) + (c - b) * (6 * u * t) + (d - c) * (3 * t * t);
    }
    /// The second derivative by the parameter.
    Point bend(double t) const { return (c - b * 2 + a) * (6 * (1 - t)) + (d - c * 2 + b) * (6 * t); }
    /// The largest second derivative: a chord over a stretch dt strays at most this times dt^2 / 8.
    double largestBend() const { return 6 * std::max(length(a - b * 2 + c), length(b - c * 2 + d)); }
    Cubic reversed() const { return {d, c, b, a}; }
};

/// Returns the step of an outline that runs along a curve to its end.
inline Segment segmentOf(const Cubic& k, bool isLine) {
    return isLine ? Segment::line(k.d) : Segment::curve(k.b, k.c, k.d);
}

/// Returns the unit direction at t, looking along the curve; where the curve stands still, the direction in
/// which it leaves (t < 0.5) or arrives. Zero only when all four points coincide.
Point directionAt(const Cubic& curve, double t);

/// Returns the signed curvature, positive when the curve turns clockwise on screen; 0 where it stands still.
/// Units: 1 / length.
double curvatureAt(const Cubic& curve, double t);

/// Returns the stretch from t0 to t1 as a curve of its own; t0 > t1 walks it backwards.
Cubic stretch(const Cubic& curve, double t0, double t1);

/// Returns the parameters inside (0, 1) at which x or y turns back, ascending: between them the curve is
/// monotone in both. At most four.
std::vector<double> turningPoints(const Cubic& curve);

/// Returns the real roots of q2 t^2 + q1 t + q0 inside (0, 1), ascending.
std::vector<double> rootsInside(double q2, double q1, double q0);

/// The foot of a point on a curve.
struct Foot {
    double t = 0;
    double distance = 0;
};
/// Returns the nearest place of the curve to p, never another one (within 1e-9).
/// Cost: a dozen looks; more near cusps.
/// Source: branch and bound on chords; a chord strays at most largestBend dt^2 / 8.
Foot nearest(const Cubic& curve, Point p);
/// Returns whether some place of the curve is nearer than that. Cost: that of `nearest` until the first one is found.
bool isNearer(const Cubic& curve, Point p, double than);

/// Returns the place near `guess` by Newton steps only; good when the guess is.
Foot nearestFrom(const Cubic& curve, Point p, double guess);

/// Returns the length of the stretch from t0 to t1 (16-node Gauss-Legendre on halves).
double curveLength(const Cubic& curve, double t0 = 0, double t1 = 1);

/// Visits every step of a contour as (cubic, segment); lines are written as cubics.
template <class Visit>
void eachCurve(const Contour& contour, Visit visit) {
    Point from = contour.start;
    for (const Segment& s : contour.segments) {
        visit(Cubic::of(from, s), s);
        from = s.end;
    }
}

} // namespace thinline::geometry
