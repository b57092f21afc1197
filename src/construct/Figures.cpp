// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Figures from measures.
//
// A figure is a recipe: its kind and a few numbers. It stays one in the job, so it can be opened again and
// changed, and a design that is resized keeps figures whose numbers say what they measure. That is the
// reason for the two functions beside `make`: `sizedBy` multiplies lengths and leaves counts and angles
// alone, and `stretchedBy` answers whether a figure stretched in one direction is still a figure of its
// kind. An ellipse is, a rectangle with round corners is not, because its corners would no longer be
// round; then the recipe is kept with a stretch beside it, and told.
//
// Every figure is exact in what it says: a star's points lie on the circle of the given diameter, a
// flower's petals reach theirs, a ring's two circles are round within what four cubics can do. Symmetrical
// figures stand upright, a corner or petal on top. Outlines run clockwise (y down) with openings the other
// way, and begin at zero: where it lies in the design is the source's matter.
//
// Each parameter has its least and largest value, and those that depend on one another (an inner diameter
// must be below the outer one) are checked with a sentence that names both.
#include "construct/Figures.h"

#include "base/Length.h"
#include "geometry/Arcs.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace thinline::construct {
namespace {

using base::Code;
using base::Error;
using geometry::Contour;
using geometry::Point;
using geometry::Segment;
using geometry::Shape;
using Values = std::vector<double>;

constexpr double kPi = std::numbers::pi;
constexpr double kUp = -kPi / 2; // clockwise on screen from the right

Point onCircle(double radius, double angle) {
    return {radius * std::cos(angle), radius * std::sin(angle)};
}

void lineTo(Contour& contour, Point to) {
    contour.segments.push_back(Segment::line(to));
}

/// Ends the contour exactly where it began.
Contour closed(Contour contour) {
    contour.segments.back().end = contour.start;
    if (contour.segments.back().isLine)
        contour.segments.back() = Segment::line(contour.start);
    return contour;
}

enum class Corner { Square, Round, Cut, Notched };

base::Result<Shape> rectangle(const Values& v) {
    const double w = v[0], h = v[1];
    const auto corner = static_cast<Corner>(v[2]);
    const double r = corner == Corner::Square ? 0 : v[3];
    if (r > std::min(w, h) / 2)
        return Error{Code::InvalidArgument, "Corners of " + base::formatNumber(r, 2) +
                                                " mm do not fit: at most half the shorter side, " +
                                                base::formatNumber(std::min(w, h) / 2, 2) + " mm."};
    if (!(r > 0))
        return Shape{geometry::contourThrough({{0, 0}, {w, 0}, {w, h}, {0, h}}), {}};
    // Clockwise from the upper left; at each corner the side comes in along `in` and leaves along `out`.
    struct Turn {
        Point at, in, out;
        double from;
    };
    const Turn turns[] = {{{w, 0}, {1, 0}, {0, 1}, kUp},
                          {{w, h}, {0, 1}, {-1, 0}, 0},
                          {{0, h}, {-1, 0}, {0, -1}, kPi / 2},
                          {{0, 0}, {0, -1}, {1, 0}, kPi}};
    Contour c{{r, 0}, {}};
    for (const Turn& turn : turns) {
        const Point begin = turn.at - turn.in * r, end = turn.at + turn.out * r;
        const Point inner = begin + turn.out * r;
        if (geometry::distance(c.segments.empty() ? c.start : c.segments.back().end, begin) > 1e-12)
            lineTo(c, begin);
        if (corner == Corner::Round) {
            geometry::appendEllipseArc(c, inner, r, r, turn.from, kPi / 2);
        } else if (corner == Corner::Cut) {
            lineTo(c, end);
        } else {
            lineTo(c, inner);
            lineTo(c, end);
        }
    }
    return Shape{closed(std::move(c)), {}};
}

Shape polygon(int sides, double radius) {
    // Flat side down: the lowest side's middle points straight down.
    geometry::Polygon points;
    for (int i = 0; i < sides; ++i)
        points.push_back(onCircle(radius, kPi / 2 + kPi / sides + 2 * kPi * i / sides));
    return {geometry::contourThrough(points), {}};
}

base::Result<Shape> star(int points, double outer, double inner) {
    if (!(inner < outer))
        return Error{Code::InvalidArgument, "The notches' diameter must be less than the points'."};
    geometry::Polygon through;
    for (int i = 0; i < 2 * points; ++i)
        through.push_back(onCircle(i % 2 ? inner / 2 : outer / 2, kUp + kPi * i / points));
    return Shape{geometry::contourThrough(through), {}};
}

/// Two lobes of three quarters of a circle each over a square standing on its corner, then stretched.
Shape heart() {
    const double s = 1 / std::numbers::sqrt2; // the square's side is 1; lobes have radius 1/2
    Contour c{{0, -s}, {}};                   // the notch
    geometry::appendEllipseArc(c, {s / 2, -s / 2}, 0.5, 0.5, -3 * kPi / 4, kPi);
    lineTo(c, {0, s});
    lineTo(c, {-s, 0});
    geometry::appendEllipseArc(c, {-s / 2, -s / 2}, 0.5, 0.5, 3 * kPi / 4, kPi);
    return {closed(std::move(c)), {}};
}

/// A circle below and its two tangents from a point above.
base::Result<Shape> drop(double width, double height) {
    const double r = width / 2, away = height - r; // from the tip to the circle's middle
    if (!(away > r))
        return Error{Code::InvalidArgument, "A drop is higher than wide; a height above " +
                                                base::formatNumber(width, 2) + " mm makes one."};
    const double open = std::acos(r / away); // between the axis and the radius to the point of touch
    Contour c{{0, -away}, {}};
    lineTo(c, onCircle(r, kUp + open));
    geometry::appendEllipseArc(c, {0, 0}, r, r, kUp + open, 2 * kPi - 2 * open);
    lineTo(c, {0, -away});
    return Shape{closed(std::move(c)), {}};
}

base::Status innerBelowOuter(double outer, double inner) {
    if (inner < outer)
        return base::Done{};
    return Error{Code::InvalidArgument, "The inner diameter, " + base::formatNumber(inner, 2) +
                                            " mm, must be less than the outer one, " +
                                            base::formatNumber(outer, 2) + " mm."};
}

base::Result<Shape> ring(double outer, double inner) {
    if (auto ok = innerBelowOuter(outer, inner); !ok)
        return ok.error();
    return Shape{geometry::ellipse({0, 0}, outer / 2, outer / 2),
                 {geometry::reversed(geometry::ellipse({0, 0}, inner / 2, inner / 2))}};
}

/// A band along a circle, symmetrical about the top.
base::Result<Shape> arc(double outer, double inner, double sweepDeg) {
    if (auto ok = innerBelowOuter(outer, inner); !ok)
        return ok.error();
    const double sweep = sweepDeg * kPi / 180, from = kUp - sweep / 2;
    Contour c{onCircle(outer / 2, from), {}};
    geometry::appendEllipseArc(c, {0, 0}, outer / 2, outer / 2, from, sweep);
    lineTo(c, onCircle(inner / 2, from + sweep));
    if (inner > 0)
        geometry::appendEllipseArc(c, {0, 0}, inner / 2, inner / 2, from + sweep, -sweep);
    lineTo(c, c.start);
    return Shape{closed(std::move(c)), {}};
}

/// Petals that reach the outer circle, each half an ellipse over the chord between two notches; a deeper
/// flower has its notches nearer to the middle.
base::Result<Shape> flower(int petals, double outer, double inner) {
    if (!(inner < outer))
        return Error{Code::InvalidArgument, "The notches' diameter must be less than the petals'."};
    const double half = kPi / petals, notch = inner / 2;
    // A petal is half an ellipse over the chord between two notches.
    const double chordAway = notch * std::cos(half), wide = notch * std::sin(half),
                 high = outer / 2 - chordAway;
    Contour c{onCircle(notch, kUp - half), {}};
    for (int i = 0; i < petals; ++i) {
        Contour petal{{-wide, 0}, {}};
        geometry::appendEllipseArc(petal, {0, 0}, wide, high, kPi, kPi);
        // Upright petal, its chord's middle moved out, turned to its place.
        const double turn = 2 * kPi * i / petals, cosine = std::cos(turn), sine = std::sin(turn);
        const geometry::Transform place =
            geometry::Transform::move({0, -chordAway}).then({cosine, sine, -sine, cosine, 0, 0});
        const Contour placed = geometry::transformed(petal, place);
        c.segments.insert(c.segments.end(), placed.segments.begin(), placed.segments.end());
    }
    return Shape{closed(std::move(c)), {}};
}

base::Result<Shape> drawn(const Recipe& recipe, const Values& v) {
    switch (recipe.figure) {
    case Figure::Rectangle:
        return rectangle(v);
    case Figure::Ellipse:
        return Shape{geometry::ellipse({0, 0}, v[0] / 2, v[1] / 2), {}};
    case Figure::Polygon:
        return polygon(static_cast<int>(v[1]), v[0] / 2);
    case Figure::Star:
        return star(static_cast<int>(v[1]), v[0], v[2]);
    case Figure::Heart: {
        const Shape plain = heart();
        const geometry::Box box = geometry::bounds(plain);
        return geometry::transformed(plain,
                                     geometry::Transform::scale(v[0] / box.width(), v[1] / box.height()));
    }
    case Figure::Drop:
        return drop(v[0], v[1]);
    case Figure::Ring:
        return ring(v[0], v[1]);
    case Figure::Arc:
        return arc(v[0], v[1], v[2]);
    case Figure::Flower:
        return flower(static_cast<int>(v[1]), v[0], v[2]);
    }
    return Error{Code::InvalidArgument, "This figure is not known."};
}

} // namespace

const std::vector<FigureInfo>& figureInfos() {
    using base::Quantity;
    constexpr double kMost = 2000; // the reach of the shape operations
    const auto length = [](const char* name, const char* label, double usual, double least = 0.1) {
        return base::Parameter{name, label, Quantity::Length, usual, least, kMost};
    };
    const auto count = [](const char* name, const char* label, double usual, double least) {
        return base::Parameter{name, label, Quantity::Count, usual, least, 200};
    };
    static const std::vector<FigureInfo> infos{
        {Figure::Rectangle,
         "rectangle",
         "Rectangle",
         {length("width", "Width", 80),
          length("height", "Height", 50),
          {"corners", "Corners", Quantity::Choice, 0, 0, 0, "square|round|cut|notched"},
          length("corner", "Corner size", 5, 0)}},
        {Figure::Ellipse,
         "ellipse",
         "Ellipse",
         {length("width", "Width", 60), length("height", "Height", 60)}},
        {Figure::Polygon,
         "polygon",
         "Regular polygon",
         {length("across", "Across the corners", 60), count("sides", "Sides", 6, 3)}},
        {Figure::Star,
         "star",
         "Star",
         {length("across", "Diameter of the points", 60), count("points", "Points", 5, 3),
          length("inner", "Diameter of the notches", 25)}},
        {Figure::Heart, "heart", "Heart", {length("width", "Width", 60), length("height", "Height", 54)}},
        {Figure::Drop, "drop", "Drop", {length("width", "Width", 40), length("height", "Height", 70)}},
        {Figure::Ring,
         "ring",
         "Ring",
         {length("outer", "Outer diameter", 60), length("inner", "Inner diameter", 40)}},
        {Figure::Arc,
         "arc",
         "Arc",
         {length("outer", "Outer diameter", 100),
          length("inner", "Inner diameter", 70, 0),
          {"sweep", "Opens over", Quantity::Angle, 120, 1, 359}}},
        {Figure::Flower,
         "flower",
         "Flower",
         {length("across", "Diameter of the petals", 60), count("petals", "Petals", 6, 3),
          length("inner", "Diameter of the notches", 40)}},
    };
    return infos;
}

const FigureInfo& infoOf(Figure figure) {
    return *std::find_if(figureInfos().begin(), figureInfos().end(),
                         [&](const FigureInfo& info) { return info.figure == figure; });
}

const FigureInfo* figureNamed(const std::string& name) {
    for (const FigureInfo& info : figureInfos())
        if (name == info.name)
            return &info;
    return nullptr;
}

Recipe inProportion(Figure figure, const std::vector<std::optional<double>>& said) {
    const std::vector<base::Parameter>& parameters = infoOf(figure).parameters;
    const auto isSaid = [&](size_t i) { return i < said.size() && said[i].has_value(); };
    double factor = 1;
    for (size_t i = parameters.size(); i-- > 0;)
        if (isSaid(i) && parameters[i].quantity == base::Quantity::Length && parameters[i].usual > 0)
            factor = *said[i] / parameters[i].usual;
    Recipe out{figure, {}};
    for (size_t i = 0; i < parameters.size(); ++i) {
        const bool isLength = parameters[i].quantity == base::Quantity::Length;
        out.values.push_back(isSaid(i) ? *said[i] : parameters[i].usual * (isLength ? factor : 1));
    }
    return out;
}

Recipe sizedBy(Recipe recipe, double factor) {
    const std::vector<base::Parameter>& parameters = infoOf(recipe.figure).parameters;
    for (size_t i = recipe.values.size(); i < parameters.size(); ++i)
        recipe.values.push_back(parameters[i].usual);
    for (size_t i = 0; i < parameters.size(); ++i)
        if (parameters[i].quantity == base::Quantity::Length)
            recipe.values[i] *= factor;
    return recipe;
}

std::optional<Recipe> stretchedBy(Recipe recipe, double factorX, double factorY) {
    recipe = sizedBy(std::move(recipe), 1); // every value written out
    const bool isPlain =
        recipe.figure == Figure::Ellipse || recipe.figure == Figure::Heart ||
        (recipe.figure == Figure::Rectangle && static_cast<Corner>(recipe.values[2]) == Corner::Square);
    if (!isPlain)
        return std::nullopt;
    recipe.values[0] *= factorX;
    recipe.values[1] *= factorY;
    return recipe;
}

base::Result<Shape> make(const Recipe& recipe) {
    const auto values = base::checkedValues(infoOf(recipe.figure).parameters, recipe.values);
    if (!values)
        return values.error();
    auto shape = drawn(recipe, *values);
    if (!shape)
        return shape.error();
    const geometry::Box box = geometry::bounds(*shape);
    return geometry::transformed(*shape, geometry::Transform::move(Point{} - box.least));
}

} // namespace thinline::construct
