// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "assembly/Instructions.h"

#include "assembly/Tree.h"
#include "geometry/Measures.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>
#include <random>

namespace thinline::assembly {
namespace {

using design::Layer;
using design::PieceId;
using design::Side;
using design::Zone;
using support::disc;
using support::id;
using support::laid;
using support::rectangle;

/// A stack of cards half a millimetre thick, in layers 1, 2, 3 ... of the same card.
struct Built {
    explicit Built(std::vector<design::Laid> pieces, int layers = 6) {
        stack.stocks = {{.id = "card", .name = "card", .thicknessMm = 0.5}};
        for (int i = 1; i <= layers; ++i)
            stack.layers.push_back(support::layer(i, "card", "layer " + std::to_string(i)));
        stack.pieces = std::move(pieces);
        measure();
    }
    void measure() { heights = design::heightsOf(stack, rows).take(); }
    Work work() { return {stack, heights, rows}; }
    Instructions told(const Wishes& wishes = {}) {
        auto out = instructionsOf(work(), wishes, base::LengthUnit::Millimetre);
        EXPECT_TRUE(out) << (out ? "" : out.error().message);
        return out ? out.take() : Instructions{};
    }

    design::Stack stack;
    design::RowMemory rows;
    design::Heights heights;
};

/// Whether following the steps ends in the stack: every piece where it lies and as high, from the first one.
void expectReplayed(Built& built, const Instructions& told) {
    const auto out = replay(told, built.work());
    ASSERT_TRUE(out) << out.error().message;
    ASSERT_EQ(out->size(), built.stack.pieces.size());
    const auto middle = [&](PieceId piece) {
        return geometry::enclosingCircle({built.stack.find(piece)->shape()}).centre;
    };
    const auto bottom = [&](PieceId piece) {
        return built.heights.of[static_cast<size_t>(built.stack.find(piece) - built.stack.pieces.data())]
            .bottomMm;
    };
    const Replayed first = out->front();
    for (const Replayed& one : *out) {
        const geometry::Point from = one.at - first.at, wanted = middle(one.piece) - middle(first.piece);
        EXPECT_NEAR(from.x, wanted.x, 0.01) << one.piece.text();
        EXPECT_NEAR(from.y, wanted.y, 0.01) << one.piece.text();
        EXPECT_NEAR(one.bottomMm - first.bottomMm, bottom(one.piece) - bottom(first.piece), 0.01)
            << one.piece.text();
    }
}

std::vector<Act> actsOf(const Assembly& one) {
    std::vector<Act> out;
    for (const Step& step : one.steps)
        out.push_back(step.act);
    return out;
}

design::Laid with(design::Laid laid, std::vector<Zone> zones, std::vector<design::PieceLine> lines = {}) {
    design::Body body = *laid.piece.body;
    body.zones = std::move(zones);
    body.lines = std::move(lines);
    laid.piece.body = std::make_shared<const design::Body>(std::move(body));
    return laid;
}

// An eye (white, iris, light) on a head: the eye is made by itself, the head is not.
TEST(Tree, WhatRestsOnOnePieceAloneIsMadeByItself) {
    Built built({laid(1, rectangle(0, 0, 100, 100), 1), laid(2, disc({30, 30}, 12), 2),
                 laid(3, disc({30, 30}, 7), 3), laid(4, disc({32, 28}, 2), 4),
                 laid(5, disc({75, 75}, 20), 2)});
    const Instructions told = built.told();
    ASSERT_EQ(told.assemblies.size(), 3u);
    EXPECT_EQ(told.assemblies[0].base, std::vector<PieceId>{id(3)}); // the iris with its light
    EXPECT_EQ(told.assemblies[1].base, std::vector<PieceId>{id(2)});
    EXPECT_EQ(told.assemblies[2].base, std::vector<PieceId>{id(1)});
    ASSERT_EQ(told.assemblies[2].steps.size(), 2u); // larger before smaller
    EXPECT_EQ(told.assemblies[2].steps[0].pieces[0].piece, id(5));
    EXPECT_EQ(told.assemblies[2].steps[1].pieces[0].made, 1u);
    EXPECT_EQ(told.assemblies[0].steps[0].act, Act::LayOut); // before everything
    EXPECT_EQ(told.numbered.size(), 5u);
    expectReplayed(built, told);
}

// A bridge from one tower to the other rests on both: it belongs to neither.
TEST(Tree, WhatRestsOnTwoComesAfterBoth) {
    Built built({laid(1, rectangle(0, 0, 100, 60), 1), laid(2, rectangle(10, 10, 20, 40), 2),
                 laid(3, rectangle(70, 10, 20, 40), 2), laid(4, rectangle(15, 20, 70, 10), 3)});
    const Instructions told = built.told();
    ASSERT_EQ(told.assemblies.size(), 1u);
    const auto& steps = told.assemblies[0].steps;
    ASSERT_EQ(steps.size(), 3u);
    EXPECT_EQ(steps[1].pieces.size(), 2u); // both towers, of one layer, in one step
    EXPECT_EQ(steps[2].pieces[0].piece, id(4));
    EXPECT_NEAR(steps[2].pieces[0].aboveMm, 1.0, 1e-9);
    expectReplayed(built, told);
}

// Two arms that weave: the left one passes below the right one at one place and above it at another. Neither can be made first.
TEST(Tree, WhatWeavesIsTakenApart) {
    Built built({laid(1, rectangle(0, 0, 200, 100), 1), laid(2, rectangle(10, 10, 180, 20), 2), // left arm
                 laid(3, rectangle(10, 40, 180, 20), 2),                                        // right arm
                 laid(4, rectangle(20, 15, 10, 14), 3),  // on the left one
                 laid(5, rectangle(60, 45, 10, 14), 3),  // on the right one
                 laid(6, rectangle(22, 18, 6, 30), 4),   // on 4, over the right arm
                 laid(7, rectangle(62, 22, 6, 30), 4)}); // on 5, over the left arm
    const Instructions told = built.told();
    const auto isMadeFirst = [&](int number) {
        return std::any_of(told.assemblies.begin(), told.assemblies.end(),
                           [&](const Assembly& one) { return one.base == std::vector<PieceId>{id(number)}; });
    };
    EXPECT_NE(isMadeFirst(2), isMadeFirst(3));
    expectReplayed(built, told);
}

TEST(Instructions, PanesComeFromBehindAfterTheFolds) {
    auto front = support::withOpening(rectangle(0, 0, 100, 60), rectangle(40, 20, 20, 20));
    design::PieceLine fold{design::LineId{1}, {{10, 0}, {geometry::Segment::line({10, 60})}}, design::Fold{}};
    Built built({laid(1, rectangle(37, 17, 26, 26), 1),
                 with(laid(2, front, 2), {{Zone::Kind::Glue, rectangle(0, 0, 10, 60), 0, id(2)}}, {fold}),
                 laid(3, rectangle(70, 10, 20, 20), 3)});
    built.stack.layers[0].at = Layer::At::Behind;
    built.measure();
    const Instructions told = built.told();
    ASSERT_EQ(told.assemblies.size(), 1u);
    EXPECT_EQ(actsOf(told.assemblies[0]),
              (std::vector<Act>{Act::LayOut, Act::Fold, Act::TurnOver, Act::Glue, Act::Wait, Act::TurnOver,
                                Act::Glue, Act::TryDry, Act::GlueFlaps, Act::Wait}));
    const Step& pane = told.assemblies[0].steps[3];
    EXPECT_EQ(pane.up, Side::Back);
    // The ring that pane and card share, 26 x 26 less 20 x 20, glued 0.5 mm off both its edges: 25^2 - 21^2.
    ASSERT_EQ(pane.glue.size(), 1u);
    EXPECT_NEAR(geometry::area(pane.glue[0]), 25 * 25 - 21 * 21, 0.5);
    EXPECT_EQ(told.assemblies[0].steps[1].away, 1);
    expectReplayed(built, told);
}

TEST(Instructions, AWayIsUsedBeforeItIsClosed) {
    Zone way{Zone::Kind::Way, rectangle(10, 25, 80, 10), 0, {}, {}, Side::Front, 10, "ribbon"};
    Built built({with(laid(1, rectangle(0, 0, 100, 60), 1), {way}), laid(2, rectangle(60, 38, 30, 18), 2),
                 laid(3, rectangle(20, 20, 20, 20), 3)});
    const Instructions told = built.told();
    ASSERT_EQ(told.assemblies.size(), 1u);
    EXPECT_EQ(actsOf(told.assemblies[0]), (std::vector<Act>{Act::LayOut, Act::Glue, Act::PutIn, Act::Glue}));
    EXPECT_NEAR(told.lengthMm.at("ribbon"), 80 + 2 * kRibbonEndMm, 0.01);
    for (const geometry::Shape& glue : told.assemblies[0].steps[3].glue)
        for (const geometry::Polygon& ring : geometry::flatten(glue, 0.01))
            for (const geometry::Point p : ring)
                EXPECT_TRUE(p.y <= 25.01 || p.y >= 34.99) << p.y; // none on the ribbon
}

// What is kept free on the back of the base is no matter to what is glued onto its front: 20 x 20 less 2 mm all round.
TEST(Instructions, OnlyTheFacesThatMeetAreKeptFree) {
    for (const Side side : {Side::Front, Side::Back}) {
        Zone free{Zone::Kind::KeepFree, rectangle(0, 25, 100, 10), 0, {}, {}, side};
        Built built(
            {with(laid(1, rectangle(0, 0, 100, 60), 1), {free}), laid(2, rectangle(20, 20, 20, 20), 2)});
        const Instructions told = built.told();
        double area = 0;
        for (const geometry::Shape& glue : told.assemblies[0].steps[1].glue)
            area += geometry::area(glue);
        if (side == Side::Back) {
            EXPECT_NEAR(area, 16 * 16, 0.5);
        } else {
            EXPECT_LT(area, 16 * 10);
        }
    }
}

TEST(Instructions, FlagsAreThreadedFromTheLeft) {
    const auto flag = [](int number, double x, int copies) {
        Zone way{Zone::Kind::Way, rectangle(x + 5, 5, 30, 10), 0, {}, {}, Side::Front, 10, "ribbon"};
        return with(laid(number, rectangle(x, 0, 40, 50), 1, copies), {way});
    };
    Built built({flag(1, 100, 1), flag(2, 0, 3)});
    const Instructions told = built.told();
    ASSERT_EQ(told.assemblies.size(), 1u);
    EXPECT_EQ(actsOf(told.assemblies[0]), (std::vector<Act>{Act::LayOut, Act::Place, Act::String}));
    const Step& strung = told.assemblies[0].steps[2];
    EXPECT_EQ(strung.pieces[0].piece, id(2));
    EXPECT_NE(strung.text.find("down through the left slit, up through the right one"), std::string::npos);
    EXPECT_NEAR(strung.lengthMm, 4 * 40 + 2 * kRibbonEndMm, 1e-9);
    expectReplayed(built, told);
}

TEST(Instructions, FoamIsCountedByHeightAndCopies) {
    auto lifted = with(laid(2, rectangle(10, 10, 40, 40), 2, 2),
                       {{Zone::Kind::Foam, disc({20, 20}, 4), 2}, {Zone::Kind::Foam, disc({40, 40}, 4), 2}});
    lifted.liftMm = 2;
    Built built({laid(1, rectangle(0, 0, 60, 60), 1, 2), lifted});
    const Instructions told = built.told();
    EXPECT_EQ(told.foamSpots, (std::map<double, int>{{2.0, 4}}));
    const Step& step = told.assemblies[0].steps[1];
    EXPECT_EQ(step.act, Act::Foam);
    EXPECT_TRUE(step.glue.empty());
    ASSERT_EQ(step.foam.size(), 2u);
    EXPECT_NEAR(step.foam[0].acrossMm, 8, 0.01);
    EXPECT_NEAR(step.pieces[0].aboveMm, 2.5, 1e-9);
    EXPECT_EQ(told.assemblies[0].copies, 2);
    expectReplayed(built, told);
}

TEST(Instructions, PartsAreJoinedFromBehindBeforeAnythingLiesOnTheirSeams) {
    const design::StepId step{7};
    const PieceId left = id(1).parted(step, "1"), middle = id(1).parted(step, "2"),
                  right = id(1).parted(step, "3");
    Built built({laid(left, rectangle(0, 0, 100, 80), 1),
                 laid(middle, rectangle(100, 0, 108, 80), 1), // its strip of 8 mm lies below the right one
                 laid(right, rectangle(200, 0, 100, 80), 1), laid(2, rectangle(150, 20, 100, 40), 2)});
    built.stack.pieces[1] =
        with(built.stack.pieces[1], {{Zone::Kind::Glue, rectangle(200, 0, 8, 80), 0, right}});
    built.measure();
    Work work = built.work();
    work.divisions = {step};
    const auto told = instructionsOf(work, {}, base::LengthUnit::Millimetre);
    ASSERT_TRUE(told);
    ASSERT_EQ(told->assemblies.size(), 1u);
    EXPECT_EQ(told->assemblies[0].base, (std::vector<PieceId>{left, middle, right}));
    EXPECT_EQ(actsOf(told->assemblies[0]),
              (std::vector<Act>{Act::LayOut, Act::Join, Act::Wait, Act::TurnOver, Act::Glue}));
    const Step& join = told->assemblies[0].steps[1];
    EXPECT_EQ(join.up, Side::Back);
    ASSERT_EQ(join.seams.size(), 2u);
    EXPECT_FALSE(join.seams[0].isGlued);
    EXPECT_EQ(join.seams[0].upper, left);
    EXPECT_TRUE(join.seams[1].isGlued);
    EXPECT_EQ(join.seams[1].upper, right);
    EXPECT_EQ(join.seams[1].lower, middle);
    expectReplayed(built, *told);
}

TEST(Instructions, OwnWordsStayWithTheirStepOrAreToldToBeStray) {
    Built built({laid(1, rectangle(0, 0, 60, 60), 1), laid(2, disc({30, 30}, 10), 2)});
    Wishes wishes;
    wishes.items = {{"a stick, 40 cm", id(1)}, {"a frame", {}}};
    const Instructions plain = built.told(wishes);
    ASSERT_EQ(actsOf(plain.assemblies[0]), (std::vector<Act>{Act::LayOut, Act::Glue, Act::PutIn}));
    wishes.texts[plain.assemblies[0].steps[1].key] = "Stick the moon on.";
    EXPECT_EQ(built.told(wishes).assemblies[0].steps[1].text, "Stick the moon on.");
    EXPECT_EQ(built.told(wishes).strayTexts, 0);
    built.stack.pieces[1] = laid(3, disc({30, 30}, 10), 2);
    built.measure();
    const Instructions other = built.told(wishes);
    EXPECT_EQ(other.strayTexts, 1);
    EXPECT_NE(other.assemblies[0].steps[1].text, "Stick the moon on.");
}

TEST(Instructions, StepsOfRandomWorksLeadToTheirStacks) {
    for (unsigned seed = 1; seed <= 60; ++seed) {
        std::mt19937 random(seed);
        const auto within = [&](double from, double to) {
            return from + (to - from) * static_cast<double>(random() % 1000) / 1000;
        };
        std::vector<design::Laid> pieces;
        for (int layer = 1; layer <= 6; ++layer)
            for (int k = 0; k < 5; ++k) {
                auto one = laid(layer * 10 + k,
                                rectangle(within(0, 80), within(0, 80), within(5, 50), within(5, 50)), layer);
                one.liftMm = random() % 4 == 0 ? 2 : 0;
                pieces.push_back(one);
            }
        Built built(std::move(pieces));
        built.stack.layers[0].at = Layer::At::Behind;
        built.stack.layers[1].at = seed % 2 == 0 ? Layer::At::Back : Layer::At::Front;
        built.measure();
        const Instructions told = built.told();
        expectReplayed(built, told);
        if (testing::Test::HasFailure())
            FAIL() << "seed " << seed;
    }
}

TEST(Replay, TellsWhatCannotBeDone) {
    Built built({laid(1, rectangle(0, 0, 100, 60), 1), laid(2, rectangle(10, 10, 20, 40), 2),
                 laid(3, rectangle(70, 10, 20, 40), 2), laid(4, rectangle(15, 20, 70, 10), 3)});
    const Instructions good = built.told();
    ASSERT_EQ(good.assemblies.size(), 1u);
    ASSERT_EQ(good.assemblies[0].steps.size(), 3u);
    ASSERT_TRUE(replay(good, built.work()));
    Instructions closed = good; // the bridge before its towers
    std::swap(closed.assemblies[0].steps[1], closed.assemblies[0].steps[2]);
    const auto wrong = replay(closed, built.work());
    ASSERT_FALSE(wrong);
    EXPECT_NE(wrong.error().message.find("closes it off"), std::string::npos) << wrong.error().message;
    Instructions twice = good;
    twice.assemblies[0].steps.push_back(good.assemblies[0].steps[2]);
    EXPECT_FALSE(replay(twice, built.work()));
    Instructions less = good;
    less.assemblies[0].steps.pop_back();
    EXPECT_FALSE(replay(less, built.work()));
    Instructions fromBehind = good;
    fromBehind.assemblies[0].steps[2].pieces[0].isBehind = true;
    EXPECT_FALSE(replay(fromBehind, built.work()));
}

} // namespace
} // namespace thinline::assembly
