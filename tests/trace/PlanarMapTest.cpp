// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/PlanarMap.h"

#include "geometry/Cubic.h"
#include "raster/Parts.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <limits>
#include <map>
#include <random>

namespace thinline::trace {
namespace {

/// Blobs of a few labels: discs painted over one another.
raster::LabelMap blobs(unsigned seed, int labels) {
    std::mt19937 random(seed);
    raster::LabelMap map{160, 120, std::vector<std::int32_t>(160 * 120, 0)};
    for (int i = 0; i < 18; ++i) {
        const int cx = static_cast<int>(random() % 160), cy = static_cast<int>(random() % 120),
                  r = 6 + static_cast<int>(random() % 26);
        const auto label = static_cast<std::int32_t>(random() % static_cast<unsigned>(labels));
        for (int y = std::max(0, cy - r); y < std::min(120, cy + r); ++y)
            for (int x = std::max(0, cx - r); x < std::min(160, cx + r); ++x)
                if ((x - cx) * (x - cx) + (y - cy) * (y - cy) < r * r)
                    map.labels[static_cast<size_t>(y) * 160 + static_cast<size_t>(x)] = label;
    }
    return map;
}

struct Drawn {
    raster::Parts parts;
    PlanarMap map;
};

Drawn drawn(const raster::LabelMap& labels) {
    raster::LabelMap cleaned = labels;
    EXPECT_TRUE(raster::mergeSmall(cleaned, 12));
    raster::Parts parts = raster::partsOf(cleaned).take();
    std::vector<std::int32_t> rank;
    for (const std::int64_t area : parts.areaPx)
        rank.push_back(static_cast<std::int32_t>(area));
    // The pixels' own sides are the truth here: a step from 0 to 255 at every border.
    const LevelsFor levels = [&parts](int right, int left) -> raster::LevelAt {
        return [&parts, right, left](int x, int y) {
            const std::int32_t part = parts.map.at(x, y);
            return part == right ? 0.0 : part == left ? 255.0 : std::numeric_limits<double>::quiet_NaN();
        };
    };
    PlanarMap map = drawMap(parts.map, rank, levels, {}, {}).take();
    return {std::move(parts), std::move(map)};
}

// Levels may be wrong, labels only by a pixel at their edges: whatever is told of levels, no border leaves its pixels.
TEST(PlanarMap, NoBorderLeavesItsPixels) {
    raster::LabelMap map{120, 90, std::vector<std::int32_t>(120 * 90, 0)};
    for (int y = 20; y < 70; ++y)
        for (int x = 30; x < 90; ++x)
            map.labels[static_cast<size_t>(y) * 120 + static_cast<size_t>(x)] = 1;
    // The levels show a spike of fourteen pixels to the right, and the left edge seven pixels farther in.
    const LevelsFor levels = [](int right, int) -> raster::LevelAt {
        return [right](int x, int y) {
            const bool isIn = (x >= 37 && x < 90 && y >= 20 && y < 70) || (x >= 80 && x < 104 && std::abs(y - 45) < 2);
            return isIn == (right == 1) ? 0.0 : 255.0;
        };
    };
    const PlanarMap drawn = drawMap(map, {1, 0}, levels, {.leastStep = 40, .darkest = 0, .lightest = 255}, {}).take();
    int looked = 0;
    for (const MapEdge& edge : drawn.edges) {
        if (edge.right < 0 || edge.left < 0)
            continue;
        geometry::eachCurve(edge.curve, [&](const geometry::Cubic& k, const geometry::Segment&) {
            for (int i = 0; i <= 40; ++i) {
                const geometry::Point p = k.at(i / 40.0);
                const double off = std::max({std::abs(p.x - 60) - 30, std::abs(p.y - 45) - 25});
                EXPECT_LT(std::abs(off), 1.3) << p.x << " " << p.y;
                ++looked;
            }
        });
    }
    EXPECT_GT(looked, 100);
}

// Euler: V - E + F = 1 + C, where a ring counts one node of its own, the outside is a face, and C counts the
// connected parts of the drawn borders.
TEST(PlanarMap, ObeysEulersFormula) {
    for (unsigned seed = 1; seed <= 30; ++seed) {
        const Drawn d = drawn(blobs(seed, 3));
        std::map<int, int> parent;
        const auto rootOf = [&](int node) {
            while (parent[node] != node)
                node = parent[node];
            return node;
        };
        int nodes = static_cast<int>(d.map.junctions.size());
        for (int j = 0; j < nodes; ++j)
            parent[j] = j;
        for (const MapEdge& e : d.map.edges) {
            if (e.from < 0) {
                parent[nodes] = nodes;
                ++nodes;
            } else {
                parent[rootOf(e.from)] = rootOf(e.to);
            }
        }
        int parts = 0;
        for (const auto& [node, up] : parent)
            parts += rootOf(node) == node;
        const int faces = d.map.faces + 1, edges = static_cast<int>(d.map.edges.size());
        EXPECT_EQ(nodes - edges + faces, 1 + parts) << "seed " << seed;
    }
}

// The naive referee: a face's area is the count of its pixels, within a row of pixels along its border.
TEST(PlanarMap, EveryFaceIsAsLargeAsItsPixels) {
    for (unsigned seed = 40; seed < 60; ++seed) {
        const Drawn d = drawn(blobs(seed, 4));
        const auto shapes = faceShapes(d.map);
        ASSERT_EQ(shapes.size(), d.parts.areaPx.size());
        double all = 0;
        for (size_t face = 0; face < shapes.size(); ++face) {
            ASSERT_FALSE(shapes[face].outline.segments.empty()) << "seed " << seed;
            const double area = geometry::area(shapes[face]);
            all += area;
            EXPECT_NEAR(area, static_cast<double>(d.parts.areaPx[face]),
                        0.5 * geometry::cutLength(shapes[face]) + 1)
                << "seed " << seed << " face " << face;
        }
        EXPECT_NEAR(all, 160.0 * 120, 0.01) << "nothing is lost or covered twice";
    }
}

/// Every step of a contour as its end points and handles, from the smaller end on.
using Step = std::array<double, 8>;
void stepsOf(const geometry::Contour& contour, std::map<Step, int>& out) {
    geometry::Point from = contour.start;
    for (const geometry::Segment& s : contour.segments) {
        Step a{from.x, from.y, s.control1.x, s.control1.y, s.control2.x, s.control2.y, s.end.x, s.end.y};
        Step b{s.end.x, s.end.y, s.control2.x, s.control2.y, s.control1.x, s.control1.y, from.x, from.y};
        if (s.isLine) {
            std::fill(a.begin() + 2, a.begin() + 6, 0);
            std::fill(b.begin() + 2, b.begin() + 6, 0);
        }
        ++out[std::min(a, b)];
        from = s.end;
    }
}

TEST(PlanarMap, NeighboursShareTheirCurvesToTheBit) {
    for (unsigned seed = 70; seed < 80; ++seed) {
        const Drawn d = drawn(blobs(seed, 4));
        std::map<Step, int> steps;
        for (const geometry::Shape& shape : faceShapes(d.map)) {
            stepsOf(shape.outline, steps);
            for (const geometry::Contour& opening : shape.openings)
                stepsOf(opening, steps);
        }
        for (const auto& [step, count] : steps) {
            const auto isFrame = [&step = step](size_t k) {
                return std::all_of(step.begin() + 2, step.begin() + 6, [](double v) { return v == 0; }) &&
                       ((step[k] == 0 && step[k + 6] == 0) ||
                        (step[k] == (k ? 120 : 160) && step[k + 6] == step[k]));
            };
            EXPECT_EQ(count, isFrame(0) || isFrame(1) ? 1 : 2)
                << "seed " << seed << " from " << step[0] << " " << step[1] << " to " << step[6] << " "
                << step[7];
        }
    }
}

TEST(PlanarMap, FacesTakenTogetherLoseTheBordersBetweenThem) {
    const Drawn d = drawn(blobs(5, 4));
    const auto all = outlinesOf(d.map, [](int) { return true; });
    ASSERT_EQ(all.size(), 1u);
    EXPECT_TRUE(all[0].openings.empty());
    EXPECT_NEAR(geometry::area(all[0]), 160 * 120, 1e-6);
    double sum = 0;
    for (int label = 0; label < 4; ++label)
        for (const geometry::Shape& shape :
             outlinesOf(d.map, [&](int face) { return d.parts.label[static_cast<size_t>(face)] == label; }))
            sum += geometry::area(shape);
    EXPECT_NEAR(sum, 160 * 120, 0.01);
}

TEST(PlanarMap, NoiseIsRefusedWithAWayOut) {
    raster::LabelMap map{200, 200, {}};
    for (int i = 0; i < 40000; ++i)
        map.labels.push_back(i);
    const auto refused = drawMap(map, std::vector<std::int32_t>(40000, 0), {}, {}, {});
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.error().message.find("more than anybody cuts"), std::string::npos)
        << refused.error().message;
}

} // namespace
} // namespace thinline::trace
