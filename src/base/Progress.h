// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <atomic>
#include <cstdio>
#include <cstdlib>
#include <functional>
#include <string_view>

namespace thinline::base {

/// While one lives, its thread answers a person: it paints, it takes clicks, and it computes nothing. Builds for tests
/// (THINLINE_WATCHES_THREADS) end the program when it begins a computation all the same.
class Answering {
  public:
    Answering() { ++s_depth; }
    ~Answering() { --s_depth; }
    Answering(const Answering&) = delete;
    Answering& operator=(const Answering&) = delete;

    static void mustNotBeHere() {
#ifdef THINLINE_WATCHES_THREADS
        if (s_depth == 0)
            return;
        std::fputs("A computation was begun on the thread that answers a person; have a Task do it.\n",
                   stderr);
        std::abort();
#endif
    }

  private:
    static inline thread_local int s_depth = 0;
};

/// How a long computation is watched and stopped: passed in as the last parameter, divisible, never global.
/// A default Progress reports nowhere and is never cancelled. Copies are cheap; the flag and the listener
/// must outlive the computation. The listener is called on the computing thread. Whatever may take long takes one, so
/// making one is beginning to compute, which no thread does that answers a person.
class Progress {
  public:
    using Listener = std::function<void(double fraction, std::string_view doing)>;

    Progress() { Answering::mustNotBeHere(); }
    Progress(const std::atomic<bool>* stop, const Listener* listener) : m_stop(stop), m_listener(listener) {
        Answering::mustNotBeHere();
    }

    bool isCancelled() const { return m_stop && m_stop->load(std::memory_order_relaxed); }

    /// Tells how far along this range is (0 to 1) and, in a few words, what is being done.
    void report(double fraction, std::string_view doing) const {
        if (m_listener && *m_listener)
            (*m_listener)(m_low + (m_high - m_low) * std::clamp(fraction, 0.0, 1.0), doing);
    }

    /// Returns the Progress of a step that takes the share [low, high] of this one.
    Progress part(double low, double high) const {
        Progress inner = *this;
        inner.m_low = m_low + (m_high - m_low) * low;
        inner.m_high = m_low + (m_high - m_low) * high;
        return inner;
    }

  private:
    const std::atomic<bool>* m_stop = nullptr;
    const Listener* m_listener = nullptr;
    double m_low = 0;
    double m_high = 1;
};

} // namespace thinline::base
