// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Cubic.h"

#include <array>

namespace thinline::geometry {
namespace {

/// The 16-node Gauss-Legendre rule on [-1, 1] (positive half).
constexpr std::array<std::array<double, 2>, 8> kGauss = {{{0.0950125098376374, 0.1894506104550685},
                                                          {0.2816035507792589, 0.1826034150449236},
                                                          {0.4580167776572274, 0.1691565193950025},
                                                          {0.6178762444026438, 0.1495959888165767},
                                                          {0.7554044083550030, 0.1246289712555339},
                                                          {0.8656312023878318, 0.0951585116824928},
                                                          {0.9445750230732326, 0.0622535239386479},
                                                          {0.9894009349916499, 0.0271524594117541}}};

double lengthOnce(const Cubic& curve, double t0, double t1) {
    const double half = (t1 - t0) / 2, mid = (t0 + t1) / 2;
    double sum = 0;
    for (const auto& [node, weight] : kGauss)
        sum += weight * (length(curve.speed(mid - half * node)) + length(curve.speed(mid + half * node)));
    return sum * half;
}

} // namespace

Point directionAt(const Cubic& curve, double t) {
    const Point v = curve.speed(t);
    const double scale =
        std::max({distance(curve.a, curve.b), distance(curve.b, curve.c), distance(curve.c, curve.d)});
    if (length(v) > 1e-9 * scale)
        return direction(v);
    // A handle of no length: the curve leaves towards the next control point that differs.
    const std::array<Point, 4> points = t < 0.5 ? std::array{curve.a, curve.b, curve.c, curve.d}
                                                : std::array{curve.d, curve.c, curve.b, curve.a};
    for (size_t i = 1; i < 4; ++i)
        if (distance(points[i], points[0]) > 1e-9 * scale)
            return direction(points[i] - points[0]) * (t < 0.5 ? 1 : -1);
    return {};
}

double curvatureAt(const Cubic& curve, double t) {
    const Point v = curve.speed(t);
    const double speed = length(v);
    return speed > 1e-12 ? cross(v, curve.bend(t)) / (speed * speed * speed) : 0;
}

Cubic stretch(const Cubic& curve, double t0, double t1) {
    const double third = (t1 - t0) / 3;
    const Point from = curve.at(t0), to = curve.at(t1);
    return {from, from + curve.speed(t0) * third, to - curve.speed(t1) * third, to};
}

std::vector<double> rootsInside(double q2, double q1, double q0) {
    std::vector<double> roots;
    constexpr double kEnd = 1e-9; // an end of the range is not inside it, whatever the last digits say
    const auto take = [&](double t) {
        if (t > kEnd && t < 1 - kEnd)
            roots.push_back(t);
    };
    if (std::abs(q2) < 1e-12 * (std::abs(q1) + std::abs(q0))) {
        if (q1 != 0)
            take(-q0 / q1);
        return roots;
    }
    const double under = q1 * q1 - 4 * q2 * q0;
    if (under < 0)
        return roots;
    const double q = -0.5 * (q1 + std::copysign(std::sqrt(under), q1));
    take(q / q2);
    if (q != 0)
        take(q0 / q);
    if (roots.size() == 2 && roots[0] > roots[1])
        std::swap(roots[0], roots[1]);
    return roots;
}

std::vector<double> turningPoints(const Cubic& k) {
    const auto turns = [](double a, double b, double c, double d) {
        return rootsInside(-a + 3 * b - 3 * c + d, 2 * (a - 2 * b + c), b - a);
    };
    std::vector<double> all = turns(k.a.x, k.b.x, k.c.x, k.d.x);
    const std::vector<double> vertical = turns(k.a.y, k.b.y, k.c.y, k.d.y);
    all.insert(all.end(), vertical.begin(), vertical.end());
    std::sort(all.begin(), all.end());
    return all;
}

Foot nearestFrom(const Cubic& curve, Point p, double t) {
    Foot best{t, distance(curve.at(t), p)};
    for (int i = 0; i < 12; ++i) {
        const Point miss = curve.at(t) - p, v = curve.speed(t);
        const double full = dot(v, v) + dot(miss, curve.bend(t));
        const double slope =
            full > 0 ? full : dot(v, v); // where the distance is concave, step as if straight
        if (!(slope > 0))
            break;
        const double next = std::clamp(t - dot(miss, v) / slope, 0.0, 1.0);
        const double d = distance(curve.at(next), p);
        if (d < best.distance)
            best = {next, d};
        if (std::abs(next - t) < 1e-13)
            break;
        t = next;
    }
    return best;
}

namespace {

/// The nearest place, or the first one found nearer than `enough`.
/// Branch and bound: a stretch lies within its chord's bound, so most are out at the first look.
Foot nearestUntil(const Cubic& curve, Point p, double enough) {
    struct Span {
        double t0, t1;
        Point a, b;
    };
    constexpr int kSpans = 8;
    std::vector<Span> open;
    open.reserve(kSpans + 8);
    Foot best{0, distance(curve.a, p)};
    for (int i = 0; i < kSpans; ++i) {
        const double t0 = static_cast<double>(i) / kSpans, t1 = static_cast<double>(i + 1) / kSpans;
        open.push_back({t0, t1, i > 0 ? open.back().b : curve.a, curve.at(t1)});
        if (const double d = distance(open.back().b, p); d < best.distance)
            best = {t1, d};
    }
    best = nearestFrom(curve, p, best.t);
    constexpr double kSure = 1e-9, kSmallest = 1e-7;
    const double bend = curve.largestBend();
    while (!open.empty() && best.distance >= enough) {
        const Span s = open.back();
        open.pop_back();
        const double dt = s.t1 - s.t0, apart = distanceToStretch(p, s.a, s.b) - bend * dt * dt / 8;
        if (dt < kSmallest || apart > best.distance - kSure || (enough > 0 && apart >= enough))
            continue;
        const double middle = (s.t0 + s.t1) / 2;
        if (const Foot foot = nearestFrom(curve, p, middle); foot.distance < best.distance)
            best = foot;
        const Point between = curve.at(middle);
        open.push_back({s.t0, middle, s.a, between});
        open.push_back({middle, s.t1, between, s.b});
    }
    return best;
}

} // namespace

Foot nearest(const Cubic& curve, Point p) {
    return nearestUntil(curve, p, 0);
}
bool isNearer(const Cubic& curve, Point p, double than) {
    return nearestUntil(curve, p, than).distance < than;
}

double curveLength(const Cubic& curve, double t0, double t1) {
    const double middle = (t0 + t1) / 2;
    return lengthOnce(curve, t0, middle) + lengthOnce(curve, middle, t1);
}

} // namespace thinline::geometry
