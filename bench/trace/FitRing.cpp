// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/FitRing.h"

#include "geometry/Cubic.h"
#include "geometry/CubicFit.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace thinline::geometry {
namespace {

/// Points of a ring by any whole number.
class Ring {
  public:
    explicit Ring(const Polygon& points) : m_points(points), m_n(static_cast<long>(points.size())) {}
    Point operator[](long i) const { return m_points[static_cast<size_t>(((i % m_n) + m_n) % m_n)]; }
    long size() const { return m_n; }

  private:
    const Polygon& m_points;
    long m_n;
};

double turnBetween(Point in, Point out) {
    return std::atan2(cross(in, out), dot(in, out));
}

/// One side of a possible corner as a parabola over the way from it: p(s) = at + along s + bend s^2.
struct Course {
    Point at, along, bend;
    Point place(double s) const { return at + along * s + bend * (s * s); }
    Point speed(double s) const { return along + bend * (2 * s); }
};

/// The parabola through the points that lie two to reach + 1 steps from point i, forwards or backwards; the
/// nearest are left out because a soft edge rounds them.
Course courseFrom(const Ring& ring, long i, long reach, int way, long skip = 2) {
    double m[5] = {};
    Point b[3] = {};
    double s = 0;
    for (long k = 1; k < skip; ++k)
        s += distance(ring[i + way * (k - 1)], ring[i + way * k]);
    for (long k = skip; k < skip + reach; ++k) {
        const Point p = ring[i + way * k];
        s += distance(ring[i + way * (k - 1)], p);
        double power = 1;
        for (int e = 0; e < 5; ++e, power *= s)
            m[e] += power;
        power = 1;
        for (int e = 0; e < 3; ++e, power *= s)
            b[e] = b[e] + p * power;
    }
    if (skip > 2) { // so far away a parabola would swing; a straight line holds
        const double flat = m[0] * m[2] - m[1] * m[1];
        return {(b[0] * m[2] - b[1] * m[1]) * (1 / flat), (b[1] * m[0] - b[0] * m[1]) * (1 / flat), {}};
    }
    const double c00 = m[2] * m[4] - m[3] * m[3], c01 = m[2] * m[3] - m[1] * m[4],
                 c02 = m[1] * m[3] - m[2] * m[2], c11 = m[0] * m[4] - m[2] * m[2],
                 c12 = m[1] * m[2] - m[0] * m[3], c22 = m[0] * m[2] - m[1] * m[1];
    const double det = m[0] * c00 + m[1] * c01 + m[2] * c02;
    if (std::abs(det) < 1e-9)
        return {ring[i], ring[i + way * (skip + reach - 1)] - ring[i], {}};
    return {(b[0] * c00 + b[1] * c01 + b[2] * c02) * (1 / det),
            (b[0] * c01 + b[1] * c11 + b[2] * c12) * (1 / det),
            (b[0] * c02 + b[1] * c12 + b[2] * c22) * (1 / det)};
}

/// The turn at point i: between the directions in which its two sides would reach it. On an arc both sides
/// run on into one another, so that it has none.
double turnAt(const Ring& ring, long i, long reach) {
    return turnBetween(courseFrom(ring, i, reach, -1).along * -1, courseFrom(ring, i, reach, 1).along);
}

/// Where the two sides running into a corner meet; nothing when they do not, or far away.
std::optional<RingCorner> meetingOf(const Ring& ring, long i, long reach, long skip) {
    const Course back = courseFrom(ring, i, reach, -1, skip), on = courseFrom(ring, i, reach, 1, skip);
    constexpr double kFar = 8; // a very sharp tip loses several pixels to its soft edge
    double s = 0, t = 0;
    for (int round = 0; round < 8; ++round) {
        const Point miss = on.place(t) - back.place(s), vs = back.speed(s), vt = on.speed(t);
        const double across = cross(vs, vt);
        if (std::abs(across) < 0.05 * length(vs) * length(vt))
            return std::nullopt;
        // miss = vs ds - vt dt
        s += cross(miss, vt) / across;
        t += cross(miss, vs) / across;
        if (std::abs(s) > kFar || std::abs(t) > kFar)
            return std::nullopt;
    }
    const Point meeting = (back.place(s) + on.place(t)) * 0.5;
    if (distance(meeting, ring[i]) > kFar)
        return std::nullopt;
    return RingCorner{static_cast<size_t>(i), meeting, turnBetween(back.speed(s) * -1, on.speed(t))};
}

/// Whether the ring comes as near to a corner as a soft edge lets it: the sharper the tip, the more is lost.
/// A rounded corner stays farther away from where its sides would meet.
bool isAsNearAsATip(const Ring& ring, long i, Point place, double turnRad) {
    double least = distance(ring[i], place);
    for (long k = -2; k <= 2; ++k)
        least = std::min(least, distanceToStretch(place, ring[i + k], ring[i + k + 1]));
    const double half = std::max(0.1, std::cos(turnRad / 2));
    return least <= 0.2 + 0.3 / (half * half);
}

/// The direction of the ring at point i, from the parabola through the points around it (between `low` and
/// `high`).
Point directionNear(const std::vector<Point>& run, size_t i, size_t reach) {
    const size_t low = i > reach ? i - reach : 0, high = std::min(run.size() - 1, i + reach);
    if (high - low < 2)
        return direction(run[high] - run[low]);
    // x and y as parabolas over the length along the run, zero at i.
    std::vector<double> s(high - low + 1, 0);
    for (size_t k = i; k < high; ++k)
        s[k + 1 - low] = s[k - low] + distance(run[k], run[k + 1]);
    for (size_t k = i; k > low; --k)
        s[k - 1 - low] = s[k - low] - distance(run[k], run[k - 1]);
    double m[5] = {}, bx[3] = {}, by[3] = {};
    for (size_t k = low; k <= high; ++k) {
        const double t = s[k - low];
        double power = 1;
        for (int e = 0; e < 5; ++e, power *= t)
            m[e] += power;
        power = 1;
        for (int e = 0; e < 3; ++e, power *= t) {
            bx[e] += power * run[k].x;
            by[e] += power * run[k].y;
        }
    }
    // Cramer for the linear coefficient of the 3 x 3 normal equations.
    const double det = m[0] * (m[2] * m[4] - m[3] * m[3]) - m[1] * (m[1] * m[4] - m[2] * m[3]) +
                       m[2] * (m[1] * m[3] - m[2] * m[2]);
    if (std::abs(det) < 1e-9)
        return direction(run[high] - run[low]);
    const auto linear = [&](const double* b) {
        return (m[0] * (b[1] * m[4] - b[2] * m[3]) - b[0] * (m[1] * m[4] - m[3] * m[2]) +
                m[2] * (m[1] * b[2] - m[2] * b[1])) /
               det;
    };
    return direction({linear(bx), linear(by)});
}

/// The ring without points that crowd or step back: where the border changes between rows and columns they
/// may.
Polygon evened(const Polygon& given) {
    constexpr double kLeastStep = 0.85;
    Polygon out;
    for (const Point p : given) {
        while (out.size() > 1 && dot(out.back() - out[out.size() - 2], p - out.back()) <= 0 &&
               distance(out.back(), p) < 1.2)
            out.pop_back();
        if (out.empty() || distance(out.back(), p) >= kLeastStep)
            out.push_back(p);
    }
    while (out.size() > 8 && distance(out.front(), out.back()) < kLeastStep)
        out.pop_back();
    return out;
}

/// How far points lie off the line of their neighbours, as a deviation: from the median, so that corners have
/// no say.
double scatterOf(const Ring& ring) {
    std::vector<double> off;
    for (long i = 0; i < ring.size(); ++i) {
        const Point chord = ring[i + 1] - ring[i - 1];
        off.push_back(std::abs(cross(direction(chord), ring[i] - ring[i - 1])));
    }
    std::nth_element(off.begin(), off.begin() + static_cast<std::ptrdiff_t>(off.size() / 2), off.end());
    return 1.48 * off[off.size() / 2] / std::sqrt(1.5);
}

/// Fits one run between two corners, or a closed smooth one whose ends are alike.
class RunFitter {
  public:
    RunFitter(std::vector<Point> run, const RingOptions& options, std::vector<Segment>& out)
        : m_run(std::move(run)), m_options(options), m_out(out) {}

    /// `begin` and `end` are the directions at the ends where they are known.
    void fit(std::optional<Point> begin, std::optional<Point> end) {
        const size_t last = m_run.size() - 1;
        std::optional<Point> leave = begin;
        for (size_t at = 0; at < last;) {
            const size_t line = farthestLine(at);
            const size_t curve = line == last ? at : farthestCurve(at, leave, end);
            // A side that is nearly as long as the best curve is a side; otherwise the curve takes it in.
            const bool isLine = line == last || line - at >= (curve - at) * 7 / 10;
            if (isLine) {
                m_out.push_back(Segment::line(m_run[line]));
                leave = direction(m_run[line] - m_run[at]);
                at = line;
            } else {
                const Cubic cubic = *tryCurve(at, curve, leave, end);
                m_out.push_back(Segment::curve(cubic.b, cubic.c, cubic.d));
                leave = directionAt(cubic, 1);
                at = curve;
            }
        }
    }

  private:
    bool isLineTo(size_t from, size_t to) const {
        for (size_t i = from + 1; i < to; ++i)
            if (distanceToStretch(m_run[i], m_run[from], m_run[to]) > m_options.straight)
                return false;
        return true;
    }
    /// The last point a straight side from here reaches; the next one when there is none.
    size_t farthestLine(size_t from) const {
        return farthest(from, [&](size_t to) { return isLineTo(from, to); });
    }
    size_t farthestCurve(size_t from, std::optional<Point> leave, std::optional<Point> end) const {
        return farthest(from, [&](size_t to) { return tryCurve(from, to, leave, end).has_value(); });
    }
    /// Doubles the stretch while it holds, then halves the doubt.
    template <class Holds>
    size_t farthest(size_t from, Holds holds) const {
        const size_t last = m_run.size() - 1;
        if (holds(last))
            return last;
        size_t good = from + 1, step = 4;
        size_t bad = last;
        while (from + step < bad) {
            if (!holds(from + step)) {
                bad = from + step;
                break;
            }
            good = from + step;
            step *= 2;
        }
        while (bad - good > std::max<size_t>(1, (good - from) / 32)) {
            const size_t middle = (good + bad) / 2;
            (holds(middle) ? good : bad) = middle;
        }
        return good;
    }
    std::optional<Cubic> tryCurve(size_t from, size_t to, std::optional<Point> leave,
                                  std::optional<Point> end) const {
        const size_t last = m_run.size() - 1, reach = static_cast<size_t>(m_options.reach);
        const Point out = from == 0 && !leave ? directionNear(m_run, 0, reach)
                          : leave             ? *leave
                                              : directionNear(m_run, from, reach);
        const Point in = (to == last && end ? *end : directionNear(m_run, to, reach)) * -1;
        const FittedCubic fitted =
            fitCubic({m_run.data() + from, to - from + 1}, out, in, m_options.tolerance);
        return fitted.worst <= m_options.tolerance ? std::optional(fitted.cubic) : std::nullopt;
    }

    std::vector<Point> m_run;
    const RingOptions& m_options;
    std::vector<Segment>& m_out;
};

} // namespace

std::vector<RingCorner> cornersOf(const Polygon& points, const RingOptions& options) {
    const Ring ring(points);
    const long n = ring.size(), reach = options.reach;
    std::vector<RingCorner> out;
    if (n < 2 * reach + 6)
        return out;
    std::vector<double> turns(points.size());
    for (long i = 0; i < n; ++i)
        turns[static_cast<size_t>(i)] = turnAt(ring, i, reach);
    // A small ring turns everywhere: only what is sharp is a corner there.
    constexpr long kSmall = 40;
    const double leastTurn = n < kSmall ? std::max(options.leastTurnRad, 0.9) : options.leastTurnRad;
    const auto turn = [&](long i) { return turns[static_cast<size_t>(((i % n) + n) % n)]; };
    for (long i = 0; i < n; ++i) {
        const double here = std::abs(turn(i));
        if (here < leastTurn)
            continue;
        bool isMost = true;
        for (long k = 1; k <= reach && isMost; ++k)
            isMost = here > std::abs(turn(i + k)) && here >= std::abs(turn(i - k));
        if (!isMost)
            continue;
        // Near a sharp tip the two edges disturb one another: its sides are looked at farther away.
        constexpr double kSharpRad = 1.7;
        auto corner = meetingOf(ring, i, reach, 2);
        if (corner && here > kSharpRad)
            if (const auto farther = meetingOf(ring, i, reach + 4, 5);
                farther && farther->turnRad * turn(i) > 0)
                corner = farther;
        if (corner && isAsNearAsATip(ring, i, corner->place, std::abs(corner->turnRad)))
            out.push_back(*corner);
    }
    return out;
}

Contour fitRing(const Polygon& given, const RingOptions& wanted) {
    const Polygon points = evened(given);
    const Ring ring(points);
    const long n = ring.size();
    if (n < 8)
        return {};
    // Points that scatter more are followed less closely.
    RingOptions options = wanted;
    const double scatter = scatterOf(ring);
    options.tolerance = std::max(wanted.tolerance, 3.2 * scatter + 0.06);
    options.straight = std::max(wanted.straight, 3.2 * scatter + 0.04);
    const std::vector<RingCorner> corners = cornersOf(points, options);
    Contour out;
    if (corners.empty()) {
        // A closed smooth outline: begun where it bends least, its end running into its beginning.
        const long begin = 0;
        std::vector<Point> run;
        for (long i = begin; i <= begin + n; ++i)
            run.push_back(ring[i]);
        std::vector<Point> around;
        for (long i = begin - options.reach; i <= begin + options.reach; ++i)
            around.push_back(ring[i]);
        const Point through =
            directionNear(around, static_cast<size_t>(options.reach), static_cast<size_t>(options.reach));
        out.start = run.front();
        RunFitter(run, options, out.segments).fit(through, through);
        return out;
    }
    out.start = corners.front().place;
    for (size_t c = 0; c < corners.size(); ++c) {
        const RingCorner &from = corners[c], &to = corners[(c + 1) % corners.size()];
        const long first = static_cast<long>(from.index);
        long last = static_cast<long>(to.index);
        if (c + 1 == corners.size())
            last += n;
        // The points next to a corner are rounded by the soft edge; the corner itself stands for them.
        constexpr double kRounded = 1.6;
        std::vector<Point> run{from.place};
        for (long i = first + 1; i < last; ++i)
            if (distance(ring[i], from.place) > kRounded && distance(ring[i], to.place) > kRounded)
                run.push_back(ring[i]);
        run.push_back(to.place);
        RunFitter(run, options, out.segments).fit(std::nullopt, std::nullopt);
    }
    return out;
}

} // namespace thinline::geometry
