// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "folds/Ways.h"

#include "folds/Steps.h"
#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

namespace thinline::folds {
namespace {

using design::Zone;
using support::id;
using support::rectangle;

Pieces flag() {
    return {{support::piece(id(1), rectangle(0, 0, 100, 60))}, {}};
}
design::Outcome after(const Pieces& pieces, Step step, int number = 7) {
    step.id = design::StepId{number};
    auto out = apply(pieces, step);
    if (!out)
        throw std::runtime_error(out.error().message);
    return out.take();
}

TEST(Way, HasTwoSlitsAcrossItAndRunsBetweenThem) {
    const Pieces pieces = flag();
    const auto out = after(pieces, wayStep(Action::Way, pieces.now[0], {20, 30}, {80, 30}, {0, 10, 12, 1}));
    const design::Body& body = *out.pieces.now[0].body;
    ASSERT_EQ(body.lines.size(), 2u);
    for (const design::PieceLine& line : body.lines) {
        EXPECT_TRUE(std::holds_alternative<design::Slit>(line.does));
        EXPECT_NEAR(geometry::contourLength(line.path), 12, 1e-9);
        EXPECT_NEAR(line.path.start.x, geometry::endOf(line.path).x, 1e-9) << "across";
    }
    ASSERT_EQ(body.zones.size(), 1u);
    EXPECT_EQ(body.zones[0].kind, Zone::Kind::Way);
    EXPECT_EQ(body.zones[0].side, design::Side::Front);
    EXPECT_EQ(body.zones[0].takes, "ribbon");
    EXPECT_NEAR(geometry::area(body.zones[0].area), 60 * 10, 1e-6);
    EXPECT_EQ(body.shape, pieces.now[0].shape());
}

TEST(Way, LeavesOverTheEdgeWithOneSlit) {
    const auto way = wayOf(rectangle(0, 0, 100, 60), {20, 30}, {60, 30}, {.runsToEdge = true});
    ASSERT_TRUE(way);
    EXPECT_EQ(way->slits.size(), 1u);
    ASSERT_EQ(way->area.size(), 1u);
    EXPECT_NEAR(geometry::bounds(way->area[0]).most.x, 100, 1e-6);
}

TEST(Way, IsRefusedWhereASlitWouldTearOut) {
    const geometry::Shape card = rectangle(0, 0, 100, 60);
    const auto why = [&](geometry::Point from, geometry::Point to, WayPlan plan = {}) {
        const auto way = wayOf(card, from, to, plan);
        return way ? std::string() : way.error().message;
    };
    EXPECT_NE(why({20, 3}, {80, 3}).find("reaches an edge"), std::string::npos)
        << "half of it is off the card";
    EXPECT_NE(why({20, 6.5}, {80, 6.5}).find("within 1 mm"), std::string::npos);
    EXPECT_EQ(why({20, 7.5}, {80, 7.5}), "");
    EXPECT_NE(why({20, 30}, {120, 30}).find("on the card"), std::string::npos);
    EXPECT_NE(why({20, 30}, {21, 30}).find("2 mm"), std::string::npos);
    EXPECT_NE(why({20, 30}, {80, 30}, {.slitMm = 70}).find("shorter"), std::string::npos);
}

TEST(KeepFree, IsAStripOfTheCard) {
    const Pieces pieces = flag();
    const auto out = after(pieces, wayStep(Action::KeepFree, pieces.now[0], {90, 30}, {140, 30}, {20, 1}));
    ASSERT_EQ(out.pieces.now[0].body->zones.size(), 1u);
    const Zone& zone = out.pieces.now[0].body->zones[0];
    EXPECT_EQ(zone.kind, Zone::Kind::KeepFree);
    EXPECT_EQ(zone.side, design::Side::Back);
    EXPECT_NEAR(geometry::area(zone.area), 10 * 20, 1e-6) << "what lies beyond the edge is none";
    const auto off = apply(pieces, wayStep(Action::KeepFree, pieces.now[0], {190, 30}, {240, 30}));
    EXPECT_FALSE(off);
}

TEST(DrawOn, MakesPenLinesOfOutlinesThatLieOnTheCard) {
    // A ring over the card, and a square half off it.
    const geometry::Shape ring =
        support::withOpening(support::disc({40, 30}, 15), support::disc({40, 30}, 8));
    const Pieces pieces{{support::piece(id(1), rectangle(0, 0, 100, 60)), support::piece(id(2), ring),
                         support::piece(id(3), rectangle(90, 10, 20, 20)),
                         support::piece(id(4), rectangle(200, 10, 20, 20))},
                        {}};
    const auto out = after(pieces, makeStep(Action::DrawOn, {id(1), id(2), id(3), id(4)}));
    ASSERT_EQ(out.pieces.now.size(), 2u) << "what lies beside the card stays a piece";
    EXPECT_EQ(out.pieces.now[1].id, id(4));
    double length = 0;
    for (const design::PieceLine& line : out.pieces.now[0].body->lines) {
        EXPECT_TRUE(std::holds_alternative<design::Pen>(line.does));
        length += geometry::contourLength(line.path);
    }
    EXPECT_NEAR(length, 2 * 3.14159265 * (15 + 8) + 10 + 20 + 10, 0.1);
    EXPECT_EQ(out.pieces.now[0].shape(), pieces.now[0].shape());
    EXPECT_FALSE(apply(pieces, makeStep(Action::DrawOn, {id(1), id(4)})));
}

TEST(LikeTwins, LaysLinesWhereTheyLieOnEveryPieceOfTheForm) {
    const geometry::Shape pennant{geometry::contourThrough({{0, 0}, {50, 0}, {20, 80}}), {}};
    Pieces pieces{{support::piece(id(1), pennant),
                   support::piece(id(2), geometry::transformed(pennant, geometry::Transform::move({70, 5}))),
                   support::piece(id(3), geometry::transformed(pennant, {-1, 0, 0, 1, 200, 0})),
                   support::piece(id(4), rectangle(0, 100, 50, 80))},
                  {}};
    pieces = after(pieces, makeStep(Action::AlongSides, {id(1)}, {0, 12})).pieces;
    const design::LineOf fold{id(1), pieces.now[0].body->lines[0].id};
    const auto step = twinsStep({fold}, pieces.now);
    ASSERT_TRUE(step) << step.error().message;
    EXPECT_EQ(step->on.size(), 3u) << "the line and two pieces";
    const Pieces out = after(pieces, *step, 8).pieces;
    EXPECT_TRUE(out.now[3].body->lines.empty());
    for (const size_t i : {1u, 2u}) {
        ASSERT_EQ(out.now[i].body->lines.size(), 1u) << i;
        const design::PieceLine &line = out.now[i].body->lines[0], &first = out.now[0].body->lines[0];
        EXPECT_NE(line.id, first.id);
        EXPECT_TRUE(line.beginsAtEdge && line.endsAtEdge);
        EXPECT_NEAR(line.path.start.y, first.path.start.y + (i == 1 ? 5 : 0), 1e-6);
        EXPECT_NEAR(geometry::contourLength(line.path), geometry::contourLength(first.path), 1e-6);
    }
    EXPECT_FALSE(apply(out, *step)) << "they carry it already";
    EXPECT_FALSE(twinsStep({}, pieces.now));
    EXPECT_FALSE(twinsStep({fold}, {pieces.now[0], pieces.now[3]}));
}

// "LT" 10 mm high, upright and turned by a quarter: an L of two legs and a T, each sign 5 mm wide and 2 mm apart.
TEST(Write, LaysSingleLinesAlongItsBaseLine) {
    const Pieces pieces = flag();
    const auto boxOf = [](const design::Body& body) {
        geometry::Box out;
        for (const design::PieceLine& line : body.lines)
            out.include(geometry::bounds(line.path));
        return out;
    };
    const auto flat = after(pieces, writeStep(pieces.now[0], {20, 40}, {60, 40}, "lt", {10, 1}));
    const design::Body& body = *flat.pieces.now[0].body;
    ASSERT_EQ(body.lines.size(), 3u);
    EXPECT_TRUE(std::holds_alternative<design::Score>(body.lines[0].does));
    const geometry::Box box = boxOf(body);
    EXPECT_NEAR(box.least.x, 20, 1e-9);
    EXPECT_NEAR(box.most.x, 32, 1e-9);
    EXPECT_NEAR(box.least.y, 30, 1e-9);
    EXPECT_NEAR(box.most.y, 40, 1e-9);
    const auto down = after(pieces, writeStep(pieces.now[0], {20, 10}, {20, 50}, "LT", {10, 0}));
    const geometry::Box turned = boxOf(*down.pieces.now[0].body);
    EXPECT_NEAR(turned.least.x, 20, 1e-9);
    EXPECT_NEAR(turned.most.x, 30, 1e-9);
    EXPECT_NEAR(turned.least.y, 10, 1e-9);
    EXPECT_NEAR(turned.most.y, 22, 1e-9);
    EXPECT_TRUE(std::holds_alternative<design::Pen>(down.pieces.now[0].body->lines[0].does));
    EXPECT_EQ(
        stepText(writeStep(pieces.now[0], {20, 10}, {20, 50}, "LT", {10, 0})).find("Write in single lines"),
        0u);
    EXPECT_FALSE(apply(pieces, writeStep(pieces.now[0], {20, 40}, {60, 40}, "", {10, 1})));
    EXPECT_FALSE(apply(pieces, writeStep(pieces.now[0], {20, 40}, {60, 40}, "ö", {10, 1})));
    EXPECT_FALSE(apply(pieces, writeStep(pieces.now[0], {20, 40}, {20, 40}, "LT", {10, 1})));
    EXPECT_FALSE(apply(pieces, writeStep(pieces.now[0], {220, 40}, {260, 40}, "LT", {10, 1})))
        << "off the card";
}

} // namespace
} // namespace thinline::folds
