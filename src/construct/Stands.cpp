// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What makes flat things stand: the easel back, the slotted cross stand, the stick holder.
//
// A slot is as wide as the card that goes in and its clearance, and half as deep as the plates are high, so that both plates end
// at one height.
#include "construct/Blank.h"
#include "construct/Figures.h"
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
using geometry::Segment;

constexpr double kPi = std::numbers::pi;

base::Result<Built> buildEasel(const Said& said, const base::Progress&) {
    const double w = said["width"], h = said["height"], strut = w * said["strut"] / 100, lap = said["lap"],
                 lean = said["lean"] * kPi / 180;
    if (strut < 10 || lap > h / 3)
        return Error{Code::InvalidArgument, "The strut would be " + mm(strut) +
                                                " wide, and the lap must be " + mm(h / 3) + " high at most."};
    // A right-angled strut hangs on the back by its long side; its foot is cut so that both stand when the back leans.
    const double high = h * 0.75, deep = strut, rise = deep * std::tan(lean);
    Body back{rectangle(w, h)};
    Body leg{through(
        {{-lap, 0}, {0, 0}, {deep * 0.35, 0}, {deep, high - rise}, {0, high}, {-lap, high - lap * 0.3}})};
    fold(leg, {0, 0}, {0, high});
    glue(leg, {{-lap, 0}, {0, 0}, {0, high}, {-lap, high - lap * 0.3}}, Side::Back);
    Built out;
    out.parts.push_back({"back", "the back", std::move(back)});
    out.parts.push_back({"strut", "the strut", std::move(leg)});
    // The lap's back lies on the back's back: seen from the front it runs the other way.
    meet(
        out.form, "lap of the strut",
        [&](double along, double away) {
            return Spot{"strut", {-lap * (0.2 + 0.6 * away), high * (0.2 + 0.5 * along)}, -said.t / 2};
        },
        [&](double along, double away) {
            return Spot{"back",
                        {w / 2 + lap * (0.2 + 0.6 * away), h - high + high * (0.2 + 0.5 * along)},
                        -said.t / 2};
        });
    out.form.order = {"back", "strut"};
    out.derived.push_back({"strut, high", {"0.75 × ", h}, high});
    out.derived.push_back(
        {"foot rises by", {deep, " × tan(" + base::formatNumber(said["lean"], 0) + "°)"}, rise});
    return out;
}

base::Result<Built> buildCross(const Said& said, const base::Progress&) {
    const double w = said["width"], h = said["height"], slot = said.t + said["clearance"],
                 top = w * said["taper"] / 100;
    if (slot > w / 6)
        return Error{Code::InvalidArgument, "Slots of " + mm(slot) + " are too wide for plates of " + mm(w) +
                                                "; they must be " + mm(slot * 6) + " wide at least."};
    Built out;
    const double m = w / 2, s = slot / 2, x = top / 2;
    out.parts.push_back({"upper", "the plate with its slot below",
                         Body{through({{m - x, 0},
                                       {m + x, 0},
                                       {w, h},
                                       {m + s, h},
                                       {m + s, h / 2},
                                       {m - s, h / 2},
                                       {m - s, h},
                                       {0, h}})}});
    out.parts.push_back({"lower", "the plate with its slot above",
                         Body{through({{m - x, 0},
                                       {m - s, 0},
                                       {m - s, h / 2},
                                       {m + s, h / 2},
                                       {m + s, 0},
                                       {m + x, 0},
                                       {w, h},
                                       {0, h}})}});
    // One plate crosses the other at a right angle: along its middle, and a little off it through its thickness.
    constexpr double kOff = 5;
    for (const auto& [out1, y] : {std::pair{0.0, 0.1}, {0.0, 0.9}, {kOff, 0.5}})
        out.form.meetings.push_back(
            {"the crossing", {"upper", {m, h * y}, out1}, {"lower", {m + out1, h * y}, 0}});
    out.form.order = {"upper", "lower"};
    out.derived.push_back({"slot", {said.t, " card + ", said["clearance"], " clearance"}, slot});
    out.derived.push_back({"slots deep", {h, " / 2"}, h / 2});
    if (top <= slot + 2)
        return Error{Code::InvalidArgument, "The upper edge of " + mm(top) + " is too narrow for a slot of " +
                                                mm(slot) + "; make it " + mm(slot + 2) + " at least."};
    return out;
}

base::Result<Built> buildStick(const Said& said, const base::Progress&) {
    const double across = said["width"], slit_ = said["stick"] + said["ease"], tab = said["tab"];
    if (slit_ > across / 3 || said["apart"] > across * 0.7)
        return Error{Code::InvalidArgument, "Slits of " + mm(slit_) + ", " + mm(said["apart"]) +
                                                " apart, do not lie on a holder of " + mm(across) + "."};
    Built out;
    Body front{disc(across)}, back{disc(across)};
    const double m = across / 2, half = said["apart"] / 2;
    for (const double y : {m - half, m + half})
        slit(back, {m - slit_ / 2, y}, {m + slit_ / 2, y});
    design::Zone way;
    way.kind = design::Zone::Kind::Way;
    way.area = {rectangleAt({m - slit_ / 2, m - half}, slit_, 2 * half), {}};
    way.side = Side::Front;
    way.takesMm = said["stick"];
    way.takes = "stick";
    back.zones.push_back(std::move(way));
    Body stop{rectangle(slit_ + 8, 2 * tab)};
    fold(stop, {0, tab}, {slit_ + 8, tab}, 90);
    glue(stop, {{0, 0}, {slit_ + 8, 0}, {slit_ + 8, tab}, {0, tab}}, Side::Back);
    out.parts.push_back({"front", "the front", std::move(front)});
    out.parts.push_back({"back", "the back", std::move(back)});
    out.parts.push_back({"tab", "the tab that stops the stick", std::move(stop)});
    out.derived.push_back({"slits", {said["stick"], " stick + ", said["ease"], " ease"}, slit_});
    return out;
}

} // namespace

const Construction& easel() {
    static const Construction it{
        "easel-back",
        "Easel back",
        "A back for a picture and a strut that folds out of it.",
        {size("width", "Wide", 90, 20, 500, "the back"),
         size("height", "High", 130, 30, 700, "the back"),
         {{"strut", "Strut wide", base::Quantity::Percent, 55, 20, 90}, "of the back's width"},
         {{"lean", "Leans by", base::Quantity::Angle, 12, 0, 30}, "how far the back leans from upright"},
         margin("lap", "Glue lap", 14, 5, 60, "by which the strut is glued to the back")},
        buildEasel};
    return it;
}
const Construction& cross() {
    static const Construction it{
        "cross-stand",
        "Slotted cross stand",
        "Two plates with slots that go into one another.",
        {size("width", "Wide", 80, 15, 500, "a plate below"),
         size("height", "High", 40, 10, 400, "both plates"),
         {{"taper", "Upper edge", base::Quantity::Percent, 60, 5, 100}, "of the width"},
         margin("clearance", "Slots wider by", 0.1, 0, 2, "than the card that goes in")},
        buildCross};
    return it;
}
const Construction& stick() {
    static const Construction it{
        "stick-holder",
        "Stick holder",
        "A front and a back with slits for a stick between them, and a folded tab that stops it.",
        {size("width", "Wide", 60, 20, 300, "the holder"),
         margin("stick", "Stick wide", 5, 1, 40, "what goes through the slits"),
         margin("ease", "Slits longer by", 1, 0, 10, "so that the stick goes through"),
         size("apart", "Slits apart", 25, 5, 200, "along the stick"),
         margin("tab", "Tab high", 8, 3, 40, "each half of it")},
        buildStick,
        nullptr,
        "",
        "Sticks are nothing for small children."};
    return it;
}

} // namespace thinline::construct
