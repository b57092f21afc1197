// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What is said of single lines is kept where it reads best, and always holds.
#include "job/LineSteps.h"

#include "folds/Steps.h"
#include "job/Steps.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

namespace thinline::job {
namespace {

struct Plate {
    State state = support::rectangleJob(120, 80);
    design::PieceId id = state.made.work()->pieces[0].id();

    void lay(double x) {
        const design::Piece& piece = state.made.pieces->now[0];
        const geometry::Point corner = geometry::bounds(piece.shape()).least;
        const geometry::Line way{corner + geometry::Point{x, 20},
                                 {geometry::Segment::line(corner + geometry::Point{x, 60})}};
        state = support::after(state, folds::lineStep(piece, way));
    }
    void say(std::vector<size_t> lines, double angle) {
        std::vector<design::LineOf> these;
        for (const size_t i : lines)
            these.push_back({id, all()[i].id});
        state = support::made(withLinesSaid(state, these, {{"angle", angle}}), state.made);
    }
    const std::vector<design::PieceLine>& all() const { return state.made.pieces->now[0].body->lines; }
    double angle(size_t line) const { return std::get<design::Fold>(all()[line].does).angleDeg; }
};

TEST(WhatIsSaidOfLines, GoesIntoTheStepThatLaidThem) {
    Plate plate;
    plate.lay(30);
    plate.lay(60);
    plate.say({0, 1}, 45);
    EXPECT_EQ(plate.state.job.steps.size(), 2u);
    EXPECT_EQ(plate.angle(0), 45);
    EXPECT_EQ(plate.angle(1), 45);
}

TEST(WhatIsSaidOfLines, HoldsOverWhatWasSaidOfAllBefore) {
    Plate plate;
    plate.lay(30);
    plate.lay(60);
    design::Step all = folds::makeStep(folds::Action::Change, {plate.id});
    all.values = {{"angle", 30.0}};
    plate.state = support::after(plate.state, all);
    plate.say({0}, 70); // in the first step it would be overruled by the third
    EXPECT_EQ(plate.state.job.steps.size(), 4u);
    EXPECT_EQ(plate.angle(0), 70);
    EXPECT_EQ(plate.angle(1), 30);
    plate.say({0}, 75);
    EXPECT_EQ(plate.state.job.steps.size(), 4u) << "the same lines once more: the same step";
    EXPECT_EQ(plate.angle(0), 75);
}

TEST(LinesTakenOff, TakeTheirOwnStepWithThem) {
    Plate plate;
    plate.lay(30);
    plate.lay(60);
    plate.state = support::made(withoutLines(plate.state, {{plate.id, plate.all()[0].id}}), plate.state.made);
    EXPECT_EQ(plate.state.job.steps.size(), 1u);
    ASSERT_EQ(plate.all().size(), 1u);
    // Two lines of one step: only the one that is meant goes, by a step more.
    plate.state = support::after(plate.state, folds::makeStep(folds::Action::Repeat, {plate.id}, {1, 20, 0}));
    plate.state = support::made(withoutLines(plate.state, {{plate.id, plate.all()[1].id}}), plate.state.made);
    EXPECT_EQ(plate.state.job.steps.size(), 3u);
    EXPECT_EQ(plate.all().size(), 1u);
}

} // namespace
} // namespace thinline::job
