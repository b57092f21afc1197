// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "folds/Motif.h"

#include "folds/Panes.h"
#include "folds/Steps.h"
#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "geometry/Offset.h"
#include "geometry/Placing.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

#include <numbers>

namespace thinline::folds {
namespace {

using geometry::Point;
using geometry::Shape;
using support::disc;
using support::rectangle;

constexpr double kPi = std::numbers::pi;

/// A card of 100 x 80 mm with a window in its middle.
design::Body cardWith(const Shape& window) {
    return {support::withOpening(rectangle(0, 0, 100, 80), window)};
}

MotifFit fitted(const design::Body& body, Point window, const Shape& motif, const MotifWish& wish = {}) {
    auto out = fitMotif(body, window, motif, wish);
    EXPECT_TRUE(out && out->whyNot.empty()) << (out ? out->whyNot : out.error().message);
    return out ? out.take() : MotifFit{};
}

/// How wide a disc of radius r covers a straight edge it reaches beyond by d: a chord, 2 sqrt(d (2 r - d)).
double chord(double r, double d) {
    return 2 * std::sqrt(d * (2 * r - d));
}

TEST(Motif, ADiscInASquareWindowHoldsByItsChords) {
    const MotifWish wish{.overlapMm = 1.5, .contactMm = 3, .sides = 4};
    const MotifFit fit = fitted(cardWith(rectangle(30, 20, 40, 40)), {50, 40}, disc({-200, 7}, 5), wish);
    EXPECT_NEAR(fit.scale * 5, 21.5, 0.1) << "half the window and the overlap";
    EXPECT_NEAR(geometry::distance(fit.placed({-200, 7}), {50, 40}), 0, 0.1);
    ASSERT_EQ(fit.holds.size(), 4u);
    EXPECT_EQ(fit.sides, 4);
    for (const Contact& one : fit.holds)
        EXPECT_NEAR(one.widthMm, chord(21.5, 1.5), 0.7) << "by hand: 15.8 mm";
    EXPECT_EQ(fit.whole.openings.size(), 4u) << "the corners of the window stay open";
    const double covered = 40 * 40 - (geometry::area(rectangle(0, 0, 100, 80)) - geometry::area(fit.whole));
    EXPECT_NEAR(covered,
                geometry::area(
                    geometry::intersect({rectangle(30, 20, 40, 40)}, {disc({50, 40}, 21.5)}).take().front()),
                8);
}

TEST(Motif, ATallOneSlidesToWhereItHoldsOnThreeSides) {
    // 20 x 60 in a window of 60 x 40: as high as the window and its overlaps, 43; it can slide 23 mm to either side.
    const Shape motif = rectangle(0, 0, 20, 60);
    const MotifFit two = fitted(cardWith(rectangle(20, 20, 60, 40)), {50, 40}, motif, {.overlapMm = 1.5});
    EXPECT_NEAR(two.scale * 60, 43, 0.1);
    EXPECT_EQ(two.sides, 3) << "above, below, and at one end";
    double widest = 0;
    for (const Contact& one : two.holds)
        widest = std::max(widest, one.widthMm);
    EXPECT_NEAR(widest, 40 + 2 * (two.scale * 20 - 1.5), 0.5) << "around the whole end of the window";
    EXPECT_EQ(contactText(two.holds.front(), 3), "65.7 mm top bottom left");
}

TEST(Motif, StaysOffFoldsEdgesAndOtherWindows) {
    design::Body body = cardWith(rectangle(30, 20, 40, 40));
    body.lines.push_back({design::LineId{1}, {{73, 0}, {geometry::Segment::line({73, 80})}}, design::Fold{}});
    body.shape = support::withOpening(body.shape, rectangle(30, 63, 40, 10));
    const MotifWish wish{.overlapMm = 10, .contactMm = 3, .sides = 2};
    const MotifFit fit = fitted(body, {50, 40}, rectangle(0, 0, 10, 10), wish);
    const geometry::Box box = geometry::bounds(geometry::transformed(rectangle(0, 0, 10, 10), fit.placed));
    EXPECT_LT(box.most.x, 73 - kMotifClearMm + 0.05);
    EXPECT_LT(box.most.y, 63 - kMotifClearMm + 0.05);
    EXPECT_NEAR(box.height(), 51, 0.15) << "from 10 mm above the window to 2 mm off the next one";
    EXPECT_NEAR(geometry::area(fit.whole), 100 * 80 - 400, 1) << "it fills the window, the other one stays";
}

TEST(Motif, IsTurnedAsItsPanelIsRead) {
    // A flap folded back over the top edge is read upside down from outside.
    design::Body body = cardWith(rectangle(40, 8, 20, 16));
    body.lines.push_back(
        {design::LineId{1}, {{0, 32}, {geometry::Segment::line({100, 32})}}, design::Fold{{}, false, 180}});
    const Shape wedge{geometry::contourThrough({{0, 0}, {6, 12}, {-6, 12}}), {}}; // its tip is up
    const MotifFit fit = fitted(body, {50, 16}, wedge, {.overlapMm = 1, .contactMm = 0.5, .sides = 1});
    EXPECT_GT(fit.placed({0, 0}).y, fit.placed({0, 12}).y) << "its tip is down";
}

TEST(Motif, NarrowGapsAreFilledWhenAsked) {
    const auto body = cardWith(rectangle(30, 20, 40, 40));
    const Shape motif = disc({0, 0}, 10);
    const MotifFit open = fitted(body, {50, 40}, motif);
    MotifWish wish;
    wish.fillMm = 0.8;
    const MotifFit filled = fitted(body, {50, 40}, motif, wish);
    EXPECT_EQ(open.filledMm2, 0);
    EXPECT_GT(filled.filledMm2, 0.5) << "beside the contacts the gap runs out to nothing";
    EXPECT_NEAR(geometry::area(filled.whole) - geometry::area(open.whole), filled.filledMm2, 1e-6);
    EXPECT_EQ(geometry::bounds(filled.whole), geometry::bounds(open.whole)) << "the outline is as it was";
}

TEST(Motif, WhatCannotBeIsSaid) {
    const auto body = cardWith(rectangle(30, 20, 40, 40));
    const Shape motif = disc({0, 0}, 10);
    const auto saidOf = [&](Point at, const Shape& what, const MotifWish& wish) {
        const auto out = fitMotif(body, at, what, wish);
        return out ? out->whyNot : out.error().message;
    };
    EXPECT_EQ(saidOf({5, 5}, motif, {}), "There is no window at that place.");
    EXPECT_NE(saidOf({50, 40}, motif, {.contactMm = 40}).find("would hold on 0 sides, 2 are asked"),
              std::string::npos);
    EXPECT_NE(saidOf({50, 40}, rectangle(0, 0, 10, 1), {.overlapMm = 1, .contactMm = 0.5, .sides = 4})
                  .find("would hold on"),
              std::string::npos);
    EXPECT_NE(saidOf({50, 40}, motif, {.sides = 5}).find("1 to 4"), std::string::npos);
    EXPECT_NE(saidOf({50, 40}, motif, {.overlapMm = NAN}).find("0.2 to 50 mm"), std::string::npos);
}

// Whatever the motif: never beyond its room, and no larger one fits.
TEST(Motif, IsAsLargeAsItsRoomAndNoLarger) {
    const Shape window =
        geometry::transformed(support::dumbbell(16, 8, 10), geometry::Transform::move({28, 30}));
    const auto body = cardWith(window);
    for (const int corners : {3, 4, 5, 7}) {
        geometry::Polygon star;
        for (int i = 0; i < 2 * corners; ++i) {
            const double a = kPi * i / corners, r = i % 2 == 0 ? 10 : 5;
            star.push_back({r * std::cos(a), r * std::sin(a)});
        }
        const Shape motif{geometry::contourThrough(star), {}};
        const MotifFit fit = fitted(body, {36, 38}, motif, {.overlapMm = 1.5, .contactMm = 0.5, .sides = 1});
        const Shape placed = geometry::transformed(motif, fit.placed);
        const Shape room =
            geometry::offset({window}, 1.5, {.join = geometry::Join::Mitre}).take().shapes.front();
        EXPECT_NEAR(geometry::area(geometry::subtract({placed}, {room}).take().empty()
                                       ? Shape{}
                                       : geometry::subtract({placed}, {room}).take().front()),
                    0, 0.2);
        // A twentieth larger, it fits at none of 60 x 60 places.
        const Shape larger =
            geometry::transformed(motif, geometry::Transform::scale(1.05 * fit.scale, 1.05 * fit.scale));
        const geometry::Polygons flat = geometry::flatten(room, 0.01);
        const geometry::Polygon points = geometry::flatten(larger.outline, 0.05);
        const geometry::Box box = geometry::bounds(room);
        int fits = 0;
        for (int y = 0; y <= 60; ++y)
            for (int x = 0; x <= 60; ++x) {
                const Point at = box.least + Point{box.width() * x / 60, box.height() * y / 60};
                fits += std::all_of(points.begin(), points.end(),
                                    [&](Point p) { return geometry::contains(flat, p + at); });
            }
        EXPECT_EQ(fits, 0) << corners;
    }
}

} // namespace
} // namespace thinline::folds
