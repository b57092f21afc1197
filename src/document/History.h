// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "document/Job.h"

#include <memory>
#include <string>
#include <vector>

namespace thinline::document {

/// All states of a job within a session, each with the name of the step that led to it. Undo is a pointer
/// swap. There is always a current state. Not safe to share between threads; the states are.
class History {
  public:
    explicit History(Job first);

    const Job& now() const { return *m_states[m_at].job; }
    std::shared_ptr<const Job> snapshot() const { return m_states[m_at].job; }

    /// Adds a state after the current one; states that were undone are forgotten.
    void push(Job job, std::string step);
    /// Replaces the current state without a step of its own: for what the program derives by itself.
    void amend(Job job);
    /// Starts over with another job.
    void reset(Job job);

    bool canUndo() const { return m_at > 0; }
    bool canRedo() const { return m_at + 1 < m_states.size(); }
    /// The name of the step that undo takes back, or redo does again; empty when there is none.
    std::string undoName() const { return canUndo() ? m_states[m_at].step : ""; }
    std::string redoName() const { return canRedo() ? m_states[m_at + 1].step : ""; }
    void undo();
    void redo();

  private:
    struct State {
        std::shared_ptr<const Job> job;
        std::string step;
    };
    std::vector<State> m_states;
    size_t m_at = 0;
};

} // namespace thinline::document
