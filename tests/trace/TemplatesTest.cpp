// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "geometry/Offset.h"
#include "geometry/Placing.h"
#include "support/Drawings.h"
#include "support/Shapes.h"
#include "support/Templates.h"
#include "trace/Tracing.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numbers>

// Templates as people print and scan them, drawn by rule, so that the truth is known: the outline is the
// inner edge of the pen's line, a fold runs from there to there.
namespace thinline::trace {
namespace {

using geometry::Point;
using geometry::Polygon;

using support::Template, support::box, support::envelope, support::lantern, support::wheel, support::card;

struct Pen {
    std::string name;
    double outlineMm = 0.5, foldMm = 0.5, dashMm = 0, gapMm = 0,
           firstMm = 0; ///< `firstMm`: what is left of the first dash
};

struct Scan {
    double pxPerMm = 8, turnDeg = 0, blurPx = 0;
    int noise = 0;
};

raster::Picture drawn(const Template& what, const Pen& pen, const Scan& scan, geometry::Transform& placed) {
    geometry::Box all;
    for (const geometry::Shape& piece : what.pieces)
        all.include(geometry::bounds(piece));
    placed = geometry::turnAbout(all.centre(), scan.turnDeg * std::numbers::pi / 180)
                 .then(geometry::Transform::scale(scan.pxPerMm, scan.pxPerMm));
    geometry::Box px;
    for (const geometry::Shape& piece : what.pieces)
        px.include(geometry::bounds(geometry::transformed(piece, placed)));
    placed = placed.then(geometry::Transform::move(Point{30.3, 30.6} - px.least));
    support::Drawing drawing(static_cast<int>(px.width()) + 61, static_cast<int>(px.height()) + 61);
    const double half = pen.outlineMm / 2;
    for (const geometry::Shape& piece : what.pieces) {
        geometry::OffsetOptions sharp{.join = geometry::Join::Mitre, .mitreLimit = 6};
        const auto outer = geometry::offset({piece}, half, sharp).take().shapes.at(0),
                   inner = geometry::offset({piece}, -half, sharp).take().shapes.at(0);
        geometry::Polygons rings = geometry::flatten(geometry::transformed(outer, placed), 0.02);
        for (Polygon ring : geometry::flatten(geometry::transformed(inner, placed), 0.02)) {
            std::reverse(ring.begin(), ring.end());
            rings.push_back(ring);
        }
        drawing.ink(rings);
    }
    for (const auto& [from, to] : what.folds) {
        const double length = geometry::distance(from, to);
        const Point along = geometry::direction(to - from),
                    side = Point{-along.y, along.x} * (pen.foldMm / 2);
        const double dash = pen.dashMm > 0 ? pen.dashMm : length;
        for (double at = pen.dashMm > 0 ? pen.firstMm - pen.dashMm : 0; at < length; at += dash + pen.gapMm) {
            const Point a = from + along * std::max(0.0, at), b = from + along * std::min(length, at + dash);
            if (at + dash > 0)
                drawing.ink(geometry::transformed(support::through({a - side, b - side, b + side, a + side}), placed));
        }
    }
    return support::scanned(drawing.picture(), scan.blurPx, scan.noise);
}

double toOutline(Point p, const geometry::Polygons& rings) {
    double least = 1e9;
    for (const Polygon& ring : rings)
        for (size_t i = 0; i < ring.size(); ++i)
            least = std::min(least, geometry::distanceToStretch(p, ring[i], ring[(i + 1) % ring.size()]));
    return least;
}

struct Found {
    int pieces = 0, openings = 0, folds = 0;
    int wantedPieces = 0, wantedOpenings = 0, wantedFolds = 0;
    double endsMm = 0;    ///< farthest end of a fold from the true outline
    double placeMm = 0;   ///< farthest end from the fold drawn
    double outlineMm = 0; ///< farthest the outline strays
};

Found lookedAt(const Template& what, const Pen& pen, const Scan& scan) {
    geometry::Transform placed;
    const raster::Picture picture = drawn(what, pen, scan, placed);
    Recipe recipe;
    if (pen.dashMm > 0)
        recipe.dashesFold = true;
    else
        recipe.foldsBelowMm = (pen.foldMm + pen.outlineMm) / 2;
    auto traced = trace::traced(picture, 1 / scan.pxPerMm, recipe);
    EXPECT_TRUE(traced) << (traced ? "" : traced.error().message);
    Found out;
    if (!traced)
        return out;
    geometry::Polygons truth;
    for (const geometry::Shape& piece : what.pieces) {
        geometry::OffsetOptions sharp{.join = geometry::Join::Mitre, .mitreLimit = 6};
        const auto inner = geometry::offset({piece}, -pen.outlineMm / 2, sharp).take().shapes.at(0);
        for (const Polygon& ring : geometry::flatten(geometry::transformed(inner, placed), 0.02))
            truth.push_back(ring);
        out.wantedOpenings += static_cast<int>(piece.openings.size());
        out.wantedPieces += 1 + static_cast<int>(piece.openings.size()); // a window is an area, too
    }
    const auto mm = [&](double px) { return px / scan.pxPerMm; };
    out.pieces = static_cast<int>(traced->areas.size());
    out.folds = static_cast<int>(traced->folds.size());
    out.wantedFolds = static_cast<int>(what.folds.size());
    for (const Area& area : traced->areas) {
        out.openings += static_cast<int>(area.shape.openings.size());
        const geometry::Polygons rings = geometry::flatten(area.shape, 0.05);
        if (out.pieces == out.wantedPieces)
            for (const Polygon& ring : rings)
                for (const Point p : ring) {
                    double least = toOutline(p, truth);
                    if (!what.pieces[0].openings.empty()) // the window's own area lies inside its line
                        least = std::min(least, std::abs(least - pen.outlineMm * scan.pxPerMm));
                    out.outlineMm = std::max(out.outlineMm, mm(least));
                }
    }
    for (const geometry::Line& fold : traced->folds)
        for (const Point end : {fold.start, fold.segments.back().end}) {
            out.endsMm = std::max(out.endsMm, mm(toOutline(end, truth)));
            double least = 1e9;
            for (const auto& [from, to] : what.folds)
                least = std::min(least, geometry::distanceToStretch(end, placed(from), placed(to)));
            out.placeMm = std::max(out.placeMm, mm(least));
        }
    return out;
}

const std::vector<Pen> kPens{{"thin", 0.6, 0.25},
                             {"thin, wide", 1.0, 0.5},
                             {"dashed 3/2", 0.5, 0.3, 3, 2, 3},
                             {"dashed 3/2 same", 0.5, 0.5, 3, 2, 3},
                             {"dashed 3/2 same, short first", 0.5, 0.5, 3, 2, 0.9},
                             {"dashed 1/1", 0.5, 0.4, 1, 1, 0.6},
                             {"dashed 4/3 thick", 0.4, 0.6, 4, 3, -1}};
const std::vector<Scan> kScans{
    {8, 0, 0, 0}, {8, 1.7, 0.7, 6}, {6, 0, 0.5, 4}, {6, 31, 0.6, 6}, {12, 3, 0.8, 6}};

/// Every template with every pen, each by another scan.
TEST(Templates, FoldsEndOnTheTrueOutlineAndLeaveItAlone) {
    size_t turn = 0;
    for (const Template& what : {box(), envelope(), lantern(), wheel(), card()})
        for (const Pen& pen : kPens) {
            const Scan& scan = kScans[turn++ % kScans.size()];
            SCOPED_TRACE(what.name + ", " + pen.name + ", " + std::to_string(scan.pxPerMm) +
                         " px per mm, turned by " + std::to_string(scan.turnDeg));
            const Found found = lookedAt(what, pen, scan);
            EXPECT_EQ(found.pieces, found.wantedPieces);
            EXPECT_EQ(found.openings, found.wantedOpenings);
            EXPECT_EQ(found.folds, found.wantedFolds);
            const double wantedMm = std::max(0.1, 0.75 / scan.pxPerMm); // three quarters of a coarse pixel
            EXPECT_LT(found.endsMm, wantedMm);
            EXPECT_LT(found.placeMm, wantedMm);
            EXPECT_LT(found.outlineMm, wantedMm);
        }
}

TEST(Templates, WhatMayBeFoldsIsToldUntilItIsSaid) {
    const Scan scan{8, 1.7, 0.7, 6};
    for (const size_t pen : {0, 1, 2, 3}) {
        SCOPED_TRACE(kPens[pen].name);
        geometry::Transform placed;
        auto traced = trace::traced(drawn(lantern(), kPens[pen], scan, placed), 0.125, {});
        ASSERT_TRUE(traced);
        EXPECT_TRUE(traced->folds.empty()) << "nothing is guessed";
        const bool isDashed = kPens[pen].dashMm > 0;
        EXPECT_EQ(traced->mayFold.dashed > 0, isDashed);
        EXPECT_EQ(traced->mayFold.thin > 0, !isDashed);
        if (!isDashed) {
            EXPECT_GT(traced->mayFold.thinnerMm, kPens[pen].foldMm);
            EXPECT_LT(traced->mayFold.thinnerMm, kPens[pen].outlineMm);
            auto taken = trace::traced(drawn(lantern(), kPens[pen], scan, placed), 0.125,
                                       {.foldsBelowMm = traced->mayFold.thinnerMm});
            ASSERT_TRUE(taken);
            EXPECT_EQ(taken->folds.size(), 11u);
        }
    }
}

/// A picture of the card with something more in it.
template <class Draw>
Tracing cardWith(Draw draw, const Recipe& recipe) {
    support::Drawing drawing(800, 600);
    drawing.ring(support::rectangle(40, 40, 720, 520), support::rectangle(44, 44, 712, 512));
    draw(drawing);
    auto traced = trace::traced(drawing.picture(), 0.125, recipe);
    EXPECT_TRUE(traced) << (traced ? "" : traced.error().message);
    return traced ? traced.take() : Tracing{};
}

TEST(Templates, WhatIsDrawnOnPurposeStays) {
    // A tongue of ink that hangs into the piece is no dash, nor are two.
    const auto tongues = [](support::Drawing& drawing) {
        drawing.ink(support::rectangle(200, 42, 4, 30)).ink(support::rectangle(400, 42, 4, 30));
    };
    const Tracing hanging = cardWith(tongues, {.dashesFold = true});
    EXPECT_TRUE(hanging.folds.empty());
    ASSERT_EQ(hanging.areas.size(), 1u);
    EXPECT_NEAR(geometry::area(hanging.areas[0].shape), 712 * 512 - 2 * 4 * 28, 12);
    // A ring where rows of dashes meet is a rivet's, and an opening.
    const auto rivet = [](support::Drawing& drawing) {
        drawing.ring(support::disc({400, 300}, 16), support::disc({400, 300}, 12));
        for (const double way : {-1.0, 1.0})
            for (int k = 0; k < 9; ++k) {
                drawing.ink(support::rectangle(400 + way * (44 + 32 * k) - 10, 298, 20, 4));
                if (k < 6)
                    drawing.ink(support::rectangle(398, 300 + way * (44 + 32 * k) - 10, 4, 20));
            }
    };
    const Tracing riveted = cardWith(rivet, {.dashesFold = true});
    ASSERT_EQ(riveted.areas.size(), 2u) << "the card and the inside of the ring";
    EXPECT_EQ(std::max(riveted.areas[0].shape.openings.size(), riveted.areas[1].shape.openings.size()), 1u);
    EXPECT_EQ(riveted.folds.size(), 4u) << "two rows, parted by the rivet";
    EXPECT_EQ(riveted.mayFold, FoldHint{}) << "they were taken already";
    EXPECT_EQ(cardWith(rivet, {}).mayFold.dashed, 4) << "left as drawn, and told";
    // Lines as thick as the outline part the card: whether they are folds is not guessed.
    const auto solid = [](support::Drawing& drawing) { drawing.ink(support::rectangle(398, 42, 4, 516)); };
    EXPECT_EQ(cardWith(solid, {.foldsBelowMm = 0.4, .dashesFold = true}).areas.size(), 2u);
}

// Hostile pictures are answered one way or the other; nothing is found in them that would be a fold.
TEST(Templates, APatternIsNoTemplate) {
    for (const int kind : {0, 1, 2}) {
        raster::Picture picture{300, 300, std::vector<std::uint8_t>(300 * 300 * 3)};
        std::mt19937 random(5);
        for (int y = 0; y < 300; ++y)
            for (int x = 0; x < 300; ++x) {
                const bool isInk = kind == 0   ? random() % 2 == 0
                                   : kind == 1 ? (x / 2 + y / 2) % 2 == 0
                                               : true;
                for (int c = 0; c < 3; ++c)
                    picture.rgb[static_cast<size_t>((y * 300 + x) * 3 + c)] = isInk ? 0 : 255;
            }
        const auto traced = trace::traced(picture, 0.125, {.foldsBelowMm = 0.5, .dashesFold = true});
        EXPECT_TRUE(!traced || traced->folds.empty()) << kind;
        EXPECT_TRUE(traced || !traced.error().message.empty());
    }
}

} // namespace
} // namespace thinline::trace
