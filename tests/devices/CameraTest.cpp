// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/Camera.h"

#include "print/Page.h"
#include "raster/Canvas.h"
#include "raster/Targets.h"

#include <gtest/gtest.h>

#include <random>

namespace thinline::devices {
namespace {

using geometry::Point;

constexpr double kPagePxPerMm = 8;

raster::Picture pageOf(const print::PageLayout& layout) {
    raster::Canvas canvas(static_cast<int>(layout.widthMm * kPagePxPerMm),
                          static_cast<int>(layout.heightMm * kPagePxPerMm), {255, 255, 255});
    geometry::Polygons rings = print::marksOn(layout, {1, false});
    for (auto& ring : rings)
        for (Point& p : ring)
            p = p * kPagePxPerMm;
    canvas.fill(rings, {0, 0, 0});
    return canvas.picture();
}

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

/// One of the pictures of the goal: everything drawn at random within what is said.
struct Random {
    CameraLook look;
    print::PageLayout layout = print::layoutOf(215.9, 279.4, 6.35, true);
};
Random randomLook(unsigned seed) {
    std::mt19937 random(seed);
    const auto between = [&](double least, double most) {
        return std::uniform_real_distribution<double>(least, most)(random);
    };
    Random out;
    CameraLook& look = out.look;
    look.pxPerMm = between(1.35, 4); // 12 px across at the far end at least
    look.widthPx = static_cast<int>(240 * look.pxPerMm);
    look.heightPx = static_cast<int>(310 * look.pxPerMm);
    look.tiltDeg = between(0, 15);
    look.tiltTowardsDeg = between(0, 360);
    look.turnDeg = between(-4, 4);
    look.bend = between(-0.03, 0.03);
    look.blurPx = between(0, 1.5);
    look.noiseLevels = between(0, 8);
    look.shadow = between(0, 0.6);
    look.shadowTurnDeg = between(0, 360);
    // Its edge runs across a mark.
    look.shadowAtMm = out.layout.marks[seed % 4] + Point{between(-4, 4), between(-4, 4)};
    look.shadowSoftMm = between(0.3, 6);
    look.seed = seed;
    return out;
}

// The camera shares no code with the finder: where every mark lies in its picture is known.
TEST(Camera, MarksAreFoundWithinATenthOfAPixel) {
    double sum = 0, worst = 0;
    int found = 0, invented = 0;
    constexpr unsigned kPictures = 8;
    for (unsigned seed = 1; seed <= kPictures; ++seed) {
        const Random one = randomLook(seed);
        const Camera camera(one.look, one.layout.widthMm, one.layout.heightMm);
        const auto seen = raster::findTargets(camera.photoOf(pageOf(one.layout), kPagePxPerMm));
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
