// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Offsets: the parallel of an outline, in curves.
//
// The definition is simple: all points nearer to the outline than the distance are added (or taken). The
// usual way rolls a disc along a polygon and returns thousands of short chords. A knife chatters on those,
// nobody can edit them, and an offset of an offset doubles them again. So the parallel is written in
// cubics, step by step, and a set operation clears up what crosses:
//
// 1. A straight step gives a straight step. A curve's parallel is no cubic, but a cubic with the
//    parallel's own end points and end tangents comes close. Its two handle lengths are chosen in two
//    ways: from the parallel's speed at the ends (1 + distance x curvature, times the curve's own), or so
//    that it passes through the parallel's middle. The better one is taken, and the stretch halved as long
//    as it strays by more than half the tolerance. Five looks along the stretch measure the stray against
//    the curve, not parameter by parameter.
// 2. Corners that open get their join (round, mitred up to a limit, or cut off at the distance). Corners
//    that close go back through the corner point itself, not straight across: what lies between then winds
//    the wrong way round and is removed with the other loops.
// 3. Where the curve bends tighter than the distance, the parallel runs backwards. Such a stretch is
//    swept: chord by chord out to the parallel and back through the curve. No point of it is nearest to
//    anything, it only has to enclose its area in the wrong sense. Near its ends it does come close to the
//    true parallel, so chords are fine there (2 um) and grow inwards; in a prototype an even 10 um gave
//    errors of 3.6 um.
// 4. The raw walk crosses itself freely. A union by the positive rule keeps what is wound around in the
//    right sense and leaves everything else; curves are restored as in every set operation.
// 5. Joins and halvings leave about a third more nodes than the curve asks for; they are taken out within
//    the tolerance.
//
// Shapes are treated one by one and joined afterwards. All raw walks in one call are the same result in
// theory, but the loops of each then meet the loops of all neighbours: for 45 letters this took about four
// times as long.
//
// Two special cases are worth their lines. An outline that is a circle as drawing programs write it (four
// cubics, 0.03 % off) is offset as a circle: discs are frequent (eyelets, confetti, berries), and their
// wobble would be carried outwards and be seen by whoever measures. And a line with a width is the
// parallel of the walk there and back again, with caps where it turns.
//
// Checked against the definition itself, point by point, and against Steiner's formula (area and length of
// a convex body's parallel): tests/geometry/OffsetTest.cpp.
#include "geometry/Offset.h"

#include "geometry/Boolean.h"
#include "geometry/Cubic.h"
#include "geometry/Fit.h"

#include <numbers>
#include <optional>

namespace thinline::geometry {
namespace {

using std::numbers::pi;

/// To the left as one walks along an outline of positive area lies the outside (y down).
Point outward(Point along) {
    return {along.y, -along.x};
}

/// Positive where the parallel runs the same way as the curve, negative where it runs backwards because the
/// curve bends tighter than the distance: 1 + distance x curvature, times the speed cubed.
double forwardness(const Cubic& curve, double t, double byMm) {
    const Point v = curve.speed(t);
    const double speed = length(v);
    return speed * speed * speed + byMm * cross(v, curve.bend(t));
}

/// Writes the raw parallel of closed walks: loops where it crosses itself wind the wrong way round.
class RawParallel {
  public:
    RawParallel(double byMm, const OffsetOptions& options) : m_by(byMm), m_options(options) {}

    /// Corners where `caps` is set are ends of a line that turns back.
    Contour of(const std::vector<Cubic>& walk, const std::vector<bool>& caps, Cap cap) {
        m_out = {};
        m_isBegun = false;
        for (size_t i = 0; i < walk.size(); ++i) {
            side(walk[i]);
            const Cubic& next = walk[(i + 1) % walk.size()];
            const Point in = directionAt(walk[i], 1), out = directionAt(next, 0);
            if (caps[i])
                capAt(next.a, in, cap);
            else
                cornerAt(next.a, in, out);
        }
        if (m_isBegun && !(m_pen == m_out.start))
            lineTo(m_out.start);
        return m_out;
    }

  private:
    void lineTo(Point p) {
        if (!m_isBegun) {
            m_out.start = p;
            m_isBegun = true;
        } else if (distance(m_pen, p) > 1e-9) {
            m_out.segments.push_back(Segment::line(p));
        } else {
            return; // the pen is there already
        }
        m_pen = p;
    }
    void curveTo(Cubic k) {
        lineTo(k.a);
        m_out.segments.push_back(Segment::curve(k.b + (m_pen - k.a), k.c, k.d));
        m_pen = k.d;
    }

    /// The parallel of one step.
    void side(const Cubic& curve) {
        if (curve == Cubic::line(curve.a, curve.d)) {
            const Point aside = outward(direction(curve.d - curve.a)) * m_by;
            lineTo(curve.a + aside);
            lineTo(curve.d + aside);
            return;
        }
        constexpr int kSamples =
            48; // curvature of a cubic has few turns; a sign change is not missed in practice
        double from = 0, before = forwardness(curve, 1e-6, m_by);
        for (int i = 1; i <= kSamples; ++i) {
            const double t = std::min(1 - 1e-6, static_cast<double>(i) / kSamples);
            const double here = forwardness(curve, t, m_by);
            if ((here > 0) != (before > 0)) {
                double low = static_cast<double>(i - 1) / kSamples, high = t;
                for (int k = 0; k < 40; ++k) {
                    const double middle = (low + high) / 2;
                    ((forwardness(curve, middle, m_by) > 0) == (before > 0) ? low : high) = middle;
                }
                stretchOf(curve, from, high, before > 0);
                from = high;
            }
            before = here;
        }
        stretchOf(curve, from, 1, before > 0);
    }

    void stretchOf(const Cubic& curve, double t0, double t1, bool isForward) {
        if (t1 - t0 < 1e-9)
            return;
        if (isForward)
            smooth(curve, t0, t1, 0);
        else
            swept(curve, t0, t1);
    }

    /// Cubics with the parallel's own tangents, halved until they are near enough.
    void smooth(const Cubic& curve, double t0, double t1, int depth) {
        const auto wanted = [&](double share) {
            const double t = t0 + (t1 - t0) * share;
            return curve.at(t) + outward(directionAt(curve, t)) * m_by;
        };
        const auto strayOf = [&](const Cubic& trial) {
            double worst = 0;
            for (double share : {0.125, 0.25, 0.5, 0.75, 0.875})
                worst = std::max(worst, nearestFrom(trial, wanted(share), share).distance);
            return worst;
        };
        const Cubic part = stretch(curve, t0, t1);
        const Point d0 = directionAt(part, 0), d1 = directionAt(part, 1);
        const Point a = part.a + outward(d0) * m_by, d = part.d + outward(d1) * m_by;
        const auto withHandles = [&](double h0, double h1) { return Cubic{a, a + d0 * h0, d - d1 * h1, d}; };
        // Either with the parallel's speeds at the ends, or through its middle.
        const double third = (t1 - t0) / 3;
        Cubic best = withHandles(length(curve.speed(t0)) * (1 + m_by * curvatureAt(curve, t0)) * third,
                                 length(curve.speed(t1)) * (1 + m_by * curvatureAt(curve, t1)) * third);
        double stray = strayOf(best);
        const double det = cross(d0, d1) * -1;
        if (std::abs(det) > 1e-4) {
            const Point rest = (wanted(0.5) - middle(a, d)) * (8.0 / 3); // = h0 d0 - h1 d1
            const double h0 = cross(rest, d1) / -det, h1 = cross(d0, rest) / det;
            const double chord = distance(a, d);
            if (h0 > 0 && h1 > 0 && h0 < 2 * chord && h1 < 2 * chord)
                if (const Cubic trial = withHandles(h0, h1); strayOf(trial) < stray) {
                    best = trial;
                    stray = strayOf(trial);
                }
        }
        constexpr int kDeepest = 10;
        if (stray > m_options.toleranceMm / 2 && depth < kDeepest) {
            const double between = (t0 + t1) / 2;
            smooth(curve, t0, between, depth + 1);
            smooth(curve, between, t1, depth + 1);
        } else {
            curveTo(best);
        }
    }

    /// Where the parallel runs backwards: chord by chord through the curve itself, so that whatever it
    /// encloses winds the wrong way round and goes. No point of such a stretch is ever nearest to the true
    /// parallel; only near its ends does it come close. So chords are fine there and grow inwards.
    void swept(const Cubic& curve, double t0, double t1) {
        constexpr double kFineMm = 0.002, kGrowth = 1.4;
        const double coarseMm = std::max(kFineMm, std::min(0.05, 0.01 * std::abs(m_by)));
        const double bend = std::max(1e-12, curve.largestBend()), span = t1 - t0;
        const double fine = std::min(span / 2, std::sqrt(8 * kFineMm / bend)),
                     coarse = std::min(span / 2, std::sqrt(8 * coarseMm / bend));
        std::vector<double> places{t0};
        for (double t = t0, step = fine; t + step < t0 + span / 2; step = std::min(coarse, step * kGrowth))
            places.push_back(t += step);
        const size_t half = places.size();
        places.push_back(t0 + span / 2);
        for (size_t i = half; i-- > 0;)
            places.push_back(t1 - (places[i] - t0)); // the other half mirrors the first
        Point from = curve.at(t0);
        lineTo(from);
        for (size_t i = 1; i < places.size(); ++i) {
            const Point to = curve.at(places[i]);
            const Point aside = outward(direction(to - from)) * m_by;
            lineTo(from + aside);
            lineTo(to + aside);
            lineTo(to);
            from = to;
        }
    }

    void cornerAt(Point corner, Point in, Point out) {
        const double turn = std::atan2(cross(in, out), dot(in, out));
        const Point begin = corner + outward(in) * m_by, end = corner + outward(out) * m_by;
        if (distance(begin, end) < 1e-7)
            return;
        if (turn * m_by < 0) { // the sides overlap: back through the corner itself
            lineTo(corner);
            lineTo(end);
            return;
        }
        lineTo(begin);
        const double half = turn / 2;
        if (m_options.join == Join::Round) {
            arc(corner, in, turn);
        } else if (m_options.join == Join::Mitre && 1 / std::cos(half) <= m_options.mitreLimit) {
            lineTo(begin + in * (std::abs(m_by) * std::tan(std::abs(half))));
        } else {
            const double ahead = std::abs(m_by) * std::tan(std::abs(half) / 2);
            lineTo(begin + in * ahead);
            lineTo(end - out * ahead);
        }
        lineTo(end);
    }

    void capAt(Point end, Point in, Cap cap) {
        const Point begin = end + outward(in) * m_by;
        lineTo(begin);
        if (cap == Cap::Round) {
            arc(end, in, pi);
        } else if (cap == Cap::Square) {
            lineTo(begin + in * m_by);
            lineTo(end - outward(in) * m_by + in * m_by);
        }
        lineTo(end - outward(in) * m_by);
    }

    /// A round corner as curves of at most 45 degrees, within a millionth of the radius.
    void arc(Point centre, Point in, double turn) {
        const int steps = std::max(1, static_cast<int>(std::ceil(std::abs(turn) / (pi / 4) - 1e-9)));
        const double step = turn / steps, handle = 4.0 / 3 * std::tan(std::abs(step) / 4) * std::abs(m_by);
        const auto turned = [](Point p, double a) {
            return Point{p.x * std::cos(a) - p.y * std::sin(a), p.x * std::sin(a) + p.y * std::cos(a)};
        };
        // Walking round the corner one looks along the side one comes from, or against it when going inwards.
        for (int i = 0; i < steps; ++i) {
            const Point d0 = turned(in, step * i), d1 = turned(in, step * (i + 1));
            const Point a = centre + outward(d0) * m_by, b = centre + outward(d1) * m_by;
            curveTo({a, a + d0 * handle, b - d1 * handle, b});
        }
    }

    double m_by;
    const OffsetOptions& m_options;
    Contour m_out;
    Point m_pen;
    bool m_isBegun = false;
};

/// The circle an outline draws as four or more cubics usually draw one: within 0.03 % of its radius.
struct Round {
    Point centre;
    double radius = 0;
    bool isClockwise = true;
};
std::optional<Round> circleOf(const Contour& contour) {
    constexpr double kUsual = 3.2e-4;
    if (contour.segments.size() < 3)
        return std::nullopt;
    const Box box = bounds(contour);
    const Round round{box.centre(), (box.width() + box.height()) / 4, signedArea(contour) > 0};
    bool isRound = true;
    eachCurve(contour, [&](const Cubic& k, const Segment& s) {
        for (double t : {0.0, 0.25, 0.5, 0.8})
            isRound = isRound && !s.isLine &&
                      std::abs(distance(k.at(t), round.centre) - round.radius) <= kUsual * round.radius;
    });
    // Once round, not twice.
    const double full = pi * round.radius * round.radius;
    return isRound && std::abs(std::abs(signedArea(contour)) - full) < 0.01 * full ? std::optional(round)
                                                                                   : std::nullopt;
}

/// A circle of eight curves, within four millionths of its radius.
Contour circle(const Round& round) {
    constexpr int kCurves = 8;
    const double step = (round.isClockwise ? 2 : -2) * pi / kCurves, handle = 4.0 / 3 * std::tan(step / 4);
    const auto at = [&](int i) { return Point{std::cos(step * i), std::sin(step * i)} * round.radius; };
    Contour out{round.centre + at(0), {}};
    for (int i = 0; i < kCurves; ++i) {
        const Point a = at(i), b = at((i + 1) % kCurves);
        out.segments.push_back(Segment::curve(round.centre + a + Point{-a.y, a.x} * handle,
                                              round.centre + b - Point{-b.y, b.x} * handle,
                                              round.centre + b));
    }
    return out;
}

std::vector<Cubic> stepsOf(const Contour& contour) {
    std::vector<Cubic> steps;
    eachCurve(contour, [&](const Cubic& k, const Segment&) {
        if (distance(k.a, k.b) + distance(k.b, k.c) + distance(k.c, k.d) > 1e-9)
            steps.push_back(k);
    });
    return steps;
}

base::Result<std::vector<Shape>> unlooped(const std::vector<Contour>& raw, const base::Progress& progress) {
    Operand operand{{}, FillRule::Positive};
    for (const Contour& contour : raw)
        operand.contours.push_back(&contour);
    return combineCurves(SetOperation::Union, operand, {}, progress);
}

/// The raw parallels of a shape's outlines.
std::vector<Contour> rawParallel(const Shape& shape, double byMm, const OffsetOptions& options) {
    std::vector<Contour> raw;
    RawParallel parallel(byMm, options);
    const auto add = [&](const Contour& contour) {
        if (auto round = circleOf(contour)) {
            round->radius += round->isClockwise ? byMm : -byMm;
            if (round->radius > 0)
                raw.push_back(circle(*round));
            return;
        }
        const std::vector<Cubic> steps = stepsOf(contour);
        if (steps.size() > 1 || (steps.size() == 1 && !(steps[0].b == steps[0].c)))
            raw.push_back(parallel.of(steps, std::vector<bool>(steps.size(), false), Cap::Round));
    };
    add(shape.outline);
    for (const Contour& opening : shape.openings)
        add(opening);
    return raw;
}

/// Takes out nodes that are not needed: joins and halvings leave more than the curve asks for.
void thin(Contour& contour, double toleranceMm) {
    // Half the budget: a fit may stray a little more between the points it was held to.
    const Cleaned fewer = reduced(contour, {.tolerance = toleranceMm / 2, .cornerRad = 0.02});
    if (fewer.strayMm <= toleranceMm)
        contour = fewer.contour;
}

} // namespace

base::Result<Parallel> offset(const std::vector<Shape>& shapes, double byMm, const OffsetOptions& options,
                              const base::Progress& progress) {
    if (!std::isfinite(byMm))
        return base::Error{base::Code::InvalidArgument, "The distance of an offset must be a number."};
    for (const Shape& shape : shapes)
        if (!isFinite(shape))
            return base::Error{base::Code::InvalidArgument, "An outline has a point that is not a number."};
    // Inwards, shapes that overlap count as their union.
    std::vector<Shape> given = shapes;
    if (byMm < 0 && shapes.size() > 1) {
        auto joined = weld(shapes, progress.part(0, 0.1));
        if (!joined)
            return joined.error();
        given = joined.take();
    }
    // Each on its own first: the loops of different shapes need not meet.
    Parallel out;
    for (size_t i = 0; i < given.size(); ++i) {
        const auto share = [&](size_t k) {
            return 0.1 + 0.7 * static_cast<double>(k) / static_cast<double>(given.size());
        };
        auto one = unlooped(rawParallel(given[i], byMm, options), progress.part(share(i), share(i + 1)));
        if (!one)
            return one.error();
        if (byMm < 0) {
            out.vanished += one->empty() ? 1 : 0;
            out.fellApart += one->size() > 1 ? 1 : 0;
        }
        out.shapes.insert(out.shapes.end(), one->begin(), one->end());
    }
    if (byMm >= 0 && given.size() > 1) {
        auto joined = weld(out.shapes, progress.part(0.8, 1));
        if (!joined)
            return joined.error();
        out.shapes = joined.take();
    }
    for (Shape& shape : out.shapes) {
        thin(shape.outline, options.toleranceMm);
        for (Contour& opening : shape.openings)
            thin(opening, options.toleranceMm);
    }
    std::stable_sort(out.shapes.begin(), out.shapes.end(),
                     [](const Shape& a, const Shape& b) { return area(a) > area(b); });
    return out;
}

base::Result<std::vector<Parallel>> offsetSeries(const std::vector<Shape>& shapes, double stepMm, int count,
                                                 const OffsetOptions& options,
                                                 const base::Progress& progress) {
    constexpr int kMost = 1000;
    if (count < 1 || count > kMost)
        return base::Error{base::Code::InvalidArgument, "A series has 1 to 1000 offsets."};
    std::vector<Parallel> series;
    for (int i = 1; i <= count; ++i) {
        auto one = offset(shapes, stepMm * i, options,
                          progress.part(static_cast<double>(i - 1) / count, static_cast<double>(i) / count));
        if (!one)
            return one.error();
        series.push_back(one.take());
    }
    return series;
}

base::Result<std::vector<Shape>> strokeOutline(const Contour& line, double widthMm, Cap cap,
                                               const OffsetOptions& options, const base::Progress& progress) {
    std::vector<Cubic> steps = stepsOf(line);
    if (!(widthMm > 0) || !std::isfinite(widthMm) || steps.empty())
        return base::Error{base::Code::InvalidArgument, "A line needs a length and a width above zero."};
    // There and back again: the far end and the start are the two caps.
    const size_t n = steps.size();
    for (size_t i = n; i-- > 0;)
        steps.push_back(steps[i].reversed());
    std::vector<bool> caps(steps.size(), false);
    caps[n - 1] = caps[2 * n - 1] = true;
    return unlooped({RawParallel(widthMm / 2, options).of(steps, caps, cap)}, progress);
}

} // namespace thinline::geometry
