// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/DiskFileStore.h"
#include "document/JobFile.h"
#include "formats/svg/ReadDrawing.h"
#include "geometry/Measures.h"
#include "job/Relations.h"
#include "support/Jobs.h"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include <fstream>

// Files written by the programs of their time. Beside each lies what that program showed when it opened the file
// again: every piece with its outline to 0.1 um, its stock, lift and copies, where it lay on its sheet, how its fits
// stood. The present program must show the same.
namespace thinline::document {
namespace {

using json = nlohmann::json;
using support::must;

const std::string kFolder = std::string(THINLINE_SOURCE_DIR) + "/tests/data/job/";

json shownThen(const std::string& name) {
    std::ifstream file(kFolder + name + ".json");
    return json::parse(file);
}

job::State opened(const std::string& name) {
    return must(loadJob(DiskFileStore(), kFolder + name + ".thinline")).state;
}

/// How far two outlines stray from each other, looked at from both sides.
double strayBetween(const geometry::Shape& a, const geometry::Shape& b) {
    double out = 0;
    for (const auto& [from, to] : {std::pair{&a, &b}, std::pair{&b, &a}})
        for (const geometry::Polygon& ring : geometry::flatten(*from, 0.05))
            for (const geometry::Point p : ring)
                if (const auto near = geometry::nearestOnEdge(*to, p))
                    out = std::max(out, near->distance);
    return out;
}

struct Row {
    const char* name;
    size_t pieces;
    /// A piece that means the same and looks otherwise. The tuck was part of an outline before the steps, now it is
    /// given when everything lies where it will: a mirrored twin beside which nothing lies has none any more.
    const char* withoutTuck = "";
};
constexpr double kMostStrayMm = 0.001, kTuckMm = 0.6;

class OldFormats : public testing::TestWithParam<Row> {};

TEST_P(OldFormats, OpenAndMeanTheSame) {
    const Row& row = GetParam();
    const json then = shownThen(row.name);
    const job::State now = opened(row.name);
    ASSERT_TRUE(now.made.work());
    const design::Stack& work = *now.made.work();
    ASSERT_EQ(then.at("pieces").size(), row.pieces);
    EXPECT_TRUE(job::passedOver(now.made).empty());
    // Pieces are told by their outlines: numbers became paths, and the order within the stack stayed.
    ASSERT_EQ(work.pieces.size(), row.pieces);
    for (size_t i = 0; i < row.pieces; ++i) {
        const json& piece = then.at("pieces").at(i);
        const design::Laid& laid = work.pieces[i];
        SCOPED_TRACE(piece.at("name").get<std::string>() + " is " + laid.id().text());
        const geometry::Shape shape = must(formats::svg::readPath(piece.at("path").get<std::string>()));
        EXPECT_LE(strayBetween(laid.shape(), shape),
                  laid.id().text() == row.withoutTuck ? kTuckMm + kMostStrayMm : kMostStrayMm);
        const design::Layer& layer = work.layerOf(laid);
        EXPECT_EQ(layer.stockId, piece.at("stock"));
        EXPECT_EQ(layer.isHidden, piece.at("hidden"));
        EXPECT_DOUBLE_EQ(laid.liftMm, piece.at("liftMm").get<double>());
        EXPECT_EQ(laid.copies, piece.at("copies"));
        if (piece.contains("ownScale")) {
            EXPECT_NEAR(laid.piece.ownScaleX, piece.at("ownScale").at(0).get<double>(), 1e-12);
            EXPECT_NEAR(laid.piece.ownScaleY, piece.at("ownScale").at(1).get<double>(), 1e-12);
        }
    }
    EXPECT_EQ(now.made.pieces->scrap.size(), then.at("scrap").size());
    if (then.contains("placed")) {
        ASSERT_TRUE(now.made.sheets);
        size_t count = 0;
        for (size_t l = 0; l < now.made.sheets->loads.size(); ++l)
            for (const design::PlacedSheet& sheet : now.made.sheets->loads[l].sheets)
                for (const design::PlacedPiece& placed : sheet.pieces) {
                    const json& there = then.at("placed").at(count++);
                    const design::Laid& laid = support::laid(now, placed.what.piece);
                    const geometry::Box box = geometry::bounds(
                        geometry::transformed(laid.shape(), design::placement(laid.piece, placed.pose)));
                    EXPECT_EQ(l, there.at("load"));
                    EXPECT_EQ(placed.what.copy, there.at("copy"));
                    EXPECT_EQ(placed.isPinned, there.at("pinned"));
                    EXPECT_NEAR(box.least.x, there.at("box").at(0).get<double>(), 1e-3);
                    EXPECT_NEAR(box.least.y, there.at("box").at(1).get<double>(), 1e-3);
                    EXPECT_NEAR(box.most.x, there.at("box").at(2).get<double>(), 1e-3);
                    EXPECT_NEAR(box.most.y, there.at("box").at(3).get<double>(), 1e-3);
                }
        EXPECT_EQ(count, then.at("placed").size());
    }
    const json fits = then.value("fits", json::array());
    ASSERT_EQ(now.job.fits.size(), fits.size());
    for (size_t i = 0; i < now.job.fits.size(); ++i) {
        const auto state = must(job::fitStateOf(now, now.job.fits[i]));
        EXPECT_EQ(state.isThere, fits.at(i).at("isThere"));
        EXPECT_NEAR(state.playMm, fits.at(i).at("playMm").get<double>(), 1e-3);
    }
    EXPECT_EQ(now.job.sets.size(), then.value("sets", json::array()).size());

    // And once more, from a file of today.
    const job::State again = must(readJob(must(writeJob(now))));
    ASSERT_EQ(again.made.work()->pieces.size(), work.pieces.size());
    for (size_t i = 0; i < work.pieces.size(); ++i) {
        EXPECT_EQ(again.made.work()->pieces[i].id(), work.pieces[i].id());
        EXPECT_EQ(again.made.work()->pieces[i].shape(), work.pieces[i].shape());
        EXPECT_EQ(again.made.work()->pieces[i].copies, work.pieces[i].copies);
    }
    EXPECT_EQ(must(writeJob(again)), must(writeJob(now)));
}

INSTANTIATE_TEST_SUITE_P(RealFiles, OldFormats,
                         testing::Values(Row{"format-1-shed", 4}, Row{"format-2-plates", 6},
                                         Row{"format-3-quay", 19}, Row{"format-3-quay-stretched", 19},
                                         Row{"format-3-shed", 5}, Row{"format-3-sun", 4, "1:area.1/1.twin.1"},
                                         Row{"format-3-lighthouse-stretched", 87}),
                         [](const auto& row) {
                             std::string name = row.param.name;
                             std::replace(name.begin(), name.end(), '-', '_');
                             return name;
                         });

} // namespace
} // namespace thinline::document
