// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Flowers and bows: the layered flower, the rolled rose, the bow.
//
// A rose is a disc with a spiral cut in it: a band that is as broad everywhere, rolled up from its outer end and glued on what
// is left in the middle. Its outer edge has waves, which become petals; the cut is the outer edge of the next turn.
#include "construct/Blank.h"
#include "construct/Figures.h"
#include "construct/Set.h"
#include "geometry/Fit.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace thinline::construct {
namespace {

using base::Code;
using base::Error;
using design::Body;
using geometry::Contour;
using geometry::Point;
using geometry::Segment;

constexpr double kPi = std::numbers::pi;

base::Result<Built> buildFlower(const Said& said, const base::Progress&) {
    const double whole = said["width"], least = said["smallest"];
    const int layers = said.count("layers");
    if (least > whole)
        return Error{Code::InvalidArgument,
                     "The smallest layer cannot be wider than the flower, " + mm(whole) + "."};
    Built out;
    for (int i = 0; i < layers; ++i) {
        const double across = layers == 1 ? whole : whole + (least - whole) * i / (layers - 1);
        auto shape = make({Figure::Flower, {across, said["petals"], across * (1 - said["deep"] / 100)}});
        if (!shape)
            return shape.error();
        const std::string number = std::to_string(i + 1);
        Body body{shape.take()};
        out.parts.push_back({"layer-" + number, "layer " + number + " of the flower", std::move(body)});
        out.derived.push_back({"layer " + number, {}, across});
    }
    out.said.emplace_back("Turn every layer by half a petal against the one below it.");
    return out;
}

base::Result<Built> buildRose(const Said& said, const base::Progress&) {
    const double wide = said["width"], band = said["band"], base = said["base"], wave = said["wave"];
    const double least = base / 2 + band, turns = (wide / 2 - least) / band;
    if (turns < 1.5)
        return Error{Code::InvalidArgument, "A band of " + mm(band) + " makes " +
                                                base::formatNumber(std::max(0.0, turns), 1) +
                                                " turns; for 1.5 the rose is cut from a disc of " +
                                                mm(2 * (least + 1.5 * band)) + "."};
    if (wave > band / 3)
        return Error{Code::InvalidArgument, "Waves of " + mm(wave) + " are too high for this band; up to " +
                                                mm(band / 3) + " can be cut."};
    const double waves = std::max(5.0, std::round(wide * kPi / said["wave-long"]));
    const auto edge = [&](double turn) {
        const double r = wide / 2 - band * turn - wave * (0.5 - 0.5 * std::cos(2 * kPi * turn * waves));
        return Point{wide / 2 + r * std::cos(2 * kPi * turn), wide / 2 + r * std::sin(2 * kPi * turn)};
    };
    // Round the rim once the edge is an edge of the card; from there on it is a cut between one turn and the next.
    const int fine = std::max(90, static_cast<int>(waves) * 12);
    geometry::Polygon rim, inward;
    for (int i = 0; i <= fine; ++i)
        rim.push_back(edge(static_cast<double>(i) / fine));
    for (int i = fine; i <= static_cast<int>((turns + 1) * fine); ++i)
        inward.push_back(edge(static_cast<double>(i) / fine));
    const Contour outline = geometry::fitContour(rim, {.tolerance = 0.02});
    Built out;
    Body body{{geometry::signedArea(outline) < 0 ? geometry::reversed(outline) : outline, {}}};
    body.lines.push_back({{}, geometry::fitLine(inward, {.tolerance = 0.02}), design::Slit{}, true, false});
    out.parts.push_back({"rose", "the rose", std::move(body)});
    out.derived.push_back({"turns of the band: " + base::formatNumber(turns, 1) + "; radius for them",
                           {wide, " / 2 − ", least, " middle"},
                           wide / 2 - least});
    out.said.emplace_back("Roll it up from its outer end and glue the roll on the disc in its middle.");
    return out;
}

base::Result<Built> buildBow(const Said& said, const base::Progress&) {
    const double wide = said["width"], high = said["height"], waist = said["waist"], tail = said["tails"],
                 band = said["middle"];
    if (waist >= high)
        return Error{Code::InvalidArgument,
                     "The bow's waist must be narrower than the bow, " + mm(high) + "."};
    // The loops: twice as long as the bow is wide; both ends are folded back to the middle and glued there.
    const double half = wide, h = high / 2, w = waist / 2;
    Contour loops{{-half, -w}, {}};
    const auto curve = [&](Point a, Point b, Point c) { loops.segments.push_back(Segment::curve(a, b, c)); };
    curve({-half * 0.85, -w}, {-half * 0.75, -h}, {-half * 0.5, -h});
    curve({-half * 0.25, -h}, {-half * 0.15, -w}, {0, -w});
    curve({half * 0.15, -w}, {half * 0.25, -h}, {half * 0.5, -h});
    curve({half * 0.75, -h}, {half * 0.85, -w}, {half, -w});
    loops.segments.push_back(Segment::line({half, w}));
    curve({half * 0.85, w}, {half * 0.75, h}, {half * 0.5, h});
    curve({half * 0.25, h}, {half * 0.15, w}, {0, w});
    curve({-half * 0.15, w}, {-half * 0.25, h}, {-half * 0.5, h});
    curve({-half * 0.75, h}, {-half * 0.85, w}, {-half, w});
    loops.segments.push_back(Segment::line({-half, -w}));
    Built out;
    Body body{{loops, {}}};
    fold(body, {-half / 2, -h}, {-half / 2, h}, 150);
    fold(body, {half / 2, -h}, {half / 2, h}, 150);
    const double lap = std::min(half * 0.1, 8.0);
    for (const double s : {-1.0, 1.0})
        glue(body,
             {{s * half, -w * 0.9},
              {s * (half - lap), -w * 0.9},
              {s * (half - lap), w * 0.9},
              {s * half, w * 0.9}},
             design::Side::Back);
    out.parts.push_back({"loops", "the loops", std::move(body)});
    const double x = tail, notch = std::min(h * 0.8, tail * 0.3);
    out.parts.push_back({"tails", "the tails",
                         Body{through({{-x, -h * 0.8},
                                       {0, -w},
                                       {x, -h * 0.8},
                                       {x - notch, 0},
                                       {x, h * 0.8},
                                       {0, w},
                                       {-x, h * 0.8},
                                       {-x + notch, 0}})}});
    const double strip = 2 * (waist + 4 * said.t) + said["lap"];
    Body middle{rectangle(strip, band)};
    glue(middle, {{strip - said["lap"], 0}, {strip, 0}, {strip, band}, {strip - said["lap"], band}},
         design::Side::Back);
    out.parts.push_back({"middle", "the middle", std::move(middle)});
    out.derived.push_back({"loops, long", {"2 × ", wide}, 2 * wide});
    out.derived.push_back(
        {"middle, long", {"2 × (", waist, " waist + 4 × ", said.t, " card) + ", said["lap"], " lap"}, strip});
    return out;
}

} // namespace

const Construction& flower() {
    static const Construction it{
        "flower",
        "Layered flower",
        "Layers of petals, each smaller than the one below it.",
        {size("width", "Wide", 70, 10, 500, "the lowest layer"),
         size("smallest", "Smallest layer wide", 30, 5, 500, "the uppermost one"),
         count("layers", "Layers", 4, 1, 20, "how many"),
         count("petals", "Petals", 6, 3, 24, "of every layer"),
         {{"deep", "Notches deep", base::Quantity::Percent, 35, 5, 80}, "between the petals, of the radius"}},
        buildFlower};
    return it;
}

const Construction& rose() {
    static const Construction it{
        "rose",
        "Rolled rose",
        "A spiral band with a wavy edge, rolled up and glued on the disc in its middle.",
        {size("width", "Cut from a disc of", 90, 20, 500, "the flower becomes about a third as wide"),
         size("band", "Band broad", 11, 3, 100, "how high the rose is"),
         size("base", "Disc in the middle", 16, 5, 200, "on which it is glued"),
         size("wave", "Waves high", 2, 0, 30, "of its edge"),
         size("wave-long", "Waves long", 16, 4, 200, "from crest to crest at the rim")},
        buildRose};
    return it;
}

const Construction& bow() {
    static const Construction it{"bow",
                                 "Bow",
                                 "Loops, tails and a band round their middle.",
                                 {size("width", "Wide", 70, 15, 400, "the finished bow"),
                                  size("height", "High", 30, 6, 300, "of its loops"),
                                  size("waist", "Waist", 12, 2, 200, "where the band goes round"),
                                  size("tails", "Tails long", 45, 5, 400, "from the middle"),
                                  size("middle", "Band broad", 10, 3, 100, "round the middle"),
                                  margin("lap", "Glue lap", 8, 2, 40, "of the band")},
                                 buildBow};
    return it;
}

} // namespace thinline::construct
