// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "raster/Targets.h"

#include "raster/Canvas.h"
#include "raster/Subject.h"
#include "support/NoTargets.h"

#include <gtest/gtest.h>

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

TEST(Targets, NoneIsInventedWhereThereIsNone) {
    int invented = 0;
    for (unsigned seed = 1; seed <= 12; ++seed) {
        const auto seen = findTargets(support::withoutTargets(seed));
        ASSERT_TRUE(seen);
        invented += static_cast<int>(seen->size());
    }
    EXPECT_EQ(invented, 0);
    EXPECT_TRUE(findTargets({})->empty());
    EXPECT_TRUE(findTargets({3, 3, std::vector<std::uint8_t>(27, 200)})->empty());
}

TEST(Targets, StoppingIsHeard) {
    const std::atomic<bool> stop = true;
    EXPECT_EQ(findTargets(support::withoutTargets(1), base::Progress(&stop, nullptr)).error().code,
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
