// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
// Seven ways in which what somebody decided once moved to something else, and card was cut wrong. Each is done here
// as it was done then.
#include "geometry/Measures.h"
#include "job/LayerSteps.h"
#include "job/SourceSteps.h"
#include "job/Steps.h"
#include "job/TraceSteps.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

namespace thinline::job {
namespace {

using shape::Action;
using support::after;
using support::area;
using support::id;
using support::made;
using support::must;
using support::stockOf;

trace::Recipe recipeOf(const State& state) {
    return asA<Picture>(pictureSource(state.job))->recipe;
}
State retraced(const State& state, const trace::Recipe& recipe) {
    return made(traced(state.job, *must(pixelsOf(state.job)), recipe, shippedCatalogue()), state.made);
}

// A series of 2 on one piece, a mirrored twin of another painted and copied 4 times; the series is reopened and asked
// for 3. Paint and copies jumped onto a ring, and the twin lost them.
TEST(Faults, ALongerSeriesTakesNothingFromATwin) {
    State state = support::tracedShed();
    state = after(state, Action::Offset, {area(state, 3)}, {1, 2, 1});
    state = after(state, Action::MirrorTwin, {area(state, 2)}, {5});
    const design::PieceId twin = area(state, 2).parted(state.job.steps[1]->id, "twin.1");
    state = made(painted(state.job, {twin}, "rust"), state.made);
    state = made(withCopies(state, twin, 4), state.made);
    const State longer = made(
        withStepChanged(state, 0, shape::makeStep(Action::Offset, {area(state, 3)}, {1, 3, 1})), state.made);
    EXPECT_EQ(stockOf(longer, twin), "rust");
    EXPECT_EQ(support::laid(longer, twin).copies, 4);
    for (const design::Laid& laid : longer.made.work()->pieces)
        if (laid.id() != twin) {
            EXPECT_NE(longer.made.work()->layerOf(laid).stockId, "rust") << laid.id().text();
            EXPECT_EQ(laid.copies, 1) << laid.id().text();
        }
}

// Traced as lines, 7 copies of an area; then flat colours are chosen. 7 copies of an unrelated area were cut.
TEST(Faults, AnotherWayOfTracingBeginsNewAreas) {
    State state = support::tracedShed();
    const design::PieceId one = area(state, 1);
    state = made(withCopies(state, one, 7), state.made);
    trace::Recipe flat = recipeOf(state);
    flat.mode = trace::Mode::FlatArt;
    const State other = retraced(state, flat);
    ASSERT_TRUE(other.made.work());
    for (const design::Laid& laid : other.made.work()->pieces)
        EXPECT_EQ(laid.copies, 1) << laid.id().text();
    EXPECT_EQ(other.made.finished->strayWishes, 1) << "kept and told, not dropped";
    // Back to lines: the area is there again, and so is what was said about it.
    const State back = retraced(other, recipeOf(state));
    int sevens = 0;
    for (const design::Laid& laid : back.made.work()->pieces)
        sevens += laid.copies == 7;
    EXPECT_LE(sevens, 1);
}

// An area grown, 5 copies of it, wiped from the picture; later a new area appears. The new area was grown and had 5
// copies.
TEST(Faults, ANewAreaHasNothingOfOneThatIsGone) {
    State state = support::tracedShed();
    const auto middle = pictureSource(state.job)->map()({460, 260});
    design::PieceId window;
    for (const design::Laid& laid : state.made.work()->pieces)
        if (isArea(laid.id().key()) && geometry::contains(laid.shape(), middle))
            window = laid.id();
    const geometry::Box box = support::boxOf(state, window);
    state = after(state, Action::Offset, {window}, {1});
    state = made(withCopies(state, window, 5), state.made);
    const trace::Recipe plain = recipeOf(state);
    // Wiped out: a box around it in the picture.
    const auto back = geometry::inverse(pictureSource(state.job)->map());
    trace::Recipe wiped = plain;
    const geometry::Box around = box.grownBy(3);
    wiped.erasures.push_back({trace::Erasure::Kind::Rectangle, {back(around.least), back(around.most)}, 0});
    const State without = retraced(state, wiped);
    EXPECT_EQ(without.made.work()->find(window), nullptr);
    // A new area elsewhere: a ring drawn by a closing line would do; here the door is parted by a line of ink.
    trace::Recipe more = wiped;
    more.closings.push_back({{155, 370}, {285, 370}, 6});
    ASSERT_EQ(tracingOf(without.job)->areas.size(), 2u);
    const State later = retraced(without, more);
    ASSERT_GT(tracingOf(later.job)->areas.size(), tracingOf(without.job)->areas.size());
    for (const design::Laid& laid : later.made.work()->pieces)
        EXPECT_EQ(laid.copies, 1) << laid.id().text();
    ASSERT_EQ(passedOver(later.made).size(), 1u) << "the growing has nobody to grow";
    // It comes back with the picture: it is grown and has its copies again.
    trace::Recipe restored = more;
    restored.erasures.clear();
    const State again = retraced(later, restored);
    ASSERT_TRUE(again.made.work()->find(window));
    EXPECT_EQ(support::laid(again, window).copies, 5);
    EXPECT_TRUE(passedOver(again.made).empty());
}

// A twin of a piece; the step is reopened and another piece chosen. The twin kept the first one's stock.
TEST(Faults, ATwinIsOfThePieceItIsATwinOf) {
    State state = support::tracedShed();
    state = made(painted(painted(state.job, {area(state, 1)}, "rust"), {area(state, 2)}, "lamp"), state.made);
    state = after(state, Action::MirrorTwin, {area(state, 1)}, {5});
    const design::StepId step = state.job.steps[0]->id;
    EXPECT_EQ(stockOf(state, area(state, 1).parted(step, "twin.1")), "rust");
    const State other = made(
        withStepChanged(state, 0, shape::makeStep(Action::MirrorTwin, {area(state, 2)}, {5})), state.made);
    EXPECT_EQ(other.made.work()->find(area(state, 1).parted(step, "twin.1")), nullptr);
    EXPECT_EQ(stockOf(other, area(state, 2).parted(step, "twin.1")), "lamp");
}

// Paint and copies on an import; then strokes as areas, another page, the whole or a part. They landed on others.
TEST(Faults, AnImportTakenAnotherWayKeepsWhatWasSaidWithItsPieces) {
    const std::string svg =
        "<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='50mm' viewBox='0 0 100 50'>"
        "<path fill='none' stroke='#8c5a3c' stroke-width='2' d='M5 5h30v30h-30z'/>"
        "<g id='plates'><rect x='45' y='5' width='20' height='30' fill='#3c7d8c'/>"
        "<rect x='70' y='5' width='25' height='30' fill='#3c7d8c'/></g></svg>";
    State state = made(support::openedDrawing(svg).job);
    ASSERT_EQ(state.made.work()->pieces.size(), 3u);
    const auto at = [](const State& of, double x) -> const design::Laid* {
        for (const design::Laid& laid : of.made.work()->pieces)
            if (std::abs(geometry::bounds(laid.shape()).least.x - x) < 0.01)
                return &laid;
        return nullptr;
    };
    const design::PieceId plate = at(state, 45)->id(), frame = at(state, 5)->id();
    state = made(painted(state.job, {plate}, "lamp"), state.made);
    state = made(withCopies(state, plate, 6), state.made);
    state = made(withCopies(state, frame, 2), state.made);
    design::TakeOptions take = std::get<Drawing>(state.job.sources[0]->what).take;
    take.strokesAsAreas = !take.strokesAsAreas;
    const auto taken = [&](const State& of, const design::TakeOptions& how) {
        return made(withDrawingTaken(of.job, SourceId{1}, how, shippedCatalogue(), support::shippedFonts()),
                    of.made);
    };
    const State strokes = taken(state, take);
    ASSERT_TRUE(at(strokes, 45) && at(strokes, 70));
    EXPECT_EQ(at(strokes, 45)->copies, 6);
    EXPECT_EQ(strokes.made.work()->layerOf(*at(strokes, 45)).stockId, "lamp");
    EXPECT_EQ(at(strokes, 70)->copies, 1);
    take.leftOut = {"plates"};
    const State less = taken(strokes, take);
    for (const design::Laid& laid : less.made.work()->pieces)
        EXPECT_NE(laid.copies, 6);
    take.leftOut.clear();
    take.strokesAsAreas = false;
    const State back = taken(less, take);
    EXPECT_EQ(at(back, 45)->copies, 6);
    EXPECT_EQ(at(back, 70)->copies, 1);
}

// A plate cut by a bar; the bar is moved past the middle. Left and right half swapped their numbers.
TEST(Faults, HalvesKeepTheirNamesWhenTheBarMovesPastTheMiddle) {
    State state = support::rectangleJob(100, 40);
    state = support::withFigure(state, construct::Figure::Rectangle, {4, 60}, "rust");
    const auto moveTo = [](double x) { return shape::makeStep(Action::Move, {id("2:1")}, {x - 110, -10}); };
    state = after(state, moveTo(30));
    state = after(state, Action::CutOut, {id("1:1"), id("2:1")});
    const design::StepId cut = state.job.steps[1]->id;
    design::PieceId left = id("1:1").parted(cut, "1"), right = id("1:1").parted(cut, "2");
    if (support::boxOf(state, left).least.x > support::boxOf(state, right).least.x)
        std::swap(left, right);
    state = made(painted(state.job, {left}, "lamp"), state.made);
    state = made(withCopies(state, right, 3), state.made);
    for (const double x : {49.0, 70.0, 92.0, 30.0}) {
        state = made(withStepChanged(state, 0, moveTo(x)), state.made);
        EXPECT_NEAR(support::boxOf(state, left).least.x, 0, 1e-9) << x;
        EXPECT_NEAR(support::boxOf(state, left).width(), x, 1e-6) << x;
        EXPECT_EQ(stockOf(state, left), "lamp") << x;
        EXPECT_EQ(support::laid(state, right).copies, 3) << x;
    }
}

} // namespace
} // namespace thinline::job
