// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/TestTile.h"

#include "geometry/Measures.h"
#include "job/CutSteps.h"
#include "support/Jobs.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

namespace thinline::job {
namespace {

/// A plate with two openings that leave a bar of 0.8 mm between them, and a hole of 3 mm.
State plate() {
    const auto opened = support::openedDrawing(
        "<svg xmlns='http://www.w3.org/2000/svg' width='80mm' height='60mm' viewBox='0 0 80 60'>"
        "<path fill='#2f6f8f' fill-rule='evenodd' d='M0 0H80V60H0Z M10 10H30V50H10Z M30.8 10H50V50H30.8Z "
        "M60 20a1.5 1.5 0 0 1 3 0a1.5 1.5 0 0 1 -3 0Z'/></svg>");
    return support::made(opened.job, {}, Stage::Sheets);
}

TEST(TestTile, ShowsTheNarrowestStripAndTheSmallestOpening) {
    const State state = plate();
    const auto tiles = testTiles(state);
    ASSERT_TRUE(tiles) << tiles.error().message;
    ASSERT_EQ(tiles->size(), 1u);
    const design::TestTile& tile = tiles->at(0);
    EXPECT_NEAR(tile.neckMm, 0.8, 0.05);
    EXPECT_NEAR(tile.openingMm, 3, 0.01);
    EXPECT_EQ(tile.slotMm, 0);
    ASSERT_EQ(tile.card.openings.size(), 3u);
    // The strip between its slots is that wide, by their boxes.
    const geometry::Box left = geometry::bounds(tile.card.openings[0]),
                        right = geometry::bounds(tile.card.openings[1]);
    EXPECT_NEAR(right.least.x - left.most.x, tile.neckMm, 1e-9);
    EXPECT_EQ(tileText(tile, base::LengthUnit::Millimetre).rfind("a strip of 0.8 mm", 0), 0u);
}

TEST(TestTile, LiesInTheWasteAwayFromPiecesAndEdges) {
    const State state = plate();
    const design::TestTile tile = testTiles(state)->at(0);
    const design::PlacedSheet& sheet = state.made.sheets->loads[0].sheets[tile.sheet];
    const geometry::Box box = geometry::bounds(tile.card);
    EXPECT_GE(box.least.x, sheet.xMm + sheet.marginMm - 1e-9);
    EXPECT_GE(box.least.y, sheet.yMm + sheet.marginMm - 1e-9);
    EXPECT_LE(box.most.x, sheet.xMm + sheet.widthMm - sheet.marginMm + 1e-9);
    EXPECT_LE(box.most.y, sheet.yMm + sheet.heightMm - sheet.marginMm + 1e-9);
    for (const design::PlacedPiece& placed : sheet.pieces) {
        const design::Laid* laid = state.made.work()->find(placed.what.piece);
        const geometry::Shape lies =
            geometry::transformed(laid->shape(), design::placement(laid->piece, placed.pose));
        for (const geometry::Point p : geometry::flatten(tile.card.outline, 0.05)) {
            const auto nearest = geometry::nearestOnEdge(lies, p);
            EXPECT_GE(nearest->distance, 2 - 1e-6);
            EXPECT_FALSE(geometry::contains(lies, p));
        }
    }
}

TEST(TestTile, IsInThePlanWhenAskedForAndInTheChecklist) {
    State state = plate();
    EXPECT_FALSE(planned(state)->loads[0].tile);
    state.job.cut.hasTiles = true;
    const auto plan = planned(state);
    ASSERT_TRUE(plan);
    ASSERT_TRUE(plan->loads[0].tile);
    EXPECT_TRUE(std::any_of(plan->loads[0].passes.begin(), plan->loads[0].passes.end(),
                            [](const design::Pass& pass) { return pass.isTile; }));
    EXPECT_NE(checklistOf(state, *plan, 0)->text().find("The test tile shows a strip of 0.8 mm"),
              std::string::npos);
}

TEST(TestTile, WhereNoRoomIsLeftThereIsNone) {
    State state = plate();
    design::Arrangement tight = *state.made.sheets;
    for (design::Load& load : tight.loads)
        for (design::PlacedSheet& sheet : load.sheets) {
            sheet.widthMm = 95;
            sheet.heightMm = 75;
        }
    state.made.sheets = std::make_shared<const design::Arrangement>(std::move(tight));
    EXPECT_TRUE(testTiles(state)->empty());
    EXPECT_TRUE(testTiles(support::emptyState())->empty());
}

} // namespace
} // namespace thinline::job
