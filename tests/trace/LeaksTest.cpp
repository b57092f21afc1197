// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Placing.h"
#include "support/Drawings.h"
#include "support/Shapes.h"
#include "trace/Tracing.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

namespace thinline::trace {
namespace {

using geometry::Point;
using geometry::Shape;
using support::disc;
using support::Drawing;
using support::rectangle;

constexpr double kMmPerPx = 0.125;
constexpr raster::Rgb kWhite{255, 255, 255};

std::vector<Leak> leaksIn(const raster::Picture& picture) {
    const auto found = traced(picture, kMmPerPx, {});
    EXPECT_TRUE(found) << (found ? "" : found.error().message);
    return found ? found->leaks : std::vector<Leak>{};
}

/// Two arcs that meet in tips, lying level.
Shape almond(Point middle, double length, double height) {
    geometry::Contour out{{middle.x - length / 2, middle.y}, {}};
    out.segments = {geometry::Segment::curve({middle.x - length / 4, middle.y - height * 2 / 3},
                                             {middle.x + length / 4, middle.y - height * 2 / 3},
                                             {middle.x + length / 2, middle.y}),
                    geometry::Segment::curve({middle.x + length / 4, middle.y + height * 2 / 3},
                                             {middle.x - length / 4, middle.y + height * 2 / 3},
                                             {middle.x - length / 2, middle.y})};
    return {out, {}};
}

TEST(Leaks, ADrawingWithoutGapsHasNone) {
    {
        Drawing drawing(640, 220); // a row of almonds within a frame, tips 1.5 mm apart
        drawing.ring(rectangle(10, 10, 620, 200), rectangle(16, 16, 608, 188));
        for (int i = 0; i < 6; ++i) {
            const Point middle{70.0 + 100 * i, 110};
            drawing.ring(almond(middle, 88, 60), almond(middle, 68, 45));
        }
        EXPECT_EQ(leaksIn(drawing.picture()).size(), 0u) << "almonds in outline";
    }
    {
        Drawing drawing(640, 220);
        drawing.ring(rectangle(10, 10, 620, 200), rectangle(16, 16, 608, 188));
        for (int i = 0; i < 6; ++i)
            drawing.ink(almond({70.0 + 100 * i, 110}, 88, 60));
        EXPECT_EQ(leaksIn(drawing.picture()).size(), 0u) << "almonds filled";
    }
    {
        Drawing drawing(400, 300); // lines side by side, from edge to edge of a frame
        drawing.ring(rectangle(20, 20, 360, 260), rectangle(26, 26, 348, 248));
        for (int i = 0; i < 8; ++i)
            drawing.ink(rectangle(60 + 14 * i, 20, 5, 260));
        EXPECT_EQ(leaksIn(drawing.picture()).size(), 0u) << "parallel lines";
    }
    {
        Drawing drawing(420, 300); // closed shapes side by side
        drawing.ring(rectangle(10, 10, 400, 280), rectangle(16, 16, 388, 268));
        drawing.ring(disc({120, 150}, 80), disc({120, 150}, 74)).ring(disc({290, 150}, 80), disc({290, 150}, 74));
        EXPECT_EQ(leaksIn(drawing.picture()).size(), 0u) << "two rings";
    }
    {
        Drawing drawing(400, 320); // a stencil's letter: thick strokes whose openings are meant
        drawing.ring(disc({200, 160}, 120), disc({200, 160}, 84));
        drawing.fill(rectangle(60, 154, 280, 12), kWhite);
        EXPECT_EQ(leaksIn(drawing.picture()).size(), 0u) << "stencil letter";
    }
}

TEST(Leaks, GapsUpToThreeLineWidthsAndThreeMillimetresAreAllFound) {
    for (const double line : {4.0, 6.0, 9.0})
        for (const double widths : {1.0, 2.0, 3.0}) {
            const double gap = std::min(widths * line, 3 / kMmPerPx - 1);
            Drawing drawing(700, 340);
            drawing.ring(disc({170, 170}, 130), disc({170, 170}, 130 - line)); // open where it is bent
            const double turn = 0.7;
            drawing.fill(geometry::transformed(rectangle(170 + 110, 170 - gap / 2, 40, gap),
                                               geometry::turnAbout({170, 170}, turn)),
                         kWhite);
            drawing.ring(rectangle(380, 40, 280, 260), rectangle(380 + line, 40 + line, 280 - 2 * line, 260 - 2 * line));
            drawing.fill(rectangle(470, 30, gap, 40), kWhite);              // where it is straight
            drawing.ink(rectangle(560, 40, line, 260 - line - gap));        // a line that stops short of another
            const std::vector<Leak> leaks = leaksIn(drawing.picture());
            const Point bent = geometry::turnAbout({170, 170}, turn)(Point{170 + 130 - line / 2, 170});
            for (const Point place : {bent, Point{470 + gap / 2, 40 + line / 2},
                                      Point{560 + line / 2, 300 - line - gap / 2}})
                EXPECT_TRUE(std::any_of(leaks.begin(), leaks.end(),
                                        [&](const Leak& leak) {
                                            return leak.closure && geometry::distance(leak.place, place) < gap / 2 + 3 &&
                                                   std::abs(leak.widthPx - gap) < 2.5;
                                        }))
                    << "line " << line << ", gap " << gap << " at " << place.x << " " << place.y;
            EXPECT_LE(leaks.size(), 3u) << "line " << line << ", gap " << gap;
        }
}

} // namespace
} // namespace thinline::trace
