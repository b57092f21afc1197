// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Where a bridge goes.
//
// The largest piece holds; the others are tied one after the other, always the one that lies nearest to what is tied by then, so
// that a ring within a ring within a plate comes right, and so do letters in a row. A bridge is a straight bar over a gap. Candidates are found at places along
// the outline of the piece: towards the nearest edge of what holds it, or straight up and down (or across) by rays. The
// shortest is taken first. The next ones weigh their length against how far round the piece they lie from those that are
// taken, since two bridges side by side hold like one.
//
// At its ends a bar must be held over its whole width: a bar that touches the tip of a star would hang on a hair. So each
// end is pushed into its piece until both corners of the bar lie in it, or the other side of the piece comes near.
#include "shape/Bridges.h"

#include "base/Length.h"
#include "geometry/Measures.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>
#include <optional>

namespace thinline::shape {
namespace {

using base::Code;
using base::Error;
using geometry::Box;
using geometry::Point;
using geometry::Polygon;
using geometry::Polygons;
using geometry::Shape;
using Where = BridgeWish::Where;

constexpr double kFlatMm = 0.02;

struct Bar {
    Point from, to; ///< on the edge of the piece, and on that of what holds it
    double mm = 0;
    bool isFirstSide = false; ///< of up and down, or of left and right
};

Point nearestOn(Point a, Point b, Point p) {
    const Point d = b - a;
    const double length = d.x * d.x + d.y * d.y;
    const double t =
        length > 0 ? std::clamp(((p.x - a.x) * d.x + (p.y - a.y) * d.y) / length, 0.0, 1.0) : 0.0;
    return a + d * t;
}

/// Calls with every edge of some rings.
template <class Call>
void eachEdge(const Polygons& rings, const Call& call) {
    for (const Polygon& ring : rings)
        for (std::size_t i = 0, k = ring.size() - 1; i < ring.size(); k = i++)
            call(ring[k], ring[i]);
}

/// Places along some rings, their corners among them, about `stepMm` apart.
std::vector<Point> placesOn(const Polygons& rings) {
    constexpr double kMost = 400, kLeastMm = 0.5;
    double length = 0;
    eachEdge(rings, [&](Point a, Point b) { length += geometry::distance(a, b); });
    const double step = std::max(kLeastMm, length / kMost);
    std::vector<Point> out;
    double since = step;
    eachEdge(rings, [&](Point a, Point b) {
        const double edge = geometry::distance(a, b);
        for (double at = step - since; at < edge; at += step, since = 0)
            if (at >= 0)
                out.push_back(a + (b - a) * (at / edge));
        since = std::fmod(since + edge, step);
    });
    return out;
}

/// The same with across and down exchanged.
Point swapped(Point p) {
    return {p.y, p.x};
}
Polygons swapped(Polygons rings) {
    for (Polygon& ring : rings)
        for (Point& p : ring)
            p = swapped(p);
    return rings;
}

class Tying {
  public:
    Tying(const std::vector<Shape>& pieces, const BridgeWish& how, const base::Progress& progress)
        : m_how(how), m_progress(progress) {
        std::vector<std::size_t> order(pieces.size());
        std::iota(order.begin(), order.end(), std::size_t{0});
        std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
            return geometry::area(pieces[a]) > geometry::area(pieces[b]);
        });
        for (const std::size_t i : order)
            m_pieces.push_back(geometry::flatten(pieces[i], kFlatMm));
    }

    base::Result<std::vector<Shape>> run() {
        std::vector<std::size_t> left(m_pieces.size() - 1);
        std::iota(left.begin(), left.end(), std::size_t{1});
        std::vector<double> gapMm(m_pieces.size(), INFINITY); // to what is tied
        for (std::size_t tied = 0; !left.empty();) {
            m_tied.insert(m_tied.end(), m_pieces[tied].begin(), m_pieces[tied].end());
            for (const std::size_t i : left) {
                if (m_progress.isCancelled())
                    return base::cancelled();
                gapMm[i] = std::min(gapMm[i], gapBetween(m_pieces[i], m_pieces[tied], gapMm[i]));
            }
            const auto next = std::min_element(
                left.begin(), left.end(), [&](std::size_t x, std::size_t y) { return gapMm[x] < gapMm[y]; });
            tied = *next;
            left.erase(next);
            if (auto ok = tie(m_pieces[tied]); !ok)
                return ok.error();
        }
        if (m_out.empty())
            return Error{Code::InvalidArgument, "These pieces touch one another; join them into one."};
        return std::move(m_out);
    }

  private:
    /// Whether a piece touches what is tied, or lies on it.
    bool hangsTogether(const Polygons& piece, double gapMm) const {
        constexpr double kTouchMm = 0.01;
        return gapMm < kTouchMm || geometry::contains(m_tied, piece.front().front()) ||
               geometry::contains(piece, m_tied.front().front());
    }

    base::Status tie(const Polygons& piece) {
        std::vector<Bar> near = nearBars(piece);
        const auto shortest = std::min_element(near.begin(), near.end(),
                                               [](const Bar& a, const Bar& b) { return a.mm < b.mm; });
        if (hangsTogether(piece, shortest->mm))
            return base::Done{};
        if (shortest->mm > kMostBridgeMm)
            return Error{Code::InvalidArgument, "A piece lies " + base::formatNumber(shortest->mm, 0) +
                                                    " mm from the others; bridges go up to " +
                                                    base::formatNumber(kMostBridgeMm, 0) + " mm."};
        std::vector<Bar> bars = m_how.where == Where::Nearest ? spread(near, piece) : straight(piece);
        if (bars.empty()) // nothing lies straight above or below
            bars = {*shortest};
        for (const Bar& bar : bars)
            m_out.push_back(shapeOf(bar, piece));
        return base::Done{};
    }

    /// How far the outlines of two pieces are apart, or anything above `most` where they are farther.
    static double gapBetween(const Polygons& a, const Polygons& b, double most) {
        const Box x = geometry::bounds(a), y = geometry::bounds(b);
        const double across = std::max({0.0, x.least.x - y.most.x, y.least.x - x.most.x}),
                     down = std::max({0.0, x.least.y - y.most.y, y.least.y - x.most.y});
        double out = INFINITY;
        if (std::hypot(across, down) >= most)
            return out;
        for (const Point p : placesOn(a))
            eachEdge(b, [&](Point from, Point to) {
                out = std::min(out, geometry::distance(p, nearestOn(from, to, p)));
            });
        return out;
    }

    std::vector<Bar> nearBars(const Polygons& piece) const {
        std::vector<Bar> out;
        for (const Point p : placesOn(piece)) {
            Bar bar{p, p, INFINITY};
            eachEdge(m_tied, [&](Point a, Point b) {
                const Point q = nearestOn(a, b, p);
                if (const double mm = geometry::distance(p, q); mm < bar.mm) {
                    bar.mm = mm;
                    bar.to = q;
                }
            });
            out.push_back(bar);
        }
        return out;
    }
    /// The shortest, and then those that lie far round from the ones taken and are short too.
    std::vector<Bar> spread(const std::vector<Bar>& all, const Polygons& piece) const {
        constexpr double kBeside = 1.6, kMostTimes = 4;
        const Point middle = geometry::bounds(piece).centre();
        const auto turnOf = [&](const Bar& bar) {
            return std::atan2(bar.from.y - middle.y, bar.from.x - middle.x);
        };
        std::vector<Bar> out;
        double shortest = INFINITY;
        for (int n = 0; n < m_how.count; ++n) {
            const Bar* best = nullptr;
            double least = INFINITY;
            for (const Bar& bar : all) {
                double apart = 1; // half way round
                bool isBeside = false;
                for (const Bar& other : out) {
                    apart = std::min(
                        apart, std::abs(std::remainder(turnOf(bar) - turnOf(other), 2 * std::numbers::pi)) /
                                   std::numbers::pi);
                    isBeside = isBeside || geometry::distance(bar.from, other.from) < 2 * m_how.widthMm;
                }
                const double cost = bar.mm * (kBeside - apart);
                if (cost < least && !isBeside &&
                    (out.empty() || bar.mm <= kMostTimes * shortest + m_how.widthMm)) {
                    least = cost;
                    best = &bar;
                }
            }
            if (!best)
                break;
            shortest = std::min(shortest, best->mm);
            out.push_back(*best);
        }
        return out;
    }
    /// Straight up and down, or across, near the middle of the piece; in turns on both sides.
    std::vector<Bar> straight(const Polygons& given) const {
        const bool isAcross = m_how.where == Where::LeftAndRight;
        const Polygons piece = isAcross ? swapped(given) : given, tied = isAcross ? swapped(m_tied) : m_tied;
        const Box box = geometry::bounds(piece);
        constexpr int kPlaces = 41;
        constexpr double kAside = 0.15; // what a millimetre beside the middle weighs
        std::vector<Bar> all;
        for (int k = 0; k < kPlaces; ++k) {
            const double x = box.centre().x + box.width() * 0.35 * (2.0 * k / (kPlaces - 1) - 1);
            const std::vector<double> own = crossings(piece, x), others = crossings(tied, x);
            if (own.empty())
                continue;
            const auto below = std::upper_bound(others.begin(), others.end(), own.back());
            const auto above = std::lower_bound(others.begin(), others.end(), own.front());
            if (above != others.begin())
                all.push_back({{x, own.front()}, {x, *(above - 1)}, own.front() - *(above - 1), true});
            if (below != others.end())
                all.push_back({{x, own.back()}, {x, *below}, *below - own.back(), false});
        }
        std::vector<Bar> out;
        for (int n = 0; n < m_how.count; ++n) {
            const Bar* best = nullptr;
            double least = INFINITY;
            for (const Bar& bar : all) {
                const bool isTaken = std::any_of(out.begin(), out.end(), [&](const Bar& other) {
                    return other.isFirstSide == bar.isFirstSide &&
                           std::abs(other.from.x - bar.from.x) < 2 * m_how.widthMm;
                });
                // After one above comes one below, where there is one.
                const bool isWrongSide = !out.empty() && out.back().isFirstSide == bar.isFirstSide;
                const double cost =
                    bar.mm + kAside * std::abs(bar.from.x - box.centre().x) + (isWrongSide ? 1000 : 0);
                if (!isTaken && bar.mm <= kMostBridgeMm && cost < least) {
                    least = cost;
                    best = &bar;
                }
            }
            if (!best)
                break;
            out.push_back(*best);
        }
        if (isAcross)
            for (Bar& bar : out) {
                bar.from = swapped(bar.from);
                bar.to = swapped(bar.to);
            }
        return out;
    }
    static std::vector<double> crossings(const Polygons& rings, double x) {
        std::vector<double> out;
        eachEdge(rings, [&](Point a, Point b) {
            if ((a.x > x) != (b.x > x))
                out.push_back(a.y + (b.y - a.y) * (x - a.x) / (b.x - a.x));
        });
        std::sort(out.begin(), out.end());
        return out;
    }

    Shape shapeOf(const Bar& bar, const Polygons& piece) const {
        const Point along = (bar.to - bar.from) * (1 / bar.mm);
        const Point aside = Point{-along.y, along.x} * (m_how.widthMm / 2);
        const Point from = bar.from - along * heldFrom(piece, bar.from, along * -1, aside),
                    to = bar.to + along * heldFrom(m_tied, bar.to, along, aside);
        geometry::Contour ring =
            geometry::contourThrough({from + aside, to + aside, to - aside, from - aside});
        return {geometry::signedArea(ring) < 0 ? geometry::reversed(ring) : ring, {}};
    }
    /// How far a bar must go into rings from their edge until it is held over its whole width.
    double heldFrom(const Polygons& rings, Point edge, Point into, Point aside) const {
        constexpr double kStepMm = 0.1, kMostWidths = 4, kLeastMm = 0.2;
        double out = kStepMm / 2;
        for (double in = kStepMm; in <= kMostWidths * m_how.widthMm; in += kStepMm) {
            const Point p = edge + into * in;
            if (!geometry::contains(rings, p))
                return std::max(kStepMm / 2, out - kStepMm); // the other side of it
            out = in;
            if (in >= kLeastMm && geometry::contains(rings, p + aside) &&
                geometry::contains(rings, p - aside))
                return in + kStepMm;
        }
        return out;
    }

    const BridgeWish& m_how;
    const base::Progress& m_progress;
    std::vector<Polygons> m_pieces; ///< the largest first
    Polygons m_tied;                ///< the rings of all that hang together
    std::vector<Shape> m_out;
};

} // namespace

base::Result<std::vector<Shape>> bridgesBetween(const std::vector<Shape>& pieces, const BridgeWish& how,
                                                const base::Progress& progress) {
    if (pieces.size() < 2)
        return Error{Code::InvalidArgument, "Choose two pieces or more."};
    return Tying(pieces, how, progress).run();
}

} // namespace thinline::shape
