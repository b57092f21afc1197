// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "cutplan/Swaps.h"

#include <map>
#include <numeric>

namespace thinline::cutplan {
namespace {

using design::CutPlan;
using design::PlannedLoad;
using design::ToolKind;

using Held = std::vector<std::optional<ToolKind>>; ///< by holder
using Needs = std::vector<std::pair<std::size_t, ToolKind>>;

Needs needsOf(const PlannedLoad& load) {
    Needs out;
    for (const design::Pass& pass : load.passes)
        if (const std::pair need{pass.holder, pass.tool}; out.empty() || out.back() != need)
            out.push_back(need);
    return out;
}

int swapsOf(const Needs& needs, Held& held) {
    int out = 0;
    for (const auto& [holder, tool] : needs) {
        std::optional<ToolKind>& now = held[holder];
        out += now && *now != tool ? 1 : 0;
        now = tool;
    }
    return out;
}

/// Kinds of loads: those that need the same are done one after the other.
struct Kinds {
    std::vector<Needs> needs;
    std::vector<std::vector<std::size_t>> loads;
    std::size_t holders = 1;

    int swaps(const std::vector<std::size_t>& order) const {
        Held held(holders);
        int out = 0;
        for (const std::size_t kind : order)
            for (std::size_t i = 0; i < loads[kind].size(); ++i)
                out += swapsOf(needs[kind], held);
        return out;
    }
};

constexpr std::size_t kMostTried = 7;

std::vector<std::size_t> bestOrder(const Kinds& kinds) {
    std::vector<std::size_t> order(kinds.needs.size());
    std::iota(order.begin(), order.end(), 0);
    if (order.size() <= kMostTried) {
        std::vector<std::size_t> best = order;
        int fewest = kinds.swaps(order);
        while (fewest > 0 && std::next_permutation(order.begin(), order.end()))
            if (const int swaps = kinds.swaps(order); swaps < fewest) {
                fewest = swaps;
                best = order;
            }
        return best;
    }
    Held held(kinds.holders);
    for (std::size_t i = 0; i < order.size(); ++i) {
        std::size_t nearest = i;
        int fewest = 1 << 20;
        for (std::size_t k = i; k < order.size(); ++k) {
            Held then = held;
            if (const int swaps = swapsOf(kinds.needs[order[k]], then); swaps < fewest) {
                fewest = swaps;
                nearest = k;
            }
        }
        std::rotate(order.begin() + static_cast<std::ptrdiff_t>(i),
                    order.begin() + static_cast<std::ptrdiff_t>(nearest),
                    order.begin() + static_cast<std::ptrdiff_t>(nearest) + 1);
        swapsOf(kinds.needs[order[i]], held);
    }
    return order;
}

void noteSwaps(CutPlan& plan) {
    Held held(plan.machine.holders.size());
    plan.start.assign(held.size(), {});
    plan.swaps = 0;
    for (PlannedLoad& load : plan.loads) {
        load.swaps.clear();
        for (std::size_t p = 0; p < load.passes.size(); ++p) {
            const auto& [holder, tool] = std::pair{load.passes[p].holder, load.passes[p].tool};
            std::optional<ToolKind>& now = held[holder];
            if (!now)
                plan.start[holder] = tool;
            else if (*now != tool)
                load.swaps.push_back({p, holder, now, tool});
            now = tool;
        }
        plan.swaps += static_cast<int>(load.swaps.size());
    }
}

} // namespace

std::optional<std::size_t> holderFor(const design::Machine& machine, ToolKind tool) {
    std::optional<std::size_t> out;
    for (std::size_t i = 0; i < machine.holders.size(); ++i)
        if (machine.holders[i].doesTake(tool) &&
            (!out || machine.holders[i].takes.size() < machine.holders[*out].takes.size()))
            out = i;
    return out;
}

void orderForFewestSwaps(CutPlan& plan) {
    if (plan.machine.holders.empty())
        return;
    Kinds kinds;
    kinds.holders = plan.machine.holders.size();
    std::vector<std::size_t> asNumbered;
    Held held(kinds.holders);
    plan.swapsInOrder = 0;
    for (std::size_t i = 0; i < plan.loads.size(); ++i) {
        const Needs needs = needsOf(plan.loads[i]);
        plan.swapsInOrder += swapsOf(needs, held);
        const auto at = std::find(kinds.needs.begin(), kinds.needs.end(), needs);
        if (at == kinds.needs.end()) {
            kinds.needs.push_back(needs);
            kinds.loads.push_back({i});
        } else {
            kinds.loads[static_cast<std::size_t>(at - kinds.needs.begin())].push_back(i);
        }
    }
    const std::vector<std::size_t> order = bestOrder(kinds);
    if (kinds.swaps(order) < plan.swapsInOrder) {
        std::vector<PlannedLoad> loads;
        for (const std::size_t kind : order)
            for (const std::size_t load : kinds.loads[kind])
                loads.push_back(std::move(plan.loads[load]));
        plan.loads = std::move(loads);
    }
    noteSwaps(plan);
}

} // namespace thinline::cutplan
