// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Holding a border's curve against the picture: what is tried, and in which order.
//
// RefineSteps.cpp moves points until the pixels are explained as well as these steps can explain them.
// Whether they are the right steps is another matter. A corner that was missed leaves two smooth steps
// that bend round it, and no moving of points makes a corner of them. The remainder shows it: around a
// place that is drawn otherwise, several pixels disagree in a pattern, far above what grain leaves.
//
// 1. All points are moved, a few steps at a time.
// 2. If the rest is bad nearly everywhere the picture shows no edge between two plain sides, but a
//    texture, or grain that was taken for a drawing; then the first fit is kept. A long border that turns
//    every few pixels is given up in the same way, since every trial on it is wasted.
// 3. Where the rest is bad, other steps are tried: a corner there, a short side that cuts a corner off, a
//    step bent in two, a tip left out (RefineWays.cpp). Each is settled by itself, on a window of the step
//    and two to each side, and the best one stays if it explains clearly more than grain would. Trials
//    cost what they touch, because a change of path changes the remainder only between the old path and
//    the new one, and is taken back the same way.
// 4. Short steps that explain nothing go. In a grainy picture any step may go: what grain bends is not
//    worth a node.
// 5. Handles at smooth joins are put exactly in line. They were held there by a firm equation, which
//    leaves a hair; a join that has turned by more than 14 degrees has become a corner and is left one.
//
// What "bad" means is measured on the border itself: four spots in five are better than `m_usual`, and a
// spot has to stand out clearly from that. A fixed limit would see nothing in a clean picture, or
// everything in a scan.
//
// Everything is bounded: at most 400 spots a border, four pixels apart, windows of five steps; and in
// haste (a picture with very much border) fewer rounds and only what shows most.
#include "trace/Refine.h"

#include "trace/RefineWays.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace thinline::trace {
namespace {

using geometry::Contour;
using geometry::Cubic;
using geometry::Point;
using geometry::Polygon;
using geometry::Segment;

/// Puts the handles of a smooth join exactly in line.
void straighten(Step& in, Step& on) {
    const Point at = on.curve.a, arriving = geometry::direction(at - (in.isLine ? in.curve.a : in.curve.c)),
                leaving = geometry::direction((on.isLine ? on.curve.d : on.curve.b) - at);
    constexpr double kInLine = 0.97; // cosine: beyond 14 degrees it has become a corner
    if (geometry::dot(arriving, leaving) < kInLine)
        return;
    const Point along = in.isLine ? arriving : on.isLine ? leaving : geometry::direction(arriving + leaving);
    if (!in.isLine)
        in.curve.c = at - along * geometry::distance(in.curve.c, at);
    if (!on.isLine)
        on.curve.b = at + along * geometry::distance(at, on.curve.b);
}

/// A border's steps, and what is tried on them.
class Refiner {
  public:
    Refiner(const Contour& curve, bool isRing, Remainder& remainder, bool isHasty)
        : m_isRing(isRing), m_isHasty(isHasty), m_rounds(isHasty                          ? 4
                                                         : remainder.spread().reach() > 0 ? 8
                                                                                          : 16),
          m_remainder(remainder) {
        geometry::eachCurve(curve, [&](const Cubic& k, const Segment& s) {
            m_steps.push_back({k, s.isLine, false});
        });
        constexpr double kSmooth = 0.995; // cosine: below 6 degrees
        for (size_t i = isRing ? 0 : 1; i < m_steps.size(); ++i) {
            const Step& before = m_steps[(i + m_steps.size() - 1) % m_steps.size()];
            m_steps[i].isSmooth = !(m_steps[i].isLine && before.isLine) &&
                                  geometry::dot(geometry::directionAt(before.curve, 1),
                                                geometry::directionAt(m_steps[i].curve, 0)) > kSmooth;
        }
    }
    const Steps& steps() const { return m_steps; }

    /// Moves all steps, some at a time; the ends of each stretch are moved with the next.
    void settleAll(const base::Progress& progress) {
        constexpr size_t kTogether = 14, kShared = 4;
        const size_t n = m_steps.size();
        if (m_isRing && n <= kTogether) {
            settle(m_steps, true, m_remainder, m_rounds);
            return;
        }
        for (size_t first = 0; first < n && !progress.isCancelled(); first += kTogether - kShared) {
            const size_t count = std::min(kTogether, m_isRing ? n : n - first);
            Steps part = stretchOf(first, count);
            settle(part, false, m_remainder, m_rounds);
            for (size_t k = 0; k < count; ++k)
                m_steps[(first + k) % n] = part[k];
            if (!m_isRing && first + count >= n)
                break;
        }
    }

    /// Whether the picture shows something else than an edge between two plain sides, nearly all along.
    bool isBeyondHelp() {
        // A long border that turns every few pixels is grain, not drawn.
        constexpr size_t kLong = 40, kShort = 7; // steps; px a step
        constexpr double kHopeless = 0.3;        // px⁴ around a spot: three times what coarse grain leaves
        const size_t length = spotsAlong().size();
        return m_usual > kHopeless || (m_steps.size() > kLong && length < kShort * m_steps.size());
    }

    /// Looks where the picture is explained badly and tries other steps there.
    void mend(const base::Progress& progress) {
        for (const Spot& spot : badSpots())
            if (!progress.isCancelled())
                mendAt(spot);
    }

    /// Leaves out short steps that the picture does not ask for.
    void simplify(const base::Progress& progress) {
        // What grain and compression bend is not worth a node; elsewhere only short steps are in question.
        constexpr double kShort = 6, kRough = 0.004;
        const bool isRough =
            !m_isHasty && m_usual > kRough && m_remainder.spread().reach() == 0; // blur makes it dear
        const size_t fewest = m_isRing ? 3 : 1;
        for (size_t i = 0; i < m_steps.size() && m_steps.size() > fewest && !progress.isCancelled();) {
            if (!isRough && geometry::curveLength(m_steps[i].curve) >= kShort) {
                ++i;
                continue;
            }
            const Window window = around(i);
            const Steps steps = stretchOf(window.first, window.count);
            if (!takeBest(window, waysWithout(steps, window.before),
                          isRough ? -leastBad() / 2 : -leastBad() / 4))
                ++i;
            else if (window.isWhole)
                i = 0; // the ring begins elsewhere now
        }
    }

    Contour contour() {
        const size_t n = m_steps.size();
        for (size_t i = m_isRing ? 0 : 1; i < n; ++i)
            if (m_steps[i].isSmooth)
                straighten(m_steps[(i + n - 1) % n], m_steps[i]);
        Contour out{m_steps.front().curve.a, {}};
        for (const Step& s : m_steps)
            out.segments.push_back(geometry::segmentOf(s.curve, s.isLine));
        return out;
    }

  private:
    /// A place on the path and what the picture shows there unexplained.
    struct Spot {
        Point at;
        double squares = 0; ///< px⁴, over the pixels around
    };
    static constexpr int kAround = 2; ///< pixels to every side of a spot

    double squaresAround(Point p) {
        const int x = static_cast<int>(std::floor(p.x)), y = static_cast<int>(std::floor(p.y));
        double sum = 0;
        for (int dy = -kAround; dy <= kAround; ++dy)
            for (int dx = -kAround; dx <= kAround; ++dx)
                sum += std::pow(m_remainder.cell(x + dx, y + dy).rest, 2);
        return sum;
    }

    /// A spot a pixel along the path; says what is usual among them.
    std::vector<Spot> spotsAlong() {
        std::vector<Spot> along;
        for (const Step& s : m_steps) {
            const int looks = std::max(1, static_cast<int>(geometry::curveLength(s.curve)));
            for (int k = 0; k < looks; ++k) {
                const Point p = s.curve.at((k + 0.5) / looks);
                along.push_back({p, squaresAround(p)});
            }
        }
        std::vector<double> ranked;
        for (const Spot& spot : along)
            ranked.push_back(spot.squares);
        const auto most = ranked.begin() + static_cast<std::ptrdiff_t>(ranked.size() * 4 / 5);
        std::nth_element(ranked.begin(), most, ranked.end());
        m_usual = *most;
        return along;
    }
    std::vector<Spot> badSpots() {
        std::vector<Spot> bad;
        for (const Spot& spot : spotsAlong())
            if (spot.squares > leastBad())
                bad.push_back(spot);
        std::sort(bad.begin(), bad.end(), [](const Spot& a, const Spot& b) { return a.squares > b.squares; });
        constexpr double kApart = 4;
        constexpr size_t kMost = 400; // a border worse than that is no drawing's
        std::vector<Spot> out;
        for (const Spot& spot : bad)
            if (out.size() < kMost && std::none_of(out.begin(), out.end(), [&](const Spot& o) {
                    return geometry::distance(o.at, spot.at) < kApart;
                }))
                out.push_back(spot);
        return out;
    }

    /// Where the path comes nearest to a point.
    struct Place {
        size_t step = 0;
        double t = 0;
    };
    Place placeOf(Point p) const {
        Place best;
        double least = 1e9;
        for (size_t i = 0; i < m_steps.size(); ++i)
            if (const geometry::Foot foot = geometry::nearest(m_steps[i].curve, p); foot.distance < least) {
                least = foot.distance;
                best = {i, foot.t};
            }
        return best;
    }

    /// A step and a few beside it.
    struct Window {
        size_t first = 0, count = 0;
        size_t before = 0; ///< where the step is among them
        bool isWhole = false;
    };
    Window around(size_t step) const {
        constexpr size_t kBeside = 2;
        const size_t n = m_steps.size();
        if (m_isRing && n <= 2 * kBeside + 1)
            return {(step + n - n / 2) % n, n, n / 2, true};
        if (m_isRing)
            return {(step + n - kBeside) % n, 2 * kBeside + 1, kBeside, false};
        const size_t before = std::min(kBeside, step);
        return {step - before, std::min(before + kBeside + 1, n - step + before), before, false};
    }

    /// Puts the best of other ways in place of the steps in a window, if it saves more than `least`.
    bool takeBest(const Window& window, const std::vector<Steps>& ways, double least) {
        const Steps given = stretchOf(window.first, window.count);
        const Polygon path = pathOf(given);
        Steps best;
        for (const Steps& way : ways) {
            Steps tried = way;
            const auto change = m_remainder.change(path, pathOf(tried));
            m_remainder.apply(change);
            const double saved = change.saved + settle(tried, window.isWhole, m_remainder, m_rounds);
            m_remainder.apply(m_remainder.change(pathOf(tried), path));
            if (saved > least && isPlausible(tried, given)) {
                least = saved;
                best = std::move(tried);
            }
        }
        if (best.empty())
            return false;
        m_remainder.apply(m_remainder.change(path, pathOf(best)));
        const size_t n = m_steps.size();
        for (size_t k = window.count; k < n; ++k)
            best.push_back(m_steps[(window.first + k) % n]);
        if (!m_isRing) // the open line keeps its beginning
            std::rotate(best.begin(), best.begin() + static_cast<std::ptrdiff_t>(best.size() - window.first),
                        best.end());
        m_steps = std::move(best);
        return true;
    }

    void mendAt(const Spot& spot) {
        if (squaresAround(spot.at) < leastBad())
            return; // mended with another
        const Place place = placeOf(spot.at);
        const Window window = around(place.step);
        takeBest(window, otherWays(stretchOf(window.first, window.count), window.before, place.t),
                 leastBad() / 2);
    }

    /// What noise does not leave around a spot, px⁴.
    double leastBad() const { return (m_isHasty ? 5 : 1) * (0.008 + 2 * m_usual); }

    double m_usual = 0; ///< squares around four spots in five at most: what noise leaves

    Steps stretchOf(size_t first, size_t count) const {
        Steps out;
        for (size_t k = 0; k < count; ++k)
            out.push_back(m_steps[(first + k) % m_steps.size()]);
        return out;
    }

    Steps m_steps;
    bool m_isRing;
    bool m_isHasty; ///< the picture has so much border that only what shows most is mended
    int m_rounds;   ///< of moving points
    Remainder& m_remainder;
};

} // namespace

Contour refined(const Contour& curve, bool isRing, const Polygon& pixelPath, Remainder& remainder,
                bool isHasty, const base::Progress& progress) {
    if (curve.segments.size() < (isRing ? 2 : 1))
        return curve;
    Refiner refiner(curve, isRing, remainder, isHasty);
    remainder.begin(pixelPath, pathOf(refiner.steps()));
    refiner.settleAll(progress);
    if (refiner.isBeyondHelp())
        return curve;
    refiner.mend(progress);
    refiner.simplify(progress);
    return refiner.contour();
}

} // namespace thinline::trace
