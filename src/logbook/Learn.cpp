// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "logbook/Learn.h"

#include "base/Length.h"
#include "job/StockSteps.h"

#include <algorithm>
#include <cmath>

namespace thinline::logbook {
namespace {

constexpr std::size_t kNewest = 12, kNewestClean = 4;
constexpr double kSame = 0.025; ///< forces as near as that are one
constexpr double kMore = 1.1;   ///< after what did not go through; common practice
constexpr int kSuccessesPerFailure = 4;
constexpr double kLikeWeight = 0.15;

std::string grams(double force) {
    return base::formatNumber(force, 0) + " gf";
}

bool isClean(const Entry& entry) {
    return entry.outcome == Outcome::Clean;
}
bool hasFailed(const Entry& entry) {
    return entry.outcome == Outcome::NotThrough;
}

/// The newest of the cuts with as many passes as the newest clean one.
std::vector<Entry> lookedAt(const std::vector<Entry>& entries) {
    std::vector<Entry> all;
    std::copy_if(entries.begin(), entries.end(), std::back_inserter(all), [](const Entry& entry) {
        return (entry.what == What::Cut || entry.what == What::Tile) && (isClean(entry) || hasFailed(entry));
    });
    if (all.empty())
        return all;
    const auto clean = std::find_if(all.begin(), all.end(), isClean);
    const int passes = clean == all.end() ? all.front().passes : clean->passes;
    std::erase_if(all, [&](const Entry& entry) { return entry.passes != passes; });
    all.resize(std::min(all.size(), kNewest));
    return all;
}

std::optional<Learnt> learntFromOne(const std::vector<Entry>& entries) {
    const std::vector<Entry> all = lookedAt(entries);
    if (all.empty())
        return {};
    Learnt out;
    out.passes = all.front().passes;
    std::vector<double> forces; // of the newest clean ones
    double mostFailed = 0;
    for (const Entry& entry : all) {
        if (isClean(entry) && forces.size() < kNewestClean)
            forces.push_back(entry.forceGf);
        if (hasFailed(entry))
            mostFailed = std::max(mostFailed, entry.forceGf);
    }
    std::sort(forces.begin(), forces.end());
    if (!forces.empty()) {
        out.leastGf = forces.front();
        out.mostGf = forces.back();
    }
    for (const double force : forces) {
        int clean = 0, failed = 0;
        for (const Entry& entry : all) {
            clean += isClean(entry) && std::abs(entry.forceGf - force) <= kSame * force;
            failed += hasFailed(entry) && entry.forceGf >= (1 - kSame) * force;
        }
        if (failed * kSuccessesPerFailure > clean)
            continue;
        out.forceGf = force;
        out.clean = clean;
        out.tries = clean + failed;
        out.reason = "cut clean " + std::to_string(clean) + " of " + std::to_string(out.tries) +
                     " times at " + grams(force);
        if (out.mostGf > out.leastGf)
            out.reason += ", " + grams(out.leastGf) + " to " + grams(out.mostGf) + " of late";
        return out;
    }
    constexpr double kStepGf = 5, kNothing = 1e-9;
    out.isMore = true;
    out.forceGf = kStepGf * std::ceil(kMore * mostFailed / kStepGf - kNothing);
    out.reason = "ten per cent more than the " + grams(mostFailed) + " that did not go through";
    return out;
}

} // namespace

std::optional<Learnt> learntFrom(const std::vector<Entry>& entries, const std::string& stockId) {
    std::vector<Entry> own, others;
    for (const Entry& entry : entries)
        (entry.stockId == stockId ? own : others).push_back(entry);
    if (auto out = learntFromOne(own))
        return out;
    auto out = learntFromOne(others);
    if (out) {
        out->isOfThisStock = false;
        out->reason = "others of its kind and weight: " + out->reason;
    }
    return out;
}

base::Result<std::optional<Learnt>> learnt(const Logbook& logbook, const design::Stock& stock,
                                           const design::Machine& machine, const design::Setting& setting) {
    const auto entries =
        logbook.like({stock.id, job::kindWord(stock.kind), (1 - kLikeWeight) * stock.gramsPerM2,
                      (1 + kLikeWeight) * stock.gramsPerM2, machine.id, setting.blade, setting.tack});
    if (!entries)
        return entries.error();
    auto out = learntFrom(*entries, stock.id);
    if (out)
        out->forceGf = std::clamp(out->forceGf, machine.leastGf, machine.mostGf);
    return out;
}

} // namespace thinline::logbook
