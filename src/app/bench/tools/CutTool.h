// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Tool.h"
#include "cutplan/Timeline.h"
#include "devices/MatAfter.h"

#include <QPainterPath>
#include <QPixmap>

namespace thinline::app {

/// Shows how far a load is cut, its mat's corner at the bench's origin: what is done strongly, where the tool is, and
/// which strips will tear.
class CutTool : public Tool {
  public:
    /// `timeline` is the load's.
    void show(std::shared_ptr<const design::PlannedLoad> load,
              std::shared_ptr<const cutplan::Timeline> timeline);
    /// What will lie on the mat when all is done; null while nobody knows.
    void foresee(std::shared_ptr<const devices::MatAfter> after) { m_after = std::move(after); }
    void goTo(double seconds) { m_seconds = seconds; }
    double seconds() const { return m_seconds; }
    void paint(QPainter& painter, const BenchMap& map) const override;

  private:
    /// What is done, painted. It only grows while the tool goes on, so that a frame costs no more than what it adds.
    struct Done {
        QPixmap picture;
        QTransform map;
        size_t pass = 0, path = 0; ///< up to which
    };
    void paintDone(QPainter& painter, const BenchMap& map, size_t pass, size_t path) const;
    void paintTears(QPainter& painter, const BenchMap& map) const;

    std::shared_ptr<const design::PlannedLoad> m_load;
    std::shared_ptr<const cutplan::Timeline> m_timeline;
    double m_seconds = 0;
    std::shared_ptr<const devices::MatAfter> m_after;
    mutable Done m_done;
};

} // namespace thinline::app
