// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Parting.h"

#include "geometry/Measures.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>
#include <set>

namespace thinline::geometry {
namespace {

using support::disc;
using support::rectangle;
using support::withOpening;

Line straight(std::initializer_list<Point> points) {
    Line out{*points.begin(), {}};
    for (const Point* p = points.begin() + 1; p != points.end(); ++p)
        out.segments.push_back(Segment::line(*p));
    return out;
}

Parted must(const Shape& shape, const std::vector<Line>& lines) {
    auto out = partedBy(shape, lines);
    if (!out)
        throw std::runtime_error(out.error().message);
    return out.take();
}

double sum(const std::vector<Shape>& shapes) {
    double out = 0;
    for (const Shape& shape : shapes)
        out += area(shape);
    return out;
}

TEST(Parting, EveryKindOfMeeting) {
    const Shape plate = rectangle(0, 0, 60, 40);
    const Shape frame = withOpening(plate, rectangle(20, 10, 20, 20));
    struct Row {
        const char* what;
        Shape shape;
        std::vector<Line> lines;
        std::vector<double> areas; ///< of the parts in reading order
        int dangling;
    };
    const std::vector<Row> rows = {
        {"no line", plate, {}, {2400}, 0},
        {"edge to edge", plate, {straight({{20, 0}, {20, 40}})}, {800, 1600}, 0},
        {"past both edges", plate, {straight({{20, -9}, {20, 49}})}, {800, 1600}, 0},
        {"corner to corner", plate, {straight({{0, 0}, {60, 40}})}, {1200, 1200}, 0},
        {"beside the card", plate, {straight({{70, 0}, {70, 40}})}, {2400}, 0},
        {"along the edge", plate, {straight({{0, 0}, {60, 0}})}, {2400}, 0},
        {"dangling at one end", plate, {straight({{20, 0}, {20, 30}})}, {2400}, 1},
        {"dangling at both", plate, {straight({{20, 10}, {20, 30}})}, {2400}, 2},
        {"a cross",
         plate,
         {straight({{20, 0}, {20, 40}}), straight({{0, 10}, {60, 10}})},
         {200, 400, 600, 1200},
         0},
        {"a T", plate, {straight({{20, 0}, {20, 40}}), straight({{20, 10}, {60, 10}})}, {800, 400, 1200}, 0},
        {"a T that overshoots",
         plate,
         {straight({{20, 0}, {20, 40}}), straight({{15, 10}, {60, 10}})},
         {800, 400, 1200},
         1},
        {"end to end in three lines",
         plate,
         {straight({{20, 0}, {20, 15}}), straight({{20, 40}, {20, 25}}), straight({{20, 15}, {20, 25}})},
         {800, 1600},
         0},
        {"the same line twice",
         plate,
         {straight({{20, 0}, {20, 40}}), straight({{20, 40}, {20, 0}})},
         {800, 1600},
         0},
        {"a closed line",
         plate,
         {straight({{10, 10}, {30, 10}, {30, 30}, {10, 30}, {10, 10}})},
         {2000, 400},
         0},
        {"a closed line in another",
         plate,
         {straight({{10, 5}, {50, 5}, {50, 35}, {10, 35}, {10, 5}}),
          straight({{20, 10}, {30, 10}, {30, 20}, {20, 20}, {20, 10}})},
         {1200, 1100, 100},
         0},
        {"into an opening from one side only", frame, {straight({{0, 20}, {20, 20}})}, {2000}, 0},
        {"into an opening from both sides", frame, {straight({{0, 20}, {60, 20}})}, {1000, 1000}, 0},
        {"round an opening",
         frame,
         {straight({{15, 5}, {45, 5}, {45, 35}, {15, 35}, {15, 5}})},
         {1500, 500},
         0},
    };
    for (const Row& row : rows) {
        SCOPED_TRACE(row.what);
        const Parted out = must(row.shape, row.lines);
        ASSERT_EQ(out.parts.size(), row.areas.size());
        for (size_t i = 0; i < row.areas.size(); ++i)
            EXPECT_NEAR(area(out.parts[i]), row.areas[i], 1e-6) << "part " << i;
        EXPECT_EQ(out.danglingEnds, row.dangling);
    }
    EXPECT_EQ(must(frame, {straight({{70, 0}, {70, 40}})}).parts[0], frame)
        << "what nothing meets is untouched";
}

TEST(Parting, NeighboursShareTheirBorderToTheBit) {
    const Line wave{{0, 20}, {Segment::curve({20, 5}, {40, 35}, {60, 20})}};
    const Parted out = must(rectangle(0, 0, 60, 40), {wave});
    ASSERT_EQ(out.parts.size(), 2u);
    const auto curveOf = [](const Shape& shape) {
        Point from = shape.outline.start;
        for (const Segment& s : shape.outline.segments) {
            if (!s.isLine)
                return std::set<std::pair<double, double>>{{from.x, from.y},
                                                           {s.control1.x, s.control1.y},
                                                           {s.control2.x, s.control2.y},
                                                           {s.end.x, s.end.y}};
            from = s.end;
        }
        return std::set<std::pair<double, double>>{};
    };
    EXPECT_EQ(curveOf(out.parts[0]), curveOf(out.parts[1]));
    EXPECT_EQ(curveOf(out.parts[0]).count({20, 5}), 1u) << "and it is the line's own";
}

// A sheet of a jigsaw: wavy open lines across and down, as templates have them.
TEST(Parting, AJigsawOfOpenLinesHasColumnsTimesRowsParts) {
    const int columns = 6, rows = 4;
    std::mt19937 random(7);
    std::uniform_real_distribution<double> sway(-3, 3);
    std::vector<Line> lines;
    const auto wavy = [&](Point from, Point to, int waves) {
        Line line{from, {}};
        for (int i = 1; i <= waves; ++i) {
            const Point a = from + (to - from) * ((i - 1.0) / waves),
                        b = from + (to - from) * (1.0 * i / waves);
            const Point across{-(to - from).y / length(to - from), (to - from).x / length(to - from)};
            line.segments.push_back(Segment::curve(a + (b - a) * 0.3 + across * sway(random),
                                                   a + (b - a) * 0.7 + across * sway(random), b));
        }
        return line;
    };
    for (int i = 1; i < columns; ++i)
        lines.push_back(wavy({20.0 * i, 0}, {20.0 * i, 80}, rows * 2));
    for (int i = 1; i < rows; ++i)
        lines.push_back(wavy({0, 20.0 * i}, {120, 20.0 * i}, columns * 2));
    const Shape sheet = rectangle(0, 0, 120, 80);
    const Parted out = must(sheet, lines);
    EXPECT_EQ(out.parts.size(), static_cast<size_t>(columns * rows));
    EXPECT_EQ(out.danglingEnds, 0);
    EXPECT_NEAR(sum(out.parts), area(sheet), 1e-6);
    for (const Shape& part : out.parts)
        EXPECT_TRUE(part.openings.empty());
}

// Euler's formula for planar graphs: chords of a disc through no common point cut it into
// 1 + chords + crossings parts.
TEST(Parting, ChordsOfADiscCutItAsEulerSays) {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> angle(0, 6.283185307179586);
    for (int round = 0; round < 40; ++round) {
        const int chords = 1 + round % 7;
        std::vector<Line> lines;
        std::vector<std::pair<Point, Point>> ends;
        for (int i = 0; i < chords; ++i) {
            const double a = angle(random), b = a + 1 + angle(random) / 2;
            const Point p{40 * std::cos(a), 40 * std::sin(a)}, q{40 * std::cos(b), 40 * std::sin(b)};
            lines.push_back(straight({p, q}));
            ends.emplace_back(p, q);
        }
        int crossings = 0;
        for (int i = 0; i < chords; ++i)
            for (int k = i + 1; k < chords; ++k) {
                const auto [a, b] = ends[i];
                const auto [c, d] = ends[k];
                // within the disc of 30 mm that is cut
                const double det = cross(b - a, d - c);
                const Point at = a + (b - a) * (cross(c - a, d - c) / det);
                crossings += length(at) < 30;
            }
        int within = 0;
        for (const auto& [a, b] : ends)
            within += distanceToStretch({0, 0}, a, b) < 30;
        const Shape plate = disc({0, 0}, 30);
        const Parted out = must(plate, lines);
        EXPECT_EQ(static_cast<int>(out.parts.size()), 1 + within + crossings) << "round " << round;
        EXPECT_NEAR(sum(out.parts), area(plate), 1e-5);
        EXPECT_EQ(out.danglingEnds, 0);
    }
}

TEST(Parting, AnEndWithinAMicronOfTheEdgeReachesIt) {
    EXPECT_EQ(must(rectangle(0, 0, 60, 40), {straight({{20, 0.0008}, {20, 39.9995}})}).parts.size(), 2u);
    EXPECT_EQ(must(rectangle(0, 0, 60, 40), {straight({{20, 0.01}, {20, 40}})}).danglingEnds, 1);
}

TEST(Parting, RefusesWhatIsNoNumber) {
    EXPECT_FALSE(partedBy(rectangle(0, 0, 1, 1), {straight({{0, NAN}, {1, 1}})}));
    EXPECT_FALSE(partedBy(rectangle(0, NAN, 1, 1), {}));
}

} // namespace
} // namespace thinline::geometry
