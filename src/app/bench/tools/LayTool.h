// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Tool.h"

#include <functional>
#include <map>

namespace thinline::app {

/// How things were laid elsewhere by hand: turned about a place of the bench, then moved.
struct Laying {
    geometry::Point by;
    double turnRad = 0; ///< clockwise on screen
    geometry::Point about;

    geometry::Point operator()(geometry::Point p) const;
};

/// Pieces are dragged over mats; the wheel turns what is held. They hold on to the spacing beside others and to the edge of
/// what may be cut, but with Shift; what they come too near to is marked.
class LayTool : public Tool {
  public:
    struct Calls {
        std::function<void(const Pointer&)> picked; ///< on release, on a piece or beside all
        std::function<void(const std::vector<size_t>& items, const Laying&)> laid;
        std::function<void(const SceneItem&)> twice;
        /// Returns which items of the scene go along when one is dragged, besides itself.
        std::function<std::vector<size_t>(const Scene&, const SceneItem&)> along;
        std::function<double(const SceneItem&)> spacingMm; ///< kept beside a held one
        std::function<std::vector<geometry::Box>()> usable; ///< what of the mats may be cut, bench mm
    };
    explicit LayTool(Calls calls) : m_calls(std::move(calls)) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    void pressTwice(const Pointer& pointer) override;
    void forget() override { m_held.reset(); }
    bool turn(double notches) override;
    void paint(QPainter& painter, const BenchMap& map) const override;
    bool isDragging() const override { return m_held && m_held->isDragged; }
    /// What the held pieces come too near to as they lie now.
    const std::vector<size_t>& touched() const { return m_touched; }

  private:
    struct Held {
        Pointer from;
        geometry::Point hand; ///< where the pointer is
        bool withShift = false;
        std::vector<size_t> items = {};
        std::vector<geometry::Polygons> outlines = {}; ///< of those, where they were taken
        std::vector<geometry::Polygons> lying = {};    ///< the same, where they are now
        std::vector<geometry::Box> usable = {};        ///< what of the mats may be cut
        double spacingMm = 0;                          ///< kept beside them: the most that one of them asks for
        Laying laying = {};
        bool isDragged = false;
    };
    const geometry::Polygons& outlineOf(size_t item);
    void settle();
    void findTouched();

    Calls m_calls;
    std::optional<Held> m_held;
    std::map<size_t, geometry::Polygons> m_others; ///< outlines of what lies about
    std::vector<size_t> m_touched;
};

} // namespace thinline::app
