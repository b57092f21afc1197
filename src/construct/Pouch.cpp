// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// A pouch: front, bottom and back in a row, open above or with a flap, closed by strips at both sides of the front.
//
// Front and back have their middles D + t apart. The laps at the ends of the side strips lie inside the back, so a strip is
// a card's thickness narrower than the bottom; the flap comes down outside the front, so its own strip is as much wider.
#include "construct/Blank.h"
#include "construct/Set.h"

#include <algorithm>
#include <numbers>

namespace thinline::construct {
namespace {

using base::Code;
using base::Error;
using design::Body;
using design::Side;
using design::Spot;
using geometry::Contour;
using geometry::Point;
using geometry::Segment;

struct Pouch {
    double wide = 0, deep = 0, high = 0, lap = 0, flap = 0, notch = 0,
           t = 0; ///< wide and deep from middle to middle

    double strip() const { return deep - t; }
    double backFrom() const { return high + deep; }
    double backTo() const { return 2 * high + deep; }
    double over() const { return deep + t; } ///< the strip between back and flap
};

/// The front's upper left corner is the origin; the back hangs below, upside down.

geometry::Shape outlineOf(const Pouch& it) {
    const double slant = std::min(it.lap, it.high) * 0.2, low = it.high - it.t, far = it.strip() + it.lap;
    geometry::Polygon right{{it.wide, 0},
                            {it.wide + it.strip(), 0},
                            {it.wide + far, slant},
                            {it.wide + far, low - slant},
                            {it.wide + it.strip(), low},
                            {it.wide, low},
                            {it.wide, it.backTo()}};
    if (it.flap > 0) {
        const double end = it.backTo() + it.over() + it.flap, taper = std::min(it.flap * 0.4, it.wide * 0.2);
        right.push_back({it.wide - 0.5, it.backTo()});
        right.push_back({it.wide - 0.5, it.backTo() + it.over()});
        right.push_back({it.wide - taper, end});
    }
    Contour out{{0, 0}, {}};
    const auto to = [&](Point p) { out.segments.push_back(Segment::line(p)); };
    if (it.notch > 0 && it.flap <= 0) { // for a thumb
        to({it.wide / 2 - it.notch, 0});
        geometry::appendEllipseArc(out, {it.wide / 2, 0}, it.notch, it.notch, std::numbers::pi,
                                   -std::numbers::pi);
        out.segments.back().end = {it.wide / 2 + it.notch, 0};
    }
    for (const Point p : right)
        to(p);
    for (size_t i = right.size(); i-- > 0;)
        to({it.wide - right[i].x, right[i].y});
    return {out, {}};
}

base::Result<Built> build(const Said& said, const base::Progress&) {
    const double t = said.t, deep = said["depth"];
    const Pouch it{between(said["width"] + said["room"], t),
                   between(deep, t),
                   said["height"] + t / 2,
                   said["lap"],
                   said["flap"],
                   said["notch"],
                   t};
    if (deep < 4 * t)
        return Error{Code::InvalidArgument, "A pouch of card this thick is at least " + mm(4 * t) + " deep."};
    if (2 * it.lap > it.wide - 2 * t)
        return Error{Code::InvalidArgument, "Laps of " + mm(it.lap) + " meet behind the front; they can be " +
                                                mm(it.wide / 2 - t) + " at most."};
    if (it.flap > it.high - 2)
        return Error{Code::InvalidArgument, "A flap of " + mm(it.flap) + " reaches the bottom; it can be " +
                                                mm(it.high - 2) + " at most."};
    if (it.flap <= 0 && it.notch > std::min(it.wide / 3, it.high / 2))
        return Error{Code::InvalidArgument, "A notch of " + mm(it.notch) +
                                                " leaves too little of the front; it can be " +
                                                mm(std::min(it.wide / 3, it.high / 2)) + " at most."};
    Body body{outlineOf(it)};
    const double low = it.high - t;
    for (const bool isLeft : {true, false}) {
        const auto x = [&](double out) { return isLeft ? -out : it.wide + out; };
        fold(body, {x(0), 0}, {x(0), low});
        fold(body, {x(it.strip()), 0}, {x(it.strip()), low});
        const double slant = std::min(it.lap, it.high) * 0.2, far = it.strip() + it.lap;
        glue(body, {{x(it.strip()), 0}, {x(far), slant}, {x(far), low - slant}, {x(it.strip()), low}},
             Side::Front);
    }
    fold(body, {0, it.high}, {it.wide, it.high});
    fold(body, {0, it.backFrom()}, {it.wide, it.backFrom()});
    if (it.flap > 0) {
        fold(body, {0.5, it.backTo()}, {it.wide - 0.5, it.backTo()});
        fold(body, {0.5, it.backTo() + it.over()}, {it.wide - 0.5, it.backTo() + it.over()});
        name(body, {it.wide / 2, it.backTo() + it.over() + it.flap / 2}, "flap");
    }
    name(body, {it.wide / 2, it.high / 2}, "front", true);
    name(body, {it.wide / 2, it.high + it.deep / 2}, "bottom");
    name(body, {it.wide / 2, it.backFrom() + it.high / 2}, "back");
    Built out;
    out.parts.push_back({"pouch", "the pouch", std::move(body)});
    for (const bool isLeft : {true, false})
        meet(
            out.form, isLeft ? "left lap" : "right lap",
            [&](double along, double away) {
                const double far = it.strip() + it.lap * away;
                return Spot{"pouch", {isLeft ? -far : it.wide + far, it.high * (0.3 + 0.4 * along)}, t / 2};
            },
            [&](double along, double away) {
                const double in = it.lap * away;
                return Spot{"pouch",
                            {isLeft ? in : it.wide - in, it.backTo() - it.high * (0.3 + 0.4 * along)},
                            -t / 2};
            });
    out.form.order = {"pouch"};
    out.derived.push_back(
        {"front, fold to fold", {said["width"] + said["room"], " inside + ", t, " card"}, it.wide});
    out.derived.push_back({"bottom, fold to fold", {deep, " inside + ", t, " card"}, it.deep});
    out.derived.push_back(
        {"side strips", {it.deep, " bottom − ", t, " card, as their laps lie inside"}, it.strip()});
    return out;
}

} // namespace

const Construction& pouch() {
    static const Construction it{
        "pouch",
        "Pouch",
        "A flat bag of card for something small, open above or with a flap.",
        {size("width", "What goes in, wide", 70, 10, 400, "the inner width"),
         size("depth", "Deep", 12, 1, 200, "the inner depth"),
         size("height", "High", 90, 10, 500, "the inner height"),
         margin("room", "Room around it", 1, 0, 20, "added to the width, so that it goes in easily"),
         margin("lap", "Glue laps", 12, 4, 60, "at both sides, inside the back"),
         margin("flap", "Flap", 0, 0, 300, "comes down over the front; 0 for none"),
         margin("notch", "Notch for a thumb", 9, 0, 60, "its radius, where there is no flap; 0 for none")},
        build};
    return it;
}

} // namespace thinline::construct
