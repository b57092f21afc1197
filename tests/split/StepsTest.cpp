// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "split/Steps.h"

#include "geometry/Boolean.h"
#include "geometry/Lines.h"
#include "geometry/Measures.h"
#include "support/Shapes.h"

#include <gtest/gtest.h>

namespace thinline::split {
namespace {

using design::PieceId;
using geometry::Point;
using geometry::Segment;

geometry::Line straight(Point a, Point b) {
    return {a, {Segment::line(b)}};
}
Pieces plate() {
    design::Body body{support::rectangle(0, 0, 400, 90)};
    body.lines.push_back({design::LineId{7}, straight({20, 0}, {20, 90}), design::Fold{}, true, true});
    body.lines.push_back({design::LineId{8}, straight({0, 45}, {400, 45}), design::Score{}, true, true});
    Piece piece{PieceId::found(design::SourceId{1}, "sky"), std::make_shared<const design::Body>(body),
                "sky"};
    return {{piece}, {}};
}
Step stepOn(const Pieces& pieces, Joint joint, std::vector<geometry::Line> seams) {
    SplitWish wish;
    for (geometry::Line& seam : seams)
        wish.seams.push_back({std::move(seam), joint});
    wish.room = {292, 292};
    Step step = splitStep(pieces.now.front(), wish);
    step.id = design::StepId{4};
    return step;
}

TEST(SplitSteps, PartsAreNumberedInReadingOrderAndCarryTheirLines) {
    const Pieces before = plate();
    const auto out = apply(before, stepOn(before, Joint::Overlap, {straight({180, 0}, {220, 90})}));
    ASSERT_TRUE(out);
    ASSERT_EQ(out->pieces.now.size(), 2U);
    std::map<std::string, const Piece*> byName;
    for (const Piece& piece : out->pieces.now)
        byName[piece.name] = &piece;
    ASSERT_TRUE(byName.contains("sky 1 of 2") && byName.contains("sky 2 of 2"));
    EXPECT_EQ(partNumber(*byName["sky 2 of 2"]), 2);
    EXPECT_EQ(partNumber(before.now.front()), 0);
    const Piece &left = *byName["sky 1 of 2"], &right = *byName["sky 2 of 2"];
    EXPECT_LT(geometry::bounds(left.shape()).least.x, geometry::bounds(right.shape()).least.x);
    const auto has = [](const Piece& piece, int line) {
        return std::any_of(piece.body->lines.begin(), piece.body->lines.end(),
                           [&](const auto& l) { return numberOf(l.id) == line; });
    };
    EXPECT_TRUE(has(left, 7));
    EXPECT_FALSE(has(right, 7));
    EXPECT_TRUE(has(left, 8) && has(right, 8));
    // The strip is glued, on the part that lies below; that one comes first in the order.
    const Piece& lower = out->pieces.now.front();
    ASSERT_EQ(lower.body->zones.size(), 1U);
    EXPECT_EQ(lower.body->zones.front().kind, design::Zone::Kind::Glue);
    EXPECT_EQ(lower.body->zones.front().meets, out->pieces.now.back().id);
    EXPECT_TRUE(out->pieces.now.back().body->zones.empty());
    // A mark shows how far the upper one comes: 11 of 12 mm from the seam, and covered by it.
    const auto mark =
        std::find_if(lower.body->lines.begin(), lower.body->lines.end(), [](const design::PieceLine& line) {
            return std::holds_alternative<design::Placement>(line.does);
        });
    ASSERT_NE(mark, lower.body->lines.end());
    EXPECT_EQ(std::get<design::Placement>(mark->does).shows, out->pieces.now.back().id);
    EXPECT_NEAR(geometry::distanceTo(straight({180, 0}, {220, 90}), geometry::middleOf(mark->path)), 11,
                1e-6);
    EXPECT_TRUE(geometry::contains(out->pieces.now.back().shape(), mark->path.start));
    EXPECT_TRUE(geometry::contains(out->pieces.now.back().shape(), geometry::endOf(mark->path)));
}

TEST(SplitSteps, SeamsComeBackAsTheyWereTold) {
    const Pieces before = plate();
    Piece moved = before.now.front();
    moved.placed = geometry::Transform::scale(2, 2).then(geometry::Transform::move({5, 7}));
    SplitWish wish;
    wish.seams = {{straight({180, 0}, {220, 90}), Joint::Keyed},
                  {straight({300, 0}, {300, 90}), Joint::Butt}};
    wish.overlapMm = 14;
    wish.room = {292, 200};
    wish.used = {2, 3};
    const SplitWish again = wishOf(splitStep(moved, wish), moved);
    ASSERT_EQ(again.seams.size(), 2U);
    EXPECT_EQ(again.seams[0].joint, Joint::Keyed);
    EXPECT_EQ(again.seams[1].joint, Joint::Butt);
    EXPECT_NEAR(geometry::distance(again.seams[0].path.start, {180, 0}), 0, 1e-9);
    EXPECT_EQ(again.overlapMm, 14);
    EXPECT_EQ(again.room.heightMm, 200);
    EXPECT_EQ(again.used, (KeysUsed{2, 3}));
    EXPECT_EQ(keysUsedBy(splitStep(moved, wish, {4, 9})), (KeysUsed{4, 9}));
    EXPECT_EQ(stepText(splitStep(moved, wish)), "Divide along 2 seams, 1 keyed, 1 butt");
}

TEST(SplitSteps, APartKeepsItsNameWhenASeamIsAddedBeside) {
    const Pieces before = plate();
    Step step = stepOn(before, Joint::Butt, {straight({180, 0}, {180, 90})});
    const auto first = apply(before, step);
    ASSERT_TRUE(first);
    step.parts = first->parts;
    const auto rightOf = [](const Outcome& out) {
        return std::max_element(out.pieces.now.begin(), out.pieces.now.end(),
                                [](const Piece& a, const Piece& b) {
                                    return geometry::bounds(a.shape()).most.x <
                                           geometry::bounds(b.shape()).most.x;
                                })
            ->id;
    };
    Step more = stepOn(before, Joint::Butt, {straight({180, 0}, {180, 90}), straight({60, 0}, {60, 90})});
    more.parts = first->parts;
    const auto second = apply(before, more, &first->pieces);
    ASSERT_TRUE(second);
    EXPECT_EQ(second->pieces.now.size(), 3U);
    EXPECT_EQ(rightOf(*first), rightOf(*second));
}

TEST(SplitSteps, AnEndIsRunOnToAnEdgeThatGrewAway) {
    const Pieces before = plate();
    const Step step = stepOn(before, Joint::Butt, {straight({180, 0}, {220, 90})});
    Pieces grown = before;
    grown.now.front().body =
        std::make_shared<const design::Body>(design::Body{support::rectangle(-5, -5, 410, 100)});
    const auto out = apply(grown, step);
    ASSERT_TRUE(out) << out.error().message;
    EXPECT_EQ(out->pieces.now.size(), 2U);
    Pieces far = before;
    far.now.front().body =
        std::make_shared<const design::Body>(design::Body{support::rectangle(-500, -500, 1400, 1400)});
    EXPECT_EQ(apply(far, step).error().message, "The seams part nothing here.");
    EXPECT_EQ(apply({}, step).error().code, base::Code::InvalidArgument);
}

TEST(SplitSteps, ASeamThatAnOpeningCutsInTwoKeepsItsJointAndSoDoItsNeighbours) {
    // The opening came after the seams were laid: the first one is two now.
    const geometry::Shape shape =
        support::withOpening(support::rectangle(0, 0, 400, 90), support::disc({100, 45}, 12));
    SplitWish wish;
    wish.seams = {{straight({100, -1}, {100, 91}), Joint::Butt},
                  {straight({250, 0}, {250, 90}), Joint::Overlap}};
    wish.room = {400, 400};
    const auto made = partsOf(shape, wish);
    ASSERT_TRUE(made);
    ASSERT_EQ(made->seams.size(), 3U);
    EXPECT_EQ(made->seams[0].joint, Joint::Butt);
    EXPECT_EQ(made->seams[1].joint, Joint::Butt);
    EXPECT_EQ(made->seams[2].joint, Joint::Overlap);
}

} // namespace
} // namespace thinline::split
