// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/Package.h"

#include "formats/image/ImageFile.h"
#include "formats/svg/ReadDrawing.h"
#include "formats/svg/WriteDrawing.h"
#include "pack/Pictures.h"
#include "support/Plans.h"
#include "support/Stacks.h"
#include "support/Stores.h"

#include <gtest/gtest.h>

namespace thinline::pack {
namespace {

const design::PieceId kRing = support::id(1), kStrip = support::id(2);

design::Stack someStack() {
    return {
        {{"sea", "sea", {60, 125, 140}}},
        {support::layer(1, "sea")},
        {support::laid(kRing, support::withOpening(support::disc({50, 50}, 20), support::disc({50, 50}, 5))),
         support::laid(kStrip, support::rectangle(0, 0, 33.333, 10), 1, 2)}};
}

design::Arrangement someArrangement() {
    const design::Stack stack = someStack();
    return {{{{"square12", "12 × 12 in", 304.8, 304.8, 6.35},
              {{"sea",
                0,
                0,
                210,
                297,
                6.35,
                {support::placed(stack, kRing, 0, {10, 10}),
                 support::placed(stack, kStrip, 0, {60, 10}, std::numbers::pi / 2),
                 support::placed(stack, kStrip, 1, {80, 10})}}}}},
            {}};
}

const sheets::ArrangeOptions kLaidBy{
    {"square12", "12 × 12 in", 304.8, 304.8, 6.35}, {"a4", "A4", 210, 297, 6.35}, 2.5, true, {}};

base::Result<Package> packed(const design::Stack& stack, const design::Arrangement& arrangement,
                             const Labels& labels) {
    return makePackage(stack, arrangement, support::planOf(stack, arrangement, labels.foldsAs), kLaidBy,
                       labels);
}

std::string textOf(const base::Bytes& bytes) {
    return {bytes.begin(), bytes.end()};
}
base::Bytes bytesOf(const std::string& text) {
    return {text.begin(), text.end()};
}

TEST(Package, WritesEveryLoadReadsItBackAndListsIt) {
    const auto package = packed(someStack(), someArrangement(), {"Quay sign", {"sign.svg: own work"}});
    ASSERT_TRUE(package);
    EXPECT_TRUE(package->isSound());
    ASSERT_EQ(package->files.size(), 3u);
    EXPECT_EQ(package->files[0].name, "load-1-sea.svg");
    EXPECT_EQ(package->checks[0].foundPieces, 3);
    EXPECT_LT(package->checks[0].worstBoxMm, kBoxToleranceMm);
    EXPECT_EQ(package->files[1].name, "overview.png");
    EXPECT_TRUE(formats::image::decode(package->files[1].bytes));
    EXPECT_NE(textOf(package->files[2].bytes).find("read back: 3 pieces, sizes agree"), std::string::npos);
    EXPECT_NE(textOf(package->files[2].bytes).find("Origin and licence:\n  sign.svg: own work\n"),
              std::string::npos);
}

/// The stack with a fold, a slit and a pen line on its second piece.
design::Stack linedStack() {
    design::Stack stack = someStack();
    design::Body body = *stack.pieces[1].piece.body;
    const geometry::Box box = geometry::bounds(body.shape);
    const auto across = [&](int id, double share, const design::LineUse& does) {
        const double x = box.least.x + share * box.width();
        body.lines.push_back({design::LineId{id},
                              {{x, box.least.y}, {geometry::Segment::line({x, box.most.y})}},
                              does,
                              true,
                              true});
    };
    across(1, 0.5, design::Fold{});
    across(2, 0.25, design::Slit{});
    across(3, 0.75, design::Pen{});
    stack.pieces[1].piece.body = std::make_shared<const design::Body>(body);
    return stack;
}

// Draw, score, cut inside, cut: the order of work is the order of the groups (common practice).
TEST(Package, LinesLieOnTheSheetWithTheirPieceInTheOrderOfWork) {
    const auto package = packed(linedStack(), someArrangement(), {"x"});
    ASSERT_TRUE(package) << package.error().message;
    EXPECT_TRUE(package->isSound()) << package->checks[0].problem;
    const auto read = formats::svg::readDrawing(textOf(package->files[0].bytes));
    ASSERT_TRUE(read);
    std::vector<std::string> groups;
    for (const auto& group : read->groups)
        groups.push_back(group.id.substr(group.id.find('-')));
    std::vector<std::string> sorted;
    for (const char* one : {"-draw", "-score", "-cut-inside", "-cut"})
        if (std::find(groups.begin(), groups.end(), one) != groups.end())
            sorted.push_back(one);
    EXPECT_EQ(std::vector<std::string>(groups.begin(), std::unique(groups.begin(), groups.end())), sorted);
    EXPECT_EQ(sorted.size(), 4u);
    EXPECT_NE(textOf(package->files[2].bytes).find("Folds: 1, scored."), std::string::npos);
    EXPECT_EQ(textOf(packed(someStack(), someArrangement(), {"x"})->files[2].bytes).find("old"),
              std::string::npos)
        << "of a work without lines nothing is said";
}

TEST(Package, AFoldIsPerforatedOrLeftToTheHandWhenThatIsChosen) {
    const auto pathsIn = [](const design::FoldsAs as, const std::string& ending) {
        const auto package = packed(linedStack(), someArrangement(), {"x", {}, as});
        EXPECT_TRUE(package->isSound());
        std::vector<geometry::Line> lines;
        const auto read = formats::svg::readDrawing(textOf(package->files[0].bytes));
        for (const auto& group : read->groups)
            for (const auto& path : group.paths)
                if (group.id.ends_with(ending))
                    lines.insert(lines.end(), path.lines.begin(), path.lines.end());
        return lines;
    };
    EXPECT_TRUE(pathsIn(design::FoldsAs::Perforation, "-score").empty());
    for (const geometry::Line& cut : pathsIn(design::FoldsAs::Perforation, "-perforate"))
        EXPECT_NEAR(geometry::contourLength(cut), 2.5, 1e-3);
    const size_t drawn = pathsIn(design::FoldsAs::Score, "-draw").size();
    EXPECT_GT(pathsIn(design::FoldsAs::Hand, "-draw").size(), drawn) << "the pen marks the ends";
    EXPECT_TRUE(pathsIn(design::FoldsAs::Hand, "-score").empty());
}

TEST(Package, APenMayFollowAFold) {
    design::Stack stack = linedStack();
    design::Body body = *stack.pieces[1].piece.body;
    body.lines[2].path = body.lines[0].path;
    stack.pieces[1].piece.body = std::make_shared<const design::Body>(body);
    const auto package = packed(stack, someArrangement(), {"x"});
    ASSERT_TRUE(package) << package.error().message;
    EXPECT_TRUE(package->isSound()) << package->checks[0].problem;
}

TEST(CheckLoad, NoticesALineThatIsGoneOrMoved) {
    const design::Stack stack = linedStack();
    const design::Load load = someArrangement().loads[0];
    const auto planned = support::planOf(load, stack);
    const std::string good = formats::svg::writeLoad(planned, load, stack, "x");
    EXPECT_TRUE(checkLoad("good", bytesOf(good), planned, load).isSound());
    for (const char* ending : {"-draw\" d=\"", "-score\" d=\"", "-inside\" d=\""}) {
        const auto at = good.find(ending);
        ASSERT_NE(at, std::string::npos) << ending;
        const auto number = at + std::string(ending).size() + 1;
        std::string moved = good;
        moved.replace(number, moved.find(' ', number) - number, "3");
        EXPECT_FALSE(checkLoad("moved", bytesOf(moved), planned, load).isSound()) << ending;
        std::string gone = good;
        const auto from = gone.rfind("  <path", at);
        gone.erase(from, gone.find("</path>", from) + 8 - from);
        EXPECT_FALSE(checkLoad("gone", bytesOf(gone), planned, load).isSound()) << ending;
    }
}

TEST(Package, NothingArrangedIsRefused) {
    EXPECT_FALSE(packed(someStack(), {}, {"x"}));
    const auto tooLarge = packed(someStack(), {{}, {{support::id("1:1"), 0}}}, {"x"});
    ASSERT_FALSE(tooLarge);
    EXPECT_NE(tooLarge.error().message.find("Nothing fits the chosen sheet: 1 piece too large"),
              std::string::npos);
}

TEST(Package, WhatWouldSpoilCardIsNotWritten) {
    design::Arrangement bad = someArrangement();
    bad.loads[0].sheets[0].pieces[1].pose.at.x += 3000;
    bad.loads[0].sheets[0].pieces.pop_back();
    const auto package = packed(someStack(), bad, {"x"});
    ASSERT_TRUE(package);
    EXPECT_FALSE(package->isSound());
    EXPECT_TRUE(package->files.empty());
    const std::string said = faultText(package->faults);
    EXPECT_NE(said.find("copy 2 is on no sheet; "), std::string::npos) << said;
    EXPECT_NE(said.find("copy 1 runs over the edge of its sheet on load 1."), std::string::npos) << said;
    EXPECT_EQ(faultText({}), "");
}

struct Tampering {
    const char* what;
    const char* from;
    const char* to;
    const char* says;
};

TEST(CheckLoad, NoticesEveryKindOfDamage) {
    const design::Load load = someArrangement().loads[0];
    const auto planned = support::planOf(load, someStack());
    const std::string good = formats::svg::writeLoad(planned, load, someStack(), "x");
    EXPECT_TRUE(checkLoad("good", bytesOf(good), planned, load).isSound());
    const Tampering rows[] = {
        {"another id", "piece-1_2-2", "piece-1_9-9", "is missing"},
        {"another group", "sea-cut", "sea-score", "is missing"},
        {"a corner moved by 10 um", "L113.333 10", "L113.343 10", "another size or place"},
        {"another page", "width=\"304.8mm\" height=\"304.8mm\" viewBox=\"0 0 304.8 304.8\"",
         "width=\"304mm\" height=\"304mm\" viewBox=\"0 0 304 304\"", "not the size of the mat"},
        {"no svg", "<svg", "<gsv", "cannot be read back"},
    };
    for (const Tampering& row : rows) {
        std::string bad = good;
        const auto at = bad.find(row.from);
        ASSERT_NE(at, std::string::npos) << row.what;
        bad.replace(at, std::string(row.from).size(), row.to);
        const FileCheck check = checkLoad("bad", bytesOf(bad), planned, load);
        EXPECT_FALSE(check.isSound()) << row.what;
        EXPECT_NE(check.problem.find(row.says), std::string::npos) << row.what << ": " << check.problem;
    }
    std::string twice = good;
    const auto from = twice.find("  <path id=\"piece-1_1-1\"");
    const std::string path = twice.substr(from, twice.find("</path>", from) + 8 - from);
    twice.insert(from, path);
    EXPECT_FALSE(checkLoad("twice", bytesOf(twice), planned, load).isSound()) << "a cut line twice";
}

TEST(CheckLoad, MissesNoFrame) {
    design::Stack stack{{{"film", "film"}}, {support::layer(1, "film")}, {}};
    stack.stocks[0].cut = design::Depth::ToCarrier;
    stack.pieces = {support::laid(1, support::rectangle(0, 0, 20, 10), 1),
                    support::laid(2, support::rectangle(20, 0, 20, 10), 1)};
    stack.clusters = {{"both", {support::id(1), support::id(2)}, 1, 5}};
    const design::Load load{{"m", "m", 100, 100, 0},
                            {{"film",
                              0,
                              0,
                              100,
                              100,
                              0,
                              {support::placed(stack, support::id(1), 0, {20, 20}),
                               support::placed(stack, support::id(2), 0, {40, 20})}}}};
    const auto planned = support::planOf(load, stack);
    const std::string good = formats::svg::writeLoad(planned, load, stack, "x");
    EXPECT_TRUE(checkLoad("good", bytesOf(good), planned, load).isSound())
        << checkLoad("good", bytesOf(good), planned, load).problem;
    EXPECT_NE(good.find("film, cut to the carrier"), std::string::npos);
    std::string without = good;
    const auto from = without.find("  <path id=\"frame-1-1\"");
    ASSERT_NE(from, std::string::npos);
    without.erase(from, without.find("</path>", from) + 8 - from);
    EXPECT_EQ(checkLoad("bad", bytesOf(without), planned, load).problem, "frame-1-1 is missing");
    std::string moved = good;
    const auto corner = moved.find("L15 15", from);
    ASSERT_NE(corner, std::string::npos);
    moved.replace(corner, 6, "L15 16");
    EXPECT_FALSE(checkLoad("bad", bytesOf(moved), planned, load).isSound());
    // A sheet of stickers: the frame goes through the carrier, they do not; one of them does.
    design::Stack deeper = stack;
    deeper.clusters[0].isFrameThrough = true;
    deeper.pieces[1].isCutThrough = true;
    const auto deep = support::planOf(load, deeper);
    const std::string through = formats::svg::writeLoad(deep, load, deeper, "x");
    EXPECT_TRUE(checkLoad("through", bytesOf(through), deep, load).isSound());
    for (const char* group :
         {"film-cut-to-carrier", "film-cut-through-carrier", "film-frame-through-carrier"})
        EXPECT_NE(through.find("id=\"" + std::string(group) + "\""), std::string::npos) << group;
    EXPECT_FALSE(checkLoad("wrong depth", bytesOf(good), deep, load).isSound());
    // What two share is cut for each of them where they are cut to different depths.
    double deepMm = 0;
    for (const design::Pass& pass : deep.passes)
        if (!pass.isFrame)
            deepMm += pass.lineMm;
    EXPECT_NEAR(deepMm, 2 * 60, 1e-6);
    // The second piece has lost the side it shares; a side more is noticed.
    std::string longer = good;
    const auto open = longer.find("piece-1_2-1");
    longer.insert(longer.find("\"><title>", open), "M60 30L60 31");
    EXPECT_EQ(checkLoad("bad", bytesOf(longer), planned, load).isSound(), false);
}

TEST(Pictures, TheOverviewShowsThePieceWhereItLies) {
    const raster::Picture picture = overview(someArrangement(), someStack(), 2);
    const auto at = [&](double xMm, double yMm) { // 12 mm of white around the mat
        const std::uint8_t* p =
            picture.row(static_cast<int>((yMm + 12) * 2)) + static_cast<size_t>((xMm + 12) * 2) * 3;
        return raster::Rgb{p[0], p[1], p[2]};
    };
    EXPECT_EQ(at(15, 30), (raster::Rgb{60, 125, 140})); // on the ring
    EXPECT_NE(at(30, 30), (raster::Rgb{60, 125, 140})); // through its opening
    EXPECT_EQ(at(-5, -5), (raster::Rgb{255, 255, 255}));
    EXPECT_EQ(overview({}, someStack(), 2).width, 32);
    EXPECT_EQ(overviewPxPerMm(someArrangement(), 2), 2);
    design::Arrangement many;
    many.loads.assign(3000, someArrangement().loads[0]);
    const double px = overviewPxPerMm(many, 2);
    EXPECT_NEAR(px * px * (3 * 316.8 + 12) * (1000 * 316.8 + 12), 2e7, 1e3)
        << "by hand: mats of 304.8 mm, 12 apart";
}

TEST(Package, TakesTheLoadsOfAnEarlierOneAwayAndNothingElse) {
    support::MemoryFileStore store;
    const auto package = packed(someStack(), someArrangement(), {"Quay sign"});
    ASSERT_TRUE(package);
    for (const char* name : {"load-7-rust.svg", "load-8-mine.svg", "notes.txt"})
        ASSERT_TRUE(store.writeWhole(std::string("out/") + name, bytesOf("x")));
    ASSERT_TRUE(store.writeWhole("out/contents.txt", bytesOf("Quay sign\n\nload-7-rust.svg: mat 304.8 mm\n"
                                                             "load-1-sea.svg: mat 304.8 mm\n"
                                                             "load-../../home.svg: mat 1 mm\n")));
    ASSERT_TRUE(writePackage(store, "out", *package));
    EXPECT_FALSE(store.has("out/load-7-rust.svg")) << "the wrong one would be cut";
    for (const char* name :
         {"load-1-sea.svg", "load-8-mine.svg", "notes.txt", "contents.txt", "overview.png"})
        EXPECT_TRUE(store.has(std::string("out/") + name)) << name;
}

} // namespace
} // namespace thinline::pack
