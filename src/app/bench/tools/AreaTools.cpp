// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/tools/AreaTools.h"

#include "app/settings/Theme.h"

#include <QPainter>

namespace thinline::app {

void BoxTool::move(const Pointer& pointer) {
    if (m_from)
        m_to = pointer.at;
}

void BoxTool::release(const Pointer& pointer) {
    if (!m_from)
        return;
    geometry::Box box;
    box.include(*std::exchange(m_from, std::nullopt));
    box.include(pointer.at);
    if (box.width() > 0 && box.height() > 0)
        m_drawn(box);
}

void BoxTool::paint(QPainter& painter, const BenchMap& map) const {
    if (!m_from)
        return;
    QColor veil = Theme::light().accent;
    painter.setPen(QPen(veil, 1.5, Qt::DashLine));
    veil.setAlpha(40);
    painter.setBrush(veil);
    painter.drawRect(QRectF(map.toWidget(*m_from), map.toWidget(m_to)).normalized());
}

void StrokeTool::move(const Pointer& pointer) {
    if (!m_way.empty())
        m_way.push_back(pointer.at);
}

void StrokeTool::release(const Pointer&) {
    if (const std::vector<geometry::Point> way = std::exchange(m_way, {}); !way.empty())
        m_drawn(way);
}

void StrokeTool::paint(QPainter& painter, const BenchMap& map) const {
    if (m_way.empty())
        return;
    QColor veil = Theme::light().accent;
    veil.setAlpha(90);
    QPolygonF way;
    for (const geometry::Point p : m_way)
        way.append(map.toWidget(p));
    painter.setPen(
        QPen(veil, std::max(2.0, m_widthMm * map.pxPerMm), Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    painter.setBrush(Qt::NoBrush);
    if (way.size() > 1)
        painter.drawPolyline(way);
    else
        painter.drawPoint(way.front());
}

} // namespace thinline::app
