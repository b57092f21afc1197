// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// The pillow box: two panels in a ring whose ends are folded in along arcs and bend the panels by it. It needs no glue but one
// lap.
//
// How it closes. A panel bends about lines along the box, like a roof of many narrow facets. Folded along a curve that lies in
// one plane, what lies beyond the curve stands as the panel mirrored in that plane. Let the plane be tilted by 45 degrees: then
// lines along the box are mirrored into lines straight across it, and the end is shut. A curve that reaches d(u) inwards on the
// flat card at u across it then lies d(u) above the panel's edges, since on such a plane one is the other; so the drawn arc is
// the very section of the panel, measured along the card. The flap beyond it reaches 2 d(u) from the curve, from d above to d
// below, which is where the other panel has its own curve: both flaps lie on the same surface and meet the opposite edge
// everywhere. A section cannot rise by more than the card is long, so an arc may nowhere be steeper than 45 degrees: it reaches
// half of (sqrt 2 - 1) of a panel's width at most. A deeper arc can be cut, but gapes at its corners.
//
// The section's facets have sin(slope) = (step of d) / (step of u). Between facets the card turns by the difference of slopes,
// outwards on the panels and inwards beyond the curves, along which it turns by acos(-sin^2(slope)). Where two panels meet they
// turn by 180 degrees less both slopes there.
//
// The lap lies within the ring, a card's thickness t below the front. It hangs on the back panel, which comes in at twice the
// slope there, so its fold lies t / sin(2 slope) before the corner; the back's flaps end with it.
#include "construct/Blank.h"
#include "construct/Set.h"

#include "geometry/Arcs.h"

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
using geometry::Segment;

constexpr double kPi = std::numbers::pi;
constexpr int kFacets = 24; ///< of a panel

/// The measures of a pillow box. Its upper arcs end at y0, its lower ones at y1; u runs across a panel.
struct Pillow {
    double wide, rise, y0, y1, lap, t;
    double radius() const { return (wide * wide / 4 + rise * rise) / (2 * rise); }
    /// How far an arc reaches at a place.
    double reach(double u) const {
        const double r = radius(), from = u - wide / 2;
        return std::max(0.0, std::sqrt(std::max(0.0, r * r - from * from)) - (r - rise));
    }
    static constexpr double kMostOfWidth = 0.20710678; ///< half of sqrt 2 - 1
    bool closes() const { return rise <= kMostOfWidth * wide; }
    double at(int i) const { return wide * i / kFacets; }
    /// How a facet of the section rises, radians; 0 to kFacets - 1.
    double slope(int i) const {
        return std::asin(std::clamp((reach(at(i + 1)) - reach(at(i))) / (at(i + 1) - at(i)), -1.0, 1.0));
    }
    /// By how much the section turns at the beginning of a facet, radians; 1 to kFacets - 1.
    double turn(int i) const { return slope(i - 1) - slope(i); }
    /// How far before the corner the lap's fold lies.
    double before() const { return closes() ? t / std::sin(2 * slope(0)) : 0; }
    /// By how much the lap is shorter at its edge: it must not reach under the front's curves, which are steepest at their ends.
    double slant() const {
        return closes() ? lap * wide / 2 / std::sqrt(radius() * radius() - wide * wide / 4) : std::min(lap, (y1 - y0) / 6);
    }
    double lapFrom() const { return 2 * wide - before(); }
    /// By how much the card turns between two panels.
    double cornerDeg() const { return closes() ? 180 - 2 * slope(0) * 180 / kPi : 180; }

    /// Adds an arc over a panel that begins at `left`, from u0 to u1 across it, bulging upwards or downwards from y.
    void arc(Contour& out, double left, double y, bool isUp, double u0, double u1) const {
        const double r = radius();
        const auto turn = [&](double u) {
            const double away = std::asin(std::clamp((u - wide / 2) / r, -1.0, 1.0));
            return isUp ? -kPi / 2 + away : kPi / 2 - away;
        };
        geometry::appendEllipseArc(out, {left + wide / 2, isUp ? y - rise + r : y + rise - r}, r, r, turn(u0), turn(u1) - turn(u0));
        out.segments.back().end = {left + u1, isUp ? y - reach(u1) : y + reach(u1)};
    }
};

Body drawn(const Pillow& box) {
    const double w = box.wide, last = w - box.before(), lapFrom = box.lapFrom(), far = lapFrom + box.lap,
                 slant = box.slant(), trim = box.reach(last);
    Contour outline{{0, box.y0}, {}};
    const auto to = [&](double x, double y) {
        if (geometry::distance(outline.segments.empty() ? outline.start : outline.segments.back().end, {x, y}) > 1e-9)
            outline.segments.push_back(Segment::line({x, y}));
    };
    box.arc(outline, 0, box.y0, true, 0, w);
    box.arc(outline, w, box.y0, true, 0, last);
    to(lapFrom, box.y0 + trim);
    to(far, box.y0 + trim + slant);
    to(far, box.y1 - trim - slant);
    to(lapFrom, box.y1 - trim);
    to(lapFrom, box.y1 + trim);
    box.arc(outline, w, box.y1, false, last, 0);
    box.arc(outline, 0, box.y1, false, w, 0);
    to(0, box.y0);
    Body body{{outline, {}}};
    fold(body, {w, box.y0}, {w, box.y1}, box.cornerDeg());
    fold(body, {lapFrom, box.y0 + trim}, {lapFrom, box.y1 - trim}, box.cornerDeg());
    for (const bool isBack : {false, true})
        for (const bool isUpper : {true, false}) {
            const double left = isBack ? w : 0, y = isUpper ? box.y0 : box.y1;
            Contour inward{{left, y}, {}};
            box.arc(inward, left, y, !isUpper, 0, isBack ? last : w);
            body.lines.push_back({{}, inward, design::Fold{Side::Front, false, 90}, true, true});
        }
    glue(body, {{lapFrom, box.y0 + trim}, {far, box.y0 + trim + slant}, {far, box.y1 - trim - slant}, {lapFrom, box.y1 - trim}}, Side::Front);
    name(body, {w / 2, (box.y0 + box.y1) / 2}, "front", true);
    name(body, {w * 1.5, (box.y0 + box.y1) / 2}, "back");
    return body;
}

/// The bends of a panel and its flaps, from its left edge to `last` across it.
void bendPanel(const Pillow& box, double left, double last, std::vector<design::Bend>& bends) {
    const auto bend = [&](Point from, Point to, double rad, bool isTowards, bool isCrease) {
        bends.push_back({{from, {Segment::line(to)}}, rad * 180 / kPi, isTowards, false, isCrease});
    };
    for (int i = 0; i < kFacets && box.at(i) < last; ++i) {
        const double u = box.at(i), x = left + u, d = box.reach(u), next = std::min(box.at(i + 1), last), dNext = box.reach(next);
        if (i > 0) {
            const double turns = box.turn(i);
            bend({x, box.y0 - d - 1}, {x, box.y0 + d}, turns, true, false);
            bend({x, box.y0 + d}, {x, box.y1 - d}, turns, false, false);
            bend({x, box.y1 - d}, {x, box.y1 + d + 1}, turns, true, false);
        }
        const double sine = std::sin(box.slope(i)), folds = std::acos(-sine * sine);
        bend({x, box.y0 + d}, {left + next, box.y0 + dNext}, folds, false, true);
        bend({x, box.y1 - d}, {left + next, box.y1 - dNext}, folds, false, true);
    }
}

/// The lap as it lies under the front: it bends with it, on a shorter way.
struct LapUnder {
    explicit LapUnder(const Pillow& box) : m_box(box) {
        double at = box.at(1) - shorter(1) - box.before() * std::cos(2 * box.slope(0));
        for (int i = 1; i < kFacets; ++i) {
            bendsAt.push_back(at);
            if (i + 1 < kFacets)
                at += box.at(i + 1) - box.at(i) - shorter(i) - shorter(i + 1);
        }
    }
    /// Where over the lap, so far from its fold, the front lies: from its own corner.
    double onFront(double fromFold) const {
        size_t i = 0;
        while (i + 1 < bendsAt.size() && bendsAt[i] <= fromFold)
            ++i;
        const int next = static_cast<int>(i) + 1; // a lap ends before the last facet
        return m_box.at(next) - shorter(next) - (bendsAt[i] - fromFold);
    }

    std::vector<double> bendsAt; ///< the front's bends, by their number less one, from the lap's fold

  private:
    /// By how much a facet below is shorter on one side of a bend.
    double shorter(int i) const { return m_box.t * std::tan(m_box.turn(i) / 2); }
    const Pillow& m_box;
};

design::FoldedForm formOf(const Pillow& box) {
    const std::string key = "pillow";
    design::FoldedForm form;
    std::vector<design::Bend>& bends = form.bends[key];
    bendPanel(box, 0, box.wide, bends);
    bendPanel(box, box.wide, box.wide - box.before(), bends);
    const LapUnder lap(box);
    for (int i = 1; i < kFacets; ++i)
        if (const double x = lap.bendsAt[static_cast<size_t>(i) - 1]; x > 0 && x < box.lap)
            bends.push_back({{{box.lapFrom() + x, box.y0 - 1}, {Segment::line({box.lapFrom() + x, box.y1 + 1})}},
                             box.turn(i) * 180 / kPi, false});
    const auto along = [&](double share) { return box.y0 + (box.y1 - box.y0) * (0.3 + 0.4 * share); };
    meet(
        form, "lap", [&](double far, double away) { return Spot{key, {box.lapFrom() + box.lap * away, along(far)}, box.t / 2}; },
        [&](double far, double away) { return Spot{key, {lap.onFront(box.lap * away), along(far)}, -box.t / 2}; });
    // The flaps of the front reach the curves of the back, those of the back the curves of the front.
    constexpr double kWithin = 0.002; // of a leaf, not on its border
    for (const bool isUpper : {true, false})
        for (const bool isFront : {true, false})
            for (const int i : {kFacets / 4, kFacets / 2, kFacets * 3 / 4}) {
                const double u = box.at(i) + kWithin, d = box.reach(u), way = isUpper ? 1 : -1, y = isUpper ? box.y0 : box.y1;
                const double flap = isFront ? u : 2 * box.wide - u, other = 2 * box.wide - flap;
                form.meetings.push_back({isUpper ? "upper end" : "lower end",
                                         {key, {flap, y - way * (d - kWithin)}, 0},
                                         {key, {other, y + way * (d + kWithin)}, 0}});
            }
    form.order = {key};
    return form;
}

base::Result<Built> buildPillow(const Said& said, const base::Progress&) {
    const double w = said["width"], h = said["height"], rise = said["arc"];
    if (rise > w / 2)
        return Error{Code::InvalidArgument, "Arcs of " + mm(rise) +
                                                " are more than half discs; they can be " + mm(w / 2) +
                                                " at most."};
    if (2 * rise > h - 10)
        return Error{Code::InvalidArgument, "Arcs of " + mm(rise) + " from both ends meet; they can be " +
                                                mm((h - 10) / 2) + " at most."};
    if (said["lap"] > w / 2)
        return Error{Code::InvalidArgument, "A lap of " + mm(said["lap"]) + " is more than half of the panel it lies under; it can be " + mm(w / 2) + " at most."};
    // Two panels side by side; each has at both ends an arc outwards (the edge) and the same inwards (the fold).
    const Pillow box{w, rise, rise, rise + h, said["lap"], said.t};
    if (box.before() > w / 4)
        return Error{Code::InvalidArgument, "Arcs of " + mm(rise) + " are too flat for card of " + mm(box.t) + "; its lap needs deeper ones."};
    if (box.closes() && 2 * (box.reach(box.before()) + box.slant()) > h - 5)
        return Error{Code::InvalidArgument, "A lap of " + mm(box.lap) + " comes to a point between the arcs; take a narrower one, or a longer box."};
    Built out;
    out.parts.push_back({"pillow", "the pillow box", drawn(box)});
    if (box.closes())
        out.form = formOf(box);
    else
        out.said.emplace_back("Arcs above " + mm(Pillow::kMostOfWidth * w) +
                              ", 0.21 of the width, are steeper at their ends than card bends: the ends gape at their corners.");
    out.derived.push_back({"radius of the arcs", {"(", w, "² / 4 + ", rise, "²) / (2 × ", rise, ")"}, box.radius()});
    if (box.before() > 0)
        out.derived.push_back({"blank, wide", {"2 × ", w, " - ", box.before(), " for the card + ", box.lap, " lap"}, box.lapFrom() + box.lap});
    else
        out.derived.push_back({"blank, wide", {"2 × ", w, " + ", box.lap, " lap"}, box.lapFrom() + box.lap});
    if (box.closes())
        out.derived.push_back({"thick in the middle", {"2 × ", rise}, 2 * rise});
    return out;
}

} // namespace

const Construction& pillow() {
    static const Construction it{
        "pillow-box",
        "Pillow box",
        "Two panels with bent ends that close by themselves.",
        {size("width", "Wide", 70, 15, 400, "a panel"),
         size("height", "Long", 110, 25, 500, "between the ends' corners"),
         size("arc", "Ends' arcs", 14, 3, 200, "how far they reach, which is half of how thick the box becomes"),
         margin("lap", "Glue lap", 12, 4, 60, "along one side")},
        buildPillow};
    return it;
}

} // namespace thinline::construct
