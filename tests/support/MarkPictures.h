// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "devices/Camera.h"
#include "print/Page.h"
#include "raster/Canvas.h"

#include <random>

/// Pages with marks, and cameras that look at them.
namespace thinline::support {

inline raster::Picture markPage(const print::PageLayout& layout, print::PageNumber number, double pxPerMm) {
    raster::Canvas canvas(static_cast<int>(layout.widthMm * pxPerMm),
                          static_cast<int>(layout.heightMm * pxPerMm), {255, 255, 255});
    geometry::Polygons rings = print::marksOn(layout, number);
    for (auto& ring : rings)
        for (geometry::Point& p : ring)
            p = p * pxPerMm;
    canvas.fill(rings, {0, 0, 0});
    return canvas.picture();
}

/// One of the pictures of the goal: everything drawn at random within what is said.
struct RandomLook {
    devices::CameraLook look;
    print::PageLayout layout = print::layoutOf(215.9, 279.4, 6.35, true);
};
inline RandomLook randomLook(unsigned seed) {
    std::mt19937 random(seed);
    const auto between = [&](double least, double most) {
        return std::uniform_real_distribution<double>(least, most)(random);
    };
    RandomLook out;
    devices::CameraLook& look = out.look;
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
    look.shadowAtMm = out.layout.marks[seed % 4] + geometry::Point{between(-4, 4), between(-4, 4)};
    look.shadowSoftMm = between(0.3, 6);
    look.seed = seed;
    return out;
}

} // namespace thinline::support
