// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <vector>

namespace thinline::split {

/// The cheapest cut between two ends of a network: the nodes stand on one side or the other. Internal to the folder.
/// Cost:   O(n^2 m) at worst, near linear on the small planar networks here.
/// Source: E. A. Dinic, Algorithm for solution of a problem of maximum flow in a network with power estimation, 1970.
class Flow {
  public:
    /// Begins anew with so many nodes, and keeps its memory.
    void reset(int nodes);
    /// What it costs when a node stands on the far side, and when it stands on the near one.
    void addTerminal(int node, double ifFar, double ifNear);
    /// What it costs when a stands near and b far; and the other way round.
    void addArc(int a, int b, double nearFar, double farNear);
    void run();
    /// After run: which side a node stands on.
    bool isNear(int node) const { return m_level[static_cast<std::size_t>(node)] >= 0; }

  private:
    struct Arc {
        int to, twin;
        double room;
    };
    bool levels();
    double push(int node, double most);
    void link(int a, int b, double ab, double ba);

    int m_source = 0, m_sink = 1;
    int m_nodes = 0;
    std::vector<std::vector<Arc>> m_arcs;
    std::vector<int> m_level;
    std::vector<std::size_t> m_next;
    std::vector<int> m_queue;
};

} // namespace thinline::split
