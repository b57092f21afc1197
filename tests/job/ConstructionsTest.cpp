// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Constructions.h"

#include "folds/Steps.h"
#include "inspect/Inspect.h"
#include "job/Catalogue.h"
#include "job/LayerSteps.h"
#include "job/PrintSteps.h"
#include "job/SheetSteps.h"
#include "job/Sizing.h"
#include "job/Slots.h"
#include "job/SplitWays.h"
#include "job/StockSteps.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

namespace thinline::job {
namespace {

using support::emptyState;
using support::made;
using support::must;

PieceId key(const char* name) {
    return PieceId::found(SourceId{1}, name);
}
State constructed(const std::string& name, const std::vector<std::string>& said = {},
                  const std::string& stock = "sea") {
    return made(withConstruction(emptyState(), must(readGiven(name, said)), stock, support::shippedFonts()));
}
State changed(const State& state, const std::string& name, const std::vector<std::string>& said) {
    return made(
        withConstructionChanged(state.job, SourceId{1}, must(readGiven(name, said)), support::shippedFonts()),
        state.made);
}
const design::Laid& laid(const State& state, const char* name) {
    const design::Laid* out = state.made.work()->find(key(name));
    if (!out)
        throw std::runtime_error(std::string("no piece ") + name);
    return *out;
}
std::string stockOf(const State& state, const char* name) {
    return state.made.work()->layerOf(laid(state, name)).stockId;
}
std::vector<std::string> told(const State& state, inspect::Kind kind) {
    inspect::Memory memory;
    std::vector<std::string> out;
    for (const inspect::Finding& finding : must(inspect::inspect(state, shippedCatalogue().formats, memory)))
        if (finding.kind == kind)
            for (const inspect::Case& one : finding.cases)
                out.push_back(one.message);
    return out;
}

TEST(AConstruction, IsASourceWhosePartsLieOnStocksOfTheirOwn) {
    const State state = constructed("lantern", {"panels=5"});
    EXPECT_EQ(state.job.sources[0]->name(), "lantern");
    EXPECT_EQ(stockOf(state, "strip-1"), "sea");
    EXPECT_TRUE(design::findStock(state.job.stocks, stockOf(state, "pane"))->isTranslucent);
    EXPECT_EQ(laid(state, "pane").copies, 5);
    // Its folds, zones and panels came along.
    EXPECT_EQ(laid(state, "strip-1").piece.body->lines.size(), 10u);
    EXPECT_EQ(laid(state, "strip-1").piece.body->zones.size(), 6u);
    // No two parts lie on one another.
    const auto& pieces = state.made.work()->pieces;
    for (size_t i = 0; i < pieces.size(); ++i)
        for (size_t j = i + 1; j < pieces.size(); ++j)
            EXPECT_FALSE(geometry::bounds(pieces[i].shape()).meets(geometry::bounds(pieces[j].shape())));
}

TEST(AChangeOfMeasures, KeepsWhatWasDecidedAboutAPart) {
    State state = constructed("round-box");
    state = made(painted(state.job, {key("lid-outer-disc")}, "lamp"), state.made);
    state = made(withCopies(state, key("wall"), 3), state.made);
    const State larger = changed(state, "round-box", {"diameter=80 mm"});
    EXPECT_EQ(stockOf(larger, "lid-outer-disc"), "lamp");
    EXPECT_EQ(laid(larger, "wall").copies, 3);
    EXPECT_NEAR(geometry::bounds(laid(larger, "inner-disc").shape()).width(), 80, 1e-4);
}

TEST(AChangeOfMeasures, CopiesPanesAnewUntilSomebodySaidHowMany) {
    State state = constructed("lantern", {"panels=5"});
    EXPECT_EQ(laid(changed(state, "lantern", {"panels=8"}), "pane").copies, 8);
    state = made(withCopies(state, key("pane"), 2), state.made);
    EXPECT_EQ(laid(changed(state, "lantern", {"panels=8"}), "pane").copies, 2);
}

TEST(Sizing, MakesAConstructionAnewForWhatGoesIn) {
    const State state = constructed("lid-box", {"width=90", "depth=60", "height=40"});
    const State twice = made(sizedBy(state, 2), state.made);
    const auto& given = std::get<Construction>(twice.job.sources[0]->what).given;
    EXPECT_NEAR(given.values[0], 180, 1e-9);
    EXPECT_NEAR(given.values[6], 12, 1e-9) << "the laps stay";
    // Fold to fold 180.3, walls of 80.15.
    EXPECT_NEAR(geometry::bounds(laid(twice, "box").shape()).width(), 180.3 + 2 * 80.15, 1e-3);
    EXPECT_FALSE(stretchedBy(state, 2, 1)) << "a box is not stretched";
}

TEST(AnotherCard, IsToldWithTheRightNumberAndMadeFor) {
    State state = constructed("round-box", {"diameter=60"});
    EXPECT_TRUE(told(state, inspect::Kind::OtherCard).empty());
    design::Stock sea = *design::findStock(state.job.stocks, "sea");
    sea.thicknessMm = 0.5;
    state = made(withStock(state.job, sea), state.made);
    // The lid slides by 0.3 in all; both walls grew by 0.2 towards one another, at both sides: 0.3 - 0.4.
    EXPECT_EQ(told(state, inspect::Kind::OtherCard),
              std::vector<std::string>{"Round box with lid was made for card of 0.30 mm and lies on 0.50 mm: "
                                       "the lid over the box jams by 0.10 mm"});
    const State anew = made(withConstructionChanged(state.job, SourceId{1},
                                                    std::get<Construction>(state.job.sources[0]->what).given,
                                                    support::shippedFonts()),
                            state.made);
    EXPECT_TRUE(told(anew, inspect::Kind::OtherCard).empty());
    EXPECT_NEAR(geometry::bounds(laid(anew, "wall").shape()).width(), std::acos(-1.0) * 60.5 + 12, 1e-4);
}

TEST(AFoldThatIsTakenOff, OpensAJointAndIsTold) {
    const State state = constructed("sleeve");
    EXPECT_TRUE(told(state, inspect::Kind::JointOpen).empty());
    const auto model = foldedOf(state, key("sleeve"), {});
    ASSERT_TRUE(model);
    EXPECT_EQ(model->sheets[0].leaves.size(), 5u);
    const design::LineId first = laid(state, "sleeve").piece.body->lines.front().id;
    const State open =
        made(withStep(state, folds::makeStep(folds::Action::TakeOff, {design::LineOf{key("sleeve"), first}})),
             state.made);
    const auto said = told(open, inspect::Kind::JointOpen);
    ASSERT_EQ(said.size(), 1u);
    EXPECT_EQ(said[0].substr(0, 33), "Folded, lap of sleeve is open by ");
}

TEST(AFoldedWork, IsFoldedAgainOnlyWhenSomethingOfItChanged) {
    const auto open = [](const State& state, inspect::Memory& memory) {
        const auto all = must(inspect::inspect(state, shippedCatalogue().formats, memory));
        return std::any_of(all.begin(), all.end(),
                           [](const inspect::Finding& one) { return one.kind == inspect::Kind::JointOpen; });
    };
    inspect::Memory memory;
    const State state = constructed("sleeve");
    const auto body = laid(state, "sleeve").piece.body;
    EXPECT_FALSE(open(state, memory));
    const auto kept = memory.folded.find(body);
    ASSERT_TRUE(kept);
    EXPECT_FALSE(open(state, memory));
    EXPECT_EQ(memory.folded.find(body), kept) << "taken over";
    const State off =
        made(withStep(state, folds::makeStep(folds::Action::TakeOff,
                                             {design::LineOf{key("sleeve"), body->lines.front().id}})),
             state.made);
    EXPECT_TRUE(open(off, memory));
    // Other card under the same body: what was known is not believed.
    design::Stock sea = *design::findStock(state.job.stocks, "sea");
    sea.thicknessMm = 0.9;
    open(made(withStock(state.job, sea), state.made), memory);
    EXPECT_NE(memory.folded.find(body), kept);
}

TEST(AnyPieceWithFolds, CanBeFoldedUp) {
    State state = support::rectangleJob(60, 40);
    const PieceId plate = state.made.work()->pieces[0].id();
    EXPECT_FALSE(foldedOf(state, plate, {}));
    EXPECT_EQ(foldable(state), PieceId{});
    const geometry::Box box = geometry::bounds(state.made.work()->pieces[0].shape());
    const geometry::Line way{{box.least.x + 20, box.least.y},
                             {geometry::Segment::line({box.least.x + 20, box.most.y})}};
    state = made(withStep(state, folds::lineStep(state.made.work()->pieces[0].piece, way)), state.made);
    const auto model = foldedOf(state, plate, {});
    ASSERT_TRUE(model) << model.error().message;
    EXPECT_EQ(model->sheets[0].leaves.size(), 2u);
    EXPECT_EQ(foldable(state), plate);
}

// Four walls of 50 and a flap of 15 that goes behind the first: it closes when every fold turns by a right angle.
TEST(AnyPieceWithFolds, ClosesWhereItsGluedFlapLiesBehindItsEdge) {
    for (const double last : {90.0, 60.0}) {
        State state = support::rectangleJob(215, 80);
        const auto plate = [&]() -> const design::Piece& { return state.made.work()->pieces[0].piece; };
        const geometry::Point corner = geometry::bounds(plate().shape()).least;
        for (const double x : {50.0, 100.0, 150.0, 200.0}) {
            const geometry::Line way{corner + geometry::Point{x, 0}, {geometry::Segment::line(corner + geometry::Point{x, 80})}};
            state = made(withStep(state, folds::lineStep(plate(), way, {design::Fold{design::Side::Front, false, x == 150 ? last : 90}})),
                         state.made);
        }
        EXPECT_TRUE(must(foldedOf(state, plate().id, {})).joints.empty()) << "nobody glues it yet";
        state = made(withStep(state, folds::glueStep(plate(), corner + geometry::Point{207, 40})), state.made);
        const auto model = must(foldedOf(state, plate().id, {}));
        EXPECT_FALSE(model.joints.empty());
        const auto closings = folding::closingsOf(model, folding::posed(model, 1));
        ASSERT_EQ(closings.size(), 1u);
        EXPECT_EQ(closings[0].name, "panel 5 on panel 1");
        if (last == 90)
            EXPECT_LT(closings[0].gapMm, 0.01);
        else
            EXPECT_GT(closings[0].gapMm, 20);
        EXPECT_EQ(told(state, inspect::Kind::JointOpen).empty(), last == 90);
        EXPECT_TRUE(told(state, inspect::Kind::FlapUnsaid).empty());
    }
}

// A strip of two squares with a flap: three edges of the far square are as long.
TEST(AnyPieceWithFolds, AsksBehindWhichEdgeAFlapGoes) {
    State state = support::rectangleJob(112, 50);
    const auto plate = [&]() -> const design::Piece& { return state.made.work()->pieces[0].piece; };
    const geometry::Point corner = geometry::bounds(plate().shape()).least;
    for (const double x : {50.0, 100.0}) {
        const geometry::Line way{corner + geometry::Point{x, 0}, {geometry::Segment::line(corner + geometry::Point{x, 50})}};
        state = made(withStep(state, folds::lineStep(plate(), way)), state.made);
    }
    state = made(withStep(state, folds::glueStep(plate(), corner + geometry::Point{106, 25})), state.made);
    EXPECT_EQ(told(state, inspect::Kind::FlapUnsaid).size(), 1u);
    EXPECT_TRUE(told(state, inspect::Kind::JointOpen).empty()) << "what nobody said is not held against her";
    state = made(withStep(state, folds::glueStep(plate(), corner + geometry::Point{106, 25}, corner + geometry::Point{0, 25})),
                 state.made);
    EXPECT_TRUE(told(state, inspect::Kind::FlapUnsaid).empty());
    EXPECT_EQ(told(state, inspect::Kind::JointOpen).size(), 1u) << "two right angles close no ring of two";
}

TEST(ABadMeasure, IsRefusedByName) {
    EXPECT_EQ(readGiven("castle", {}).error().message.substr(0, 40),
              "There is no construction 'castle'; there");
    EXPECT_EQ(
        readGiven("sleeve", {"wings=3"}).error().message,
        "'wings=3' is no measure of sleeve; it takes width=..., depth=..., length=..., slides=..., lap=....");
    EXPECT_FALSE(readGiven("sleeve", {"width=much"}));
    EXPECT_EQ(must(readGiven("flags", {"word=SEA", "width=2 in"})).word, "SEA");
    EXPECT_NEAR(must(readGiven("flags", {"word=SEA", "width=2 in"})).values[1], 50.8, 1e-9);
}

// ---- words from a list

TEST(AList, IsOneNameALineOrTheFirstColumnOfATable) {
    EXPECT_EQ(must(namesOf("\xEF\xBB\xBF"
                           "PIER\r\n\n  QUAY WEST \n\"SALT, COARSE\",12\nMOLE;7\n\"A \"\"B\"\"\"\n")).all,
              (std::vector<std::string>{"PIER", "QUAY WEST", "SALT, COARSE", "MOLE", "A \"B\""}));
    const Names table = must(namesOf("Name;Table\nAda;3\nName;4\n"));
    EXPECT_EQ(table.heading, "Name");
    EXPECT_EQ(table.all, (std::vector<std::string>{"Ada", "Name"}));
    EXPECT_FALSE(namesOf(" \n\n"));
    EXPECT_FALSE(namesOf("Names\n"));
    EXPECT_EQ(namesOf("PIER\n" + std::string(500, 'x')).error().message,
              "Line 2 of the list is too long for a word; up to 400 letters can be set.");
}

TEST(ASlot, KeepsItsHeightOrItsRoom) {
    const State state = support::withWord(emptyState(), support::word("HARBOUR", 30));
    const double room = state.job.sources[0]->box().width();
    const auto fonts = support::shippedFonts();
    const State shorter = made(withSlotFilled(state.job, {SourceId{1}, {}}, "PIER", fonts), state.made);
    EXPECT_NEAR(shorter.job.sources[0]->box().height(), state.job.sources[0]->box().height(), 1.5);
    EXPECT_LT(shorter.job.sources[0]->box().width(), room);
    const State longer =
        made(withSlotFilled(state.job, {SourceId{1}, {}}, "HARBOURMASTER", fonts), state.made);
    EXPECT_NEAR(longer.job.sources[0]->box().width(), room, 0.02);
    EXPECT_EQ(must(slotOf(state.job, {})).slot.source, SourceId{1});
    EXPECT_FALSE(slotOf(emptyState().job, {}));
}

TEST(ASlot, OfAPrintedTextKeepsItsLineItsHeightAndItsMiddle) {
    const auto fonts = support::shippedFonts();
    State state = made(support::openedDrawing(
        "<svg xmlns='http://www.w3.org/2000/svg' width='90mm' height='60mm' viewBox='0 0 90 60'>"
        "<path d='M0 0H90V60H0Z'/></svg>"));
    const PieceId card = state.made.work()->pieces.front().id();
    state = made(must(withTextPrinted(state, {{card}}, "Eva", support::kBold, {}, fonts)).job, state.made);
    state =
        made(must(withCodePrinted(state, {{card}}, design::Face::Kind::SquareCode, "quay 1")), state.made);
    const auto slots = slotsOf(state.job);
    ASSERT_EQ(slots.size(), 2u);
    EXPECT_EQ(slots[0].called, "the printed text Eva");
    EXPECT_EQ(slots[1].called, "the printed square code quay 1");
    EXPECT_FALSE(slotOf(state.job, {}));
    EXPECT_EQ(must(slotOf(state.job, slots[1].number)).slot, slots[1].slot);
    const auto placeIn = [&](const State& now) {
        return printsOn(now, card, design::Side::Front).front().face.place;
    };
    // E stands on the line from its cap height down; g hangs below it. All by the boxes of ink.
    const geometry::Transform before = placeIn(state);
    const State other = made(must(withSlotFilled(state.job, slots[0].slot, "Eg", fonts)), state.made);
    const geometry::Transform now = placeIn(other);
    EXPECT_NEAR(now({0.5, 0}).x, before({0.5, 0}).x, 1e-6);
    EXPECT_NEAR(now({0, 0}).y, before({0, 0}).y, 0.01) << "capitals begin as high up";
    EXPECT_GT(now({0, 1}).y, before({0, 1}).y + 1) << "and g hangs lower";
    EXPECT_EQ(other.job.art.size(), 1u) << "what is not shown any more is not kept";
    // A longer one is as wide as the old one was, and stands on the same line.
    const State longer =
        made(must(withSlotFilled(state.job, slots[0].slot, "Evelina Evalina", fonts)), state.made);
    EXPECT_NEAR(slotWidthMm(longer.job, slots[0].slot), slotWidthMm(state.job, slots[0].slot), 1e-6);
    EXPECT_NEAR(placeIn(longer)({0.5, 1}).y, before({0.5, 1}).y, 0.6); // round letters hang over the line
    EXPECT_NEAR(placeIn(longer)({0.5, 1}).x, before({0.5, 1}).x, 1e-6);
    const State coded = made(must(withSlotFilled(state.job, slots[1].slot, "quay 2", fonts)), state.made);
    EXPECT_EQ(printsOn(coded, card, design::Side::Front).back().face.shows, "quay 2");
    EXPECT_FALSE(withSlotFilled(state.job, slots[1].slot, std::string(5000, 'x'), fonts));
}

TEST(ASlot, OfAWorkFromMeasuresIsMadeAnewWithItsWord) {
    const State state = constructed("flags", {"word=SEA"});
    const NamedSlot slot = must(slotOf(state.job, {}));
    const State other =
        made(must(withSlotFilled(state.job, slot.slot, "PIER", support::shippedFonts())), state.made);
    EXPECT_NO_THROW(laid(other, "letter-4"));
    EXPECT_THROW(laid(state, "letter-4"), std::runtime_error);
}

TEST(ConstructionsInAJob, KeepTheirLettersSoThatSizingNeedsNoTypeface) {
    const State state = constructed("flags", {"word=SEA", "letter=18"});
    const geometry::Box flag = geometry::bounds(laid(state, "flag-1").shape()),
                        letter = geometry::bounds(laid(state, "letter-1").shape());
    EXPECT_TRUE(flag.contains(letter.least) && flag.contains(letter.most));
    EXPECT_NE(stockOf(state, "letter-1"), stockOf(state, "flag-1"));
    // Letters lie above their flags.
    const auto& pieces = state.made.work()->pieces;
    EXPECT_GT(&laid(state, "letter-1") - pieces.data(), &laid(state, "flag-1") - pieces.data());
    // Another measure, and no typeface on the machine.
    const support::MemoryFontStore none;
    construct::Given wider = std::get<Construction>(state.job.sources[0]->what).given;
    wider.values[1] = 90; // the flags' width
    const State changed = made(withConstructionChanged(state.job, SourceId{1}, wider, none), state.made);
    EXPECT_NEAR(geometry::bounds(laid(changed, "flag-1").shape()).width(), 90, 1e-6);
    EXPECT_NEAR(geometry::bounds(laid(changed, "letter-2").shape()).height(), 18, 0.3);
    // Another word needs one.
    wider.word = "ROPE";
    const auto failed = withConstructionChanged(state.job, SourceId{1}, wider, none);
    ASSERT_FALSE(failed);
    EXPECT_EQ(failed.error().message, "There is no typeface at all; install one.");
}

TEST(ConstructionsInAJob, SayWhichTypefaceStandsInForAMissingOne) {
    const auto noted =
        withConstruction(emptyState(), must(readGiven("word-strip", {"word=PIER", "font=Lost Letters"})),
                         "sea", support::shippedFonts());
    ASSERT_TRUE(noted) << noted.error().message;
    EXPECT_NE(noted->note.find(
                  "The typeface Lost Letters is not installed; League Spartan ExtraBold was taken instead."),
              std::string::npos)
        << noted->note;
}

// A strip with folds, larger than the mat: its parts are glued on one another, and folded as the whole would be.
TEST(AFoldedPiece, IsPutTogetherFromTheLapsOfItsParts) {
    const State whole = constructed("sleeve", {"width=140", "depth=60", "length=50"});
    SheetPlan plan = whole.job.plan;
    plan.matId = plan.sheetId = "square12";
    const State small = make(withPlan(whole.job, plan), Stage::Finish, whole.made).take();
    const auto large = oversize(small, shippedCatalogue().formats);
    ASSERT_TRUE(large);
    ASSERT_EQ(large->size(), 1u);
    std::vector<Taken> taken;
    const std::vector<Proposed> all = proposals(small, *large, {}).take();
    for (const Proposed& one : all)
        taken.push_back({one.of, wishesOf(one.ways.front(), split::Joint::Overlap)});
    const State parts = dividedAlong(small, taken, SplitOptions{}.overlapMm).take();
    ASSERT_GE(parts.made.work()->pieces.size(), 2u);
    for (const design::Laid& laid : parts.made.work()->pieces) {
        auto model = foldedOf(parts, laid.id(), {});
        ASSERT_TRUE(model) << model.error().message;
        EXPECT_EQ(model->sheets.size(), parts.made.work()->pieces.size());
        const auto closings = folding::closingsOf(*model, folding::posed(*model, 1));
        ASSERT_FALSE(closings.empty());
        for (const folding::Closing& one : closings)
            EXPECT_LE(one.gapMm, 0.05) << one.name;
    }
}

} // namespace
} // namespace thinline::job
