// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/Making.h"

#include <optional>

namespace thinline::batch {

/// Changes of a job, one after the other, each on what came of the one before. The first that cannot be ends it.
class Chain {
  public:
    explicit Chain(const job::State& state) : m_now(state) {}

    /// Does a change when it is wished. `change(const State&)` returns a Result<Job>; it is not called after a refusal.
    template <class Change>
    Chain& when(bool isWished, Change change) {
        if (!isWished || m_refusal)
            return *this;
        base::Result<job::Job> next = change(static_cast<const job::State&>(m_now));
        if (next)
            m_now.job = next.take();
        else
            m_refusal = next.error();
        return *this;
    }
    base::Result<job::Job> job() const {
        return m_refusal ? base::Result<job::Job>(*m_refusal) : base::Result<job::Job>(m_now.job);
    }

  private:
    job::State m_now;
    std::optional<base::Error> m_refusal;
};

/// Returns what a change comes to with a value that was read, or why it could not be read.
template <class Value, class Change>
base::Result<job::Job> with(const base::Result<Value>& value, Change change) {
    if (!value)
        return value.error();
    return change(*value);
}

} // namespace thinline::batch
