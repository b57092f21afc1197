// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Works made of a word: the strip of letters on a backing, and the album with a page for every letter.
//
// An album is bound at its left edge. Every page reaches from there to its own letter, so that each shows one letter more than
// the one above it, and all letters together read as the word. A page is a plain rectangle, run into its letter so far that
// it holds; behind the letter's openings lies the next page, so they stay open. Pages lie on one another and stand on one
// line, whatever their letters' widths are.
#include "construct/Blank.h"
#include "construct/Lettered.h"
#include "construct/Set.h"
#include "geometry/Boolean.h"
#include "geometry/Measures.h"

#include <algorithm>

namespace thinline::construct {
namespace {

using base::Code;
using base::Error;
using design::Body;
using geometry::Point;
using geometry::Shape;
using geometry::Transform;

Error noLetters(const Said& said) {
    return {Code::InvalidArgument, said.word.empty() ? "Type a word; a piece is made for every letter."
                                                     : "The word has no letters here; type it again."};
}

// ---- the strip

base::Result<Built> buildStrip(const Said& said, const base::Progress& progress) {
    if (!said.letters)
        return noLetters(said);
    lettering::Recipe recipe;
    recipe.text = said.letters->text;
    recipe.sizeMm = said["height"];
    recipe.hasEqualHeights = !said.isChosen("heights");
    recipe.isJoined = true;
    recipe.overlapMm = said["overlap"];
    auto set = lettering::setWord(*said.letters, recipe, progress);
    if (!set)
        return set.error();
    const double wide = set->box.width(), high = set->box.height(), beside = said["beside"],
                 above = said["above"], below = said["below"];
    const double backing = high - above + below;
    if (above > high - 5)
        return Error{Code::InvalidArgument, "Nothing of the backing is left below letters of " + mm(high) +
                                                "; it can end " + mm(high - 5) +
                                                " below their tops at most."};
    Built out;
    out.parts.push_back({"backing", "the backing", Body{rectangle(wide + 2 * beside, backing)}});
    const Transform place = Transform::move(Point{beside, -above} - set->box.least);
    for (size_t i = 0; i < set->pieces.size(); ++i)
        out.parts.push_back({i == 0 ? "word" : "word-" + std::to_string(i + 1),
                             set->pieces[i].name,
                             {geometry::transformed(set->pieces[i].shape, place)},
                             Role::Liner,
                             1,
                             "backing"});
    out.derived.push_back({"backing, wide", {wide, " word + 2 × ", beside}, wide + 2 * beside});
    out.derived.push_back(
        {"backing, high", {high, " letters − ", above, " that stand above + ", below, " below"}, backing});
    for (const std::string& what : set->said)
        out.said.push_back(sentence(what));
    return out;
}

// ---- the album

struct Leaf {
    double to = 0; ///< where its letter begins
    const Sign* sign = nullptr;
};

/// Round holes along the bound edge, the outer ones as far from the corners as from the edge or further.
void punch(Shape& page, const Said& said, double high) {
    const int holes = said.count("holes");
    const double across = said["hole"], apart = high / std::max(1, holes);
    for (int i = 0; i < holes; ++i)
        pierce(page, geometry::ellipse({said["bound"] / 2, apart * (i + 0.5)}, across / 2, across / 2));
}

/// From the bound edge to its letter, and the letter with its openings. Errors: a letter that does not hang together with its page.
base::Result<Shape> pageOf(const Leaf& leaf, double high, double into, const base::Progress& progress) {
    std::vector<Shape> shapes{rectangle(leaf.to + std::min(into, leaf.sign->wide / 2), high)};
    std::vector<Shape> openings;
    for (const Shape& shape : leaf.sign->shapes) {
        shapes.push_back(geometry::transformed(shape, Transform::move({leaf.to, high})));
        for (const geometry::Contour& opening : shapes.back().openings)
            openings.push_back({geometry::reversed(opening), {}});
    }
    auto welded = geometry::weld(shapes, progress);
    if (!welded)
        return welded.error();
    auto joined = geometry::subtract(*welded, openings, progress);
    if (!joined)
        return joined.error();
    if (joined->size() != 1)
        return Error{Code::InvalidArgument,
                     "The letter " + leaf.sign->text +
                         " does not hang together with its page; let pages reach further "
                         "into their letters, or take a heavier typeface."};
    return joined->front();
}

base::Result<Built> buildAlbum(const Said& said, const base::Progress& progress) {
    if (!said.letters)
        return noLetters(said);
    const double high = said["height"], bound = said["bound"], cover = said["cover"], gap = said["gap"];
    if (said.count("holes") > 0 &&
        (said["hole"] > bound - 3 || said["hole"] > high / said.count("holes") - 3))
        return Error{Code::InvalidArgument, "Holes of " + mm(said["hole"]) + " tear out of a bound edge of " +
                                                mm(bound) + "; they can be " +
                                                mm(std::min(bound, high / said.count("holes")) - 3) +
                                                " at most."};
    auto signs = signsOf(*said.letters, high, true, progress);
    if (!signs)
        return signs.error();
    Built out;
    double to = bound + cover;
    for (size_t i = 0; i < signs->size(); ++i) {
        const Sign& sign = (*signs)[i];
        if (i > 0 && sign.isAfterSpace)
            to += said["space"];
        auto made = pageOf({to, &sign}, high, said["into"], progress);
        if (!made)
            return made.error();
        Shape page = made.take();
        punch(page, said, high);
        const std::string number = std::to_string(i + 1), of = "page " + number + ", " + sign.text;
        const double wide = geometry::bounds(page).width();
        out.derived.push_back({of, {to, " to its letter + ", wide - to, " letter"}, wide});
        out.parts.push_back({"page-" + number, of, Body{page}});
        if (said.isChosen("papers")) {
            const std::string on = out.parts.back().key;
            out.parts.push_back(
                {"front-" + number, "the front paper of " + of, Body{page}, Role::Liner, 1, on});
            const Shape back = geometry::transformed(page, Transform{-1, 0, 0, 1, wide, 0});
            out.parts.push_back({"back-" + number, "the back paper of " + of, Body{back}, Role::Liner});
        }
        to += sign.wide + gap;
    }
    out.said.emplace_back("Bind all pages at the left edge, the first one on top.");
    if (said.isChosen("papers"))
        out.said.emplace_back("Back papers are mirrored: with their right side up they fit the backs.");
    return out;
}

} // namespace

const Construction& wordStrip() {
    static const Construction it{
        "word-strip",
        "Word on a backing",
        "Letters run into one another, and a strip behind them that leaves a little of each above it.",
        {size("height", "Capitals high", 40, 5, 400, "of the letters"),
         choice("heights", "Letters", "all of one height|as the typeface has them",
                "one height looks like a row of blocks"),
         margin("overlap", "Letters overlap by", 6, 0, 40, "so that they hang together"),
         margin("above", "Stand above the backing", 8, 0, 300, "what is seen of every letter over its strip"),
         margin("below", "Backing below them", 5, 0, 100, "under the lowest letter"),
         margin("beside", "Backing beside them", 8, 0, 200, "at both ends")},
        buildStrip,
        "The word",
        "GULL",
        nullptr,
        true};
    return it;
}

const Construction& album() {
    static const Construction it{
        "album",
        "Album with a letter a page",
        "Every page reaches from the bound edge to its own letter; closed, they read as the word.",
        {size("height", "High", 90, 20, 400, "of pages and letters"),
         size("cover", "Before the first letter", 60, 0, 400,
              "what the shortest page is wide, without bound edge and letter"),
         margin("bound", "Bound edge", 15, 4, 80, "where the pages are held"),
         count("holes", "Holes", 3, 0, 40, "along the bound edge"),
         margin("hole", "Holes across", 5, 1, 40, "for rings or cord"),
         margin("into", "Pages reach into letters", 6, 1, 60, "so that letter and page hold together"),
         margin("gap", "Between letters", 1, 0, 40, "from the end of one to the next"),
         margin("space", "For a space", 15, 0, 100, "between words"),
         choice("papers", "Papers", "none|on front and back",
                "two more of each page, the back ones mirrored")},
        buildAlbum,
        "The word, a page for each letter",
        "TIDE",
        nullptr,
        true};
    return it;
}

} // namespace thinline::construct
