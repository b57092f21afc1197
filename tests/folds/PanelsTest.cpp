// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "folds/Panels.h"

#include "design/Carry.h"
#include "folds/Steps.h"
#include "geometry/Measures.h"
#include "geometry/Placing.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <numbers>

namespace thinline::folds {
namespace {

using design::Body;
using design::Fold;
using geometry::Point;
using support::rectangle;

Body folded(geometry::Shape shape, const std::vector<std::pair<std::pair<Point, Point>, Fold>>& folds) {
    Body out{std::move(shape)};
    int number = 1;
    for (const auto& [way, fold] : folds)
        out.lines.push_back(
            {design::LineId{number++}, {way.first, {geometry::Segment::line(way.second)}}, fold, true, true});
    return out;
}
geometry::Shape polygon(const geometry::Polygon& points) {
    return {geometry::contourThrough(points), {}};
}
std::vector<Panel> panels(const Body& body) {
    auto out = panelsOf(body);
    if (!out)
        throw std::runtime_error(out.error().message);
    return out.take();
}
const Panel& at(const std::vector<Panel>& panels, Point p) {
    for (const Panel& panel : panels)
        if (geometry::contains(panel.area, p))
            return panel;
    throw std::runtime_error("no panel there");
}

const Fold kAway{}, kFlat{design::Side::Front, false, 180}, kTowards{design::Side::Front, true, 90};

/// Four walls of 50 x 80 in a row from x = 0, the front the first, with lids and a bottom where a table row asks.
struct Net {
    const char* what;
    Body body;
    Point front;
    std::vector<std::pair<Point, double>> reads; ///< degrees clockwise
};

// Checked by folding paper: a strip of four walls, lids, a tent card.
TEST(PanelsOfANet, AreReadTheWayTheyAreOnceFolded) {
    const geometry::Shape strip = rectangle(0, 0, 200, 80);
    const std::vector<std::pair<std::pair<Point, Point>, Fold>> walls{
        {{{50, 0}, {50, 80}}, kAway}, {{{100, 0}, {100, 80}}, kAway}, {{{150, 80}, {150, 0}}, kAway}};
    // The strip with a lid on its first and on its second wall, and a bottom under the first.
    const geometry::Shape cross = polygon({{0, 0},
                                           {0, -50},
                                           {50, -50},
                                           {50, 0},
                                           {55, 0},
                                           {55, -30},
                                           {95, -30},
                                           {95, 0},
                                           {200, 0},
                                           {200, 80},
                                           {50, 80},
                                           {50, 130},
                                           {0, 130},
                                           {0, 80}});
    auto lids = walls;
    lids.push_back({{{0, 0}, {50, 0}}, kAway});
    lids.push_back({{{55, 0}, {95, 0}}, kAway});
    lids.push_back({{{0, 80}, {50, 80}}, kAway});
    const std::vector<Net> rows{
        {"a strip of four walls",
         folded(strip, walls),
         {25, 40},
         {{{25, 40}, 0}, {{75, 40}, 0}, {{125, 40}, 0}, {{175, 40}, 0}}},
        {"folded towards the viewer",
         folded(strip, {{{{50, 0}, {50, 80}}, kTowards}, {{{100, 0}, {100, 80}}, kTowards}}),
         {25, 40},
         {{{75, 40}, 0}, {{150, 40}, 0}}},
        {"a flap folded back over the top edge",
         folded(rectangle(0, 0, 100, 120), {{{{0, 50}, {100, 50}}, kFlat}}),
         {50, 80},
         {{{50, 20}, 180}}},
        {"a lid, then the back",
         folded(rectangle(0, 0, 60, 200), {{{{0, 120}, {60, 120}}, kAway}, {{{0, 80}, {60, 80}}, kAway}}),
         {30, 160},
         {{{30, 100}, 0}, {{30, 40}, 180}}},
        {"a lid on the front, a lid on a side wall, a bottom",
         folded(cross, lids),
         {25, 40},
         {{{25, -20}, 0}, {{75, -20}, 90}, {{25, 100}, 0}, {{175, 40}, 0}}},
        {"a card that opens like a book",
         folded(rectangle(0, 0, 100, 70), {{{{50, 0}, {50, 70}}, kFlat}}),
         {75, 35},
         {{{25, 35}, 0}}},
        {"a lid on the left wall, seen from the second one",
         folded(cross, lids),
         {75, 40},
         {{{25, -20}, -90}, {{75, -20}, 0}}},
    };
    for (const Net& row : rows) {
        SCOPED_TRACE(row.what);
        Body body = row.body;
        body.panels.push_back({row.front, {}, "", true});
        const auto all = panels(body);
        EXPECT_TRUE(at(all, row.front).isFront);
        for (const auto& [place, degrees] : row.reads) {
            const double is = at(all, place).upRad * 180 / std::numbers::pi;
            EXPECT_NEAR(std::abs(std::remainder(is - degrees, 360)), 0, 1e-6)
                << place.x << "," << place.y << ": " << is;
        }
    }
}

TEST(PanelsOfANet, ARoofIsReadUpItsSlope) {
    // Folded by 50 degrees at the eaves, the roof stands at 40 degrees to the horizon: steep enough to be read from the
    // front with its ridge up; its far half hangs down behind and is read from there.
    const Fold eaves{design::Side::Front, false, 50}, ridge{design::Side::Front, false, 80};
    Body house =
        folded(rectangle(0, 0, 60, 200), {{{{0, 120}, {60, 120}}, eaves}, {{{0, 60}, {60, 60}}, ridge}});
    house.panels.push_back({{30, 160}, {}, "", true});
    const auto all = panels(house);
    EXPECT_NEAR(at(all, {30, 90}).upRad, 0, 1e-9);
    EXPECT_NEAR(std::abs(at(all, {30, 30}).upRad), std::numbers::pi, 1e-9);
}

TEST(PanelsOfANet, AFoldThatStopsShortMakesNone) {
    EXPECT_TRUE(panels(folded(rectangle(0, 0, 100, 60), {{{{50, 0}, {50, 40}}, kAway}})).empty());
    EXPECT_TRUE(panels(folded(rectangle(0, 0, 100, 60), {})).empty());
    Body scored = folded(rectangle(0, 0, 100, 60), {{{{50, 0}, {50, 60}}, kAway}});
    scored.lines[0].does = design::Score{};
    EXPECT_TRUE(panels(scored).empty()) << "only folds make panels";
    std::vector<std::pair<std::pair<Point, Point>, Fold>> many;
    for (int i = 1; i <= 2001; ++i)
        many.push_back({{{i * 0.04, 0}, {i * 0.04, 60}}, kAway});
    EXPECT_TRUE(panels(folded(rectangle(0, 0, 100, 60), many)).empty()) << "no template has thousands";
}

TEST(PanelsOfANet, ALoopOfFoldsAroundAnOpeningIsAPanelWithIt) {
    // A tray seen from above: its floor has a window, four walls hang on it.
    const geometry::Shape tray = support::withOpening(polygon({{20, 20},
                                                               {20, 0},
                                                               {80, 0},
                                                               {80, 20},
                                                               {100, 20},
                                                               {100, 60},
                                                               {80, 60},
                                                               {80, 80},
                                                               {20, 80},
                                                               {20, 60},
                                                               {0, 60},
                                                               {0, 20}}),
                                                      rectangle(40, 30, 20, 20));
    const auto all = panels(folded(tray, {{{{20, 20}, {80, 20}}, kAway},
                                          {{{80, 20}, {80, 60}}, kAway},
                                          {{{80, 60}, {20, 60}}, kAway},
                                          {{{20, 60}, {20, 20}}, kAway}}));
    ASSERT_EQ(all.size(), 5u);
    const Panel& floor = at(all, {30, 40});
    EXPECT_TRUE(floor.isFront) << "the largest";
    EXPECT_EQ(floor.area.openings.size(), 1u);
    EXPECT_EQ(floor.neighbours.size(), 4u);
    double sum = 0;
    for (const Panel& panel : all)
        sum += geometry::area(panel.area);
    EXPECT_NEAR(sum, geometry::area(tray), 1e-6);
}

TEST(PanelsOfANet, WhatWasSaidGoesBeforeWhatFollows) {
    Body strip =
        folded(rectangle(0, 0, 150, 80), {{{{50, 0}, {50, 80}}, kAway}, {{{100, 0}, {100, 80}}, kAway}});
    strip.panels = {{{25, 40}, std::numbers::pi / 2, "stern"}, {{75, 40}, {}, "port side", true}};
    const auto all = panels(strip);
    EXPECT_EQ(all[0].name, "stern");
    EXPECT_TRUE(all[0].isUpSaid);
    EXPECT_NEAR(all[0].upRad, std::numbers::pi / 2, 1e-12);
    EXPECT_EQ(all[1].name, "port side");
    EXPECT_TRUE(all[1].isFront);
    EXPECT_EQ(all[2].name, "panel 3");
}

// ---- flaps

TEST(FlapsOfANet, AreFoundWithWhoTakesThem) {
    // A lantern strip: four walls and a narrowing flap as long as the first wall's free edge.
    const geometry::Shape strip = polygon({{0, 0}, {200, 0}, {215, 8}, {215, 72}, {200, 80}, {0, 80}});
    const Body body = folded(strip, {{{{50, 0}, {50, 80}}, kAway},
                                     {{{100, 0}, {100, 80}}, kAway},
                                     {{{150, 0}, {150, 80}}, kAway},
                                     {{{200, 0}, {200, 80}}, kAway}});
    const auto all = panels(body);
    const auto flaps = flapsOf(body, all);
    ASSERT_EQ(flaps.size(), 1u) << "the first wall is joined by one fold too, and is no flap";
    EXPECT_TRUE(geometry::contains(all[flaps[0].panel].area, {207, 40}));
    EXPECT_NEAR(flaps[0].foldMm, 80, 1e-9);
    EXPECT_NEAR(flaps[0].depthMm, 15, 1e-9);
    ASSERT_EQ(flaps[0].meets.size(), 1u);
    EXPECT_TRUE(geometry::contains(all[flaps[0].meets[0].panel].area, {25, 40}));
    EXPECT_NEAR(flaps[0].meets[0].edge.lengthMm(), 80, 1e-9);
    EXPECT_EQ(meetingText(all, flaps[0].meets[0]), "panel 1, left edge");
    // Glued, it lies behind that wall, its fold along the edge.
    EXPECT_EQ(takerOf(body, all, flaps[0]), nullptr) << "nobody glues it";
    Body glued = body;
    glued.zones.push_back({design::Zone::Kind::Glue, all[flaps[0].panel].area});
    EXPECT_EQ(takerOf(glued, all, flaps[0]), &flaps[0].meets[0]) << "there is only that one";
    const geometry::Transform map = laidBehind(flaps[0], flaps[0].meets[0]);
    EXPECT_LT(geometry::distance(map({200, 0}), {0, 0}), 1e-9);
    EXPECT_LT(geometry::distance(map({200, 80}), {0, 80}), 1e-9);
    EXPECT_LT(geometry::distance(map({215, 40}), {15, 40}), 1e-9);
}

TEST(FlapsOfANet, SeveralThatWouldDoAreAllTold) {
    // A square box: every wall has free edges of 50 mm, so the flap on the lid could go to three of them.
    const geometry::Shape net =
        polygon({{0, 0}, {0, -50}, {5, -60}, {45, -60}, {50, -50}, {50, 0}, {200, 0}, {200, 80}, {0, 80}});
    const Body body = folded(net, {{{{50, 0}, {50, 80}}, kAway},
                                   {{{100, 0}, {100, 80}}, kAway},
                                   {{{150, 0}, {150, 80}}, kAway},
                                   {{{0, 0}, {50, 0}}, kAway},
                                   {{{0, -50}, {50, -50}}, kAway}});
    const auto all = panels(body);
    const auto flaps = flapsOf(body, all);
    ASSERT_EQ(flaps.size(), 1u);
    ASSERT_GT(flaps[0].meets.size(), 2u);
    Body glued = body;
    glued.zones.push_back({design::Zone::Kind::Glue, all[flaps[0].panel].area});
    EXPECT_EQ(takerOf(glued, all, flaps[0]), nullptr) << "who knows is asked";
    for (const Meeting& one : flaps[0].meets) {
        glued.zones[0].behind = one.edge.middle() + Point{0.3, -0.2};
        EXPECT_EQ(takerOf(glued, all, flaps[0]), &one);
        const geometry::Transform map = laidBehind(flaps[0], one);
        EXPECT_GT(map.a * map.d - map.b * map.c, 0.999) << "it is turned, not mirrored";
        EXPECT_TRUE(geometry::contains(all[one.panel].area, map({25, -55}))) << "its middle lies on the panel";
        // What was said is carried along when the piece is moved and turned.
        const geometry::Transform moved = geometry::turnAbout({3, 4}, 1).then(geometry::Transform::move({30, 40}));
        EXPECT_LT(geometry::distance(*design::mapped(glued, moved).zones[0].behind, moved(*glued.zones[0].behind)), 1e-9);
    }
}

TEST(FlapsOfANet, AreShortenedAndNothingElseChanges) {
    const geometry::Shape strip = polygon({{0, 0}, {200, 0}, {230, 15}, {230, 65}, {200, 80}, {0, 80}});
    const Body body = folded(strip, {{{{100, 0}, {100, 80}}, kAway}, {{{200, 80}, {200, 0}}, kAway}});
    const auto all = panels(body);
    const Panel& flap = at(all, {210, 40});
    const auto shorter = shortened(body, flap, 12);
    ASSERT_TRUE(shorter) << shorter.error().message;
    EXPECT_NEAR(geometry::bounds(*shorter).most.x, 212, 1e-6);
    // A trapezoid of 80 and 80 - 2 * 6 over 12 mm is left of the flap.
    EXPECT_NEAR(geometry::area(*shorter), 200 * 80 + 12 * (80 + 68) / 2.0, 1e-6);
    EXPECT_FALSE(shortened(body, at(all, {150, 40}), 12)) << "that one hangs on two folds";
    Pieces pieces{{support::piece(support::id(1), strip)}, {}};
    pieces.now[0].body = std::make_shared<const Body>(body);
    Step step = panelStep(Action::ShortenFlap, pieces.now[0], {210, 40});
    step.values["depth"] = 12.0;
    const auto out = apply(pieces, step);
    ASSERT_TRUE(out);
    EXPECT_EQ(out->pieces.now[0].body->lines, body.lines) << "its folds stay to the bit";
    step.values["depth"] = 31.0;
    EXPECT_EQ(apply(pieces, step).error().message, "That flap is no deeper.");
}

// ---- the steps that say it

TEST(StepsOfPanels, NameTurnAndGlue) {
    const geometry::Shape strip = polygon({{0, 0}, {200, 0}, {215, 8}, {215, 72}, {200, 80}, {0, 80}});
    Body body = folded(strip, {{{{100, 0}, {100, 80}}, kAway}, {{{200, 0}, {200, 80}}, kAway}});
    Pieces pieces{{support::piece(support::id(1), strip)}, {}};
    pieces.now[0].body = std::make_shared<const Body>(body);
    const auto after = [&](const Step& step) {
        auto out = apply(pieces, step);
        if (!out)
            throw std::runtime_error(out.error().message);
        pieces = out->pieces;
        return *pieces.now[0].body;
    };
    Step say = panelStep(Action::SayPanel, pieces.now[0], {150, 40});
    say.values["front"] = std::string("the front");
    say.values["name"] = std::string("bow");
    EXPECT_TRUE(after(say).panels.at(0).isFront);
    Step turn = panelStep(Action::SayPanel, pieces.now[0], {120, 10}); // another place of the same panel
    turn.values["up"] = 270.0;
    const Body turned = after(turn);
    ASSERT_EQ(turned.panels.size(), 1u);
    EXPECT_EQ(turned.panels[0].name, "bow");
    EXPECT_NEAR(*turned.panels[0].upRad, -std::numbers::pi / 2, 1e-12);
    const Body glued = after(panelStep(Action::Glue, pieces.now[0], {207, 40}));
    ASSERT_EQ(glued.zones.size(), 1u);
    EXPECT_NEAR(geometry::area(glued.zones[0].area), 15 * 72, 1e-6);
    EXPECT_FALSE(apply(pieces, panelStep(Action::Glue, pieces.now[0], {205, 30}))) << "it is glued already";
    EXPECT_TRUE(after(panelStep(Action::Unglue, pieces.now[0], {205, 30})).zones.empty());
    EXPECT_EQ(apply(pieces, panelStep(Action::Glue, pieces.now[0], {500, 30})).error().message,
              "There is no panel at that place; folds that part the piece make some.");
    EXPECT_FALSE(apply(pieces, panelStep(Action::SayPanel, pieces.now[0], {50, 30}))) << "nothing was said";
}

} // namespace
} // namespace thinline::folds
