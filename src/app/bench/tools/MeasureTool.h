// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/tools/Holds.h"
#include "base/Length.h"

#include <functional>

namespace thinline::app {

/// The tape: two clicks that hold on to nodes, centres and edges.
class MeasureTool : public Tool {
  public:
    using Measured = std::function<void(geometry::Point from, geometry::Point to)>;
    explicit MeasureTool(Measured measured) : m_measured(std::move(measured)) {}
    void setUnit(base::LengthUnit unit) { m_unit = unit; }

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override { m_here = heldPlace(pointer); }
    void forget() override;
    void paint(QPainter& painter, const BenchMap& map) const override;
    bool isAimed() const override { return true; }

  private:
    Measured m_measured;
    base::LengthUnit m_unit = base::LengthUnit::Millimetre;
    std::optional<geometry::Point> m_from, m_to;
    Scene::Snap m_here;
};

} // namespace thinline::app
