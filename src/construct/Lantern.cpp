// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// A lantern: panels with windows in a ring, on a bottom.
//
// Panels stand in a row. More than a mat takes are cut in strips, each with a lap of its own that goes inside the next strip,
// and the last lap goes on the first panel. Below every panel is a tab; the bottom lies on all of them.
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
using geometry::Contour;
using geometry::Point;

constexpr double kPi = std::numbers::pi;

struct Ring {
    int panels = 6, strips = 1;
    double inside = 0, high = 0, rim = 0, lap = 0, tab = 0, t = 0;
    bool isArched = false;

    double inradius() const { return (inside + t) / 2; } ///< of the middles
    double side() const { return 2 * inradius() * std::tan(kPi / panels); }
    double corner() const { return 2 * kPi / panels; }
    double before() const { return t / std::sin(corner()); } ///< the lap's fold before the corner
    double windowWide() const { return side() - 2 * rim; }
    double windowHigh() const { return high - 2 * rim; }
    int first(int strip) const { return panels * strip / strips; } ///< panel of a strip
    int in(int strip) const { return first(strip + 1) - first(strip); }
    std::string key(int strip) const { return "strip-" + std::to_string(strip + 1); }
};

Contour window(const Ring& ring, double left) {
    const double x = left + ring.rim, y = ring.rim, w = ring.windowWide(), h = ring.windowHigh(), r = w / 2;
    if (!ring.isArched || h <= r + 1)
        return rectangleAt({x, y}, w, h);
    Contour out{{x, y + h}, {geometry::Segment::line({x, y + r})}};
    geometry::appendEllipseArc(out, {x + r, y + r}, r, r, kPi, kPi);
    out.segments.back().end = {x + w, y + r};
    out.segments.push_back(geometry::Segment::line({x + w, y + h}));
    out.segments.push_back(geometry::Segment::line({x, y + h}));
    return out;
}

Body drawStrip(const Ring& ring, int strip) {
    const double a = ring.side(), h = ring.high, slant = std::min(ring.lap, h) * 0.15;
    const int n = ring.in(strip);
    const double fold0 = n * a - ring.before(), far = fold0 + ring.lap,
                 narrower = ring.tab * std::tan(kPi / ring.panels) + 0.5;
    geometry::Polygon points{{0, 0}, {fold0, 0}, {far, slant}, {far, h - slant}, {fold0, h}};
    for (int i = n; i-- > 0;) {
        const double right = i == n - 1 ? fold0 : (i + 1) * a, left = i * a;
        for (const Point p : {Point{right - 0.25, h}, Point{(i + 1) * a - narrower, h + ring.tab},
                              Point{left + narrower, h + ring.tab}, Point{left + 0.25, h}})
            points.push_back(p);
    }
    points.push_back({0, h});
    Body body{through(points)};
    for (int i = 0; i < n; ++i) {
        const double left = i * a, right = i == n - 1 ? fold0 : left + a;
        pierce(body.shape, window(ring, left));
        fold(body, {right, 0}, {right, h}, ring.corner() * 180 / kPi);
        fold(body, {left + 0.25, h}, {right - 0.25, h});
        glue(body,
             {{left + 0.25, h},
              {left + narrower, h + ring.tab},
              {left + a - narrower, h + ring.tab},
              {right - 0.25, h}},
             Side::Back);
        name(body, {left + ring.rim / 2, h / 2}, "panel " + std::to_string(ring.first(strip) + i + 1),
             strip == 0 && i == 0);
    }
    glue(body, {{fold0, 0}, {far, slant}, {far, h - slant}, {fold0, h}}, Side::Front);
    return body;
}

void close(const Ring& ring, design::FoldedForm& form) {
    const double a = ring.side(), h = ring.high, inward = ring.before() * std::cos(ring.corner());
    for (int strip = 0; strip < ring.strips; ++strip) {
        const double fold0 = ring.in(strip)*a - ring.before();
        meet(
            form, "laps",
            [&](double along, double away) {
                return Spot{ring.key(strip), {fold0 + ring.lap * away, h * (0.25 + 0.5 * along)}, ring.t / 2};
            },
            [&](double along, double away) {
                return Spot{ring.key((strip + 1) % ring.strips),
                            {ring.lap * away - inward, h * (0.25 + 0.5 * along)},
                            -ring.t / 2};
            });
    }
    // The bottom on the tabs: round the middle a place lies as far as its panel has turned.
    for (int panel = 0; panel < ring.panels; ++panel) {
        int strip = 0;
        while (ring.first(strip + 1) <= panel)
            ++strip;
        const double turn = ring.corner() * panel, left = (panel - ring.first(strip)) * a;
        for (const double off : {-0.15, 0.15}) {
            const double deep = ring.tab * 0.6, r = ring.inradius() - deep, along = off * a;
            form.meetings.push_back(
                {"bottom on the tabs",
                 {ring.key(strip), {left + a / 2 + along, h + deep}, -ring.t / 2},
                 {"bottom",
                  {r * std::sin(turn) + along * std::cos(turn), r * std::cos(turn) - along * std::sin(turn)},
                  -ring.t / 2}});
        }
    }
}

/// A pane behind every window, by places on the rim round it.
void setPanes(const Ring& ring, double overMm, design::FoldedForm& form) {
    const double w = ring.windowWide(), h = ring.windowHigh(), half = overMm / 2;
    for (int strip = 0; strip < ring.strips; ++strip)
        for (int i = 0; i < ring.in(strip); ++i) {
            const std::string key = "pane:" + std::to_string(ring.first(strip) + i + 1);
            form.order.push_back(key);
            for (const Point p :
                 {Point{-half, h / 3}, Point{w + half, h / 3}, Point{w / 2, -half}, Point{w / 2, h + half}})
                form.meetings.push_back(
                    {"panes",
                     {ring.key(strip), {i * ring.side() + ring.rim + p.x, ring.rim + p.y}, -ring.t / 2},
                     {key, {overMm + p.x, overMm + p.y}, 0}});
        }
}

base::Result<Built> build(const Said& said, const base::Progress&) {
    Ring ring;
    ring.panels = said.count("panels");
    ring.strips = said.count("strips");
    ring.inside = said["inside"] + said["room"];
    ring.high = said["height"];
    ring.rim = said["rim"];
    ring.lap = said["lap"];
    ring.tab = said["tabs"];
    ring.t = said.t;
    ring.isArched = said.isChosen("window");
    if (ring.strips > ring.panels)
        return Error{Code::InvalidArgument, std::to_string(ring.panels) + " panels make " +
                                                std::to_string(ring.panels) + " strips at most."};
    const double narrow = std::min(ring.side(), ring.high);
    if (ring.rim * 2 > narrow - 3)
        return Error{Code::InvalidArgument, "A rim of " + mm(ring.rim) + " leaves no window in panels of " +
                                                mm(ring.side()) + " by " + mm(ring.high) + "; it can be " +
                                                mm((narrow - 3) / 2) + " at most."};
    if (ring.lap + ring.before() > ring.side() - 1 || ring.lap < 1)
        return Error{Code::InvalidArgument, "A lap of " + mm(ring.lap) +
                                                " is wider than a panel; it can be " +
                                                mm(ring.side() - ring.before() - 1) + " at most."};
    if (ring.tab * std::tan(kPi / ring.panels) + 2 > ring.side() / 2)
        return Error{Code::InvalidArgument,
                     "Tabs of " + mm(ring.tab) + " are deeper than the bottom has room for; they can be " +
                         mm((ring.side() / 2 - 2) / std::tan(kPi / ring.panels)) + " at most."};
    if (ring.before() > ring.side() / 4)
        return Error{Code::InvalidArgument,
                     "Panels of " + mm(ring.side()) + " are too narrow for this card."};
    Built out;
    for (int strip = 0; strip < ring.strips; ++strip) {
        const std::string called = ring.strips == 1 ? "the panels" : "strip " + std::to_string(strip + 1);
        out.parts.push_back({ring.key(strip), called, drawStrip(ring, strip)});
        out.form.order.push_back(ring.key(strip));
    }
    const double plate = (ring.inside - said["less"]) / 2;
    geometry::Polygon corners;
    for (int i = 0; i < ring.panels; ++i) {
        const double turn = ring.corner() * (i + 0.5), r = plate / std::cos(kPi / ring.panels);
        corners.push_back({r * std::sin(turn), r * std::cos(turn)});
    }
    out.parts.push_back({"bottom", "the bottom", Body{through(corners)}});
    out.form.order.emplace_back("bottom");
    const double over = std::min(said["pane"], ring.rim - 1);
    if (over > 0) {
        Body pane{rectangle(ring.windowWide() + 2 * over, ring.windowHigh() + 2 * over)};
        out.parts.push_back({"pane", "the pane", std::move(pane), Role::Pane, ring.panels});
        out.derived.push_back({"pane, wide",
                               {ring.windowWide(), " window + 2 × ", over, " margin"},
                               ring.windowWide() + 2 * over});
    } else {
        out.said.emplace_back("The rim is too narrow for panes to be glued behind it; there are none.");
    }
    close(ring, out.form);
    if (over > 0)
        setPanes(ring, over, out.form);
    out.derived.push_back(
        {"panel, fold to fold",
         {"(", ring.inside, " + ", ring.t, " card) × tan(180° / " + std::to_string(ring.panels) + ")"},
         ring.side()});
    for (int strip = 0; strip < ring.strips; ++strip)
        out.derived.push_back({ring.key(strip),
                               {std::to_string(ring.in(strip)) + " × ", ring.side(), " − ", ring.before(),
                                " + ", ring.lap, " lap"},
                               ring.in(strip)*ring.side() - ring.before() + ring.lap});
    out.derived.push_back(
        {"bottom, across the flats", {ring.inside, " inside − ", said["less"], " room"}, 2 * plate});
    return out;
}

} // namespace

const Construction& lantern() {
    static const Construction it{
        "lantern",
        "Lantern",
        "Panels with windows and panes in a ring, on a bottom.",
        {count("panels", "Panels", 6, 3, 16, "walls of the lantern"),
         size("inside", "What goes in, across", 70, 15, 500, "the diameter of the light or jar"),
         margin("room", "Room around it", 2, 0, 30, "added to the diameter, so that it goes in easily"),
         size("height", "High", 120, 15, 500, "of the panels"),
         margin("rim", "Rim of the windows", 8, 2, 100, "what is left of a panel round its window"),
         choice("window", "Windows", "square|arched", "the shape of the openings"),
         margin("pane", "Panes larger by", 5, 1, 30, "on every side of the window"),
         margin("lap", "Glue laps", 10, 3, 40, "where strips are joined"),
         margin("tabs", "Tabs below", 10, 3, 40, "the bottom is glued on them"),
         margin("less", "Bottom smaller by", 0.4, 0, 10, "in all, so that it goes in"),
         count("strips", "Cut in strips", 1, 1, 16, "as many as the mat asks for")},
        build,
        nullptr,
        "",
        "A battery light only, never a flame."};
    return it;
}

} // namespace thinline::construct
