// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Foam of a whole job: it follows from the lifts and from what lies below.
#include "folds/Steps.h"
#include "geometry/Measures.h"
#include "job/LayerSteps.h"
#include "job/Steps.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

namespace thinline::job {
namespace {

using construct::Figure;
using design::PieceId;
using design::Zone;

/// A plate of 120 x 80 with a disc of 50 lifted above its middle.
struct Buoy {
    State state = support::rectangleJob(120, 80);
    PieceId plate, disc;

    Buoy() {
        plate = state.made.work()->pieces[0].id();
        state = support::withFigure(state, Figure::Ellipse, {50, 50}, "cream");
        disc = state.made.pieces->now.back().id;
        move(disc, {0, 0});
        lift(2);
        ask();
    }
    void move(PieceId piece, geometry::Point to) {
        const geometry::Point by =
            support::boxOf(state, plate).centre() + to - support::boxOf(state, piece).centre();
        state = support::after(state, shape::Action::Move, {piece}, {by.x, by.y});
    }
    void lift(double mm) {
        state = support::made(withLayerLift(state.job, support::laid(state, disc).layer, mm), state.made);
    }
    void ask(bool isAsked = true) { state = support::made(withFoam(state.job, {isAsked, 8}), state.made); }
    std::vector<Zone> spots() const {
        std::vector<Zone> out;
        for (const Zone& zone : support::laid(state, disc).piece.body->zones)
            if (zone.kind == Zone::Kind::Foam)
                out.push_back(zone);
        return out;
    }
    const FoamTold& told() const { return state.made.finished->foam.front(); }
};

TEST(FoamOfAJob, LiesUnderWhatIsLiftedAndFollowsIt) {
    Buoy buoy;
    ASSERT_GE(buoy.spots().size(), 3u);
    for (const Zone& spot : buoy.spots()) {
        EXPECT_NEAR(spot.heightMm, 2, 1e-9);
        EXPECT_EQ(spot.side, design::Side::Back);
        EXPECT_EQ(spot.meets, buoy.plate);
        EXPECT_GE(geometry::nearestOnEdge(support::shapeOf(buoy.state, buoy.disc),
                                          geometry::bounds(spot.area).centre())
                      ->distance,
                  geometry::bounds(spot.area).width() / 2 + 3 - 0.01);
    }
    EXPECT_EQ(buoy.told().spots, static_cast<int>(buoy.spots().size()));
    buoy.move(buoy.disc, {60, 0}); // half of it hangs over the plate's end
    ASSERT_FALSE(buoy.spots().empty());
    for (const Zone& spot : buoy.spots())
        EXPECT_LE(geometry::bounds(spot.area).most.x,
                  support::boxOf(buoy.state, buoy.plate).most.x - 3 + 0.01);
    buoy.lift(0);
    EXPECT_TRUE(buoy.spots().empty()) << "it is glued flat";
    EXPECT_TRUE(buoy.state.made.finished->foam.empty());
    buoy.lift(2);
    buoy.ask(false);
    EXPECT_TRUE(buoy.spots().empty());
}

TEST(FoamOfAJob, HoldsWhatHangsBehindTheBase) {
    Buoy buoy;
    const design::LayerId layer = support::laid(buoy.state, buoy.disc).layer;
    buoy.state =
        support::made(withLayerPlace(buoy.state.job, layer, design::Layer::At::Behind), buoy.state.made);
    const std::vector<Zone> whole = buoy.spots();
    ASSERT_GE(whole.size(), 3u);
    for (const Zone& spot : whole) {
        EXPECT_EQ(spot.side, design::Side::Front) << "towards the plate";
        EXPECT_EQ(spot.meets, buoy.plate);
        EXPECT_NEAR(spot.heightMm, 2, 1e-9);
    }
    // A window in the plate shows the disc: no spot looks into it, with 3 mm to its edge.
    buoy.state = support::withFigure(buoy.state, Figure::Ellipse, {20, 20}, "cream");
    const PieceId window = buoy.state.made.pieces->now.back().id;
    buoy.move(window, {0, 0});
    buoy.state = support::after(buoy.state, shape::Action::CutOut, {buoy.plate, window});
    const std::vector<Zone> around = buoy.spots();
    ASSERT_GE(around.size(), 3u);
    const geometry::Point middle = support::boxOf(buoy.state, buoy.plate).centre();
    for (const Zone& spot : around) {
        const geometry::Box box = geometry::bounds(spot.area);
        EXPECT_GE(geometry::distance(box.centre(), middle),
                  10 + folds::kFoamToEdgeMm + box.width() / 2 - 0.01);
    }
}

TEST(FoamOfAJob, StaysOffWaysAndPlacesKeptFree) {
    Buoy buoy;
    const geometry::Point middle = support::boxOf(buoy.state, buoy.plate).centre();
    const auto piece = [&](PieceId id) { return *design::findPiece(buoy.state.made.pieces->now, id); };
    buoy.state = support::after(buoy.state, folds::wayStep(folds::Action::Way, piece(buoy.plate),
                                                           middle - geometry::Point{45, 0},
                                                           middle + geometry::Point{45, 0}, {0, 12, 14, 1}));
    ASSERT_FALSE(buoy.spots().empty());
    for (const Zone& spot : buoy.spots()) {
        const geometry::Box box = geometry::bounds(spot.area);
        EXPECT_TRUE(box.most.y < middle.y - 6 || box.least.y > middle.y + 6);
    }
    // The back of the disc is kept free as well: nothing is left.
    buoy.state = support::after(buoy.state, folds::wayStep(folds::Action::KeepFree, piece(buoy.disc),
                                                           middle - geometry::Point{30, 0},
                                                           middle + geometry::Point{30, 0}, {60, 1}));
    EXPECT_TRUE(buoy.spots().empty());
    EXPECT_EQ(buoy.told().spots, 0) << "and that is told";
}

TEST(FoamOfAJob, LaysNoSheetAnew) {
    Buoy buoy;
    buoy.ask(false);
    buoy.state = support::arranged(buoy.state);
    const auto before = buoy.state.made.sheets;
    const State foamed = support::made(withFoam(buoy.state.job, {true, 8}), buoy.state.made);
    EXPECT_EQ(support::arranged(foamed).made.sheets, before) << "foam is laid by hand";
    EXPECT_FALSE(withFoam(buoy.state.job, {true, 1}));
}

} // namespace
} // namespace thinline::job
