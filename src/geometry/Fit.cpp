// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Curves for outlines that were polygons, or that have more nodes than they need.
//
// Three different wishes end here, and they differ in what must not change.
//
// `fitContour` is given a polygon whose points all lie on the true outline, from an engine or another
// program. Where it is broken into runs decides how good it gets: at corners, and at both ends of every
// side that is much longer than the steps beside it. A flattened curve has steps that change gently, so a
// long step among short ones is a straight side; without a break there a curve would be stretched over it
// with no points to hold it, and bulge.
//
// `reduced` is given curves, and is to say the same with fewer. It never crosses a corner or a side; runs
// between them are fitted anew within the tolerance, and when nothing is gained the given curves stay, to
// the bit.
//
// `smoothed` is given a rough outline and is to change it. Points at even steps are averaged over a reach;
// corners are found first and kept, and towards a corner the window shrinks on both sides alike, so sides
// stay straight up to it.
//
// All of them tell how far the result strays from what was given, measured on both curves, because the
// tolerance was asked for at some points only and a person decides by the truth.
//
// `withoutNicks` takes out short detours: a run of steps that leaves the outline's course and comes back
// to it within a small distance. It compares directions before and after with the way across, so that a
// notch that was meant to turn the outline stays.
#include "geometry/Fit.h"

#include "geometry/CubicFit.h"

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
    const FittedCubic fitted = fitCubic(run, tangent0, tangent1, options.tolerance);
    if (fitted.worst <= options.tolerance) {
        out.push_back(Segment::curve(fitted.cubic.b, fitted.cubic.c, fitted.cubic.d));
        return;
    }
    const size_t split = std::clamp<size_t>(fitted.worstIndex, 1, run.size() - 2);
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

Contour fitLine(const Polygon& given, const FitOptions& options) {
    Polygon points;
    for (Point p : given)
        if (points.empty() || distance(points.back(), p) > 1e-7)
            points.push_back(p);
    if (points.size() < 2)
        return {};
    Contour line{points.front(), {}};
    const auto turnAt = [&](size_t i) {
        const Point in = points[i] - points[i - 1], out = points[i + 1] - points[i];
        return std::abs(std::atan2(cross(in, out), dot(in, out)));
    };
    for (size_t from = 0; from + 1 < points.size();) {
        size_t to = from + 1;
        while (to + 1 < points.size() && turnAt(to) <= options.cornerRad)
            ++to;
        const Run run(points.data() + from, to - from + 1);
        const size_t m = run.size();
        const Point begin = m > 2 ? endTangent(run[0], run[1], run[2]) : direction(run[1] - run[0]);
        const Point end = m > 2 ? endTangent(run[m - 1], run[m - 2], run[m - 3]) : direction(run[0] - run[1]);
        fitRun(run, begin, end, options, line.segments);
        from = to;
    }
    return line;
}

namespace {

/// The farthest points of `old` lie from `now`, looked at on `looks` points of every step.
double strayBetween(const Contour& old, const Contour& now, int looks) {
    const Polygon fine = flatten(now, 1e-4);
    if (fine.size() < 2)
        return 0;
    // The walk along both goes the same way: the nearest step is looked for near the last one first.
    double worst = 0;
    size_t near = 0;
    const auto away = [&](Point p, size_t i) {
        return distanceToStretch(p, fine[i], fine[(i + 1) % fine.size()]);
    };
    eachCurve(old, [&](const Cubic& k, const Segment&) {
        for (int i = 0; i < looks; ++i) {
            const Point p = k.at(static_cast<double>(i) / looks);
            double least = std::numeric_limits<double>::infinity();
            const size_t start = near, reach = std::min<size_t>(fine.size(), 40);
            for (size_t step = 0; step < reach; ++step) {
                const size_t at = (start + fine.size() + step - reach / 4) % fine.size();
                if (const double d = away(p, at); d < least) {
                    least = d;
                    near = at;
                }
            }
            if (least > 0.05) // lost the way: look everywhere
                for (size_t at = 0; at < fine.size(); ++at)
                    if (const double d = away(p, at); d < least) {
                        least = d;
                        near = at;
                    }
            worst = std::max(worst, least);
        }
    });
    return worst;
}

/// Steps of an outline between places where it must not be smoothed over.
struct SmoothRun {
    size_t first, count;
};

} // namespace

Cleaned reduced(const Contour& contour, const FitOptions& options) {
    std::vector<Cubic> steps;
    std::vector<bool> isLine;
    eachCurve(contour, [&](const Cubic& k, const Segment& s) {
        if (distance(k.a, k.b) + distance(k.b, k.c) + distance(k.c, k.d) > 1e-9) {
            steps.push_back(k);
            isLine.push_back(s.isLine);
        }
    });
    const size_t n = steps.size();
    if (n < 3)
        return {contour, 0};
    const auto isSide = [&](size_t i) {
        return isLine[i] && distance(steps[i].a, steps[i].d) > 4 * options.tolerance;
    };
    const auto isBreak = [&](size_t i) { // before step i
        const size_t before = (i + n - 1) % n;
        const Point in = directionAt(steps[before], 1), out = directionAt(steps[i], 0);
        // A straight side that goes on as a straight side in the same direction is one.
        const double turn = std::abs(std::atan2(cross(in, out), dot(in, out)));
        if (isSide(i) && isSide(before))
            return turn > 1e-4;
        return isSide(i) || isSide(before) || turn > options.cornerRad;
    };
    size_t begin = 0;
    while (begin < n && !isBreak(begin))
        ++begin;
    const bool isSmooth = begin == n;
    if (isSmooth)
        begin = 0;
    Contour out{steps[begin].a, {}};
    for (size_t i = 0; i < n;) {
        SmoothRun run{begin + i, 1};
        while (i + run.count < n && !isBreak((begin + i + run.count) % n))
            ++run.count;
        // A closed smooth outline is fitted as two halves, its tangents still running through.
        if (isSmooth)
            run.count = i == 0 ? n / 2 : n - i;
        Polygon points;
        constexpr int kLooks = 12;
        for (size_t k = 0; k < run.count; ++k)
            for (int look = 0; look < kLooks; ++look)
                points.push_back(steps[(run.first + k) % n].at(static_cast<double>(look) / kLooks));
        const Cubic &first = steps[run.first % n], &last = steps[(run.first + run.count - 1) % n];
        points.push_back(last.d);
        std::vector<Segment> fitted;
        fitRun(points, directionAt(first, 0), directionAt(last, 1) * -1, options, fitted);
        if (fitted.size() >= run.count) { // nothing gained: the given curves stay
            fitted.clear();
            for (size_t k = 0; k < run.count; ++k) {
                const size_t at = (run.first + k) % n;
                fitted.push_back(segmentOf(steps[at], isLine[at]));
            }
        }
        out.segments.insert(out.segments.end(), fitted.begin(), fitted.end());
        i += run.count;
    }
    return {out, strayBetween(contour, out, 24)};
}

Cleaned smoothed(const Contour& contour, double reachMm, double cornerRad) {
    const double whole = contourLength(contour);
    if (!(reachMm > 0) || !(whole > 6 * reachMm))
        return {contour, 0};
    // Points at even steps along the outline.
    const double step = reachMm / 6;
    const Polygon fine = flatten(contour, std::min(0.001, reachMm / 50));
    Polygon even;
    double left = 0;
    for (size_t i = 0; i < fine.size(); ++i) {
        const Point a = fine[i], b = fine[(i + 1) % fine.size()];
        const double size = distance(a, b);
        double at = left;
        for (; at < size; at += step)
            even.push_back(a + (b - a) * (at / size));
        left = at - size;
    }
    const auto n = static_cast<int>(even.size());
    const auto point = [&](int i) { return even[static_cast<size_t>((i % n + n) % n)]; };
    // Corners: where the direction over half a reach before and behind differs enough, and most.
    const auto turnOf = [&](int i) {
        const Point in = point(i) - point(i - 3), out = point(i + 3) - point(i);
        return std::abs(std::atan2(cross(in, out), dot(in, out)));
    };
    std::vector<bool> isCorner(static_cast<size_t>(n), false);
    for (int i = 0; i < n; ++i) {
        const double turn = turnOf(i);
        bool isMost = turn > cornerRad;
        for (int k = -3; k <= 3 && isMost; ++k)
            isMost = k == 0 || turn > turnOf(i + k) || (turn == turnOf(i + k) && k > 0);
        isCorner[static_cast<size_t>(i)] = isMost;
    }
    Polygon calm;
    for (int i = 0; i < n; ++i) {
        if (isCorner[static_cast<size_t>(i)]) {
            calm.push_back(point(i));
            continue;
        }
        Point sum = point(i);
        double weight = 1;
        // Towards a corner the window shrinks on both sides alike, so that sides stay straight up to it.
        for (int k = 1; k <= 6; ++k) {
            if (isCorner[static_cast<size_t>(((i - k) % n + n) % n)] ||
                isCorner[static_cast<size_t>((i + k) % n)])
                break;
            const double w = std::exp(-0.5 * k * k / 9.0);
            sum = sum + (point(i - k) + point(i + k)) * w;
            weight += 2 * w;
        }
        calm.push_back(sum * (1 / weight));
    }
    const Contour out = fitContour(calm, {.tolerance = reachMm / 20, .cornerRad = cornerRad / 2});
    return out.segments.size() < 2 ? Cleaned{contour, 0} : Cleaned{out, strayBetween(contour, out, 24)};
}

Cleaned withoutNicks(const Contour& contour, double sizeMm) {
    std::vector<Cubic> steps;
    std::vector<bool> isLine;
    std::vector<double> lengths;
    eachCurve(contour, [&](const Cubic& k, const Segment& s) {
        steps.push_back(k);
        isLine.push_back(s.isLine);
        lengths.push_back(s.isLine ? distance(k.a, k.d) : curveLength(k));
    });
    const size_t n = steps.size();
    constexpr double kRunsOnRad = 0.52; // 30 degrees
    const auto runsOn = [&](Point a, Point b) {
        return std::abs(std::atan2(cross(a, b), dot(a, b))) < kRunsOnRad;
    };
    // How many steps from i on are one detour; 0 when none begins there. One across the start is not seen.
    const auto detourAt = [&](size_t i) -> size_t {
        const Point from = steps[i].a, before = directionAt(steps[(i + n - 1) % n], 1);
        double way = 0, deepest = 0;
        size_t best = 0;
        for (size_t k = 0; k + 2 < n; ++k) {
            const Cubic& step = steps[(i + k) % n];
            way += lengths[(i + k) % n];
            if (way > 4 * sizeMm)
                break;
            for (double t : {0.25, 0.5, 0.75, 1.0})
                deepest = std::max(deepest, distance(step.at(t), from));
            const double across = distance(from, step.d);
            const Point after = directionAt(steps[(i + k + 1) % n], 0);
            const bool isDetour = across <= sizeMm && deepest <= 1.5 * sizeMm && way > 1.4 * across && k > 0;
            const bool isStraightOn =
                runsOn(before, after) &&
                (across < sizeMm / 20 || (runsOn(before, step.d - from) && runsOn(step.d - from, after)));
            if (isDetour && isStraightOn)
                best = k + 1;
        }
        return best;
    };
    Contour out;
    std::vector<std::pair<Point, Segment>> kept;
    for (size_t i = 0; i < n;) {
        const size_t skip = std::min(detourAt(i), n - i);
        if (skip > 0) {
            kept.emplace_back(steps[i].a, Segment::line(steps[i + skip - 1].d));
            i += skip;
        } else {
            kept.emplace_back(steps[i].a, segmentOf(steps[i], isLine[i]));
            ++i;
        }
    }
    if (kept.size() < 2)
        return {contour, 0};
    out.start = kept.front().first;
    for (const auto& [from, segment] : kept)
        if (distance(from, segment.end) > 1e-9)
            out.segments.push_back(segment);
    if (out.segments.size() < 2 || signedArea(out) * signedArea(contour) <= 0)
        return {contour, 0};
    return {out, strayBetween(contour, out, 24)};
}

} // namespace thinline::geometry
