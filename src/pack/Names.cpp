// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "pack/Names.h"

#include "job/Together.h"

#include <algorithm>
#include <map>

namespace thinline::pack {
namespace {

std::string fileNameOf(const std::string& name, std::map<std::string, int>& taken) {
    std::string out;
    for (const char c : name)
        out += c == '/' || c == '\\' || c == ':' || static_cast<unsigned char>(c) < 32 ? '-' : c;
    if (out.empty() || out.front() == '.')
        out = "_" + out;
    constexpr size_t kMostBytes = 120;
    out = out.substr(0, kMostBytes);
    const int times = ++taken[out];
    return times == 1 ? out : out + " " + std::to_string(times);
}

} // namespace

base::Result<std::vector<Named>> forNames(const job::State& state, const job::Slot& slot,
                                          const std::vector<std::string>& names, const base::FontStore& fonts,
                                          const design::Formats& formats, const base::Progress& progress) {
    std::vector<Named> out;
    std::map<std::string, int> taken;
    inspect::Memory memory;
    for (size_t i = 0; i < names.size(); ++i) {
        progress.report(static_cast<double>(i) / static_cast<double>(names.size()), "Setting the names");
        if (progress.isCancelled())
            return base::cancelled();
        auto filled = job::withSlotFilled(state.job, slot, names[i], fonts, progress);
        if (!filled)
            return base::Error{filled.error().code, "'" + names[i] + "': " + filled.error().message};
        job::Job job = filled.take();
        job.name = names[i];
        auto made = job::make(std::move(job), job::Stage::Finish, state.made, progress);
        if (!made)
            return made.error();
        Named one{names[i], fileNameOf(names[i], taken), made.take(), 0, 0, 0};
        const auto findings = inspect::inspect(one.state, formats, memory, {}, progress);
        if (!findings)
            return findings.error();
        for (const inspect::Finding& finding : *findings) {
            one.spoils += finding.severity == inspect::Severity::SpoilsCard;
            one.risks += finding.severity == inspect::Severity::RisksCard;
        }
        one.widthMm = job::slotWidthMm(one.state.job, slot);
        out.push_back(std::move(one));
    }
    std::stable_sort(out.begin(), out.end(), [](const Named& a, const Named& b) {
        return std::pair(a.spoils, a.risks) > std::pair(b.spoils, b.risks);
    });
    return out;
}

base::Result<job::State> asOneJob(const std::vector<Named>& names, const std::string& name,
                                  const base::Progress& progress) {
    std::vector<const job::State*> states;
    for (const Named& one : names)
        states.push_back(&one.state);
    auto joined = job::together(states);
    if (!joined)
        return joined.error();
    job::Job job = joined.take();
    job.name = name;
    return job::make(std::move(job), job::Stage::Finish, {}, progress);
}

} // namespace thinline::pack
