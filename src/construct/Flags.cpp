// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// A string of flags: as many as a word has letters, spaces as plain ones, with a flag of another form at both ends.
//
// Two slits carry a ribbon, which runs behind the flag between them; or the top is folded over a cord. Flags are counted in the
// order in which they are threaded.
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
using geometry::Contour;
using geometry::Point;
using geometry::Segment;

struct Flag {
    double wide = 0, high = 0, ribbon = 0, slit = 0, inset = 0, below = 0, top = 0;
};

/// From the upper left corner; its top edge is at 0.
Contour outlineOf(const Flag& flag, int form, bool isEnd) {
    const double w = flag.wide, h = flag.high;
    Contour out{{0, -flag.top}, {Segment::line({w, -flag.top})}};
    const auto to = [&](double x, double y) { out.segments.push_back(Segment::line({x, y})); };
    if (isEnd) { // half a disc below
        const double r = w / 2, straight = std::max(0.0, h - r);
        to(w, straight);
        geometry::appendEllipseArc(out, {r, straight}, r, std::min(r, h), 0, std::numbers::pi);
        out.segments.back().end = {0, straight};
    } else if (form == 0) { // pennant
        if (flag.top > 0)
            to(w, 0);
        to(w / 2, h);
        if (flag.top > 0)
            to(0, 0);
    } else if (form == 1) { // swallowtail
        to(w, h);
        to(w / 2, h - w * 0.35);
        to(0, h);
    } else {
        to(w, h);
        to(0, h);
    }
    to(0, -flag.top);
    return out;
}

Body drawn(const Flag& flag, int form, bool isEnd) {
    Body body{{outlineOf(flag, form, isEnd), {}}};
    if (flag.top > 0) {
        fold(body, {0, 0}, {flag.wide, 0}, 180);
        glue(body, {{0, -flag.top}, {flag.wide, -flag.top}, {flag.wide, -flag.top / 2}, {0, -flag.top / 2}},
             design::Side::Back);
        return body;
    }
    for (const double x : {flag.inset, flag.wide - flag.inset})
        slit(body, {x, flag.below}, {x, flag.below + flag.slit});
    design::Zone way;
    way.kind = design::Zone::Kind::Way;
    way.area = {rectangleAt({flag.inset, flag.below}, flag.wide - 2 * flag.inset, flag.slit), {}};
    way.side = design::Side::Back;
    way.takesMm = flag.ribbon;
    way.takes = "ribbon";
    body.zones.push_back(std::move(way));
    return body;
}

/// The signs of a text, a sign of several bytes as one.
std::vector<std::string> signsOf(const std::string& text) {
    std::vector<std::string> out;
    for (const char c : text) {
        if ((static_cast<unsigned char>(c) & 0xC0) == 0x80 && !out.empty())
            out.back() += c;
        else
            out.emplace_back(1, c);
    }
    return out;
}

base::Result<Built> build(const Said& said, const base::Progress&) {
    Flag flag{said["width"],
              said["height"],
              said["ribbon"],
              said["ribbon"] + said["ease"],
              said["inset"],
              said["below"],
              0};
    const bool hasFold = said.isChosen("hangs");
    if (hasFold)
        flag.top = said["top"];
    const int form = said.count("form");
    if (!hasFold && 2 * flag.inset + 4 > flag.wide)
        return Error{Code::InvalidArgument, "Slits " + mm(flag.inset) + " from the sides meet in a flag of " +
                                                mm(flag.wide) + "; they can be " + mm(flag.wide / 2 - 2) +
                                                " from them at most."};
    // A pennant is narrower further down: the slits' lower ends must lie on it.
    const double lowest = flag.below + flag.slit + 2,
                 most = form == 0 ? flag.high * (1 - 2 * flag.inset / flag.wide) : flag.high;
    const double room = form == 0 ? flag.high * 2 * flag.inset / flag.wide : flag.high;
    if (!hasFold && lowest > std::min(room, flag.high) && form != 2)
        return Error{Code::InvalidArgument,
                     "The slits reach " + mm(lowest - 2) +
                         " down, where a flag of this form is too narrow for them; take a narrower "
                         "ribbon, or slits further in or higher up."};
    if (!hasFold && lowest > most && form == 2)
        return Error{Code::InvalidArgument,
                     "The slits reach " + mm(lowest - 2) + " down; the flag is " + mm(flag.high) + " high."};
    std::vector<std::string> signs = signsOf(said.word);
    if (signs.empty())
        signs.assign(static_cast<size_t>(said.count("flags")), "");
    Built out;
    if (said.isChosen("ends"))
        out.parts.push_back({"first-end", "the flag at the beginning", drawn(flag, form, true)});
    for (size_t i = 0; i < signs.size(); ++i) {
        const std::string number = std::to_string(i + 1);
        const bool isPlain = signs[i].empty() || signs[i] == " ";
        out.parts.push_back({"flag-" + number,
                             isPlain ? "flag " + number : "flag " + number + ", for " + signs[i],
                             drawn(flag, form, false)});
    }
    if (said.isChosen("ends"))
        out.parts.push_back({"last-end", "the flag at the end", drawn(flag, form, true)});
    if (!hasFold)
        out.derived.push_back({"slit", {said["ribbon"], " ribbon + ", said["ease"], " ease"}, flag.slit});
    out.derived.push_back({"string without gaps",
                           {std::to_string(out.parts.size()) + " × ", flag.wide},
                           static_cast<double>(out.parts.size()) * flag.wide});
    out.said.emplace_back(
        hasFold ? "Fold every top back over the cord and glue it below."
                : "Thread them in order: in at the left slit from the front, out at the right one.");
    return out;
}

} // namespace

const Construction& flags() {
    static const Construction it{
        "flags",
        "String of flags",
        "Flags for a ribbon or a cord, one for every letter of a word, or a number of plain ones.",
        {choice("form", "Form", "pennant|swallowtail|rectangle", "of every flag between the ends"),
         size("width", "Wide", 60, 10, 400, "of a flag"),
         size("height", "High", 80, 10, 500, "of a flag, below the fold"),
         count("flags", "Flags, without a word", 6, 1, 300, "how many, when no word is typed"),
         choice("ends", "At both ends", "nothing more|a flag with a half disc", "closes the string"),
         choice("hangs", "Hangs by", "two slits|a folded top", "how the ribbon or cord is held"),
         margin("ribbon", "Ribbon wide", 8, 1, 60, "what the slits are cut for"),
         margin("ease", "Slits longer by", 1.5, 0, 10, "so that the ribbon goes through"),
         margin("inset", "Slits from the sides", 12, 3, 100, "to the edge of the flag"),
         margin("below", "Slits from the top", 6, 2, 100, "to the edge of the flag"),
         margin("top", "Folded top", 15, 4, 100, "goes back over the cord")},
        build,
        "Letters, one flag each",
        "",
        "Strings and ribbons are nothing for small children to play with."};
    return it;
}

} // namespace thinline::construct
