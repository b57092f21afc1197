// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/CubicFit.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace thinline::geometry {
namespace {

using Run = std::span<const Point>;

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

} // namespace

FittedCubic fitCubic(Run run, Point out, Point in, double tolerance) {
    std::vector<double> at(run.size(), 0.0);
    for (size_t i = 1; i < run.size(); ++i)
        at[i] = at[i - 1] + distance(run[i - 1], run[i]);
    for (double& t : at)
        t /= at.back();
    constexpr int kRounds = 6; // parameters settle in a few steps; splitting is cheaper than more
    FittedCubic fitted;
    for (int round = 0; round < kRounds; ++round) {
        fitted.cubic = solveHandles(run, at, out, in);
        const Worst worst = worstPoint(run, at, fitted.cubic);
        fitted.worst = worst.distance;
        fitted.worstIndex = worst.index;
        if (worst.distance <= tolerance || (worst.distance > 16 * tolerance && round == 1))
            break;
        refineParameters(run, at, fitted.cubic);
    }
    return fitted;
}

} // namespace thinline::geometry
