// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "folds/Foam.h"

#include "geometry/Boolean.h"
#include "geometry/Measures.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

namespace thinline::folds {
namespace {

using geometry::Point;
using geometry::Shape;
using support::rectangle;

/// A bed of cells of 1 mm over a shape that lies on one height all over.
FoamBed bedOf(const Shape& shape, float heightMm = 2) {
    const geometry::Box box = geometry::bounds(shape);
    FoamBed out{box.least, 1, {}, {}};
    out.card.width = static_cast<int>(std::ceil(box.width()));
    out.card.height = static_cast<int>(std::ceil(box.height()));
    const auto rings = geometry::flatten(shape, 0.01);
    for (int y = 0; y < out.card.height; ++y)
        for (int x = 0; x < out.card.width; ++x) {
            bool isCard = true;
            for (int k = 0; k < 36 && isCard; ++k)
                isCard = geometry::contains(
                    rings, box.least + Point{x + 0.002 + 0.1992 * (k % 6), y + 0.002 + 0.1992 * (k / 6)});
            out.card.values.push_back(isCard ? 255 : 0);
            out.heightMm.push_back(isCard ? heightMm : 0);
        }
    return out;
}
FoamSpots spotsOf(const FoamBed& bed, double across = 8) {
    auto out = foamSpotsOf(bed, {true, across});
    EXPECT_TRUE(out);
    return out ? out.take() : FoamSpots{};
}
void expectInside(const FoamSpots& spots, const Shape& shape) {
    for (const FoamSpot& spot : spots.all) {
        EXPECT_TRUE(geometry::contains(shape, spot.middle));
        EXPECT_GE(geometry::nearestOnEdge(shape, spot.middle)->distance,
                  spot.acrossMm / 2 + kFoamToEdgeMm - 0.01)
            << spot.middle.x << " " << spot.middle.y;
        EXPECT_GE(spot.acrossMm, kLeastSpotMm);
    }
}
double furthestFrom(const FoamSpots& spots, Point p) {
    double least = INFINITY;
    for (const FoamSpot& spot : spots.all)
        least = std::min(least, geometry::distance(spot.middle, p));
    return least;
}

TEST(Foam, OneSpotHoldsASmallPiece) {
    const FoamSpots spots = spotsOf(bedOf(rectangle(10, 10, 19, 16)));
    ASSERT_EQ(spots.all.size(), 1u);
    EXPECT_NEAR(spots.all[0].middle.x, 19.5, 1.5);
    EXPECT_NEAR(spots.all[0].middle.y, 18, 1.5);
    expectInside(spots, rectangle(10, 10, 19, 16));
}

TEST(Foam, ALargerPieceHasThreeAndNoPartSags) {
    expectInside(spotsOf(bedOf(rectangle(0, 0, 30, 30))), rectangle(0, 0, 30, 30));
    EXPECT_EQ(spotsOf(bedOf(rectangle(0, 0, 30, 30))).all.size(), 3u);
    const Shape plate = rectangle(0, 0, 200, 120);
    const FoamSpots spots = spotsOf(bedOf(plate));
    expectInside(spots, plate);
    EXPECT_GE(spots.all.size(), 8u);
    EXPECT_LE(spots.all.size(), 30u) << "foam is dear";
    for (double x = 8; x < 193; x += 5)
        for (double y = 8; y < 113; y += 5)
            EXPECT_LE(furthestFrom(spots, {x, y}), kFoamReachMm + 2) << x << " " << y;
}

TEST(Foam, EveryLongArmHasItsOwn) {
    // A disc with four bars of 14 mm that reach 40 mm beyond it.
    std::vector<Shape> parts{support::disc({0, 0}, 30), rectangle(-70, -7, 140, 14),
                             rectangle(-7, -70, 14, 140)};
    const Shape star = geometry::weld(parts).take().front();
    const FoamSpots spots = spotsOf(bedOf(star));
    expectInside(spots, star);
    EXPECT_EQ(spots.armsWithout, 0);
    for (const Point tip : {Point{65, 0}, {-65, 0}, {0, 65}, {0, -65}})
        EXPECT_LT(furthestFrom(spots, tip), 36) << tip.x << " " << tip.y;
    // Bars of 7 mm have no room.
    parts = {support::disc({0, 0}, 30), rectangle(-70, -3.5, 140, 7), rectangle(-3.5, -70, 7, 140)};
    const Shape thin = geometry::weld(parts).take().front();
    EXPECT_EQ(spotsOf(bedOf(thin)).armsWithout, 4);
    expectInside(spotsOf(bedOf(thin)), thin);
}

TEST(Foam, StandsOnOneHeightAndNowhereElse) {
    FoamBed bed = bedOf(rectangle(0, 0, 80, 40));
    for (size_t i = 0; i < bed.heightMm.size(); ++i) {
        const size_t x = i % 80;
        bed.heightMm[i] = x < 30 ? 2.f : x < 50 ? 0.f : 1.5f;
    }
    const FoamSpots spots = spotsOf(bed);
    int low = 0, high = 0;
    for (const FoamSpot& spot : spots.all) {
        const double left = spot.middle.x - spot.acrossMm / 2, right = spot.middle.x + spot.acrossMm / 2;
        EXPECT_TRUE((right <= 27 && spot.heightMm == 2) || (left >= 53 && spot.heightMm == 1.5)) << left;
        (spot.heightMm == 2 ? high : low) += 1;
    }
    EXPECT_GE(low, 1);
    EXPECT_GE(high, 1);
}

TEST(Foam, HasNoRoomUnderAStrip) {
    EXPECT_TRUE(spotsOf(bedOf(rectangle(0, 0, 60, 8))).all.empty());
    EXPECT_TRUE(spotsOf(FoamBed{}).all.empty());
    FoamBed flat = bedOf(rectangle(0, 0, 60, 60), 0.3f);
    EXPECT_TRUE(spotsOf(flat).all.empty()) << "too low for foam: it is glued";
}

// Whatever the shape: inside by the margin, and no place for a spot further from the next than the reach, as the crow
// flies never more than along the card.
TEST(Foam, KeepsItsMarginsOnAnyShape) {
    std::mt19937 random(5);
    std::uniform_real_distribution<double> place(0, 120), size(12, 60);
    for (int round = 0; round < 25; ++round) {
        std::vector<Shape> parts;
        for (int i = 0; i < 5; ++i)
            parts.push_back(i % 2 == 0 ? rectangle(place(random), place(random), size(random), size(random))
                                       : support::disc({place(random), place(random)}, size(random) / 2));
        const std::vector<Shape> all = geometry::weld(parts).take();
        for (const Shape& shape : all)
            expectInside(spotsOf(bedOf(shape), 4 + round % 8), shape);
    }
}

} // namespace
} // namespace thinline::folds
