// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Leaning walls round a regular polygon: the tapered cup and the pyramid.
//
// The bottom is in the middle of the blank and a wall hangs on each of its sides. Walls lean: with an
// inradius that changes from r to R over a height H their slant is sqrt(H2 + (R - r)2), the bottom's folds close by 90 degrees
// less the lean, and two neighbours meet at the angle between their outward normals,
//
//     cos b = cos2(lean) cos(2 pi / n) + sin2(lean).
//
// A lap goes on inside its neighbour. It is folded by b, so beginning t / sin b before the corner it lies a card's thickness
// inside the neighbour's middle. Its fold is then t / tan b short of the corner as one looks along the neighbour.
//
// Places on a wall are counted along its edge from the corner at the bottom, and square to it; both walls at a corner have the
// same edge, so a place of the lap is found on the neighbour by these two numbers.
#include "construct/Blank.h"
#include "construct/Set.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace thinline::construct {
namespace {

using base::Code;
using base::Error;
using design::Body;
using design::Side;
using design::Spot;
using geometry::Point;

constexpr double kPi = std::numbers::pi;
constexpr double kDeg = 180 / kPi;

struct Leaning {
    int sides = 6;
    double bottom = 0, top = 0; ///< inradii of the middles, mm
    double high = 0, lap = 0, t = 0;

    double out() const { return top - bottom; }
    double slant() const { return std::hypot(high, out()); }
    double lean() const { return std::atan2(out(), high); }
    double side(double inradius) const { return 2 * inradius * std::tan(kPi / sides); }
    double climb() const {
        return std::atan((side(top) - side(bottom)) / 2 / slant());
    } ///< of a wall's edge, from upright
    double before() const {
        return t / std::sin(corner());
    }                       ///< how far the lap's fold lies before the corner, square to the edge
    double corner() const { ///< by how much two walls turn
        const double c = std::cos(lean()), s = std::sin(lean());
        return std::acos(std::clamp(c * c * std::cos(2 * kPi / sides) + s * s, -1.0, 1.0));
    }
};

/// A wall's own coordinates: x along its bottom from its middle, y away from the bottom. In the blank its bottom is the i-th
/// side of the polygon, whose middle is the origin.
Point inBlank(const Leaning& it, int i, Point own) {
    const double turn = 2 * kPi * i / it.sides, cosine = std::cos(turn), sine = std::sin(turn),
                 y = -(it.bottom + own.y);
    return {own.x * cosine - y * sine, own.x * sine + y * cosine};
}

/// A place of a wall from its right edge: `along` it from the bottom, `out` square to it.
Point fromRight(const Leaning& it, double along, double out) {
    const double c = std::cos(it.climb()), s = std::sin(it.climb());
    return {it.side(it.bottom) / 2 + along * s + out * c, along * c - out * s};
}
/// The same from the left edge, `in` to the right of it.
Point fromLeft(const Leaning& it, double along, double in) {
    const Point mirrored = fromRight(it, along, -in);
    return {-mirrored.x, mirrored.y};
}

/// Where a lap's fold begins and ends, along the edge, and how far its ends are cut back. Below it must keep to the gap between
/// two walls of the flat blank.
struct Lap {
    double from = 0, to = 0, cutLow = 0, cut = 0;
    double whole() const { return to - from - cutLow - cut; }
};
Lap lapOf(const Leaning& it) {
    const double edge = it.slant() / std::cos(it.climb()), in = it.before(), top = it.side(it.top);
    Lap out;
    out.from = -in * std::tan(it.climb()); // at the height of the bottom
    out.to = edge - in * std::tan(it.climb());
    // A wall that comes to a point ends where the fold meets its other edge.
    if (const double across = in / std::cos(it.climb()); top < across)
        out.to -= (across - top) / (it.side(it.bottom) - top) * edge;
    out.cut = std::min(it.lap, (out.to - out.from) / 4);
    const double gap = 2 * kPi / it.sides - 2 * it.climb();
    out.cutLow = gap > kPi / 2 ? out.cut
                 : gap <= 0    ? INFINITY
                               : std::max(out.cut, it.lap / std::tan(gap) - out.from + 0.2);
    return out;
}

Body drawLeaning(const Leaning& it) {
    const double a = it.side(it.bottom) / 2, in = it.before();
    const Lap lap = lapOf(it);
    const Point low = fromRight(it, lap.from, -in), high = fromRight(it, lap.to, -in);
    const Point lapLow = fromRight(it, lap.from + lap.cutLow, it.lap - in),
                lapHigh = fromRight(it, lap.to - lap.cut, it.lap - in);
    const double left =
        (it.side(it.bottom) + (it.side(it.top) - it.side(it.bottom)) * high.y / it.slant()) / 2;
    geometry::Polygon points;
    for (int i = 0; i < it.sides; ++i) {
        const auto add = [&](Point p) {
            const Point at = inBlank(it, i, p);
            if (points.empty() || geometry::distance(points.back(), at) > 1e-6)
                points.push_back(at);
        };
        for (const Point p : {Point{-a, 0}, Point{-left, high.y}, high, lapHigh, lapLow, low})
            add(p);
    }
    Body body{through(points)};
    for (int i = 0; i < it.sides; ++i) {
        const auto at = [&](Point p) { return inBlank(it, i, p); };
        fold(body, at({-a, 0}), at({a, 0}), 90 - it.lean() * kDeg);
        fold(body, at(low), at(high), it.corner() * kDeg);
        glue(body, {at(low), at(lapLow), at(lapHigh), at(high)}, Side::Front);
        name(body, at({0, high.y / 3}), "wall " + std::to_string(i + 1));
    }
    name(body, {0, 0}, "bottom", true);
    return body;
}

base::Status canLean(const Leaning& it) {
    const double a = it.side(it.bottom), b = it.side(it.top), narrow = b > 0.01 ? std::min(a, b) : a / 2;
    if (narrow < 4 * it.t + 4)
        return Error{Code::InvalidArgument,
                     "Walls of " + mm(narrow) +
                         " are too narrow for this card; make it wider or give it fewer sides."};
    if (it.lap + it.before() > narrow / 2)
        return Error{Code::InvalidArgument, "Laps of " + mm(it.lap) +
                                                " are wider than half a wall; they can be " +
                                                mm(std::max(0.0, narrow / 2 - it.before())) + " at most."};
    if (const Lap lap = lapOf(it); !(lap.whole() > it.slant() / 4))
        return Error{Code::InvalidArgument,
                     "Between walls that open so wide there is no room for laps of " + mm(it.lap) +
                         " in one blank; take fewer sides, narrower laps or a smaller upper width."};
    return base::Done{};
}

void finish(const Leaning& it, const std::string& key, const std::string& called, Built& out) {
    out.parts.push_back({key, called, drawLeaning(it)});
    const Lap lap = lapOf(it);
    for (int i = 0; i < it.sides; ++i) {
        const auto alongOf = [&](double along) {
            return lap.from + lap.cutLow + lap.whole() * (0.1 + 0.8 * along);
        };
        meet(
            out.form, "laps",
            [&](double along, double away) {
                return Spot{key,
                            inBlank(it, i, fromRight(it, alongOf(along), it.lap * 0.9 * away - it.before())),
                            it.t / 2};
            },
            [&](double along, double away) {
                const double in = it.lap * 0.9 * away - it.before() * std::cos(it.corner());
                return Spot{key, inBlank(it, (i + 1) % it.sides, fromLeft(it, alongOf(along), in)),
                            -it.t / 2};
            });
    }
    out.form.order = {key};
    out.derived.push_back(
        {"slant of the walls, fold to edge", {"√(", it.high, "² + ", std::abs(it.out()), "²)"}, it.slant()});
    out.derived.push_back({"side of the bottom",
                           {"2 × ", it.bottom, " × tan(180° / " + std::to_string(it.sides) + ")"},
                           it.side(it.bottom)});
    if (it.top > 0)
        out.derived.push_back({"upper side",
                               {"2 × ", it.top, " × tan(180° / " + std::to_string(it.sides) + ")"},
                               it.side(it.top)});
}

/// From inner measures: the middles of leaning walls lie half a card further out, square to them.
Leaning leaning(const Said& said, double bottomMm, double topMm) {
    Leaning it;
    it.sides = said.count("sides");
    it.high = said["height"];
    it.lap = said["lap"];
    it.t = said.t;
    const double lean = std::atan2((topMm - bottomMm) / 2, it.high), half = said.t / 2 / std::cos(lean);
    it.bottom = bottomMm / 2 + half;
    it.top = topMm > 0 ? topMm / 2 + half : 0;
    return it;
}

base::Result<Built> buildCup(const Said& said, const base::Progress&) {
    const Leaning it = leaning(said, said["bottom"], said["top"]);
    if (auto ok = canLean(it); !ok)
        return ok.error();
    Built out;
    finish(it, "cup", "the cup", out);
    return out;
}

base::Result<Built> buildPyramid(const Said& said, const base::Progress&) {
    const Leaning it = leaning(said, said["bottom"], 0);
    if (auto ok = canLean(it); !ok)
        return ok.error();
    Built out;
    finish(it, "pyramid", "the pyramid", out);
    return out;
}

constexpr const char* kSidesWhy = "walls round the bottom";
constexpr const char* kLapWhy = "a lap at every wall goes inside its neighbour";

} // namespace

const Construction& cup() {
    static const Construction it{
        "cup",
        "Tapered cup",
        "A cup or bouquet box with leaning walls; the same width above and below makes a straight one.",
        {count("sides", "Sides", 6, 3, 16, kSidesWhy),
         size("bottom", "Inside below, across the flats", 50, 5, 500,
              "a disc of this diameter lies on the bottom"),
         size("top", "Inside above", 80, 5, 500, "a disc of this diameter closes it"),
         size("height", "High", 100, 5, 500, "from the bottom to the edge"),
         margin("lap", "Glue laps", 10, 3, 40, kLapWhy)},
        buildCup};
    return it;
}

const Construction& pyramid() {
    static const Construction it{"pyramid",
                                 "Pyramid",
                                 "Walls that meet in a point over a bottom.",
                                 {count("sides", "Sides", 4, 3, 16, kSidesWhy),
                                  size("bottom", "Inside below, across the flats", 60, 8, 500,
                                       "a disc of this diameter lies on the bottom"),
                                  size("height", "High", 70, 5, 500, "from the bottom to the point"),
                                  margin("lap", "Glue laps", 8, 3, 40, kLapWhy)},
                                 buildPyramid};
    return it;
}

} // namespace thinline::construct
