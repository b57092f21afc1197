// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// A box with a lid: two trays, one over the other.
//
// A tray is a bottom with four walls; the long walls carry laps at both ends that go inside the short ones. So a lap is folded
// a card's thickness before the corner. A window in the lid gets a pane, and the box a liner, both a margin other than the
// room they fill.
//
// Boxes in boxes: the next one takes the one before with its lid on, so every room follows from the smallest one and the card.
#include "construct/Blank.h"
#include "construct/Set.h"

#include <algorithm>

namespace thinline::construct {
namespace {

using design::Body;
using design::FoldedForm;
using design::Side;
using design::Spot;
using geometry::Point;

struct Tray {
    std::string key, called;
    double insideX = 0, insideY = 0, heightMm = 0, lapMm = 0, t = 0;

    double x() const { return between(insideX, t); }
    double y() const { return between(insideY, t); }
    double wall() const { return heightMm + t / 2; } ///< from the fold
};

/// The bottom's upper left corner is the origin.
Body drawTray(const Tray& tray) {
    const double x = tray.x(), y = tray.y(), h = tray.wall(), t = tray.t, lap = tray.lapMm,
                 slant = std::min(lap, h) * 0.25;
    // Round the blank, from the upper wall's left end; laps are a little slanted, so that they slip in.
    geometry::Polygon points;
    const auto corner = [&](double sx, double sy, bool isFirst) {
        // One end of a long wall with its lap, from wall to bottom or back.
        const double edge = sx < 0 ? 0 : x, base = sy < 0 ? 0 : y, in = edge - sx * t, far = in + sx * lap;
        geometry::Polygon end{{in, base + sy * h},
                              {far, base + sy * (h - slant)},
                              {far, base + sy * slant},
                              {in, base + sy * 0.0}};
        if (!isFirst)
            std::reverse(end.begin(), end.end());
        points.insert(points.end(), end.begin(), end.end());
    };
    corner(1, -1, true);
    points.insert(points.end(), {{x, 0}, {x + h, 0}, {x + h, y}, {x, y}});
    corner(1, 1, false);
    corner(-1, 1, true);
    points.insert(points.end(), {{0, y}, {-h, y}, {-h, 0}, {0, 0}});
    corner(-1, -1, false);
    Body body{through(points)};
    fold(body, {0, 0}, {x, 0});
    fold(body, {0, y}, {x, y});
    fold(body, {0, 0}, {0, y});
    fold(body, {x, 0}, {x, y});
    for (const double sx : {-1.0, 1.0})
        for (const double sy : {-1.0, 1.0}) {
            const double in = sx < 0 ? t : x - t, base = sy < 0 ? 0 : y, far = in + sx * lap;
            fold(body, {in, base}, {in, base + sy * h});
            glue(body,
                 {{in, base}, {far, base + sy * slant}, {far, base + sy * (h - slant)}, {in, base + sy * h}},
                 Side::Front);
        }
    name(body, {x / 2, y / 2}, tray.called, true);
    return body;
}

/// The laps on the inner faces of the short walls.
void glueTray(const Tray& tray, FoldedForm& form) {
    const double x = tray.x(), y = tray.y(), h = tray.wall(), t = tray.t, lap = tray.lapMm;
    for (const double sx : {-1.0, 1.0})
        for (const double sy : {-1.0, 1.0})
            meet(
                form, "laps of " + tray.called,
                [&](double along, double away) {
                    const double in = sx < 0 ? t : x - t, base = sy < 0 ? 0 : y;
                    return Spot{tray.key, {in + sx * lap * away, base + sy * h * (0.3 + 0.4 * along)}, t / 2};
                },
                [&](double along, double away) {
                    const double edge = sx < 0 ? 0 : x, base = sy < 0 ? 0 : y;
                    return Spot{
                        tray.key, {edge + sx * h * (0.3 + 0.4 * along), base - sy * lap * away}, -t / 2};
                });
}

/// Which goes over the box.
Tray lidOf(const Tray& box, const std::string& key, const std::string& called, double slides,
           double heightMm) {
    return {key,
            called,
            outside(box.insideX, box.t) + slides,
            outside(box.insideY, box.t) + slides,
            heightMm,
            box.lapMm,
            box.t};
}

/// The lid on the upper edges of the walls: its front looks the other way.
void putOnLid(const Tray& box, const Tray& lid, FoldedForm& form) {
    for (const auto& [sx, sy] : {std::pair{0.25, 0.0}, {0.75, 0.0}, {0.25, 1.0}, {0.75, 1.0}}) {
        const Point edge{box.x() * sx, sy == 0 ? -box.wall() + 1e-3 : box.y() + box.wall() - 1e-3};
        const Point onLid{lid.x() / 2 + box.x() * (sx - 0.5), lid.y() / 2 - box.y() * (sy - 0.5)};
        form.meetings.push_back(
            {lid.called + " on the walls", {box.key, edge, 0}, {lid.key, onLid, -lid.t / 2}});
    }
}

/// Whether it can be folded from this card. Errors: laps that meet, a lid too high, card too thick.
base::Status canBe(const Tray& box, const Tray& lid) {
    const double t = box.t, shorter = std::min(box.insideX, box.insideY);
    if (box.lapMm > box.insideY / 2)
        return base::Error{base::Code::InvalidArgument, "Laps of " + mm(box.lapMm) +
                                                            " meet behind the short wall; they can be " +
                                                            mm(box.insideY / 2) + " at most."};
    if (lid.heightMm > box.heightMm)
        return base::Error{base::Code::InvalidArgument, "The lid is higher than the box; it can be " +
                                                            mm(box.heightMm) + " high at most."};
    if (t * 8 > std::min(shorter, box.heightMm))
        return base::Error{base::Code::InvalidArgument, "Card of " + base::formatNumber(t, 2) +
                                                            " mm is too thick for a box this small; from " +
                                                            mm(t * 8) +
                                                            " on in every direction it can be folded."};
    return base::Done{};
}

void explain(const Tray& tray, Built& out) {
    const std::string of = tray.key;
    const auto side = [&](const std::string& what, double insideMm) {
        out.derived.push_back({of + " " + what + ", fold to fold",
                               {insideMm, " inside + ", tray.t, " card"},
                               between(insideMm, tray.t)});
    };
    side("width", tray.insideX);
    side("depth", tray.insideY);
    out.derived.push_back({of + " wall", {tray.heightMm, " inside + ", tray.t, " card / 2"}, tray.wall()});
    out.derived.push_back(
        {of + " blank, wide", {tray.x(), " + 2 × ", tray.wall(), " wall"}, tray.x() + 2 * tray.wall()});
}

base::Result<Built> build(const Said& said, const base::Progress&) {
    const double t = said.t, room = said["room"];
    const Tray box{"box",       "the box", said["width"] + room, said["depth"] + room, said["height"],
                   said["lap"], t};
    const Tray lid = lidOf(box, "lid", "the lid", said["slides"], said["lid-height"]);
    if (auto ok = canBe(box, lid); !ok)
        return ok.error();
    const double rim = said["rim"];
    const bool hasWindow = rim > 0;
    if (hasWindow && 2 * rim >= std::min(lid.x(), lid.y()) - 5)
        return base::Error{base::Code::InvalidArgument,
                           "A rim of " + mm(rim) + " leaves no window; it can be " +
                               mm((std::min(lid.x(), lid.y()) - 5) / 2) + " at most."};
    Built out;
    Body lidBody = drawTray(lid);
    if (hasWindow)
        pierce(lidBody.shape, rectangleAt({rim, rim}, lid.x() - 2 * rim, lid.y() - 2 * rim));
    if (hasWindow)
        lidBody.panels.front().inside = {lid.x() / 2, rim / 2};
    out.parts.push_back({"box", "the box", drawTray(box)});
    out.parts.push_back({"lid", "the lid", std::move(lidBody)});
    if (hasWindow) {
        const double overlap = std::min(said["pane"], rim - t);
        Body pane{rectangle(lid.x() - 2 * rim + 2 * overlap, lid.y() - 2 * rim + 2 * overlap)};
        out.parts.push_back({"pane", "the pane of the lid", std::move(pane), Role::Pane});
        out.derived.push_back({"pane",
                               {lid.x() - 2 * rim, " window + 2 × ", overlap, " margin"},
                               lid.x() - 2 * rim + 2 * overlap});
    }
    if (said.isChosen("liner")) {
        const double less = said["liner-less"];
        Body liner{rectangle(box.insideX - less, box.insideY - less)};
        out.parts.push_back({"liner", "the liner of the bottom", std::move(liner), Role::Liner});
        out.derived.push_back({"liner", {box.insideX, " inside − ", less, " room"}, box.insideX - less});
    }
    glueTray(box, out.form);
    glueTray(lid, out.form);
    putOnLid(box, lid, out.form);
    out.form.order = {"box", "lid"};
    out.fits.push_back({"box", "lid", said["slides"], "the lid over the box"});
    for (const Tray* tray : {&box, &lid})
        explain(*tray, out);
    out.derived.push_back(
        {"lid inside", {box.insideX, " + 2 × ", t, " card + ", said["slides"], " to slide"}, lid.insideX});
    return out;
}

/// A box with its lid on, standing in the next one: bottom on bottom.
void putIn(const Tray& inner, const Tray& outer, FoldedForm& form) {
    for (const auto& [sx, sy] : {std::pair{0.2, 0.2}, {0.8, 0.2}, {0.2, 0.8}, {0.8, 0.8}}) {
        const Point below{inner.x() * sx, inner.y() * sy};
        const Point on{outer.x() / 2 + inner.x() * (sx - 0.5), outer.y() / 2 + inner.y() * (sy - 0.5)};
        form.meetings.push_back({inner.called + " in " + outer.called,
                                 {outer.key, on, -outer.t / 2},
                                 {inner.key, below, inner.t / 2}});
    }
}

base::Result<Built> buildNest(const Said& said, const base::Progress&) {
    const double t = said.t, slides = said["slides"], play = said["play"];
    const int boxes = said.count("boxes");
    Built out;
    std::vector<Tray> all;
    double x = said["width"], y = said["depth"], high = said["height"];
    for (int i = 1; i <= boxes; ++i) {
        const std::string number = std::to_string(i);
        const Tray box{"box-" + number, "box " + number, x, y, high, said["lap"], t};
        const Tray lid =
            lidOf(box, "lid-" + number, "lid " + number, slides, std::min(said["lid-height"], high));
        if (auto ok = canBe(box, lid); !ok)
            return ok.error();
        for (const Tray* tray : {&box, &lid}) {
            out.parts.push_back({tray->key, tray->called, drawTray(*tray)});
            glueTray(*tray, out.form);
        }
        putOnLid(box, lid, out.form);
        out.fits.push_back({box.key, lid.key, slides, lid.called + " over " + box.called});
        if (i > 1) {
            const Tray& before = all[all.size() - 2];
            putIn(before, box, out.form);
            out.fits.push_back(
                {all.back().key, box.key, play, before.called + " with its lid in " + box.called});
            out.derived.push_back({box.called + " inside",
                                   {all.back().insideX, " lid + 2 × ", t, " card + ", play, " play"},
                                   x});
        }
        explain(box, out);
        explain(lid, out);
        all.push_back(box);
        all.push_back(lid);
        x = outside(lid.insideX, t) + play;
        y = outside(lid.insideY, t) + play;
        high += 2 * t + play; // the bottom below, the lid above
    }
    // The largest stands first; the smaller ones are put into it.
    for (int i = boxes; i >= 1; --i)
        out.form.order.push_back("box-" + std::to_string(i));
    for (int i = 1; i <= boxes; ++i)
        out.form.order.push_back("lid-" + std::to_string(i));
    return out;
}

} // namespace

const Construction& boxNest() {
    static const Construction it{
        "box-nest",
        "Boxes in boxes",
        "Boxes with lids, each taking the one before with its lid on.",
        {size("width", "Smallest, wide", 50, 5, 400, "the inner width of the smallest box"),
         size("depth", "Deep", 50, 5, 400, "the inner depth of the smallest box"),
         size("height", "High", 30, 3, 300, "the inner height of the smallest box"),
         count("boxes", "Boxes", 3, 2, 12, "how many there are"),
         size("lid-height", "Lids inside", 14, 3, 300, "how far every lid comes down"),
         margin("slides", "Lids slide by", 0.3, 0, 5, "how much wider a lid is than its box, in all"),
         margin("play", "Play between boxes", 2, 0.2, 60, "in all, so that fingers get them out"),
         margin("lap", "Glue laps", 10, 4, 60, "at the ends of the long walls")},
        buildNest};
    return it;
}

const Construction& lidBox() {
    static const Construction it{
        "lid-box",
        "Box with lid",
        "A tray and a lid over it, with laps at the corners; the lid may have a window, the box a liner.",
        {size("width", "What goes in, wide", 90, 5, 600, "the inner width of the box"),
         size("depth", "Deep", 60, 5, 600, "the inner depth of the box"),
         size("height", "High", 40, 3, 400, "the inner height of the box"),
         margin("room", "Room around it", 0, 0, 20, "added to width and depth, so that it goes in easily"),
         size("lid-height", "Lid height inside", 18, 3, 400, "how far the lid comes down"),
         margin("slides", "Lid slides by", 0.3, 0, 5, "how much wider the lid is than the box, in all"),
         margin("lap", "Glue laps", 12, 4, 60, "at the ends of the long walls"),
         margin("rim", "Rim of the window", 0, 0, 200,
                "what is left of the lid round its window; 0 for no window"),
         margin("pane", "Pane larger by", 5, 1, 30, "on every side of the window"),
         choice("liner", "Liner", "none|on the bottom", "another card inside"),
         margin("liner-less", "Liner smaller by", 1, 0, 20, "in all, so that it goes in")},
        build};
    return it;
}

} // namespace thinline::construct
