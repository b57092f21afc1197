// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// History: every state, and what was made for it, within a budget.
//
// A state is the job's decisions, an immutable value that shares nearly everything with the one before; a
// thousand of them are cheap. What follows from a state (pieces, stack, finished work, sheets) is not
// cheap, but it is shared as well: a step that moves one piece leaves the others' bodies where they are.
// So each state keeps what was made for it, and undo and redo exchange two pointers, without computing
// anything.
//
// What is counted against the budget is what a state's making holds beyond that of the state before it.
// When the sum passes the budget, the makings farthest from the current state are let go; decisions never
// are. Going back that far costs a making, from the nearest that is known.
//
// A making that comes in late is kept with the state it belongs to, found by its serial number, even if
// the person has gone on: she may come back. If the making found parts (names and inside points of the
// pieces of a cut), the state's job takes them in. That is not a decision and gets no number of its own.
#include "document/History.h"

#include <algorithm>

namespace thinline::document {

History::History(job::Job first, std::size_t budgetBytes) : m_budget(budgetBytes) {
    reset(std::move(first));
}

void History::push(job::Job job, std::string step, std::shared_ptr<const job::Made> made) {
    m_states.resize(m_at + 1);
    add(std::move(job), std::move(step), std::move(made));
    ++m_at;
    m_states[m_at].bytes = ownBytesOf(m_at);
    keepWithinBudget();
}

void History::add(job::Job job, std::string step, std::shared_ptr<const job::Made> made) {
    m_states.push_back({std::make_shared<const job::Job>(std::move(job)), std::move(made), std::move(step),
                        ++m_lastSerial, 0});
}

bool History::setMade(int serial, job::State state) {
    const auto at =
        std::find_if(m_states.begin(), m_states.end(), [&](const State& s) { return s.serial == serial; });
    if (at == m_states.end())
        return false;
    if (at->job->steps != state.job.steps) // parts were found
        at->job = std::make_shared<const job::Job>(std::move(state.job));
    at->made = std::make_shared<const job::Made>(std::move(state.made));
    at->bytes = ownBytesOf(static_cast<std::size_t>(at - m_states.begin()));
    keepWithinBudget();
    return true;
}

void History::reset(job::Job job, std::shared_ptr<const job::Made> made) {
    m_states.clear();
    add(std::move(job), "", std::move(made));
    m_at = 0;
}

void History::undo() {
    if (canUndo())
        --m_at;
}

void History::redo() {
    if (canRedo())
        ++m_at;
}

std::size_t History::madeCount() const {
    return static_cast<std::size_t>(
        std::count_if(m_states.begin(), m_states.end(), [](const State& s) { return s.made != nullptr; }));
}

/// What a state's making takes that the one before it does not hold already.
std::size_t History::ownBytesOf(std::size_t state) const {
    static const job::Made none;
    const auto& made = m_states[state].made;
    const auto& before = state > 0 ? m_states[state - 1].made : nullptr;
    return made ? job::ownBytes(*made, before ? *before : none) : 0;
}

/// Lets go what is farthest from the current state.
void History::keepWithinBudget() {
    std::size_t sum = 0;
    const auto take = [&](std::size_t i) {
        sum += m_states[i].made ? m_states[i].bytes : 0;
        if (sum > m_budget && i != m_at)
            m_states[i].made = nullptr;
    };
    for (std::size_t i = m_at + 1; i-- > 0;)
        take(i);
    for (std::size_t i = m_at + 1; i < m_states.size(); ++i)
        take(i);
}

} // namespace thinline::document
