// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "logbook/Exchange.h"

#include <gtest/gtest.h>

#include <random>

namespace thinline::logbook {
namespace {

using base::Code;

std::vector<Entry> someEntries() {
    std::vector<Entry> out(4);
    out[0].id = "00112233aabbccdd";
    out[0].when = "2026-05-02T14:03:00Z";
    out[0].stock = "lichen, \"old\"";
    out[0].forceGf = 0.1 + 0.2; // no short decimal
    out[0].lineMm = 1e-7;
    out[0].note = "two\r\nlines, Möwe";
    out[1].forceGf = 210;
    out[1].outcome = Outcome::NotThrough;
    out[1].blade = design::ToolKind::SteepBlade;
    out[1].tack = design::Tack::Low;
    out[2].what = What::NewMat;
    out[2].mat = "square12";
    out[3].what = What::Fit;
    out[3].widthMm = 254;
    out[3].heightMm = 110;
    out[3].stepMm = 3.2;
    return out;
}

TEST(Exchange, WhatIsWrittenIsReadAgain) {
    for (const std::string& text :
         {csvOf(someEntries()), jsonOf(someEntries()), "\xEF\xBB\xBF" + csvOf(someEntries())}) {
        const auto back = readEntries(text);
        ASSERT_TRUE(back) << back.error().message << "\n" << text;
        EXPECT_EQ(*back, someEntries());
    }
    EXPECT_TRUE(readEntries(csvOf({}))->empty());
    EXPECT_TRUE(readEntries(jsonOf({}))->empty());
}

TEST(Exchange, ColumnsMayComeInAnyOrderAndBeMissing) {
    const auto back = readEntries("forceGf,weather,what,stock\n210,rain,cut,lichen\n\n,,note,\n");
    ASSERT_TRUE(back) << back.error().message;
    ASSERT_EQ(back->size(), 2u);
    EXPECT_EQ((*back)[0].forceGf, 210);
    EXPECT_EQ((*back)[0].stock, "lichen");
    EXPECT_EQ((*back)[0].passes, 1);
    EXPECT_EQ((*back)[1].what, What::Note);
}

TEST(Exchange, WhatCannotBeIsToldWithItsPlace) {
    const auto told = [](const std::string& text) {
        const auto read = readEntries(text);
        EXPECT_FALSE(read) << text;
        return read ? std::string() : read.error().message;
    };
    EXPECT_NE(told("").find("Line 1"), std::string::npos);
    EXPECT_NE(told("a,b\n1,2\n").find("Line 1"), std::string::npos);
    EXPECT_NE(told("what,forceGf\ncut,210\ncut,heavy\n").find("Line 3: 'heavy' cannot be a forceGf"),
              std::string::npos);
    EXPECT_NE(told("what,forceGf\ncut,1e99\n").find("Line 2"), std::string::npos);
    EXPECT_NE(told("what,forceGf\ncut\n").find("Line 2: It has 1 cells"), std::string::npos);
    EXPECT_NE(told("what,note\nnote,\"open\n").find("not closed"), std::string::npos);
    EXPECT_NE(told("what,passes,forceGf\ncut,1.5,200\n").find("Line 2"), std::string::npos);
    EXPECT_NE(told("what\nsawn\n").find("'sawn' cannot be a what"), std::string::npos);
    EXPECT_NE(told("[{\"what\":\"cut\"}]").find("Entry 1"), std::string::npos);
    EXPECT_NE(told("[{\"what\":[]}]").find("Entry 1"), std::string::npos);
    EXPECT_NE(told("{\"what\":\"cut\"}").find("list of entries"), std::string::npos);
    EXPECT_NE(told("[1]").find("no object"), std::string::npos);
    EXPECT_EQ(readEntries(std::string(kMostBytes + 1, ' ')).error().code, Code::LimitExceeded);
}

TEST(Exchange, BrokenFilesAreReadOrRefusedWithoutACrash) {
    std::mt19937 random(7);
    for (const std::string& whole : {csvOf(someEntries()), jsonOf(someEntries())})
        for (int i = 0; i < 3000; ++i) {
            std::string bad = whole;
            for (int k = 0; k < 3; ++k) {
                const std::size_t at = random() % bad.size();
                if (random() % 3 == 0)
                    bad.erase(at, random() % 9);
                else
                    bad[at] = static_cast<char>(random());
                if (bad.empty())
                    bad = " ";
            }
            const auto read = readEntries(bad);
            if (read) {
                for (const Entry& entry : *read)
                    EXPECT_TRUE(checkEntry(entry));
            } else {
                EXPECT_FALSE(read.error().message.empty());
            }
        }
}

} // namespace
} // namespace thinline::logbook
