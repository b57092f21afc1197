// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "construct/Figures.h"

#include "geometry/Boolean.h"
#include "geometry/Measures.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

namespace thinline::construct {
namespace {

constexpr double kPi = std::numbers::pi;

geometry::Shape must(const Recipe& recipe) {
    auto shape = make(recipe);
    if (!shape)
        throw std::runtime_error(shape.error().message);
    return shape.take();
}

struct Row {
    Recipe recipe;
    double width, height, area;
};

// Areas and boxes by the formulas of plane geometry (Euclid; Archimedes for the circle).
const std::vector<Row> kRows = {
    {{Figure::Rectangle, {80, 50}}, 80, 50, 4000},
    {{Figure::Rectangle, {80, 50, 1, 10}}, 80, 50, 4000 - (4 - kPi) * 100},
    {{Figure::Rectangle, {80, 50, 2, 10}}, 80, 50, 4000 - 2 * 100},
    {{Figure::Rectangle, {80, 50, 3, 10}}, 80, 50, 4000 - 4 * 100},
    {{Figure::Rectangle, {50, 50, 1, 25}}, 50, 50, kPi * 625},
    {{Figure::Ellipse, {60, 40}}, 60, 40, kPi * 30 * 20},
    {{Figure::Polygon, {60, 6}}, 60, 30 * std::sqrt(3), 1.5 * std::sqrt(3) * 900},
    {{Figure::Polygon, {60, 3}}, 30 * std::sqrt(3), 45, 0.75 * std::sqrt(3) * 900},
    {{Figure::Polygon, {60, 4}}, 30 * std::sqrt(2), 30 * std::sqrt(2), 1800},
    {{Figure::Star, {60, 5, 25}},
     60 * std::sin(2 * kPi / 5),
     30 + 30 * std::cos(kPi / 5),
     5 * 30 * 12.5 * std::sin(kPi / 5)},
    {{Figure::Heart, {60, 54}}, 60, 54, -1},
    {{Figure::Drop, {40, 70}}, 40, 70, -1},
    {{Figure::Ring, {60, 40}}, 60, 60, kPi*(900 - 400)},
    {{Figure::Arc, {100, 70, 120}}, 100 * std::sin(kPi / 3), 50 - 35 * 0.5, kPi*(2500 - 1225) / 3},
    {{Figure::Arc, {100, 0, 90}}, 100 * std::sin(kPi / 4), 50, kPi * 2500 / 4},
    {{Figure::Flower, {60, 6, 40}}, -1, 60, -1},
};

TEST(Figures, HaveExactlyTheMeasuresAskedFor) {
    for (const Row& row : kRows) {
        SCOPED_TRACE(std::string(infoOf(row.recipe.figure).name));
        const geometry::Shape shape = must(row.recipe);
        const geometry::Box box = geometry::bounds(shape);
        EXPECT_NEAR(box.least.x, 0, 1e-9);
        EXPECT_NEAR(box.least.y, 0, 1e-9);
        if (row.width > 0) {
            EXPECT_NEAR(box.width(), row.width, 1e-3);
        }
        EXPECT_NEAR(box.height(), row.height, 1e-3);
        if (row.area > 0) {
            EXPECT_NEAR(geometry::area(shape), row.area, row.area * 1e-5);
        }
        EXPECT_GT(geometry::signedArea(shape.outline), 0) << "clockwise on screen";
    }
}

TEST(Figures, AreSoundShapes) {
    // What the set operations make of a figure joined with itself is the figure.
    for (const FigureInfo& info : figureInfos()) {
        SCOPED_TRACE(info.name);
        const geometry::Shape shape = must({info.figure});
        const auto welded = geometry::weld({shape});
        ASSERT_TRUE(welded);
        ASSERT_EQ(welded->size(), 1u);
        EXPECT_NEAR(geometry::area((*welded)[0]), geometry::area(shape), 1e-3);
        EXPECT_EQ((*welded)[0].openings.size(), shape.openings.size());
    }
}

TEST(Figures, ADropIsADiscAndTwoTangents) {
    // Area of the disc outside the two touching radii, and of the two right triangles (Pythagoras).
    const double r = 20, away = 50, open = std::acos(r / away);
    const double area = r * r * (kPi - open) + r * std::sqrt(away * away - r * r);
    EXPECT_NEAR(geometry::area(must({Figure::Drop, {40, 70}})), area, area * 1e-5);
}

TEST(Figures, SizedAreTheSameFigureInOtherMeasures) {
    for (const Row& row : kRows) {
        SCOPED_TRACE(std::string(infoOf(row.recipe.figure).name));
        constexpr double kFactor = 1.75;
        const geometry::Shape given = must(row.recipe), sized = must(sizedBy(row.recipe, kFactor));
        const geometry::Box small = geometry::bounds(given), large = geometry::bounds(sized);
        EXPECT_NEAR(large.width(), kFactor * small.width(), 1e-6);
        EXPECT_NEAR(large.height(), kFactor * small.height(), 1e-6);
        EXPECT_NEAR(geometry::area(sized), kFactor * kFactor * geometry::area(given), 1e-3);
    }
    // An absent measure has its usual value, and is sized with the others.
    EXPECT_EQ(sizedBy({Figure::Rectangle, {}}, 2).values[0], 160);
}

TEST(Figures, UnsaidMeasuresFollowTheSaidOne) {
    EXPECT_EQ(inProportion(Figure::Heart, {120}).values, (std::vector<double>{120, 108}));
    EXPECT_EQ(inProportion(Figure::Heart, {std::nullopt, 108}).values, (std::vector<double>{120, 108}));
    EXPECT_EQ(inProportion(Figure::Star, {30, 7}).values, (std::vector<double>{30, 7, 12.5}));
    EXPECT_EQ(inProportion(Figure::Ring, {30}).values, (std::vector<double>{30, 20}));
    EXPECT_EQ(inProportion(Figure::Rectangle, {100, 20}).values, (std::vector<double>{100, 20, 0, 6.25}));
    EXPECT_EQ(inProportion(Figure::Arc, {}).values, (std::vector<double>{100, 70, 120}));
    for (const FigureInfo& info : figureInfos()) // a tenth or ten times of it is a sound figure
        for (const double factor : {0.1, 10.0})
            EXPECT_TRUE(make(inProportion(info.figure, {info.parameters.front().usual * factor})))
                << info.name;
}

TEST(Figures, StretchedOnlyWhereARecipeCanSayIt) {
    const std::vector<Recipe> plain = {
        {Figure::Rectangle, {80, 50}}, {Figure::Ellipse, {60, 40}}, {Figure::Heart, {60, 54}}};
    for (const Recipe& recipe : plain) {
        SCOPED_TRACE(std::string(infoOf(recipe.figure).name));
        const auto stretched = stretchedBy(recipe, 2, 0.5);
        ASSERT_TRUE(stretched);
        const geometry::Shape want = geometry::transformed(must(recipe), geometry::Transform::scale(2, 0.5));
        EXPECT_NEAR(geometry::area(must(*stretched)), geometry::area(want), 1e-6);
        EXPECT_NEAR(geometry::bounds(must(*stretched)).width(), geometry::bounds(want).width(), 1e-6);
        EXPECT_NEAR(geometry::bounds(must(*stretched)).height(), geometry::bounds(want).height(), 1e-6);
    }
    for (const Recipe& bent : {Recipe{Figure::Rectangle, {80, 50, 1, 10}}, Recipe{Figure::Star, {60, 5, 25}},
                               Recipe{Figure::Polygon, {60, 6}}, Recipe{Figure::Ring, {60, 40}}})
        EXPECT_FALSE(stretchedBy(bent, 2, 1)) << infoOf(bent.figure).name;
}

TEST(Figures, AFlowerHasItsPetals) {
    for (int petals : {3, 5, 12}) {
        const geometry::Shape flower = must({Figure::Flower, {80, static_cast<double>(petals), 50}});
        const double half = kPi / petals, wide = 25 * std::sin(half), high = 40 - 25 * std::cos(half);
        const double area = petals * (25 * 25 * std::sin(half) * std::cos(half) + kPi * wide * high / 2);
        EXPECT_NEAR(geometry::area(flower), area, area * 1e-5) << petals;
    }
}

TEST(Figures, RefuseMeasuresThatContradictOneAnother) {
    const std::vector<std::pair<Recipe, std::string>> rows = {
        {{Figure::Rectangle, {80, 50, 1, 26}},
         "Corners of 26.00 mm do not fit: at most half the shorter side, 25.00 mm."},
        {{Figure::Rectangle, {0, 50}}, "\"Width\" goes from 0.1 to 2000 mm."},
        {{Figure::Star, {60, 5, 60}}, "The notches' diameter must be less than the points'."},
        {{Figure::Star, {60, 2, 20}}, "\"Points\" goes from 3 to 200."},
        {{Figure::Drop, {40, 40}}, "A drop is higher than wide; a height above 40.00 mm makes one."},
        {{Figure::Ring, {40, 40}},
         "The inner diameter, 40.00 mm, must be less than the outer one, 40.00 mm."},
        {{Figure::Ellipse, {std::nan(""), 40}}, "\"Width\" goes from 0.1 to 2000 mm."},
    };
    for (const auto& [recipe, says] : rows) {
        const auto shape = make(recipe);
        ASSERT_FALSE(shape) << says;
        EXPECT_EQ(shape.error().message, says);
    }
}

} // namespace
} // namespace thinline::construct
