// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Carry.h"

#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Parting.h"
#include "geometry/Placing.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <atomic>
#include <cmath>
#include <numbers>
#include <random>

namespace thinline::design {
namespace {

using geometry::Line;
using geometry::Point;
using geometry::Shape;
using geometry::Transform;
using support::disc;
using support::rectangle;

Line straight(Point from, Point to) {
    return {from, {geometry::Segment::line(to)}};
}

PieceLine line(int number, Line path, bool beginsAtEdge, bool endsAtEdge, LineUse use = Fold{}) {
    return {LineId{number}, std::move(path), std::move(use), beginsAtEdge, endsAtEdge};
}

std::shared_ptr<const Body> shared(Body body) {
    return std::make_shared<const Body>(std::move(body));
}

Carried must(const std::vector<std::shared_ptr<const Body>>& from, std::vector<Shape> into,
             CarryOptions options = {}) {
    auto out = carried(from, std::move(into), options);
    if (!out)
        throw std::runtime_error(out.error().message);
    return out.take();
}

/// The length by many small steps: curves of folds drawn at random have bends sharp enough to spoil any quadrature.
double longOf(const Line& line) {
    constexpr int kSteps = 20'000;
    double sum = 0;
    Point from = line.start;
    for (const geometry::Segment& s : line.segments) {
        Point last = from;
        for (int i = 1; i <= kSteps && !s.isLine; ++i) {
            const double t = static_cast<double>(i) / kSteps, u = 1 - t;
            const Point p = from * (u * u * u) + s.control1 * (3 * u * u * t) + s.control2 * (3 * u * t * t) +
                            s.end * (t * t * t);
            sum += distance(last, p);
            last = p;
        }
        sum += distance(last, s.end);
        from = s.end;
    }
    return sum;
}

double lengthOf(const std::vector<Body>& bodies, LineId id) {
    double sum = 0;
    for (const Body& body : bodies)
        for (const PieceLine& one : body.lines)
            sum += one.id == id ? longOf(one.path) : 0;
    return sum;
}

/// A plate of 40 x 20 with a fold across, at x = 10, from edge to edge.
Body foldedPlate() {
    return {rectangle(0, 0, 40, 20), {line(1, straight({10, 0}, {10, 20}), true, true)}};
}

TEST(Carried, BareBodiesCostNothingAndStayBare) {
    const Carried out =
        must({support::body(rectangle(0, 0, 9, 9))}, {rectangle(0, 0, 4, 9), rectangle(4, 0, 5, 9)});
    ASSERT_EQ(out.bodies.size(), 2u);
    EXPECT_TRUE(out.bodies[0].isBare() && out.bodies[1].isBare());
    EXPECT_TRUE(must({}, {rectangle(0, 0, 1, 1)}).bodies[0].isBare());
}

TEST(Carried, AnEndAtTheEdgeFollowsItAndNoFartherThanTwoMillimetres) {
    struct Row {
        double grownMm, lengthMm;
        int shortEnds;
    };
    for (const Row& row :
         {Row{-3, 14, 0}, Row{-0.5, 19, 0}, Row{0.5, 21, 0}, Row{1.9, 23.8, 0}, Row{2.5, 20, 2}}) {
        const double g = row.grownMm;
        const Carried out = must({shared(foldedPlate())}, {rectangle(-g, -g, 40 + 2 * g, 20 + 2 * g)});
        EXPECT_NEAR(lengthOf(out.bodies, LineId{1}), row.lengthMm, 1e-6) << g;
        EXPECT_EQ(out.shortEnds, row.shortEnds) << g;
        EXPECT_EQ(out.bodies[0].lines[0].beginsAtEdge, row.shortEnds == 0) << g;
        EXPECT_EQ(out.bodies[0].lines[0].path.segments.size(), 1u) << g; // a straight fold stays one stroke
    }
}

TEST(Carried, AnEndInsideStaysWhereItIsWhateverTheEdgeDoes) {
    const Body body{rectangle(0, 0, 40, 20), {line(1, straight({10, 5}, {10, 15}), false, false, Score{})}};
    for (const double g : {-1.0, 1.0}) {
        const Carried out = must({shared(body)}, {rectangle(-g, -g, 40 + 2 * g, 20 + 2 * g)});
        EXPECT_EQ(out.bodies[0].lines[0], body.lines[0]);
        EXPECT_EQ(out.shortEnds, 0);
    }
}

TEST(Carried, WhatIsLeftShorterThanAMillimetreIsDroppedAndTold) {
    const Body body{rectangle(0, 0, 40, 20), {line(1, straight({10, 5}, {20, 5}), false, false)}};
    const Carried out = must({shared(body)}, {rectangle(0, 0, 10.8, 20), rectangle(10.8, 0, 29.2, 20)});
    EXPECT_TRUE(out.bodies[0].lines.empty());
    EXPECT_EQ(out.bodies[1].lines.size(), 1u);
    EXPECT_EQ(out.droppedBits, 1);
}

TEST(Carried, ALineAlongTheNewEdgeIsNoLineOfThePieceAnyMore) {
    const Carried out = must({shared(foldedPlate())}, {rectangle(0, 0, 10, 20), rectangle(10, 0, 30, 20)});
    EXPECT_TRUE(out.bodies[0].lines.empty());
    EXPECT_TRUE(out.bodies[1].lines.empty());
    EXPECT_EQ(out.droppedBits, 0) << "it became the edge; nothing is lost";
}

TEST(Carried, DoublesOfAWeldAreOneLineAndPartsOfOneAreWholeAgain) {
    const Body left{
        rectangle(0, 0, 20, 20),
        {line(1, straight({0, 10}, {20, 10}), true, true), line(2, straight({5, 4}, {15, 4}), false, false)}};
    const Body right{rectangle(20, 0, 20, 20),
                     {line(1, straight({20, 10}, {40, 10}), true, true),
                      line(7, straight({5, 4}, {15, 4}), false, false)}};
    const Carried out = must({shared(left), shared(right)}, {rectangle(0, 0, 40, 20)});
    ASSERT_EQ(out.bodies[0].lines.size(), 2u) << "the fold is one again; of two that coincide one stays";
    EXPECT_NEAR(lengthOf(out.bodies, LineId{1}), 40, 1e-6);
    EXPECT_NEAR(lengthOf(out.bodies, LineId{2}), 10, 1e-6);
    EXPECT_TRUE(out.bodies[0].lines[0].beginsAtEdge && out.bodies[0].lines[0].endsAtEdge);
    // Lines of other kinds are not doubles of one another.
    Body score = right;
    score.lines[1].does = Score{};
    EXPECT_EQ(must({shared(left), shared(score)}, {rectangle(0, 0, 40, 20)}).bodies[0].lines.size(), 3u);
}

TEST(Carried, ZonesAreClippedFacesLieOnAllPartsPanelsGoWithTheirPoint) {
    Body body = foldedPlate();
    body.zones.push_back({Zone::Kind::Glue, rectangle(5, 5, 10, 10), 0, support::id(9)});
    body.faces.push_back({Face::Kind::Picture, "sky.png", {}, Transform::scale(40, 20), Side::Back});
    body.panels.push_back({{5, 10}, 0, "wall"});
    body.panels.push_back({{30, 10}, 0, "roof"});
    const Carried out = must({shared(body)}, {rectangle(0, 0, 12, 20), rectangle(12, 0, 28, 20)});
    EXPECT_NEAR(geometry::area(out.bodies[0].zones.at(0).area), 70, 1e-6);
    EXPECT_NEAR(geometry::area(out.bodies[1].zones.at(0).area), 30, 1e-6);
    EXPECT_EQ(out.bodies[0].zones[0].meets, support::id(9));
    EXPECT_EQ(out.bodies[0].faces, body.faces);
    EXPECT_EQ(out.bodies[1].faces, body.faces);
    EXPECT_EQ(out.bodies[0].panels.at(0).name, "wall");
    EXPECT_EQ(out.bodies[1].panels.at(0).name, "roof");
}

TEST(Carried, BadCoordinatesAndStoppingAreToldNotGuessed) {
    Body body = foldedPlate();
    body.lines[0].path.start.x = std::nan("");
    EXPECT_FALSE(carried({shared(body)}, {rectangle(0, 0, 40, 20)}));
    const std::atomic<bool> stop = true;
    EXPECT_EQ(carried({shared(foldedPlate())}, {rectangle(0, 0, 40, 20)}, {}, base::Progress(&stop, nullptr))
                  .error()
                  .code,
              base::Code::Cancelled);
}

TEST(Mapped, AMirroredPieceIsAMirroredPieceAndTwiceItIsTheSame) {
    Body body = foldedPlate();
    std::get<Fold>(body.lines[0].does).scored = Side::Back;
    body.faces = {{Face::Kind::Picture, "sky.png", {}, Transform::scale(40, 20)},
                  {Face::Kind::Text, "harbour", {}, Transform{20, 0, 0, 8, 4, 6}},
                  {Face::Kind::SquareCode, "key 3", {}, Transform{0, 10, -10, 0, 35, 5}}};
    body.zones.push_back({Zone::Kind::KeepFree, disc({30, 10}, 4)});
    body.panels.push_back({{5, 10}, 0.4, "wall"});
    const Transform mirror = geometry::mirrorAbout({20, 0}, geometry::Axis::Vertical);
    const Body once = mapped(body, mirror);
    EXPECT_EQ(std::get<Fold>(once.lines[0].does).scored, Side::Back) << "as the maker sees the piece";
    EXPECT_NEAR(once.lines[0].path.start.x, 30, 1e-12);
    EXPECT_LT(once.faces[0].place.a, 0) << "a picture is mirrored along";
    for (const size_t read : {1u, 2u}) {
        const Transform& place = once.faces[read].place;
        EXPECT_GT(place.a * place.d - place.b * place.c, 0) << "text and codes stay readable";
        const Point middle = place({0.5, 0.5}), wanted = mirror(body.faces[read].place({0.5, 0.5}));
        EXPECT_NEAR(distance(middle, wanted), 0, 1e-12) << "about their own middle";
    }
    EXPECT_NEAR(*once.panels[0].upRad, -0.4, 1e-12);
    const Body twice = mapped(once, mirror);
    EXPECT_EQ(twice.lines, body.lines);
    EXPECT_EQ(twice.faces, body.faces);
    EXPECT_NEAR(distance(twice.panels[0].inside, body.panels[0].inside), 0, 1e-12);
    EXPECT_NEAR(*twice.panels[0].upRad, *body.panels[0].upRad, 1e-12);
    EXPECT_NEAR(geometry::area(twice.shape), geometry::area(body.shape), 1e-9);
}

// ---- properties on random shapes -------------------------------------------------------------------------------

/// A wavy disc of curves, now and then with an opening.
Shape wavy(std::mt19937& random) {
    std::uniform_real_distribution<double> part(0, 1);
    const double radius = 20 + 25 * part(random), wave = 4 * part(random), phase = 6 * part(random);
    const int waves = 2 + static_cast<int>(5 * part(random)), nodes = 24;
    const auto at = [&](double step) {
        const double a = 2 * std::numbers::pi * step / nodes, r = radius + wave * std::sin(waves * a + phase);
        return Point{50 + r * std::cos(a), 50 + r * std::sin(a)};
    };
    Shape out{{at(0), {}}, {}};
    for (int i = 1; i <= nodes; ++i)
        out.outline.segments.push_back(geometry::Segment::curve(at(i - 0.667), at(i - 0.333), at(i % nodes)));
    return part(random) < 0.5 ? out : support::withOpening(out, disc({52, 47}, 3 + 4 * part(random)));
}

/// Straight and curved lines over a shape, cut to it as a person's folds would be.
std::vector<PieceLine> linesOver(const Shape& shape, std::mt19937& random) {
    std::uniform_real_distribution<double> place(0, 100);
    std::vector<PieceLine> out;
    for (int i = 1; i <= 4; ++i) {
        Line path = straight({place(random), place(random)}, {place(random), place(random)});
        if (i % 2 == 0)
            path.segments[0] = geometry::Segment::curve({place(random), place(random)},
                                                        {place(random), place(random)}, path.segments[0].end);
        const auto parts = geometry::clippedTo(path, shape);
        if (!parts)
            throw std::runtime_error(parts.error().message);
        for (const Line& part : *parts) {
            if (geometry::contourLength(part) < 3)
                continue;
            const auto atEdge = [&](Point p) { return geometry::nearestOnEdge(shape, p)->distance < 1e-3; };
            out.push_back(line(static_cast<int>(out.size()) + 1, part, atEdge(part.start),
                               atEdge(geometry::endOf(part)), Score{}));
        }
    }
    return out;
}

Body randomBody(std::mt19937& random) {
    Body out{wavy(random)};
    out.lines = linesOver(out.shape, random);
    return out;
}

/// Two or three seams through the middle.
std::vector<Line> seams(std::mt19937& random) {
    std::uniform_real_distribution<double> turn(0, std::numbers::pi), shift(-12, 12);
    std::vector<Line> out;
    for (int i = 0; i < 2; ++i) {
        const double a = turn(random);
        const Point middle{50 + shift(random), 50 + shift(random)}, along{90 * std::cos(a), 90 * std::sin(a)};
        out.push_back(straight(middle - along, middle + along));
    }
    return out;
}

constexpr CarryOptions kExact{.runOnMm = 2, .leastMm = 0};

TEST(CarriedProperty, LengthsOverAllPartsAddUpWithinAMicron) {
    std::mt19937 random(21);
    int lines = 0;
    for (int round = 0; round < 60; ++round) {
        const Body body = randomBody(random);
        const auto parted = geometry::partedBy(body.shape, seams(random));
        ASSERT_TRUE(parted);
        const Carried out = must({shared(body)}, parted->parts, kExact);
        for (const PieceLine& one : body.lines) {
            EXPECT_NEAR(lengthOf(out.bodies, one.id), longOf(one.path), 1e-3) << round;
            ++lines;
        }
    }
    EXPECT_GT(lines, 100);
}

TEST(CarriedProperty, NoLineLeavesItsPiece) {
    std::mt19937 random(22);
    for (int round = 0; round < 60; ++round) {
        const Body body = randomBody(random);
        std::vector<Shape> into;
        if (round % 3 == 0)
            into = geometry::partedBy(body.shape, seams(random))->parts;
        else
            into = *geometry::subtract({body.shape}, {disc({40, 60}, 15)});
        for (const Body& out : must({shared(body)}, into).bodies)
            for (const PieceLine& one : out.lines) {
                const double whole = geometry::contourLength(one.path);
                for (int i = 0; i <= 20; ++i) {
                    const Point p =
                        geometry::endOf(geometry::stretchOfLine(one.path, 0, whole * (i + 0.5) / 21.0));
                    const double outside = geometry::contains(out.shape, p)
                                               ? 0
                                               : geometry::nearestOnEdge(out.shape, p)->distance;
                    ASSERT_LT(outside, 2e-3) << round;
                }
            }
    }
}

TEST(CarriedProperty, TheTwoHalvesOfASlicedPieceGiveItsLinesBackWhole) {
    std::mt19937 random(23);
    int whole = 0;
    for (int round = 0; round < 60; ++round) {
        const Body body = randomBody(random);
        const auto parted = geometry::partedBy(body.shape, {seams(random).front()});
        ASSERT_TRUE(parted);
        std::vector<std::shared_ptr<const Body>> halves;
        for (const Body& half : must({shared(body)}, parted->parts, kExact).bodies)
            halves.push_back(shared(half));
        std::vector<Shape> shapes;
        for (const auto& half : halves)
            shapes.push_back(half->shape);
        const auto welded = geometry::weld(shapes);
        ASSERT_TRUE(welded && welded->size() == 1) << round;
        const Carried back = must(halves, *welded, kExact);
        ASSERT_EQ(back.bodies[0].lines.size(), body.lines.size()) << round;
        for (const PieceLine& one : body.lines) {
            EXPECT_NEAR(lengthOf(back.bodies, one.id), longOf(one.path), 1e-3) << round;
            ++whole;
        }
    }
    EXPECT_GT(whole, 100);
}

TEST(CarriedProperty, CarryingCommutesWithTransforms) {
    std::mt19937 random(24);
    for (int round = 0; round < 40; ++round) {
        const Body body = randomBody(random);
        const auto parts = geometry::partedBy(body.shape, seams(random))->parts;
        const Transform map = round % 2 ? geometry::turnAbout({13, 80}, 0.1 * round)
                                        : geometry::mirrorAbout({30, 0}, geometry::Axis::Vertical);
        std::vector<Shape> mappedParts;
        for (const Shape& part : parts)
            mappedParts.push_back(geometry::transformed(part, map));
        const Carried first = must({shared(body)}, parts, kExact);
        const Carried second = must({shared(mapped(body, map))}, mappedParts, kExact);
        ASSERT_EQ(first.bodies.size(), second.bodies.size());
        for (size_t i = 0; i < first.bodies.size(); ++i) {
            const Body expected = mapped(first.bodies[i], map);
            ASSERT_EQ(expected.lines.size(), second.bodies[i].lines.size()) << round;
            for (size_t k = 0; k < expected.lines.size(); ++k) {
                const PieceLine &a = expected.lines[k], &b = second.bodies[i].lines[k];
                EXPECT_EQ(a.id, b.id);
                EXPECT_NEAR(distance(a.path.start, b.path.start), 0, 2e-3) << round;
                EXPECT_NEAR(distance(geometry::endOf(a.path), geometry::endOf(b.path)), 0, 2e-3) << round;
            }
        }
    }
}

} // namespace
} // namespace thinline::design
