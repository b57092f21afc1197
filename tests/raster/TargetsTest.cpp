// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Targets.h"

#include "raster/Canvas.h"
#include "raster/Subject.h"

#include <gtest/gtest.h>

#include <random>

namespace thinline::raster {
namespace {

using geometry::Point;

geometry::Polygons targetAt(Point at, double pxPerMm) {
    geometry::Polygons out = targetRings();
    for (auto& ring : out)
        for (Point& p : ring)
            p = at + p * pxPerMm;
    return out;
}

TEST(Targets, OneIsFoundWhereItWasDrawnAtAnySize) {
    for (const double radius : {6.0, 9.5, 17.0, 30.0, 44.0}) {
        Canvas canvas(600, 500, {240, 238, 230});
        const Point at{233.37, 187.81};
        canvas.fill(targetAt(at, radius / kTarget.outerMm), {30, 28, 26});
        const auto seen = findTargets(canvas.picture());
        ASSERT_TRUE(seen);
        ASSERT_EQ(seen->size(), 1u) << radius;
        EXPECT_LT(geometry::distance(seen->front().at, at), 0.03) << radius;
        EXPECT_NEAR(seen->front().radiusPx, radius, 0.03 * radius);
        EXPECT_GT(seen->front().likeness, 0.98);
    }
}

/// Pictures with everything but targets: rings, crosses, letters' shapes, bars, stripes, noise.
Picture withoutTargets(unsigned seed) {
    std::mt19937 random(seed);
    const auto between = [&](double least, double most) {
        return std::uniform_real_distribution<double>(least, most)(random);
    };
    const auto colour = [&] {
        return Rgb{static_cast<std::uint8_t>(between(0, 255)), static_cast<std::uint8_t>(between(0, 255)),
                   static_cast<std::uint8_t>(between(0, 255))};
    };
    Canvas canvas(360, 280, colour());
    const geometry::Polygons target = targetRings();
    for (int i = 0; i < 40; ++i) {
        const Point at{between(0, 360), between(0, 280)};
        const double size = between(0.8, 6);
        const auto put = [&](geometry::Polygons rings) {
            for (auto& ring : rings)
                for (Point& p : ring)
                    p = at + p * size;
            canvas.fill(rings, colour());
        };
        switch (static_cast<int>(between(0, 6))) {
        case 0:
            put({target[0], target[1]}); // a ring
            break;
        case 1:
            put({target[2]}); // a cross
            break;
        case 2:
            put({target[0]}); // a disc
            break;
        case 3:
            put({{{-5, -1}, {5, -1}, {5, 1}, {-5, 1}}});
            break;
        case 4: // a ring with a bar across
            put({target[0], target[1]});
            put({{{-3.5, -0.6}, {3.5, -0.6}, {3.5, 0.6}, {-3.5, 0.6}}});
            break;
        default:
            put({{{-4, -4}, {4, -4}, {4, 4}, {-4, 4}}});
        }
    }
    Picture out = canvas.picture();
    std::normal_distribution<double> noise(0, between(0, 8));
    for (std::uint8_t& value : out.rgb)
        value = static_cast<std::uint8_t>(std::clamp(value + noise(random), 0.0, 255.0));
    return out;
}

TEST(Targets, NoneIsInventedWhereThereIsNone) {
    int invented = 0;
    for (unsigned seed = 1; seed <= 20; ++seed) {
        const auto seen = findTargets(withoutTargets(seed));
        ASSERT_TRUE(seen);
        invented += static_cast<int>(seen->size());
    }
    EXPECT_EQ(invented, 0);
    EXPECT_TRUE(findTargets({})->empty());
    EXPECT_TRUE(findTargets({3, 3, std::vector<std::uint8_t>(27, 200)})->empty());
}

TEST(Targets, StoppingIsHeard) {
    const std::atomic<bool> stop = true;
    EXPECT_EQ(findTargets(withoutTargets(1), base::Progress(&stop, nullptr)).error().code,
              base::Code::Cancelled);
}

TEST(Subject, IsWhereMostIsToBeSeen) {
    Canvas canvas(400, 300, {180, 200, 220});
    for (int i = 0; i < 12; ++i)
        canvas.fill({{{280.0 + i * 5, 60}, {282.0 + i * 5, 60}, {282.0 + i * 5, 110}, {280.0 + i * 5, 110}}},
                    {20, 20, 20});
    const Point at = subjectOf(canvas.picture());
    EXPECT_NEAR(at.x, 0.77, 0.1);
    EXPECT_NEAR(at.y, 0.28, 0.1);
    EXPECT_EQ(subjectOf(Canvas(400, 300, {9, 9, 9}).picture()), (Point{0.5, 0.5}));
    EXPECT_EQ(subjectOf({}), (Point{0.5, 0.5}));
}

} // namespace
} // namespace thinline::raster
