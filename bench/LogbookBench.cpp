// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// A logbook of many years: how long 100,000 entries take to be entered at once, to be searched, and what one more costs.
#include "logbook/Learn.h"

#include <chrono>
#include <cstdio>
#include <filesystem>

using namespace thinline;

namespace {

template <class Work>
double msOf(const Work& work) {
    const auto start = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
}

} // namespace

int main() {
    const auto folder = std::filesystem::temp_directory_path() / "thinline-logbook-bench";
    std::filesystem::remove_all(folder);
    std::filesystem::create_directories(folder);
    auto opened =
        logbook::Logbook::open((folder / "logbook.sqlite").string(), logbook::Logbook::Open::OrBegin);
    if (!opened)
        return 1;
    logbook::Logbook book = opened.take();
    constexpr int kEntries = 100'000;
    std::vector<logbook::Entry> entries(kEntries);
    for (int i = 0; i < kEntries; ++i) {
        logbook::Entry& entry = entries[static_cast<std::size_t>(i)];
        entry.when = logbook::timeWord(1'700'000'000LL + 600LL * i);
        entry.job = "gull-point-" + std::to_string(i % 977);
        entry.load = i % 7 + 1;
        entry.stockId = entry.stock = "card-" + std::to_string(i % 40);
        entry.kind = "card";
        entry.gramsPerM2 = 150 + i % 200;
        entry.machine = "two-holders";
        entry.forceGf = 180 + i % 60;
        entry.outcome = i % 9 == 0 ? logbook::Outcome::NotThrough : logbook::Outcome::Clean;
        entry.lineMm = 1500 + i % 900;
        entry.mat = "square12";
        entry.note = i == 70'000 ? "the one with the bent rail" : i % 3 == 0 ? "mat worn at the left" : "";
    }
    std::printf("%d entries taken in: %.0f ms\n", kEntries, msOf([&] { (void)book.take(entries); }));
    double worst = 0;
    for (const char* words : {"", "bent rail", "not through card-17", "nothing of the kind", "gull-point-5"})
        worst = std::max(worst, msOf([&] { (void)book.find({words, {}, 500}); }));
    std::printf("searched by words, five ways: %.0f ms at worst\n", worst);
    std::printf("what was cut like a stock: %.1f ms; how worn blade and mat are: %.1f ms\n", msOf([&] {
                    (void)book.like({"card-7", "card", 187, 253, "two-holders",
                                     design::ToolKind::ShallowBlade, design::Tack::Middle});
                }),
                msOf([&] { (void)book.wear("two-holders", design::ToolKind::ShallowBlade, "square12"); }));
    logbook::Entry one = entries.front();
    one.when.clear();
    constexpr int kMore = 50;
    std::printf("one more entry, on the disk: %.2f ms\n", msOf([&] {
                                                              for (int i = 0; i < kMore; ++i)
                                                                  (void)book.add(one);
                                                          }) / kMore);
    std::filesystem::remove_all(folder);
    return 0;
}
