// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "formats/zip/Archive.h"

#include <gtest/gtest.h>

#include <optional>

namespace thinline::formats::zip {
namespace {

base::Bytes bytes(const std::string& text) {
    return {text.begin(), text.end()};
}

Entry entry(base::Bytes held, bool isStored = false) {
    return {std::make_shared<const base::Bytes>(std::move(held)), isStored, false};
}
Entry copied() {
    return {nullptr, false, true};
}

/// Why a file was refused; nothing when it was read.
std::optional<base::Code> refusal(const base::Bytes& file) {
    const auto out = readArchive(file);
    return out ? std::nullopt : std::optional(out.error().code);
}

TEST(Archive, RoundTripIsExactAndReproducible) {
    const std::map<std::string, Entry> entries{{"job.json", entry(bytes("{}"))},
                                               {"artwork", entry(base::Bytes(100000, 7), true)},
                                               {"empty", entry({})}};
    const auto file = writeArchive(entries);
    ASSERT_TRUE(file);
    EXPECT_EQ(*writeArchive(entries), *file);
    const auto back = readArchive(*file);
    ASSERT_TRUE(back) << back.error().message;
    ASSERT_EQ(back->size(), 3u);
    for (const auto& [name, held] : entries)
        EXPECT_EQ(back->at(name), *held.bytes) << name;
}

// What has not changed is taken over as it lies in the old file, without unpacking it: damage in it is not noticed
// here, but by whoever unpacks it.
TEST(Archive, EntriesAreCopiedPacked) {
    const auto old = *writeArchive({{"job.json", entry(bytes("before"))},
                                    {"kept/a", entry(bytes(std::string(200'000, 'a')))},
                                    {"artwork", entry(base::Bytes(5000, 7), true)}});
    const auto mixed = writeArchive(
        {{"job.json", entry(bytes("after"))}, {"kept/a", copied()}, {"artwork", copied()}}, &old);
    ASSERT_TRUE(mixed) << mixed.error().message;
    const auto whole = writeArchive({{"job.json", entry(bytes("after"))},
                                     {"kept/a", entry(bytes(std::string(200'000, 'a')))},
                                     {"artwork", entry(base::Bytes(5000, 7), true)}});
    EXPECT_EQ(*mixed, *whole) << "the same bytes as writing everything";
    EXPECT_EQ(writeArchive({{"kept/b", copied()}}, &old).error().code, base::Code::NotFound);
    EXPECT_EQ(writeArchive({{"kept/a", copied()}}).error().code, base::Code::NotFound);
}

TEST(Archive, ABombIsNotUnpacked) {
    const auto file = writeArchive({{"job.json", entry(base::Bytes(50'000'000, 0))}});
    ASSERT_TRUE(file);
    EXPECT_LT(file->size(), 100'000u);
    const auto out = readArchive(*file, {.mostBytesPerEntry = 1'000'000});
    ASSERT_FALSE(out);
    EXPECT_EQ(out.error().code, base::Code::LimitExceeded);
}

TEST(Archive, ABombWhoseHeaderLiesIsStoppedWhileUnpacking) {
    auto file = *writeArchive({{"job.json", entry(base::Bytes(5'000'000, 0))}});
    // The stated sizes, in the local and the central header, become 1000.
    for (size_t i = 0; i + 4 < file.size(); ++i)
        if (file[i] == 0x40 && file[i + 1] == 0x4b && file[i + 2] == 0x4c && file[i + 3] == 0) {
            file[i] = 0xe8;
            file[i + 1] = 3;
            file[i + 2] = 0;
        }
    EXPECT_FALSE(readArchive(file, {.mostBytesPerEntry = 1'000'000}));
}

TEST(Archive, TooManyEntriesBadNamesAndDamageAreRefused) {
    std::map<std::string, Entry> many;
    for (int i = 0; i < 1100; ++i)
        many["e" + std::to_string(i)] = entry({});
    EXPECT_EQ(refusal(*writeArchive(many)), base::Code::LimitExceeded);
    for (const char* name : {"../escape", "/etc/x", "a\\b"})
        EXPECT_EQ(refusal(*writeArchive({{name, entry(bytes("x"))}})), base::Code::ParseError) << name;
    auto damaged = *writeArchive({{"job.json", entry(bytes(std::string(500, 'q') + "end"), true)}});
    damaged[60] ^= 0xff; // within the stored bytes: the checksum no longer matches
    EXPECT_EQ(refusal(damaged), base::Code::ParseError);
    EXPECT_EQ(refusal(bytes("PK but no archive")), base::Code::ParseError);
    EXPECT_EQ(refusal({}), base::Code::ParseError);
}

TEST(Archive, CutOffAnywhereItIsRefusedNotRead) {
    const auto file = *writeArchive(
        {{"job.json", entry(bytes(std::string(300, 'j')))}, {"artwork", entry(base::Bytes(300, 9), true)}});
    for (size_t length = 0; length < file.size(); length += 7)
        EXPECT_FALSE(readArchive(base::Bytes(file.begin(), file.begin() + static_cast<long>(length))))
            << length;
}

} // namespace
} // namespace thinline::formats::zip
