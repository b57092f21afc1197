// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Fit.h"

#include "geometry/Cubic.h"

#include <span>

namespace thinline::geometry {
namespace {

using Run = std::span<const Point>;

/// The tangent at a of the parabola through a, b, c, taken by chord length.
Point endTangent(Point a, Point b, Point c) {
    const double h1 = distance(a, b), h2 = distance(b, c);
    if (h1 < 1e-12 || h2 < 1e-12)
        return direction(b - a);
    // A far third point says little about the direction at a.
    if (h2 > 4 * h1 || h1 > 4 * h2)
        return direction(b - a);
    return direction((b - a) * ((h1 + h2) / (h1 * h2)) - (c - a) * (h1 / (h2 * (h1 + h2))));
}

Point middleTangent(Point a, Point b, Point c) {
    const double h1 = std::max(1e-12, distance(a, b)), h2 = std::max(1e-12, distance(b, c));
    return direction((b - a) * (h2 / h1) + (c - b) * (h1 / h2));
}

/// Least squares for the two handle lengths along given end tangents (Schneider's generateBezier).
Cubic solveHandles(Run run, const std::vector<double>& at, Point tangent0, Point tangent1) {
    const Point first = run.front(), last = run.back();
    double c00 = 0, c01 = 0, c11 = 0, x0 = 0, x1 = 0;
    for (size_t i = 0; i < run.size(); ++i) {
        const double t = at[i], u = 1 - t;
        const Point a0 = tangent0 * (3 * u * u * t), a1 = tangent1 * (3 * u * t * t);
        const Point rest =
            run[i] - (first * (u * u * u + 3 * u * u * t) + last * (t * t * t + 3 * u * t * t));
        c00 += dot(a0, a0);
        c01 += dot(a0, a1);
        c11 += dot(a1, a1);
        x0 += dot(a0, rest);
        x1 += dot(a1, rest);
    }
    const double det = c00 * c11 - c01 * c01, chord = distance(first, last);
    double handle0 = chord / 3, handle1 = chord / 3;
    if (std::abs(det) > 1e-12 * c00 * c11) {
        const double h0 = (x0 * c11 - x1 * c01) / det, h1 = (c00 * x1 - c01 * x0) / det;
        if (h0 > 1e-4 * chord && h1 > 1e-4 * chord && h0 < 4 * chord && h1 < 4 * chord) {
            handle0 = h0;
            handle1 = h1;
        }
    }
    return {first, first + tangent0 * handle0, last + tangent1 * handle1, last};
}

struct Worst {
    double distance = 0;
    size_t index = 0;
};

Worst worstPoint(Run run, const std::vector<double>& at, const Cubic& cubic) {
    Worst worst{0, run.size() / 2};
    for (size_t i = 1; i + 1 < run.size(); ++i) {
        const double d = distance(run[i], cubic.at(at[i]));
        if (d > worst.distance)
            worst = {d, i};
    }
    return worst;
}

/// One Newton step of every parameter towards the foot of its point.
void refineParameters(Run run, std::vector<double>& at, const Cubic& cubic) {
    for (size_t i = 1; i + 1 < run.size(); ++i) {
        const Point miss = cubic.at(at[i]) - run[i], d1 = cubic.speed(at[i]), d2 = cubic.bend(at[i]);
        const double slope = dot(d1, d1) + dot(miss, d2);
        if (slope > 1e-12)
            at[i] = std::clamp(at[i] - dot(miss, d1) / slope, 0.0, 1.0);
    }
}

bool isStraight(Run run, double tolerance) {
    for (Point p : run)
        if (distanceToStretch(p, run.front(), run.back()) > tolerance)
            return false;
    return true;
}

/// Fits one run between two corners, splitting at the worst point until every point is within tolerance.
void fitRun(Run run, Point tangent0, Point tangent1, const FitOptions& options, std::vector<Segment>& out) {
    // A tenth of the budget: a shallow arc must not be taken for a straight side.
    if (run.size() == 2 || isStraight(run, options.tolerance * 0.1)) {
        out.push_back(Segment::line(run.back()));
        return;
    }
    std::vector<double> at(run.size(), 0.0);
    for (size_t i = 1; i < run.size(); ++i)
        at[i] = at[i - 1] + distance(run[i - 1], run[i]);
    for (double& t : at)
        t /= at.back();
    constexpr int kRounds = 6; // parameters settle in a few steps; splitting is cheaper than more
    Worst worst;
    for (int round = 0; round < kRounds; ++round) {
        const Cubic cubic = solveHandles(run, at, tangent0, tangent1);
        worst = worstPoint(run, at, cubic);
        if (worst.distance <= options.tolerance) {
            out.push_back(Segment::curve(cubic.b, cubic.c, cubic.d));
            return;
        }
        if (worst.distance > 16 * options.tolerance && round == 1)
            break;
        refineParameters(run, at, cubic);
    }
    const size_t split = std::clamp<size_t>(worst.index, 1, run.size() - 2);
    const Point through = middleTangent(run[split - 1], run[split], run[split + 1]);
    fitRun(run.subspan(0, split + 1), tangent0, through * -1, options, out);
    fitRun(run.subspan(split), through, tangent1, options, out);
}

/// The ring without points that repeat their neighbour.
Polygon distinctPoints(const Polygon& ring) {
    Polygon out;
    for (Point p : ring)
        if (out.empty() || distance(out.back(), p) > 1e-7)
            out.push_back(p);
    while (out.size() > 1 && distance(out.front(), out.back()) <= 1e-7)
        out.pop_back();
    return out;
}

/// Where a ring is broken into runs: at corners, and at both ends of every straight side, so that a curve is
/// never stretched over a long step that has no points to hold it.
struct Breaks {
    std::vector<size_t> at;
    std::vector<bool> isCorner;        ///< per point of the ring
    std::vector<bool> isStraightAfter; ///< the step that leaves this point is a straight side
};

Breaks breaksOf(const Polygon& ring, double cornerRad) {
    constexpr double kLonger = 4; // steps of a flattened curve change gently; a side among them stands out
    const size_t n = ring.size();
    Breaks breaks{{}, std::vector<bool>(n), std::vector<bool>(n)};
    const auto step = [&](size_t i) { return ring[(i + 1) % n] - ring[i % n]; };
    for (size_t i = 0; i < n; ++i) {
        const Point in = step(i + n - 1), out = step(i);
        breaks.isCorner[i] = std::abs(std::atan2(cross(in, out), dot(in, out))) > cornerRad;
        breaks.isStraightAfter[i] = length(out) > kLonger * std::min(length(in), length(step(i + 1)));
    }
    for (size_t i = 0; i < n; ++i)
        if (breaks.isCorner[i] || breaks.isStraightAfter[i] || breaks.isStraightAfter[(i + n - 1) % n])
            breaks.at.push_back(i);
    return breaks;
}

} // namespace

Contour fitContour(const Polygon& given, const FitOptions& options) {
    const Polygon ring = distinctPoints(given);
    const size_t n = ring.size();
    if (n < 3)
        return {};
    Breaks breaks = breaksOf(ring, options.cornerRad);
    const bool isSmooth = breaks.at.empty();
    if (isSmooth)
        breaks.at = {0, n / 2}; // a closed run has no chord to lie on: fit it as two halves
    if (breaks.at.size() == 1)
        breaks.at.push_back((breaks.at.front() + n / 2) % n);
    std::sort(breaks.at.begin(), breaks.at.end());

    // The direction in which the outline leaves (or, backwards, reaches) a break.
    const auto tangentAt = [&](size_t i, const Polygon& run, bool isStart) {
        const Point before = ring[(i + n - 1) % n], here = ring[i], after = ring[(i + 1) % n];
        const double sign = isStart ? 1 : -1;
        if (breaks.isCorner[i]) {
            if (run.size() < 3)
                return direction(isStart ? run[1] - run[0] : run[run.size() - 2] - run.back());
            const size_t m = run.size();
            return isStart ? endTangent(run[0], run[1], run[2])
                           : endTangent(run[m - 1], run[m - 2], run[m - 3]);
        }
        if (breaks.isStraightAfter[i])
            return direction(after - here) * sign;
        if (breaks.isStraightAfter[(i + n - 1) % n])
            return direction(here - before) * sign;
        return middleTangent(before, here, after) * sign;
    };
    Contour contour;
    contour.start = ring[breaks.at.front()];
    for (size_t k = 0; k < breaks.at.size(); ++k) {
        const size_t from = breaks.at[k], to = breaks.at[(k + 1) % breaks.at.size()];
        Polygon run{ring[from]};
        for (size_t i = from; i != to;) {
            i = (i + 1) % n;
            run.push_back(ring[i]);
        }
        fitRun(run, tangentAt(from, run, true), tangentAt(to, run, false), options, contour.segments);
    }
    return contour;
}

} // namespace thinline::geometry
