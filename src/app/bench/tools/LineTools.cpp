// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Aiming at places on pieces. A hand on a mouse is a few pixels off; what it means is a corner, a notch, the middle of a
// side. So a click goes to the nearest such place within nine pixels, and the place is marked before the click, each kind
// by a shape of its own. A line belongs to the piece under its middle: its ends usually lie on an edge, where the piece
// below may be as near. The section line of the side view lies above the work and is grabbed by its two beads only.
#include "app/bench/tools/LineTools.h"

#include "app/bench/Labels.h"
#include "app/settings/Theme.h"
#include "folds/Edges.h"

#include <QPainter>

namespace thinline::app {
namespace {

using geometry::Point;

/// The piece a line lies on: the one under its middle, or under one of its ends.
int pieceUnder(const Scene& scene, Point from, Point to, double pxPerMm) {
    for (const Point p :
         {geometry::middle(from, to), from, to, geometry::middle(from, geometry::middle(from, to)),
          geometry::middle(to, geometry::middle(from, to))})
        if (const int item = scene.itemAt(p, pxPerMm); item >= 0)
            return item;
    return -1;
}

void paintLine(QPainter& painter, QPointF from, QPointF to) {
    painter.setPen(QPen(QColor("#FFFFFF"), 4.5, Qt::SolidLine, Qt::RoundCap));
    painter.drawLine(from, to);
    painter.setPen(QPen(Theme::light().accent, 2, Qt::SolidLine, Qt::RoundCap));
    painter.drawLine(from, to);
}

} // namespace

void LineTool::move(const Pointer& pointer) {
    m_here = heldPlace(pointer);
}

void LineTool::press(const Pointer& pointer) {
    m_here = heldPlace(pointer);
    if (!m_from) {
        m_from = m_here.at;
        return;
    }
    constexpr double kLeastMm = 1; // what is shorter is a click that was doubled
    if (geometry::distance(*m_from, m_here.at) < kLeastMm)
        return;
    const Point from = *std::exchange(m_from, std::nullopt);
    const int item = pieceUnder(*pointer.scene, from, m_here.at, pointer.pxPerMm);
    if (item < 0)
        return;
    const SceneItem on =
        pointer.scene->items()[static_cast<size_t>(item)]; // the call may bring another scene
    m_drawn(on, from, m_here.at);
}

void LineTool::paint(QPainter& painter, const BenchMap& map) const {
    if (m_from)
        paintLine(painter, map.toWidget(*m_from), map.toWidget(m_here.at));
    paintHold(painter, m_here, map);
}

std::optional<EdgeTool::Aim> EdgeTool::aimOf(const Pointer& pointer) {
    if (!pointer.scene)
        return std::nullopt;
    const double reachMm = kHoldReachPx / pointer.pxPerMm;
    for (size_t i = pointer.scene->items().size(); i-- > 0;) {
        if (!pointer.scene->boxOf(i).grownBy(reachMm).contains(pointer.at))
            continue;
        const SceneItem& item = pointer.scene->items()[i];
        const auto edge = folds::straightEdgeAt(geometry::transformed(item.shape(), item.map), pointer.at);
        if (edge && geometry::distanceToStretch(pointer.at, edge->from, edge->to) <= reachMm)
            return Aim{i, edge->from, edge->to, pointer.at};
    }
    return std::nullopt;
}

void EdgeTool::move(const Pointer& pointer) {
    m_edge = aimOf(pointer);
}

void EdgeTool::press(const Pointer& pointer) {
    m_edge = aimOf(pointer);
    if (!m_edge)
        return;
    const SceneItem of = pointer.scene->items()[m_edge->item];
    m_clicked(of, std::exchange(m_edge, std::nullopt)->at);
}

void EdgeTool::paint(QPainter& painter, const BenchMap& map) const {
    if (m_edge)
        paintLine(painter, map.toWidget(m_edge->from), map.toWidget(m_edge->to));
}

std::optional<Scene::LinePlace> PickLineTool::placeOf(const Pointer& pointer) {
    constexpr double kReachPx = 6;
    return pointer.scene ? pointer.scene->lineAt(pointer.at, kReachPx / pointer.pxPerMm) : std::nullopt;
}

void PickLineTool::press(const Pointer& pointer) {
    const auto at = placeOf(pointer);
    if (!at)
        return m_picked(pointer, nullptr);
    Pointer on = pointer;
    on.item = static_cast<int>(at->item);
    const SceneItem item = pointer.scene->items()[at->item]; // keeps the body while it is told
    m_picked(on, &item.body->lines[at->line]);
}

void PickLineTool::move(const Pointer& pointer) {
    const auto at = placeOf(pointer);
    m_at = pointer.at;
    m_told = at ? m_words(pointer.scene->items()[at->item].body->lines[at->line]) : QString();
}

void PickLineTool::paint(QPainter& painter, const BenchMap& map) const {
    if (!m_told.isEmpty())
        paintWords(painter, map.toWidget(m_at), m_told, painter.window().size());
}

} // namespace thinline::app
