// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Offset.h"
#include "geometry/Placing.h"
#include "raster/Turn.h"
#include "support/Drawings.h"
#include "support/Shapes.h"
#include "trace/Deviation.h"
#include "trace/FlatArt.h"
#include "trace/Kind.h"

#include <gtest/gtest.h>

#include <array>
#include <map>
#include <numbers>
#include <random>
#include <set>

namespace thinline::trace {
namespace {

using std::numbers::pi;
using support::disc;
using support::Drawing;
using support::rectangle;

constexpr raster::Rgb kSea{47, 111, 143}, kRust{200, 71, 43}, kSand{242, 234, 216}, kGrass{92, 140, 80};

/// A boat on the sea under a sun: 8 px per mm.
raster::Picture harbour() {
    return Drawing(480, 400)
        .fill(rectangle(40.3, 250.6, 400, 110), kSea)
        .fill(disc({350.2, 110.7}, 60), kRust)
        .fill(disc({350.2, 110.7}, 25), kSand)
        .fill({geometry::contourThrough({{120, 230}, {240, 230}, {210, 290}, {150, 290}}), {}}, kGrass)
        .picture();
}

raster::Picture noisy(raster::Picture picture, double levels, unsigned seed) {
    std::mt19937 random(seed);
    std::normal_distribution<double> noise(0, levels);
    for (std::uint8_t& v : picture.rgb)
        v = static_cast<std::uint8_t>(std::clamp(std::lround(v + noise(random)), 0L, 255L));
    return picture;
}

Tracing must(const raster::Picture& picture, const Recipe& recipe) {
    auto out = traced(picture, 0.125, recipe);
    EXPECT_TRUE(out) << (out ? "" : out.error().message);
    return out ? out.take() : Tracing{};
}

const Area* ofColour(const Tracing& tracing, raster::Rgb colour) {
    for (const Area& area : tracing.areas)
        if (raster::colourDistance(area.colour, colour) < 0.03)
            return &area;
    return nullptr;
}

TEST(FlatArt, ColoursBecomeAreasWhereTheyAre) {
    for (double levels : {0.0, 8.0}) {
        const Tracing t = must(noisy(harbour(), levels, 4), {.mode = Mode::FlatArt});
        EXPECT_EQ(t.areas.size(), 4u) << levels;
        EXPECT_EQ(t.palette.size(), 5u) << "with the paper";
        const Area* sun = ofColour(t, kRust);
        ASSERT_NE(sun, nullptr);
        ASSERT_EQ(sun->shape.openings.size(), 1u);
        // Known circles: the mean error stays under the goal of 0.05 px, 0.06 with noise.
        double off = 0;
        int count = 0;
        for (geometry::Point p : geometry::flatten(sun->shape.outline, 0.02)) {
            off += std::abs(geometry::distance(p, {350.2, 110.7}) - 60);
            ++count;
        }
        EXPECT_LT(off / count, levels > 0 ? 0.1 : 0.06) << levels;
        const Area* boat = ofColour(t, kGrass);
        ASSERT_NE(boat, nullptr);
        for (geometry::Point corner : {geometry::Point{120, 230}, {240, 230}, {210, 290}, {150, 290}})
            EXPECT_TRUE(std::any_of(boat->shape.outline.segments.begin(), boat->shape.outline.segments.end(),
                                    [&](const auto& s) { return geometry::distance(s.end, corner) < 1; }))
                << corner.x << " " << corner.y;
    }
}

TEST(FlatArt, WhatEnclosesLiesBelowAndTheLargerElse) {
    const Tracing t = must(harbour(), {.mode = Mode::FlatArt});
    EXPECT_LT(ofColour(t, kRust)->level, ofColour(t, kSand)->level);
    EXPECT_LT(ofColour(t, kSea)->level, ofColour(t, kGrass)->level);
}

TEST(FlatArt, ColoursAreMergedLeftOutOrLimited) {
    const Tracing merged = must(harbour(), {.mode = Mode::FlatArt, .merges = {{kSand, kRust}}});
    EXPECT_EQ(merged.areas.size(), 3u);
    EXPECT_TRUE(ofColour(merged, kRust)->shape.openings.empty());
    const Tracing without = must(harbour(), {.mode = Mode::FlatArt, .notCut = {kSea}});
    EXPECT_EQ(ofColour(without, kSea), nullptr);
    EXPECT_EQ(without.areas.size(), 3u);
    EXPECT_EQ(must(harbour(), {.mode = Mode::FlatArt, .colours = 3}).palette.size(), 3u);
}

TEST(FlatArt, OddPicturesAreRefusedOrTracedButNeverHang) {
    raster::Picture dot{1, 1, {10, 20, 30}};
    for (Mode mode : {Mode::LineDrawing, Mode::FlatArt, Mode::Photo})
        EXPECT_FALSE(traced(dot, 0.1, {.mode = mode}));
    raster::Picture checker{300, 200, {}}, snow{300, 200, {}};
    std::mt19937 random(3);
    for (int i = 0; i < 300 * 200; ++i)
        for (int k = 0; k < 3; ++k) {
            checker.rgb.push_back((i / 300 + i) % 2 ? 255 : 0);
            snow.rgb.push_back(static_cast<std::uint8_t>(random()));
        }
    for (const raster::Picture* picture : {&checker, &snow})
        for (Mode mode : {Mode::LineDrawing, Mode::FlatArt, Mode::Photo}) {
            const auto out = traced(*picture, 0.125, {.mode = mode});
            EXPECT_GT(out ? 99u : out.error().message.size(), 40u);
        }
}

TEST(FlatArt, RefusesAPictureOfOneColour) {
    const auto out = traced(Drawing(60, 60).picture(), 0.1, {.mode = Mode::FlatArt});
    EXPECT_EQ(out.error().code, base::Code::Degenerate);
    const std::atomic<bool> stop = true;
    EXPECT_EQ(traced(harbour(), 0.1, {.mode = Mode::FlatArt}, base::Progress(&stop, nullptr)).error().code,
              base::Code::Cancelled);
}

/// Light from the left over a few hills.
raster::Picture photo() {
    raster::Picture out{600, 400, {}};
    for (int y = 0; y < 400; ++y)
        for (int x = 0; x < 600; ++x) {
            const double light = 140 + 70 * std::sin(x / 70.0) * std::cos(y / 55.0) + (x - 300) / 10.0;
            for (int k = 0; k < 3; ++k)
                out.rgb.push_back(static_cast<std::uint8_t>(std::clamp(light, 0.0, 255.0)));
        }
    return noisy(out, 6, 9);
}

TEST(Photo, DarkerLayersLieOnLighterOnes) {
    const Tracing t = must(photo(), {.mode = Mode::Photo, .tones = 4});
    std::map<int, std::vector<geometry::Shape>> layers;
    for (const Area& area : t.areas)
        layers[area.level].push_back(area.shape);
    ASSERT_EQ(layers.size(), 4u);
    EXPECT_NEAR(geometry::area(layers[0].front()), 600 * 400, 1) << "the lightest is the whole picture";
    for (int level = 1; level < 4; ++level) {
        const auto beyond = geometry::subtract(layers[level], layers[level - 1]);
        double area = 0;
        for (const geometry::Shape& shape : *beyond)
            area += geometry::area(shape);
        EXPECT_LT(area, 0.5) << "layer " << level << " reaches beyond the one below";
    }
    for (size_t i = 1; i < t.palette.size(); ++i)
        EXPECT_LT(t.palette[i][0], t.palette[i - 1][0]) << "darkest last";
}

TEST(Photo, NothingIsSmallerOrNarrowerThanAskedFor) {
    const Tracing t = must(photo(), {.mode = Mode::Photo, .tones = 5, .neckMm = 2});
    for (const Area& area : t.areas) {
        EXPECT_GT(geometry::area(area.shape) * 0.125 * 0.125, 3) << "a speck";
        for (const geometry::Contour& opening : area.shape.openings)
            EXPECT_GT(-geometry::signedArea(opening) * 0.125 * 0.125, 3) << "a pinhole";
        // Taking half the neck off all round and more keeps it in one piece.
        const auto eroded = geometry::offset({area.shape}, -0.8 / 0.125);
        EXPECT_EQ(eroded->shapes.size(), 1u) << "torn at a neck";
    }
}

TEST(Photo, RefusesTonesOutOfRangeAndFlatPictures) {
    EXPECT_EQ(traced(photo(), 0.1, {.mode = Mode::Photo, .tones = 9}).error().code,
              base::Code::InvalidArgument);
    EXPECT_EQ(traced(Drawing(50, 50).picture(), 0.1, {.mode = Mode::Photo}).error().code,
              base::Code::Degenerate);
}

/// A box of ink, its top broken by three gaps of 0.3, 0.8 and 1.5 mm.
raster::Picture leaky() {
    Drawing drawing(500, 300);
    drawing.ring(rectangle(40, 60, 420, 180), rectangle(48, 68, 404, 164));
    drawing.ink(rectangle(176, 60, 8, 180)).ink(rectangle(316, 60, 8, 180));
    drawing.fill(rectangle(100, 58, 2.4, 12), {255, 255, 255});
    drawing.fill(rectangle(240, 58, 6.4, 12), {255, 255, 255});
    drawing.fill(rectangle(380, 58, 12, 12), {255, 255, 255});
    return drawing.picture();
}

TEST(LineDrawing, GapsInLinesAreBridgedAlongTheLines) {
    Tracing t = must(leaky(), {});
    ASSERT_EQ(t.leaks.size(), 3u);
    EXPECT_TRUE(t.areas.empty());
    Recipe recipe;
    for (const Leak& leak : t.leaks) {
        ASSERT_TRUE(leak.closure);
        EXPECT_NEAR(leak.closure->widthPx, 8, 1.1);
        recipe.closings.push_back(*leak.closure);
    }
    t = must(leaky(), recipe);
    EXPECT_EQ(t.areas.size(), 3u);
    EXPECT_TRUE(t.leaks.empty());
    for (const Area& area : t.areas)
        EXPECT_NEAR(geometry::bounds(area.shape).least.y, 68, 0.3) << "the closure runs on as the line does";
}

TEST(Erasures, TakePartsOutOfThePictureAndLeaveTheRest) {
    using Kind = Erasure::Kind;
    const auto colours = [](const Recipe& recipe) {
        std::set<raster::Rgb> out;
        for (const Area& area : must(harbour(), recipe).areas)
            out.insert(area.colour);
        return out;
    };
    EXPECT_EQ(colours({.mode = Mode::FlatArt}).size(), 4u);
    const auto boatless =
        colours({.mode = Mode::FlatArt, .erasures = {{Kind::Rectangle, {{100, 200}, {260, 248}}, 0}}});
    EXPECT_EQ(boatless.size(), 4u) << "its lower half lies in the sea";
    const auto sunless =
        colours({.mode = Mode::FlatArt, .erasures = {{Kind::Brush, {{280, 110}, {420, 110}}, 140}}});
    EXPECT_FALSE(sunless.contains(kRust));
    EXPECT_FALSE(sunless.contains(kSand));
    const Tracing spilt =
        must(harbour(), {.mode = Mode::FlatArt, .erasures = {{Kind::Spill, {{300, 110}}, 0}}});
    EXPECT_EQ(ofColour(spilt, kRust), nullptr) << "the ring went";
    ASSERT_NE(ofColour(spilt, kSand), nullptr) << "its middle stayed";
    const double left = std::sqrt(geometry::area(ofColour(spilt, kSand)->shape) / pi);
    EXPECT_LT(left, 25);
    EXPECT_GT(left, 22) << "the soft edge and a rim of two pixels went along";
    EXPECT_EQ(colours({.mode = Mode::FlatArt, .erasures = {{Kind::Spill, {{-5, 900}}, 0}}}).size(), 4u);
}

TEST(LineDrawing, APartLookedAtByItselfFindsWhatTheWholeLost) {
    // Faint pencil beside strong ink.
    Drawing drawing(400, 200);
    drawing.ring(rectangle(20, 20, 160, 160), rectangle(28, 28, 144, 144));
    drawing.fill(rectangle(220, 20, 160, 160), {190, 190, 190})
        .fill(rectangle(228, 28, 144, 144), {255, 255, 255});
    EXPECT_EQ(must(drawing.picture(), {.threshold = 120}).areas.size(), 1u);
    const Tracing t = must(drawing.picture(), {.threshold = 120, .ownParts = {{{{205, 5}, {395, 195}}}}});
    ASSERT_EQ(t.areas.size(), 2u);
    const geometry::Box found = geometry::bounds(t.areas[1].shape);
    EXPECT_NEAR(found.least.x, 228, 0.1);
    EXPECT_NEAR(found.width(), 144, 0.2);
}

TEST(LineDrawing, APartTakesAThresholdOfItsOwn) {
    // A grey wash inside strong ink: part of the paper for the whole, ink where the person says so.
    Drawing drawing(400, 200);
    drawing.ring(rectangle(20, 20, 360, 160), rectangle(28, 28, 344, 144))
        .fill(rectangle(180, 24, 12, 152), {150, 150, 150});
    EXPECT_EQ(must(drawing.picture(), {.threshold = 100}).areas.size(), 1u);
    EXPECT_EQ(must(drawing.picture(), {.threshold = 100, .ownParts = {{{{150, 10}, {230, 190}}, 190}}})
                  .areas.size(),
              2u);
    EXPECT_EQ(must(drawing.picture(), {.threshold = 100, .ownParts = {{{{150, 10}, {230, 190}}, 120}}})
                  .areas.size(),
              1u);
}

/// A frame of thick ink with a thin line across it and a row of dashes along it.
Drawing folder() {
    Drawing drawing(400, 300);
    drawing.ring(rectangle(20, 20, 360, 260), rectangle(32, 32, 336, 236));
    drawing.ink(rectangle(150.2, 30, 3.5, 240));
    for (int i = 0; i < 8; ++i)
        drawing.ink(rectangle(40 + 40 * i, 200.4, 24, 4));
    return drawing;
}

double lengthOf(const geometry::Line& line) {
    return geometry::contourLength(line);
}

TEST(Folds, ThinAndDashedLinesPartNoAreas) {
    const raster::Picture picture = folder().picture();
    EXPECT_EQ(must(picture, {}).areas.size(), 2u) << "the thin line is a border, the dashes are in the way";
    EXPECT_TRUE(must(picture, {}).folds.empty());
    const Tracing thin = traced(picture, 0.125, {.foldsBelowMm = 0.8}).take();
    ASSERT_EQ(thin.areas.size(), 1u);
    ASSERT_EQ(thin.folds.size(), 1u) << "a dash is shorter than a line";
    EXPECT_NEAR(lengthOf(thin.folds[0]), 236, 2.5) << "from edge to edge, but for a pixel of the thin line";
    for (const geometry::Point p : geometry::flatten(thin.folds[0], 0.1))
        EXPECT_NEAR(p.x, 151.95, 0.3) << "along the middle of the line";
    EXPECT_LT(geometry::nodeCount(geometry::Shape{thin.folds[0], {}}), 8);
    EXPECT_NEAR(geometry::area(thin.areas[0].shape), 336 * 236 - 8 * 24 * 4, 25)
        << "the dashes are ink still";

    const Tracing both = traced(picture, 0.125, {.foldsBelowMm = 0.8, .dashesFold = true}).take();
    ASSERT_EQ(both.areas.size(), 1u);
    ASSERT_EQ(both.folds.size(), 2u);
    EXPECT_NEAR(geometry::area(both.areas[0].shape), 336 * 236, 25);
    const auto dashed = std::find_if(both.folds.begin(), both.folds.end(), [](const geometry::Line& line) {
        return std::abs(line.start.y - geometry::flatten(line, 0.1).back().y) < 20;
    });
    ASSERT_NE(dashed, both.folds.end());
    EXPECT_NEAR(lengthOf(*dashed), 336, 1) << "run on to the edge from the last dash";
    for (const geometry::Point p : geometry::flatten(*dashed, 0.1))
        EXPECT_NEAR(p.y, 202.4, 0.5); // by whole pixels of ink
}

TEST(Folds, StrokesOfADrawingAreNone) {
    // Thick lines, a few short ticks, two dashes in a row and a star of tapering tips.
    Drawing drawing(400, 300);
    drawing.ring(rectangle(20, 20, 360, 260), rectangle(32, 32, 336, 236));
    drawing.ink(rectangle(60, 60, 24, 4)).ink(rectangle(100, 60, 24, 4)); // two are no row
    drawing.ink(rectangle(200, 100, 4, 24)).ink(rectangle(300, 200, 24, 4)).ink(disc({200, 200}, 20));
    const Tracing t = traced(drawing.picture(), 0.125, {.foldsBelowMm = 0.8, .dashesFold = true}).take();
    EXPECT_TRUE(t.folds.empty());
    ASSERT_EQ(t.areas.size(), 1u);
    EXPECT_EQ(t.areas[0].shape.openings.size(), 5u) << "the strokes are where they were";
}

TEST(Folds, AnArcOfDashesStaysAnArc) {
    Drawing drawing(400, 400);
    drawing.ring(rectangle(20, 20, 360, 360), rectangle(32, 32, 336, 336));
    const double r = 260;
    for (int i = 1; i < 12; ++i) {
        const double at = i * 0.115, to = at + 0.06;
        const auto on = [&](double angle, double radius) {
            return geometry::Point{60 + radius * std::cos(angle), 340 - radius * std::sin(angle)};
        };
        drawing.ink(
            {geometry::contourThrough({on(at, r - 2), on(to, r - 2), on(to, r + 2), on(at, r + 2)}), {}});
    }
    const Tracing t = traced(drawing.picture(), 0.125, {.dashesFold = true}).take();
    ASSERT_EQ(t.folds.size(), 1u);
    for (const geometry::Point p : geometry::flatten(t.folds[0], 0.1)) {
        const bool isBetween = p.x > 70 && p.y < 330; // the first and the last dash
        EXPECT_TRUE(!isBetween || std::abs(geometry::distance(p, {60, 340}) - r) < 1.5) << p.x << " " << p.y;
    }
}

TEST(Turned, APictureLiesLevelAgain) {
    for (const double askew : {-7.5, 3.2}) {
        Drawing drawing(500, 400);
        const auto turn = geometry::turnAbout({250, 200}, askew * pi / 180);
        drawing.ring(geometry::transformed(rectangle(100, 80, 300, 240), turn),
                     geometry::transformed(rectangle(110, 90, 280, 220), turn));
        const double found = raster::skewOf(drawing.picture());
        EXPECT_NEAR(found, -askew, 0.06);
        const Tracing t = must(drawing.picture(), {.turnDeg = found});
        ASSERT_EQ(t.areas.size(), 1u);
        const geometry::Box box = geometry::bounds(t.areas[0].shape);
        EXPECT_NEAR(box.least.x, 110, 0.5);
        EXPECT_NEAR(box.width(), 280, 0.6) << "upright";
        EXPECT_NEAR(box.height(), 220, 0.6);
    }
    EXPECT_EQ(raster::skewOf(Drawing(300, 300).ink(disc({150, 150}, 90)).picture()), 0)
        << "a disc lies level any way";
    EXPECT_EQ(traced(harbour(), 0.1, {.turnDeg = 60}).error().code, base::Code::InvalidArgument);
}

TEST(Turned, WhatWasMarkedTurnsAlong) {
    Recipe recipe;
    recipe.closings = {{{10, 20}, {30, 20}, 3}};
    recipe.erasures = {{Erasure::Kind::Brush, {{50, 50}, {60, 50}}, 4}};
    const Recipe turned = turnedTo(recipe, 90 / 2.0, 100, 100);
    const auto turn = geometry::turnAbout({50, 50}, pi / 4);
    EXPECT_NEAR(geometry::distance(turned.closings[0].from, turn({10, 20})), 0, 1e-9);
    EXPECT_NEAR(geometry::distance(turned.erasures[0].points[1], turn({60, 50})), 0, 1e-9);
    const Recipe back = turnedTo(turned, 0, 100, 100);
    EXPECT_NEAR(geometry::distance(back.closings[0].to, {30, 20}), 0, 1e-9);
}

// A dark shore with an islet off it, on a grey sea: one bridge at the narrowest gap, none over the pale sky.
TEST(Photo, LoosePartsAreBridgedWhereTheLayerBelowCarriesThem) {
    Drawing drawing(600, 400, {230, 230, 230});
    drawing.fill(rectangle(0, 150, 600, 250), {150, 150, 150})
        .fill(rectangle(0, 280, 600, 120), {40, 40, 40})
        .fill(disc({300, 220}, 30), {40, 40, 40})
        .fill(disc({120, 60}, 30), {40, 40, 40});
    const auto partsOf = [](const Tracing& t) {
        return std::count_if(t.areas.begin(), t.areas.end(), [](const Area& a) { return a.level == 2; });
    };
    Recipe recipe{.mode = Mode::Photo, .tones = 3};
    const Tracing loose = traced(drawing.picture(), 0.25, recipe).take();
    EXPECT_EQ(loose.bridges, 0);
    EXPECT_EQ(partsOf(loose), 3);
    recipe.bridgesMm = 5; // the gap is 30 px, 7.5 mm
    EXPECT_EQ(partsOf(traced(drawing.picture(), 0.25, recipe).take()), 3) << "too far";
    recipe.bridgesMm = 10;
    const Tracing joined = traced(drawing.picture(), 0.25, recipe).take();
    EXPECT_EQ(joined.bridges, 1) << "the sky carries no dark bridge";
    EXPECT_EQ(partsOf(joined), 2);
    int across = 0; // quarter pixels of the bridge's middle
    for (const Area& a : joined.areas)
        for (int x = 0; a.level == 2 && x < 400; ++x)
            across += geometry::contains(a.shape, {250.125 + x / 4.0, 265});
    EXPECT_GT(across / 4.0, 5.5) << "no narrower than the narrowest part, 1.5 mm";
    EXPECT_LT(across / 4.0, 12) << "softening the border makes it wider rather than narrower";
}

TEST(Reduced, ARecipeShrinksWithItsPicture) {
    Drawing drawing(800, 400);
    drawing.ring(rectangle(40, 40, 320, 320), rectangle(60, 60, 280, 280))
        .ring(rectangle(440, 40, 320, 320), rectangle(460, 60, 280, 280));
    Recipe recipe;
    recipe.erasures = {{Erasure::Kind::Rectangle, {{400, 0}, {800, 400}}, 0}};
    const Tracing whole = traced(drawing.picture(), 0.1, recipe).take();
    const Tracing half = traced(raster::reduced(drawing.picture(), 0.5), 0.2, reducedBy(recipe, 0.5)).take();
    ASSERT_EQ(whole.areas.size(), 1u);
    ASSERT_EQ(half.areas.size(), 1u);
    EXPECT_NEAR(geometry::area(half.areas[0].shape) * 4, geometry::area(whole.areas[0].shape), 150);
    EXPECT_NEAR(geometry::bounds(half.areas[0].shape).least.x * 2, 60, 0.2);
}

// Above kMostLookedAt a reduced copy is looked at; what is found lies where it is in the whole picture.
TEST(Reduced, AHugePictureIsTracedReducedAndFoundInItsOwnPixels) {
    Drawing drawing(7007, 3701); // no whole multiple of the copy's sides
    drawing.fill(disc({3900.3, 1700.8}, 700), kSea);
    const raster::Picture picture = drawing.picture();
    ASSERT_GT(picture.pixels(), kMostLookedAt);
    EXPECT_TRUE(whatIsLookedAt(kMostLookedAt, 0.01).empty());
    EXPECT_NE(whatIsLookedAt(picture.pixels(), 0.05).find("25 megapixels"), std::string::npos);
    Recipe recipe;
    recipe.mode = Mode::FlatArt;
    recipe.erasures.push_back({Erasure::Kind::Rectangle, {{100, 100}, {200, 200}}, 0});
    const auto found = traced(picture, 0.05, recipe);
    ASSERT_TRUE(found) << found.error().message;
    EXPECT_EQ(found->widthPx, 7007);
    EXPECT_EQ(found->heightPx, 3701);
    const Area* sea = ofColour(*found, kSea);
    ASSERT_NE(sea, nullptr);
    const geometry::Box box = geometry::bounds(sea->shape);
    EXPECT_NEAR(box.centre().x, 3900.3, 0.2);
    EXPECT_NEAR(box.centre().y, 1700.8, 0.2);
    EXPECT_NEAR(box.width(), 1400, 0.5);
    EXPECT_NEAR(box.height(), 1400, 0.5);
    EXPECT_TRUE(box.contains(sea->inside));
}

TEST(FlatArt, AColourTakenByHandIsFoundToo) {
    // Two sands that nobody would tell apart unless asked to.
    Drawing drawing(400, 200);
    drawing.fill(rectangle(20.5, 20.5, 160, 150), {200, 180, 140})
        .fill(rectangle(180.5, 20.5, 160, 150), {206, 186, 148});
    const auto pieces = [&](std::vector<raster::Rgb> picked) {
        return must(drawing.picture(), {.mode = Mode::FlatArt, .picked = std::move(picked)}).areas.size();
    };
    EXPECT_EQ(pieces({}), 1u);
    EXPECT_EQ(pieces({{206, 186, 148}}), 2u);
    const auto found = must(drawing.picture(), {.mode = Mode::FlatArt}).palette;
    EXPECT_EQ(pieces({found.at(0), found.at(1)}), 1u) << "the palette has them already";
}

TEST(Coloured, AreasTakeTheColoursOfACopyAtAnyResolution) {
    Drawing drawing(400, 200), copy(200, 100);
    drawing.ring(rectangle(20, 20, 160, 160), rectangle(28, 28, 144, 144))
        .ring(rectangle(220, 20, 160, 160), rectangle(228, 28, 144, 144));
    copy.fill(rectangle(12, 12, 76, 76), kSea).fill(rectangle(112, 12, 76, 76), kRust);
    const Tracing t = colouredBy(must(drawing.picture(), {}), copy.picture()).take();
    ASSERT_EQ(t.areas.size(), 2u);
    EXPECT_EQ(t.areas[0].colour, kSea);
    EXPECT_EQ(t.areas[1].colour, kRust);
    const auto wrong = colouredBy(t, Drawing(200, 200).picture());
    ASSERT_FALSE(wrong);
    EXPECT_NE(wrong.error().message.find("200 x 200"), std::string::npos);
}

TEST(Deviation, ShowsWhatWasLostAndNothingWhereNothingWas) {
    Drawing drawing(300, 200);
    drawing.ring(rectangle(20, 20, 260, 160), rectangle(28, 28, 244, 144))
        .ink(disc({150, 100}, 4)); // a speck
    const raster::Picture picture = drawing.picture();
    const Tracing all = must(picture, {.leastAreaMm2 = 0.2}), without = must(picture, {.leastAreaMm2 = 2});
    EXPECT_EQ(deviationOf(picture, all).share, 0);
    const Deviation lost = deviationOf(picture, without);
    EXPECT_NEAR(lost.share * 300 * 200, pi * 16, 30);
    const auto at = [&](int x, int y) { return lost.picture.row(y) + 3 * x; };
    EXPECT_GT(at(150, 100)[0] - at(150, 100)[1], 100) << "in a strong colour";
    EXPECT_EQ(at(100, 100)[0], 255);
    EXPECT_LT(deviationOf(harbour(), must(harbour(), {.mode = Mode::FlatArt})).share, 1e-4);
}

TEST(Alike, AreAreasOfOneColourAndOnBarePaperThoseOfOneShape) {
    Drawing drawing(600, 200);
    for (double x : {20.0, 130.0, 240.0}) // three of one shape, one of another
        drawing.ring(rectangle(x, 40, 80, 120), rectangle(x + 8, 48, 64, 104));
    drawing.ring(disc({420, 100}, 60), disc({420, 100}, 52));
    drawing.ring(disc({545, 100}, 40), disc({545, 100}, 32)).fill(disc({545, 100}, 32), kRust);
    const Tracing t = must(drawing.picture(), {});
    ASSERT_EQ(t.areas.size(), 5u);
    const auto numberAt = [&](geometry::Point p) {
        for (const Area& area : t.areas)
            if (geometry::contains(area.shape, p))
                return area.number;
        return 0;
    };
    EXPECT_EQ(alike(t, numberAt({60, 100})).size(), 3u);
    EXPECT_EQ(alike(t, numberAt({420, 100})).size(), 1u);
    EXPECT_EQ(alike(t, numberAt({545, 100})).size(), 1u);
    EXPECT_TRUE(alike(t, 99).empty());
}

TEST(Mode, IsProposedByWhatThePictureShows) {
    EXPECT_EQ(kindOf(leaky()).mode, Mode::LineDrawing);
    EXPECT_EQ(kindOf(harbour()).mode, Mode::FlatArt);
    EXPECT_EQ(kindOf(noisy(harbour(), 6, 2)).mode, Mode::FlatArt);
    EXPECT_EQ(kindOf({}).mode, Mode::LineDrawing);
    Drawing coloured(400, 300); // a painted drawing: every colour lies within ink
    for (int i = 0; i < 4; ++i) {
        const double x = 20 + 95 * i;
        coloured.ink(rectangle(x, 40, 90, 200));
        coloured.fill(rectangle(x + 8, 48, 74, 184),
                      std::array{kSea, kRust, kSand, kGrass}[static_cast<size_t>(i)]);
    }
    EXPECT_EQ(kindOf(coloured.picture()).mode, Mode::LineDrawing);
    // Leaves of light and shade: no colour anywhere for more than some pixels.
    raster::Picture leaves{400, 300, {}};
    for (int y = 0; y < 300; ++y)
        for (int x = 0; x < 400; ++x) {
            const double v = 90 + 60 * std::sin(x / 9.0 + 3 * std::sin(y / 13.0)) * std::cos(y / 7.0 + 2 * std::sin(x / 17.0));
            for (const double share : {0.7, 1.0, 0.5})
                leaves.rgb.push_back(static_cast<std::uint8_t>(std::lround(v * share)));
        }
    EXPECT_EQ(kindOf(noisy(leaves, 3, 5)).mode, Mode::Photo);
}

/// A square and a disc in lines of `ink` on a ground.
raster::Picture twoOutlines(raster::Rgb ground, raster::Rgb ink) {
    Drawing drawing(400, 240);
    drawing.fill(rectangle(-1, -1, 402, 242), ground);
    drawing.fill(rectangle(40, 40, 140, 160), ink).fill(rectangle(45, 45, 130, 150), ground);
    drawing.fill(disc({290, 120}, 80), ink).fill(disc({290, 120}, 75), ground);
    return drawing.picture();
}

TEST(LineDrawing, LightLinesOnADarkGroundEncloseAreasToo) {
    for (const auto& [ground, ink] : {std::pair{raster::Rgb{20, 22, 26}, raster::Rgb{244, 244, 240}},
                                      std::pair{raster::Rgb{30, 60, 120}, raster::Rgb{250, 250, 250}}}) {
        const raster::Picture picture = twoOutlines(ground, ink);
        const Kind kind = kindOf(picture);
        EXPECT_EQ(kind.mode, Mode::LineDrawing) << kind.why;
        EXPECT_TRUE(kind.isLightOnDark);
        Recipe recipe;
        recipe.isLightOnDark = true;
        const Tracing t = must(picture, recipe);
        ASSERT_EQ(t.areas.size(), 2u);
        EXPECT_NEAR(geometry::area(t.areas[0].shape) + geometry::area(t.areas[1].shape),
                    130 * 150 + pi * 75 * 75, 20);
        for (const Area& area : t.areas)
            EXPECT_LT(raster::colourDistance(area.colour, ground), 0.03) << "as the picture shows it";
        EXPECT_EQ(t.ink.size(), 2u);
    }
    EXPECT_FALSE(kindOf(twoOutlines({255, 255, 255}, {20, 20, 24})).isLightOnDark);
}

/// A picture in light that falls to `darkest` at its lower right corner.
raster::Picture inFallingLight(raster::Picture picture, double darkest) {
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x)
            for (size_t k = 0; k < 3; ++k) {
                std::uint8_t& v = picture.rgb[(static_cast<size_t>(y) * static_cast<size_t>(picture.width) +
                                               static_cast<size_t>(x)) * 3 + k];
                const double fall = (static_cast<double>(x) / picture.width + static_cast<double>(y) / picture.height) / 2;
                v = static_cast<std::uint8_t>(std::lround(v * (1 - (1 - darkest) * fall)));
            }
    return picture;
}

// Ten discs on a plain ground: what tore rims and shot out needles when labels were told by global colours.
TEST(FlatArt, TenDiscsInFallingLightAreTenDiscsOnGroundsOfEveryBrightness) {
    for (const int ground : {255, 200, 140, 90}) {
        Drawing drawing(520, 240);
        const auto level = static_cast<std::uint8_t>(ground);
        drawing.fill(rectangle(-1, -1, 522, 242), {level, level, level});
        for (int i = 0; i < 10; ++i)
            drawing.fill(disc({60.3 + 100 * (i % 5), 62.6 + 115 * (i / 5)}, 36), ground > 120 ? kSea : raster::Rgb{220, 190, 120});
        for (const double grain : {0.0, 3.0}) {
            const Tracing t = must(noisy(inFallingLight(drawing.picture(), 0.6), grain, 4), {.mode = Mode::FlatArt});
            ASSERT_EQ(t.areas.size(), 10u) << ground << ", grain " << grain;
            for (const Area& area : t.areas) {
                EXPECT_TRUE(area.shape.openings.empty());
                EXPECT_NEAR(geometry::area(area.shape), pi * 36 * 36, 0.004 * pi * 36 * 36) << ground;
                const geometry::Box box = geometry::bounds(area.shape);
                EXPECT_NEAR(box.width(), 72, 0.5) << "no needle, no torn rim";
                EXPECT_NEAR(box.height(), 72, 0.5);
                EXPECT_LE(geometry::nodeCount(area.shape), 8);
            }
        }
    }
}

TEST(FlatArt, ColoursOfADimPhotoAreGivenAsOnWhitePaperAndDifferNowhere) {
    raster::Picture dim = inFallingLight(harbour(), 0.7);
    for (std::uint8_t& v : dim.rgb)
        v = static_cast<std::uint8_t>(v * 3 / 4);
    const raster::Picture photo = noisy(dim, 2, 3);
    const Tracing t = must(photo, {.mode = Mode::FlatArt});
    EXPECT_TRUE(t.isInEvenLight);
    for (const raster::Rgb wanted : {kSea, kRust, kGrass})
        EXPECT_TRUE(std::any_of(t.areas.begin(), t.areas.end(), [&](const Area& area) {
            return raster::colourDistance(area.colour, wanted) < 0.05;
        })) << raster::hexOf(wanted);
    EXPECT_LT(deviationOf(photo, t).share, 0.002);
}

TEST(FlatArt, PastelsUnderGrainKeepTheirSmoothBorders) {
    Drawing drawing(400, 240);
    drawing.fill(disc({110, 120}, 80), {246, 226, 232}).fill(disc({290, 120}, 80), {230, 238, 248});
    const Tracing t = must(noisy(drawing.picture(), 5, 3), {.mode = Mode::FlatArt});
    ASSERT_EQ(t.areas.size(), 2u);
    for (const Area& area : t.areas) {
        EXPECT_NEAR(geometry::area(area.shape), pi * 80 * 80, 0.01 * pi * 80 * 80);
        EXPECT_LE(geometry::nodeCount(area.shape), 14);
    }
}

TEST(FlatArt, AColourThatBecameNoAreaIsTold) {
    // Twenty dots of a tenth of a square millimetre each: two in all, none large enough to be cut.
    Drawing drawing(400, 240);
    drawing.fill(rectangle(20, 20, 360, 200), kSea);
    for (int i = 0; i < 20; ++i)
        drawing.fill(rectangle(40 + 16 * i, 100, 3, 3), kRust);
    Recipe recipe;
    recipe.mode = Mode::FlatArt;
    const auto told = traceFlatArt(drawing.picture(), 0.1, recipe);
    ASSERT_TRUE(told);
    ASSERT_EQ(told->lost.size(), 1u);
    EXPECT_LT(raster::colourDistance(told->lost[0].colour, kRust), 0.03);
    EXPECT_NEAR(told->lost[0].areaPx, 180, 20);
    EXPECT_TRUE(told->lost[0].isSmall);
    EXPECT_NEAR(told->lost[0].place.y, 101, 2);
    recipe.leastAreaMm2 = 0.05;
    const auto kept = traceFlatArt(drawing.picture(), 0.1, recipe);
    EXPECT_TRUE(kept->lost.empty());
    EXPECT_EQ(kept->areas.size(), 21u);
}

TEST(LineDrawing, GapsAreClosedBeforeAnythingIsDrawn) {
    const auto gapless = tracedGapless(leaky(), 0.125, {});
    ASSERT_TRUE(gapless);
    EXPECT_EQ(gapless->recipe.closings.size(), 3u);
    EXPECT_TRUE(gapless->tracing.leaks.empty());
    const Tracing again = must(leaky(), gapless->recipe);
    ASSERT_EQ(gapless->tracing.areas.size(), again.areas.size());
    EXPECT_EQ(again.areas.size(), 3u);
    for (size_t i = 0; i < again.areas.size(); ++i)
        EXPECT_EQ(gapless->tracing.areas[i].shape, again.areas[i].shape) << "as the recipe has it";
}

TEST(LineDrawing, EndsOfThickStrokesAreNoGapsOfAPen) {
    // A letter-like C: strokes of 30 px whose ends face one another across 10 px, less than the widest gap.
    Drawing drawing(400, 300);
    drawing.ring(rectangle(60, 40, 280, 220), rectangle(90, 70, 220, 160));
    drawing.fill(rectangle(300, 140, 60, 10), {255, 255, 255});
    const Tracing t = must(drawing.picture(), {});
    EXPECT_EQ(t.ink.size(), 1u);
    for (const Leak& leak : t.leaks)
        EXPECT_FALSE(leak.closure) << "an opening that is meant";
}

TEST(LineDrawing, TheInkHasAnOpeningForEveryArea) {
    Recipe recipe;
    for (const Leak& leak : must(leaky(), {}).leaks)
        recipe.closings.push_back(*leak.closure);
    const Tracing t = must(leaky(), recipe);
    ASSERT_EQ(t.ink.size(), 1u);
    EXPECT_EQ(t.ink[0].openings.size(), 3u);
}

TEST(LineDrawing, AnUnevenScanGivesTheSameAreasOfPaper) {
    Drawing drawing(500, 300);
    drawing.ring(rectangle(40, 60, 420, 180), rectangle(48, 68, 404, 164)).ink(rectangle(246, 60, 8, 180));
    raster::Picture scan = drawing.picture();
    for (int y = 0; y < 300; ++y)
        for (int x = 0; x < 500; ++x)
            for (size_t k = 0; k < 3; ++k) {
                std::uint8_t& v = scan.rgb[(static_cast<size_t>(y) * 500 + static_cast<size_t>(x)) * 3 + k];
                v = static_cast<std::uint8_t>(v * (1 - 0.5 * (x + y) / 800));
            }
    const Tracing t = must(noisy(scan, 4, 2), {});
    ASSERT_EQ(t.areas.size(), 2u);
    for (const Area& area : t.areas) {
        const geometry::Box box = geometry::bounds(area.shape);
        EXPECT_NEAR(box.height(), 164, 0.4);
        EXPECT_LT(raster::colourDistance(area.colour, t.paper), 0.06) << "paper in the shade is paper";
    }
}

} // namespace
} // namespace thinline::trace
