// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Tool.h"

#include <functional>

namespace thinline::app {

/// A box is dragged open between two corners.
class BoxTool : public Tool {
  public:
    explicit BoxTool(std::function<void(geometry::Box)> drawn) : m_drawn(std::move(drawn)) {}
    void press(const Pointer& pointer) override { m_from = m_to = pointer.at; }
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    void forget() override { m_from.reset(); }
    void paint(QPainter& painter, const BenchMap& map) const override;
    bool isAimed() const override { return true; }

  private:
    std::function<void(geometry::Box)> m_drawn;
    std::optional<geometry::Point> m_from;
    geometry::Point m_to;
};

/// The pressed pointer's way, shown as wide as it counts.
class StrokeTool : public Tool {
  public:
    using Drawn = std::function<void(const std::vector<geometry::Point>&)>;
    StrokeTool(double widthMm, Drawn drawn) : m_widthMm(widthMm), m_drawn(std::move(drawn)) {}
    void press(const Pointer& pointer) override { m_way = {pointer.at}; }
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    void forget() override { m_way.clear(); }
    void paint(QPainter& painter, const BenchMap& map) const override;
    bool isAimed() const override { return true; }

  private:
    double m_widthMm;
    Drawn m_drawn;
    std::vector<geometry::Point> m_way;
};

} // namespace thinline::app
