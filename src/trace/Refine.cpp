// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/Refine.h"

#include "trace/RefineSteps.h"

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
    Refiner(const Contour& curve, bool isRing, Remainder& remainder)
        : m_isRing(isRing), m_remainder(remainder) {
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
    void settleAll() {
        constexpr size_t kTogether = 14, kShared = 4;
        const size_t n = m_steps.size();
        if (m_isRing && n <= kTogether) {
            settle(m_steps, true, m_remainder);
            return;
        }
        for (size_t first = 0; first < n; first += kTogether - kShared) {
            const size_t count = std::min(kTogether, m_isRing ? n : n - first);
            Steps part = stretchOf(first, count);
            settle(part, false, m_remainder);
            for (size_t k = 0; k < count; ++k)
                m_steps[(first + k) % n] = part[k];
            if (!m_isRing && first + count >= n)
                break;
        }
    }

    /// Looks where the picture is explained badly and tries other steps there.
    void mend() {
        for (const Spot& spot : badSpots())
            mendAt(spot);
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

    std::vector<Spot> badSpots() {
        std::vector<Spot> along;
        for (const Step& s : m_steps) {
            const int looks = std::max(1, static_cast<int>(geometry::curveLength(s.curve)));
            for (int k = 0; k < looks; ++k) {
                const Point p = s.curve.at((k + 0.5) / looks);
                along.push_back({p, squaresAround(p)});
            }
        }
        if (along.empty())
            return {};
        std::vector<double> ranked;
        for (const Spot& spot : along)
            ranked.push_back(spot.squares);
        const auto most = ranked.begin() + static_cast<std::ptrdiff_t>(ranked.size() * 4 / 5);
        std::nth_element(ranked.begin(), most, ranked.end());
        m_usual = *most;
        std::vector<Spot> bad;
        for (const Spot& spot : along)
            if (spot.squares > leastBad())
                bad.push_back(spot);
        std::sort(bad.begin(), bad.end(), [](const Spot& a, const Spot& b) { return a.squares > b.squares; });
        constexpr double kApart = 4;
        std::vector<Spot> out;
        for (const Spot& spot : bad)
            if (std::none_of(out.begin(), out.end(),
                             [&](const Spot& o) { return geometry::distance(o.at, spot.at) < kApart; }))
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

    /// A step cut in two at t.
    static std::pair<Step, Step> cutAt(const Step& s, double t, bool isSmooth) {
        Step first{geometry::stretch(s.curve, 0, t), s.isLine, s.isSmooth},
            second{geometry::stretch(s.curve, t, 1), s.isLine, isSmooth};
        return {first, second};
    }
    /// The part of a step that is left when `way` px are taken off its end or its start.
    static Step shortened(const Step& s, double way, bool atEnd) {
        const double share = std::clamp(way / std::max(1e-6, geometry::curveLength(s.curve)), 0.0, 0.5);
        Step out = s;
        out.curve = atEnd ? geometry::stretch(s.curve, 0, 1 - share) : geometry::stretch(s.curve, share, 1);
        return out;
    }

    /// Other ways the steps may run around a place of step `at`.
    static std::vector<Steps> otherWays(const Steps& steps, size_t at, double t, bool isClosed) {
        std::vector<Steps> out;
        const double length = geometry::curveLength(steps[at].curve);
        constexpr double kNear = 3, kEdge = 1.2;
        const bool nearStart = t * length < kNear && t < 0.5, nearEnd = (1 - t) * length < kNear && t >= 0.5;
        // The node it is near, as the step that begins there.
        const size_t node = nearStart ? at : at + 1;
        const bool isNode = (nearStart && (at > 0)) || (nearEnd && at + 1 < steps.size());
        (void)isClosed;
        if (isNode) {
            const Step &before = steps[node - 1], &after = steps[node];
            if (after.isSmooth) { // a corner
                Steps way = steps;
                way[node].isSmooth = false;
                out.push_back(way);
            }
            // A short side cuts the corner off.
            Steps way(steps.begin(), steps.begin() + static_cast<std::ptrdiff_t>(node) - 1);
            const Step in = shortened(before, kEdge, true), on = shortened(after, kEdge, false);
            way.push_back(in);
            way.push_back({Cubic::line(in.curve.d, on.curve.a), true, false});
            way.push_back(on);
            way.back().isSmooth = false;
            way.insert(way.end(), steps.begin() + static_cast<std::ptrdiff_t>(node) + 1, steps.end());
            out.push_back(way);
            // What cuts a tip off goes: the steps beside the short ones meet.
            const auto isShort = [&](size_t i) { return geometry::curveLength(steps[i].curve) < kNear; };
            size_t from = node, to = node; // the short ones around the node
            while (from > 1 && isShort(from - 1))
                --from;
            while (to + 1 < steps.size() && isShort(to))
                ++to;
            if (from < to) {
                Steps met = steps;
                met[from - 1].curve.d = steps[node].curve.a;
                met[to].curve.a = steps[node].curve.a;
                met[to].isSmooth = false;
                met.erase(met.begin() + static_cast<std::ptrdiff_t>(from),
                          met.begin() + static_cast<std::ptrdiff_t>(to));
                out.push_back(met);
            }
            // A step on either side bends in two.
            for (const size_t side : {node - 1, node})
                if (!steps[side].isLine && geometry::curveLength(steps[side].curve) > 2 * kNear) {
                    Steps bent(steps.begin(), steps.begin() + static_cast<std::ptrdiff_t>(side));
                    const auto [first, second] = cutAt(steps[side], 0.5, true);
                    bent.push_back(first);
                    bent.push_back(second);
                    bent.insert(bent.end(), steps.begin() + static_cast<std::ptrdiff_t>(side) + 1,
                                steps.end());
                    out.push_back(bent);
                }
        } else {
            for (const bool isSmooth : {false, true}) {
                if (isSmooth && steps[at].isLine)
                    continue;
                Steps way(steps.begin(), steps.begin() + static_cast<std::ptrdiff_t>(at));
                const auto [first, second] = cutAt(steps[at], std::clamp(t, 0.1, 0.9), isSmooth);
                way.push_back(first);
                way.push_back(second);
                way.insert(way.end(), steps.begin() + static_cast<std::ptrdiff_t>(at) + 1, steps.end());
                out.push_back(way);
            }
            Steps way(steps.begin(), steps.begin() + static_cast<std::ptrdiff_t>(at));
            const double reach = std::min(0.4, kEdge / std::max(1e-6, length));
            const double from = std::clamp(t - reach, 0.05, 0.9),
                         to = std::clamp(t + reach, from + 0.05, 0.95);
            const Step first = cutAt(steps[at], from, false).first,
                       second = cutAt(steps[at], to, false).second;
            way.push_back(first);
            way.push_back({Cubic::line(first.curve.d, second.curve.a), true, false});
            way.push_back(second);
            way.back().isSmooth = false;
            way.insert(way.end(), steps.begin() + static_cast<std::ptrdiff_t>(at) + 1, steps.end());
            out.push_back(way);
        }
        return out;
    }

    /// Whether steps are none too short and do not cross.
    static bool isPlausible(const Steps& steps) {
        constexpr double kShortest = 0.8;
        Polygon path{steps.front().curve.a};
        for (const Step& s : steps) {
            if (geometry::distance(s.curve.a, s.curve.d) < kShortest)
                return false;
            const int looks = s.isLine ? 1 : 8;
            for (int k = 1; k <= looks; ++k)
                path.push_back(s.curve.at(static_cast<double>(k) / looks));
        }
        for (size_t i = 1; i < path.size(); ++i)
            for (size_t j = i + 2; j < path.size(); ++j) {
                const Point a = path[i - 1], b = path[i], c = path[j - 1], d = path[j];
                if (geometry::cross(b - a, c - a) * geometry::cross(b - a, d - a) < 0 &&
                    geometry::cross(d - c, a - c) * geometry::cross(d - c, b - c) < 0)
                    return false;
            }
        return true;
    }

    void mendAt(const Spot& spot) {
        if (squaresAround(spot.at) < leastBad())
            return; // mended with another
        const Place place = placeOf(spot.at);
        constexpr size_t kBeside = 2;
        const size_t n = m_steps.size();
        const bool isWhole = m_isRing && n <= 2 * kBeside + 1;
        const size_t before = isWhole ? n / 2 : m_isRing ? kBeside : std::min(kBeside, place.step);
        const size_t first = (place.step + n - before) % n;
        const size_t count = isWhole    ? n
                             : m_isRing ? 2 * kBeside + 1
                                        : std::min(before + kBeside + 1, n - first);
        const Steps given = stretchOf(first, count);
        const Polygon path = pathOf(given);
        Steps best;
        double most = leastBad() / 2;
        for (const Steps& way : otherWays(given, before, place.t, isWhole)) {
            Steps tried = way;
            const auto change = m_remainder.change(path, pathOf(tried));
            m_remainder.apply(change);
            const double saved = change.saved + settle(tried, isWhole, m_remainder);
            m_remainder.apply(m_remainder.change(pathOf(tried), path));
            if (saved > most && isPlausible(tried)) {
                most = saved;
                best = std::move(tried);
            }
        }
        if (best.empty())
            return;
        m_remainder.apply(m_remainder.change(path, pathOf(best)));
        Steps all = best;
        for (size_t k = count; k < n; ++k)
            all.push_back(m_steps[(first + k) % n]);
        if (!m_isRing) // the open line keeps its beginning
            std::rotate(all.begin(), all.begin() + static_cast<std::ptrdiff_t>(all.size() - first),
                        all.end());
        m_steps = std::move(all);
    }

    /// What noise does not leave around a spot, px⁴.
    double leastBad() const { return 0.008 + 2 * m_usual; }

    double m_usual = 0; ///< squares around four spots in five at most: what noise leaves

    Steps stretchOf(size_t first, size_t count) const {
        Steps out;
        for (size_t k = 0; k < count; ++k)
            out.push_back(m_steps[(first + k) % m_steps.size()]);
        return out;
    }

    Steps m_steps;
    bool m_isRing;
    Remainder& m_remainder;
};

} // namespace

Contour refined(const Contour& curve, bool isRing, const Polygon& pixelPath, Remainder& remainder) {
    if (curve.segments.size() < (isRing ? 2 : 1))
        return curve;
    Refiner refiner(curve, isRing, remainder);
    remainder.begin(pixelPath, pathOf(refiner.steps()));
    refiner.settleAll();
    refiner.mend();
    return refiner.contour();
}

} // namespace thinline::trace
