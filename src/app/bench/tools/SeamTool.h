// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Tool.h"

#include <functional>

namespace thinline::app {

/// What is shown of a piece that is being divided, bench mm.
struct SeamsShown {
    struct Seam {
        geometry::Line path;
        QString words; ///< told beside the pointer
        bool isFaulty = false;
    };
    struct Part {
        geometry::Point at;
        QString number;
    };
    std::vector<Seam> seams;
    std::vector<geometry::Polygon> windows;
    std::vector<geometry::Shape> strips;
    std::vector<Part> parts;
    int chosen = -1; ///< of the seams
};

/// Seams are stitched over the bench. An end or a bend is dragged; a seam that is dragged between them gets a bend there; a
/// click chooses it. Drawing, a drag lays a new one.
class SeamTool : public Tool {
  public:
    struct Calls {
        std::function<void(geometry::Point from, geometry::Point to)> moved; ///< all that lay at one point
        std::function<void(size_t seam, geometry::Point from, geometry::Point to)> bent;
        std::function<void(geometry::Point from, geometry::Point to)> drawn;
        std::function<void(int seam)> chosen;       ///< -1 beside all
        std::function<void(const SceneItem&)> kept; ///< clicked with Shift
    };
    explicit SeamTool(Calls calls) : m_calls(std::move(calls)) {}

    void show(SeamsShown shown) { m_shown = std::move(shown); }
    const SeamsShown& shown() const { return m_shown; }
    void draw(bool isDrawing) { m_isDrawing = isDrawing; }

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    void forget() override { m_held.reset(); }
    void paint(QPainter& painter, const BenchMap& map) const override;
    bool isAimed() const override { return m_isDrawing; }
    bool isDragging() const override { return m_held.has_value() || m_over >= 0; }

  private:
    struct Held {
        geometry::Point from, to;
        int seam = -1; ///< that gets a bend; -1 where a point is moved
        bool isNew = false; ///< a seam is drawn
        bool isDragged = false;
    };
    int seamAt(const Pointer& pointer) const;
    std::optional<geometry::Point> nodeAt(const Pointer& pointer) const;

    Calls m_calls;
    SeamsShown m_shown;
    std::optional<Held> m_held;
    bool m_isDrawing = false;
    int m_over = -1;
    geometry::Point m_at;
};

} // namespace thinline::app
