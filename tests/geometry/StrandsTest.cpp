// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Strands.h"

#include "geometry/HashIndex.h"
#include "geometry/Meetings.h"
#include "geometry/Restore.h"
#include "support/Loops.h"

#include <gtest/gtest.h>

#include <map>
#include <set>

namespace thinline::geometry {
namespace {

using support::disc;
using support::rectangle;

TEST(HashIndex, AgreesWithAMultimap) {
    std::mt19937 random(1);
    HashIndex index(10); // far too small: it must grow
    std::multimap<std::uint64_t, int> naive;
    for (int i = 0; i < 5000; ++i) {
        const std::uint64_t key = random() % 700;
        EXPECT_EQ(index.add(key), i);
        naive.emplace(key, i);
    }
    for (std::uint64_t key = 0; key < 800; ++key) {
        std::set<int> found, wanted;
        for (int e = index.first(key); e >= 0; e = index.next(e))
            found.insert(e);
        for (auto [from, to] = naive.equal_range(key); from != to; ++from)
            wanted.insert(from->second);
        EXPECT_EQ(found, wanted);
    }
}

// The clever against the simple: every pair once, for few and many, small and long, flat and high boxes.
TEST(EachMeeting, AgreesWithComparingAllPairs) {
    std::mt19937 random(2);
    for (int round = 0; round < 40; ++round) {
        std::vector<GridBox> boxes;
        const int n = round < 10 ? 5 * round : 60 * round;
        for (int i = 0; i < n; ++i) {
            const std::int64_t x = random() % 10000, y = random() % 10000;
            const std::int64_t w = random() % 7 == 0 ? random() % 8000 : random() % 90;
            const std::int64_t h = random() % 11 == 0 ? random() % 8000 : random() % 90;
            boxes.push_back({x - 5000, y - 5000, x - 5000 + w, y - 5000 + h});
        }
        std::set<std::pair<size_t, size_t>> found, wanted;
        eachMeeting(boxes, [&](size_t i, size_t j) {
            EXPECT_TRUE(found.insert(std::minmax(i, j)).second) << "told twice";
        });
        for (size_t i = 0; i < boxes.size(); ++i)
            for (size_t j = i + 1; j < boxes.size(); ++j)
                if (boxes[i].meets(boxes[j]))
                    wanted.insert({i, j});
        EXPECT_EQ(found, wanted) << n << " boxes";
    }
}

struct Laid {
    EdgeNet net;
    StrandSet set;
    Grid grid;
};
Laid lay(const std::vector<const Contour*>& contours, const StrandOptions& options = {}) {
    Box box;
    for (const Contour* c : contours)
        box.include(hullBox(*c));
    const Grid grid = Grid::around(box).take();
    EdgeNet net = makeNet(contours, grid, {}).take();
    StrandSet set = layStrands(net, grid, options, {}).take();
    return {std::move(net), std::move(set), grid};
}

TEST(EdgeNet, WhatCoincidesIsOneEdge) {
    // Two squares with a whole edge in common, and one of them once more the other way round.
    const Shape a = rectangle(0, 0, 10, 10), b = rectangle(10, 0, 10, 10);
    const Contour again = reversed(a.outline);
    const Laid laid = lay({&a.outline, &b.outline, &again});
    EXPECT_EQ(laid.net.edges.size(), 7u);
    EXPECT_EQ(laid.net.nodes.size(), 6u);
    // Half an edge in common: the longer one is cut where the shorter ends.
    const Shape half = rectangle(10, 0, 5, 5);
    EXPECT_EQ(lay({&a.outline, &half.outline}).net.edges.size(), 8u);
    // A tenth of a micron apart is the same; three microns are not.
    const Shape near = support::moved(b, {1e-4, 0}), apart = support::moved(b, {3e-3, 0});
    EXPECT_EQ(lay({&a.outline, &near.outline}).net.edges.size(), 7u);
    EXPECT_EQ(lay({&a.outline, &apart.outline}).net.edges.size(), 8u);
}

TEST(EdgeNet, EdgesAreMonotoneAndWalksAreClosed) {
    std::mt19937 random(3);
    for (int i = 0; i < 20; ++i) {
        const Contour tangle = support::tangle(random, 50, 6);
        const Laid laid = lay({&tangle});
        for (const auto& walk : laid.net.walks)
            for (size_t k = 0; k < walk.size(); ++k)
                EXPECT_EQ(laid.net.toNode(walk[k]), laid.net.fromNode(walk[(k + 1) % walk.size()]));
        for (const NetEdge& e : laid.net.edges) {
            const Cubic& curve = laid.net.sources[static_cast<size_t>(e.source)].curve;
            const Point a = curve.at(e.t0), b = curve.at(e.t1), m = curve.at((e.t0 + e.t1) / 2);
            EXPECT_GE((m.x - a.x) * (b.x - m.x), -1e-9);
            EXPECT_GE((m.y - a.y) * (b.y - m.y), -1e-9);
        }
    }
}

TEST(Strands, AreLongWhereNothingIsNearAndFineWhereEdgesMeet) {
    const Shape lone = disc({0, 0}, 20);
    EXPECT_LE(lay({&lone.outline}).set.strands.size(), 8u) << "a chord or two per quarter";
    const Shape other = disc({30, 5}, 20);
    const Laid crossing = lay({&lone.outline, &other.outline});
    EXPECT_LT(crossing.set.strands.size(), 120u);
    int meeting = 0;
    for (const Strand& s : crossing.set.strands)
        if (s.meets) {
            ++meeting;
            EXPECT_LT(
                std::hypot(static_cast<double>(s.to.x - s.from.x), static_cast<double>(s.to.y - s.from.y)),
                0.3e6);
        }
    EXPECT_GE(meeting, 4) << "two crossings of two strands each";
    EXPECT_GT(lay({&lone.outline, &other.outline}, {.isFineEverywhere = true}).set.strands.size(), 500u);
    // A polygon of many vertices that nothing meets is a handful of chords.
    Polygon ring;
    for (int i = 0; i < 20'000; ++i)
        ring.push_back(
            {20 * std::cos(i * std::numbers::pi / 10'000), 20 * std::sin(i * std::numbers::pi / 10'000)});
    const Contour many = contourThrough(ring);
    EXPECT_LT(lay({&many}).set.strands.size(), 20u);
}

TEST(Restorer, ARingOfItsOwnStrandsIsTheOutlineItself) {
    std::mt19937 random(5);
    const Shape blob = support::blob(random, {3, 4}, 20, 9, 0.3),
                other = support::blob(random, {60, 4}, 20, 9, 0.3);
    const Laid laid = lay({&blob.outline, &other.outline});
    Restorer restorer(laid.net, laid.set, laid.grid);
    GridRing ring;
    for (EdgeUse use : laid.set.walks[0])
        for (size_t i = laid.set.firstOfChain[static_cast<size_t>(use.edge)];
             i < laid.set.firstOfChain[static_cast<size_t>(use.edge) + 1]; ++i)
            ring.push_back(laid.set.strands[i].from);
    const Contour back = restorer.outlineOf(ring);
    EXPECT_EQ(restorer.lostMm(), 0);
    EXPECT_EQ(back.segments.size(), blob.outline.segments.size());
    EXPECT_EQ(signedArea(back), signedArea(blob.outline));
    // A ring from elsewhere belongs to no strand, and that is told.
    restorer.outlineOf({{0, 0}, {1000000, 0}, {0, 1000000}});
    EXPECT_GT(restorer.lostMm(), 3);
}

} // namespace
} // namespace thinline::geometry
