// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "document/History.h"

namespace thinline::document {

History::History(Job first) {
    reset(std::move(first));
}

void History::push(Job job, std::string step) {
    m_states.resize(m_at + 1);
    m_states.push_back({std::make_shared<const Job>(std::move(job)), std::move(step)});
    ++m_at;
}

void History::amend(Job job) {
    m_states[m_at].job = std::make_shared<const Job>(std::move(job));
}

void History::reset(Job job) {
    m_states.clear();
    m_states.push_back({std::make_shared<const Job>(std::move(job)), ""});
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

} // namespace thinline::document
