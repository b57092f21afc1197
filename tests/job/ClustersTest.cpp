// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Clusters.h"

#include "design/Cluster.h"
#include "design/Cuts.h"
#include "job/Catalogue.h"
#include "job/CutSteps.h"
#include "job/LayerSteps.h"
#include "job/SheetSteps.h"
#include "sheets/Faults.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

namespace thinline::job {
namespace {

using design::PieceId;
using support::id;
using support::laid;
using support::made;
using support::must;

/// Three plates of 60, 40 and 20 mm side by side, 10 mm apart, cut from one stock.
State threePlates(const std::string& stock = "sea") {
    State state = support::rectangleJob(60, 30, stock);
    state = support::withFigure(state, construct::Figure::Rectangle, {40, 30}, stock);
    return support::withFigure(state, construct::Figure::Rectangle, {20, 30}, stock);
}
std::vector<PieceId> ids(std::initializer_list<const char*> texts) {
    std::vector<PieceId> out;
    for (const char* text : texts)
        out.push_back(id(text));
    return out;
}
State clustered(const State& state, const std::vector<PieceId>& pieces) {
    return made(withCluster(state, "the three", pieces), state.made);
}

/// Every distance between two corners of two pieces, on the mat less in the design: 0 when they lie as they did.
double strayed(const State& state) {
    double worst = 0;
    for (const design::Load& load : state.made.sheets->loads)
        for (const design::PlacedSheet& sheet : load.sheets)
            for (const design::PlacedPiece& a : sheet.pieces)
                for (const design::PlacedPiece& b : sheet.pieces) {
                    if (a.what.copy != b.what.copy)
                        continue;
                    const design::Laid &la = laid(state, a.what.piece), &lb = laid(state, b.what.piece);
                    const geometry::Point pa = la.shape().outline.start, pb = lb.shape().outline.start;
                    worst = std::max(worst,
                                     std::abs(geometry::distance(pa, pb) -
                                              geometry::distance(design::placement(la.piece, a.pose)(pa),
                                                                 design::placement(lb.piece, b.pose)(pb))));
                }
    return worst;
}

TEST(Clusters, KeepTheirDistancesOnTheSheet) {
    const State plain = threePlates();
    State state = clustered(plain, ids({"1:1", "2:1", "3:1"}));
    ASSERT_EQ(state.made.work()->clusters.size(), 1u);
    state = support::arranged(state);
    EXPECT_LT(strayed(state), 1e-9);
    EXPECT_GT(strayed(support::arranged(plain)), 1) << "without a cluster they are laid apart";
    // Copies are of the whole; those of a piece are not asked, and cannot be said.
    state = support::arranged(made(withClusterCopies(state.job, 0, 4), state.made));
    EXPECT_EQ(laid(state, id("2:1")).copies, 4);
    EXPECT_EQ(sheets::measure(*state.made.sheets, *state.made.work()).pieces, 12);
    EXPECT_LT(strayed(state), 1e-9);
    EXPECT_EQ(withCopies(state, id("2:1"), 2).error().code, base::Code::InvalidArgument);
    // Turned over, the whole is cut from the back as one.
    state = made(withPiecesUp(state.job, ids({"1:1", "2:1", "3:1"}), design::Side::Back), state.made);
    state = support::arranged(state);
    EXPECT_TRUE(state.made.sheets->loads[0].sheets[0].pieces[0].pose.isFlipped);
    EXPECT_LT(strayed(state), 1e-9);
    // Parted again.
    state = made(withoutCluster(state.job, 0), state.made);
    EXPECT_TRUE(state.made.work()->clusters.empty());
    EXPECT_EQ(laid(state, id("2:1")).copies, 1);
}

TEST(Clusters, APinOnOnePiecePinsTheWhole) {
    State state = support::arranged(clustered(threePlates(), ids({"1:1", "2:1", "3:1"})));
    design::Pose pose = state.made.sheets->loads[0].sheets[0].pieces[1].pose;
    pose.at = pose.at + geometry::Point{20, 100};
    state.job = must(pinnedAt(state, {id("2:1"), 0}, pose, 0));
    state = support::arranged(state);
    for (const design::PlacedPiece& placed : state.made.sheets->loads[0].sheets[0].pieces)
        EXPECT_TRUE(placed.isPinned) << placed.what.piece.text();
    EXPECT_LT(strayed(state), 1e-9);
    // Dragged by another piece, the pin is that one's: one pin for the whole.
    pose = state.made.sheets->loads[0].sheets[0].pieces[0].pose;
    state.job = must(pinnedAt(state, {id("1:1"), 0}, pose, 0));
    EXPECT_EQ(state.job.plan.pins.size(), 1u);
    EXPECT_TRUE(unpinned(support::arranged(state), {id("3:1"), 0}).plan.pins.empty());
}

TEST(Clusters, FollowWhatBecomesOfTheirPieces) {
    State state = clustered(threePlates(), ids({"1:1", "2:1", "3:1"}));
    // Joined into one, that one answers.
    state = support::after(state, shape::Action::Move, ids({"2:1"}), {-15, 0});
    state = support::after(state, shape::Action::Join, ids({"1:1", "2:1"}));
    ASSERT_EQ(state.made.work()->clusters.size(), 1u);
    EXPECT_EQ(state.made.work()->clusters[0].pieces, ids({"1:1", "3:1"}));
    // One painted in another stock lies alone, and comes back when it is painted back.
    state = made(painted(state.job, ids({"3:1"}), "rust"), state.made);
    EXPECT_TRUE(state.made.work()->clusters.empty());
    EXPECT_EQ(apartFromCluster(state, 0).size(), 2u);
    state = made(painted(state.job, ids({"3:1"}), "sea"), state.made);
    EXPECT_EQ(state.made.work()->clusters.size(), 1u);
    EXPECT_EQ(clusterWith(state, id("3:1")), std::optional<size_t>(0));
    EXPECT_EQ(clusterWith(state, id("4:1")), std::nullopt);
    // Parted by a cut, the parts stay in it.
    state = support::withFigure(state, construct::Figure::Rectangle, {4, 80});
    const auto bar = support::boxOf(state, id("4:1")), plate = support::boxOf(state, id("3:1"));
    state = support::after(state, shape::Action::Move, ids({"4:1"}),
                           {plate.centre().x - bar.centre().x, plate.centre().y - bar.centre().y});
    state = support::after(state, shape::Action::CutOut, ids({"3:1", "4:1"}));
    ASSERT_EQ(state.made.work()->clusters.size(), 1u);
    EXPECT_EQ(state.made.work()->clusters[0].pieces.size(), 3u);
}

TEST(Clusters, TouchingPiecesAreCutOnceBetweenThem) {
    State state = threePlates();
    state = support::after(state, shape::Action::Move, ids({"2:1"}), {-10, 0});
    const double apart = design::measure(*state.made.work()).cutLengthMm;
    for (const bool together : {false, true}) {
        State now = together ? clustered(state, ids({"1:1", "2:1"})) : state;
        now = support::arranged(now);
        double length = 0;
        for (const design::PlacedSheet& sheet : now.made.sheets->loads[0].sheets)
            for (const design::PieceCuts& one : must(design::cutsOn(*now.made.work(), sheet)).pieces)
                length +=
                    one.of(design::Operation::Cut).length() + one.of(design::Operation::CutInside).length();
        EXPECT_NEAR(length, apart - (together ? 30 : 0), 1e-6); // their common side
    }
}

TEST(Clusters, AFrameLiesRoundWhatIsLiftedOff) {
    State state = threePlates();
    EXPECT_FALSE(withClusterFrame({must(withCluster(state, "", ids({"1:1", "2:1"}))), state.made}, 0, 5))
        << "card lies on no carrier";
    for (design::Stock& stock : state.job.stocks)
        if (stock.id == "sea")
            stock.cut = design::Depth::ToCarrier;
    state = clustered(made(state.job, state.made), ids({"1:1", "2:1", "3:1"}));
    state = support::arranged(made(withClusterFrame(state, 0, 5), state.made));
    const design::PlacedSheet& sheet = state.made.sheets->loads[0].sheets[0];
    const design::SheetCuts cuts = must(design::cutsOn(*state.made.work(), sheet));
    ASSERT_EQ(cuts.frames.size(), 1u);
    const geometry::Box frame = geometry::bounds(cuts.frames[0].outline);
    geometry::Box pieces;
    for (const design::PieceCuts& one : cuts.pieces)
        pieces.include(geometry::bounds(one.of(design::Operation::Cut).outlines[0]));
    EXPECT_NEAR(pieces.least.x - frame.least.x, 5, 1e-9);
    EXPECT_NEAR(frame.most.y - pieces.most.y, 5, 1e-9);
    const geometry::Box usable = geometry::Box{
        {sheet.xMm, sheet.yMm},
        {sheet.xMm + sheet.widthMm,
         sheet.yMm + sheet.heightMm}}.grownBy(-sheet.marginMm + 1e-6);
    EXPECT_TRUE(usable.contains(frame.least) && usable.contains(frame.most)) << "the frame is cut too";
    // Through the carrier, so that the whole is a sheet of stickers.
    EXPECT_FALSE(isAnyThrough(*state.made.work(), "sea"));
    const State through = made(withFrameThrough(state.job, 0, true), state.made);
    EXPECT_TRUE(isAnyThrough(*through.made.work(), "sea"));
    EXPECT_TRUE(through.made.work()->clusters[0].isFrameThrough);
    const Job bare = must(withClusterFrame(state, 0, 0));
    EXPECT_FALSE(withFrameThrough(bare, 0, true)) << "there is no frame";
    EXPECT_FALSE(withFrameThrough(state.job, 7, true));
}

TEST(Clusters, APieceComesOffWithItsCarrierWhereThereIsOne) {
    State state = threePlates();
    const auto refused = withPiecesThrough(state, ids({"1:1"}), true);
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.error().message.find("no carrier"), std::string::npos);
    EXPECT_FALSE(withPiecesThrough(state, ids({"9:1"}), true));
    for (design::Stock& stock : state.job.stocks)
        stock.cut = design::Depth::ToCarrier;
    state = made(state.job, state.made);
    const State one = made(withPiecesThrough(state, ids({"1:1"}), true), state.made);
    EXPECT_TRUE(design::goesThroughCarrier(*one.made.work(), *one.made.work()->find(ids({"1:1"})[0])));
    EXPECT_FALSE(design::goesThroughCarrier(*one.made.work(), *one.made.work()->find(ids({"2:1"})[0])));
    EXPECT_TRUE(isAnyThrough(*one.made.work(), "sea"));
    // Parts of it are cut as it was.
    EXPECT_TRUE(
        one.job.wishes.resolved(ids({"1:1"})[0].parted(design::StepId{9}, "2")).isCutThrough.value_or(false));
    const State back = made(withPiecesThrough(one, ids({"1:1"}), false), one.made);
    EXPECT_EQ(back.job.wishes, state.job.wishes) << "nothing is left said";
}

TEST(Clusters, RefusalsSayWhy) {
    const State state = made(painted(threePlates().job, ids({"3:1"}), "rust"));
    struct Row {
        std::vector<PieceId> pieces;
        const char* says;
    };
    const Row rows[] = {{ids({"1:1"}), "two pieces or more"},
                        {ids({"1:1", "3:1"}), "sea and rust"},
                        {ids({"1:1", "9:1"}), "not there"}};
    for (const Row& row : rows) {
        const auto out = withCluster(state, "", row.pieces);
        ASSERT_FALSE(out) << row.says;
        EXPECT_NE(out.error().message.find(row.says), std::string::npos) << out.error().message;
    }
    const State turned = made(withPiecesUp(state.job, ids({"2:1"}), design::Side::Back), state.made);
    EXPECT_FALSE(withCluster(turned, "", ids({"1:1", "2:1"})));
    const State one = clustered(state, ids({"1:1", "2:1"}));
    EXPECT_FALSE(withClusterCopies(one.job, 0, 0));
    EXPECT_FALSE(withClusterCopies(one.job, 1, 2));
    EXPECT_FALSE(withClusterFrame(one, 0, -1));
    EXPECT_FALSE(withClusterNamed(one.job, 0, "two\nlines"));
    EXPECT_FALSE(withoutCluster(one.job, 3));
}

TEST(Clusters, AreProposedForWhatLiesOnACarrierAndForPatternsInTheirFrame) {
    State state = support::withWord(support::emptyState(), support::word("QUAY"));
    EXPECT_TRUE(proposedClusters(state).empty()) << "letters of card are glued one by one";
    state.job.stocks[4].cut = design::Depth::ToCarrier;
    ASSERT_EQ(state.job.stocks[4].id, "sea");
    state = made(state.job, state.made);
    auto proposed = proposedClusters(state);
    ASSERT_EQ(proposed.size(), 1u);
    EXPECT_EQ(proposed[0].pieces.size(), 4u);
    EXPECT_EQ(proposed[0].name, "the word QUAY");
    state = made(withCluster(state, proposed[0].name, proposed[0].pieces), state.made);
    EXPECT_TRUE(proposedClusters(state).empty());
    // A disc in the opening of a ring.
    State ring = support::withFigure(support::emptyState(), construct::Figure::Ring, {60, 40});
    ring = support::withFigure(ring, construct::Figure::Ellipse, {20, 20});
    EXPECT_TRUE(proposedClusters(ring).empty());
    const geometry::Point by =
        support::boxOf(ring, id("1:1")).centre() - support::boxOf(ring, id("2:1")).centre();
    ring = support::after(ring, shape::Action::Move, ids({"2:1"}), {by.x, by.y});
    proposed = proposedClusters(ring);
    ASSERT_EQ(proposed.size(), 1u);
    EXPECT_EQ(proposed[0].pieces, ids({"1:1", "2:1"}));
}

/// Whatever is clustered and copied: nothing would spoil card.
TEST(Clusters, AnyClustersLieApartAndInside) {
    std::mt19937 random(11);
    const auto between = [&](int low, int high) {
        return std::uniform_int_distribution<int>(low, high)(random);
    };
    for (int round = 0; round < 6; ++round) {
        State state = support::emptyState();
        for (int i = 0; i < 8; ++i)
            state = support::withFigure(
                state, construct::Figure::Ellipse,
                {static_cast<double>(between(5, 30)), static_cast<double>(between(5, 30))});
        for (int c = 0; c < 2; ++c)
            state =
                made(withCluster(state, "",
                                 {id(std::to_string(4 * c + 1) + ":1"), id(std::to_string(4 * c + 2) + ":1"),
                                  id(std::to_string(4 * c + 3) + ":1")}),
                     state.made);
        state = made(withClusterCopies(state.job, 1, between(1, 3)), state.made);
        state = support::arranged(state);
        EXPECT_TRUE(state.made.sheets->unplaced.empty());
        const auto options = arrangeOptions(state.job, shippedCatalogue().formats);
        const auto faults = sheets::faultsOf(*state.made.work(), *state.made.sheets, *options);
        EXPECT_TRUE(faults->empty()) << faults->front().message;
    }
}

} // namespace
} // namespace thinline::job
