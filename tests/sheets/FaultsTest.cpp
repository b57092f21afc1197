// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "sheets/Faults.h"

#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <functional>
#include <numbers>
#include <random>

namespace thinline::sheets {
namespace {

using support::id;
using Kind = Fault::Kind;

const ArrangeOptions kChosen{
    {"square12", "12 × 12 in", 304.8, 304.8, 6.35}, {"a4", "A4", 210, 297, 6.35}, 2.5, true, {}};

/// A ring, twice a strip, a disc that goes into the ring; two strips that touch are a cluster; one piece of
/// another stock.
design::Stack someStack() {
    design::Stack out{
        {{"sea", "sea"}, {"rust", "rust"}},
        {support::layer(1, "sea"), support::layer(2, "rust")},
        {support::laid(1, support::withOpening(support::disc({50, 50}, 20), support::disc({50, 50}, 15))),
         support::laid(2, support::rectangle(0, 0, 30, 10), 1, 2),
         support::laid(3, support::disc({0, 0}, 10)), support::laid(4, support::rectangle(0, 0, 20, 5)),
         support::laid(5, support::rectangle(0, 5, 20, 5)),
         support::laid(6, support::rectangle(0, 0, 40, 40), 2),
         support::laid(7, support::rectangle(0, 0, 50, 50))}};
    out.clusters = {{"the pair", {id(4), id(5)}}};
    return out;
}

design::PlacedPiece& placed(design::Arrangement& a, int number, int copy = 0) {
    for (design::Load& load : a.loads)
        for (design::PlacedSheet& sheet : load.sheets)
            for (design::PlacedPiece& one : sheet.pieces)
                if (one.what == design::CopyOf{id(number), copy})
                    return one;
    throw std::runtime_error("it is not there");
}

std::vector<Fault> faults(const design::Arrangement& a, const design::Stack& stack = someStack(),
                          const ArrangeOptions& options = kChosen) {
    return *faultsOf(stack, a, options);
}

TEST(Faults, WhatTheProgramLaysHasNone) {
    EXPECT_TRUE(faults(*arrange(someStack(), kChosen)).empty());
    std::mt19937 chance(7);
    std::uniform_real_distribution<double> size(5, 120);
    for (int round = 0; round < 20; ++round) {
        design::Stack stack{{{"sea", "sea"}}, {support::layer(1, "sea")}, {}};
        for (int i = 1; i <= 30; ++i)
            stack.pieces.push_back(support::laid(i, i % 3
                                                        ? support::rectangle(3, 4, size(chance), size(chance))
                                                        : support::disc({9, 9}, size(chance) / 2)));
        const auto laid = *arrange(stack, kChosen);
        EXPECT_TRUE(faults(laid, stack).empty()) << faults(laid, stack)[0].message;
    }
}

// Every way in which an arrangement in a file may lie about the work.
TEST(Faults, NothingInAnArrangementIsBelieved) {
    using Sheets = std::vector<design::PlacedSheet>;
    struct Row {
        const char* what;
        std::function<void(design::Arrangement&)> spoil;
        Kind kind;
        const char* says;
    };
    const Row rows[] = {
        {"3 m beside the mat", [](auto& a) { placed(a, 2).pose.at.x += 3000; }, Kind::OffSheet,
         "over the edge"},
        {"a place that is no number", [](auto& a) { placed(a, 2).pose.at.x = NAN; }, Kind::OffSheet,
         "over the edge"},
        {"0.1 mm over the edge", [](auto& a) { placed(a, 1).pose.at.x = 6.35 + 20 - 0.1; }, Kind::OffSheet,
         ""},
        {"on top of one another", [](auto& a) { placed(a, 2, 1).pose = placed(a, 2, 0).pose; },
         Kind::OnAnother, "lies on"},
        {"a disc within a card", [](auto& a) { placed(a, 3).pose.at = placed(a, 7).pose.at; },
         Kind::OnAnother, "lies on"},
        {"another stock's sheet",
         [](auto& a) {
             Sheets& sheets = a.loads[0].sheets;
             std::swap(sheets[0].stockId, a.loads[1].sheets[0].stockId);
         },
         Kind::OtherStock, "is of"},
        {"turned over", [](auto& a) { placed(a, 3).pose.isFlipped = true; }, Kind::WrongFace, "mirrored"},
        {"two sheets taped together that were to lie one by one",
         [](auto& a) { a.loads[0].sheets[0].join = design::Join::Upright; }, Kind::OtherFormat, "not of the chosen size"},
        {"a piece that is missing", [](auto& a) { a.loads[0].sheets[0].pieces.pop_back(); }, Kind::Missing,
         "is on no sheet"},
        {"a copy that is said to be too large",
         [](auto& a) {
             std::erase_if(a.loads[0].sheets[0].pieces, [](const auto& one) {
                 return one.what == design::CopyOf{id(2), 1};
             });
             a.unplaced.push_back({id(2), 1});
         },
         Kind::Missing, "copy 2 is on no sheet though it fits one"},
        {"a copy too many", [](auto& a) { placed(a, 2, 1).what.copy = 5; }, Kind::NotThere,
         "is not to be cut"},
        {"a piece that is not in the work", [](auto& a) { placed(a, 3).what.piece = id(99); }, Kind::NotThere,
         "1:99"},
        {"twice", [](auto& a) { placed(a, 2, 1).what.copy = 0; }, Kind::Twice, "twice"},
        {"a sheet of -500 mm", [](auto& a) { a.loads[0].sheets[0].widthMm = -500; }, Kind::OtherFormat,
         "not of the chosen size"},
        {"a sheet beside its mat", [](auto& a) { a.loads[0].sheets[0].xMm = 250; }, Kind::OtherFormat,
         "over its mat"},
        {"a sheet without margin", [](auto& a) { a.loads[0].sheets[0].marginMm = 0; }, Kind::OtherFormat, ""},
        {"two sheets on one another",
         [](auto& a) {
             Sheets& sheets = a.loads[0].sheets;
             sheets.push_back(sheets[0]);
             sheets.back().pieces.clear();
         },
         Kind::OtherFormat, "on one another"},
        {"another mat", [](auto& a) { a.loads[0].mat.widthMm = 600; }, Kind::OtherFormat,
         "not the chosen one"},
        {"a stock that is not there", [](auto& a) { a.loads[0].sheets[0].stockId = "gold"; }, Kind::NotThere,
         "gold"},
        {"a cluster torn apart", [](auto& a) { placed(a, 5).pose.at.y += 0.5; }, Kind::Apart,
         "apart from its cluster"},
    };
    const design::Arrangement good = *arrange(someStack(), kChosen);
    ASSERT_EQ(good.loads.size(), 2u);
    for (const Row& row : rows) {
        design::Arrangement bad = good;
        row.spoil(bad);
        const auto found = faults(bad);
        const auto at = std::find_if(found.begin(), found.end(), [&](const Fault& f) {
            return f.kind == row.kind && f.message.find(row.says) != std::string::npos;
        });
        EXPECT_NE(at, found.end()) << row.what << ": "
                                   << (found.empty() ? "nothing was found" : found.front().message);
    }
}

// A program whose pieces come out larger does not pack the old places over them.
TEST(Faults, PiecesThatGrewSinceAreSeen) {
    const design::Arrangement laid = *arrange(someStack(), kChosen);
    design::Stack grown = someStack();
    grown.pieces[1].piece = support::piece(id(2), support::rectangle(0, 0, 33, 10));
    const auto found = faults(laid, grown);
    ASSERT_FALSE(found.empty());
    EXPECT_TRUE(found[0].kind == Kind::TooClose || found[0].kind == Kind::OnAnother) << found[0].message;
}

// Frames are held clear like pieces; two clusters may be called the same.
TEST(Faults, FramesAreCutToo) {
    design::Stack stack{{{"film", "film"}}, {support::layer(1, "film")}, {}};
    stack.stocks[0].cut = design::Depth::ToCarrier;
    for (int i = 1; i <= 4; ++i)
        stack.pieces.push_back(support::laid(i, support::rectangle(25.0 * i, 0, 20, 10)));
    stack.clusters = {{"the pair", {id(1), id(2)}, 1, 5}, {"the pair", {id(3), id(4)}, 1, 5}};
    design::Arrangement laid = *arrange(stack, kChosen);
    EXPECT_TRUE(faults(laid, stack).empty()) << faults(laid, stack)[0].message;
    const geometry::Point way = placed(laid, 3).pose.at - placed(laid, 1).pose.at;
    const bool isBeside = std::abs(way.x) > std::abs(way.y);
    const geometry::Point nearer =
        isBeside ? geometry::Point{way.x > 0 ? -4.0 : 4.0, 0} : geometry::Point{0, way.y > 0 ? -4.0 : 4.0};
    for (const int number : {3, 4})
        placed(laid, number).pose.at = placed(laid, number).pose.at + nearer;
    ASSERT_FALSE(faults(laid, stack).empty()) << "the frames cross, the pieces are 8.5 mm apart";
    EXPECT_NE(faults(laid, stack)[0].message.find("the frame of the pair"), std::string::npos)
        << faults(laid, stack)[0].message;
}

TEST(Faults, OutlinesCountNotBoxes) {
    design::Arrangement laid = *arrange(someStack(), kChosen);
    design::PlacedPiece& disc = placed(laid, 3);
    const auto spot = [&](int number) {
        const auto& one = placed(laid, number);
        const design::Stack stack = someStack();
        const design::Piece& piece = stack.find(id(number))->piece;
        const geometry::Box box =
            geometry::bounds(geometry::transformed(piece.shape(), design::placement(piece, one.pose)));
        return (box.least + box.most) * 0.5;
    };
    const geometry::Point middle = spot(1);
    const design::Stack stack = someStack();
    disc.pose = design::poseAtCorner(stack.find(id(3))->piece, middle - geometry::Point{10, 10}, 0);
    EXPECT_TRUE(faults(laid).empty()) << "in the ring's opening, 5 mm clear";
    disc.pose.at.x += 3; // 2 mm clear, less than 2.5
    ASSERT_EQ(faults(laid).size(), 1u);
    EXPECT_EQ(faults(laid)[0].kind, Kind::TooClose);
    EXPECT_NE(faults(laid)[0].message.find("2.00 mm from"), std::string::npos) << faults(laid)[0].message;
    disc.isPinned = true;
    EXPECT_TRUE(faults(laid).empty()) << "she put it there";
    disc.pose.at.x += 2.5;
    ASSERT_EQ(faults(laid).size(), 1u);
    EXPECT_EQ(faults(laid)[0].kind, Kind::OnAnother) << "pinned or not, a cut through the ring spoils it";
    EXPECT_TRUE(faults(laid)[0].isPinned);
}

} // namespace
} // namespace thinline::sheets
