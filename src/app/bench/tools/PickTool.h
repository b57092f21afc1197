// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Tool.h"

#include <QPainterPath>

#include <functional>

namespace thinline::app {

/// A click picks a piece or a place; where `moved` is given, dragging a piece moves it.
class PickTool : public Tool {
  public:
    struct Calls {
        std::function<void(const Pointer&)> picked; ///< on release, on a piece or beside all
        std::function<void(const SceneItem&, geometry::Point byMm)> moved = {};
    };
    explicit PickTool(Calls calls) : m_calls(std::move(calls)) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    void forget() override { m_held.reset(); }
    void paint(QPainter& painter, const BenchMap& map) const override;
    bool isDragging() const override { return m_held && m_held->isDragged; }

  private:
    struct Held {
        Pointer from;
        QPainterPath outline; ///< mm
        raster::Rgb fill{};
        geometry::Point by;
        bool isDragged = false;
    };
    Calls m_calls;
    std::optional<Held> m_held;
};

} // namespace thinline::app
