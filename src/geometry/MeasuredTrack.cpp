// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/MeasuredTrack.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace thinline::geometry {

Polygon evened(const Polygon& all, bool isRing) {
    constexpr double kLeastStep = 0.85;
    Polygon given = all, out;
    if (isRing && given.size() > 8) { // begun where it runs on most evenly
        const Track track(all, true);
        long best = 0;
        double least = 1e9;
        for (long i = 0; i < track.size(); ++i) {
            const double uneven = distance(track[i + 1] - track[i], track[i] - track[i - 1]) +
                                  distance(track[i + 3] - track[i], track[i] - track[i - 3]);
            if (uneven < least - 1e-9) {
                least = uneven;
                best = i;
            }
        }
        std::rotate(given.begin(), given.begin() + best, given.end());
    }
    int taken = 0; // in a row: a thin tip steps back too, all along, and is no crowd
    for (const Point p : given) {
        const bool stepsBack = out.size() > 1 && dot(out.back() - out[out.size() - 2], p - out.back()) <= 0 &&
                               distance(out.back(), p) < 1.2;
        if (stepsBack && taken < 2) {
            out.pop_back();
            ++taken;
        } else {
            taken = 0;
        }
        if (out.empty() || distance(out.back(), p) >= kLeastStep)
            out.push_back(p);
    }
    while (isRing && out.size() > 8 && distance(out.front(), out.back()) < kLeastStep)
        out.pop_back();
    return out;
}

double scatterOf(const Track& track) {
    std::vector<double> off;
    for (long i = 0; i < track.size(); ++i) {
        if (!track.has(i - 1) || !track.has(i + 2))
            continue;
        const Point across = direction(track[i + 2] - track[i - 1]);
        off.push_back(std::abs(cross(across, track[i + 2] - track[i + 1] * 3 + track[i] * 3 - track[i - 1])));
    }
    if (off.empty())
        return 0;
    // By the middle one, and by the four fifths where the scatter is uneven, as along the blocks of a JPEG.
    const auto ranked = [&](double share) {
        const auto at =
            off.begin() + static_cast<std::ptrdiff_t>(share * static_cast<double>(off.size() - 1));
        std::nth_element(off.begin(), at, off.end());
        return *at;
    };
    constexpr double kNorm = 4.47213595499958; // of 1, -3, 3, -1
    return std::max(1.48 * ranked(0.5), ranked(0.8) / 1.28) / kNorm;
}

Course lineThrough(const Stretch& side, size_t count) {
    double m0 = 0, m1 = 0, m2 = 0;
    Point b0, b1;
    for (size_t k = 0; k < count; ++k) {
        m0 += 1;
        m1 += side.s[k];
        m2 += side.s[k] * side.s[k];
        b0 = b0 + side.p[k];
        b1 = b1 + side.p[k] * side.s[k];
    }
    const double det = m0 * m2 - m1 * m1;
    return {(b0 * m2 - b1 * m1) * (1 / det), (b1 * m0 - b0 * m1) * (1 / det), {}, static_cast<int>(count)};
}

Course parabolaThrough(const Stretch& side, size_t count) {
    double m[5] = {};
    Point b[3] = {};
    for (size_t k = 0; k < count; ++k) {
        double power = 1;
        for (int e = 0; e < 5; ++e, power *= side.s[k])
            m[e] += power;
        power = 1;
        for (int e = 0; e < 3; ++e, power *= side.s[k])
            b[e] = b[e] + side.p[k] * power;
    }
    const double c00 = m[2] * m[4] - m[3] * m[3], c01 = m[2] * m[3] - m[1] * m[4],
                 c02 = m[1] * m[3] - m[2] * m[2], c11 = m[0] * m[4] - m[2] * m[2],
                 c12 = m[1] * m[2] - m[0] * m[3], c22 = m[0] * m[2] - m[1] * m[1];
    const double det = m[0] * c00 + m[1] * c01 + m[2] * c02;
    return {(b[0] * c00 + b[1] * c01 + b[2] * c02) * (1 / det),
            (b[0] * c01 + b[1] * c11 + b[2] * c12) * (1 / det),
            (b[0] * c02 + b[1] * c12 + b[2] * c22) * (1 / det), static_cast<int>(count)};
}

namespace {

bool holds(const Course& course, const Stretch& side, size_t count, double worst) {
    for (size_t k = 0; k < count; ++k) {
        const Point off = side.p[k] - course.place(side.s[k]);
        if (std::abs(cross(direction(course.speed(side.s[k])), off)) > worst)
            return false;
    }
    return true;
}

} // namespace

std::optional<Course> courseFrom(const Track& track, long i, int way, double skip, double worst) {
    constexpr std::array<size_t, 9> kLineCounts = {3, 4, 6, 8, 11, 15, 20, 28, 40};
    constexpr std::array<size_t, 7> kBentCounts = {6, 8, 10, 12, 15, 20, 26};
    constexpr double kSagitta = 2.2;
    Stretch side;
    double s = 0;
    for (long k = 1; side.p.size() < kLineCounts.back() && k < track.size() / 2 && track.has(i + way * k);
         ++k) {
        const Point p = track[i + way * k];
        s += distance(track[i + way * (k - 1)], p);
        if (s < skip)
            continue;
        side.s.push_back(s);
        side.p.push_back(p);
    }
    if (side.p.size() < 2)
        return std::nullopt;
    Course line = lineThrough(side, 2);
    for (size_t count : kLineCounts) {
        if (count > side.p.size())
            break;
        const Course longer = lineThrough(side, count);
        if (!holds(longer, side, count, worst))
            break;
        line = longer;
    }
    std::optional<Course> bent;
    for (size_t count : kBentCounts) {
        if (count > side.p.size())
            break;
        const Course longer = parabolaThrough(side, count);
        if (!holds(longer, side, count, worst))
            break;
        bent = longer;
    }
    // A parabola swings where a line holds; it is taken where it reaches farther or clearly bends.
    if (!bent || line.count >= 2 * bent->count)
        return line;
    const auto last = static_cast<size_t>(bent->count) - 1;
    const double sagitta = length(bent->bend) * std::pow(side.s[last] - side.s[0], 2) / 4;
    const double doubt = kSagitta * worst / std::sqrt(static_cast<double>(bent->count));
    return sagitta > doubt || bent->count > line.count + line.count / 2 ? bent : line;
}

} // namespace thinline::geometry
