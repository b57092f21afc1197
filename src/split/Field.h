// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"

#include <cstdint>
#include <vector>

/// The plane around a shape in cells: a seam's price is a few hundred looks at it. Internal to the folder.
namespace thinline::split {

/// Cells over a box, row by row.
class Cells {
  public:
    Cells() = default;
    Cells(const geometry::Box& box, double cellMm);

    int across() const { return m_across; }
    int down() const { return m_down; }
    double cellMm() const { return m_cell; }
    size_t count() const { return static_cast<size_t>(m_across) * static_cast<size_t>(m_down); }
    /// The cell a point lies in; the nearest one for a point outside.
    size_t cellAt(geometry::Point p) const;

    /// Marks the cells whose centres lie inside some rings, even-odd.
    void fill(const geometry::Polygons& rings, std::vector<uint8_t>& cells, uint8_t value) const;
    /// Marks the cells a straight stretch runs through.
    void draw(geometry::Point a, geometry::Point b, std::vector<uint8_t>& cells, uint8_t value) const;
    /// Returns every cell's distance, in mm, to the nearest one that is 0; beyond the box everything is 0 when
    /// `isBounded`.
    /// Source: P. F. Felzenszwalb, D. P. Huttenlocher, Distance Transforms of Sampled Functions, 2012.
    std::vector<float> distances(const std::vector<uint8_t>& cells, bool isBounded) const;
    /// Takes away what a disc of this radius inside the cells does not reach.
    /// Cost:   O(cells), whatever the radius: two looks down the columns, and stretches added up along the rows.
    std::vector<uint8_t> opened(const std::vector<uint8_t>& cells, double radiusMm) const;
    /// Returns groups of marked cells that touch with a side: of each its cells.
    std::vector<std::vector<size_t>> groups(const std::vector<uint8_t>& cells) const;

  private:
    std::vector<int> stepsAlongColumns(const std::vector<uint8_t>& cells, bool value, int atEdge,
                                       int most) const;
    /// The cells nearer than a radius to one that is `value`; beyond the box all are, when `isBounded`.
    std::vector<uint8_t> near(const std::vector<uint8_t>& cells, bool value, double radiusMm,
                              bool isBounded) const;

    geometry::Box m_box;
    double m_cell = 1;
    int m_across = 0, m_down = 0;
};

/// What is known of every place of a shape.
class Field {
  public:
    /// Each of the shapes laid on it and of the areas kept whole counts for itself; they may overlap.
    Field(const geometry::Polygons& shape, const std::vector<geometry::Polygons>& cover,
          const std::vector<geometry::Polygons>& keptWhole, double thinMm);

    double cellMm() const { return m_cells.cellMm(); }
    /// How far it is to the nearest edge; 0 off the shape.
    double clearanceMm(geometry::Point p) const { return m_clearance[m_cells.cellAt(p)]; }
    double widestMm() const { return m_widest; }
    bool isThin(geometry::Point p) const { return (m_marks[m_cells.cellAt(p)] & kThin) != 0; }
    bool isHidden(geometry::Point p) const { return (m_marks[m_cells.cellAt(p)] & kHidden) != 0; }
    bool isKept(geometry::Point p) const { return (m_marks[m_cells.cellAt(p)] & kKept) != 0; }
    bool keepsAny() const { return m_keepsAny; }
    double areaMm2() const { return m_area; }
    double hiddenMm2() const { return m_hidden; } ///< of the shape, under what lies above

  private:
    static constexpr uint8_t kThin = 1, kHidden = 2, kKept = 4;
    Cells m_cells;
    std::vector<float> m_clearance;
    std::vector<uint8_t> m_marks;
    double m_widest = 0, m_area = 0, m_hidden = 0;
    bool m_keepsAny = false;
};

} // namespace thinline::split
