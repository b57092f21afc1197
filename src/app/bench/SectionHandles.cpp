// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/SectionHandles.h"

#include "app/settings/Theme.h"

#include <cmath>
#include <numbers>

namespace thinline::app {
namespace {

using design::SectionLine;
using geometry::Box;
using geometry::Point;

constexpr double kBeyondPx = 14; // from the work to a bead
constexpr double kBeadPx = 6, kAimPx = 10;

/// The line held by the middle of what crosses the box; nothing when it misses.
std::optional<SectionLine> held(const SectionLine& line, const Box& box) {
    const auto part = design::within(line, box);
    if (!part)
        return std::nullopt;
    return SectionLine{line.at((part->first + part->second) / 2), line.turnRad};
}

std::optional<SectionLine> movedWithin(const SectionLine& line, Point by, const Box& box) {
    const Point normal{-line.along().y, line.along().x};
    return held({line.through + normal * geometry::dot(by, normal), line.turnRad}, box);
}

double snapped(double turnRad) {
    constexpr double kNear = 2 * std::numbers::pi / 180, kQuarter = std::numbers::pi / 2;
    const double quarter = std::round(turnRad / kQuarter) * kQuarter;
    return std::abs(turnRad - quarter) < kNear ? quarter : turnRad;
}

} // namespace

SectionLine movedSideways(const SectionLine& line, Point by, const Box& box) {
    return movedWithin(line, by, box).value_or(line);
}

SectionLine turnedBy(const SectionLine& line, double byRad, const Box& box) {
    return held({line.through, snapped(line.turnRad + byRad)}, box).value_or(line);
}

SectionLine turnedTowards(const SectionLine& line, Point to, const Box& box) {
    const Point way = to - line.through;
    constexpr double kLeastMm = 1e-6;
    if (geometry::length(way) < kLeastMm)
        return line;
    return held({line.through, snapped(std::atan2(way.y, way.x))}, box).value_or(line);
}

bool SectionHandles::show(std::optional<SectionLine> line, const Box& work) {
    const auto shown = line && !work.isEmpty() ? line : std::nullopt;
    if (shown == m_line && work == m_work)
        return false;
    m_line = shown;
    m_work = work;
    if (!m_line)
        m_held = Bead::None;
    return true;
}

QPointF SectionHandles::placeOf(Bead bead, const BenchMap& map) const {
    const double beyond = kBeyondPx / map.pxPerMm;
    const auto part = m_line ? design::within(*m_line, m_work) : std::nullopt;
    if (!part)
        return {-1000, -1000};
    return map.toWidget(m_line->at(bead == Bead::Move ? part->first - beyond : part->second + beyond));
}

SectionHandles::Bead SectionHandles::at(QPointF widget, const BenchMap& map) const {
    for (const Bead bead : {Bead::Move, Bead::Turn}) {
        const QPointF off = placeOf(bead, map) - widget;
        if (m_line && std::hypot(off.x(), off.y()) <= kAimPx)
            return bead;
    }
    return Bead::None;
}

bool SectionHandles::press(QPointF widget, const BenchMap& map) {
    m_held = at(widget, map);
    if (m_held == Bead::None)
        return false;
    m_from = map.toBench(widget);
    m_lineThen = *m_line;
    return true;
}

bool SectionHandles::move(QPointF widget, const BenchMap& map) {
    if (m_held == Bead::None || !m_line)
        return false;
    const Point to = map.toBench(widget);
    const SectionLine next = m_held == Bead::Move
                                 ? movedWithin(m_lineThen, to - m_from, m_work).value_or(*m_line)
                                 : turnedTowards(m_lineThen, to, m_work);
    if (next == *m_line)
        return false;
    m_line = next;
    return true;
}

void SectionHandles::paint(QPainter& painter, const BenchMap& map) const {
    if (!m_line)
        return;
    const Theme& t = theme();
    const QPointF from = placeOf(Bead::Move, map), to = placeOf(Bead::Turn, map);
    QColor halo("#FFFFFF");
    halo.setAlpha(150);
    painter.setPen(QPen(halo, 3));
    painter.drawLine(from, to);
    QPen dashes(Theme::light().accent, 1.2); // over paper, which is light in both themes
    dashes.setDashPattern({7, 3, 1, 3});
    painter.setPen(dashes);
    painter.drawLine(from, to);
    // A full bead moves, an open one turns.
    painter.setPen(QPen(t.accent, 2));
    painter.setBrush(m_held == Bead::Move ? t.ink : t.accent);
    painter.drawEllipse(from, kBeadPx, kBeadPx);
    painter.setBrush(m_held == Bead::Turn ? t.accent : t.panel);
    painter.drawEllipse(to, kBeadPx, kBeadPx);
}

} // namespace thinline::app
