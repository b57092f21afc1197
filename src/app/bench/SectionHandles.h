// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Tool.h"
#include "design/Section.h"

#include <optional>

namespace thinline::app {

/// The section line on the bench, with a bead at either end beyond the work: one moves the line, the other turns it.
/// They lie outside the work, so that nothing that lies on the bench is ever covered by them.
class SectionHandles {
  public:
    enum class Bead { None, Move, Turn };

    /// What is shown; none hides it. `work` is the frame of all pieces: the line always crosses it.
    /// False when nothing changes.
    bool show(std::optional<design::SectionLine> line, const geometry::Box& work);
    const std::optional<design::SectionLine>& line() const { return m_line; }
    bool isDragging() const { return m_held != Bead::None; }

    /// The bead at a place of the widget.
    Bead at(QPointF widget, const BenchMap& map) const;
    /// Takes hold of a bead; false when there is none.
    bool press(QPointF widget, const BenchMap& map);
    /// Moves or turns the line; false when nothing is held or nothing changes.
    bool move(QPointF widget, const BenchMap& map);
    void release() { m_held = Bead::None; }
    void paint(QPainter& painter, const BenchMap& map) const;
    /// Where a bead lies, in the widget.
    QPointF placeOf(Bead bead, const BenchMap& map) const;

  private:
    std::optional<design::SectionLine> m_line;
    geometry::Box m_work;
    Bead m_held = Bead::None;
    geometry::Point m_from;         ///< where the pointer took hold, mm
    design::SectionLine m_lineThen; ///< the line then
};

/// Returns the line moved sideways by a way, turned by an angle, or turned towards a place; as it was when it would leave the box. It is
/// held by the middle of what crosses the box, and snaps to level and upright.
design::SectionLine movedSideways(const design::SectionLine& line, geometry::Point by,
                                  const geometry::Box& box);
design::SectionLine turnedBy(const design::SectionLine& line, double byRad, const geometry::Box& box);
design::SectionLine turnedTowards(const design::SectionLine& line, geometry::Point to,
                                  const geometry::Box& box);

} // namespace thinline::app
