// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/LayerSteps.h"

#include "job/SheetSteps.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

#include <map>
#include <numbers>
#include <random>

namespace thinline::job {
namespace {

using support::area;
using support::id;
using support::laid;
using support::made;
using support::must;
using support::stockOf;

std::vector<std::string> stocksOf(const State& state) {
    std::vector<std::string> out;
    for (const design::Layer& layer : state.made.work()->layers)
        out.push_back(layer.stockId);
    return out;
}

TEST(Layers, PaintOrderLiftAndStockLayThePiecesAnew) {
    State state = support::tracedShed();
    EXPECT_EQ(stocksOf(state), (std::vector<std::string>{"night", "cream"}));
    state = made(painted(state.job, {area(state, 1), area(state, 2)}, "sea"), state.made);
    EXPECT_EQ(stocksOf(state), (std::vector<std::string>{"night", "cream", "sea"}));
    EXPECT_EQ(stockOf(state, area(state, 1)), "sea");
    const auto& layers = state.made.work()->layers;
    const LayerId night = layers[0].id, cream = layers[1].id, sea = layers[2].id;
    state = made(withLayerMoved(state.job, sea, cream), state.made);
    EXPECT_EQ(stocksOf(state), (std::vector<std::string>{"night", "sea", "cream"}));
    state = made(withLayerLift(state.job, sea, 2.5), state.made);
    EXPECT_DOUBLE_EQ(laid(state, area(state, 1)).liftMm, 2.5);
    state = made(withLayerHidden(state.job, sea, true), state.made);
    EXPECT_TRUE(state.made.work()->layer(sea)->isHidden);
    // Two layers of one card stay two layers: nobody merges them behind anybody's back.
    state = made(withLayerStock(state.job, sea, "cream"), state.made);
    EXPECT_EQ(stocksOf(state), (std::vector<std::string>{"night", "cream", "cream"}));
    EXPECT_TRUE(state.made.work()->layer(sea)->isHidden);
    state = made(withLayerStock(state.job, night, "rust"), state.made);
    EXPECT_EQ(stockOf(state, support::backing(state)), "rust");
    EXPECT_EQ(painted(state.job, {area(state, 1)}, "no such stock").wishes, state.job.wishes);
    EXPECT_EQ(withLayerLift(state.job, sea, 51).layers, state.job.layers);
    EXPECT_EQ(withLayerLift(state.job, sea, -1).layers, state.job.layers);
}

TEST(Layers, WishesOfOnePieceWinOverItsLayer) {
    State state = support::tracedShed();
    const design::PieceId one = area(state, 2);
    state.job = withLayerLift(state.job, laid(state, one).layer, 1);
    state.job = withWish(state.job, one, [](design::Wish& wish) {
        wish.liftMm = 4;
        wish.up = design::Side::Back;
    });
    state = made(state.job, state.made);
    EXPECT_DOUBLE_EQ(laid(state, one).liftMm, 4);
    EXPECT_EQ(laid(state, one).up, design::Side::Back);
    EXPECT_DOUBLE_EQ(laid(state, area(state, 1)).liftMm, 1);
    EXPECT_EQ(laid(state, area(state, 1)).up, design::Side::Front);
    EXPECT_GT(state.made.finished->heights.tallMm(), 4);
}

// Of stacked layers the lower piece has the tuck: change their order, and the other one has it.
TEST(Finish, TheTuckFollowsTheOrderOfTheLayers) {
    const auto file = formats::image::encodePng(support::Drawing(240, 200)
                                                    .fill(support::disc({120, 100}, 80), {200, 71, 43})
                                                    .fill(support::disc({120, 100}, 40), {242, 234, 216})
                                                    .picture());
    const auto open = support::opened(file, "sun.png");
    Job job = must(withSourceWidth(open.job, SourceId{1}, 30)); // 8 px per mm
    trace::Recipe recipe;
    recipe.mode = trace::Mode::FlatArt;
    recipe.stacking = trace::Stacking::Stacked;
    const State state = made(traced(job, *open.picture, recipe, shippedCatalogue()));
    ASSERT_EQ(state.made.work()->layers.size(), 2u);
    const auto areaOf = [](const State& of, design::PieceId piece) {
        return geometry::area(support::shapeOf(of, piece));
    };
    const design::Laid &sun = state.made.work()->pieces[0], &middle = state.made.work()->pieces[1];
    // A ring of 0.6 mm inside the opening of 40 px.
    const double before = geometry::area(findPiece(state.made.pieces->now, sun.id())->shape());
    EXPECT_NEAR(areaOf(state, sun.id()) - before, std::numbers::pi * (25.0 - 4.4 * 4.4), 0.05);
    EXPECT_EQ(areaOf(state, middle.id()),
              geometry::area(findPiece(state.made.pieces->now, middle.id())->shape()))
        << "the topmost stays";
    const State turned = made(withLayerMoved(state.job, sun.layer, middle.layer), state.made);
    EXPECT_EQ(turned.made.work()->pieces[0].id(), middle.id());
    EXPECT_LT(areaOf(turned, sun.id()), areaOf(state, sun.id()) - 5);
    EXPECT_GT(areaOf(turned, middle.id()), areaOf(state, middle.id()) + 5);
}

TEST(Finish, InkOnTopHasTheAreasBelowItsLines) {
    const auto open = support::opened(support::shedPng(), "shed.png");
    trace::Recipe recipe;
    recipe.build = trace::Build::InkOnTop;
    recipe.tuckMm = 0.4;
    const State state = made(traced(open.job, *open.picture, recipe, shippedCatalogue()));
    const design::Stack& work = *state.made.work();
    EXPECT_TRUE(isInk(work.pieces.back().id().key())) << "the ink lies on top";
    EXPECT_EQ(work.layers.back().stockId, "night");
    for (const int number : {1, 2, 3}) {
        const auto found = geometry::bounds(findPiece(state.made.pieces->now, area(state, number))->shape());
        EXPECT_NEAR(support::boxOf(state, area(state, number)).width(), found.width() + 0.8, 1e-3);
    }
}

TEST(Finish, RoomShrinksEveryAreaOnAllSidesAndNotTheBacking) {
    const State plain = support::tracedShed();
    const State roomy = made(withRoom(plain.job, 0.5), plain.made);
    for (const int number : {1, 2, 3})
        EXPECT_NEAR(support::boxOf(roomy, area(plain, number)).width(),
                    support::boxOf(plain, area(plain, number)).width() - 1, 0.02);
    EXPECT_EQ(laid(roomy, support::backing(plain)).piece.body,
              laid(plain, support::backing(plain)).piece.body);
    EXPECT_FALSE(withRoom(plain.job, -1));
    EXPECT_FALSE(withRoom(plain.job, 11));
    const State eaten = made(withRoom(plain.job, 7), plain.made);
    EXPECT_FALSE(eaten.made.finished->vanished.empty()) << "the door is narrower than twice that";
}

TEST(Sheets, CopiesArrangementAndPinsHangTogether) {
    State state = support::tracedShed();
    const design::PieceId window = area(state, 3);
    state = support::arranged(made(withCopies(state, window, 4), state.made));
    EXPECT_EQ(sheets::measure(*state.made.sheets, *state.made.work()).pieces, 1 + 2 + 4);
    EXPECT_FALSE(withCopies(state, window, 0));
    EXPECT_FALSE(withCopies(state, window, 1000));
    EXPECT_FALSE(withCopies(state, id("1:area.77"), 2));
    ASSERT_EQ(state.made.sheets->loads.size(), 2u);
    EXPECT_EQ(state.made.sheets->loads[0].sheets[0].stockId, "night");
    const design::Pose pose = design::poseAtCorner(laid(state, window).piece, {150, 160}, 0);
    const State pinned = support::arranged(made(pinnedAt(state, {window, 1}, pose, 1), state.made));
    ASSERT_EQ(pinned.job.plan.pins.size(), 1u);
    int found = 0;
    for (const design::PlacedPiece& piece : pinned.made.sheets->loads[1].sheets[0].pieces)
        if (piece.isPinned) {
            ++found;
            const auto map = design::placement(laid(pinned, window).piece, piece.pose);
            const geometry::Box box =
                geometry::bounds(geometry::transformed(support::shapeOf(pinned, window), map));
            EXPECT_NEAR(box.least.x, 150, 1e-9);
            EXPECT_NEAR(box.least.y, 160, 1e-9);
        }
    EXPECT_EQ(found, 1);
    EXPECT_FALSE(pinnedAt(state, {window, 1}, pose, 0)) << "the backing's load holds no such stock";
    EXPECT_FALSE(pinnedAt(state, {window, 1}, pose, 9));
    EXPECT_TRUE(unpinned(pinned, {window, 1}).plan.pins.empty());
    SheetPlan plan = pinned.job.plan;
    plan.sheetId = "a4";
    EXPECT_TRUE(withPlan(pinned.job, plan).plan.pins.empty()) << "pins belong to their sheets";
    plan.matId = "no such mat";
    const State unknown = support::arranged(made(withPlan(state.job, plan), state.made));
    EXPECT_EQ(unknown.made.sheets, nullptr);
    EXPECT_NE(unknown.made.sheetsProblem.find("no such mat"), std::string::npos);
}

TEST(TraceSteps, TracingAgainKeepsPaintWhereTheAreaIsTheSame) {
    State state = support::tracedShed(true);
    state.job = painted(state.job, {area(state, 1)}, "rust");
    const auto pixels = must(pixelsOf(state.job));
    trace::Recipe recipe = asA<Picture>(pictureSource(state.job))->recipe;
    recipe.closings.push_back({{535, 248}, {535, 272}, 9});
    const State closed = made(traced(state.job, *pixels, recipe, shippedCatalogue()), state.made);
    EXPECT_EQ(tracingOf(closed.job)->areas.size(), tracingOf(state.job)->areas.size() + 1);
    EXPECT_EQ(stockOf(closed, area(closed, 1)), "rust");
    EXPECT_TRUE(tracingOf(closed.job)->leaks.empty());
}

// ---- wishes ------------------------------------------------------------------------------------------------------

TEST(WishList, HoldsWhatAMapWouldHold) {
    std::mt19937 random(5);
    Wishes wishes;
    std::map<design::PieceId, design::Wish> map;
    for (int round = 0; round < 3000; ++round) {
        const design::PieceId piece = id(static_cast<int>(random() % 400));
        design::Wish wish;
        if (random() % 4 != 0)
            wish.copies = static_cast<int>(random() % 9) + 1;
        wishes = wishes.with(piece, wish);
        wish.isEmpty() ? (void)map.erase(piece) : (void)(map[piece] = wish);
    }
    EXPECT_EQ(wishes.size(), map.size());
    std::vector<Wishes::Entry> all;
    wishes.each([&](const Wishes::Entry& entry) { all.push_back(entry); });
    EXPECT_EQ(all, (std::vector<Wishes::Entry>(map.begin(), map.end())));
    for (int i = 0; i < 400; ++i)
        EXPECT_EQ(wishes.find(id(i)) != nullptr, map.contains(id(i)));
    Wishes same;
    for (const auto& [piece, wish] : map)
        same = same.with(piece, wish);
    EXPECT_EQ(same, wishes) << "by what it holds, however it came about";
    EXPECT_FALSE(same.with(id(3), {.copies = 99}) == wishes);
}

TEST(WishList, APieceWithoutOneAsksWhatItWasMadeOf) {
    const Wishes wishes = Wishes()
                              .with(id("1:5"), {.layer = LayerId{3}, .copies = 7, .liftMm = 2})
                              .with(id("1:5/1.2"), {.copies = 2});
    EXPECT_EQ(wishes.resolved(id("1:5/1.1")), (design::Wish{.layer = LayerId{3}, .copies = 7, .liftMm = 2}));
    EXPECT_EQ(wishes.resolved(id("1:5/1.2/4.1")),
              (design::Wish{.layer = LayerId{3}, .copies = 2, .liftMm = 2}));
    EXPECT_EQ(wishes.resolved(id("1:5/1.twin.1")), (design::Wish{.layer = LayerId{3}, .liftMm = 2}))
        << "a twin is a piece beside it: as many as are said of the twin";
    EXPECT_TRUE(wishes.resolved(id("1:6")).isEmpty());
}

} // namespace
} // namespace thinline::job
