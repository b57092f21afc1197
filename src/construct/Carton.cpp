// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Four walls in a ring: the fold-flat carton with tuck flaps, and the sleeve that slides over a box.
//
// The ring of middles is W + t by D + t. The lap lies inside the front, so the last wall is a card's thickness shorter. The
// lids hang on the back; dust flaps on the sides lie under them and are folded a card's thickness lower.
#include "construct/Blank.h"
#include "construct/Set.h"

#include <algorithm>

namespace thinline::construct {
namespace {

using base::Code;
using base::Error;
using design::Body;
using design::Side;
using design::Spot;
using geometry::Point;

/// Front, side, back, side and lap in a row; walls from y = 0 to `high`.
struct Ring {
    double wide = 0, deep = 0, high = 0, lap = 0, t = 0; ///< wide and deep from middle to middle
    double sideTo() const { return wide + deep; }
    double backTo() const { return 2 * wide + deep; }
    double lapFrom() const { return 2 * wide + 2 * deep - t; }
};

void foldRing(const Ring& ring, Body& body) {
    for (const double x : {ring.wide, ring.sideTo(), ring.backTo(), ring.lapFrom()})
        fold(body, {x, 0}, {x, ring.high});
    const double slant = std::min(ring.lap, ring.high) * 0.2, far = ring.lapFrom() + ring.lap;
    glue(body, {{ring.lapFrom(), 0}, {far, slant}, {far, ring.high - slant}, {ring.lapFrom(), ring.high}},
         Side::Front);
    name(body, {ring.wide / 2, ring.high / 2}, "front", true);
    name(body, {ring.wide + ring.deep / 2, ring.high / 2}, "right side");
    name(body, {ring.sideTo() + ring.wide / 2, ring.high / 2}, "back");
    name(body, {ring.backTo() + ring.deep / 2, ring.high / 2}, "left side");
}

void closeRing(const Ring& ring, const std::string& key, Built& out) {
    meet(
        out.form, "lap",
        [&](double along, double away) {
            return Spot{key, {ring.lapFrom() + ring.lap * away, ring.high * (0.3 + 0.4 * along)}, ring.t / 2};
        },
        [&](double along, double away) {
            return Spot{key, {ring.lap * away, ring.high * (0.3 + 0.4 * along)}, -ring.t / 2};
        });
}

void explainRing(const Ring& ring, double insideX, double insideY, const std::string& of, Built& out) {
    out.derived.push_back({of + "front and back", {insideX, " inside + ", ring.t, " card"}, ring.wide});
    out.derived.push_back({of + "sides", {insideY, " inside + ", ring.t, " card"}, ring.deep});
    out.derived.push_back(
        {of + "round in all",
         {"2 × ", ring.wide, " + 2 × ", ring.deep, " − ", ring.t, " card + ", ring.lap, " lap"},
         ring.lapFrom() + ring.lap});
}

base::Status fits(double lap, double room, const char* what) {
    if (lap <= room)
        return base::Done{};
    return Error{Code::InvalidArgument,
                 std::string(what) + " of " + mm(lap) + " does not fit; it can be " + mm(room) + " at most."};
}

base::Result<Built> buildCarton(const Said& said, const base::Progress&) {
    const double t = said.t, x = said["width"] + said["room"], y = said["depth"] + said["room"],
                 tuck = said["tuck"];
    // Lids lie between the walls' ends; from the middle of the lower one to that of the upper one is the height + t.
    const Ring ring{between(x, t), between(y, t), between(said["height"], t), said["lap"], t};
    if (auto ok = fits(ring.lap, x - 1, "A lap"); !ok)
        return ok.error();
    if (auto ok = fits(tuck, said["height"] / 2 - 1, "A tuck flap"); !ok)
        return ok.error();
    const double dust = std::min(y, x / 2) - 2, in = t,
                 lidDeep = ring.deep - t; // the tuck goes inside the front
    if (dust < 3)
        return Error{Code::InvalidArgument,
                     "A carton this narrow has no room for its flaps; from 6 mm on it has."};
    const double w = ring.wide, h = ring.high, far = ring.lapFrom() + ring.lap,
                 slant = std::min(ring.lap, h) * 0.2;
    const double taper = std::min(3.0, tuck / 3), ease = std::min(0.5, w / 20);
    const double s0 = ring.wide, s1 = ring.sideTo(), b1 = ring.backTo(), l1 = ring.lapFrom();
    // Upper edge from left to right, then the lower one back.
    geometry::Polygon top{{0, 0}, {w, 0}, {s0, in}, {s0 + taper, -dust}, {s1 - taper, -dust}, {s1, in}};
    for (const Point p : geometry::Polygon{{s1 + ease, 0},
                                           {s1 + ease, -lidDeep},
                                           {s1 + ease + taper, -lidDeep - tuck},
                                           {b1 - ease - taper, -lidDeep - tuck},
                                           {b1 - ease, -lidDeep},
                                           {b1 - ease, 0},
                                           {b1, in},
                                           {b1 + taper, -dust},
                                           {l1 - taper, -dust},
                                           {l1, in},
                                           {far, slant}})
        top.push_back(p);
    geometry::Polygon points = top;
    for (size_t i = top.size(); i-- > 0;)
        points.push_back({top[i].x, h - top[i].y});
    Body body{through(points)};
    foldRing(ring, body);
    for (const bool isTop : {true, false}) {
        const auto at = [&](double px, double py) { return Point{px, isTop ? py : h - py}; };
        fold(body, at(s0, in), at(s1, in));
        fold(body, at(b1, in), at(l1, in));
        fold(body, at(s1 + ease, 0), at(b1 - ease, 0));
        fold(body, at(s1 + ease, -lidDeep), at(b1 - ease, -lidDeep));
        name(body, at(s1 + w / 2, -lidDeep / 2), isTop ? "lid" : "bottom");
    }
    Built out;
    out.parts.push_back({"carton", "the carton", std::move(body)});
    closeRing(ring, "carton", out);
    for (const bool isTop : {true, false})
        meet(
            out.form, isTop ? "tuck of the lid" : "tuck of the bottom",
            [&](double along, double away) {
                const double py = -lidDeep - tuck * (0.2 + 0.6 * away);
                return Spot{"carton", {s1 + w * (0.2 + 0.6 * along), isTop ? py : h - py}, t / 2};
            },
            [&](double along, double away) { // seen from the front the back runs the other way
                const double py = tuck * (0.2 + 0.6 * away);
                return Spot{"carton", {w - w * (0.2 + 0.6 * along), isTop ? py : h - py}, -t / 2};
            });
    out.form.order = {"carton"};
    explainRing(ring, x, y, "", out);
    out.derived.push_back({"walls, fold to fold", {said["height"], " inside + ", t, " card"}, h});
    out.derived.push_back(
        {"lid, fold to fold", {ring.deep, " side − ", t, " card, so that it tucks in"}, lidDeep});
    out.derived.push_back({"dust flaps", {dust, ""}, dust});
    return out;
}

base::Result<Built> buildSleeve(const Said& said, const base::Progress&) {
    const double t = said.t, x = said["width"] + said["slides"], y = said["depth"] + said["slides"];
    const Ring ring{between(x, t), between(y, t), said["length"], said["lap"], t};
    if (auto ok = fits(ring.lap, x - 1, "A lap"); !ok)
        return ok.error();
    if (2 * t >= y)
        return Error{Code::InvalidArgument,
                     "A sleeve this flat cannot be folded of card of " + base::formatNumber(t, 2) + " mm."};
    const double far = ring.lapFrom() + ring.lap, slant = std::min(ring.lap, ring.high) * 0.2;
    Body body{through({{0, 0},
                       {ring.lapFrom(), 0},
                       {far, slant},
                       {far, ring.high - slant},
                       {ring.lapFrom(), ring.high},
                       {0, ring.high}})};
    foldRing(ring, body);
    Built out;
    out.parts.push_back({"sleeve", "the sleeve", std::move(body)});
    closeRing(ring, "sleeve", out);
    out.form.order = {"sleeve"};
    explainRing(ring, x, y, "", out);
    return out;
}

} // namespace

const Construction& carton() {
    static const Construction it{
        "carton",
        "Fold-flat carton",
        "Four walls and a lap, with lids that tuck in above and below; it ships flat.",
        {size("width", "What goes in, wide", 60, 8, 400, "the inner width"),
         size("depth", "Deep", 30, 8, 400, "the inner depth"),
         size("height", "High", 90, 10, 500, "the inner height"),
         margin("room", "Room around it", 0.5, 0, 20, "added to width and depth, so that it goes in easily"),
         margin("lap", "Glue lap", 12, 4, 60, "where the ring is closed"),
         margin("tuck", "Tuck flaps", 14, 4, 60, "how deep the lids go in")},
        buildCarton};
    return it;
}

const Construction& sleeve() {
    static const Construction it{
        "sleeve",
        "Sleeve",
        "A ring that slides over a box.",
        {size("width", "Outside of what goes in, wide", 62, 5, 400, "what it slides over"),
         size("depth", "High", 32, 2, 400, "how high that is"),
         size("length", "Sleeve long", 60, 5, 500, "along the way it slides"),
         margin("slides", "Slides by", 0.5, 0, 5, "how much wider the sleeve is, in all"),
         margin("lap", "Glue lap", 12, 4, 60, "where the ring is closed")},
        buildSleeve};
    return it;
}

} // namespace thinline::construct
