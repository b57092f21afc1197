// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Marks of a whole job: they follow from what lies above, and from nothing else.
#include "job/LayerSteps.h"
#include "job/Steps.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

#include <numbers>

namespace thinline::job {
namespace {

using construct::Figure;
using design::PieceId;

/// A plate of 120 x 80 with a disc of 30 and a bar of 60 x 10 in layers above it, one over the other.
struct Boat {
    State state = support::rectangleJob(120, 80);
    PieceId plate, disc, bar;
    design::LayerId upper{}, top{};

    Boat() {
        plate = state.made.work()->pieces[0].id();
        disc = add(Figure::Ellipse, {30, 30}, "cream");
        bar = add(Figure::Rectangle, {60, 10}, "rust");
        upper = support::laid(state, disc).layer;
        top = support::laid(state, bar).layer;
        move(disc, 0, 0);
        move(bar, 0, 0);
    }
    PieceId add(Figure figure, std::vector<double> values, const char* stock) {
        state = support::withFigure(state, figure, std::move(values), stock);
        return state.made.pieces->now.back().id;
    }
    /// Puts the middle of a piece so far from the plate's.
    void move(PieceId piece, double x, double y) {
        const geometry::Point by = support::boxOf(state, plate).centre() + geometry::Point{x, y} -
                                   support::boxOf(state, piece).centre();
        state = support::after(state, shape::Action::Move, {piece}, {by.x, by.y});
    }
    void mark(design::LayerId layer, bool isOn = true) {
        state = support::made(withLayerMarked(state.job, layer, isOn), state.made);
    }
    double marksOn(PieceId piece) const {
        double sum = 0;
        for (const design::PieceLine& line : support::laid(state, piece).piece.body->lines)
            if (std::holds_alternative<design::Placement>(line.does))
                sum += geometry::contourLength(line.path);
        return sum;
    }
};

constexpr double kInset = 0.7;

TEST(MarksOfAJob, ShowLayersThatAskForThem) {
    Boat boat;
    EXPECT_EQ(boat.marksOn(boat.plate), 0);
    boat.mark(boat.upper);
    EXPECT_NEAR(boat.marksOn(boat.plate), std::numbers::pi * (30 - 2 * kInset), 0.05);
    EXPECT_EQ(boat.marksOn(boat.disc), 0) << "the layer above did not ask";
    // The bar lies on the disc and beside it on the plate: its mark is on both, each where nothing else covers it.
    boat.mark(boat.top);
    const double bar = 2 * (60 - 2 * kInset + 10 - 2 * kInset);
    EXPECT_GT(boat.marksOn(boat.disc), 50);
    EXPECT_NEAR(boat.marksOn(boat.disc) + boat.marksOn(boat.plate),
                bar + std::numbers::pi * (30 - 2 * kInset), 0.05);
    boat.mark(boat.upper, false);
    boat.mark(boat.top, false);
    EXPECT_EQ(boat.marksOn(boat.plate) + boat.marksOn(boat.disc), 0);
    EXPECT_EQ(boat.state.made.finished->measures.lines, 0);
}

TEST(MarksOfAJob, ArePutOnWhatLiesBehindTheBaseToo) {
    // The plate has a window of 30; the disc, grown to 50, is glued behind it and shows through.
    Boat boat;
    boat.state = support::after(boat.state, shape::Action::SizeAlone, {boat.disc}, {500.0 / 3, 500.0 / 3});
    boat.move(boat.disc, 0, 0);
    boat.state =
        support::made(withLayerPlace(boat.state.job, boat.upper, design::Layer::At::Behind), boat.state.made);
    EXPECT_EQ(boat.state.made.work()->pieces.front().id(), boat.disc)
        << "it lies below all others now, though its layer was added later";
    const PieceId window = boat.add(Figure::Ellipse, {30, 30}, "cream");
    boat.move(window, 0, 0);
    boat.state = support::after(boat.state, shape::Action::CutOut, {boat.plate, window});
    boat.mark(support::laid(boat.state, boat.plate).layer);
    // Of the plate's mark the window's edge lies on the disc, hidden by the plate.
    EXPECT_NEAR(boat.marksOn(boat.disc), std::numbers::pi * (30 + 2 * kInset), 0.05);
    // Foam of its own holds it from the plate, and shows the mark aslant.
    boat.state = support::made(withLayerLift(boat.state.job, boat.upper, 2), boat.state.made);
    EXPECT_NEAR(boat.marksOn(boat.disc), std::numbers::pi * (30 + 2 * kInset + 4), 0.05);
    // What lies in the window on the disc is marked there as well; the bar hides nothing of the rest.
    boat.mark(boat.top);
    boat.mark(support::laid(boat.state, boat.plate).layer, false);
    boat.state = support::after(boat.state, shape::Action::SizeAlone, {boat.bar}, {100.0 / 6, 100});
    boat.move(boat.bar, 0, 0);
    EXPECT_NEAR(boat.marksOn(boat.disc), 4 * (10 - 2 * kInset - 4), 0.05);
    EXPECT_EQ(boat.marksOn(boat.plate), 0);
}

TEST(MarksOfAJob, AreToldWhereAPieceShowsItsBack) {
    Boat boat;
    boat.mark(boat.upper);
    EXPECT_TRUE(boat.state.made.finished->unmarked.empty());
    boat.state =
        support::made(withPiecesUp(boat.state.job, {boat.plate}, design::Side::Back), boat.state.made);
    EXPECT_EQ(boat.marksOn(boat.plate), 0);
    EXPECT_EQ(boat.state.made.finished->unmarked, std::vector{boat.plate});
    // Nothing of the disc lies on it: there is nothing to be told, though their boxes meet.
    boat.move(boat.disc, 60 + 13, 40 + 13);
    EXPECT_TRUE(boat.state.made.finished->unmarked.empty());
}

TEST(MarksOfAJob, FollowEveryLaterChange) {
    Boat boat;
    boat.mark(boat.upper);
    const double whole = boat.marksOn(boat.plate);
    boat.move(boat.disc, 60, 0); // half of it hangs over the edge
    EXPECT_NEAR(boat.marksOn(boat.plate), whole / 2, 0.05);
    boat.move(boat.disc, 0, 0);
    boat.state = support::made(withLayerLift(boat.state.job, boat.upper, 2), boat.state.made);
    EXPECT_NEAR(boat.marksOn(boat.plate), std::numbers::pi * (30 - 2 * kInset - 4), 0.05)
        << "foam shows them aslant";
    boat.state = support::after(boat.state, shape::Action::SizeAlone, {boat.disc}, {50, 50});
    EXPECT_NEAR(boat.marksOn(boat.plate), std::numbers::pi * (15 - 2 * kInset - 4), 0.05);
    const design::PieceLine& mark = support::laid(boat.state, boat.plate).piece.body->lines.at(0);
    EXPECT_EQ(std::get<design::Placement>(mark.does).shows, boat.disc);
    EXPECT_TRUE(std::get<design::Placement>(mark.does).isScored);
    EXPECT_TRUE(boat.state.made.pieces->now[0].body->lines.empty())
        << "they are no part of the pieces, only of the work";
}

TEST(MarksOfAJob, WhatNothingTouchedKeepsItsBody) {
    Boat boat;
    boat.mark(boat.upper);
    const auto marked = support::laid(boat.state, boat.plate).piece.body;
    boat.move(boat.bar, 0, 20); // its layer does not ask
    EXPECT_EQ(support::laid(boat.state, boat.plate).piece.body, marked);
    folds::MarkPlan plan;
    plan.areScored = false;
    boat.state = support::made(withMarks(boat.state.job, plan), boat.state.made);
    EXPECT_NE(support::laid(boat.state, boat.plate).piece.body, marked) << "drawn instead";
    plan.insetMm = 21;
    EXPECT_FALSE(withMarks(boat.state.job, plan));
}

} // namespace
} // namespace thinline::job
