// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "folds/Panes.h"

#include "folds/Steps.h"
#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <numbers>

namespace thinline::folds {
namespace {

using design::Body;
using geometry::Point;
using geometry::Shape;
using support::disc;
using support::rectangle;
using support::withOpening;

constexpr double kPi = std::numbers::pi;

std::vector<std::optional<Pane>> panes(const Body& body, const std::vector<Point>& windows,
                                       double marginMm = 5) {
    auto out = panesOf(body, windows, marginMm);
    if (!out)
        throw std::runtime_error(out.error().message);
    return out.take();
}
design::PieceLine fold(Point from, Point to) {
    return {design::LineId{1}, {from, {geometry::Segment::line(to)}}, design::Fold{}, true, true};
}

TEST(APane, IsItsWindowWithARingToGlueItBy) {
    const Body plate{withOpening(rectangle(0, 0, 100, 80), disc({50, 40}, 15))};
    const auto all = panes(plate, {{50, 40}});
    ASSERT_TRUE(all[0]);
    EXPECT_NEAR(geometry::area(all[0]->shape), kPi * 20 * 20, 0.5);
    ASSERT_EQ(all[0]->ring.size(), 1u);
    EXPECT_NEAR(geometry::area(all[0]->ring[0]), kPi * (20 * 20 - 15 * 15), 1);
    EXPECT_NEAR(narrowestRing(all[0]->ring[0]), 5, 0.02);
    EXPECT_FALSE(panes(plate, {{5, 5}})[0]) << "no opening there";
    EXPECT_FALSE(panesOf(plate, {{50, 40}}, 0.4));
}

TEST(APane, KeepsOffFoldsEdgesAndGluedFlaps) {
    // The window is 4 mm from a fold at its left, 3 mm from the edge above, and 3.5 mm from a glued flap at its right.
    Body plate{withOpening(rectangle(0, 0, 100, 80), rectangle(34, 3, 20, 30))};
    plate.lines = {fold({30, 0}, {30, 80})};
    plate.zones.push_back({design::Zone::Kind::Glue, rectangle(57.5, 0, 20, 80), 0, support::id(1)});
    const auto all = panes(plate, {{40, 10}});
    ASSERT_TRUE(all[0]);
    const geometry::Box box = geometry::bounds(all[0]->shape);
    EXPECT_NEAR(box.least.x, 30 + kPaneClearMm, 0.01);
    EXPECT_NEAR(box.least.y, 0 + kPaneClearMm, 0.01);
    EXPECT_NEAR(box.most.x, 57.5, 0.01);
    EXPECT_NEAR(box.most.y, 33 + 5, 0.01);
    EXPECT_NEAR(narrowestRing(all[0]->ring[0]), 3 - kPaneClearMm, 0.02);
}

TEST(Panes, ThatMeetShareTheGap) {
    Shape shape = rectangle(0, 0, 120, 60);
    shape = withOpening(shape, rectangle(20, 20, 20, 20));
    shape = withOpening(shape, rectangle(46, 20, 20, 20));
    shape = withOpening(shape, disc({95, 30}, 8));
    const auto all = panes({shape}, {{30, 30}, {55, 30}, {95, 30}});
    ASSERT_TRUE(all[0] && all[1] && all[2]);
    EXPECT_NEAR(geometry::bounds(all[0]->shape).most.x, 43, 0.02) << "half of the 6 mm";
    EXPECT_NEAR(geometry::bounds(all[1]->shape).least.x, 43, 0.02);
    EXPECT_NEAR(geometry::bounds(all[2]->shape).width(), 26, 0.02) << "that one has room";
    const auto common = geometry::intersect({all[0]->shape}, {all[1]->shape});
    ASSERT_TRUE(common);
    double overlap = 0;
    for (const Shape& one : *common)
        overlap += geometry::area(one);
    EXPECT_LT(overlap, 0.01);
}

TEST(Panes, BecomePiecesThatKeepTheirNamesAndRings) {
    Shape shape = withOpening(rectangle(0, 0, 120, 60), rectangle(20, 20, 20, 20));
    shape = withOpening(shape, disc({95, 30}, 8));
    const Pieces pieces{{support::piece(support::id(1), shape)}, {}};
    Step step = makeStep(
        Action::Panes,
        {design::OpeningOf{support::id(1), {95, 30}}, design::OpeningOf{support::id(1), {30, 30}}}, {5});
    step.id = design::StepId{4};
    const auto out = apply(pieces, step);
    ASSERT_TRUE(out) << out.error().message;
    ASSERT_EQ(out->pieces.now.size(), 3u);
    const design::Piece* round = design::findPiece(out->pieces.now, paneOf(step, 0));
    ASSERT_TRUE(round);
    EXPECT_NEAR(geometry::area(round->shape()), kPi * 13 * 13, 0.5);
    EXPECT_TRUE(round->body->isBare());
    const auto& zones = out->pieces.now[0].body->zones;
    ASSERT_EQ(zones.size(), 2u);
    EXPECT_EQ(zones[0].meets, paneOf(step, 0));
    EXPECT_EQ(out->pieces.now[0].shape(), shape) << "the windows stay as they are";
    // One window is filled meanwhile: the other pane keeps its name.
    Shape filled = shape;
    filled.openings.erase(filled.openings.begin() + 1);
    const auto later = apply({{support::piece(support::id(1), filled)}, {}}, step);
    ASSERT_TRUE(later);
    ASSERT_EQ(later->pieces.now.size(), 2u);
    EXPECT_EQ(later->pieces.now[1].id, paneOf(step, 1));
    step.on = {design::OpeningOf{support::id(1), {5, 5}}};
    EXPECT_EQ(apply(pieces, step).error().message,
              "There is no window at that place, or no room for its pane.");
}

TEST(ALining, IsItsPanelAMarginSmaller) {
    Body box{withOpening(rectangle(0, 0, 100, 60), disc({25, 30}, 10))};
    box.lines = {fold({50, 0}, {50, 60})};
    Pieces pieces{{support::piece(support::id(1), box.shape)}, {}};
    pieces.now[0].body = std::make_shared<const Body>(box);
    Step step = panelStep(Action::Lining, pieces.now[0], {10, 10});
    step.id = design::StepId{9};
    step.values["margin"] = 2.0;
    const auto out = apply(pieces, step);
    ASSERT_TRUE(out) << out.error().message;
    const design::Piece* lining = design::findPiece(out->pieces.now, liningOf(step));
    ASSERT_TRUE(lining);
    EXPECT_NEAR(geometry::area(lining->shape()), 46 * 56 - kPi * 12 * 12, 0.5);
    EXPECT_NE(lining->name.find("lining of panel 1"), std::string::npos);
    step.values["margin"] = 40.0;
    EXPECT_EQ(apply(pieces, step).error().message,
              "Nothing would be left of the lining; give a smaller margin.");
}

} // namespace
} // namespace thinline::folds
