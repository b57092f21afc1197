// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/Camera.h"

#include "raster/Targets.h"
#include "support/MarkPictures.h"

#include <gtest/gtest.h>

namespace thinline::devices {
namespace {

using geometry::Point;

constexpr double kPagePxPerMm = 8;

TEST(Camera, APlaceIsSeenWhereItIsAndBack) {
    CameraLook look;
    look.tiltDeg = 14;
    look.tiltTowardsDeg = 35;
    look.turnDeg = 5;
    look.bend = 0.03;
    const Camera camera(look, 215.9, 279.4);
    for (double x = 0; x <= 215; x += 43)
        for (double y = 0; y <= 279; y += 31)
            EXPECT_LT(geometry::distance(camera.toMm(camera.toPx({x, y})), {x, y}), 1e-6);
}

// The camera shares no code with the finder: where every mark lies in its picture is known.
TEST(Camera, MarksAreFoundWithinATenthOfAPixel) {
    double sum = 0, worst = 0;
    int found = 0, invented = 0;
    constexpr unsigned kPictures = 6;
    for (unsigned seed = 1; seed <= kPictures; ++seed) {
        const support::RandomLook one = support::randomLook(seed);
        const Camera camera(one.look, one.layout.widthMm, one.layout.heightMm);
        const auto seen = raster::findTargets(
            camera.photoOf(support::markPage(one.layout, {1, false}, kPagePxPerMm), kPagePxPerMm));
        ASSERT_TRUE(seen);
        int here = 0;
        for (const raster::SeenTarget& target : *seen) {
            double least = 1e9;
            for (const Point mark : one.layout.marks)
                least = std::min(least, geometry::distance(camera.toPx(mark), target.at));
            if (least > 2) {
                ++invented;
                continue;
            }
            ++here;
            sum += least;
            worst = std::max(worst, least);
        }
        EXPECT_EQ(here, 4) << "picture " << seed << " at " << one.look.pxPerMm << " px/mm";
        found += here;
    }
    EXPECT_EQ(invented, 0);
    EXPECT_LT(sum / found, 0.1) << "worst " << worst;
}

} // namespace
} // namespace thinline::devices
