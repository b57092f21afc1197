// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "inspect/Inspect.h"

#include "folds/Steps.h"
#include "job/CardSteps.h"
#include "job/Clusters.h"
#include "job/FaceArt.h"
#include "job/LayerSteps.h"
#include "job/LineSteps.h"
#include "job/SheetSteps.h"
#include "job/SizeAnswers.h"
#include "job/Source.h"
#include "job/SourceSteps.h"
#include "job/StockSteps.h"
#include "shape/Steps.h"
#include "sheets/Arrange.h"
#include "support/Drawings.h"
#include "support/Jobs.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <functional>

namespace thinline::inspect {
namespace {

const design::Formats kFormats{
    {{"square12", "12 × 12 in", 304.8, 304.8, 6.35}, {"long24", "12 × 24 in", 304.8, 609.6, 6.35}}, {}};

using support::id;

design::Stack stackOf(std::vector<geometry::Shape> shapes) {
    design::Stack stack{{{"sea", "sea", {}}}, {support::layer(1, "sea")}, {}};
    for (geometry::Shape& shape : shapes) {
        const int number = static_cast<int>(stack.pieces.size()) + 1;
        stack.pieces.push_back(support::laid(number, std::move(shape)));
        stack.pieces.back().piece.name = "area " + std::to_string(number);
    }
    return stack;
}

job::State stateOf(const design::Stack& stack) {
    job::State out;
    job::Finished finished;
    finished.stack = stack;
    finished.measures = design::measure(stack);
    design::RowMemory rows;
    finished.heights = *design::heightsOf(stack, rows);
    out.made.finished = std::make_shared<const job::Finished>(finished);
    out.job.stocks = stack.stocks;
    out.job.layers = stack.layers;
    return out;
}

std::vector<Finding> findingsOf(const job::State& state) {
    Memory memory;
    return *inspect(state, kFormats, memory);
}
std::vector<Finding> findingsOf(const design::Stack& stack) {
    return findingsOf(stateOf(stack));
}

struct Row {
    const char* what;
    geometry::Shape shape;
    std::vector<Kind> kinds;
};

TEST(Inspect, EachTroubleIsNamedAndSoundPiecesAreNot) {
    const Row rows[] = {
        {"a sound square", support::rectangle(0, 0, 40, 40), {}},
        {"as long as the long mat takes", support::rectangle(0, 0, 292.1, 596.9), {}},
        {"longer by a hair", support::rectangle(0, 0, 292.1, 597.0), {Kind::LargerThanEveryMat}},
        {"too wide both ways", support::rectangle(0, 0, 293, 293), {Kind::LargerThanEveryMat}},
        {"a crumb", support::disc({0, 0}, 1.4), {Kind::TooSmall}},
        {"just large enough", support::disc({0, 0}, 1.6), {}},
        {"a narrow neck", support::dumbbell(20, 0.7, 5), {Kind::NarrowNeck}},
        {"a neck wide enough", support::dumbbell(20, 1.3, 5), {}},
    };
    for (const Row& row : rows) {
        std::vector<Kind> kinds;
        for (const Finding& f : findingsOf(stackOf({row.shape})))
            kinds.push_back(f.kind);
        EXPECT_EQ(kinds, row.kinds) << row.what;
    }
}

TEST(Inspect, SentencesSayWhatWhereAndWhatToDo) {
    const auto large = findingsOf(stackOf({support::rectangle(10, 10, 700, 412)}));
    ASSERT_EQ(large.size(), 1u);
    EXPECT_EQ(large[0].message, "Area 1 (sea) is 700.0 × 412.0 mm, larger than every mat");
    EXPECT_EQ(large[0].remedy,
              "The largest takes 292.1 × 596.9 mm. Divide it at Split, or make the design smaller at Size.");
    EXPECT_EQ(large[0].severity, Severity::SpoilsCard);
    ASSERT_EQ(large[0].cases.size(), 1u);
    EXPECT_DOUBLE_EQ(large[0].cases[0].place.width(), 700);
    EXPECT_EQ(large[0].cases[0].piece, id(1));
}

TEST(Inspect, FindingsOfOneKindAreOneLineTheWorstFirst) {
    const auto found = findingsOf(stackOf(
        {support::disc({0, 0}, 1.2), support::rectangle(20, 20, 30, 30), support::disc({50, 0}, 0.8)}));
    ASSERT_EQ(found.size(), 1u);
    EXPECT_EQ(found[0].message.rfind("2 pieces are too small to cut and glue", 0), 0u) << found[0].message;
    EXPECT_NE(found[0].message.find("1.6 mm"), std::string::npos) << found[0].message;
    ASSERT_EQ(found[0].cases.size(), 2u);
    EXPECT_NEAR(found[0].cases[0].place.centre().x, 50, 1e-6);
    EXPECT_EQ(found[0].cases[1].piece, id(1));
    const auto necks = findingsOf(stackOf({support::dumbbell(20, 0.9, 5), support::dumbbell(20, 0.5, 5)}));
    ASSERT_EQ(necks.size(), 1u);
    EXPECT_EQ(necks[0].message.rfind("2 pieces have narrow places", 0), 0u) << necks[0].message;
    EXPECT_EQ(necks[0].cases[0].piece, id(2));
}

// Only bodies that were not searched before are searched.
TEST(Inspect, WhatIsKnownOfABodyIsNotSearchedAgain) {
    design::Stack stack = stackOf({support::dumbbell(20, 0.7, 5), support::rectangle(60, 0, 30, 30)});
    Memory memory;
    (void)*inspect(stateOf(stack), kFormats, memory);
    const auto first = memory.necks.find(stack.pieces[0].piece.body),
               second = memory.necks.find(stack.pieces[1].piece.body);
    ASSERT_TRUE(first && second);
    stack.pieces[1].piece.body = support::body(support::rectangle(60, 0, 31, 30));
    stack.pieces[0].copies = 7;
    (void)*inspect(stateOf(stack), kFormats, memory);
    EXPECT_EQ(memory.necks.find(stack.pieces[0].piece.body), first);
    EXPECT_TRUE(memory.necks.find(stack.pieces[1].piece.body));
    // With another limit the answer is another one.
    const auto strict = *inspect(stateOf(stack), kFormats, memory, {.leastNeckMm = 0.5});
    EXPECT_TRUE(strict.empty());
}

TEST(Inspect, APieceThatRestsOnTwoHeightsIsTold) {
    design::Stack stack = stackOf({support::rectangle(0, 0, 100, 50), support::rectangle(10, 10, 20, 20),
                                   support::rectangle(10, 10, 40, 20)});
    stack.layers = {support::layer(1, "sea"), support::layer(2, "sea"), support::layer(3, "sea")};
    stack.pieces[1].layer = design::LayerId{2};
    stack.pieces[2].layer = design::LayerId{3};
    const std::vector<Finding> found = findingsOf(stack);
    ASSERT_EQ(found.size(), 1u);
    EXPECT_EQ(found[0].kind, Kind::TwoHeights);
    EXPECT_EQ(found[0].severity, Severity::Note);
    EXPECT_EQ(found[0].message.find("Area 3"), 0u) << found[0].message;
    EXPECT_NE(found[0].message.find("hangs 0.30 mm over area 1"), std::string::npos) << found[0].message;
    stack.layers[2].isHidden = true;
    EXPECT_TRUE(findingsOf(stack).empty());
}

TEST(Inspect, HiddenLayersAreNotLookedAt) {
    design::Stack stack = stackOf({support::disc({0, 0}, 1)});
    stack.layers[0].isHidden = true;
    EXPECT_TRUE(findingsOf(stack).empty());
}

TEST(Inspect, WhatSpoilsCardComesFirst) {
    const auto found = findingsOf(stackOf({support::disc({0, 0}, 1), support::rectangle(0, 0, 900, 900)}));
    ASSERT_EQ(found.size(), 2u);
    EXPECT_EQ(found[0].severity, Severity::SpoilsCard);
    EXPECT_EQ(found[1].severity, Severity::RisksCard);
}

TEST(Inspect, ALeakIsPlacedInTheFinishedDesign) {
    auto tracing = std::make_shared<trace::Tracing>();
    tracing->leaks.push_back({{300, 150}, 12, true, {250, 150}});
    job::Source source;
    source.id = job::SourceId{1};
    source.what = job::Picture{.file = std::make_shared<const job::Artwork>(), .tracing = tracing};
    source.unitMm = 0.2;
    source.at = {-20, -10};
    const job::State state{job::withSource({}, source), {}};
    const auto found = findingsOf(state);
    ASSERT_EQ(found.size(), 1u);
    EXPECT_EQ(found[0].message, "An area leaks to the outside through a gap of 2.4 mm");
    EXPECT_NEAR(found[0].cases[0].place.centre().x, 40, 1e-9);
    EXPECT_NEAR(found[0].cases[0].place.centre().y, 20, 1e-9);
}

TEST(Inspect, PinsThatOverlapOrRunOverTheEdgeAreTold) {
    const design::Stack stack = stackOf({support::rectangle(0, 0, 50, 50), support::rectangle(0, 0, 50, 50)});
    const design::SheetFormat a4{"a4", "A4", 210, 297, 6.35};
    sheets::ArrangeOptions options{.mat = kFormats.mats[0], .sheet = a4};
    const auto told = [&](const std::vector<std::pair<int, geometry::Point>>& pins) {
        options.pins.clear();
        for (const auto& [number, corner] : pins)
            options.pins.push_back(
                {{id(number), 0}, 0, design::poseAtCorner(stack.find(id(number))->piece, corner, 0)});
        job::State state = stateOf(stack);
        state.job.plan.matId = kFormats.mats[0].id;
        state.job.plan.sheetId = "own";
        state.job.plan.ownSheet = a4;
        state.made.sheets = std::make_shared<const design::Arrangement>(*sheets::arrange(stack, options));
        std::vector<std::string> out;
        for (const Finding& f : findingsOf(state))
            out.push_back(f.message);
        return out;
    };
    EXPECT_TRUE(told({{1, {20, 20}}, {2, {90, 20}}}).empty());
    EXPECT_EQ(told({{1, {20, 20}}, {2, {60, 20}}}),
              std::vector<std::string>{"Area 1 (sea) lies on area 2 (sea) on load 1"});
    EXPECT_EQ(told({{1, {2, 20}}}),
              std::vector<std::string>{"Area 1 (sea) runs over the edge of its sheet on load 1"});
}

TEST(Inspect, APieceThatFitsAMatButNotTheChosenSheetIsTold) {
    const design::Stack stack = stackOf({support::rectangle(0, 0, 250, 250)});
    const design::SheetFormat a4{"a4", "A4", 210, 297, 6.35};
    job::State state = stateOf(stack);
    state.job.plan.sheetId = "own";
    state.job.plan.ownSheet = a4;
    state.made.sheets = std::make_shared<const design::Arrangement>(
        *sheets::arrange(stack, {.mat = kFormats.mats[0], .sheet = a4}));
    const auto found = findingsOf(state);
    ASSERT_EQ(found.size(), 1u);
    EXPECT_EQ(found[0].message, "Area 1 (sea) is 250.0 × 250.0 mm and fits no A4 sheet");
    EXPECT_EQ(found[0].remedy.find("tape two sheets"), std::string::npos) << "two do not lie on that mat";
}

TEST(Inspect, WhatTwoSheetsTapedTogetherTakeIsTold) {
    const design::Stack stack = stackOf({support::rectangle(0, 0, 100, 400)});
    const design::SheetFormat square{"square12", "12 in square", 304.8, 304.8, 6.35};
    job::State state = stateOf(stack);
    const auto& mats = kFormats.mats;
    const auto longest = std::max_element(mats.begin(), mats.end(), [](const auto& a, const auto& b) {
        return std::max(a.widthMm, a.heightMm) < std::max(b.widthMm, b.heightMm);
    });
    state.job.plan.matId = longest->id;
    state.job.plan.sheetId = "own";
    state.job.plan.ownSheet = square;
    state.made.sheets = std::make_shared<const design::Arrangement>(
        *sheets::arrange(stack, {.mat = *longest, .sheet = square}));
    const auto found = findingsOf(state);
    ASSERT_EQ(found.size(), 1u);
    EXPECT_NE(found[0].remedy.find("tape two sheets together there"), std::string::npos) << found[0].remedy;
}

TEST(Inspect, CanBeStopped) {
    const std::atomic<bool> stop = true;
    Memory memory;
    EXPECT_FALSE(inspect(stateOf(stackOf({support::dumbbell(20, 0.7, 5)})), kFormats, memory, {},
                         base::Progress(&stop, nullptr)));
}

TEST(Inspect, AStepThatWasPassedOverIsToldFirst) {
    job::State state = stateOf(stackOf({support::disc({0, 0}, 1)}));
    job::AfterStep after;
    after.step = std::make_shared<const design::Step>(shape::makeStep(shape::Action::Join, {}));
    after.whyNot = base::Error{base::Code::Degenerate, "Choose two pieces."};
    state.made.after.push_back(after);
    const auto found = findingsOf(state);
    ASSERT_EQ(found.size(), 2u);
    EXPECT_EQ(found[0].kind, Kind::StepPassedOver);
    EXPECT_EQ(found[0].cases.at(0).message.find("Step 1 ("), 0u) << found[0].cases.at(0).message;
    EXPECT_EQ(found[0].severity, Severity::SpoilsCard);
    EXPECT_NE(found[0].remedy.find("at Shape"), std::string::npos);
}

TEST(Inspect, LinesThatWereCutShortAndWishesWithoutPiecesAreTold) {
    job::State state = stateOf(stackOf({support::rectangle(0, 0, 40, 40)}));
    job::AfterStep after;
    after.shortEnds = 2;
    after.droppedBits = 1;
    state.made.after.push_back(after);
    job::Finished finished = *state.made.finished;
    finished.strayWishes = 3;
    state.made.finished = std::make_shared<const job::Finished>(finished);
    const auto found = findingsOf(state);
    ASSERT_EQ(found.size(), 2u);
    EXPECT_EQ(found[0].kind, Kind::LineCutShort);
    EXPECT_EQ(found[0].message,
              "After step 1 2 ends of lines stop short of the edge, 1 bit of a line was left out for "
              "being shorter than a millimetre");
    EXPECT_EQ(found[1].message, "3 wishes are for pieces that are not there");
}

TEST(Consequences, AreCounted) {
    design::Stack stack =
        stackOf({support::withOpening(support::rectangle(0, 0, 40, 40), support::disc({20, 20}, 0.6)),
                 support::dumbbell(20, 0.7, 5)});
    stack.pieces[1].copies = 3;
    Memory memory;
    job::State state = stateOf(stack);
    state.made.sheets = std::make_shared<const design::Arrangement>(
        *sheets::arrange(stack, {.mat = kFormats.mats[0], .sheet = {"a4", "A4", 210, 297, 6.35}}));
    const auto c = consequencesOf(state, memory);
    ASSERT_TRUE(c);
    EXPECT_EQ(c->pieces, 2);
    EXPECT_EQ(c->copies, 4);
    EXPECT_EQ(c->sheets, 1);
    EXPECT_EQ(c->smallOpenings, 1);
    ASSERT_TRUE(c->narrowestMm);
    EXPECT_NEAR(*c->narrowestMm, 0.7, 0.01);
    EXPECT_EQ(c->narrowest, id(2));
}

TEST(Inspect, ClustersAndFramesAreHeldAgainstTheWork) {
    using support::made;
    using support::must;
    job::State state =
        support::withFigure(support::rectangleJob(60, 30), construct::Figure::Rectangle, {40, 30});
    const std::vector<design::PieceId> both{support::id("1:1"), support::id("2:1")};
    state = made(job::withCluster(state, "the two", both), state.made);
    const auto found = [](const job::State& now, Kind kind) {
        Memory memory;
        for (const Finding& one : must(inspect(now, job::shippedCatalogue().formats, memory)))
            if (one.kind == kind)
                return one.message;
        return std::string();
    };
    EXPECT_EQ(found(state, Kind::ClusterOverlaps), "");
    const job::State onIt = support::after(state, shape::Action::Move, {both[1]}, {-30, 0});
    EXPECT_NE(found(onIt, Kind::ClusterOverlaps).find("lies on"), std::string::npos);
    const job::State apart = made(job::painted(state.job, {both[1]}, "rust"), state.made);
    EXPECT_NE(found(apart, Kind::ClusterApart).find("apart from the two"), std::string::npos);
    // A foil has one good side; turned over, the other one is seen.
    design::Stock foil = *design::findStock(state.job.stocks, "sea");
    const job::State over = made(job::withPiecesUp(state.job, {both[0]}, design::Side::Back), state.made);
    EXPECT_EQ(found(over, Kind::GoodSideHidden), "");
    foil.faces = design::Stock::Faces::GoodFront;
    EXPECT_NE(found(made(job::withStock(over.job, foil), over.made), Kind::GoodSideHidden)
                  .find("has one good side"),
              std::string::npos);
    EXPECT_EQ(found(made(job::withStock(state.job, foil), state.made), Kind::GoodSideHidden), "");
    // A frame needs a carrier; without one it is not cut through the card, and told.
    design::Stock film = *design::findStock(state.job.stocks, "sea");
    film.cut = design::Depth::ToCarrier;
    job::State carried = made(job::withStock(state.job, film), state.made);
    carried = made(job::withClusterFrame(carried, 0, 5), carried.made);
    EXPECT_EQ(found(carried, Kind::FrameLeftOut), "");
    EXPECT_EQ(carried.made.work()->clusters[0].frameMm, 5);
    film.cut = design::Depth::Through;
    carried = made(job::withStock(carried.job, film), carried.made);
    EXPECT_NE(found(carried, Kind::FrameLeftOut).find("The frame of the two is left out"), std::string::npos);
    EXPECT_EQ(carried.made.work()->clusters[0].frameMm, 0);
    // A frame is remembered: what is lifted beyond its depth afterwards is told.
    job::State framed = must(job::withinFrame(state, {200, 150, 6})).sized.state;
    EXPECT_EQ(found(framed, Kind::LargerThanFrame), "");
    framed = made(job::withPiecesLift(framed.job, {both[0]}, 12), framed.made);
    EXPECT_EQ(found(framed, Kind::LargerThanFrame), "The work is 12.3 mm high and its frame 6.0 mm deep");
    framed = made(job::withoutFrame(framed.job), framed.made);
    EXPECT_EQ(found(framed, Kind::LargerThanFrame), "");
}

/// One plate of 100 x 60 with lines.
job::State plateWith(std::vector<design::PieceLine> lines) {
    design::Stack stack = stackOf({support::rectangle(0, 0, 100, 60)});
    design::Body body = *stack.pieces[0].piece.body;
    body.lines = std::move(lines);
    stack.pieces[0].piece.body = std::make_shared<const design::Body>(body);
    return stateOf(stack);
}

design::PieceLine foldFrom(int id, geometry::Point from, geometry::Point to, design::Fold fold = {}) {
    return {design::LineId{id}, {from, {geometry::Segment::line(to)}}, fold, false, false};
}

const Finding* ofKind(const std::vector<Finding>& findings, Kind kind) {
    const auto at =
        std::find_if(findings.begin(), findings.end(), [&](const Finding& f) { return f.kind == kind; });
    return at == findings.end() ? nullptr : &*at;
}

TEST(InspectLines, AFoldThatStopsOnTheCardIsTold) {
    const auto whole = findingsOf(plateWith({foldFrom(1, {50, 0}, {50, 60})}));
    EXPECT_EQ(ofKind(whole, Kind::FoldEndsShort), nullptr);
    const auto all = findingsOf(plateWith({foldFrom(1, {50, 0}, {50, 57})}));
    const Finding* shorter = ofKind(all, Kind::FoldEndsShort);
    ASSERT_NE(shorter, nullptr);
    EXPECT_EQ(shorter->message, "A fold of area 1 (sea) ends 3.0 mm short of the edge");
    ASSERT_EQ(shorter->cases.size(), 1u) << "its other end reaches it";
    // The way to the edge is the way the fold goes, not the nearest.
    const auto beside = findingsOf(plateWith({foldFrom(1, {2, 0}, {2, 40})}));
    EXPECT_EQ(ofKind(beside, Kind::FoldEndsShort)->message,
              "A fold of area 1 (sea) ends 20.0 mm short of the edge");
    // An end on another fold is no end on the card; a fold that comes round has none.
    EXPECT_EQ(ofKind(findingsOf(plateWith({foldFrom(1, {50, 0}, {50, 60}), foldFrom(2, {0, 30}, {50, 30})})),
                     Kind::FoldEndsShort),
              nullptr);
    design::PieceLine round = foldFrom(1, {20, 20}, {40, 20});
    round.path.segments = {geometry::Segment::line({40, 20}), geometry::Segment::line({40, 40}),
                           geometry::Segment::line({20, 20})};
    EXPECT_EQ(ofKind(findingsOf(plateWith({round})), Kind::FoldEndsShort), nullptr);
}

TEST(InspectLines, FoldsNeedRoomAndCardThatBends) {
    const auto near =
        findingsOf(plateWith({foldFrom(1, {50, 0}, {50, 60}), foldFrom(2, {51.2, 0}, {51.2, 60})}));
    ASSERT_NE(ofKind(near, Kind::FoldsTooClose), nullptr);
    EXPECT_NE(ofKind(near, Kind::FoldsTooClose)->message.find("1.2 mm apart"), std::string::npos);
    EXPECT_EQ(ofKind(findingsOf(plateWith({foldFrom(1, {50, 0}, {50, 60}), foldFrom(2, {53, 0}, {53, 60})})),
                     Kind::FoldsTooClose),
              nullptr);
    job::State board = plateWith({foldFrom(1, {50, 0}, {50, 60})});
    auto finished = std::make_shared<job::Finished>(*board.made.finished);
    finished->stack.stocks[0].kind = design::Stock::Kind::Board;
    board.made.finished = finished;
    EXPECT_NE(ofKind(findingsOf(board), Kind::FoldInBoard), nullptr);
    job::State below = plateWith({foldFrom(1, {50, 0}, {50, 60}, {.scored = design::Side::Back})});
    EXPECT_NE(ofKind(findingsOf(below), Kind::ScoredFromBelow), nullptr);
    below.job.plan.foldsAs = design::FoldsAs::Perforation;
    EXPECT_EQ(ofKind(findingsOf(below), Kind::ScoredFromBelow), nullptr) << "a perforation has no side";
}

TEST(InspectLines, WhatLiesFlippedOnItsMatIsScoredAndDrawnFromTheOtherSide) {
    job::State plate = plateWith({foldFrom(1, {50, 0}, {50, 60})});
    EXPECT_EQ(ofKind(findingsOf(plate), Kind::ScoredFromBelow), nullptr);
    plate.job.plan.tapedStocks = {plate.made.work()->stocks[0].id};
    EXPECT_NE(ofKind(findingsOf(plate), Kind::ScoredFromBelow), nullptr) << "its sheets lie face down";
    job::State drawn = plateWith(
        {{design::LineId{1}, {{10, 10}, {geometry::Segment::line({40, 10})}}, design::Pen{}, false, false}});
    EXPECT_EQ(ofKind(findingsOf(drawn), Kind::DrawnOnBack), nullptr);
    drawn.job.plan.tapedStocks = {drawn.made.work()->stocks[0].id};
    EXPECT_NE(ofKind(findingsOf(drawn), Kind::DrawnOnBack), nullptr);
    // Laid by hand the other way over, it is right again.
    drawn.job.plan.pins = {{{drawn.made.work()->pieces[0].id(), 0}, 0, {}, 0}};
    EXPECT_EQ(ofKind(findingsOf(drawn), Kind::DrawnOnBack), nullptr);
}

/// The lines of the only piece after a finding's own step.
std::vector<design::PieceLine> mended(const job::State& state, const Finding& finding) {
    const design::Pieces before{{state.made.work()->pieces[0].piece}, {}};
    const auto after = folds::apply(before, *finding.cases.at(0).mend);
    if (!after)
        throw std::runtime_error(after.error().message);
    return after->pieces.now[0].body->lines;
}

TEST(InspectLines, WhatCanBeMendedAtAClickSaysHow) {
    const job::State shorter = plateWith({foldFrom(1, {50, 0}, {50, 57})});
    const auto all = findingsOf(shorter);
    const Finding* ends = ofKind(all, Kind::FoldEndsShort);
    ASSERT_NE(ends, nullptr);
    EXPECT_EQ(ends->mendWords, "Run on");
    const auto lines = mended(shorter, *ends);
    ASSERT_EQ(lines.size(), 1u);
    EXPECT_NEAR(geometry::contourLength(lines[0].path), 60, 1e-9);

    // A notch that points at a fold along the plate and stops 0.4 mm before it.
    const geometry::Shape notched{
        geometry::contourThrough({{0, 0}, {45, 0}, {50, 9.6}, {55, 0}, {100, 0}, {100, 60}, {0, 60}}), {}};
    design::Stack stack = stackOf({notched});
    design::Body body = *stack.pieces[0].piece.body;
    body.lines = {foldFrom(1, {0, 10}, {100, 10})};
    stack.pieces[0].piece.body = std::make_shared<const design::Body>(body);
    const job::State state = stateOf(stack);
    const auto found = findingsOf(state);
    const Finding* notch = ofKind(found, Kind::NotchMissesFold);
    ASSERT_NE(notch, nullptr);
    EXPECT_EQ(notch->message, "A notch of area 1 (sea) ends 0.4 mm before its fold");
    EXPECT_EQ(notch->mendWords, "Cut on to it");
    EXPECT_EQ(notch->cases.size(), 1u);
    const auto cut = mended(state, *notch);
    ASSERT_EQ(cut.size(), 2u);
    EXPECT_EQ(cut[1].does, design::LineUse(design::Slit{}));
    EXPECT_NEAR(geometry::contourLength(cut[1].path), 0.4, 1e-9);
    // A shallow bend at the same place is no notch.
    stack.pieces[0].piece.body = std::make_shared<const design::Body>(design::Body{
        {geometry::contourThrough({{0, 0}, {0.1, 0}, {50, 9.6}, {100, 0}, {100, 60}, {0, 60}}), {}},
        body.lines});
    EXPECT_EQ(ofKind(findingsOf(stateOf(stack)), Kind::NotchMissesFold), nullptr);
}

TEST(InspectSheets, APieceThatMissesItsSheetByItsFlapIsMended) {
    // A strip of 280 with a flap of 25: 305 is too long for a sheet of 12 in less its margins, 292.1.
    job::State state = support::rectangleJob(305, 200);
    const auto fold = [&](double fromRight) {
        state = support::after(state, folds::makeStep(folds::Action::AlongSides,
                                                      {state.made.pieces->now[0].id}, {1, fromRight}));
    };
    fold(25);
    fold(165);
    job::SheetPlan plan = state.job.plan;
    plan.matId = "long24"; // some mat takes it, the sheet does not
    plan.sheetId = "square12";
    state = support::made(job::withPlan(state.job, plan), state.made, job::Stage::Sheets);
    ASSERT_EQ(state.made.sheets->unplaced.size(), 1u);
    Memory memory;
    const auto all = *inspect(state, job::shippedCatalogue().formats, memory);
    const Finding* large = ofKind(all, Kind::LargerThanSheet);
    ASSERT_NE(large, nullptr);
    EXPECT_EQ(large->mendWords, "Shorten the flap");
    ASSERT_TRUE(large->cases[0].mend);
    const job::State shorter = support::after(state, *large->cases[0].mend);
    const double width = geometry::bounds(shorter.made.work()->pieces[0].shape()).width();
    EXPECT_LE(width, 292.1 + 1e-6);
    EXPECT_GE(width, 292.1 - 0.2) << "no more than it must";
    EXPECT_EQ(shorter.made.work()->pieces[0].piece.body->lines.size(), 2u);
    EXPECT_TRUE(support::arranged(shorter).made.sheets->unplaced.empty());
}

TEST(InspectSheets, StocksThatNoOneSettingCutsAreToldWhereAPhotoHasThemOnOneMat) {
    job::State state = support::rectangleJob(30, 20, "lamp");
    state = support::withFigure(state, construct::Figure::Rectangle, {40, 20}, "sea");
    for (const char* stock : {"lamp", "sea"}) {
        design::Scrap scrap{0, stock, "", job::scrapRectangle(80, 60)};
        scrap.at = geometry::Point{20, stock == std::string("sea") ? 120.0 : 20.0};
        scrap.mat = "mat.jpg";
        state.job = support::must(job::withScrap(state.job, std::move(scrap)));
    }
    Memory memory;
    const auto toldOf = [&](const job::State& now) {
        const job::State laid = support::arranged(now);
        EXPECT_EQ(laid.made.sheets->loads.size(), 1u);
        const auto all = *inspect(laid, job::shippedCatalogue().formats, memory);
        const Finding* found = ofKind(all, Kind::UnlikeOnMat);
        return found ? found->message : std::string();
    };
    EXPECT_EQ(toldOf(state), "");
    for (design::Stock& stock : state.job.stocks)
        if (stock.id == "sea")
            stock.thicknessMm = 1.2;
    EXPECT_NE(toldOf(state).find("Load 1 holds"), std::string::npos);
}

TEST(InspectPanes, ARingTooNarrowForGlueIsTold) {
    job::State state = support::rectangleJob(100, 80);
    const auto windowed = [&](double y) {
        job::State out = support::withFigure(state, construct::Figure::Rectangle, {30, 20});
        const auto& pieces = out.made.pieces->now;
        const geometry::Point corner = geometry::bounds(pieces[0].shape()).least;
        const geometry::Box box = geometry::bounds(pieces[1].shape());
        out = support::after(out, shape::Action::Move, {pieces[1].id},
                             {corner.x + 35 - box.least.x, corner.y + y - box.least.y});
        out = support::after(out, shape::Action::CutOut, {pieces[0].id, pieces[1].id});
        out = support::after(
            out, folds::makeStep(folds::Action::AlongSides, {out.made.pieces->now[0].id}, {2, 20}));
        return support::made(job::withPanes(out, job::windowsOf(out.made.pieces->now[0]), 5), out.made);
    };
    const auto good = findingsOf(windowed(20));
    EXPECT_EQ(ofKind(good, Kind::PaneBarelyHolds), nullptr);
    ASSERT_NE(ofKind(good, Kind::LightInside), nullptr);
    EXPECT_NE(ofKind(good, Kind::LightInside)->message.find("a battery light only"), std::string::npos);
    const auto tight = findingsOf(windowed(3));
    ASSERT_NE(ofKind(tight, Kind::PaneBarelyHolds), nullptr);
    EXPECT_NE(ofKind(tight, Kind::PaneBarelyHolds)->message.find("is glued by 2.0 mm where it is narrowest"),
              std::string::npos)
        << ofKind(tight, Kind::PaneBarelyHolds)->message;
}

/// A card of 120 x 80 with a ribbon's way across its middle; `values` as folds::wayStep takes them.
job::State cardWithWay(std::vector<double> values) {
    const job::State state = support::rectangleJob(120, 80);
    const design::Piece& card = state.made.pieces->now[0];
    const geometry::Point middle = geometry::bounds(card.shape()).centre(), by{35, 0};
    return support::after(state, folds::wayStep(folds::Action::Way, card, middle - by, middle + by, values));
}

TEST(InspectWays, ASlitNarrowerThanWhatGoesThroughIsTold) {
    const auto good = findingsOf(cardWithWay({0, 10, 12, 0}));
    EXPECT_EQ(ofKind(good, Kind::SlitTooNarrow), nullptr);
    EXPECT_EQ(ofKind(good, Kind::WayClosed), nullptr);
    ASSERT_NE(ofKind(good, Kind::SmallChildren), nullptr);
    const auto tight = findingsOf(cardWithWay({0, 10, 9, 0}));
    ASSERT_NE(ofKind(tight, Kind::SlitTooNarrow), nullptr);
    EXPECT_EQ(ofKind(tight, Kind::SlitTooNarrow)->cases.size(), 2u) << "both of its slits";
    EXPECT_NE(ofKind(tight, Kind::SlitTooNarrow)
                  ->cases[0]
                  .message.find("is 9.0 mm long and takes a ribbon of 10.0 mm"),
              std::string::npos)
        << ofKind(tight, Kind::SlitTooNarrow)->cases[0].message;
}

TEST(InspectWays, WhatIsGluedOverAWayIsTold) {
    for (const bool isInFront : {true, false}) {
        job::State state = cardWithWay({0, 10, 12, isInFront ? 1.0 : 0.0});
        state = support::withFigure(state, construct::Figure::Ellipse, {30, 30}, "cream");
        const auto& pieces = state.made.pieces->now;
        const geometry::Point by =
            geometry::bounds(pieces[0].shape()).centre() - geometry::bounds(pieces[1].shape()).centre();
        state = support::after(state, shape::Action::Move, {pieces[1].id}, {by.x, by.y});
        const auto found = findingsOf(state);
        EXPECT_EQ(ofKind(found, Kind::WayClosed) != nullptr, isInFront) << "the disc lies in front";
        // Foam leaves the way open.
        const auto layer = support::laid(state, pieces[1].id).layer;
        const auto lifted = support::made(job::withLayerLift(state.job, layer, 2), state.made);
        EXPECT_EQ(ofKind(findingsOf(lifted), Kind::WayClosed), nullptr);
    }
}

TEST(InspectFoam, APieceTooNarrowForFoamIsTold) {
    job::State state = support::rectangleJob(120, 80);
    state = support::withFigure(state, construct::Figure::Rectangle, {60, 7}, "cream");
    const auto& pieces = state.made.pieces->now;
    const geometry::Point by =
        geometry::bounds(pieces[0].shape()).centre() - geometry::bounds(pieces[1].shape()).centre();
    state = support::after(state, shape::Action::Move, {pieces[1].id}, {by.x, by.y});
    state =
        support::made(job::withLayerLift(state.job, support::laid(state, pieces[1].id).layer, 2), state.made);
    EXPECT_EQ(ofKind(findingsOf(state), Kind::NoFoamRoom), nullptr) << "nobody asked for foam";
    const auto found = findingsOf(support::made(job::withFoam(state.job, {true, 8}), state.made));
    ASSERT_NE(ofKind(found, Kind::NoFoamRoom), nullptr);
    EXPECT_NE(ofKind(found, Kind::NoFoamRoom)->message.find("no room for foam"), std::string::npos);
}

/// A stack whose first piece carries a line.
design::Stack withLine(design::Stack stack, geometry::Point from, geometry::Point to, design::LineUse does) {
    design::Body body = *stack.pieces[0].piece.body;
    body.lines.push_back({design::LineId{4}, {from, {geometry::Segment::line(to)}}, does, true, true});
    stack.pieces[0].piece.body = std::make_shared<const design::Body>(std::move(body));
    return stack;
}

TEST(InspectFolds, AFoldAcrossANeckIsTold) {
    // Two plates of 40 mm joined by a neck of 20 mm, folded in its middle.
    const auto folded = [](double neck) {
        return findingsOf(withLine(stackOf({support::dumbbell(40, neck, 20)}), {50, 20 - neck / 2},
                                   {50, 20 + neck / 2}, design::Fold{}));
    };
    EXPECT_EQ(ofKind(folded(3.5), Kind::FoldAcrossNeck), nullptr);
    const auto found = folded(2);
    ASSERT_NE(ofKind(found, Kind::FoldAcrossNeck), nullptr);
    EXPECT_NE(ofKind(found, Kind::FoldAcrossNeck)->message.find("2.0 mm long"), std::string::npos)
        << ofKind(found, Kind::FoldAcrossNeck)->message;
}

TEST(InspectMarks, WhatNothingCoversIsTold) {
    // A mark of 60 mm on a plate; a card over it covers none, half or all of it.
    const std::vector<std::pair<double, std::string>> rows{{200, "60.0 mm"}, {60, "30.0 mm"}, {20, ""}};
    for (const auto& [x, told] : rows) {
        design::Stack stack = stackOf({support::rectangle(0, 0, 120, 80), support::rectangle(x, 20, 80, 40)});
        stack.layers.push_back(support::layer(2, "sea"));
        stack.pieces[1].layer = stack.layers[1].id;
        const auto found = findingsOf(withLine(stack, {30, 40}, {90, 40}, design::Placement{id(2)}));
        const Finding* shows = ofKind(found, Kind::MarkShows);
        ASSERT_EQ(shows != nullptr, !told.empty()) << x;
        if (!shows)
            continue;
        EXPECT_EQ(shows->message.find(told), 0u) << shows->message;
        ASSERT_TRUE(shows->cases[0].mend);
        EXPECT_EQ(shows->cases[0].mend->action, "take-lines-off");
    }
}

TEST(InspectMotifs, OneHeldOnOneSideOnlyIsTold) {
    job::State state = support::rectangleJob(100, 80);
    state = support::withFigure(state, construct::Figure::Rectangle, {50, 60});
    const geometry::Point by = geometry::bounds(state.made.pieces->now[0].shape()).centre() -
                               geometry::bounds(state.made.pieces->now[1].shape()).centre();
    state = support::after(state, shape::Action::Move, {state.made.pieces->now[1].id}, {by.x, by.y});
    state = support::after(state, shape::Action::CutOut,
                           {state.made.pieces->now[0].id, state.made.pieces->now[1].id});
    state = support::withFigure(state, construct::Figure::Heart, {20, 40}); // its point holds by too little
    const auto& pieces = state.made.pieces->now;
    const auto pairs = job::motifPairs({&pieces[0], &pieces[1]});
    ASSERT_TRUE(pairs);
    const auto fitted = [&](int sides) {
        return support::after(state,
                              folds::motifStep(*pairs, {.overlapMm = 1, .contactMm = 6, .sides = sides}));
    };
    const auto found = findingsOf(fitted(1));
    ASSERT_NE(ofKind(found, Kind::HeldOnce), nullptr);
    EXPECT_NE(ofKind(found, Kind::HeldOnce)->message.find("on one side only"), std::string::npos);
    EXPECT_THROW(fitted(2), std::runtime_error) << "asked for two it is refused";
}

TEST(Rights, AreAskedForWhatTheWorkIsMadeFor) {
    job::State state = support::tracedShed();
    const auto told = [&](job::GoesTo goesTo, job::Licence licence) {
        job::Job job = job::withOrigin(state.job, job::pictureSource(state.job)->id, {"a page", licence});
        job.goesTo = goesTo;
        for (const Finding& finding : findingsOf({job, state.made}))
            if (finding.kind == Kind::MayNotBeGiven)
                return finding.message;
        return std::string();
    };
    using job::GoesTo, job::Licence;
    for (const Licence licence : {Licence::Unknown, Licence::FreeForOwnUse, Licence::MaySell, Licence::Own})
        EXPECT_EQ(told(GoesTo::Myself, licence), "");
    EXPECT_NE(told(GoesTo::Buyers, Licence::FreeForOwnUse)
                  .find("free for own use only, and this work is to be sold"),
              std::string::npos);
    EXPECT_NE(told(GoesTo::Others, Licence::Unknown).find("nobody said"), std::string::npos);
    EXPECT_EQ(told(GoesTo::Buyers, Licence::MaySell), "");
    EXPECT_EQ(told(GoesTo::Buyers, Licence::Own), "");
}

// ---- what is printed

design::Face printed(design::Face::Kind kind, const geometry::Transform& place,
                     const std::string& shows = "") {
    design::Face out;
    out.kind = kind;
    out.place = place;
    out.shows = shows;
    return out;
}
/// A card of 60 x 40 mm with these faces, printed, and what is found.
std::vector<Finding> findingsOf(std::vector<design::Face> faces,
                                const std::function<void(job::State&, design::Stack&)>& change = {}) {
    design::Stack stack = stackOf({support::rectangle(0, 0, 60, 40)});
    auto body = std::make_shared<design::Body>(*stack.pieces[0].piece.body);
    body->faces = std::move(faces);
    stack.pieces[0].piece.body = body;
    job::State state = stateOf(stack);
    state.job.print.stocks = {"sea"};
    state.job.cut.machine = design::Machine{"reader", "a machine that reads marks"};
    state.job.cut.machine->doesReadMarks = true;
    auto file = std::make_shared<job::Artwork>();
    file->fileName = "sea.png";
    file->widthPx = 600;
    file->heightPx = 400;
    state.job.art[1] = std::make_shared<const job::FaceArt>(job::FaceArt{job::PrintedPicture{file, {}}});
    if (change) {
        change(state, stack);
        const job::Job job = state.job;
        state = stateOf(stack);
        state.job.print = job.print;
        state.job.cut = job.cut;
        state.job.art = job.art;
        state.job.goesTo = job.goesTo;
    }
    return findingsOf(state);
}
std::string toldOf(const std::vector<Finding>& found, Kind kind) {
    const Finding* one = ofKind(found, kind);
    return one ? one->message : "";
}

TEST(Print, WhatWouldShowWhiteOrBeCutOffIsSaid) {
    using Face = design::Face::Kind;
    const auto sound = findingsOf({printed(Face::Picture, {66, 0, 0, 44, -3, -2}, "art-1")});
    for (const Kind kind :
         {Kind::NoBleed, Kind::CoarsePicture, Kind::StretchedPicture, Kind::NotPrinted, Kind::NoMarkReader})
        EXPECT_EQ(toldOf(sound, kind), "");
    // The picture ends a millimetre before the right cut.
    EXPECT_NE(toldOf(findingsOf({printed(Face::Picture, {62, 0, 0, 44, -3, -2}, "art-1")}), Kind::NoBleed)
                  .find("white edge"),
              std::string::npos);
    // A small picture in the middle was never meant to reach it.
    EXPECT_EQ(toldOf(findingsOf({printed(Face::Picture, {12, 0, 0, 8, 20, 15}, "art-1")}), Kind::NoBleed),
              "");
    const auto noBleed = [](job::State&, design::Stack& stack) { stack.stocks[0].bleedMm = 0; };
    EXPECT_NE(toldOf(findingsOf({printed(Face::Colour, {})}, noBleed), Kind::NoBleed).find("not beyond"),
              std::string::npos);
    EXPECT_EQ(toldOf(findingsOf({printed(Face::Colour, {})}), Kind::NoBleed), "");
    // Text 30 mm wide: in the middle, 1 mm from the left cut, over it.
    EXPECT_EQ(toldOf(findingsOf({printed(Face::Text, {30, 0, 0, 8, 15, 16}, "art-2")}), Kind::TextNearCut),
              "");
    EXPECT_NE(toldOf(findingsOf({printed(Face::Text, {30, 0, 0, 8, 1, 16}, "art-2")}), Kind::TextNearCut)
                  .find("within 1.0 mm of a cut"),
              std::string::npos);
    EXPECT_NE(toldOf(findingsOf({printed(Face::Text, {30, 0, 0, 8, -5, 16}, "art-2")}), Kind::TextNearCut)
                  .find("cut off"),
              std::string::npos);
}

TEST(Print, CoarseAndStretchedPicturesAreSaidAtFinishedSize) {
    using Face = design::Face::Kind;
    // 600 px over 120 mm are 127 dots to the inch.
    EXPECT_NE(
        toldOf(findingsOf({printed(Face::Picture, {120, 0, 0, 80, -30, -20}, "art-1")}), Kind::CoarsePicture)
            .find("127 dpi"),
        std::string::npos);
    EXPECT_NE(
        toldOf(findingsOf({printed(Face::Picture, {66, 0, 0, 55, -3, -5}, "art-1")}), Kind::StretchedPicture)
            .find("20 %"),
        std::string::npos);
}

TEST(Print, ATextThatStandsOnItsHeadOnceItsPanelIsFoldedIsTold) {
    using Face = design::Face::Kind;
    // A top of 12 mm is folded over behind the rest, or just up; what is printed on it is 20 x 4 mm.
    const auto told = [](double angleDeg, const geometry::Transform& place) {
        return toldOf(
            findingsOf({printed(Face::Text, place, "art-2")},
                       [angleDeg](job::State&, design::Stack& stack) {
                           design::Body body = *stack.pieces[0].piece.body;
                           const geometry::Box box = geometry::bounds(body.shape);
                           body.lines.push_back({design::LineId{1},
                                                 {{box.least.x, box.least.y + 12},
                                                  {geometry::Segment::line({box.most.x, box.least.y + 12})}},
                                                 design::Fold{design::Side::Front, false, angleDeg},
                                                 true,
                                                 true});
                           stack.pieces[0].piece.body = std::make_shared<const design::Body>(std::move(body));
                       }),
            Kind::ReadUpsideDown);
    };
    const geometry::Transform upright{20, 0, 0, 4, 20, 4}, turned{-20, 0, 0, -4, 40, 8},
        sideways{0, 8, -4, 0, 30, 2};
    EXPECT_NE(told(180, upright).find("stands on its head"), std::string::npos);
    EXPECT_EQ(told(180, turned), "");
    EXPECT_EQ(told(180, sideways), "");
    EXPECT_EQ(told(30, upright), "");
    EXPECT_NE(told(30, turned).find("stands on its head"), std::string::npos);
}

TEST(Print, StockMachineAndRightsAreAsked) {
    using Face = design::Face::Kind;
    const design::Face colour = printed(Face::Colour, {});
    design::Face behind = colour;
    behind.side = design::Side::Back;
    EXPECT_NE(toldOf(findingsOf({colour},
                                [](job::State& state, design::Stack&) { state.job.print.stocks.clear(); }),
                     Kind::NotPrinted)
                  .find("without being printed"),
              std::string::npos);
    EXPECT_NE(toldOf(findingsOf({colour},
                                [](job::State&, design::Stack& stack) {
                                    stack.stocks[0].kind = design::Stock::Kind::Board;
                                }),
                     Kind::NotPrinted)
                  .find("goes through no printer"),
              std::string::npos);
    EXPECT_NE(toldOf(findingsOf({behind},
                                [](job::State&, design::Stack& stack) {
                                    stack.stocks[0].prints = design::Stock::Prints::Front;
                                }),
                     Kind::NotPrinted)
                  .find("on its back"),
              std::string::npos);
    EXPECT_NE(
        toldOf(findingsOf({colour}, [](job::State& state,
                                       design::Stack&) { state.job.cut.machine->doesReadMarks = false; }),
               Kind::NoMarkReader)
            .find("finds no printed marks"),
        std::string::npos);
    // On clear film words are seen from behind too, unless something is printed there.
    const auto clear = [](job::State&, design::Stack& stack) { stack.stocks[0].isTranslucent = true; };
    const design::Face words = printed(Face::Text, {30, 0, 0, 8, 15, 16}, "art-2");
    EXPECT_NE(toldOf(findingsOf({words}, clear), Kind::MirroredText).find("mirrored"), std::string::npos);
    EXPECT_EQ(toldOf(findingsOf({words, behind}, clear), Kind::MirroredText), "");
    const auto sold = [](job::State& state, design::Stack&) { state.job.goesTo = job::GoesTo::Buyers; };
    EXPECT_NE(toldOf(findingsOf({printed(Face::Picture, {66, 0, 0, 44, -3, -2}, "art-1")}, sold),
                     Kind::MayNotBeGiven)
                  .find("sea.png"),
              std::string::npos);
    EXPECT_EQ(toldOf(findingsOf({colour}, sold), Kind::MayNotBeGiven), "")
        << "a picture that is not printed is nobody's business";
}

// ---- what lies over folds

/// A card of 100 x 40 mm folded across at 50, with a face or another piece on it.
design::Stack foldedCard() {
    design::Stack stack = stackOf({support::rectangle(0, 0, 100, 40)});
    stack = withLine(std::move(stack), {50, 0}, {50, 40}, design::Fold{});
    return stack;
}
std::vector<Finding> foundWithText(double left) {
    design::Stack stack = foldedCard();
    auto body = std::make_shared<design::Body>(*stack.pieces[0].piece.body);
    body->faces = {printed(design::Face::Kind::Text, {30, 0, 0, 8, left, 16}, "art-2")};
    stack.pieces[0].piece.body = body;
    return findingsOf(stack);
}
std::vector<Finding> foundWithPiece(double left, double liftMm, bool isFolded, design::Layer::At at) {
    design::Stack stack = foldedCard();
    stack.layers.push_back(support::layer(2, "sea", "label"));
    stack.layers.back().at = at;
    stack.pieces.push_back(support::laid(2, support::rectangle(left, 10, 30, 20), 2));
    stack.pieces.back().liftMm = liftMm;
    if (isFolded) {
        auto body = std::make_shared<design::Body>(*stack.pieces[1].piece.body);
        body->lines.push_back(
            {design::LineId{9}, {{50, 10}, {geometry::Segment::line({50, 30})}}, design::Fold{}, true, true});
        stack.pieces[1].piece.body = body;
    }
    return findingsOf(stack);
}

TEST(OverFolds, WordsBelongOnOnePanel) {
    EXPECT_EQ(toldOf(foundWithText(10), Kind::RunsOverFold), "");
    EXPECT_EQ(toldOf(foundWithText(10), Kind::NearFold), "");
    EXPECT_NE(toldOf(foundWithText(30), Kind::RunsOverFold).find("A text on area 1"), std::string::npos);
    EXPECT_NE(toldOf(foundWithText(18.5), Kind::NearFold).find("1.5 mm from a fold"), std::string::npos);
    EXPECT_EQ(toldOf(foundWithText(17.9), Kind::NearFold), "") << "2.1 mm away";
}

TEST(OverFolds, APieceGluedAcrossOneKeepsItFromClosing) {
    using At = design::Layer::At;
    EXPECT_NE(toldOf(foundWithPiece(30, 0, false, At::Front), Kind::RunsOverFold).find("lies over a fold"),
              std::string::npos);
    EXPECT_NE(toldOf(foundWithPiece(30, 0, false, At::Back), Kind::RunsOverFold), "") << "behind it as well";
    EXPECT_EQ(toldOf(foundWithPiece(30, 2, false, At::Front), Kind::RunsOverFold), "") << "held off by foam";
    EXPECT_EQ(toldOf(foundWithPiece(30, 0, true, At::Front), Kind::RunsOverFold), "") << "folded as well";
    EXPECT_EQ(toldOf(foundWithPiece(10, 0, false, At::Front), Kind::RunsOverFold), "");
    EXPECT_NE(toldOf(foundWithPiece(19.5, 0, false, At::Front), Kind::NearFold).find("0.5 mm from a fold"),
              std::string::npos);
    EXPECT_EQ(toldOf(foundWithPiece(18.5, 0, false, At::Front), Kind::NearFold), "");
}

TEST(OverFolds, WhatAPenDrawsIsLookedAtToo) {
    const auto told = [](double to) {
        design::Stack stack = foldedCard();
        auto body = std::make_shared<design::Body>(*stack.pieces[0].piece.body);
        body->lines.push_back({design::LineId{9},
                               {{20, 20}, {geometry::Segment::line({to, 22})}},
                               design::Pen{},
                               false,
                               false});
        stack.pieces[0].piece.body = body;
        return toldOf(findingsOf(stack), Kind::RunsOverFold);
    };
    EXPECT_EQ(told(45), "");
    EXPECT_NE(told(60).find("What is drawn"), std::string::npos);
}

TEST(MarksAndFoam, APieceThatShowsItsBackIsNotMarkedAndThatIsTold) {
    job::State state = support::rectangleJob(120, 80);
    state = support::withFigure(state, construct::Figure::Rectangle, {60, 30}, "cream");
    const auto& pieces = state.made.pieces->now;
    const geometry::Point by =
        geometry::bounds(pieces[0].shape()).centre() - geometry::bounds(pieces[1].shape()).centre();
    state = support::after(state, shape::Action::Move, {pieces[1].id}, {by.x, by.y});
    const design::PieceId lower = state.made.pieces->now[0].id, upper = state.made.pieces->now[1].id;
    state =
        support::made(job::withLayerMarked(state.job, support::laid(state, upper).layer, true), state.made);
    EXPECT_EQ(toldOf(findingsOf(state), Kind::MarkOnBack), "");
    state = support::made(job::withPiecesUp(state.job, {lower}, design::Side::Back), state.made);
    EXPECT_NE(toldOf(findingsOf(state), Kind::MarkOnBack).find("shows its back"), std::string::npos);
}

} // namespace
} // namespace thinline::inspect
