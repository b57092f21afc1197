// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Section.h"

#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Placing.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

namespace thinline::design {
namespace {

using support::disc;
using support::laid;
using support::rectangle;

Section must(const Stack& stack, const SectionLine& line) {
    RowMemory rows;
    SectionMemory memory;
    const auto heights = heightsOf(stack, rows);
    if (!heights)
        throw std::runtime_error(heights.error().message);
    return sectionOf(stack, *heights, line, memory);
}

/// A board of 100 x 60 with a window, a card with a lift on it, another beside the board, a disc on the card.
Stack shelf() {
    geometry::Shape board = rectangle(0, 0, 100, 60);
    board.openings.push_back(geometry::reversed(rectangle(20, 20, 20, 20).outline));
    Stack out{{{"card", "card", {}, 0.3}, {"board", "board", {}, 2}},
              {support::layer(1, "board"), support::layer(2, "card"), support::layer(3, "card")},
              {laid(1, board), laid(2, rectangle(50, 10, 40, 40), 2), laid(3, rectangle(110, 0, 20, 60), 2),
               laid(4, disc({70, 30}, 10), 3)}};
    out.pieces[1].liftMm = 1.5;
    out.pieces[3].liftMm = 3;
    return out;
}

struct Span {
    size_t piece;
    double from, to, bottom, top;
};

void expectSpans(const Section& section, const std::vector<Span>& wanted) {
    ASSERT_EQ(section.spans.size(), wanted.size());
    for (size_t i = 0; i < wanted.size(); ++i) {
        SCOPED_TRACE(i);
        EXPECT_EQ(section.spans[i].piece, wanted[i].piece);
        EXPECT_NEAR(section.spans[i].fromMm, wanted[i].from, 0.01);
        EXPECT_NEAR(section.spans[i].toMm, wanted[i].to, 0.01);
        EXPECT_NEAR(section.spans[i].height.bottomMm, wanted[i].bottom, 1e-9);
        EXPECT_NEAR(section.spans[i].height.topMm, wanted[i].top, 1e-9);
    }
}

// By hand. The board lies on the table, 2 mm; the card rests on it over 1.5 mm of foam: 3.5 to 3.8; the disc over 3 mm on
// the card: 6.8 to 7.1; the card beside it lies on the table over nothing.
TEST(Section, StraightAcrossTheMiddle) {
    const Section section = must(shelf(), {{0, 30}, 0});
    expectSpans(section, {{0, 0, 20, 0, 2},
                          {0, 40, 100, 0, 2},
                          {1, 50, 90, 3.5, 3.8},
                          {2, 110, 130, 0, 0.3},
                          {3, 60, 80, 6.8, 7.1}});
    EXPECT_DOUBLE_EQ(section.fromMm, 0);
    EXPECT_DOUBLE_EQ(section.toMm, 130);
}

// Turned by 30 degrees about (70, 30): along it x = 70 + s cos 30, y = 30 + s sin 30. The board's window ends at x = 40,
// that is s = -30 / cos 30 = -34.641, where y = 12.679: above the window, which begins at y = 20 (s = -20, x = 52.68).
// So the line misses the window. It leaves the board at y = 0 (s = -60) and at x = 100 (s = 34.641, y = 47.32).
// The card from 50 to 90: s = -20 / cos 30 = -23.094 (y = 18.45) to 23.094. The other card: x = 110 at s = 46.188
// (y = 53.09), and y = 60 at s = 60 (x = 121.96).
TEST(Section, TurnedByThirtyDegrees) {
    const double turn = std::numbers::pi / 6, cos30 = std::cos(turn);
    const Section section = must(shelf(), {{70, 30}, turn});
    expectSpans(section, {{0, -60, 30 / cos30, 0, 2},
                          {1, -20 / cos30, 20 / cos30, 3.5, 3.8},
                          {2, 40 / cos30, 60, 0, 0.3},
                          {3, -10, 10, 6.8, 7.1}});
    EXPECT_NEAR(section.fromMm, -60, 1e-9) << "where the frame of all begins on the line";
    EXPECT_NEAR(section.toMm, 60, 1e-9);
}

// Upright through the window of the board, x = 30.
TEST(Section, Upright) {
    const Section section = must(shelf(), {{30, 0}, std::numbers::pi / 2});
    expectSpans(section, {{0, 0, 20, 0, 2}, {0, 40, 60, 0, 2}});
}

TEST(Section, BesideEverythingNothingIsMet) {
    const Section section = must(shelf(), {{0, 100}, 0});
    EXPECT_TRUE(section.spans.empty());
    EXPECT_TRUE(section.isMissed());
    EXPECT_TRUE(must({{}, {}, {}}, {}).isMissed());
}

TEST(Section, HiddenLayersAreThere) {
    Stack stack = shelf();
    stack.layers[1].isHidden = true;
    EXPECT_EQ(must(stack, {{0, 30}, 0}).spans.size(), 5u);
}

TEST(Section, AcrossTheMiddleOfABox) {
    const SectionLine line = acrossMiddle({{10, 20}, {110, 80}});
    EXPECT_EQ(line.through, (geometry::Point{60, 50}));
    const auto part = within(line, {{10, 20}, {110, 80}});
    ASSERT_TRUE(part);
    EXPECT_DOUBLE_EQ(part->first, -50);
    EXPECT_DOUBLE_EQ(part->second, 50);
}

// A thin strip laid along the line has as much area in common with a piece as the spans are long times its width: the
// same by our set operations, which share no code with the crossings.
TEST(Section, AgreesWithAStripCutFromThePiece) {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> place(0, 100), angle(0, 2 * std::numbers::pi), size(5, 30);
    constexpr double kWideMm = 0.02;
    for (int round = 0; round < 60; ++round) {
        geometry::Shape shape = disc({place(random), place(random)}, size(random));
        if (round % 2 == 0) {
            auto cut = geometry::subtract({rectangle(place(random) / 2, place(random) / 2, 60, 40)}, {shape});
            ASSERT_TRUE(cut);
            if (cut->empty())
                continue;
            shape = cut->front();
        }
        const Stack stack{{{"card", "card"}}, {support::layer(1, "card")}, {laid(1, shape)}};
        const SectionLine line{{place(random), place(random)}, angle(random)};
        double length = 0;
        for (const SectionSpan& span : must(stack, line).spans)
            length += span.toMm - span.fromMm;
        const geometry::Shape strip = geometry::transformed(
            rectangle(-300, -kWideMm / 2, 600, kWideMm),
            geometry::turnAbout({}, line.turnRad).then(geometry::Transform::move(line.through)));
        const auto common = geometry::intersect({shape}, {strip});
        ASSERT_TRUE(common);
        double area = 0;
        for (const geometry::Shape& one : *common)
            area += geometry::area(one);
        EXPECT_NEAR(length, area / kWideMm, 0.15)
            << round; // where it grazes a disc the strip is the coarser one
    }
}

} // namespace
} // namespace thinline::design
