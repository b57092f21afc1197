// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Layers that become smaller: the same outline again and again at one step, and discs for a clear ball.
//
// A layered picture goes into a frame: its inner width fixes the outermost layer and its depth how many there can be, so their
// number is solved from what a layer is high, card and lift together.
#include "construct/Blank.h"
#include "construct/Figures.h"
#include "construct/Set.h"
#include "geometry/Offset.h"

#include <algorithm>
#include <cmath>

namespace thinline::construct {
namespace {

using base::Code;
using base::Error;
using design::Body;

constexpr Figure kFigures[]{Figure::Ellipse, Figure::Rectangle, Figure::Heart,
                            Figure::Star,    Figure::Flower,    Figure::Polygon};

/// A figure as wide as asked, in its usual proportions; a disc or square where it is one of those.
base::Result<geometry::Shape> figureOf(int which, double wideMm) {
    const Figure figure = kFigures[which];
    Recipe recipe = inProportion(figure, {wideMm});
    if (figure == Figure::Rectangle || figure == Figure::Ellipse)
        recipe.values[1] = wideMm;
    return make(recipe);
}

base::Result<Built> buildNested(const Said& said, const base::Progress& progress) {
    const double step = said["step"], depth = said["depth"], lift = said["lift"];
    int layers = said.count("layers");
    Built out;
    out.isInPlace = true;
    if (depth > 0) {
        const double each = said.t + lift;
        if (!(each > 0) || depth < said.t)
            return Error{Code::InvalidArgument,
                         "A frame " + mm(depth) + " deep holds no layer of this card."};
        layers = static_cast<int>(std::floor((depth + lift) / each + 1e-9)); // the first lies without a lift
        out.derived.push_back(
            {"layers that a depth of " + mm(depth) + " holds: " + std::to_string(layers) + "; in all",
             {std::to_string(layers) + " × ", said.t, " card + " + std::to_string(layers - 1) + " × ", lift,
              " lift"},
             layers * said.t + (layers - 1) * lift});
        if (layers > 60)
            return Error{Code::LimitExceeded,
                         "That depth holds " + std::to_string(layers) + " layers; 60 are the most."};
    }
    auto whole = figureOf(said.count("figure"), said["width"]);
    if (!whole)
        return whole.error();
    for (int i = 0; i < layers; ++i) {
        auto shapes = i == 0 ? base::Result<geometry::Parallel>(geometry::Parallel{{*whole}})
                             : geometry::offset({*whole}, -step * i, {}, progress);
        if (!shapes)
            return shapes.error();
        if (shapes->shapes.size() != 1)
            return Error{Code::InvalidArgument,
                         "Of layer " + std::to_string(i + 1) +
                             (shapes->shapes.empty() ? " nothing is left" : " several parts are left") +
                             "; " + std::to_string(i) + " layers are the most at this step and width."};
        const std::string number = std::to_string(i + 1);
        Body body{shapes->shapes.front()};
        if (said.isChosen("form") && i + 1 < layers) { // a ring: its opening lets the next one show
            auto inner = geometry::offset({*whole}, -(step * (i + 1)), {}, progress);
            if (!inner)
                return inner.error();
            if (inner->shapes.size() == 1)
                pierce(body.shape, inner->shapes.front().outline);
        }
        out.parts.push_back({"layer-" + number, "layer " + number, std::move(body)});
    }
    out.derived.push_back({"width of the innermost",
                           {said["width"], " − 2 × " + std::to_string(layers - 1) + " × ", step},
                           said["width"] - 2 * (layers - 1) * step});
    return out;
}

base::Result<Built> buildBall(const Said& said, const base::Progress&) {
    const double inner = said["inner"], mouth = said["mouth"], play = said["play"], wide = inner - play,
                 face = wide - said["rim"];
    if (!(face > 3))
        return Error{
            Code::InvalidArgument,
            "Nothing is left of the faces; the ball's inner diameter must be larger than play and rim."};
    Built out;
    out.parts.push_back({"backing", "the backing disc", Body{disc(wide)}, Role::Pane});
    out.parts.push_back({"front-face", "the front face", Body{disc(face)}});
    out.parts.push_back({"back-face", "the back face", Body{disc(face)}});
    out.derived.push_back({"backing", {inner, " inside − ", play, " play"}, wide});
    out.derived.push_back({"faces", {wide, " backing − ", said["rim"], " rim"}, face});
    out.said.emplace_back(
        wide <= mouth
            ? "The disc goes through the mouth as it is."
            : "The disc is wider than the mouth: roll it, put it in and let it spring open. Try it bare "
              "first; with faces on both sides it is too stiff, so glue the second one inside.");
    return out;
}

} // namespace

const Construction& nested() {
    static const Construction it{
        "nested",
        "Nested layers",
        "The same outline again and again, smaller by one step; or as many as a frame's depth holds.",
        {choice("figure", "Outline", "disc|square|heart|star|flower|hexagon", "of every layer"),
         size("width", "Outermost wide", 120, 10, 1000, "for a frame: its inner width"),
         count("layers", "Layers", 7, 1, 60, "when no depth is given"),
         margin("step", "Step", 6, 0.5, 100, "from one outline to the next"),
         choice("form", "Layers are", "solid|rings", "a ring lets the next one show through its opening"),
         margin("depth", "Frame deep", 0, 0, 200,
                "how many layers it holds is solved; 0 to take the number above"),
         margin("lift", "Lift between layers", 2, 0, 20, "foam, or nothing")},
        buildNested};
    return it;
}

const Construction& ball() {
    static const Construction it{
        "ball-discs",
        "Discs for a clear ball",
        "A clear backing disc for a ball that opens at its neck, and a face for both its sides.",
        {size("inner", "Inner diameter", 76, 20, 300, "of the ball, measured inside"),
         size("mouth", "Mouth", 24, 5, 300, "the diameter of its neck"),
         margin("play", "Play", 2, 0.5, 20, "in all, so that the disc does not rub"),
         margin("rim", "Clear rim", 4, 0, 60, "how much smaller the faces are, in all")},
        buildBall,
        nullptr,
        "",
        "Clear balls and hooks are nothing for small children."};
    return it;
}

} // namespace thinline::construct
