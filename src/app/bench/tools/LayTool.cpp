// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/tools/LayTool.h"

#include "app/bench/Paths.h"
#include "app/settings/Theme.h"
#include "sheets/Beside.h"

#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <numbers>

namespace thinline::app {

using geometry::Box;
using geometry::Point;
using geometry::Polygons;

namespace {

constexpr double kFinestPxPerMm = 8; // outlines are flattened for no finer zoom

QPainterPath pathThrough(const Polygons& rings) {
    QPainterPath out;
    for (const geometry::Polygon& ring : rings) {
        for (size_t i = 0; i < ring.size(); ++i)
            i == 0 ? out.moveTo(ring[i].x, ring[i].y) : out.lineTo(ring[i].x, ring[i].y);
        out.closeSubpath();
    }
    return out;
}

/// Outlines with every point somewhere else.
template <class Map>
std::vector<Polygons> mapped(std::vector<Polygons> outlines, const Map& map) {
    for (Polygons& rings : outlines)
        for (geometry::Polygon& ring : rings)
            for (Point& p : ring)
                p = map(p);
    return outlines;
}

} // namespace

Point Laying::operator()(Point p) const {
    const double c = std::cos(turnRad), s = std::sin(turnRad);
    const Point d = p - about;
    return about + Point{c * d.x - s * d.y, s * d.x + c * d.y} + by;
}

void LayTool::press(const Pointer& pointer) {
    m_others.clear();
    m_touched.clear();
    m_held = Held{.from = pointer, .hand = pointer.at};
    const SceneItem* item = pointer.on();
    if (!item)
        return;
    m_held->items = m_calls.along(*pointer.scene, *item);
    m_held->items.push_back(static_cast<size_t>(pointer.item));
    Box all;
    for (const size_t i : m_held->items) {
        m_held->outlines.push_back(pointer.scene->outlineOf(i, std::min(kFinestPxPerMm, pointer.pxPerMm)));
        all.include(geometry::bounds(m_held->outlines.back()));
        m_held->spacingMm = std::max(m_held->spacingMm, m_calls.spacingMm(pointer.scene->items()[i]));
    }
    m_held->laying.about = all.centre();
    m_held->usable = m_calls.usable();
}

const Polygons& LayTool::outlineOf(size_t item) {
    const auto [at, isNew] = m_others.try_emplace(item);
    if (isNew)
        at->second = m_held->from.scene->outlineOf(item, std::min(kFinestPxPerMm, m_held->from.pxPerMm));
    return at->second;
}

void LayTool::move(const Pointer& pointer) {
    if (!m_held || m_held->items.empty())
        return;
    constexpr double kStillPx = 8; // a hand that clicks is not quite still
    m_held->hand = pointer.at;
    m_held->withShift = pointer.withShift;
    const Point by = pointer.at - m_held->from.at;
    m_held->isDragged = m_held->isDragged || geometry::length(by) * pointer.pxPerMm > kStillPx;
    if (m_held->isDragged)
        settle();
}

bool LayTool::turn(double notches) {
    constexpr double kNotchRad = 5 * std::numbers::pi / 180;
    if (!m_held || m_held->items.empty())
        return false;
    m_held->isDragged = true;
    m_held->laying.turnRad =
        std::remainder(m_held->laying.turnRad + notches * kNotchRad, 2 * std::numbers::pi);
    settle();
    return true;
}

/// Where the hand has it, or held by what lies beside it.
void LayTool::settle() {
    constexpr double kHoldPx = 6;
    Held& held = *m_held;
    held.laying.by = held.hand - held.from.at;
    held.lying = mapped(held.outlines, held.laying);
    Box box;
    for (const Polygons& rings : held.lying)
        box.include(geometry::bounds(rings));
    const double reach = kHoldPx / held.from.pxPerMm, spacing = held.spacingMm;
    if (!held.withShift) {
        std::vector<Box> others;
        const Box near = box.grownBy(spacing + reach);
        for (size_t i = 0; i < held.from.scene->items().size(); ++i)
            if (held.from.scene->boxOf(i).meets(near) &&
                std::find(held.items.begin(), held.items.end(), i) == held.items.end())
                others.push_back(geometry::bounds(outlineOf(i)));
        const Point shift = sheets::heldBeside(box, others, held.usable, spacing, reach);
        held.laying.by = held.laying.by + shift;
        held.lying = mapped(std::move(held.lying), [shift](Point p) { return p + shift; });
    }
    findTouched();
}

void LayTool::findTouched() {
    constexpr double kLetPassMm = 0.05; // of outlines flattened for the screen
    constexpr size_t kMostOutlines = 150;
    m_touched.clear();
    if (m_held->items.size() > kMostOutlines)
        return;
    const double spacing = m_held->spacingMm;
    for (const Polygons& rings : m_held->lying) {
        const Box near = geometry::bounds(rings).grownBy(spacing);
        for (size_t i = 0; i < m_held->from.scene->items().size(); ++i) {
            const auto& items = m_held->items;
            if (!m_held->from.scene->boxOf(i).meets(near) ||
                std::find(items.begin(), items.end(), i) != items.end() ||
                std::find(m_touched.begin(), m_touched.end(), i) != m_touched.end())
                continue;
            if (!sheets::areApart(rings, outlineOf(i), std::max(0.001, spacing - kLetPassMm)))
                m_touched.push_back(i);
        }
    }
}

void LayTool::release(const Pointer& pointer) {
    if (!m_held)
        return;
    move(pointer);
    const Held held = *std::exchange(m_held, std::nullopt); // the scene may be replaced by what the call does
    m_touched.clear();
    if (held.isDragged)
        m_calls.laid(held.items, held.laying);
    else
        m_calls.picked(held.from);
}

void LayTool::pressTwice(const Pointer& pointer) {
    if (pointer.on()) {
        const SceneItem item = *pointer.on();
        m_calls.twice(item);
    }
}

void LayTool::paint(QPainter& painter, const BenchMap& map) const {
    if (!isDragging())
        return;
    painter.save();
    const raster::Rgb c = m_held->from.scene->items()[m_held->items.back()].fill;
    painter.setBrush(QColor(c[0], c[1], c[2], 200));
    painter.setPen(QPen(Theme::light().accent, 2));
    // One by one: a path of many parts costs with their square.
    for (const Polygons& rings : m_held->lying)
        painter.drawPath(map.transform().map(pathThrough(rings)));
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(Theme::light().spoils, 3));
    for (const size_t i : m_touched)
        painter.drawPath(map.transform().map(pathThrough(m_others.at(i))));
    painter.restore();
}

} // namespace thinline::app
