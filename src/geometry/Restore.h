// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/HashIndex.h"
#include "geometry/Meetings.h"
#include "geometry/Strands.h"

/// The second half of a curve-true operation: rings of strands become outlines of the curves they stand for.
/// Internal to the folder.
namespace thinline::geometry {

class Restorer {
  public:
    Restorer(const EdgeNet& net, const StrandSet& set, const Grid& grid);

    /// Returns the outline a ring stands for; empty when nothing is left of it.
    /// Shape:  the orientation of the ring; stretches of given curves, cut where curves cross.
    /// Units:  mm; crossings lie on both curves within 1e-6 mm.
    /// Cost:   O(1) per vertex; where no end of a step is a strand's end a look into a grid of cells.
    Contour outlineOf(const GridRing& ring);

    /// How much length of all rings so far belonged to no strand, mm. More than a trifle means the engine
    /// and we disagree about what was handed over.
    double lostMm() const { return m_lostMm; }

  private:
    struct Span; ///< a stretch of one source in the direction of the ring
    struct Step {
        int strand = -1;
        double f0 = 0, f1 = 1; ///< along the strand
    };
    Step stepBetween(GridPoint from, GridPoint to, int previousStrand);
    Step searchCells(GridPoint from, GridPoint to);
    void fillCells();
    void append(std::vector<Span>& spans, const Step& step, GridPoint from, GridPoint to) const;
    Point settleJoint(Span& before, Span& after) const;
    Contour written(const std::vector<Span>& spans, const std::vector<Point>& joints) const;

    const EdgeNet& m_net;
    const StrandSet& m_set;
    const Grid& m_grid;
    HashIndex m_ends; ///< entry 2 s is the start of strand s, 2 s + 1 its end
    double m_lostMm = 0;
    std::int64_t m_cell = 0; ///< side of a cell; 0 until they are needed
    HashIndex m_cells{0};
    std::vector<int> m_cellStrand; ///< per entry of m_cells
    std::vector<int> m_long;       ///< strands that cross too many cells
};

} // namespace thinline::geometry
