// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "base/Parameter.h"
#include "base/Result.h"
#include "geometry/Shape.h"

#include <optional>
#include <vector>

/// Pieces made from measures alone.
namespace thinline::construct {

enum class Figure { Rectangle, Ellipse, Polygon, Star, Heart, Drop, Ring, Arc, Flower };

struct FigureInfo {
    Figure figure;
    const char* name;  ///< in files: "rectangle"
    const char* label; ///< on the screen
    std::vector<base::Parameter> parameters;
};
/// Every basic figure, in the order in which it is offered.
const std::vector<FigureInfo>& figureInfos();
const FigureInfo& infoOf(Figure figure);
/// Returns the figure of this name, or null.
const FigureInfo* figureNamed(const std::string& name);

/// A figure by exact measure. It is kept as it was typed, so that it can be opened again.
struct Recipe {
    Figure figure = Figure::Rectangle;
    std::vector<double> values = {}; ///< of the figure's parameters; what is missing takes its usual value

    bool operator==(const Recipe&) const = default;
};

/// Returns the recipe of a figure of which only some measures are said, in the order of its parameters. The other
/// lengths keep the figure's usual proportions to the first length that is said; counts, angles and choices are the usual.
Recipe inProportion(Figure figure, const std::vector<std::optional<double>>& said);
/// Returns the recipe of the same figure so many times as large: every length grows.
Recipe sizedBy(Recipe recipe, double factor);
/// Returns the recipe of the figure stretched, when a recipe can say that: a plain rectangle, an ellipse, a heart.
std::optional<Recipe> stretchedBy(Recipe recipe, double factorX, double factorY);

/// Returns the figure, the upper left corner of its box at the origin.
/// Shape:  one outline, clockwise on screen, a ring with its opening; circles and ellipses as cubics of at
///         most 45 degrees (radius true to 5 millionths). A regular polygon and a star stand on a flat side
///         or point upwards, measured across their corners; a heart and a drop are exactly as wide and high
///         as asked.
/// Errors: InvalidArgument for a value out of range, and for measures that contradict one another (a corner
///         larger than half a side, an inner measure not below the outer one), naming both.
base::Result<geometry::Shape> make(const Recipe& recipe);

} // namespace thinline::construct
