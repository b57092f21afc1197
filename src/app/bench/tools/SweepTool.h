// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Tool.h"

#include <functional>

namespace thinline::app {

/// Every piece the pressed pointer comes to is swept, once as long as it stays on it.
class SweepTool : public Tool {
  public:
    using Swept = std::function<void(const SceneItem&, bool withShift)>;
    explicit SweepTool(Swept swept) : m_swept(std::move(swept)) {}

    void press(const Pointer& pointer) override {
        m_last = {};
        sweep(pointer);
    }
    void move(const Pointer& pointer) override {
        if (pointer.isHeld)
            sweep(pointer);
    }

  private:
    void sweep(const Pointer& pointer) {
        const SceneItem* item = pointer.on();
        if (!item || item->piece == m_last)
            return;
        m_last = item->piece;
        const SceneItem swept = *item;
        m_swept(swept, pointer.withShift);
    }
    Swept m_swept;
    design::PieceId m_last;
};

} // namespace thinline::app
