// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Curves through measured points: as few as hold, and then as near as these can be.
//
// Fitting digitised curves usually begins with a tolerance and splits where it is exceeded. That gives as
// many pieces as the worst place asks for, cut at places that mean nothing. Here it goes the other way.
// From each corner on, a straight side and a single cubic are both stretched as far along the points as
// they hold, by doubling and then halving; whichever does better is taken, and the next begins where it
// ends. The number of steps that comes out is the least for this tolerance, up to where the stretches
// happen to end. Then, with as many steps, the tolerance is halved in (geometrically, four rounds) until
// it just holds: the doubt is shared by all of them, instead of the last one being loose and the first
// ones tight.
//
// What "holds" means:
//
// - The tolerance follows the scatter of the points, measured on them (`scatterOf`), along each side by
//   itself: a side that runs at a slope through compressed pixels scatters more than an upright one.
// - One point in twenty-four may stray by half as much again. Single bad pixels are a fact of pictures,
//   and without this each of them would cost a node.
// - A long run is fitted to 48 of its points, and all of them are asked whether it holds. The parameters
//   of those in between lie between known ones, so asking is cheap.
//
// Directions at the ends of a curve come from three places. At a smooth join the curve goes on as the one
// before arrived; at an ordinary end from a parabola through the points around; and at a corner nothing is
// prescribed if there are points enough, for a side may bend right up to its corner, and a direction taken
// a few points away would be wrong there. A free end must stay within 60 degrees of what is seen nearby,
// or a wild cubic may explain the points as well.
//
// A side nearly as long as the best curve is a side: people draw straight lines, and a cubic can always
// imitate one a little farther round the next bend.
//
// A small ring without corners that a circle explains as well is that circle. Two halves would hold, too, and be off by a
// fiftieth of the radius in places; people see that a porthole is not round. What is drawn as an ellipse strays from its best
// circle twice around, a triangle three times, a rounded square four times: more of that than scatter explains, and it is none.
//
// Cost: every stretch is tried O(log n) times, each time O(1) for the fit and O(its points) for the
// asking: O(n log n) on the whole.
#include "geometry/Measured.h"

#include "geometry/Cubic.h"
#include "geometry/CubicFit.h"
#include "geometry/MeasuredTrack.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>
#include <span>

namespace thinline::geometry {
namespace {

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

/// A circle by its middle and radius.
struct Round {
    Point middle;
    double radius = 0;
};

/// The circle that points lie nearest to, by least squares of the distances.
Round roundThrough(const Track& track) {
    const long n = track.size();
    Round out;
    for (long i = 0; i < n; ++i)
        out.middle = out.middle + track[i] * (1.0 / static_cast<double>(n));
    constexpr int kRounds = 6;
    for (int round = 0; round < kRounds; ++round) { // the middle moves by the first harmonic of what is left
        Point by;
        double sum = 0;
        for (long i = 0; i < n; ++i)
            sum += distance(track[i], out.middle);
        out.radius = sum / static_cast<double>(n);
        for (long i = 0; i < n; ++i) {
            const Point from = track[i] - out.middle;
            const double far = std::max(1e-9, length(from));
            by = by + from * ((far - out.radius) / far * 2 / static_cast<double>(n));
        }
        out.middle = out.middle + by;
    }
    return out;
}

/// Whether a ring is a circle as far as its points can tell.
bool isRoundWithin(const Track& track, const Round& round, double tolerance) {
    constexpr double kStray = 1.5, kHarmonic = 0.03, kSure = 3;
    const long n = track.size();
    std::array<Point, 5> harmonics{};
    size_t beyond = 0;
    double squares = 0;
    for (long i = 0; i < n; ++i) {
        const Point from = track[i] - round.middle;
        const double off = length(from) - round.radius, turn = std::atan2(from.y, from.x);
        if (std::abs(off) > kStray * tolerance)
            return false;
        beyond += std::abs(off) > tolerance;
        squares += off * off;
        for (size_t k = 2; k < harmonics.size(); ++k)
            harmonics[k] = harmonics[k] + Point{std::cos(static_cast<double>(k) * turn), std::sin(static_cast<double>(k) * turn)} *
                                              (2 * off / static_cast<double>(n));
    }
    const double many = static_cast<double>(n), most = kHarmonic + kSure * std::sqrt(squares / many) * std::sqrt(2 / many);
    return beyond * 24 <= static_cast<size_t>(n) &&
           std::all_of(harmonics.begin() + 2, harmonics.end(), [&](Point one) { return length(one) <= most; });
}

/// Four arcs, beginning where the ring does and running as it does.
Contour fourArcs(const Round& round, Point towards, bool isClockwise) {
    constexpr double kHandle = 0.5522847498;
    const Point first = direction(towards - round.middle) * round.radius;
    const double side = isClockwise ? 1 : -1;
    const auto quarter = [&](Point p) { return Point{-p.y * side, p.x * side}; };
    Contour out{round.middle + first, {}};
    Point from = first;
    for (int i = 0; i < 4; ++i) {
        const Point to = i == 3 ? first : quarter(from);
        out.segments.push_back(Segment::curve(round.middle + from + quarter(from) * kHandle,
                                              round.middle + to - quarter(to) * kHandle, round.middle + to));
        from = to;
    }
    return out;
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
        constexpr double kMostRadius = 60; // of the points' steps; larger ones are told well enough by curves
        if (const Round round = roundThrough(track);
            round.radius <= kMostRadius && isRoundWithin(track, round, tolerance))
            return fourArcs(round, track[0], signedArea(points) > 0);
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
