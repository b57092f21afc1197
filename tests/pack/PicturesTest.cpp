// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/FinishedPicture.h"
#include "pack/Leaf.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

namespace thinline::pack {
namespace {

using support::laid;
using support::rectangle;

/// A large base of 0.5 mm and a card of 0.5 mm on it, lifted so that its top lies `stepMm` above the base's.
struct Step {
    explicit Step(double stepMm) {
        stack.stocks = {{"white", "white", {250, 250, 250}, 0.5}, {"red", "red", {200, 40, 40}, 0.5}};
        stack.layers = {support::layer(1, "white"), support::layer(2, "red")};
        stack.pieces = {laid(1, rectangle(0, 0, 100, 100), 1), laid(2, rectangle(30, 30, 40, 40), 2)};
        stack.pieces[1].liftMm = stepMm - 0.5;
        heights = design::heightsOf(stack, rows).take();
    }
    design::Stack stack;
    design::RowMemory rows;
    design::Heights heights;
};

/// How far the shadow reaches to the right of the card's right edge, mm, half way down it.
double shadowMm(const raster::Picture& picture, double stepMm, const Look& look) {
    const double room = 4 + 0.5 + stepMm; // around the base, as the picture leaves it
    const double perMm = look.mostPx / (100 + 2 * room);
    const int y = static_cast<int>((50 + room) * perMm);
    const int first = static_cast<int>(std::ceil((70 + room) * perMm)) + 1; // wholly beside the card
    double dark = 0;                                                        // in pixels, the last one in part
    for (int x = first; x < static_cast<int>((95 + room) * perMm); ++x)
        dark += std::clamp((1 - picture.row(y)[3 * x] / 250.0) / (1 - 0.62), 0.0, 1.0);
    return dark > 0 ? (dark + first) / perMm - room - 70 : 0;
}

// By arithmetic: light from the upper left, 45 degrees high, throws the shadow of a step h to the right by h cos 45.
TEST(FinishedPicture, ShadowsAreAsLongAsTheStepIsHigh) {
    Look look;
    look.mostPx = 1000;
    for (const double step : {1.0, 3.0}) {
        const Step built(step);
        const auto picture = finishedPicture(built.stack, built.heights, look);
        ASSERT_TRUE(picture) << picture.error().message;
        EXPECT_NEAR(shadowMm(*picture, step, look), step * std::sqrt(0.5), 0.08) << step;
    }
    look.lightUpDeg = 90; // from straight above: none
    const Step built(3);
    EXPECT_EQ(shadowMm(*finishedPicture(built.stack, built.heights, look), 3, look), 0);
}

TEST(FinishedPicture, AtASlantWhatIsHigherStandsHigher) {
    Look look;
    look.mostPx = 500;
    look.slantDeg = 40;
    const auto topOfRed = [&](double step) {
        const Step built(step);
        const auto picture = *finishedPicture(built.stack, built.heights, look);
        int top = 0, bottom = 0, count = 0;
        for (int y = 0; y < picture.height; ++y) {
            const std::uint8_t* p = picture.row(y) + 3 * (picture.width / 2);
            if (p[0] > 150 && p[1] < 80) {
                top = count == 0 ? y : top;
                bottom = y;
                ++count;
            }
        }
        const double perMm = look.mostPx / (100 + 2 * (4 + 0.5 + step));
        const double ground = (30 + 4 + 0.5 + step) * perMm * std::cos(40 * std::numbers::pi / 180);
        EXPECT_NEAR((bottom - top) / perMm, 40 * std::cos(40 * std::numbers::pi / 180), 0.5);
        return (ground - top) / perMm;
    };
    EXPECT_NEAR(topOfRed(10.0), 10.5 * std::sin(40 * std::numbers::pi / 180), 0.3);
    EXPECT_NEAR(topOfRed(3.0), 3.5 * std::sin(40 * std::numbers::pi / 180), 0.3);
}

TEST(FinishedPicture, TranslucentCardShowsWhatIsBehindIt) {
    Step built(1);
    built.stack.stocks[1].isTranslucent = true;
    Look look;
    look.mostPx = 300;
    const auto picture = finishedPicture(built.stack, built.heights, look);
    ASSERT_TRUE(picture);
    const std::uint8_t* p = picture->row(picture->height / 2) + 3 * (picture->width / 2);
    EXPECT_NEAR(p[1], (250 + 40) / 2, 2);
    EXPECT_FALSE(finishedPicture({}, {}, look));
    look.slantDeg = 70;
    EXPECT_FALSE(finishedPicture(built.stack, built.heights, look));
}

TEST(Leaf, BreaksTextAtItsWidth) {
    const auto type = Type::open();
    ASSERT_TRUE(type) << type.error().message;
    const std::string text =
        "Glue the beam onto the tower, and a word as long as anextraordinarilylongwordwithoutanyblank";
    const auto lines = type->wrapped(text, 3.5, Weight::Plain, 30);
    EXPECT_GT(lines.size(), 3u);
    std::string joined;
    for (const std::string& line : lines) {
        EXPECT_LE(type->line(line, 3.5).widthMm(), 30.0) << line;
        for (const char sign : line)
            joined += sign == ' ' ? std::string() : std::string(1, sign);
    }
    std::string wanted;
    for (const char sign : text)
        wanted += sign == ' ' ? std::string() : std::string(1, sign);
    EXPECT_EQ(joined, wanted); // nothing is lost
    EXPECT_EQ(type->wrapped("žluťoučký kůň", 3.5, Weight::Plain, 4).empty(), false);
}

TEST(Leaf, APageIsThePictureThatItsFileIs) {
    const auto type = Type::open();
    ASSERT_TRUE(type);
    Leaf leaf(100, 50, *type);
    leaf.fill({{{10, 10}, {30, 10}, {30, 30}, {10, 30}}}, {255, 0, 0});
    leaf.stretch({50, 20}, {90, 20}, 1, 0);
    leaf.stretch({50, 30}, {90, 30}, 1, 0, {2, 2});
    const raster::Picture picture = pictureOf(leaf.page, 10);
    EXPECT_EQ(picture.width, 1000);
    const auto at = [&](int x, int y) { return picture.row(y)[3 * x + 1]; };
    EXPECT_EQ(at(200, 200), 0);
    EXPECT_EQ(at(50, 200), 255);
    EXPECT_EQ(at(700, 200), 0);   // the whole line
    EXPECT_EQ(at(510, 300), 0);   // on a dash
    EXPECT_EQ(at(530, 300), 255); // between two
}

} // namespace
} // namespace thinline::pack
