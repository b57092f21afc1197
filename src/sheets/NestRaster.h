// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "sheets/NestTable.h"

#include <optional>
#include <vector>

/// Sheets as cells: a first look at where there is room. For the search only (sheets/Nest.h).
namespace thinline::sheets {

/// An outline as runs of cells about its middle, in rows.
struct NestMask {
    struct Run {
        int row, begin, end;
    };
    std::vector<Run> runs;
};

/// A field of cells over a sheet.
class NestField {
  public:
    NestField(const geometry::Box& box, double cellMm);

    double cellMm() const { return m_cell; }
    /// The cells a form reaches into within a distance, about the middle of a cell.
    NestMask maskOf(const NestTable& form, double turnRad, double withinMm) const;

    /// A cell and how much of a form lies there: more in its depth.
    struct Covered {
        int cell;
        float value;
    };
    std::vector<Covered> coverOf(const NestTable& form, const NestPose& pose, double withinMm) const;
    void clear();
    void add(const std::vector<Covered>& covered, float weight);
    void sumRows(); ///< after the last add and before least
    /// Marks cells as taken, for firstFree.
    void take(const std::vector<Covered>& covered);

    struct Found {
        geometry::Point at;
        float sum = 0;
    };
    /// The place of a form's middle at which its mask covers least, among those whose box lies in the field's box down to
    /// `lengthMm`; nothing when the box is larger.
    std::optional<Found> least(const NestMask& mask, const geometry::Box& extents, double lengthMm);
    /// The first place from above at which it covers nothing that is taken, from a row on and with its middle above a line.
    std::optional<Found> firstFree(const NestMask& mask, const geometry::Box& extents, int fromRow,
                                   double aboveMm) const;
    int rowOf(double y) const { return static_cast<int>((y - m_box.least.y) / m_cell); }
    int rows() const { return m_down; }

  private:
    struct Range {
        int first, last;
    };
    Range columns(const geometry::Box& extents) const;
    Range rowsFor(const geometry::Box& extents, double lengthMm) const;

    geometry::Box m_box;
    double m_cell;
    int m_across, m_down, m_pad;
    std::vector<float> m_cells; ///< padded at both sides
    std::vector<float> m_sums;  ///< of a row up to a cell
    std::vector<float> m_row;
    std::vector<int> m_lastTaken; ///< before each cell of a row; -1 for none. Empty until something is taken
    std::vector<bool> m_isTaken;
};

} // namespace thinline::sheets
