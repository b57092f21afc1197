// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Moving points until the picture is explained.
//
// The first fit of a border goes through points that are measured one by one, where rows of pixels cross
// the edge (geometry/Measured). Each is true to a few hundredths of a pixel, but each sees only its own
// row: at corners, tips and narrow bends no row has a plain side to hold on to, and those are the places
// people look at. A pixel near a corner still tells something. It says how much of it lies on either side.
// So the curve is held against all its pixels at once.
//
// The model: a pixel's level is the share of it that lies to the right of the curve. For a curve of
// straight steps this share can be computed exactly (raster::coveredPixels); what the picture shows less
// what the curve would show is the `Remainder`. The sum of its squares is to become as small as it gets,
// by moving the nodes and handles of a few steps together.
//
// The method is Gauss and Newton's. When a point of a curve moves sideways by a small way, the area on one
// side changes by that way times the length of the edge, and the whole change falls into the pixel the
// edge passes there. So the derivative of a pixel's share by a control point is a sum along the curve of
// Bernstein weight times edge length, with three looks to a pixel: no trial moves, no differences. The
// normal equations are gathered pixel by pixel. Every pixel keeps a list of the steps that pull on it
// (there is mostly one, at a node two), linked through a slot in the remainder, so a system costs the
// length of the border and not its box. They are solved by Cholesky, two numbers for each point, at most
// fourteen steps at a time: the cube of that is small, and farther apart nothing is coupled. Longer
// borders are done in stretches that overlap by four steps.
//
// It is held back as Levenberg and Marquardt do: a diagonal that grows by eight when a move does not help
// and falls by four when it does. A refused move computes no new equations, since nothing has moved.
//
// Two kinds of faint knowledge are added to what the pixels say:
//
// - Smooth joins stay smooth. The cross product of the handles on both sides is held at zero by a firm
//   equation. Taking the handles' direction as one unknown would hold exactly, but then a join could never
//   become a corner, and it may: beyond 14 degrees it is let go afterwards.
// - A curve bends evenly (third difference of its points near zero), faintly. Without it a handle that
//   runs along the curve changes hardly any pixel, and in grainy pictures it follows the grain.
//
// A blurred picture changes two things. An edge that moves changes more pixels, each by less. Spreading
// every pull costs dearly and gives nearly the same directions as leaving the pulls sharp, gathering the
// remainder over the spread, and scaling the matrix by the squares of the spread's shares. That is what is
// done.
//
// Considered and left: solving a whole outline at once (no truer, and the cube of its nodes) and
// sharpening the picture first (multiplies grain). Moves are cut at two pixels a round, because farther
// away the pixels asked say nothing; a curve that turns back on itself or a step under 0.3 px is refused.
//
// Cost: O(length + steps cubed) for a round, at most sixteen rounds, eight in a soft picture, four in
// haste.
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

constexpr double kFlat = 0.01; // px between a curve and the straight steps its area is taken from

/// The unknowns of a few steps in a row: two numbers for every point that may move.
struct Unknowns {
    /// Per step: where its four points stand among the unknowns; -1 for one that stays (or, on a straight
    /// step, is none).
    std::vector<std::array<int, 4>> of;
    int count = 0; ///< points
};

/// A square system of equations, symmetric and positive.
class Equations {
  public:
    explicit Equations(int size)
        : m_size(size), m_matrix(static_cast<size_t>(size) * static_cast<size_t>(size), 0),
          m_right(static_cast<size_t>(size), 0) {}
    double& at(int row, int column) {
        return m_matrix[static_cast<size_t>(row) * static_cast<size_t>(m_size) + static_cast<size_t>(column)];
    }
    double& right(int row) { return m_right[static_cast<size_t>(row)]; }
    /// Adds one equation sum(factor x unknown) = value, weighted.
    template <size_t N>
    void add(const std::array<int, N>& unknowns, const std::array<double, N>& factors, double value,
             double weight) {
        for (size_t i = 0; i < N; ++i) {
            if (unknowns[i] < 0)
                continue;
            for (size_t j = 0; j < N; ++j)
                if (unknowns[j] >= 0)
                    at(unknowns[i], unknowns[j]) += weight * factors[i] * factors[j];
            right(unknowns[i]) += weight * factors[i] * value;
        }
    }
    /// Solves by Cholesky's way, every unknown held at zero by `hold`; empty when it cannot be done.
    std::vector<double> solved(double hold) const {
        std::vector<double> l = m_matrix, x = m_right;
        const auto n = static_cast<size_t>(m_size);
        for (size_t j = 0; j < n; ++j) {
            double d = l[j * n + j] + hold;
            for (size_t k = 0; k < j; ++k)
                d -= l[j * n + k] * l[j * n + k];
            if (!(d > 0))
                return {};
            const double root = std::sqrt(d);
            l[j * n + j] = root;
            for (size_t i = j + 1; i < n; ++i) {
                double v = l[i * n + j];
                for (size_t k = 0; k < j; ++k)
                    v -= l[i * n + k] * l[j * n + k];
                l[i * n + j] = v / root;
            }
        }
        for (size_t i = 0; i < n; ++i) {
            for (size_t k = 0; k < i; ++k)
                x[i] -= l[i * n + k] * x[k];
            x[i] /= l[i * n + i];
        }
        for (size_t i = n; i-- > 0;) {
            for (size_t k = i + 1; k < n; ++k)
                x[i] -= l[k * n + i] * x[k];
            x[i] /= l[i * n + i];
        }
        return x;
    }

  private:
    int m_size;
    std::vector<double> m_matrix, m_right;
};

/// How a pixel's share changes when a step's points move.
struct Pull {
    int x = 0, y = 0;
    int step = 0;
    std::int32_t next = -1;     ///< another step's pull on the same pixel
    std::array<double, 8> by{}; ///< x and y of its four points
};

/// Some steps in a row that are moved together.
class Stretch {
  public:
    Stretch(Steps steps, bool isClosed) : m_steps(std::move(steps)), m_isClosed(isClosed) {
        const size_t n = m_steps.size();
        std::vector<int> node(n + 1, -1);
        for (size_t i = isClosed ? 0 : 1; i < n; ++i)
            node[i] = m_unknowns.count++;
        if (isClosed)
            node[n] = node[0];
        for (size_t i = 0; i < n; ++i) {
            std::array<int, 4> of{node[i], -1, -1, node[i + 1]};
            if (!m_steps[i].isLine) {
                of[1] = m_unknowns.count++;
                of[2] = m_unknowns.count++;
            }
            m_unknowns.of.push_back(of);
        }
    }

    const Steps& steps() const { return m_steps; }

    /// Moves the points round by round as long as it helps.
    double settle(Remainder& remainder, int rounds) {
        double saved = 0;
        constexpr double kLeastHold = 0.002; // px² of coverage for a px of way
        double hold = kLeastHold;
        std::optional<Equations> equations; // they stand until something moves
        for (int round = 0; round < rounds && hold < 100; ++round) {
            if (!equations)
                equations = equationsFor(remainder);
            const std::vector<double> moves = equations->solved(hold);
            if (moves.empty())
                break;
            Steps moved = movedBy(moves);
            const auto change = remainder.change(pathOf(m_steps), pathOf(moved));
            if (change.saved <= 0 || !isSound(moved)) {
                hold *= 8;
                continue;
            }
            remainder.apply(change);
            saved += change.saved;
            m_steps = std::move(moved);
            equations.reset();
            double most = 0;
            for (double m : moves)
                most = std::max(most, std::abs(m));
            constexpr double kStill = 0.02, kSaved = 1e-3;
            if (most < kStill || change.saved < kSaved)
                break;
            hold = std::max(kLeastHold, hold / 4);
        }
        return saved;
    }

  private:
    /// Every pixel's pulls, gathered in the remainder's slots, which are freed by whoever asked.
    std::vector<Pull> pulls(Remainder& remainder) const {
        std::vector<Pull> out;
        for (size_t i = 0; i < m_steps.size(); ++i) {
            const Cubic& k = m_steps[i].curve;
            const double hull =
                geometry::distance(k.a, k.b) + geometry::distance(k.b, k.c) + geometry::distance(k.c, k.d);
            const int looks = std::clamp(static_cast<int>(3 * hull), 4, 4096);
            for (int j = 0; j < looks; ++j) {
                const double t = (j + 0.5) / looks, u = 1 - t;
                const Point p = k.at(t), v = k.speed(t) * (1.0 / looks);
                const std::array<double, 4> weight =
                    m_steps[i].isLine
                        ? std::array<double, 4>{u, 0, 0, t}
                        : std::array<double, 4>{u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t};
                std::array<double, 8> by{};
                for (size_t c = 0; c < 4; ++c) { // moving left adds to the right-hand side
                    by[2 * c] = weight[c] * v.y;
                    by[2 * c + 1] = -weight[c] * v.x;
                }
                const int x = static_cast<int>(std::floor(p.x)), y = static_cast<int>(std::floor(p.y));
                addPull(out, remainder.cell(x, y).slot, {x, y, static_cast<int>(i)}, by);
            }
        }
        return out;
    }
    static void addPull(std::vector<Pull>& all, std::int32_t& slot, Pull pull,
                        const std::array<double, 8>& by) {
        if (slot < 0 || all[static_cast<size_t>(slot)].step != pull.step) {
            pull.next = slot;
            slot = static_cast<std::int32_t>(all.size());
            all.push_back(pull);
        }
        Pull& into = all[static_cast<size_t>(slot)];
        for (size_t c = 0; c < 8; ++c)
            into.by[c] += by[c];
    }

    std::array<int, 8> unknownsOf(int step) const {
        std::array<int, 8> out;
        for (size_t c = 0; c < 4; ++c) {
            const int point = m_unknowns.of[static_cast<size_t>(step)][c];
            out[2 * c] = point < 0 ? -1 : 2 * point;
            out[2 * c + 1] = point < 0 ? -1 : 2 * point + 1;
        }
        return out;
    }

    static void addPair(Equations& out, const std::array<int, 8>& rows, const std::array<double, 8>& rowBy,
                        const std::array<int, 8>& columns, const std::array<double, 8>& columnBy,
                        double energy) {
        for (size_t r = 0; r < 8; ++r)
            for (size_t c = 0; c < 8 && rows[r] >= 0; ++c)
                if (columns[c] >= 0)
                    out.at(rows[r], columns[c]) += energy * rowBy[r] * columnBy[c];
    }
    Equations equationsFor(Remainder& remainder) const {
        Equations out(2 * m_unknowns.count);
        const std::vector<Pull> all = pulls(remainder);
        // A soft edge that moves changes more pixels, each by less: together by the squares of the shares.
        double energy = 0;
        for (const double tap : remainder.spread().taps)
            energy += tap * tap;
        const auto after = [&](const Pull* p) {
            return p->next < 0 ? nullptr : &all[static_cast<size_t>(p->next)];
        };
        for (const Pull& pull : all) {
            Remainder::Cell& cell = remainder.cell(pull.x, pull.y);
            if (cell.slot < 0)
                continue; // this pixel is done
            const Pull* first = &all[static_cast<size_t>(cell.slot)];
            cell.slot = -1;
            const double rest = remainder.gathered(pull.x, pull.y);
            for (const Pull* a = first; a; a = after(a)) {
                const auto rows = unknownsOf(a->step);
                for (size_t r = 0; r < 8; ++r)
                    if (rows[r] >= 0)
                        out.right(rows[r]) += a->by[r] * rest;
                for (const Pull* b = first; b; b = after(b))
                    addPair(out, rows, a->by, unknownsOf(b->step), b->by, energy);
            }
        }
        addSmoothness(out);
        addCalm(out);
        return out;
    }

    /// At a smooth join the handles on both sides stay in line: sin of the turn between them is kept at zero.
    void addSmoothness(Equations& out) const {
        const size_t n = m_steps.size();
        for (size_t i = m_isClosed ? 0 : 1; i < n; ++i) {
            const size_t before = (i + n - 1) % n;
            if (!m_steps[i].isSmooth)
                continue;
            const Cubic &in = m_steps[before].curve, &on = m_steps[i].curve;
            const bool isLineIn = m_steps[before].isLine, isLineOn = m_steps[i].isLine;
            const Point from = isLineIn ? in.a : in.c, to = isLineOn ? on.d : on.b, at = on.a;
            const Point arriving = at - from, leaving = to - at;
            const double scale = 1 / std::max(1e-6, geometry::length(arriving) * geometry::length(leaving));
            const int a = m_unknowns.of[before][isLineIn ? 0 : 2], b = m_unknowns.of[i][0],
                      c = m_unknowns.of[i][isLineOn ? 3 : 1];
            const auto pair = [](int point, int k) { return point < 0 ? -1 : 2 * point + k; };
            // d cross(at - from, to - at)
            constexpr double kFirm = 3000;
            out.add(
                std::array<int, 6>{pair(a, 0), pair(a, 1), pair(b, 0), pair(b, 1), pair(c, 0), pair(c, 1)},
                std::array<double, 6>{-leaving.y * scale, leaving.x * scale, (leaving.y + arriving.y) * scale,
                                      -(leaving.x + arriving.x) * scale, -arriving.y * scale,
                                      arriving.x * scale},
                -geometry::cross(arriving, leaving) * scale, kFirm);
        }
    }

    /// A curve bends evenly unless the picture says otherwise: d - 3c + 3b - a is held near zero.
    void addCalm(Equations& out) const {
        constexpr double kCalm = 0.1;
        for (size_t i = 0; i < m_steps.size(); ++i) {
            if (m_steps[i].isLine)
                continue;
            const Cubic& k = m_steps[i].curve;
            const Point now = k.d - k.c * 3 + k.b * 3 - k.a;
            const double weight = kCalm / std::max(1.0, geometry::dot(k.d - k.a, k.d - k.a));
            for (const bool isX : {true, false}) {
                std::array<int, 4> unknowns{};
                for (size_t c = 0; c < 4; ++c) {
                    const int point = m_unknowns.of[i][c];
                    unknowns[c] = point < 0 ? -1 : 2 * point + (isX ? 0 : 1);
                }
                out.add(unknowns, std::array<double, 4>{-1, 3, -3, 1}, -(isX ? now.x : now.y), weight);
            }
        }
    }

    Steps movedBy(const std::vector<double>& moves) const {
        constexpr double kFarthest = 2; // px a round: farther the pixels asked say nothing
        Steps out = m_steps;
        for (size_t i = 0; i < out.size(); ++i) {
            const auto by = [&](size_t c) {
                const int point = m_unknowns.of[i][c];
                if (point < 0)
                    return Point{};
                const Point move{moves[static_cast<size_t>(2 * point)],
                                 moves[static_cast<size_t>(2 * point) + 1]};
                return move * std::min(1.0, kFarthest / std::max(1e-9, geometry::length(move)));
            };
            Cubic& k = out[i].curve;
            k.a = k.a + by(0);
            k.d = k.d + by(3);
            if (m_steps[i].isLine) {
                k = Cubic::line(k.a, k.d);
            } else {
                k.b = k.b + by(1);
                k.c = k.c + by(2);
            }
        }
        return out;
    }

    /// Whether no curve has turned back on itself.
    bool isSound(const Steps& steps) const {
        for (size_t i = 0; i < steps.size(); ++i) {
            const Cubic& k = steps[i].curve;
            const double chord = geometry::distance(k.a, k.d);
            if (chord < 0.3 ||
                (m_steps[i].isLine && geometry::dot(k.d - k.a, m_steps[i].curve.d - m_steps[i].curve.a) <= 0))
                return false;
            if (!m_steps[i].isLine &&
                (geometry::length(k.b - k.a) > 4 * chord || geometry::length(k.d - k.c) > 4 * chord ||
                 geometry::dot(k.b - k.a, m_steps[i].curve.b - m_steps[i].curve.a) <= 0 ||
                 geometry::dot(k.d - k.c, m_steps[i].curve.d - m_steps[i].curve.c) <= 0))
                return false;
        }
        return true;
    }

    Steps m_steps;
    bool m_isClosed;
    Unknowns m_unknowns;
};

} // namespace

Polygon pathOf(const Steps& steps) {
    Contour path{steps.front().curve.a, {}};
    for (const Step& s : steps)
        path.segments.push_back(geometry::segmentOf(s.curve, s.isLine));
    Polygon out = geometry::flatten(path, kFlat);
    out.push_back(steps.back().curve.d);
    return out;
}

double settle(Steps& steps, bool isClosed, Remainder& remainder, int rounds) {
    Stretch stretch(std::move(steps), isClosed);
    const double saved = stretch.settle(remainder, rounds);
    steps = stretch.steps();
    return saved;
}

} // namespace thinline::trace
