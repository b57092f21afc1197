// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// One cubic through many points.
//
// The two end points are given, and the direction at either end mostly is. What is left are two lengths,
// or, where a direction is free, the two coordinates of a handle; both are linear in the points if one
// knows at which parameter of the curve each point lies. So two things alternate: handles by least squares
// for the parameters as they are, and one Newton step of every parameter towards the foot of its point. It
// begins with parameters by chord length and settles in a few rounds. When the worst point is far beyond
// the tolerance after the second round, splitting is cheaper than going on.
//
// The system has two to four unknowns and is solved by elimination. It becomes singular when points say
// nothing about a handle (all of them at one end, say); then handles of a third of the chord are taken, as
// they are when a handle comes out backwards or absurdly long. Such a curve simply will not be within the
// tolerance, and is split.
//
// Why the distance is taken at each point's own parameter and not to the nearest place of the curve: after
// the Newton steps both nearly agree for curves that come within the tolerance, and the nearest place
// costs many times as much.
//
// Source: P. J. Schneider, An Algorithm for Automatically Fitting Digitized Curves, Graphics Gems, 1990;
// free end directions are our addition.
#include "geometry/CubicFit.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

namespace thinline::geometry {
namespace {

using Run = std::span<const Point>;

/// Least squares for the two handles: each a length along a given direction (Schneider's generateBezier), or
/// free where the direction is zero.
Cubic solveHandles(Run run, const std::vector<double>& at, Point tangent0, Point tangent1) {
    const Point first = run.front(), last = run.back();
    const double chord = distance(first, last);
    // The unknowns: for either handle one length, or its two coordinates as they lie from the end point.
    struct Unknown {
        Point along;
        bool isFirst;
    };
    std::array<Unknown, 4> unknowns{};
    int count = 0;
    const auto add = [&](Point tangent, bool isFirst) {
        if (tangent == Point{}) {
            unknowns[static_cast<size_t>(count++)] = {{1, 0}, isFirst};
            unknowns[static_cast<size_t>(count++)] = {{0, 1}, isFirst};
        } else {
            unknowns[static_cast<size_t>(count++)] = {tangent, isFirst};
        }
    };
    add(tangent0, true);
    add(tangent1, false);
    double s00 = 0, s01 = 0, s11 = 0;
    Point r0, r1;
    for (size_t i = 0; i < run.size(); ++i) {
        const double t = at[i], u = 1 - t, w0 = 3 * u * u * t, w1 = 3 * u * t * t;
        const Point rest = run[i] - (first * (u * u * u + w0) + last * (t * t * t + w1));
        s00 += w0 * w0;
        s01 += w0 * w1;
        s11 += w1 * w1;
        r0 = r0 + rest * w0;
        r1 = r1 + rest * w1;
    }
    double m[4][5] = {};
    for (int i = 0; i < count; ++i) {
        const Unknown& a = unknowns[static_cast<size_t>(i)];
        for (int j = 0; j < count; ++j) {
            const Unknown& b = unknowns[static_cast<size_t>(j)];
            m[i][j] = dot(a.along, b.along) * (a.isFirst && b.isFirst   ? s00
                                               : a.isFirst || b.isFirst ? s01
                                                                        : s11);
        }
        m[i][4] = dot(a.along, a.isFirst ? r0 : r1);
    }
    Point handle0 = tangent0 * (chord / 3), handle1 = tangent1 * (chord / 3);
    if (tangent0 == Point{})
        handle0 = (last - first) * (1.0 / 3);
    if (tangent1 == Point{})
        handle1 = (first - last) * (1.0 / 3);
    const Cubic plain{first, first + handle0, last + handle1, last};
    for (int i = 0; i < count; ++i) { // Gauss, the matrix is symmetric and positive
        if (!(m[i][i] > 1e-12 * (s00 + s11)))
            return plain;
        for (int k = i + 1; k < count; ++k) {
            const double factor = m[k][i] / m[i][i];
            for (int j = i; j < 5; ++j)
                m[k][j] -= factor * m[i][j];
        }
    }
    double value[4] = {};
    for (int i = count - 1; i >= 0; --i) {
        value[i] = m[i][4];
        for (int j = i + 1; j < count; ++j)
            value[i] -= m[i][j] * value[j];
        value[i] /= m[i][i];
    }
    handle0 = handle1 = {};
    for (int i = 0; i < count; ++i) {
        Point& handle = unknowns[static_cast<size_t>(i)].isFirst ? handle0 : handle1;
        handle = handle + unknowns[static_cast<size_t>(i)].along * value[i];
    }
    const auto isSound = [&](Point handle, Point tangent, Point ahead) {
        const double along = tangent == Point{} ? dot(direction(ahead), handle) : dot(tangent, handle);
        return length(handle) > 1e-4 * chord && length(handle) < 4 * chord && along > 0;
    };
    const size_t near = std::min<size_t>(run.size() - 1, 3);
    if (!isSound(handle0, tangent0, run[near] - first) ||
        !isSound(handle1, tangent1, run[run.size() - 1 - near] - last))
        return plain;
    return {first, first + handle0, last + handle1, last};
}

struct Worst {
    double distance = 0;
    size_t index = 0;
    size_t beyond = 0;
};

Worst worstPoint(Run run, const std::vector<double>& at, const Cubic& cubic, double tolerance) {
    Worst worst{0, run.size() / 2, 0};
    for (size_t i = 1; i + 1 < run.size(); ++i) {
        const double d = distance(run[i], cubic.at(at[i]));
        worst.beyond += d > tolerance;
        if (d > worst.distance) {
            worst.distance = d;
            worst.index = i;
        }
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
        const Worst worst = worstPoint(run, at, fitted.cubic, tolerance);
        fitted.worst = worst.distance;
        fitted.worstIndex = worst.index;
        fitted.beyond = worst.beyond;
        if (worst.distance <= tolerance || (worst.distance > 16 * tolerance && round == 1))
            break;
        refineParameters(run, at, fitted.cubic);
    }
    return fitted;
}

} // namespace thinline::geometry
