// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/Recovery.h"

#include "document/JobFile.h"

#include <charconv>

namespace thinline::document {

Recovery::Recovery(base::FileStore& store, std::string folder, int ownProcess,
                   std::function<bool(int)> isRunning)
    : m_store(store), m_folder(std::move(folder)), m_own(ownProcess), m_isRunning(std::move(isRunning)) {}

std::string Recovery::pathOf(int process, const char* ending) const {
    return m_folder + "/" + std::to_string(process) + ending;
}

base::Status Recovery::keep(const Job& job, const std::string& originPath) {
    if (auto made = m_store.makeFolder(m_folder); !made)
        return made;
    if (auto noted =
            m_store.writeWhole(pathOf(m_own, ".origin"), base::Bytes(originPath.begin(), originPath.end()));
        !noted)
        return noted;
    return saveJob(m_store, pathOf(m_own, ".thinline"), job);
}

base::Status Recovery::discard() {
    return forget({pathOf(m_own, ".thinline"), "", m_own});
}

base::Status Recovery::forget(const Lost& lost) {
    auto removed = m_store.remove(lost.path);
    auto noted = m_store.remove(pathOf(lost.process, ".origin"));
    return removed ? noted : removed;
}

std::vector<Recovery::Lost> Recovery::findLost() const {
    std::vector<Lost> lost;
    for (const std::string& name : m_store.list(m_folder)) {
        int process = 0;
        const auto [end, code] = std::from_chars(name.data(), name.data() + name.size(), process);
        if (code != std::errc() || std::string_view(end) != ".thinline" || process == m_own ||
            m_isRunning(process))
            continue;
        constexpr std::uint64_t kMostPathBytes = 8192;
        const auto origin = m_store.read(pathOf(process, ".origin"), kMostPathBytes);
        lost.push_back({pathOf(process, ".thinline"),
                        origin ? std::string(origin->begin(), origin->end()) : "", process});
    }
    return lost;
}

} // namespace thinline::document
