// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Tool.h"
#include "cutplan/Timeline.h"
#include "devices/MatAfter.h"

#include <QPainterPath>

namespace thinline::app {

/// Shows how far a load is cut: what is done strongly, where the tool is, and which strips will tear.
class CutTool : public Tool {
  public:
    /// `corner`: where the mat lies on the bench.
    void show(std::shared_ptr<const design::PlannedLoad> load,
              std::shared_ptr<const cutplan::Timeline> timeline, geometry::Point corner);
    /// What will lie on the mat when all is done; null while nobody knows.
    void foresee(std::shared_ptr<const devices::MatAfter> after) { m_after = std::move(after); }
    void goTo(double seconds) { m_seconds = seconds; }
    double seconds() const { return m_seconds; }
    void paint(QPainter& painter, const BenchMap& map) const override;

  private:
    void paintTears(QPainter& painter, const BenchMap& map) const;
    struct Drawn {
        design::Operation operation;
        std::vector<QPainterPath> paths; ///< mm on the bench
    };
    std::shared_ptr<const design::PlannedLoad> m_load;
    std::shared_ptr<const cutplan::Timeline> m_timeline;
    geometry::Point m_corner;
    std::vector<Drawn> m_passes;
    double m_seconds = 0;
    std::shared_ptr<const devices::MatAfter> m_after;
};

} // namespace thinline::app
