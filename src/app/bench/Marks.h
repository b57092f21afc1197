// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/Tool.h"

#include <QColor>
#include <QPainterPath>
#include <QString>

namespace thinline::app {

/// A panel between folds: its name, and an arrow the way it is read once folded.
struct PanelMark {
    geometry::Point middle; ///< bench mm
    double upRad = 0;       ///< clockwise from straight up
    double roomMm = 0;      ///< across the panel
    QString name;
    bool isChosen = false;
    bool operator==(const PanelMark&) const = default;
};

/// What is shown of lines besides the lines themselves.
struct LineMarks {
    std::vector<geometry::Line> chosen, ghost; ///< bench mm
    std::vector<PanelMark> panels;
    bool operator==(const LineMarks&) const = default;
};

/// What belongs to the pieces of a scene besides their outlines: lines and zones, each drawn by its kind. Prints are part of the
/// scene.
class Marks {
  public:
    /// Gathers what the scene's pieces carry. Cost: O(nodes of lines and zones).
    void show(const Scene* scene);
    void paint(QPainter& painter, const BenchMap& map) const;

    size_t lines() const { return m_lines.size(); }
    size_t zones() const { return m_zones.size(); }

  private:
    struct Line {
        QPainterPath path; ///< bench mm
        design::LineUse does;
        bool isFaint = false; ///< another tool makes it: what that does is drawn over it
    };
    void addFoldLines(const SceneItem& item);
    struct Zone {
        QPainterPath path;
        design::Zone::Kind kind{};
    };
    std::vector<Line> m_lines;
    std::vector<std::pair<QPainterPath, design::FoldsAs>> m_made; ///< cuts and pen ticks of folds
    std::vector<Zone> m_zones;
};

} // namespace thinline::app
