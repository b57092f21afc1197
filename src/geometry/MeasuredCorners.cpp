// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Corners among measured points.
//
// Points measured along a border in a picture lie within hundredths of a pixel of the drawn edge, but not
// at a corner: there the two edges share pixels, and the points cut the corner off as if it were rounded.
// A drawn round of the same radius looks nearly alike. Which one it is decides whether a knife turns
// there, so it must be told.
//
// Looking at how much the direction turns over a few points does not tell it: a small circle turns as much
// as a blunt corner. Four questions are asked, in the order of their cost:
//
// 1. Does the direction turn most here, over chords of four points to both sides? That only gives
//    candidates.
// 2. Does one smooth curve explain the points around it? A cubic in x and in y over the way, fitted to 13
//    or 17 points by orthogonal polynomials. If its rest stays within what scatter leaves, no corner is
//    needed. Both reaches must fail, for a short smooth curve can hide in the longer one.
// 3. Where do the two sides meet? Each side is the straight line or the parabola that holds for as many
//    points as it does, begun some way off the tip, because near the tip they disturb one another; and
//    they are followed to where they cross. How far off depends on the answer: edges that meet at ten
//    degrees lie within two pixels of each other for a long way. So it is asked from farther and farther
//    away until the tip that comes out is one that leaves the sides undisturbed from there on.
// 4. Do the points come as near to that crossing as blur lets them? The sharper a tip, the more of it is
//    lost: the loss grows with the tangent of half the turn. Points of a drawn round stay farther away
//    than that, and are left round.
//
// The limits follow the scatter measured on the points themselves. In a soft picture the blur is known
// (raster/Softness), and everything is looked at from as much farther away.
//
// What it cannot tell: two corners within about two pixels of each other are one here, and in letters a
// hundred pixels high about one corner in thirty is missed. Holding the curve against the picture
// (trace/Refine.cpp) finds most of these, for it can try a corner and see whether the pixels agree.
//
// Cost: O(points); the questions that cost something are asked of few.
#include "geometry/MeasuredTrack.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace thinline::geometry {
namespace {

double turnBetween(Point in, Point out) {
    return std::atan2(cross(in, out), dot(in, out));
}

/// Where two sides meet; nothing when they do not, or far away.
struct Meeting {
    Point place, in, out;
    double turn() const { return turnBetween(in, out); }
};
std::optional<Meeting> meetingOf(const Course& back, const Course& on, double skip) {
    const double far = 6 + skip;
    double s = 0, t = 0;
    for (int round = 0; round < 8; ++round) {
        const Point miss = on.place(t) - back.place(s), vs = back.speed(s), vt = on.speed(t);
        const double across = cross(vs, vt);
        if (std::abs(across) < 0.03 * length(vs) * length(vt))
            return std::nullopt;
        s += cross(miss, vt) / across; // miss = vs ds - vt dt
        t += cross(miss, vs) / across;
        if (!(std::abs(s) < far) || !(std::abs(t) < far))
            return std::nullopt;
    }
    if (s > skip + 0.5 || t > skip + 0.5)
        return std::nullopt; // among the points of a side: it is no end of it
    return Meeting{middle(back.place(s), on.place(t)), direction(back.speed(s)) * -1, direction(on.speed(t))};
}

/// Whether one smooth curve explains the points around i.
bool isSmoothAround(const Track& track, long i, long reach, double worst) {
    // x and y as cubics over the way, by orthogonal polynomials on the points' own ways.
    std::vector<double> s;
    std::vector<Point> p;
    double way = 0;
    for (long k = i - reach; k <= i + reach; ++k) {
        if (!track.has(k))
            continue;
        if (!p.empty())
            way += distance(p.back(), track[k]);
        s.push_back(way);
        p.push_back(track[k]);
    }
    if (p.size() < 7)
        return true;
    const size_t n = p.size();
    for (double& v : s)
        v = 2 * v / way - 1;
    std::vector<Point> rest = p;
    std::array<std::vector<double>, 4> basis;
    for (size_t e = 0; e < 4; ++e) {
        basis[e].resize(n);
        for (size_t k = 0; k < n; ++k)
            basis[e][k] = e == 0 ? 1 : basis[e - 1][k] * s[k];
        for (size_t f = 0; f < e; ++f) {
            double shared = 0, norm = 0;
            for (size_t k = 0; k < n; ++k) {
                shared += basis[e][k] * basis[f][k];
                norm += basis[f][k] * basis[f][k];
            }
            for (size_t k = 0; k < n; ++k)
                basis[e][k] -= basis[f][k] * shared / norm;
        }
        double norm = 0;
        Point dotted;
        for (size_t k = 0; k < n; ++k) {
            norm += basis[e][k] * basis[e][k];
            dotted = dotted + rest[k] * basis[e][k];
        }
        for (size_t k = 0; k < n; ++k)
            rest[k] = rest[k] - dotted * (basis[e][k] / norm);
    }
    for (size_t k = 0; k < n; ++k) {
        const Point along = direction(p[std::min(n - 1, k + 1)] - p[k > 0 ? k - 1 : 0]);
        if (std::abs(cross(along, rest[k])) > worst)
            return false;
    }
    return true;
}

/// Whether the points come as near to a corner as blur lets them: the sharper the tip, the more is lost. A
/// rounded corner stays farther away from where its sides would meet.
bool isAsNearAsATip(const Track& track, long i, const Meeting& corner, const Limits& limits) {
    double least = distance(track[i], corner.place);
    for (long k = -3; k < 3; ++k)
        if (track.has(i + k) && track.has(i + k + 1))
            least = std::min(least, distanceToStretch(corner.place, track[i + k], track[i + k + 1]));
    const double half = std::min(1.49, std::abs(corner.turn()) / 2);
    return least <= limits.generosity * (0.15 + (0.85 + limits.softness) * std::tan(half));
}

/// How far from a tip its two edges disturb one another: until they are about two points apart.
double blurredReach(double turnRad) {
    constexpr double kLeast = 1.6, kMost = 24;
    const double half = std::max(0.05, (std::numbers::pi - std::abs(turnRad)) / 2);
    return std::clamp(0.8 + 0.9 / std::tan(half), kLeast, kMost);
}

std::optional<MeasuredCorner> cornerAt(const Track& track, long i, const Limits& limits) {
    // The sides are looked at from farther and farther away until the tip they make leaves them undisturbed.
    constexpr std::array<double, 6> kSkips = {1.6, 3, 5, 8, 12, 18};
    std::optional<Meeting> found;
    double skip = kSkips.front();
    for (const double plain : kSkips) {
        const double farther = plain + 1.5 * limits.softness;
        const auto back = courseFrom(track, i, -1, farther, limits.worst),
                   on = courseFrom(track, i, 1, farther, limits.worst);
        if (!back || !on || (plain > kSkips[1] && std::min(back->count, on->count) < 0.6 * farther))
            break; // too short a side to look from so far away
        const auto meeting = meetingOf(*back, *on, farther);
        if (!meeting || (found && meeting->turn() * found->turn() < 0))
            continue;
        found = meeting;
        skip = farther;
        if (blurredReach(meeting->turn()) <= plain + 0.8)
            break;
    }
    if (!found || std::abs(found->turn()) < limits.leastTurn || !isAsNearAsATip(track, i, *found, limits))
        return std::nullopt;
    const auto reached = [&](int way) {
        long k = 0;
        for (double s = 0; k + 1 < track.size() / 2 && track.has(i + way * (k + 1)); ++k) {
            s += distance(track[i + way * k], track[i + way * (k + 1)]);
            if (s >= skip)
                break;
        }
        return k;
    };
    const long n = track.size();
    return MeasuredCorner{static_cast<size_t>(((i - reached(-1)) % n + n) % n),
                          static_cast<size_t>((i + reached(1)) % n), found->place, found->in, found->out};
}

} // namespace

Limits limitsOf(const Track& track, const MeasuredOptions& options) {
    const double soft = std::clamp(options.smoothness, 0.0, 1.3);
    Limits out;
    out.worst = std::min(0.6, 0.07 + 2.5 * scatterOf(track));
    out.leastTurn = soft <= 1 ? options.leastTurnRad * (0.6 + 0.4 * soft)
                              : options.leastTurnRad + (soft - 1) / 0.3 * std::numbers::pi;
    out.generosity = soft <= 1 ? 2 - soft : 1;
    out.softness = options.softness;
    return out;
}

std::vector<MeasuredCorner> cornersOn(const Track& track, const Limits& limits) {
    const long n = track.size();
    const long chord = 4 + std::lround(limits.softness);
    if (n < 8)
        return {};
    std::vector<double> turns(static_cast<size_t>(n), 0);
    for (long i = 0; i < n; ++i)
        if (track.has(i - chord) && track.has(i + chord))
            turns[static_cast<size_t>(i)] =
                turnBetween(track[i] - track[i - chord], track[i + chord] - track[i]);
    struct Candidate {
        long index;
        double turn;
    };
    std::vector<Candidate> candidates;
    const auto turn = [&](long i) {
        return track.has(i) ? std::abs(turns[static_cast<size_t>(((i % n) + n) % n)]) : 0;
    };
    for (long i = 0; i < n; ++i) {
        const double here = turn(i);
        if (here < 0.7 * limits.leastTurn)
            continue;
        bool isMost = true;
        for (long k = 1; k <= 2 && isMost; ++k)
            isMost = here >= turn(i + k) && here >= turn(i - k);
        if (isMost)
            candidates.push_back({i, here});
    }
    struct Found {
        long index;
        MeasuredCorner corner;
        double turn;
    };
    std::vector<Found> found;
    for (const Candidate& c : candidates) {
        const long wider = std::lround(2 * limits.softness); // the blur of a corner looks smooth by itself
        if (isSmoothAround(track, c.index, 8 + wider, limits.worst) ||
            isSmoothAround(track, c.index, 6 + wider, limits.worst))
            continue;
        // The blurred tip's middle may lie a point aside of the sharpest turn.
        if (const auto corner = cornerAt(track, c.index, limits))
            found.push_back({c.index, *corner, std::abs(turnBetween(corner->in, corner->out))});
    }
    std::sort(found.begin(), found.end(), [](const Found& a, const Found& b) { return a.turn > b.turn; });
    std::vector<Found> kept;
    for (const Found& f : found) {
        constexpr double kApart = 2.2; // two corners nearer to one another cannot be told apart
        const bool isTaken = std::any_of(kept.begin(), kept.end(), [&](const Found& k) {
            const long gap = std::abs(f.index - k.index);
            return distance(k.corner.place, f.corner.place) < kApart && std::min(gap, n - gap) < 12;
        });
        if (!isTaken)
            kept.push_back(f);
    }
    std::sort(kept.begin(), kept.end(), [](const Found& a, const Found& b) { return a.index < b.index; });
    std::vector<MeasuredCorner> out;
    for (const Found& k : kept)
        out.push_back(k.corner);
    return out;
}

} // namespace thinline::geometry
