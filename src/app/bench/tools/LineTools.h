// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/tools/Holds.h"

#include <functional>

namespace thinline::app {

/// Two clicks that hold on to corners, notches, middles and edges: a line between them, on the piece it crosses.
class LineTool : public Tool {
  public:
    using Drawn = std::function<void(const SceneItem& on, geometry::Point from, geometry::Point to)>;
    explicit LineTool(Drawn drawn) : m_drawn(std::move(drawn)) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void forget() override { m_from.reset(); }
    void paint(QPainter& painter, const BenchMap& map) const override;
    bool isAimed() const override { return true; }
    bool hasBegun() const { return m_from.has_value(); }

  private:
    Drawn m_drawn;
    std::optional<geometry::Point> m_from;
    Scene::Snap m_here;
};

/// A click on a straight edge.
class EdgeTool : public Tool {
  public:
    using Clicked = std::function<void(const SceneItem& of, geometry::Point at)>;
    explicit EdgeTool(Clicked clicked) : m_clicked(std::move(clicked)) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void forget() override { m_edge.reset(); }
    void paint(QPainter& painter, const BenchMap& map) const override;
    bool isAimed() const override { return true; }

  private:
    struct Aim {
        size_t item = 0;
        geometry::Point from, to, at; ///< bench mm
    };
    static std::optional<Aim> aimOf(const Pointer& pointer);
    Clicked m_clicked;
    std::optional<Aim> m_edge;
};

/// A click picks a line, else the piece below; beside both it lets go. A line that is pointed at says what it is.
class PickLineTool : public Tool {
  public:
    using Picked = std::function<void(const Pointer&, const design::PieceLine* line)>;
    using Words = std::function<QString(const design::PieceLine&)>;
    PickLineTool(Picked picked, Words words) : m_picked(std::move(picked)), m_words(std::move(words)) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void forget() override { m_told.clear(); }
    void paint(QPainter& painter, const BenchMap& map) const override;
    bool isDragging() const override { return !m_told.isEmpty(); } ///< the words of its piece make way
    const QString& told() const { return m_told; }

  private:
    static std::optional<Scene::LinePlace> placeOf(const Pointer& pointer);
    Picked m_picked;
    Words m_words;
    geometry::Point m_at;
    QString m_told;
};

} // namespace thinline::app
