// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What the search stands on, each held against the plainest way to say the same.
#include "split/Field.h"
#include "split/Flow.h"
#include "split/Net.h"
#include "split/Pose.h"
#include "split/Slivers.h"
#include "support/Shapes.h"
#include "support/SplitShapes.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

namespace thinline::split {
namespace {

using geometry::Point;
using geometry::Polygon;

TEST(Flow, FindsTheCheapestOfAllCuts) {
    std::mt19937 random(5);
    const auto in = [&](double most) { return most * static_cast<double>(random() % 1000) / 1000; };
    Flow flow;
    for (int round = 0; round < 60; ++round) {
        const int nodes = 2 + static_cast<int>(random() % 8);
        struct Two {
            int a, b;
            double ab, ba;
        };
        std::vector<std::pair<double, double>> ends;
        std::vector<Two> arcs;
        flow.reset(nodes);
        for (int i = 0; i < nodes; ++i) {
            ends.emplace_back(in(10), in(10));
            flow.addTerminal(i, ends.back().first, ends.back().second);
        }
        for (int i = 0; i < 2 * nodes; ++i) {
            const int a = static_cast<int>(random() % static_cast<unsigned>(nodes)),
                      b = static_cast<int>(random() % static_cast<unsigned>(nodes));
            if (a == b)
                continue;
            arcs.push_back({a, b, in(6), in(6)});
            flow.addArc(a, b, arcs.back().ab, arcs.back().ba);
        }
        flow.run();
        const auto price = [&](const auto& isNear) {
            double out = 0;
            for (int i = 0; i < nodes; ++i)
                out += isNear(i) ? ends[static_cast<size_t>(i)].second : ends[static_cast<size_t>(i)].first;
            for (const Two& arc : arcs)
                out += isNear(arc.a) && !isNear(arc.b)   ? arc.ab
                       : isNear(arc.b) && !isNear(arc.a) ? arc.ba
                                                         : 0;
            return out;
        };
        double least = 1e9;
        for (int set = 0; set < 1 << nodes; ++set)
            least = std::min(least, price([&](int i) { return (set >> i & 1) != 0; }));
        EXPECT_NEAR(price([&](int i) { return flow.isNear(i); }), least, 1e-6);
    }
}

struct Blob {
    Cells cells{{{0, 0}, {30, 22}}, 0.5};
    std::vector<uint8_t> marks;
    explicit Blob(unsigned seed) : marks(cells.count(), 0) {
        const test::LargeWork work = test::randomWork(seed);
        const geometry::Box box = geometry::bounds(work.shape);
        const double k = 28 / std::max(box.width(), box.height() * 1.4);
        geometry::Polygons rings = geometry::flatten(work.shape, 0.5);
        for (Polygon& ring : rings)
            for (Point& p : ring)
                p = (p - box.least) * k + Point{1, 1};
        cells.fill(rings, marks, 1);
    }
    bool at(int x, int y) const {
        return x >= 0 && y >= 0 && x < cells.across() && y < cells.down() &&
               marks[static_cast<size_t>(y) * static_cast<size_t>(cells.across()) + static_cast<size_t>(x)] !=
                   0;
    }
};

TEST(Cells, DistancesAreThoseToTheNearestEmptyCell) {
    const Blob blob(11);
    const auto got = blob.cells.distances(blob.marks, true);
    for (int y = 0; y < blob.cells.down(); y += 3)
        for (int x = 0; x < blob.cells.across(); x += 3) {
            double least = 1e9;
            for (int v = -1; v <= blob.cells.down(); ++v)
                for (int u = -1; u <= blob.cells.across(); ++u)
                    if (!blob.at(u, v))
                        least = std::min(least, std::hypot(u - x, v - y));
            EXPECT_NEAR(got[static_cast<size_t>(y) * static_cast<size_t>(blob.cells.across()) +
                            static_cast<size_t>(x)],
                        least * 0.5, 1e-4);
        }
}

TEST(Cells, OpeningIsWhatADiscReaches) {
    for (const unsigned seed : {3U, 4U, 9U}) {
        const Blob blob(seed);
        const double radiusMm = 1.7, radius = radiusMm / 0.5;
        const auto got = blob.cells.opened(blob.marks, radiusMm);
        const int reach = static_cast<int>(std::ceil(radius));
        const auto isCore = [&](int x, int y) { // no empty cell nearer than the radius
            for (int v = -reach; v <= reach; ++v)
                for (int u = -reach; u <= reach; ++u)
                    if (u * u + v * v < radius * radius && !blob.at(x + u, y + v))
                        return false;
            return true;
        };
        for (int y = 0; y < blob.cells.down(); ++y)
            for (int x = 0; x < blob.cells.across(); ++x) {
                bool isReached = false;
                for (int v = -reach; v <= reach && blob.at(x, y) && !isReached; ++v)
                    for (int u = -reach; u <= reach && !isReached; ++u)
                        isReached =
                            u * u + v * v < radius * radius && blob.at(x + u, y + v) && isCore(x + u, y + v);
                EXPECT_EQ(got[static_cast<size_t>(y) * static_cast<size_t>(blob.cells.across()) +
                              static_cast<size_t>(x)] != 0,
                          isReached)
                    << x << ", " << y;
            }
    }
}

TEST(Field, ThinPlacesHiddenOnesAndClearancesAreKnown) {
    const geometry::Shape shape = support::dumbbell(60, 4, 40); // a bridge of 4 mm between two squares
    const Field field(geometry::flatten(shape, 0.05),
                      {geometry::flatten(support::rectangle(0, 0, 20, 20), 0.05)}, {}, 6);
    EXPECT_TRUE(field.isThin({80, 30}));
    EXPECT_FALSE(field.isThin({30, 30}));
    EXPECT_FALSE(field.isThin({1, 1})) << "a corner is none";
    EXPECT_TRUE(field.isHidden({10, 10}));
    EXPECT_FALSE(field.isHidden({30, 30}));
    EXPECT_NEAR(field.clearanceMm({30, 30}), 30, 0.5);
    EXPECT_NEAR(field.clearanceMm({80, 30}), 2, 0.5);
    EXPECT_NEAR(field.areaMm2(), 2 * 3600 + 160, 60);
    EXPECT_FALSE(field.keepsAny());
}

TEST(Pose, AHullFitsInATurnOrInNone) {
    const Polygon strip{{0, 0}, {390, 0}, {390, 10}, {0, 10}};
    EXPECT_TRUE(fits(strip, {292, 292})); // across the diagonal
    EXPECT_FALSE(fits(strip, {292, 240}));
    EXPECT_TRUE(fits({{0, 0}, {240, 0}, {240, 292}, {0, 292}}, {292, 240})) << "sides exchanged";
    const Pose pose = Pose::at({10, 20}, 0.5, 40, 20);
    EXPECT_TRUE(pose.holds(pose.place(19.9, 9.9)));
    EXPECT_FALSE(pose.holds(pose.place(20.1, 0)));
}

TEST(Slivers, AStripIsOneAndACornerIsNone) {
    const auto rings = geometry::flatten(support::rectangle(0, 0, 100, 60), 0.05);
    EXPECT_EQ(sliversBeside(rings, {{50, 0}, {50, 60}, 0, 0}, {}, 6), 0);
    EXPECT_EQ(sliversBeside(rings, {{4, 0}, {4, 60}, 0, 0}, {}, 6), 1);
    EXPECT_EQ(sliversBeside(rings, {{50, 0}, {80, 60}, 0, 0}, {}, 6), 0) << "about 63 degrees";
    // Two seams beside one another leave one between them.
    EXPECT_GE(sliversBeside(rings, {{50, 0}, {50, 60}, 0, 0}, {{{54, 0}, {54, 60}, 0, 0}}, 6), 1);
}

TEST(Net, EverySideLiesBetweenTwoTrianglesAndHasItsPrice) {
    const test::LargeWork work = test::wreath();
    const Ground ground{work.shape, work.cover};
    const Pricing pricing(ground, sampledRings(work.shape), {});
    for (const double stepMm : {0.0, 14.0}) {
        const auto net = netOver(pricing, {stepMm}, {});
        ASSERT_TRUE(net);
        double area = 0;
        for (const double one : net->areaMm2)
            area += one;
        EXPECT_NEAR(area, geometry::area(work.shape), 0.005 * geometry::area(work.shape));
        for (size_t a = 0; a < net->arcs.size(); ++a) {
            const Arc& arc = net->arcs[a];
            for (const int t : {arc.left, arc.right}) {
                const auto& own = net->arcsOf[static_cast<size_t>(t)];
                EXPECT_TRUE(std::find(own.begin(), own.end(), static_cast<int>(a)) != own.end());
            }
            EXPECT_GT(arc.price, 0);
        }
    }
}

} // namespace
} // namespace thinline::split
