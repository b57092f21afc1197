// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Making.h"

#include <memory>
#include <string>
#include <vector>

namespace thinline::document {

/// All states of a job within a session, each with the name of the step that led to it. Undo is a pointer swap. There
/// is always a current state. What follows from a job is kept beside it as long as all of it together stays within a
/// budget; what was let go is made again when the state comes back. Not safe to share between threads; the states
/// are.
class History {
  public:
    static constexpr std::size_t kBudgetBytes = 512u << 20;
    explicit History(job::Job first, std::size_t budgetBytes = kBudgetBytes);

    const job::Job& now() const { return *m_states[m_at].job; }
    std::shared_ptr<const job::Job> snapshot() const { return m_states[m_at].job; }
    /// Tells the current state from every other one, for as long as the history lives.
    int serial() const { return m_states[m_at].serial; }
    /// What follows from the current job; null until it is made.
    std::shared_ptr<const job::Made> made() const { return m_states[m_at].made; }

    /// Adds a state after the current one; states that were undone are forgotten.
    void push(job::Job job, std::string step, std::shared_ptr<const job::Made> made = nullptr);
    /// Tells what follows from the job of a state; `state.job` may name newly found parts. Returns whether that
    /// state is still there.
    bool setMade(int serial, job::State state);
    /// Starts over with another job.
    void reset(job::Job job, std::shared_ptr<const job::Made> made = nullptr);

    bool canUndo() const { return m_at > 0; }
    bool canRedo() const { return m_at + 1 < m_states.size(); }
    /// The name of the step that undo takes back, or redo does again; empty when there is none.
    std::string undoName() const { return canUndo() ? m_states[m_at].step : ""; }
    std::string redoName() const { return canRedo() ? m_states[m_at + 1].step : ""; }
    void undo();
    void redo();

    /// How many states have what follows from them at hand.
    std::size_t madeCount() const;

  private:
    struct State {
        std::shared_ptr<const job::Job> job;
        std::shared_ptr<const job::Made> made;
        std::string step;
        int serial = 0;
        std::size_t bytes = 0; ///< of `made`, not shared with the state before
    };
    void add(job::Job job, std::string step, std::shared_ptr<const job::Made> made);
    std::size_t ownBytesOf(std::size_t state) const;
    void keepWithinBudget();
    std::vector<State> m_states;
    std::size_t m_at = 0;
    int m_lastSerial = 0;
    std::size_t m_budget;
};

} // namespace thinline::document
