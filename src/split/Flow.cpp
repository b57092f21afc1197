// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "split/Flow.h"

#include <algorithm>
#include <limits>

namespace thinline::split {
namespace {
constexpr double kLeast = 1e-9;
}

void Flow::reset(int nodes) {
    m_nodes = nodes + 2;
    m_source = nodes;
    m_sink = nodes + 1;
    if (m_arcs.size() < static_cast<size_t>(m_nodes))
        m_arcs.resize(static_cast<size_t>(m_nodes));
    for (int i = 0; i < m_nodes; ++i)
        m_arcs[static_cast<size_t>(i)].clear();
}

void Flow::link(int a, int b, double ab, double ba) {
    auto& from = m_arcs[static_cast<size_t>(a)];
    auto& to = m_arcs[static_cast<size_t>(b)];
    from.push_back({b, static_cast<int>(to.size()), ab});
    to.push_back({a, static_cast<int>(from.size()) - 1, ba});
}

void Flow::addTerminal(int node, double ifFar, double ifNear) {
    const double both = std::min(ifFar, ifNear); // is paid either way
    if (ifFar - both > kLeast)
        link(m_source, node, ifFar - both, 0);
    if (ifNear - both > kLeast)
        link(node, m_sink, ifNear - both, 0);
}

void Flow::addArc(int a, int b, double nearFar, double farNear) {
    link(a, b, nearFar, farNear);
}

bool Flow::levels() {
    m_level.assign(static_cast<size_t>(m_nodes), -1);
    m_queue.assign(1, m_source);
    m_level[static_cast<size_t>(m_source)] = 0;
    for (size_t i = 0; i < m_queue.size(); ++i)
        for (const Arc& arc : m_arcs[static_cast<size_t>(m_queue[i])])
            if (arc.room > kLeast && m_level[static_cast<size_t>(arc.to)] < 0) {
                m_level[static_cast<size_t>(arc.to)] = m_level[static_cast<size_t>(m_queue[i])] + 1;
                m_queue.push_back(arc.to);
            }
    return m_level[static_cast<size_t>(m_sink)] >= 0;
}

double Flow::push(int node, double most) {
    if (node == m_sink)
        return most;
    double done = 0;
    auto& arcs = m_arcs[static_cast<size_t>(node)];
    for (size_t& i = m_next[static_cast<size_t>(node)]; i < arcs.size(); ++i) {
        Arc& arc = arcs[i];
        if (arc.room <= kLeast ||
            m_level[static_cast<size_t>(arc.to)] != m_level[static_cast<size_t>(node)] + 1)
            continue;
        const double got = push(arc.to, std::min(most - done, arc.room));
        if (got <= 0)
            continue;
        arc.room -= got;
        m_arcs[static_cast<size_t>(arc.to)][static_cast<size_t>(arc.twin)].room += got;
        done += got;
        if (most - done <= kLeast)
            break;
    }
    return done;
}

void Flow::run() {
    while (levels()) {
        m_next.assign(static_cast<size_t>(m_nodes), 0);
        if (push(m_source, std::numeric_limits<double>::infinity()) <= kLeast)
            break;
    }
}

} // namespace thinline::split
