// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Tool.h"

#include <functional>

namespace thinline::app {

/// Two clicks, a line between them.
class GapTool : public Tool {
  public:
    using Closed = std::function<void(geometry::Point from, geometry::Point to)>;
    explicit GapTool(Closed closed) : m_closed(std::move(closed)) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override { m_pointer = pointer.at; }
    void forget() override { m_from.reset(); }
    void paint(QPainter& painter, const BenchMap& map) const override;
    bool isAimed() const override { return true; }

  private:
    Closed m_closed;
    std::optional<geometry::Point> m_from;
    geometry::Point m_pointer;
};

} // namespace thinline::app
