// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "design/Step.h"
#include "support/Stacks.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <random>
#include <set>
#include <thread>

namespace thinline::design {
namespace {

using support::id;

TEST(PieceId, IsAPathThatIsReadAndWrittenTheSame) {
    const PieceId letter = PieceId::found(SourceId{3}, "4.1");
    const PieceId part = letter.parted(StepId{17}, "2"), twin = part.parted(StepId{20}, "twin.1");
    EXPECT_EQ(letter.text(), "3:4.1");
    EXPECT_EQ(twin.text(), "3:4.1/17.2/20.twin.1");
    for (const PieceId one : {letter, part, twin})
        EXPECT_EQ(*PieceId::read(one.text()), one);
    EXPECT_EQ(twin.source(), SourceId{3});
    EXPECT_EQ(twin.foundKey(), "4.1");
    EXPECT_EQ(twin.whole(), part);
    EXPECT_EQ(twin.madeBy(), StepId{20});
    EXPECT_FALSE(letter.whole());
    EXPECT_TRUE(letter.isFound());
    EXPECT_EQ(PieceId{}.text(), "");
    EXPECT_FALSE(PieceId{});
}

TEST(PieceId, WhatNamesNoPieceIsRefusedWithItsText) {
    for (const char* bad : {"", "7", "3:", ":a", "x:a", "3:a/", "3:a/17", "3:a/17.", "3:a b", "3:ä", "-1:a",
                            "3:a/-1.b", "99999999999:a", "3:a//1.b", "3:a/1.b/"})
        EXPECT_FALSE(PieceId::read(bad)) << bad;
    EXPECT_EQ(PieceId::read("3:a b").error().message, "'3:a b' names no piece.");
    EXPECT_FALSE(PieceId::read("3:" + std::string(61, 'k'))) << "too long a key";
    std::string deep = "3:a";
    for (int i = 0; i < 300; ++i)
        deep += "/1.1";
    EXPECT_FALSE(PieceId::read(deep)) << "no honest file parts a piece so often";
}

TEST(PieceId, IsOrderedAsPeopleCount) {
    std::vector<PieceId> sorted;
    for (const char* text :
         {"1:2", "1:10", "1:10/3.1", "1:10/3.2", "1:10/3.10", "1:10/4.1", "1:a.9", "1:a.10", "2:1", "10:1"})
        sorted.push_back(id(text));
    std::mt19937 random(3);
    for (int round = 0; round < 20; ++round) {
        std::vector<PieceId> mixed = sorted;
        std::shuffle(mixed.begin(), mixed.end(), random);
        std::sort(mixed.begin(), mixed.end());
        EXPECT_EQ(mixed, sorted);
    }
    EXPECT_LT(PieceId{}, sorted.front());
    EXPECT_EQ(compareKeys("a.07", "a.7"), std::strong_ordering::equal);
    EXPECT_TRUE(compareKeys("a.7", "a.08") < 0);
}

// What takes a piece's place when it is not there any more: plain parts. Twins, rings and rests are beside it.
TEST(PieceId, OnlyPlainPartsStandInForAPiece) {
    const PieceId whole = id("1:5");
    struct Row {
        const char* text;
        bool isPart, isTwin;
    };
    for (const Row& row :
         {Row{"1:5", false, false}, Row{"1:5/2.1", true, false}, Row{"1:5/2.1/7.3", true, false},
          Row{"1:5/2.twin.1", false, true}, Row{"1:5/2.twin.1/3.1", false, false},
          Row{"1:5/2.ring.1", false, false}, Row{"1:5/2.rest.1", false, false}, Row{"1:6/2.1", false, false},
          Row{"2:5/2.1", false, false}}) {
        EXPECT_EQ(id(row.text).isPartOf(whole), row.isPart) << row.text;
        EXPECT_EQ(id(row.text).isTwin(), row.isTwin) << row.text;
    }
    EXPECT_TRUE(id("1:5/2.twin.1/3.1").isPartOf(id("1:5/2.twin.1")));
}

TEST(PieceId, IsTheSameFromEveryThread) {
    std::vector<std::vector<PieceId>> found(4);
    std::vector<std::thread> threads;
    for (std::vector<PieceId>& own : found)
        threads.emplace_back([&own] {
            for (int i = 0; i < 500; ++i)
                own.push_back(PieceId::found(SourceId{71}, std::to_string(i)).parted(StepId{i}, "1"));
        });
    for (std::thread& thread : threads)
        thread.join();
    for (const auto& own : found)
        EXPECT_EQ(own, found[0]);
    EXPECT_EQ(std::set<PieceId>(found[0].begin(), found[0].end()).size(), 500u);
}

TEST(Resolved, APieceThatIsGoneIsStoodInForByItsParts) {
    std::vector<Piece> pieces;
    for (const char* text :
         {"1:1", "1:2/4.1", "1:2/4.2/5.1", "1:2/4.ring.1", "1:3/6.twin.1", "2:a", "2:b/9.1"})
        pieces.push_back(support::piece(id(text), support::rectangle(0, 0, 1, 1)));
    const auto of = [&](std::vector<Chosen> chosen) {
        std::string out;
        for (const PieceId one : resolved(chosen, pieces))
            out += one.text() + " ";
        return out;
    };
    EXPECT_EQ(of({id("1:1")}), "1:1 ");
    EXPECT_EQ(of({id("1:2")}), "1:2/4.1 1:2/4.2/5.1 ");
    EXPECT_EQ(of({id("1:2/4.2")}), "1:2/4.2/5.1 ");
    EXPECT_EQ(of({id("1:3")}), "") << "a twin stands in for nobody";
    EXPECT_EQ(of({id("1:1"), id("1:1"), id("1:2"), id("1:2/4.1")}), "1:1 1:2/4.1 1:2/4.2/5.1 ")
        << "each once";
    EXPECT_EQ(of({EveryPieceOf{SourceId{2}}}), "2:a 2:b/9.1 ") << "a found one that was parted, by its parts";
    EXPECT_EQ(of({LineOf{id("1:1"), LineId{3}}, OpeningOf{id("2:a"), {}}}), "1:1 2:a ");
    EXPECT_EQ(resolved(id("1:2"), pieces)->id, id("1:2/4.1"));
    EXPECT_EQ(resolved(id("7:7"), pieces), nullptr);
}

} // namespace
} // namespace thinline::design
