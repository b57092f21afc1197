// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Drawing.h"
#include "geometry/Measures.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

#include <cmath>

namespace thinline::design {
namespace {

using geometry::Line;
using geometry::Point;
using geometry::Segment;
using support::rectangle;

constexpr raster::Rgb kBlack{0, 0, 0}, kGrey{128, 128, 128}, kRed{220, 30, 30};

Line straight(Point a, Point b) {
    return {a, {Segment::line(b)}};
}

DrawnItem strokes(const std::string& layer, raster::Rgb colour, std::vector<Line> open,
                  std::vector<geometry::Contour> closed = {}) {
    DrawnItem out;
    out.id = layer + "-strokes";
    out.layer = layer;
    out.stroke = colour;
    out.strokeWidthMm = 0.25;
    out.lines = std::move(open);
    out.contours = std::move(closed);
    return out;
}

TakenPage taken(std::vector<DrawnItem> items, const TakeOptions& options = {}) {
    auto out = takenFrom({200, 200, StatedSize::Real, std::move(items), {}}, options);
    if (!out)
        throw std::runtime_error(out.error().message);
    return out.take();
}

/// A strip of four walls, 160 x 60 mm, with its three folds.
std::vector<DrawnItem> strip(bool isDashed, const std::string& layer = "") {
    DrawnItem folds = strokes(layer, kGrey, {});
    for (const double x : {50.0, 90.0, 130.0})
        folds.lines.push_back(straight({x, 10}, {x, 70}));
    folds.isDashed = isDashed;
    return {strokes("", kBlack, {}, {rectangle(10, 10, 160, 60).outline}), folds};
}

TEST(DrawnLines, DashedOnesFoldThePieceTheyLieOn) {
    const TakenPage page = taken(strip(true));
    ASSERT_EQ(page.pieces.size(), 1u);
    ASSERT_EQ(page.pieces[0].lines.size(), 3u);
    for (const PieceLine& line : page.pieces[0].lines) {
        EXPECT_TRUE(std::holds_alternative<Fold>(line.does));
        EXPECT_TRUE(line.beginsAtEdge && line.endsAtEdge);
        EXPECT_NEAR(geometry::contourLength(line.path), 60, 1e-6);
    }
    ASSERT_EQ(page.kinds.size(), 2u);
    EXPECT_EQ(page.kinds[1].words, "3 dashed grey lines");
    EXPECT_EQ(page.kinds[1].proposed, DrawnAs::Fold);
    EXPECT_EQ(page.kinds[1].why, "they are drawn dashed");
    EXPECT_EQ(page.pieces[0].shape, taken({strip(true)[0]}).pieces[0].shape) << "the outline is as it was";
}

TEST(DrawnLines, ANameTellsMoreThanTheLook) {
    EXPECT_EQ(taken(strip(false, "fold lines")).pieces[0].lines.size(), 3u);
    EXPECT_EQ(taken(strip(true, "PEN")).pieces[0].lines[0].does.index(), LineUse(Pen{}).index());
    EXPECT_EQ(drawnAsNamed("2_Valley-Folds"), DrawnAs::Fold);
    EXPECT_EQ(drawnAsNamed("cut"), DrawnAs::Outline);
    EXPECT_EQ(drawnAsNamed("open windows"), std::nullopt) << "pen is a word of its own";
    EXPECT_EQ(drawnAsNamed(""), std::nullopt);
}

TEST(DrawnLines, SolidOnesFromEdgeToEdgeAreAskedAboutAndNotGuessed) {
    const TakenPage page = taken(strip(false));
    ASSERT_EQ(page.pieces.size(), 1u);
    EXPECT_TRUE(page.pieces[0].lines.empty());
    EXPECT_FALSE(page.kinds[1].isSure);
    EXPECT_EQ(page.kinds[1].proposed, DrawnAs::Fold);
    EXPECT_EQ(page.said.back(),
              "3 grey lines may be folds (they run from edge to edge: folds, or cuts that part the "
              "piece); left out until you say at Source");
    // Each answer does what it says.
    TakeOptions said;
    said.lines[page.kinds[1].key] = DrawnAs::Fold;
    EXPECT_EQ(taken(strip(false), said).pieces[0].lines.size(), 3u);
    said.lines[page.kinds[1].key] = DrawnAs::Parts;
    const TakenPage parted = taken(strip(false), said);
    ASSERT_EQ(parted.pieces.size(), 4u);
    for (const DrawnPiece& piece : parted.pieces)
        EXPECT_NEAR(geometry::area(piece.shape), 40 * 60, 1e-6);
    EXPECT_EQ(parted.said.front(), "1 piece parted into 4");
    for (const DrawnAs as :
         {DrawnAs::Score, DrawnAs::Slit, DrawnAs::Tear, DrawnAs::Pen, DrawnAs::Placement}) {
        said.lines[page.kinds[1].key] = as;
        EXPECT_EQ(taken(strip(false), said).pieces[0].lines.size(), 3u) << drawnAsWord(as);
        EXPECT_EQ(drawnAsOf(drawnAsWord(as)), as);
    }
    EXPECT_EQ(drawnAsOf("crumple"), std::nullopt);
}

// A fold made by hand: cuts of 4 mm with 2 mm between them, the first a little from the edge.
TEST(DrawnLines, ShortCutsInARowAreTheOneFoldTheyStandFor) {
    std::vector<Line> cuts;
    for (double y = 11; y + 4 <= 70; y += 6)
        cuts.push_back(straight({90, y}, {90, y + 4}));
    const TakenPage page =
        taken({strokes("", kBlack, {}, {rectangle(10, 10, 160, 60).outline}), strokes("", kBlack, cuts)});
    ASSERT_EQ(page.pieces.size(), 1u);
    ASSERT_EQ(page.pieces[0].lines.size(), 1u);
    const PieceLine& fold = page.pieces[0].lines[0];
    EXPECT_NEAR(geometry::contourLength(fold.path), 60, 1e-6) << "run on to both edges";
    EXPECT_TRUE(fold.beginsAtEdge && fold.endsAtEdge);
    EXPECT_EQ(page.kinds[1].why, "they are short cuts in a row");
    // Cuts that are no row stay what they are.
    const TakenPage apart = taken({strokes("", kBlack, {}, {rectangle(10, 10, 160, 60).outline}),
                                   strokes("", kBlack,
                                           {straight({90, 11}, {90, 15}), straight({90, 40}, {90, 44}),
                                            straight({95, 47}, {95, 51})})});
    EXPECT_EQ(apart.kinds[1].lines, 3);
    EXPECT_FALSE(apart.kinds[1].isSure);
}

TEST(DrawnLines, LooseLinesThatComeRoundAreAnOutline) {
    const TakenPage page = taken({strokes("", kBlack,
                                          {straight({10, 10}, {60, 10}), straight({60, 10.08}, {60, 40}),
                                           straight({10, 40}, {60, 40}), straight({10, 40.05}, {10, 10})})});
    ASSERT_EQ(page.pieces.size(), 1u);
    EXPECT_NEAR(geometry::area(page.pieces[0].shape), 1500, 10);
    EXPECT_TRUE(page.pieces[0].lines.empty());
}

// A box as a drawing program leaves it: every edge a line of its own, the outline broken wherever a fold meets it, so that
// three ends lie at each corner, a few hundredths apart.
TEST(DrawnLines, AnOutlineBrokenAtItsFoldsIsStillOne) {
    std::vector<Line> lines;
    for (int i = 0; i < 4; ++i) {
        const double x = 10 + 40.0 * i, off = 0.03 * (i % 2);
        lines.push_back(straight({x, 10 + off}, {x + 40, 10}));
        lines.push_back(straight({x + 40, 70}, {x, 70 - off}));
        lines.push_back(straight({x, 70}, {x + off, 10})); // the left side, then three folds
    }
    lines.push_back(straight({170, 10}, {170, 70}));
    const TakenPage page = taken({strokes("", kBlack, lines)});
    ASSERT_EQ(page.pieces.size(), 1u);
    EXPECT_NEAR(geometry::area(page.pieces[0].shape), 160 * 60, 10);
    ASSERT_EQ(page.kinds.size(), 2u);
    const LineKind& folds = page.kinds[0].isClosed ? page.kinds[1] : page.kinds[0];
    EXPECT_EQ(folds.lines, 3);
    EXPECT_FALSE(folds.isSure) << "folds or cuts: asked";
    TakeOptions said;
    said.lines[folds.key] = DrawnAs::Fold;
    const TakenPage folded = taken({strokes("", kBlack, lines)}, said);
    ASSERT_EQ(folded.pieces[0].lines.size(), 3u);
    for (const PieceLine& line : folded.pieces[0].lines)
        EXPECT_TRUE(line.beginsAtEdge && line.endsAtEdge);
    // Lines that cross on a card that is there already enclose nothing.
    const TakenPage crossing =
        taken({strokes("", kBlack, {}, {rectangle(10, 10, 160, 60).outline}),
               strokes("", kRed,
                       {straight({10, 20}, {170, 20}), straight({10, 60}, {170, 60}),
                        straight({30, 10}, {30, 70}), straight({150, 10}, {150, 70})})});
    ASSERT_EQ(crossing.pieces.size(), 1u);
    EXPECT_EQ(crossing.kinds[1].lines, 4);
}

// Openings drawn the same way round as their outline, in one path or in several: no fill rule tells them apart.
TEST(DrawnLines, AnOutlineWithinAnotherOfItsKindIsItsOpening) {
    const geometry::Contour plate = rectangle(10, 10, 100, 100).outline,
                            window = rectangle(30, 30, 60, 60).outline,
                            boat = rectangle(50, 50, 10, 10).outline;
    const DrawnItem one = strokes("", kBlack, {}, {plate, window, boat});
    for (const auto& items :
         {std::vector{one}, std::vector{strokes("", kBlack, {}, {boat}), strokes("", kBlack, {}, {plate}),
                                        strokes("", kBlack, {}, {window})}}) {
        const TakenPage page = taken(items);
        ASSERT_EQ(page.pieces.size(), 2u);
        double area = 0;
        for (const DrawnPiece& piece : page.pieces)
            area += geometry::area(piece.shape);
        EXPECT_NEAR(area, 10'000 - 3600 + 100, 1e-6);
    }
    // Of another kind, or filled, it is a piece on it.
    EXPECT_EQ(taken({strokes("", kBlack, {}, {plate}), strokes("", kRed, {}, {window})}).pieces.size(), 2u);
    DrawnItem filled = strokes("", kBlack, {}, {window});
    filled.fill = kRed;
    const TakenPage on = taken({strokes("", kBlack, {}, {plate}), filled});
    ASSERT_EQ(on.pieces.size(), 2u);
    EXPECT_NEAR(geometry::area(on.pieces[0].shape), 10'000, 1e-6);
    // Outlines that cross are welded, not nested.
    const TakenPage crossing = taken({strokes("", kBlack, {}, {plate, rectangle(100, 20, 40, 20).outline})});
    ASSERT_EQ(crossing.pieces.size(), 1u);
    EXPECT_NEAR(geometry::area(crossing.pieces[0].shape), 10'000 + 800 - 200, 1e-6);
}

TEST(DrawnLines, ClosedLoopsOfFoldsAreNoPieces) {
    DrawnItem loop = strokes("folds", kGrey, {}, {rectangle(40, 40, 20, 20).outline});
    const TakenPage named = taken({strokes("", kBlack, {}, {rectangle(10, 10, 100, 100).outline}), loop});
    ASSERT_EQ(named.pieces.size(), 1u);
    ASSERT_EQ(named.pieces[0].lines.size(), 1u);
    EXPECT_NEAR(geometry::contourLength(named.pieces[0].lines[0].path), 80, 1e-6);
    loop.layer.clear();
    loop.isDashed = true;
    EXPECT_EQ(taken({strokes("", kBlack, {}, {rectangle(10, 10, 100, 100).outline}), loop}).pieces.size(),
              1u);
}

TEST(DrawnLines, LieOnTheUppermostOfTheirLayerAndOnAllTheyRunOver) {
    const auto filled = [](const std::string& layer, const geometry::Shape& shape) {
        DrawnItem out = strokes(layer, kBlack, {}, {shape.outline});
        out.fill = kRed;
        return out;
    };
    DrawnItem fold = strokes("upper", kGrey, {straight({40, 20}, {40, 80})});
    fold.isDashed = true;
    const TakenPage page =
        taken({filled("lower", rectangle(10, 20, 100, 60)), filled("upper", rectangle(20, 20, 60, 60)),
               filled("top", rectangle(30, 20, 20, 60)), fold});
    EXPECT_TRUE(page.pieces[0].lines.empty());
    EXPECT_EQ(page.pieces[1].lines.size(), 1u) << "that of its own layer";
    EXPECT_TRUE(page.pieces[2].lines.empty());
    // Two pieces side by side, a gap between them, and a part of the line in the air.
    fold.lines = {straight({0, 50}, {150, 50})};
    const TakenPage two =
        taken({filled("a", rectangle(10, 20, 40, 60)), filled("b", rectangle(60, 20, 40, 60)), fold});
    ASSERT_EQ(two.pieces[0].lines.size(), 1u);
    ASSERT_EQ(two.pieces[1].lines.size(), 1u);
    EXPECT_EQ(two.pieces[0].lines[0].id, two.pieces[1].lines[0].id) << "one line";
    EXPECT_NEAR(geometry::contourLength(two.pieces[0].lines[0].path), 40, 1e-6);
    // One on no piece at all is told.
    fold.lines = {straight({150, 150}, {190, 150})};
    const TakenPage off = taken({filled("a", rectangle(10, 20, 40, 60)), fold});
    EXPECT_EQ(off.said.back(), "1 line of them on no piece, left out");
}

TEST(DrawnLines, WhatWasAnsweredIsNotAskedAgain) {
    TakeOptions said;
    said.lines[taken(strip(false)).kinds[1].key] = DrawnAs::LeftOut;
    EXPECT_TRUE(taken(strip(false), said).said.empty()) << "left out is an answer";
    // Of a layer that is left out neither folds nor loops of folds are laid on the pieces of others.
    DrawnItem loop =
        strokes("folds", kGrey, {straight({20, 10}, {20, 110})}, {rectangle(40, 40, 20, 20).outline});
    TakeOptions without;
    without.leftOutLines = {"folds"};
    const TakenPage page =
        taken({strokes("", kBlack, {}, {rectangle(10, 10, 100, 100).outline}), loop}, without);
    ASSERT_EQ(page.pieces.size(), 1u);
    EXPECT_TRUE(page.pieces[0].lines.empty());
}

TEST(DrawnLines, OddOnesAreBoundedAndHurtNothing) {
    DrawnItem odd = strokes("", kGrey, {straight({20, 20}, {20, 20}), {{30, 30}, {}}});
    odd.isDashed = true;
    const DrawnItem plate = strokes("", kBlack, {}, {rectangle(10, 10, 100, 100).outline});
    EXPECT_TRUE(taken({plate, odd}).pieces[0].lines.empty());
    odd.lines.assign(200'001, straight({20, 20}, {20, 30}));
    const auto many = takenFrom({200, 200, StatedSize::Real, {plate, odd}, {}});
    ASSERT_FALSE(many);
    EXPECT_EQ(many.error().code, base::Code::LimitExceeded);
}

} // namespace
} // namespace thinline::design
