// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "split/Net.h"

/// Seams while they are moved about: points on the edges and on the card, and straight stretches between them. Internal
/// to the folder.
namespace thinline::split {

struct Node {
    geometry::Point at;
    int ring = kInside;
    double alongMm = 0; ///< where it is on its ring
};
struct SeamNet {
    std::vector<Node> nodes;
    std::vector<std::pair<int, int>> edges;

    Stretch stretch(size_t edge) const;
    std::vector<size_t> edgesAt(int node) const;
};

/// A ring with its lengths.
class Track {
  public:
    explicit Track(const geometry::Polygon& ring);
    double lengthMm() const { return m_upTo.back(); }
    geometry::Point at(double alongMm) const;
    /// The way from one place on to another: the corners between them.
    geometry::Polygon between(double fromMm, double toMm) const;
    double alongOf(size_t corner) const { return m_upTo[corner]; }

  private:
    size_t stepAt(double alongMm) const;
    double wrapped(double alongMm) const;
    geometry::Polygon m_ring;
    std::vector<double> m_upTo; ///< to every corner, and all around
};

/// Returns the outlines of the parts that seams make, openings left out.
/// Source: faces of a planar division, walked along half-edges with the card on one side.
std::vector<geometry::Polygon> outlinesOf(const std::vector<Track>& tracks, const SeamNet& seams);

/// Moves the ends and the bends of seams to where they cost least. Parts stay as many, each fits, and no sliver comes
/// about.
void settle(SeamNet& seams, const std::vector<Track>& tracks, const Pricing& pricing, const Room& room,
            const base::Progress& progress);

/// Returns the seams as lines, from edge to edge or to where three meet.
std::vector<geometry::Line> linesOf(const SeamNet& seams);

} // namespace thinline::split
