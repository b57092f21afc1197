// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "trace/Refine.h"

#include "geometry/Measures.h"
#include "raster/Parts.h"
#include "trace/PlanarMap.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

namespace thinline::trace {
namespace {

using geometry::Contour;
using geometry::Point;
using geometry::Segment;

/// A picture of one dark shape, each pixel as dark as the part of it that lies inside; then blurred, then
/// grained.
raster::Grey pictureOf(const Contour& shape, int size, const raster::Spread& blur, double grain) {
    std::vector<double> inside(static_cast<size_t>(size * size), 0);
    for (const raster::Covered& c : raster::coveredPixels(geometry::flatten(shape, 0.002)))
        inside[static_cast<size_t>(c.y * size + c.x)] = std::abs(c.area);
    raster::Grey out{size, size, std::vector<std::uint8_t>(inside.size(), 255)};
    std::mt19937 random(3);
    std::normal_distribution<double> noise(0, 1);
    const int reach = blur.reach();
    for (int y = reach; y < size - reach; ++y)
        for (int x = reach; x < size - reach; ++x) {
            double dark = 0;
            for (int dy = -reach; dy <= reach; ++dy)
                for (int dx = -reach; dx <= reach; ++dx)
                    dark += blur.at(dx, dy) * inside[static_cast<size_t>((y + dy) * size + x + dx)];
            out.at(x, y) = static_cast<std::uint8_t>(
                std::clamp(std::lround(230 - 200 * dark + grain * noise(random)), 0L, 255L));
        }
    return out;
}

PlanarMap mapOf(const raster::Grey& grey) {
    raster::LabelMap labels{grey.width, grey.height, {}};
    for (const std::uint8_t v : grey.values)
        labels.labels.push_back(v < 130);
    EXPECT_TRUE(raster::mergeSmall(labels, 10));
    const raster::Parts parts = raster::partsOf(labels).take();
    const raster::LevelAt level = raster::levelsOf(grey);
    return drawMap(parts.map, std::vector<std::int32_t>(parts.label.size(), 0),
                   [&](int, int) { return level; }, {}, {})
        .take();
}

Contour ringOf(const raster::Grey& grey) {
    for (const MapEdge& edge : mapOf(grey).edges)
        if (edge.right >= 0 && edge.left >= 0)
            return edge.curve;
    return {};
}

double farthest(const Contour& from, const Contour& to) {
    double most = 0;
    for (const Point p : geometry::flatten(from, 0.01))
        if (const auto edge = geometry::nearestOnEdge(geometry::Shape{to, {}}, p))
            most = std::max(most, edge->distance);
    return most;
}

double nearestNode(const Contour& ring, Point p) {
    double least = 1e9;
    for (const Segment& s : ring.segments)
        least = std::min(least, geometry::distance(s.end, p));
    return least;
}

Contour wedge(double degrees) {
    const double half = std::tan(degrees * std::numbers::pi / 360) * 100;
    return geometry::contourThrough({{15.3, 60.4}, {115.3, 60.4 - half}, {115.3, 60.4 + half}});
}

// The pixels near a tip of six degrees are never half dark: only their grey tells how far it reaches.
TEST(Refine, FindsTheTipThatNoPixelShows) {
    const Contour ring = ringOf(pictureOf(wedge(6), 130, {}, 0));
    ASSERT_EQ(ring.segments.size(), 3u);
    EXPECT_LT(nearestNode(ring, {15.3, 60.4}), 0.3);
    EXPECT_LT(farthest(ring, wedge(6)), 0.3);
}

TEST(Refine, TellsTwoCornersTwoAndAHalfPixelsApart) {
    const Contour blunt =
        geometry::contourThrough({{20.2, 58.1}, {110.4, 30.3}, {110.4, 90.6}, {20.2, 60.6}});
    const Contour ring = ringOf(pictureOf(blunt, 130, {}, 0));
    EXPECT_EQ(ring.segments.size(), 4u);
    for (const Segment& s : blunt.segments)
        EXPECT_LT(nearestNode(ring, s.end), 0.4);
}

TEST(Refine, AveragesGrainAway) {
    Contour disc{{100.3, 65}, {}};
    const double k = 0.5522847498 * 35;
    disc.segments = {Segment::curve({100.3, 65 + k}, {65.3 + k, 100}, {65.3, 100}),
                     Segment::curve({65.3 - k, 100}, {30.3, 65 + k}, {30.3, 65}),
                     Segment::curve({30.3, 65 - k}, {65.3 - k, 30}, {65.3, 30}),
                     Segment::curve({65.3 + k, 30}, {100.3, 65 - k}, {100.3, 65})};
    const Contour ring = ringOf(pictureOf(disc, 130, {}, 8));
    EXPECT_LE(ring.segments.size(), 6u);
    EXPECT_LT(farthest(ring, disc), 0.15);
    EXPECT_NEAR(std::abs(geometry::signedArea(ring)), geometry::signedArea(disc),
                0.004 * geometry::signedArea(disc));
}

// A blurred square: its half-level line is rounded, its sides and corners are where they were.
TEST(Refine, SeesThroughBlur) {
    const Contour square =
        geometry::contourThrough({{30.4, 40.7}, {90.1, 35.2}, {95.6, 94.9}, {35.9, 100.4}});
    for (const double variance : {0.5, 1.0, 2.0}) {
        const Contour ring = ringOf(pictureOf(square, 130, raster::spreadOf(variance), 0));
        ASSERT_EQ(ring.segments.size(), 4u) << variance;
        EXPECT_LT(farthest(ring, square), 0.12) << variance;
        for (const Segment& s : square.segments)
            EXPECT_LT(nearestNode(ring, s.end), 0.15) << variance;
    }
}

TEST(Refine, LeavesWhatHasNoLevelsAlone) {
    raster::LabelMap labels{40, 40, std::vector<std::int32_t>(1600, 0)};
    for (int y = 10; y < 12; ++y)
        for (int x = 5; x < 35; ++x)
            labels.labels[static_cast<size_t>(y * 40 + x)] = 1;
    const auto borders = raster::findBorders(labels, {0, 0});
    const raster::LevelAt flat = [](int, int) { return 100.0; };
    for (const raster::Border& border : borders->all) {
        if (border.right < 0 || border.left < 0)
            continue;
        EXPECT_FALSE(plainLevels(labels, border, flat)) << "two pixels are nowhere three deep";
    }
}

TEST(Softness, IsWhatThePictureWasBlurredBy) {
    const Contour square =
        geometry::contourThrough({{30.4, 40.7}, {90.1, 35.2}, {95.6, 94.9}, {35.9, 100.4}});
    for (const double variance : {0.0, 0.5, 1.0, 2.0}) {
        const raster::Grey grey = pictureOf(square, 130, raster::spreadOf(variance), 3);
        raster::LabelMap labels{grey.width, grey.height, {}};
        for (const std::uint8_t v : grey.values)
            labels.labels.push_back(v < 130);
        const auto borders = raster::findBorders(labels, {0, 0});
        const double found = raster::softnessOf(
            labels, *borders, [&](const raster::Border&) { return raster::levelsOf(grey); });
        EXPECT_NEAR(found, variance, 0.06 + 0.12 * variance);
    }
    EXPECT_EQ(raster::spreadOf(0.03).reach(), 0);
    double all = 0, square1 = 0;
    const raster::Spread spread = raster::spreadOf(1.3);
    for (int k = -spread.reach(); k <= spread.reach(); ++k) {
        const double tap = spread.taps[static_cast<size_t>(k + spread.reach())];
        all += tap;
        square1 += tap * k * k;
    }
    EXPECT_NEAR(all, 1, 1e-12);
    EXPECT_NEAR(square1, 1.3, 1e-12);
}

} // namespace
} // namespace thinline::trace
