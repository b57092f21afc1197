// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/TakeOut.h"

#include "geometry/Placing.h"
#include "lettering/Word.h"
#include "support/Drawings.h"
#include "support/Fonts.h"
#include "support/Shapes.h"
#include "trace/Erase.h"

#include <gtest/gtest.h>

#include <random>

namespace thinline::trace {
namespace {

using support::disc;
using support::Drawing;
using support::rectangle;
using Kind = TakeOut::Kind;

constexpr double kMmPerPx = 0.125;
constexpr raster::Rgb kSea{47, 111, 143}, kRust{200, 71, 43}, kCream{242, 234, 216};

/// A word of real letters, its capitals so high, its ink's upper left corner there.
std::vector<geometry::Shape> wordAt(const std::string& words, geometry::Point corner, double capPx,
                                    const base::FontName& font = {"Lato", "Bold"}) {
    lettering::Recipe recipe;
    recipe.text = words;
    recipe.font = font;
    recipe.sizeMm = capPx; // a unit is a pixel here
    const auto word = lettering::setWord(*support::lettersOf(words, font), recipe);
    if (!word)
        throw std::runtime_error(word.error().message);
    std::vector<geometry::Shape> out;
    for (const lettering::WordPiece& piece : word->pieces)
        out.push_back(
            geometry::transformed(piece.shape, geometry::Transform::move(corner - word->box.least)));
    return out;
}

void write(Drawing& into, const std::vector<geometry::Shape>& word, raster::Rgb colour) {
    for (const geometry::Shape& letter : word)
        into.fill(letter, colour);
}

/// A lamp in a frame, drawn in ink: it has small parts too.
Drawing lamp() {
    Drawing out(800, 800);
    out.ring(rectangle(200, 150, 400, 380), rectangle(208, 158, 384, 364));
    out.ring(disc({400, 340}, 120), disc({400, 340}, 112));
    for (int i = 0; i < 7; ++i) // portholes in a row: alike, so no text
        out.ring(disc({240.0 + 50 * i, 490}, 14), disc({240.0 + 50 * i, 490}, 9));
    return out;
}

Recipe lines() {
    return {.mode = Mode::LineDrawing};
}

std::vector<TakeOut> proposedFor(const raster::Picture& picture, const Recipe& recipe,
                                 Tracing* traced = nullptr) {
    auto tracing = trace::traced(picture, kMmPerPx, recipe);
    EXPECT_TRUE(tracing) << (tracing ? "" : tracing.error().message);
    if (traced)
        *traced = *tracing;
    return proposedToTakeOut(*tracing, kMmPerPx, recipe.mode);
}

TEST(TakeOut, ACaptionIsFoundAndItsLettersGoWithoutATrace) {
    for (const auto& font : {base::FontName{"Lato", "Bold"}, support::kBold, support::kStencil}) {
        Drawing drawing = lamp();
        EXPECT_TRUE(proposedFor(drawing.picture(), lines()).empty()) << "alike rounds in a row are no text";
        const auto before = traced(drawing.picture(), kMmPerPx, lines());
        write(drawing, wordAt("Quay lamp, fig. 7", {230, 580}, 24, font), Drawing::kInk);
        write(drawing, wordAt("drawn in June", {270, 640}, 24, font), Drawing::kInk);
        const auto found = proposedFor(drawing.picture(), lines());
        ASSERT_EQ(found.size(), 1u) << font.family;
        EXPECT_EQ(found[0].kind, Kind::Text);
        EXPECT_EQ(found[0].rows, 2) << font.family;
        EXPECT_GE(found[0].parts, 20) << "letters; dots may be too small to be traced";
        EXPECT_GT(found[0].place.least.y, 560);
        EXPECT_NE(takeOutText(found[0]).find("in 2 rows look like text"), std::string::npos)
            << takeOutText(found[0]);
        Recipe cleared = lines();
        cleared.erasures = found[0].erasures;
        const auto after = traced(drawing.picture(), kMmPerPx, cleared);
        ASSERT_TRUE(after) << after.error().message;
        EXPECT_EQ(after->ink.size(), before->ink.size())
            << font.family << ": nothing of them is left, and nothing else gone";
        EXPECT_EQ(after->areas.size(), before->areas.size());
    }
}

TEST(TakeOut, LettersOnAnAreaLeaveItWhole) {
    Drawing drawing(800, 600);
    drawing.fill(rectangle(80, 60, 640, 360), kSea).fill(disc({400, 520}, 60), kRust);
    const auto plain = traced(drawing.picture(), kMmPerPx, {.mode = Mode::FlatArt});
    write(drawing, wordAt("GULL POINT", {200, 150}, 40), kCream);
    Tracing with;
    const auto found = proposedFor(drawing.picture(), {.mode = Mode::FlatArt}, &with);
    ASSERT_EQ(found.size(), 1u);
    EXPECT_EQ(found[0].kind, Kind::Text);
    EXPECT_EQ(found[0].parts, 9);
    const auto after =
        traced(drawing.picture(), kMmPerPx, {.mode = Mode::FlatArt, .erasures = found[0].erasures});
    ASSERT_TRUE(after);
    ASSERT_EQ(after->areas.size(), plain->areas.size());
    for (const Area& area : after->areas)
        EXPECT_TRUE(area.shape.openings.empty()) << "the sea lies where the letters were";
    // What is nearly as pale as its ground may be somebody's mark: it is not offered.
    Drawing pale(800, 600);
    pale.fill(rectangle(80, 60, 640, 360), kCream).fill(disc({400, 520}, 60), kRust);
    write(pale, wordAt("GULL POINT", {200, 150}, 40), {226, 218, 198});
    EXPECT_TRUE(proposedFor(pale.picture(), {.mode = Mode::FlatArt}).empty());
    // And a picture of words is a motif.
    Drawing words(800, 200);
    write(words, wordAt("HARBOUR", {60, 60}, 60), kRust);
    EXPECT_TRUE(proposedFor(words.picture(), {.mode = Mode::FlatArt}).empty());
}

TEST(TakeOut, ARowThatALineRunsThroughGoesLetterByLetter) {
    Drawing drawing = lamp();
    const auto first = wordAt("harbour", {100, 600}, 24);
    geometry::Box box;
    for (const geometry::Shape& letter : first)
        box.include(geometry::bounds(letter));
    write(drawing, first, Drawing::kInk);
    write(drawing, wordAt("light", {box.most.x + 15, 595}, 24), Drawing::kInk);
    drawing.ink(rectangle(box.most.x + 6, 560, 3, 120)); // a stroke between the words
    const auto found = proposedFor(drawing.picture(), lines());
    ASSERT_FALSE(found.empty());
    Recipe cleared = lines();
    cleared.erasures = found[0].erasures;
    EXPECT_GT(cleared.erasures.size(), 2u);
    const auto after = traced(drawing.picture(), kMmPerPx, cleared);
    ASSERT_TRUE(after) << after.error().message;
    EXPECT_TRUE(std::any_of(after->ink.begin(), after->ink.end(), [](const geometry::Shape& one) {
        const geometry::Box own = geometry::bounds(one);
        return std::abs(own.width() - 3) < 1 && std::abs(own.height() - 120) < 2;
    })) << "the stroke stays whole";
    for (const geometry::Shape& one : after->ink)
        EXPECT_FALSE(geometry::bounds(one).least.y > 590) << "and no letter is left";
}

TEST(TakeOut, WhatOnlyStandsTogetherIsNoText) {
    std::mt19937 random(11);
    const auto within = [&](double least, double most) {
        return std::uniform_real_distribution<double>(least, most)(random);
    };
    for (int round = 0; round < 8; ++round) { // leaves and stones of many forms, scattered
        Drawing drawing(800, 800);
        drawing.ring(disc({400, 400}, 380), disc({400, 400}, 372));
        for (int i = 0; i < 60; ++i) {
            const double size = within(14, 40);
            const geometry::Point at{within(150, 620), within(150, 620)};
            drawing.ink(i % 2 ? disc(at, size / 2) : rectangle(at.x, at.y, size, within(10, 36)));
        }
        for (const TakeOut& one : proposedFor(drawing.picture(), lines()))
            EXPECT_NE(one.kind, Kind::Text) << round << ": " << takeOutText(one);
    }
    Drawing fence(900, 400); // two forms in turn
    fence.ring(rectangle(20, 20, 860, 360), rectangle(28, 28, 844, 344));
    for (int i = 0; i < 16; ++i)
        fence.ink(i % 2 ? rectangle(60 + 48 * i, 200, 30, 44) : disc({75.0 + 48 * i, 222}, 22));
    EXPECT_TRUE(proposedFor(fence.picture(), lines()).empty());
}

TEST(TakeOut, TheSameFigureOnceMoreGoes) {
    const auto boat = [](Drawing& into, double x, double y) {
        into.fill(geometry::transformed(
                      {geometry::contourThrough({{0, 120}, {260, 120}, {210, 190}, {50, 190}}), {}},
                      geometry::Transform::move({x, y})),
                  kRust);
        into.fill(geometry::transformed({geometry::contourThrough({{130, 0}, {230, 110}, {130, 110}}), {}},
                                        geometry::Transform::move({x, y})),
                  kSea);
    };
    for (const geometry::Point by : {geometry::Point{400.4, 3.7}, geometry::Point{2.2, 300.3}}) {
        Drawing drawing(800, 600);
        boat(drawing, 60, 50);
        boat(drawing, 60 + by.x, 50 + by.y);
        Tracing both;
        const auto found = proposedFor(drawing.picture(), {.mode = Mode::FlatArt}, &both);
        ASSERT_EQ(found.size(), 1u);
        EXPECT_EQ(found[0].kind, Kind::SecondCopy);
        EXPECT_EQ(found[0].parts, 2);
        EXPECT_GT(by.x > by.y ? found[0].place.least.x : found[0].place.least.y, 300)
            << "the right or the lower one";
        const auto after =
            traced(drawing.picture(), kMmPerPx, {.mode = Mode::FlatArt, .erasures = found[0].erasures});
        ASSERT_TRUE(after);
        EXPECT_EQ(after->areas.size(), both.areas.size() / 2);
    }
    Drawing three(1200, 600);
    for (int i = 0; i < 3; ++i)
        boat(three, 40 + 380 * i, 50);
    EXPECT_TRUE(proposedFor(three.picture(), {.mode = Mode::FlatArt}).empty()) << "three are meant";
    Drawing unlike(800, 600);
    boat(unlike, 60, 50);
    boat(unlike, 460, 50);
    unlike.fill(disc({590, 205}, 24), kCream); // only one has a window
    EXPECT_TRUE(proposedFor(unlike.picture(), {.mode = Mode::FlatArt}).empty());
}

// A4 at 8 px a mm; 6 mm, 80 mm apart, 12 mm from the edge, by its middle: ISO 838.
TEST(TakeOut, PunchHolesOfABinderGo) {
    constexpr double kPx = 4;
    const auto page = [&](const std::vector<double>& fromTopMm, double fromEdgeMm, double acrossMm) {
        Drawing out(210 * 4, 297 * 4);
        out.ring(disc({450, 600}, 260), disc({450, 600}, 250)).ink(rectangle(380, 560, 140, 60));
        for (const double y : fromTopMm)
            out.fill(disc({fromEdgeMm * kPx, y * kPx}, acrossMm * kPx / 2), {60, 60, 60});
        return out.picture();
    };
    const auto proposed = [&](const raster::Picture& picture) {
        const auto tracing = traced(picture, 1 / kPx, lines());
        return proposedToTakeOut(*tracing, 1 / kPx, Mode::LineDrawing);
    };
    const auto two = proposed(page({108.5, 188.5}, 12, 6));
    ASSERT_EQ(two.size(), 1u);
    EXPECT_EQ(two[0].kind, Kind::PunchHoles);
    EXPECT_EQ(two[0].parts, 2);
    const auto cleared = traced(page({108.5, 188.5}, 12, 6), 1 / kPx,
                                {.mode = Mode::LineDrawing, .erasures = two[0].erasures});
    EXPECT_EQ(cleared->ink.size(), 2u);
    EXPECT_EQ(proposed(page({28.5, 108.5, 188.5, 268.5}, 12, 6)).size(), 1u) << "four of the same standard";
    EXPECT_TRUE(proposed(page({60, 140}, 12, 6)).empty()) << "not about the middle";
    EXPECT_TRUE(proposed(page({108.5, 188.5}, 60, 6)).empty()) << "not at the edge";
    EXPECT_TRUE(proposed(page({108.5, 188.5}, 12, 18)).empty()) << "portholes";
}

TEST(TakeOut, APhotoIsLeftAlone) {
    const auto tracing = traced(lamp().picture(), kMmPerPx, lines());
    EXPECT_TRUE(proposedToTakeOut(*tracing, kMmPerPx, Mode::Photo).empty());
    EXPECT_TRUE(proposedToTakeOut(*tracing, 0, Mode::LineDrawing).empty());
    EXPECT_TRUE(proposedToTakeOut({}, kMmPerPx, Mode::FlatArt).empty());
}

} // namespace
} // namespace thinline::trace
