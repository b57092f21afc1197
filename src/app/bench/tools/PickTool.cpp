// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/tools/PickTool.h"

#include "app/bench/Paths.h"
#include "app/settings/Theme.h"

#include <QPainter>
#include <QPainterPath>

namespace thinline::app {

void PickTool::press(const Pointer& pointer) {
    m_held = Held{pointer, {}, {}, {}, false};
    if (const SceneItem* item = pointer.on()) {
        m_held->fill = item->fill;
        m_held->outline =
            pathOf(pointer.scene->outlineOf(static_cast<size_t>(pointer.item), pointer.pxPerMm));
    }
}

void PickTool::move(const Pointer& pointer) {
    if (!m_held || !m_calls.moved || !m_held->from.on())
        return;
    constexpr double kStillPx = 8; // a hand that clicks is not quite still
    m_held->by = pointer.at - m_held->from.at;
    m_held->isDragged = m_held->isDragged || geometry::length(m_held->by) * pointer.pxPerMm > kStillPx;
}

void PickTool::release(const Pointer& pointer) {
    if (!m_held)
        return;
    const Held held = *std::exchange(m_held, std::nullopt);
    if (!held.isDragged)
        return m_calls.picked(held.from);
    const SceneItem item = *held.from.on(); // the scene may be replaced by what the call does
    m_calls.moved(item, pointer.at - held.from.at);
}

void PickTool::paint(QPainter& painter, const BenchMap& map) const {
    if (!isDragging())
        return;
    const raster::Rgb c = m_held->fill;
    painter.save();
    painter.setBrush(QColor(c[0], c[1], c[2], 200));
    painter.setPen(QPen(Theme::light().accent, 2));
    const QPointF by(m_held->by.x * map.pxPerMm, m_held->by.y * map.pxPerMm);
    painter.drawPath(map.transform().map(m_held->outline).translated(by));
    painter.restore();
}

} // namespace thinline::app
