// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Measured.h"

#include "geometry/Cubic.h"
#include "geometry/CubicFit.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <optional>
#include <span>

namespace thinline::geometry {
namespace {

/// The points of a ring by any whole number, those of an open line by theirs.
class Track {
  public:
    Track(const Polygon& points, bool isRing)
        : m_points(points), m_n(static_cast<long>(points.size())), m_isRing(isRing) {}
    Point operator[](long i) const { return m_points[static_cast<size_t>(((i % m_n) + m_n) % m_n)]; }
    bool has(long i) const { return m_isRing || (i >= 0 && i < m_n); }
    long size() const { return m_n; }
    bool isRing() const { return m_isRing; }

  private:
    const Polygon& m_points;
    long m_n;
    bool m_isRing;
};

double turnBetween(Point in, Point out) {
    return std::atan2(cross(in, out), dot(in, out));
}

/// The points without those that crowd or step back: where a border changes between rows and columns they
/// may.
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

/// How far points lie off the line of their neighbours, as a deviation: from the median, so that corners have
/// no say. A third difference of the offsets leaves steady bends out.
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

/// One side of a corner over the way from it: p(s) = at + along s + bend s^2.
struct Course {
    Point at, along, bend;
    int count = 0;
    Point place(double s) const { return at + along * s + bend * (s * s); }
    Point speed(double s) const { return along + bend * (2 * s); }
};

/// The points of a side with the way to each.
struct Stretch {
    std::vector<double> s;
    std::vector<Point> p;
};

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

bool holds(const Course& course, const Stretch& side, size_t count, double worst) {
    for (size_t k = 0; k < count; ++k) {
        const Point off = side.p[k] - course.place(side.s[k]);
        if (std::abs(cross(direction(course.speed(side.s[k])), off)) > worst)
            return false;
    }
    return true;
}

/// The side that runs from point i forwards (1) or backwards (-1), as a straight line or parabola through as
/// many points as it holds for; those nearer than `skip` are left out.
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
bool isAsNearAsATip(const Track& track, long i, const Meeting& corner, double generosity) {
    double least = distance(track[i], corner.place);
    for (long k = -3; k < 3; ++k)
        if (track.has(i + k) && track.has(i + k + 1))
            least = std::min(least, distanceToStretch(corner.place, track[i + k], track[i + k + 1]));
    const double half = std::min(1.49, std::abs(corner.turn()) / 2);
    return least <= generosity * (0.15 + 0.85 * std::tan(half));
}

struct Limits {
    double worst = 0; ///< a sound point's farthest from a side
    double leastTurn = 0;
    double generosity = 1;
};

Limits limitsOf(const Track& track, const MeasuredOptions& options) {
    const double soft = std::clamp(options.smoothness, 0.0, 1.3);
    Limits out;
    out.worst = std::min(0.6, 0.07 + 2.5 * scatterOf(track));
    out.leastTurn = soft <= 1 ? options.leastTurnRad * (0.6 + 0.4 * soft)
                              : options.leastTurnRad + (soft - 1) / 0.3 * std::numbers::pi;
    out.generosity = soft <= 1 ? 2 - soft : 1;
    return out;
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
    for (double farther : kSkips) {
        const auto back = courseFrom(track, i, -1, farther, limits.worst),
                   on = courseFrom(track, i, 1, farther, limits.worst);
        if (!back || !on || (farther > kSkips[1] && std::min(back->count, on->count) < 0.6 * farther))
            break; // too short a side to look from so far away
        const auto meeting = meetingOf(*back, *on, farther);
        if (!meeting || (found && meeting->turn() * found->turn() < 0))
            continue;
        found = meeting;
        skip = farther;
        if (blurredReach(meeting->turn()) <= farther + 0.8)
            break;
    }
    if (!found || std::abs(found->turn()) < limits.leastTurn ||
        !isAsNearAsATip(track, i, *found, limits.generosity))
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

std::vector<MeasuredCorner> cornersOn(const Track& track, const Limits& limits) {
    const long n = track.size();
    constexpr long kChord = 4;
    if (n < 8)
        return {};
    std::vector<double> turns(static_cast<size_t>(n), 0);
    for (long i = 0; i < n; ++i)
        if (track.has(i - kChord) && track.has(i + kChord))
            turns[static_cast<size_t>(i)] =
                turnBetween(track[i] - track[i - kChord], track[i + kChord] - track[i]);
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
        if (isSmoothAround(track, c.index, 8, limits.worst) ||
            isSmoothAround(track, c.index, 6, limits.worst))
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

/// The direction of a run at point i, from the parabola through the points around it.
Point directionNear(std::span<const Point> run, size_t i, size_t reach) {
    const size_t low = i > reach ? i - reach : 0, high = std::min(run.size() - 1, i + reach);
    if (high - low < 2)
        return direction(run[high] - run[low]);
    Stretch around;
    double way = 0;
    for (size_t k = low; k <= high; ++k) {
        if (k > low)
            way += distance(run[k - 1], run[k]);
        around.s.push_back(way);
        around.p.push_back(run[k]);
    }
    const double here = around.s[i - low];
    for (double& s : around.s)
        s -= here;
    const Point along = parabolaThrough(around, around.s.size()).along;
    return isFinite(along) ? direction(along) : direction(run[high] - run[low]);
}

/// Fits one run between two corners, or a closed smooth one whose ends are alike.
class RunFitter {
  public:
    RunFitter(std::vector<Point> run, double tolerance, const MeasuredEnd& begin, const MeasuredEnd& end)
        : m_run(std::move(run)), m_tolerance(tolerance), m_begin(begin.along), m_end(end.along),
          m_isBeginFree(begin.isFree), m_isEndFree(end.isFree),
          m_reach(static_cast<size_t>(std::clamp(4 + 20 * tolerance, 6.0, 14.0))) {}

    /// The fewest steps that hold, and with as many the closest that can be had.
    std::vector<Segment> fit() {
        std::vector<Segment> best = fitWithin(m_tolerance);
        if (best.size() < 2)
            return best;
        double low = m_tolerance / 4, high = m_tolerance;
        constexpr int kRounds = 4;
        for (int round = 0; round < kRounds; ++round) {
            const double middle = std::sqrt(low * high);
            std::vector<Segment> closer = fitWithin(middle);
            if (closer.size() <= best.size()) {
                best = std::move(closer);
                high = middle;
            } else {
                low = middle;
            }
        }
        return best;
    }

  private:
    std::vector<Segment> fitWithin(double tolerance) {
        m_within = tolerance;
        std::vector<Segment> out;
        const size_t last = m_run.size() - 1;
        Point leave = m_begin;
        for (size_t at = 0; at < last;) {
            const size_t line = farthest(at, [&](size_t to) { return isLineTo(at, to); });
            const size_t curve =
                line == last ? at
                             : farthest(at, [&](size_t to) { return curveTo(at, to, leave).has_value(); });
            const auto cubic = curve > at ? curveTo(at, curve, leave) : std::nullopt;
            // A side that is nearly as long as the best curve is a side; otherwise the curve takes it in.
            if (line == last || !cubic || line - at >= (curve - at) * 7 / 10) {
                out.push_back(Segment::line(m_run[line]));
                // A short side does not say how the next one leaves.
                constexpr size_t kTelling = 12;
                leave = line - at >= kTelling ? direction(m_run[line] - m_run[at]) : Point{};
                at = line;
            } else {
                out.push_back(Segment::curve(cubic->b, cubic->c, cubic->d));
                leave = directionAt(*cubic, 1);
                at = curve;
            }
        }
        return out;
    }
    bool isLineTo(size_t from, size_t to) const {
        const double within = 0.8 * m_within;
        size_t beyond = 0;
        double worst = 0;
        for (size_t i = from + 1; i < to && worst <= kStray * within; ++i) {
            const double d = distanceToStretch(m_run[i], m_run[from], m_run[to]);
            beyond += d > within;
            worst = std::max(worst, d);
        }
        return mayStray(worst, beyond, to - from, within);
    }
    /// Whether a few points that stray are forgiven: one in twenty-four, by half the tolerance more.
    static bool mayStray(double worst, size_t beyond, size_t points, double within) {
        return worst <= within || (worst <= kStray * within && beyond * 24 <= points);
    }
    /// Doubles the stretch while it holds, then halves the doubt.
    template <class Holds>
    size_t farthest(size_t from, Holds holdsTo) const {
        const size_t last = m_run.size() - 1;
        if (holdsTo(last))
            return last;
        size_t good = from + 1, step = 4;
        size_t bad = last;
        while (from + step < bad) {
            if (!holdsTo(from + step)) {
                bad = from + step;
                break;
            }
            good = from + step;
            step *= 2;
        }
        while (bad - good > std::max<size_t>(1, (good - from) / 32)) {
            const size_t middle = (good + bad) / 2;
            (holdsTo(middle) ? good : bad) = middle;
        }
        return good;
    }
    std::optional<Cubic> curveTo(size_t from, size_t to, Point leave) const {
        const size_t last = m_run.size() - 1;
        const Point out = leave == Point{} ? directionNear(m_run, from, m_reach) : leave;
        const Point in = (to == last && !(m_end == Point{}) ? m_end : directionNear(m_run, to, m_reach)) * -1;
        const std::span<const Point> run{m_run.data() + from, to - from + 1};
        // At a corner the side may bend right up to it: where there are points enough they say how it
        // arrives.
        constexpr size_t kEnough = 9;
        const bool freeOut = m_isBeginFree && from == 0, freeIn = m_isEndFree && to == last;
        if ((freeOut || freeIn) && run.size() >= kEnough) {
            const auto fitted = curveAlong(run, freeOut ? Point{} : out, freeIn ? Point{} : in);
            constexpr double kAlike =
                0.5; // cosine: a free end stays within 60 degrees of the side seen nearby
            if (fitted && dot(directionAt(*fitted, 0), out) > kAlike &&
                -dot(directionAt(*fitted, 1), in) > kAlike)
                return fitted;
        }
        const auto fixed = curveAlong(run, out, in);
        constexpr double kScattered = 0.2;
        if (fixed || m_tolerance < kScattered || run.size() < kEnough || (to == last && !(m_end == Point{})))
            return fixed;
        // Where points scatter, a direction taken from a few of them may be off: all of them know better.
        const auto fitted = curveAlong(run, out, Point{});
        constexpr double kNearly = 0.9; // cosine: within 26 degrees
        return fitted && -dot(directionAt(*fitted, 1), in) > kNearly ? fitted : std::nullopt;
    }
    /// A long run is fitted to some of its points; all of them are asked whether it holds.
    std::optional<Cubic> curveAlong(std::span<const Point> run, Point out, Point in) const {
        constexpr size_t kMost = 48;
        FittedCubic fitted;
        if (run.size() <= 2 * kMost) {
            fitted = fitCubic(run, out, in, m_within);
            return mayStray(fitted.worst, fitted.beyond, run.size(), m_within) ? std::optional(fitted.cubic)
                                                                               : std::nullopt;
        }
        std::array<Point, kMost> some;
        for (size_t k = 0; k < kMost; ++k)
            some[k] = run[k * (run.size() - 1) / (kMost - 1)];
        fitted = fitCubic(some, out, in, m_within);
        if (!mayStray(fitted.worst, fitted.beyond, some.size(), m_within))
            return std::nullopt;
        // The parameters of the points between two that were asked lie between theirs.
        double t = 0;
        size_t beyond = 0;
        const double step = 1.0 / static_cast<double>(run.size() - 1);
        for (size_t k = 1; k + 1 < run.size(); ++k) {
            t = std::min(1.0, t + step);
            for (int round = 0; round < 2; ++round) { // the guess is good
                const Point miss = fitted.cubic.at(t) - run[k], v = fitted.cubic.speed(t);
                t = std::clamp(t - dot(miss, v) / std::max(1e-12, dot(v, v)), 0.0, 1.0);
            }
            const double d = distance(run[k], fitted.cubic.at(t));
            beyond += d > m_within;
            if (d > kStray * m_within)
                return std::nullopt;
        }
        return mayStray(kStray * m_within, beyond, run.size(), m_within) ? std::optional(fitted.cubic)
                                                                         : std::nullopt;
    }

    static constexpr double kStray = 1.5;
    std::vector<Point> m_run;
    double m_tolerance;
    double m_within = 0;
    Point m_begin, m_end;
    bool m_isBeginFree, m_isEndFree;
    size_t m_reach; ///< points on either side a direction is taken from: the more they scatter, the more
};

double toleranceOf(const Track& track, const MeasuredOptions& options) {
    constexpr double kMost = 0.6; // of a step: beyond it is shape, not scatter
    return std::max(options.tolerance, std::min(kMost, 3.6 * scatterOf(track) + 0.06));
}

/// The steps along points first..last (first - 1 and last + 1 are blurred) between two known ends.
void fitBetween(const Track& track, long first, long last, const MeasuredEnd& from, const MeasuredEnd& to,
                double tolerance, std::vector<Segment>& out) {
    constexpr double kClear = 0.5;
    std::vector<Point> run{from.place};
    for (long i = first; i <= last; ++i)
        if (distance(track[i], from.place) > kClear && distance(track[i], to.place) > kClear)
            run.push_back(track[i]);
    run.push_back(to.place);
    if (distance(from.place, to.place) < 1e-9 && run.size() < 4)
        return;
    // Points may scatter more along one side than along the others: by its slope, or a worse place of the
    // picture.
    constexpr size_t kTelling = 24;
    if (run.size() >= kTelling) {
        const Polygon sound(run.begin() + 1, run.end() - 1);
        tolerance = std::max(tolerance, toleranceOf(Track(sound, false), {.tolerance = 0}));
    }
    for (const Segment& s : RunFitter(std::move(run), tolerance, from, to).fit())
        out.push_back(s);
}

} // namespace

std::vector<MeasuredCorner> measuredCorners(const Polygon& points, bool isRing,
                                            const MeasuredOptions& options) {
    const Track track(points, isRing);
    return cornersOn(track, limitsOf(track, options));
}

Contour fitMeasuredRing(const Polygon& given, const MeasuredOptions& options) {
    const Polygon points = evened(given, true);
    const Track track(points, true);
    const long n = track.size();
    if (n < 8)
        return {};
    const double tolerance = toleranceOf(track, options);
    const std::vector<MeasuredCorner> corners = cornersOn(track, limitsOf(track, options));
    Contour out;
    if (corners.empty()) {
        // A closed smooth outline: its end runs into its beginning.
        constexpr long kReach = 6;
        std::vector<Point> around;
        for (long i = -kReach; i <= kReach; ++i)
            around.push_back(track[i]);
        const Point through = directionNear(around, kReach, kReach);
        out.start = track[0];
        fitBetween(track, 1, n - 1, {track[0], through}, {track[0], through}, tolerance, out.segments);
        return out;
    }
    out.start = corners.front().place;
    for (size_t c = 0; c < corners.size(); ++c) {
        const MeasuredCorner &from = corners[c], &to = corners[(c + 1) % corners.size()];
        const long first = static_cast<long>(from.last) + 1;
        long last = static_cast<long>(to.first) - 1;
        const long span = ((static_cast<long>(to.last) - static_cast<long>(from.last)) % n + n) % n;
        const long clear = ((last - first) % n + n) % n;
        last = clear < span || corners.size() == 1 ? first + clear : first - 1;
        fitBetween(track, first, last, {from.place, from.out, true}, {to.place, to.in, true}, tolerance,
                   out.segments);
    }
    return out;
}

Contour fitMeasuredLine(const Polygon& given, const MeasuredEnd& from, const MeasuredEnd& to,
                        const MeasuredOptions& options) {
    const Polygon points = evened(given, false);
    const Track track(points, false);
    Contour out{from.place, {}};
    if (points.size() < 3) {
        out.segments.push_back(Segment::line(to.place));
        return out;
    }
    const double tolerance = toleranceOf(track, options);
    MeasuredEnd begin = from;
    long first = 0;
    for (const MeasuredCorner& corner : cornersOn(track, limitsOf(track, options))) {
        fitBetween(track, first, static_cast<long>(corner.first) - 1, begin, {corner.place, corner.in, true},
                   tolerance, out.segments);
        begin = {corner.place, corner.out, true};
        first = static_cast<long>(corner.last) + 1;
    }
    fitBetween(track, first, track.size() - 1, begin, to, tolerance, out.segments);
    return out;
}

MeasuredEnd measuredEnd(const Polygon& given, bool atFront, double skipped) {
    const Polygon points = evened(given, false);
    if (points.size() < 2)
        return {points.empty() ? Point{} : points.front(), {}};
    const Track track(points, false);
    const long end = atFront ? 0 : track.size() - 1;
    const auto course = courseFrom(track, end, atFront ? 1 : -1, skipped, 0.07 + 2.5 * scatterOf(track));
    if (!course)
        return {track[end], {}};
    const Point along = direction(course->along);
    return {course->at, atFront ? along : along * -1};
}

} // namespace thinline::geometry
