// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "inspect/Inspect.h"

#include "sheets/Arrange.h"
#include "support/Drawings.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

namespace thinline::inspect {
namespace {

const design::Formats kFormats{
    {{"square12", "12 × 12 in", 304.8, 304.8, 6.35}, {"long24", "12 × 24 in", 304.8, 609.6, 6.35}}, {}};

design::Stack stackOf(std::vector<geometry::Shape> shapes) {
    design::Stack stack{{{"sea", "sea", {}}}, {{design::LayerRole::Areas, "sea", 0, false, {}}}};
    for (geometry::Shape& shape : shapes)
        stack.layers[0].pieces.push_back({static_cast<int>(stack.layers[0].pieces.size()) + 1,
                                          std::make_shared<const geometry::Shape>(std::move(shape)), 1});
    return stack;
}

std::vector<Finding> findingsOf(const design::Stack& stack) {
    return *inspect({.stack = &stack, .formats = &kFormats});
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
    EXPECT_EQ(large[0].remedy, "The largest takes 292.1 × 596.9 mm. Make the design smaller at Size.");
    EXPECT_EQ(large[0].severity, Severity::SpoilsCard);
    ASSERT_EQ(large[0].places.size(), 1u);
    EXPECT_DOUBLE_EQ(large[0].places[0].width(), 700);
}

TEST(Inspect, SmallPiecesShareOneFindingSmallestFirst) {
    const auto found = findingsOf(stackOf(
        {support::disc({0, 0}, 1.2), support::rectangle(20, 20, 30, 30), support::disc({50, 0}, 0.8)}));
    ASSERT_EQ(found.size(), 1u);
    EXPECT_EQ(found[0].message, "2 pieces are under 3.0 mm across, the smallest 1.6 mm");
    ASSERT_EQ(found[0].places.size(), 2u);
    EXPECT_NEAR(found[0].places[0].centre().x, 50, 1e-6);
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
    trace::Tracing tracing;
    tracing.backing.push_back(support::rectangle(100, 50, 400, 300)); // px; its corner becomes the design's
    tracing.leaks.push_back({{300, 150}, 12, true, {250, 150}});
    const auto found = *inspect({.tracing = &tracing, .sizing = {.mmPerPx = 0.1, .scaleX = 2, .scaleY = 2}});
    ASSERT_EQ(found.size(), 1u);
    EXPECT_EQ(found[0].message, "An area leaks to the outside through a gap of 2.4 mm");
    EXPECT_NEAR(found[0].places[0].centre().x, 40, 1e-9);
    EXPECT_NEAR(found[0].places[0].centre().y, 20, 1e-9);
}

TEST(Inspect, PinsThatOverlapOrRunOverTheEdgeAreTold) {
    const design::Stack stack = stackOf({support::rectangle(0, 0, 50, 50), support::rectangle(0, 0, 50, 50)});
    const design::SheetFormat a4{"a4", "A4", 210, 297, 6.35};
    sheets::ArrangeOptions options{.mat = kFormats.mats[0], .sheet = a4};
    const auto told = [&](std::vector<sheets::Pin> pins) {
        options.pins = std::move(pins);
        const auto arrangement = sheets::arrange(stack, options);
        std::vector<std::string> out;
        const auto found =
            inspect({.stack = &stack, .formats = &kFormats, .arrangement = &*arrangement, .sheetName = "A4"});
        for (const Finding& f : *found)
            out.push_back(f.message);
        return out;
    };
    EXPECT_TRUE(told({{{1, 0}, 0, 20, 20, 0}, {{2, 0}, 0, 90, 20, 0}}).empty());
    EXPECT_EQ(told({{{1, 0}, 0, 20, 20, 0}, {{2, 0}, 0, 60, 20, 0}}),
              std::vector<std::string>{"Area 1 (sea) may overlap area 2 (sea) on load 1"});
    EXPECT_EQ(told({{{1, 0}, 0, 2, 20, 0}}),
              std::vector<std::string>{"Area 1 (sea) runs over the edge of its sheet on load 1"});
}

TEST(Inspect, APieceThatFitsAMatButNotTheChosenSheetIsTold) {
    const design::Stack stack = stackOf({support::rectangle(0, 0, 250, 250)});
    const auto arrangement =
        sheets::arrange(stack, {.mat = kFormats.mats[0], .sheet = {"a4", "A4", 210, 297, 6.35}});
    const auto found =
        *inspect({.stack = &stack, .formats = &kFormats, .arrangement = &*arrangement, .sheetName = "A4"});
    ASSERT_EQ(found.size(), 1u);
    EXPECT_EQ(found[0].message, "Area 1 (sea) is 250.0 × 250.0 mm and fits no A4 sheet");
}

TEST(Inspect, CanBeStopped) {
    const std::atomic<bool> stop = true;
    const design::Stack stack = stackOf({support::dumbbell(20, 0.7, 5)});
    EXPECT_FALSE(inspect({.stack = &stack, .formats = &kFormats}, {}, base::Progress(&stop, nullptr)));
}

TEST(Inspect, AStepThatWasPassedOverIsToldFirst) {
    Subject subject;
    subject.passedOver = {"Step 2 (Join into one) was passed over: its pieces are not there any more."};
    const auto findings = inspect(subject);
    ASSERT_TRUE(findings);
    ASSERT_EQ(findings->size(), 1u);
    EXPECT_EQ(findings->front().kind, Kind::StepPassedOver);
    EXPECT_EQ(findings->front().severity, Severity::SpoilsCard);
    EXPECT_NE(findings->front().remedy.find("at Shape"), std::string::npos);
}

} // namespace
} // namespace thinline::inspect
