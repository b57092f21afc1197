// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "split/Split.h"

#include "geometry/Measures.h"
#include "split/Pose.h"
#include "support/Shapes.h"
#include "support/SplitShapes.h"

#include <gtest/gtest.h>

#include <atomic>
#include <numeric>

namespace thinline::split {
namespace {

using geometry::Shape;

double areaOf(const std::vector<Shape>& shapes) {
    return std::accumulate(shapes.begin(), shapes.end(), 0.0,
                           [](double sum, const Shape& s) { return sum + geometry::area(s); });
}

/// What a disc of this width cannot reach, by exact offsets.
std::vector<Shape> unreached(const Shape& shape, double widthMm) {
    const auto core = geometry::offset({shape}, -widthMm / 2).take().shapes;
    const auto reached =
        core.empty() ? std::vector<Shape>{} : geometry::offset(core, widthMm / 2).take().shapes;
    return reached.empty() ? std::vector<Shape>{shape} : geometry::subtract({shape}, reached).take();
}

/// The naive referee of a division: by set operations and offsets, none of which the search uses.
void expectSound(const Division& division, const Ground& ground, const Room& room, const Options& options,
                 const std::string& name) {
    SCOPED_TRACE(name);
    ASSERT_FALSE(division.parts.empty());
    EXPECT_NEAR(areaOf(division.parts), geometry::area(ground.shape),
                1e-6 * geometry::area(ground.shape) + 1e-3);
    EXPECT_NEAR(areaOf(geometry::exclude(division.parts, {ground.shape}).take()), 0, 0.01);
    const auto thinBefore = unreached(ground.shape, options.thinMm);
    for (const Shape& part : division.parts) {
        EXPECT_TRUE(fitOf(part, room, 0).isFitting) << fitOf(part, room, 0).tooLongMm;
        // Strips thinner than the limit that were not there before. Where a thin place is cut, it is told instead.
        if (division.thinCuts > 0)
            continue;
        auto thin = unreached(part, 0.9 * options.thinMm);
        if (!thinBefore.empty() && !thin.empty())
            thin = geometry::subtract(thin, geometry::offset(thinBefore, 0.5).take().shapes).take();
        for (const Shape& one : thin)
            EXPECT_LT(geometry::area(one), 0.6 * options.thinMm * options.thinMm)
                << geometry::pointInside(one).x << ", " << geometry::pointInside(one).y;
    }
    for (const Seam& seam : division.seams) {
        EXPECT_LE(seam.seenMm, seam.lengthMm + 1e-9);
        for (const geometry::Point end : {seam.path.start, geometry::endOf(seam.path)}) {
            const bool isOnEdge = geometry::nearestOnEdge(ground.shape, end, 1e-3).has_value();
            const bool meets =
                std::any_of(division.seams.begin(), division.seams.end(), [&](const Seam& other) {
                    return &other != &seam && geometry::distanceTo(other.path, end) < 1e-3;
                });
            EXPECT_TRUE(isOnEdge || meets);
        }
    }
}

struct Row {
    const char* name;
    size_t mostParts;
    int mostThin;
    double mostSeenMm;
};

// What the search reached when it was built, with a little room: none may become worse.
TEST(Split, EveryKindOfWorkIsDividedSoundly) {
    const std::vector<Row> rows{{"banner on the long mat", 2, 0, 65},
                                {"banner on the short mat", 3, 0, 180},
                                {"figure with a thin tail, bare", 7, 1, 1300},
                                {"figure with a thin tail", 7, 1, 850},
                                {"frame, bare", 4, 0, 182},
                                {"frame", 4, 0, 33},
                                {"lattice of stems, bare", 8, 6, 270},
                                {"lattice of stems", 8, 6, 260},
                                {"sign with counters, bare", 6, 0, 1150},
                                {"sign with counters", 6, 0, 1050},
                                {"wreath, bare", 4, 0, 122},
                                {"wreath", 4, 0, 92}};
    const auto works = test::largeWorks();
    ASSERT_EQ(works.size(), rows.size());
    for (size_t i = 0; i < rows.size(); ++i) {
        const test::LargeWork& work = works[i];
        ASSERT_EQ(work.name, rows[i].name);
        const Ground ground{work.shape, work.cover};
        const Room room{work.widthMm, work.heightMm};
        const auto found = divisions(ground, room);
        ASSERT_TRUE(found) << work.name << ": " << found.error().message;
        const Division& best = found->front();
        expectSound(best, ground, room, {}, work.name);
        EXPECT_LE(best.parts.size(), rows[i].mostParts) << work.name;
        EXPECT_LE(best.thinCuts, rows[i].mostThin) << work.name;
        EXPECT_LE(best.seenMm, rows[i].mostSeenMm) << work.name;
        EXPECT_EQ(best.slivers, 0) << work.name;
        EXPECT_EQ(best.crumbs, 0) << work.name;
        for (size_t k = 1; k < found->size(); ++k) { // runners-up are better in something
            EXPECT_GT((*found)[k].parts.size(), best.parts.size());
            EXPECT_LT((*found)[k].thinCuts, (*found)[k - 1].thinCuts);
        }
    }
}

TEST(Split, RandomWorksAreDividedSoundly) {
    for (unsigned seed = 500; seed < 516; ++seed) {
        const test::LargeWork work = test::randomWork(seed);
        const Ground ground{work.shape};
        const auto found = divisions(ground, {240, 180});
        ASSERT_TRUE(found) << seed << ": " << found.error().message;
        expectSound(found->front(), ground, {240, 180}, {}, work.name);
    }
}

TEST(Split, ARoughLookIsSoundAndRarelyTakesMoreParts) {
    Options rough;
    rough.isRough = true;
    for (unsigned seed = 1000; seed < 1300; ++seed) {
        const test::LargeWork work = test::randomWork(seed);
        const Ground ground{work.shape};
        const auto found = divisions(ground, {240, 180}, rough);
        ASSERT_TRUE(found) << seed << ": " << found.error().message;
        ASSERT_EQ(found->size(), 1U);
        double area = 0;
        for (const Shape& part : found->front().parts) {
            area += geometry::area(part);
            EXPECT_TRUE(fitOf(part, {240, 180}, 0).isFitting) << work.name;
        }
        EXPECT_NEAR(area, geometry::area(work.shape), 1e-6 * area) << work.name;
    }
    int more = 0;
    for (const test::LargeWork& work : test::largeWorks()) {
        const Ground ground{work.shape, work.cover};
        const Room room{work.widthMm, work.heightMm};
        more += divisions(ground, room, rough)->front().parts.size() >
                divisions(ground, room)->front().parts.size();
    }
    EXPECT_LE(more, 1);
}

TEST(Split, WhatFitsStaysWholeAndTheSameInputGivesTheSameSeams) {
    const Shape small = support::rectangle(0, 0, 290, 100);
    EXPECT_TRUE(divisions({small}, {292, 292})->front().seams.empty());
    // Turned, a strip longer than the mat's sides fits.
    EXPECT_TRUE(divisions({support::rectangle(0, 0, 400, 10)}, {292, 292})->front().seams.empty());
    const test::LargeWork work = test::wreath();
    const auto a = divisions({work.shape}, {292, 292}), b = divisions({work.shape}, {292, 292});
    ASSERT_EQ(a->front().seams.size(), b->front().seams.size());
    for (size_t i = 0; i < a->front().seams.size(); ++i)
        EXPECT_EQ(a->front().seams[i].path, b->front().seams[i].path);
}

TEST(Split, APlateTakesTheFewestParts) {
    // Of squares of 292 mm, 600 x 290 takes three as area and length say, and 560 x 560 four.
    EXPECT_EQ(divisions({support::rectangle(0, 0, 600, 290)}, {292, 292})->front().parts.size(), 3U);
    EXPECT_EQ(divisions({support::rectangle(0, 0, 560, 560)}, {292, 292})->front().parts.size(), 4U);
}

TEST(Split, SeamsGoUnderWhatLiesAboveAndKeepOffSeamsBelow) {
    const Shape strip = support::rectangle(0, 0, 500, 80);
    const auto bare = divisions({strip}, {292, 292});
    Ground covered{strip};
    covered.cover = {support::rectangle(215, -10, 20, 100)};
    const auto hidden = divisions(covered, {292, 292});
    ASSERT_EQ(hidden->front().seams.size(), 1U);
    EXPECT_NEAR(hidden->front().seenMm, 0, 1);
    EXPECT_NEAR(bare->front().seenMm, 80, 1);
    Ground over{strip};
    over.seamsNear = {bare->front().seams.front().path};
    const auto staggered = divisions(over, {292, 292});
    EXPECT_FALSE(staggered->front().seams.front().nearSeamMm);
    const geometry::Point middle = geometry::middleOf(staggered->front().seams.front().path);
    EXPECT_GE(geometry::distanceTo(over.seamsNear.front(), middle), 12);
}

TEST(Split, WhatIsKeptWholeIsGoneRound) {
    Ground ground{support::rectangle(0, 0, 500, 80)};
    const auto free = divisions(ground, {292, 292})->front();
    const geometry::Point at = geometry::middleOf(free.seams.front().path);
    ground.keptWhole = {support::rectangle(at.x - 25, 0, 50, 80)};
    const auto kept = divisions(ground, {292, 292})->front();
    EXPECT_FALSE(kept.seams.front().cutsKept);
    EXPECT_GT(std::abs(geometry::middleOf(kept.seams.front().path).x - at.x), 25);
    // All of it is to stay whole: the seam goes through, and says so.
    ground.keptWhole = {support::rectangle(-5, -5, 510, 90)};
    const auto broken = divisions(ground, {292, 292})->front();
    EXPECT_TRUE(std::any_of(broken.seams.begin(), broken.seams.end(),
                            [](const Seam& seam) { return seam.cutsKept; }));
}

TEST(Split, SeamsDoNotRunAlongFolds) {
    Ground ground{support::rectangle(0, 0, 500, 80)};
    const auto free = divisions(ground, {292, 292})->front();
    const double x = geometry::middleOf(free.seams.front().path).x;
    ground.folds = {{{x, 0}, {geometry::Segment::line({x, 80})}}};
    const auto away = divisions(ground, {292, 292})->front();
    EXPECT_GT(geometry::distanceTo(ground.folds.front(), geometry::middleOf(away.seams.front().path)), 6);
}

TEST(Split, AThinPlaceIsCutOnlyWhereThereIsNoOther) {
    // A bridge of 4 mm between two plates: the seam goes through a plate instead when that fits.
    const auto found = divisions({support::dumbbell(200, 4, 60)}, {292, 292});
    ASSERT_TRUE(found);
    EXPECT_EQ(found->front().parts.size(), 2U);
    EXPECT_EQ(found->front().thinCuts, 0);
    // A bridge longer than the mat's diagonal is cut, and the cut is told with its width.
    const auto cut = divisions({support::dumbbell(200, 4, 900)}, {292, 292});
    ASSERT_TRUE(cut);
    EXPECT_GT(cut->front().thinCuts, 0);
    for (const Seam& seam : cut->front().seams) {
        if (seam.isThin) {
            EXPECT_NEAR(seam.narrowestMm, 4, 0.8);
        }
    }
}

TEST(Split, SeamsLaidByHandAreMeasuredAlike) {
    const Ground ground{support::rectangle(0, 0, 500, 80)};
    const auto found = divisions(ground, {292, 292})->front();
    const auto laid = dividedBy(ground, {found.seams.front().path});
    ASSERT_TRUE(laid);
    EXPECT_EQ(laid->parts.size(), 2U);
    EXPECT_NEAR(laid->seamMm, found.seamMm, 1e-9);
    EXPECT_NEAR(laid->price, found.price, 1e-9);
    const auto dangling = dividedBy(ground, {{{100, 0}, {geometry::Segment::line({100, 40})}}});
    EXPECT_EQ(dangling->parts.size(), 1U);
    const auto sliver = dividedBy(ground, {{{4, 0}, {geometry::Segment::line({4, 80})}}});
    EXPECT_EQ(sliver->slivers, 1);
}

TEST(Split, WhatCannotBeSaysWhy) {
    const Shape plate = support::rectangle(0, 0, 500, 500);
    EXPECT_EQ(divisions({plate}, {0, 292}).error().code, base::Code::InvalidArgument);
    EXPECT_EQ(divisions({Shape{}}, {292, 292}).error().code, base::Code::InvalidArgument);
    EXPECT_EQ(divisions({plate}, {3, 3}).error().code, base::Code::LimitExceeded);
    const std::atomic<bool> stop{true};
    EXPECT_EQ(divisions({plate}, {292, 292}, {}, base::Progress(&stop, nullptr)).error().code,
              base::Code::Cancelled);
    // A ring of 5 mm on a mat of 3 mm.
    const Shape ring = support::withOpening(support::disc({0, 0}, 20), support::disc({0, 0}, 15));
    const auto none = divisions({ring}, {3, 3});
    ASSERT_FALSE(none);
    EXPECT_NE(none.error().message.find("3.0 mm"), std::string::npos) << none.error().message;
}

TEST(Split, AFitIsFoundInAnyTurn) {
    const Room room{300, 200};
    for (double turn = 0; turn < 3.2; turn += 0.13) {
        const geometry::Transform map{
            std::cos(turn), std::sin(turn), -std::sin(turn), std::cos(turn), 40, 70};
        const Fit fit = fitOf(geometry::transformed(support::rectangle(0, 0, 299, 199), map), room);
        EXPECT_TRUE(fit.isFitting) << turn;
        EXPECT_NEAR(fitOf(geometry::transformed(support::rectangle(0, 0, 310, 199), map), room).tooLongMm,
                    10.25, 0.01);
    }
}

} // namespace
} // namespace thinline::split
