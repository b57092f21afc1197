// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "job/Together.h"

#include "document/DiskFileStore.h"
#include "document/JobFile.h"
#include "geometry/Measures.h"
#include "support/Jobs.h"
#include "support/Stores.h"

#include <gtest/gtest.h>

#include <tuple>

/// Several designs in one job: none of their pieces, steps, words said and prints may come out otherwise than alone.
namespace thinline::document {
namespace {

using support::made;
using support::must;

job::State demo(const std::string& name) {
    DiskFileStore disk;
    return must(loadJob(disk, std::string(THINLINE_SOURCE_DIR) + "/demo/gull-point-" + name + ".thinline"))
        .state;
}

/// Everything that is cut of a piece, wherever it lies: to a micron, for a move rounds.
using Told =
    std::tuple<std::string, std::string, long long, long long, long long, int, long long, size_t, size_t>;
std::multiset<Told> toldOf(const job::State& state) {
    const auto micron = [](double mm) { return std::llround(mm * 1000); };
    std::multiset<Told> out;
    for (const design::Laid& laid : state.made.work()->pieces) {
        double linesMm = 0;
        for (const design::PieceLine& line : laid.piece.body->lines)
            linesMm += geometry::contourLength({line.path.start, line.path.segments});
        const geometry::Box box = geometry::bounds(laid.shape());
        out.insert({laid.piece.name, state.made.work()->layer(laid.layer)->stockId, micron(box.width()),
                    micron(box.height()), std::llround(geometry::area(laid.shape()) * 100), laid.copies,
                    micron(laid.liftMm + linesMm), laid.piece.body->lines.size(),
                    laid.piece.body->faces.size()});
    }
    return out;
}

std::multiset<Told> both(std::multiset<Told> a, const std::multiset<Told>& b) {
    a.insert(b.begin(), b.end());
    return a;
}

TEST(DesignsTogether, AreCutAsEachWasAlone) {
    const job::State board = demo("quay-board");
    for (const char* name :
         {"canister", "deck-lantern", "lantern", "lighthouse", "pennants", "quay-board", "tall", "tide"}) {
        const job::State other = demo(name);
        const job::State* two[] = {&board, &other};
        const job::State all = made(must(job::together(two)));
        EXPECT_EQ(toldOf(all), both(toldOf(board), toldOf(other))) << name;
        EXPECT_EQ(job::passedOver(all.made).size(),
                  job::passedOver(board.made).size() + job::passedOver(other.made).size())
            << name;
        EXPECT_EQ(all.job.sources.size(), board.job.sources.size() + other.job.sources.size());
        EXPECT_EQ(all.job.art.size(), board.job.art.size() + other.job.art.size());
        EXPECT_EQ(all.job.clusters.size(), board.job.clusters.size() + other.job.clusters.size());
        EXPECT_EQ(job::strayWishes(all.job.wishes, *all.made.pieces).size(),
                  job::strayWishes(board.job.wishes, *board.made.pieces).size() +
                      job::strayWishes(other.job.wishes, *other.made.pieces).size());
        // The other way round every number is another one.
        std::swap(two[0], two[1]);
        const job::State turned = made(must(job::together(two)));
        EXPECT_EQ(toldOf(turned), toldOf(all)) << name;
        // And it can be kept.
        support::MemoryFileStore store;
        ASSERT_TRUE(saveJob(store, "/all.thinline", all)) << name;
        EXPECT_EQ(toldOf(must(loadJob(store, "/all.thinline")).state), toldOf(all)) << name;
    }
}

TEST(DesignsTogether, LieBesideOneAnother) {
    job::State board = demo("quay-board");
    board.job.frame = job::Frame{200, 100, 0};
    const std::vector<const job::State*> five(5, &board);
    const job::State all = made(must(job::together(five)));
    EXPECT_FALSE(all.job.frame) << "it holds one of them";
    ASSERT_EQ(all.made.work()->pieces.size(), 5 * board.made.work()->pieces.size());
    // Each design by the box of its sources.
    std::map<int, geometry::Box> boxes;
    const int each = static_cast<int>(board.job.sources.size());
    for (const design::Laid& laid : all.made.work()->pieces)
        boxes[(numberOf(laid.id().source()) - 1) / each].include(geometry::bounds(laid.shape()));
    ASSERT_EQ(boxes.size(), 5u);
    for (const auto& [a, one] : boxes)
        for (const auto& [b, other] : boxes)
            if (a != b) {
                EXPECT_FALSE(one.grownBy(job::kApartMm - 0.001).meets(other)) << a << " and " << b;
            }
    EXPECT_FALSE(job::together({}));
    const std::vector<const job::State*> tooMany(job::kMostSourcesTogether + 1, &board);
    EXPECT_EQ(job::together(tooMany).error().code, base::Code::LimitExceeded);
}

} // namespace
} // namespace thinline::document
