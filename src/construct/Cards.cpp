// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Cards and what goes with them: the folded card with a window and a pocket, the envelope with its liner, the bookmark, the
// tag.
#include "construct/Blank.h"
#include "construct/Figures.h"
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

/// A strip of card with round corners and a hole below its upper edge.
base::Result<Body> holed(double wide, double high, double corner, double hole, double fromTop) {
    if (hole > 0 && (fromTop - hole / 2 < 1.5 || hole > wide - 6))
        return Error{Code::InvalidArgument,
                     "A hole of " + mm(hole) + " that near the edge tears out; put its middle at least " +
                         mm(hole / 2 + 1.5) + " below it, and make it " + mm(wide - 6) + " at most."};
    auto shape = make({Figure::Rectangle, {wide, high, corner > 0 ? 1.0 : 0.0, corner}});
    if (!shape)
        return shape.error();
    Body body{shape.take()};
    if (hole > 0)
        pierce(body.shape, geometry::ellipse({wide / 2, fromTop}, hole / 2, hole / 2));
    return body;
}

base::Result<Built> buildBookmark(const Said& said, const base::Progress&) {
    auto body = holed(said["width"], said["height"], said["corner"], said["hole"], said["hole-below"]);
    if (!body)
        return body.error();
    Built out;
    out.parts.push_back({"bookmark", "the bookmark", body.take()});
    return out;
}

base::Result<Built> buildTag(const Said& said, const base::Progress&) {
    const double w = said["width"], h = said["height"], cut = said["cut"], hole = said["hole"],
                 ring = hole + 2 * said["ring"];
    const double below = said["hole-below"];
    if (2 * cut >= w - ring || cut >= h)
        return Error{Code::InvalidArgument, "Corners of " + mm(cut) +
                                                " leave no edge above the hole; they can be " +
                                                mm((w - ring) / 2 - 0.5) + " at most."};
    if (below < ring / 2 + 0.5 || below + ring / 2 > h)
        return Error{Code::InvalidArgument,
                     "The ring round the hole must lie on the tag: put the hole's middle at least " +
                         mm(ring / 2 + 0.5) + " below the edge."};
    Body body{through({{cut, 0}, {w - cut, 0}, {w, cut}, {w, h}, {0, h}, {0, cut}})};
    pierce(body.shape, geometry::ellipse({w / 2, below}, hole / 2, hole / 2));
    auto eyelet = make({Figure::Ring, {ring, hole}});
    if (!eyelet)
        return eyelet.error();
    Built out;
    out.parts.push_back({"tag", "the tag", std::move(body)});
    out.parts.push_back({"eyelet", "the ring round the hole", Body{eyelet.take()}, Role::Liner, 2});
    out.derived.push_back({"ring", {hole, " hole + 2 × ", said["ring"], " broad"}, ring});
    out.said.emplace_back("A ring goes on both sides of the hole.");
    return out;
}

base::Result<Built> buildCard(const Said& said, const base::Progress&) {
    const double w = said["width"], h = said["height"], rim = said["rim"], lap = said["lap"], t = said.t;
    const double pocketW = said["pocket-width"] + said["room"], pocketH = said["pocket-height"];
    if (rim > 0 && 2 * rim > std::min(w, h) - 5)
        return Error{Code::InvalidArgument, "A rim of " + mm(rim) + " leaves no window; it can be " +
                                                mm((std::min(w, h) - 5) / 2) + " at most."};
    if (pocketH > 0 && (pocketW + 2 * t > w - 2 || pocketH > h - 2))
        return Error{Code::InvalidArgument,
                     "A pocket for something " + mm(said["pocket-width"]) +
                         " wide does not lie in this card; the card must be at least " +
                         mm(pocketW + 2 * t + 2) + " wide and " + mm(pocketH + 2) + " high."};
    if (pocketH > 0 && lap > pocketW / 2 - 1)
        return Error{Code::InvalidArgument, "Laps of " + mm(lap) + " meet behind the pocket; they can be " +
                                                mm(pocketW / 2 - 1) + " at most."};
    Built out;
    Body body{rectangle(2 * w, h)}; // back and front, folded towards the maker who sees the outside: away
    fold(body, {w, 0}, {w, h}, 180);
    if (rim > 0)
        pierce(body.shape, rectangleAt({w + rim, rim}, w - 2 * rim, h - 2 * rim));
    name(body, {w + std::max(1.0, rim / 2), h / 2}, "front", true);
    name(body, {w / 2, h / 2}, "back");
    out.parts.push_back({"card", "the card", std::move(body)});
    out.derived.push_back({"card, open", {"2 × ", w}, 2 * w});
    if (rim > 0) {
        const double over = std::min(said["pane"], rim - 1);
        out.parts.push_back({"pane", "the pane",
                             Body{rectangle(w - 2 * rim + 2 * over, h - 2 * rim + 2 * over)}, Role::Pane});
        out.derived.push_back(
            {"pane, wide", {w - 2 * rim, " window + 2 × ", over, " margin"}, w - 2 * rim + 2 * over});
    }
    if (pocketH > 0) {
        const double p = pocketW + t, slant = std::min(lap * 0.5, pocketH / 4);
        Body pocket{through({{0, 0},
                             {p, 0},
                             {p + lap, slant},
                             {p + lap, pocketH - slant},
                             {p, pocketH},
                             {p - slant, pocketH + lap},
                             {slant, pocketH + lap},
                             {0, pocketH},
                             {-lap, pocketH - slant},
                             {-lap, slant}})};
        fold(pocket, {0, 0}, {0, pocketH}, 180);
        fold(pocket, {p, 0}, {p, pocketH}, 180);
        fold(pocket, {0, pocketH}, {p, pocketH}, 180);
        glue(pocket, {{p, 0}, {p + lap, slant}, {p + lap, pocketH - slant}, {p, pocketH}}, Side::Front);
        glue(pocket, {{0, 0}, {0, pocketH}, {-lap, pocketH - slant}, {-lap, slant}}, Side::Front);
        glue(pocket, {{0, pocketH}, {p, pocketH}, {p - slant, pocketH + lap}, {slant, pocketH + lap}},
             Side::Front);
        name(pocket, {p / 2, pocketH / 2}, "pocket", true);
        out.parts.push_back({"pocket", "the pocket", std::move(pocket)});
        // Inside, in the middle of the back: seen from there left and right are the other way round. Its laps lie under it.
        const double middle = w / 2, from = (h - pocketH) / 2;
        for (const bool isLeft : {true, false})
            meet(
                out.form, isLeft ? "left lap of the pocket" : "right lap of the pocket",
                [&](double along, double away) {
                    const double in = lap * (0.2 + 0.6 * away);
                    return Spot{"pocket", {isLeft ? -in : p + in, pocketH * (0.3 + 0.4 * along)}, t / 2};
                },
                [&](double along, double away) {
                    const double in = lap * (0.2 + 0.6 * away), folded = isLeft ? in : p - in;
                    return Spot{
                        "card", {middle - (folded - p / 2), from + pocketH * (0.3 + 0.4 * along)}, -t / 2};
                });
        out.form.order = {"card", "pocket"};
        out.derived.push_back(
            {"pocket, fold to fold", {said["pocket-width"], " + ", said["room"], " room + ", t, " card"}, p});
    }
    return out;
}

base::Result<Built> buildEnvelope(const Said& said, const base::Progress&) {
    const double t = said.t, w = between(said["width"] + said["room"], t),
                 h = between(said["height"] + said["room"], t);
    const double lap = said["lap"], flap = said["flap"], up = said["up"], less = said["liner-less"];
    if (flap > h - 5 || up > h - 2)
        return Error{Code::InvalidArgument,
                     "Flaps can be " + mm(h - 5) + " high at most on an envelope of " + mm(h) + "."};
    if (flap + up < h + 5)
        return Error{Code::InvalidArgument,
                     "The upper flap does not reach the lower one; together they must be at least " +
                         mm(h + 5) + " high."};
    if (2 * lap > w - 4)
        return Error{Code::InvalidArgument, "Laps of " + mm(lap) + " meet in the middle; they can be " +
                                                mm(w / 2 - 2) + " at most."};
    const double slant = std::min(lap * 0.6, h / 6), taper = std::min(w * 0.12, flap * 0.5),
                 in = std::min(1.0, w / 50);
    Body body{through({{0, 0},
                       {in, 0},
                       {taper, -flap},
                       {w - taper, -flap},
                       {w - in, 0},
                       {w, 0},
                       {w + lap, slant},
                       {w + lap, h - slant},
                       {w, h},
                       {w - in, h},
                       {w - in - 1, h + up},
                       {in + 1, h + up},
                       {in, h},
                       {0, h},
                       {-lap, h - slant},
                       {-lap, slant}})};
    fold(body, {0, 0}, {0, h}, 180);
    fold(body, {w, 0}, {w, h}, 180);
    fold(body, {in, h}, {w - in, h}, 180);
    fold(body, {in, 0}, {w - in, 0}, 180);
    // The lower flap is glued on the laps: their fronts look up once they are folded in.
    glue(body, {{0, h / 2}, {-lap, h / 2}, {-lap, h - slant}, {0, h}}, Side::Front);
    glue(body, {{w, h / 2}, {w, h}, {w + lap, h - slant}, {w + lap, h / 2}}, Side::Front);
    name(body, {w / 2, h / 2}, "front", true);
    name(body, {w / 2, -flap / 2}, "upper flap");
    Built out;
    // Folded flat all panels lie in one plane; only where they meet in it is asked.
    const double reach = std::min(up, h / 2);
    for (const bool isLeft : {true, false})
        meet(
            out.form, "lower flap on the laps",
            [&](double along, double away) {
                const double from = lap * (0.2 + 0.6 * away);
                return Spot{"envelope", {isLeft ? -from : w + from, h - reach * (0.3 + 0.4 * along)}, 0};
            },
            [&](double along, double away) {
                const double from = lap * (0.2 + 0.6 * away);
                return Spot{"envelope", {isLeft ? from : w - from, h + reach * (0.3 + 0.4 * along)}, 0};
            });
    out.form.order = {"envelope"};
    out.parts.push_back({"envelope", "the envelope", std::move(body)});
    if (said.isChosen("liner")) {
        const double low = h - 2 * less;
        Body liner{through({{less, less},
                            {taper + less, -flap + 2 * less + 6},
                            {w - taper - less, -flap + 2 * less + 6},
                            {w - less, less},
                            {w - less, less + low},
                            {less, less + low}})};
        fold(liner, {less, 0.0}, {w - less, 0.0}, 180);
        out.parts.push_back({"liner", "the liner", std::move(liner), Role::Liner});
        out.derived.push_back({"liner, wide", {w, " envelope − 2 × ", less}, w - 2 * less});
    }
    out.derived.push_back(
        {"front, fold to fold", {said["width"], " + ", said["room"], " room + ", t, " card"}, w});
    out.derived.push_back({"front, high", {said["height"], " + ", said["room"], " room + ", t, " card"}, h});
    return out;
}

} // namespace

const Construction& bookmark() {
    static const Construction it{"bookmark",
                                 "Bookmark",
                                 "A strip with round corners and a hole for a tassel.",
                                 {size("width", "Wide", 50, 10, 300, "the strip"),
                                  size("height", "Long", 180, 20, 600, "the strip"),
                                  margin("corner", "Corners", 5, 0, 100, "their radius"),
                                  margin("hole", "Hole", 5, 0, 60, "for the tassel; 0 for none"),
                                  margin("hole-below", "Hole below the edge", 10, 2, 200, "to its middle")},
                                 buildBookmark};
    return it;
}
const Construction& tag() {
    static const Construction it{"tag",
                                 "Tag",
                                 "A label with cut corners, a hole, and rings that strengthen it.",
                                 {size("width", "Wide", 45, 10, 300, "the label"),
                                  size("height", "Long", 85, 15, 500, "the label"),
                                  size("cut", "Corners cut", 10, 0, 100, "at the end with the hole"),
                                  margin("hole", "Hole", 5, 2, 60, "for the string"),
                                  margin("hole-below", "Hole below the edge", 12, 3, 200, "to its middle"),
                                  margin("ring", "Ring broad", 4, 1.5, 40, "round the hole")},
                                 buildTag};
    return it;
}
const Construction& card() {
    static const Construction it{
        "card",
        "Card with window and pocket",
        "A folded card; its front may have a window with a pane, and inside a pocket holds money or a small "
        "card.",
        {size("width", "Wide, closed", 105, 20, 500, "the card"),
         size("height", "High", 148, 20, 500, "the card"),
         margin("rim", "Rim of the window", 20, 0, 200,
                "what is left of the front round its window; 0 for none"),
         margin("pane", "Pane larger by", 5, 1, 30, "on every side of the window"),
         size("pocket-width", "Pocket for something wide", 86, 10, 400, "what goes into the pocket"),
         size("pocket-height", "Pocket high", 45, 0, 400, "0 for no pocket"),
         margin("room", "Room in the pocket", 2, 0, 20, "added to its width"),
         margin("lap", "Glue laps", 8, 3, 40, "of the pocket, at three sides")},
        buildCard};
    return it;
}
const Construction& envelope() {
    static const Construction it{
        "envelope",
        "Envelope with liner",
        "For a card or a puzzle; folded in at both sides, the lower flap glued on them.",
        {size("width", "What goes in, wide", 152, 20, 500, "the card"),
         size("height", "High", 108, 20, 500, "the card"),
         margin("room", "Room around it", 4, 0, 30, "added to both, so that it goes in easily"),
         margin("lap", "Laps at the sides", 14, 4, 80, "folded in first"),
         size("up", "Lower flap high", 70, 10, 480, "folded up and glued on the laps"),
         size("flap", "Upper flap high", 55, 10, 480, "closes it"),
         choice("liner", "Liner", "none|to the upper flap", "another paper inside"),
         margin("liner-less", "Liner smaller by", 3, 0.5, 30, "on every side")},
        buildEnvelope};
    return it;
}

} // namespace thinline::construct
