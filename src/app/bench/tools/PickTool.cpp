// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/tools/PickTool.h"

#include "app/bench/Paths.h"
#include "app/settings/Theme.h"

#include <QPainter>
#include <QPainterPath>

namespace thinline::app {
namespace {

QRectF rectOf(const geometry::Box& box) {
    return {box.least.x, box.least.y, box.width(), box.height()};
}

} // namespace

void PickTool::press(const Pointer& pointer) {
    m_held = Held{pointer, {}, {}, {}, {}, false};
    if (const SceneItem* item = pointer.on()) {
        m_held->fill = item->fill;
        std::vector<size_t> taken =
            m_calls.along ? m_calls.along(*pointer.scene, *item) : std::vector<size_t>{};
        taken.push_back(static_cast<size_t>(pointer.item));
        constexpr size_t kMostOutlines = 150; // more are shown by their frames, or the drag would stutter
        for (const size_t i : taken)
            if (taken.size() <= kMostOutlines)
                m_held->outlines.push_back(pathOf(pointer.scene->outlineOf(i, pointer.pxPerMm)));
            else
                m_held->frames.push_back(rectOf(pointer.scene->boxOf(i)));
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

void PickTool::pressTwice(const Pointer& pointer) {
    if (!m_calls.twice)
        return press(pointer);
    if (pointer.on()) {
        const SceneItem item = *pointer.on();
        m_calls.twice(item);
    }
}

void PickTool::paint(QPainter& painter, const BenchMap& map) const {
    if (!isDragging())
        return;
    const raster::Rgb c = m_held->fill;
    painter.save();
    painter.setBrush(QColor(c[0], c[1], c[2], 200));
    painter.setPen(QPen(Theme::light().accent, 2));
    const QPointF by(m_held->by.x * map.pxPerMm, m_held->by.y * map.pxPerMm);
    // One by one: a path of many parts costs with their square.
    for (const QPainterPath& outline : m_held->outlines)
        painter.drawPath(map.transform().map(outline).translated(by));
    painter.setRenderHint(QPainter::Antialiasing, m_held->frames.empty());
    for (const QRectF& frame : m_held->frames)
        painter.drawRect(map.transform().mapRect(frame).translated(by));
    painter.restore();
}

} // namespace thinline::app
