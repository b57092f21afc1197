// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// A string of flags: as many as a word has letters, spaces as plain ones, with a flag of another form at both ends.
//
// Letters are glued on or cut out, all on one baseline and each in the middle of its flag. How large they can be is not a matter
// of their boxes: an A stands in a pennant where an H does not. So each is held against the flag's own outline.
//
// Two slits carry a ribbon, which runs behind the flag between them; or the top is folded over a cord. Flags are counted in the
// order in which they are threaded.
#include "construct/Blank.h"
#include "construct/Lettered.h"
#include "construct/Set.h"
#include "geometry/Boolean.h"
#include "geometry/Offset.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>

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

/// How letters stand on flags.
struct Lettering {
    enum class Way { GluedOn, CutOut, None } way = Way::None;
    double capital = 0, highest = 0; ///< of the letters: an Ö stands above the capitals
    double baseline = 0;             ///< below the flag's upper edge
};
constexpr double kLetterRim = 2; ///< what stays of a flag round its letter

geometry::Transform placeOf(const Sign& sign, const Flag& flag, const Lettering& how) {
    return geometry::Transform::move({(flag.wide - sign.wide) / 2, how.baseline});
}

Sign scaled(Sign sign, double factor) {
    for (geometry::Shape& shape : sign.shapes)
        shape = geometry::transformed(shape, geometry::Transform::scale(factor, factor));
    sign.wide *= factor;
    sign.high *= factor;
    return sign;
}

/// The letters of the word, as large as asked or as their flags allow, a rim of card round each; `limiting` is the one that
/// does not let them be larger.
base::Result<std::vector<Sign>> fittingSigns(const Said& said, const Flag& flag, Lettering& how,
                                             const geometry::Shape& form, std::string& limiting,
                                             const base::Progress& progress) {
    constexpr double kLeastMm = 2, kTenth = 0.1;
    const double asked = said["letter"], top = how.baseline;
    auto set = signsOf(*said.letters, asked, false, progress);
    if (!set)
        return set.error();
    auto room = geometry::offset({form}, -kLetterRim, {}, progress);
    if (!room)
        return room.error();
    const auto stand = [&](double capital) {
        how.capital = how.highest = capital;
        for (const Sign& sign : *set)
            how.highest = std::max(how.highest, sign.high * capital / asked);
        how.baseline = top + how.highest;
    };
    /// The first letter that does not lie on its flag; empty when all do.
    const auto tooLarge = [&](double capital) -> base::Result<std::string> {
        stand(capital);
        std::set<std::string> seen;
        for (const Sign& one : *set) {
            if (!seen.insert(one.text).second)
                continue;
            Sign sign = scaled(one, capital / asked);
            for (geometry::Shape& shape : sign.shapes)
                shape = geometry::transformed(shape, placeOf(sign, flag, how));
            auto beside = geometry::subtract(sign.shapes, room->shapes, progress);
            if (!beside)
                return beside.error();
            if (!beside->empty())
                return sign.text;
        }
        return std::string();
    };
    const auto all = tooLarge(asked);
    if (!all)
        return all.error();
    if (all->empty())
        return set;
    limiting = *all;
    int fits = 0, most = static_cast<int>(std::ceil(asked / kTenth));
    while (most - fits > 1) {
        const int middle = (fits + most) / 2;
        const auto large = tooLarge(middle * kTenth);
        if (!large)
            return large.error();
        (large->empty() ? fits : most) = middle;
        limiting = large->empty() ? limiting : *large;
    }
    const double capital = fits * kTenth;
    if (capital < kLeastMm)
        return Error{Code::InvalidArgument, "The letter " + limiting + " does not lie on a flag of " +
                                                mm(flag.wide) + " by " + mm(flag.high) + " with " +
                                                mm(kLetterRim) +
                                                " round it; take larger flags, or letters further up."};
    stand(capital);
    std::vector<Sign> out;
    for (const Sign& sign : *set)
        out.push_back(scaled(sign, capital / asked));
    return out;
}

/// Puts a letter on its flag, as a part or as openings. Returns whether something falls out with it.
bool putOn(const Sign& sign, const Flag& flag, const Lettering& how, const std::string& number, Built& out) {
    const std::string on = out.parts.back().key;
    bool losesInside = false;
    for (size_t i = 0; i < sign.shapes.size(); ++i) {
        geometry::Shape shape = geometry::transformed(sign.shapes[i], placeOf(sign, flag, how));
        if (how.way == Lettering::Way::CutOut) {
            pierce(out.parts.back().body.shape, shape.outline);
            losesInside |= !shape.openings.empty();
            continue;
        }
        const std::string part = i == 0 ? "" : "-" + std::to_string(i + 1);
        out.parts.push_back({"letter-" + number + part,
                             (i == 0 ? "the letter " : "a part of the letter ") + sign.text,
                             {std::move(shape)},
                             Role::Liner,
                             1,
                             on});
    }
    return losesInside;
}

base::Result<Built> build(const Said& said, const base::Progress& progress) {
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
    std::vector<std::string> signs = splitSigns(said.word);
    if (signs.empty())
        signs.assign(static_cast<size_t>(said.count("flags")), "");
    Lettering how{static_cast<Lettering::Way>(said.count("letters")), 0, 0,
                  said["letter-gap"] + (hasFold ? 0 : flag.below + flag.slit)};
    std::vector<Sign> letters;
    std::string limiting;
    if (said.letters && how.way != Lettering::Way::None) {
        auto fitting = fittingSigns(said, flag, how, {outlineOf(flag, form, false), {}}, limiting, progress);
        if (!fitting)
            return fitting.error();
        letters = fitting.take();
    }
    Built out;
    std::string fallsOut, plain;
    if (said.isChosen("ends"))
        out.parts.push_back({"first-end", "the flag at the beginning", drawn(flag, form, true)});
    for (size_t i = 0; i < signs.size(); ++i) {
        const std::string number = std::to_string(i + 1);
        const bool isPlain = signs[i].empty() || signs[i] == " ";
        out.parts.push_back({"flag-" + number,
                             isPlain ? "flag " + number : "flag " + number + ", for " + signs[i],
                             drawn(flag, form, false)});
        if (letters.empty() || isPlain)
            continue;
        const auto letter = std::find_if(letters.begin(), letters.end(),
                                         [&](const Sign& one) { return one.text == signs[i]; });
        if (letter == letters.end())
            plain += (plain.empty() ? "" : ", ") + signs[i];
        else if (putOn(*letter, flag, how, number, out) && fallsOut.find(signs[i]) == std::string::npos)
            fallsOut += (fallsOut.empty() ? "" : ", ") + signs[i];
    }
    if (said.isChosen("ends"))
        out.parts.push_back({"last-end", "the flag at the end", drawn(flag, form, true)});
    if (!hasFold)
        out.derived.push_back({"slit", {said["ribbon"], " ribbon + ", said["ease"], " ease"}, flag.slit});
    const auto strung =
        std::count_if(out.parts.begin(), out.parts.end(), [](const Part& part) { return part.on.empty(); });
    out.derived.push_back({"string without gaps",
                           {std::to_string(strung) + " × ", flag.wide},
                           static_cast<double>(strung) * flag.wide});
    out.said.emplace_back(
        hasFold ? "Fold every top back over the cord and glue it below."
                : "Thread them in order: in at the left slit from the front, out at the right one.");
    if (!fallsOut.empty())
        out.said.push_back("What the letter encloses falls out of " + fallsOut +
                           "; a stencil typeface holds it, or glue the letters on.");
    if (!plain.empty())
        out.said.push_back("There is no letter for " + plain + "; that flag stays plain.");
    if (!limiting.empty())
        out.derived.push_back({"capitals, as large as " + limiting + " lies on its flag", {}, how.capital});
    if (!letters.empty())
        out.derived.push_back({"baseline of the letters, from the top",
                               {how.baseline - how.highest, " + ", how.highest,
                                how.highest > how.capital + 0.05 ? " highest letter" : " capitals"},
                               how.baseline});
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
         choice("ends", "At both ends", "nothing more|a rounded flag", "closes the string"),
         choice("hangs", "Hangs by", "two slits|a folded top", "how the ribbon or cord is held"),
         margin("ribbon", "Ribbon wide", 8, 1, 60, "what the slits are cut for"),
         margin("ease", "Slits longer by", 1.5, 0, 10, "so that the ribbon goes through"),
         margin("inset", "Slits from the sides", 12, 3, 100, "to the edge of the flag"),
         margin("below", "Slits from the top", 6, 2, 100, "to the edge of the flag"),
         margin("top", "Folded top", 15, 4, 100, "goes back over the cord"),
         choice("letters", "Letters", "glued on|cut out|none", "of the word, each in the middle of its flag"),
         size("letter", "Capitals high, at most", 30, 2, 400,
              "all stand on one line; smaller where a flag is too small for one of them"),
         margin("letter-gap", "Letters from the slits", 5, 0, 200,
                "from the slits, or from a folded top, to the capitals")},
        build,
        "Letters, one flag each",
        "",
        "Strings and ribbons are nothing for small children to play with.",
        true};
    return it;
}

} // namespace thinline::construct
