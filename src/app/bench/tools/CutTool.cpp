// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/tools/CutTool.h"

#include "app/settings/Theme.h"
#include "geometry/Measures.h"

#include <QPainter>

namespace thinline::app {
namespace {

using cutplan::Moment;
using design::Operation;

QPainterPath pathOf(const geometry::Line& line, geometry::Point by) {
    const auto at = [&](geometry::Point p) { return QPointF(p.x + by.x, p.y + by.y); };
    QPainterPath out(at(line.start));
    for (const geometry::Segment& segment : line.segments) {
        if (segment.isLine)
            out.lineTo(at(segment.end));
        else
            out.cubicTo(at(segment.control1), at(segment.control2), at(segment.end));
    }
    return out;
}

/// Lines lie on card of any colour: a pale rim lets them be seen.
void draw(QPainter& painter, const QPainterPath& path, Operation operation) {
    const bool isCut =
        operation == Operation::Cut || operation == Operation::CutInside || operation == Operation::Perforate;
    const double width = isCut ? 2.6 : 1.8;
    const auto stroke = [&](const QColor& colour, double px) {
        QPen pen(colour, px, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin);
        pen.setCosmetic(true);
        painter.setPen(pen);
        painter.drawPath(path);
    };
    stroke(QColor(255, 255, 255, 190), width + 2.4);
    stroke(isCut ? QColor("#1E2A31") : theme().accent, width);
}

} // namespace

void CutTool::show(std::shared_ptr<const design::PlannedLoad> load,
                   std::shared_ptr<const cutplan::Timeline> timeline, geometry::Point corner) {
    m_load = std::move(load);
    m_timeline = std::move(timeline);
    m_corner = corner;
    m_after = nullptr;
    m_passes.clear();
    for (const design::Pass& pass : m_load ? m_load->passes : std::vector<design::Pass>{}) {
        m_passes.push_back({pass.operation, {}});
        for (const design::PlannedPath& path : pass.paths)
            m_passes.back().paths.push_back(pathOf(path.line, m_corner));
    }
}

/// A ring round each strip that will not hold, its width beside it.
void CutTool::paintTears(QPainter& painter, const BenchMap& map) const {
    constexpr double kRingPx = 13;
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    for (const devices::Tear& tear : m_after ? m_after->tears : std::vector<devices::Tear>{}) {
        const QPointF at = map.toWidget(tear.at + m_corner);
        painter.setPen(QPen(QColor("#FFFFFF"), 5));
        painter.drawEllipse(at, kRingPx, kRingPx);
        painter.setPen(QPen(theme().spoils, 2.5));
        painter.drawEllipse(at, kRingPx, kRingPx);
    }
    painter.restore();
}

void CutTool::paint(QPainter& painter, const BenchMap& map) const {
    if (!m_load || !m_timeline)
        return;
    const auto now = m_timeline->at(m_seconds);
    if (!now)
        return;
    const Moment& moment = m_timeline->moments()[now->moment];
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setTransform(map.transform(), true);
    painter.setBrush(Qt::NoBrush);
    for (size_t p = 0; p < m_passes.size() && p <= moment.pass; ++p) {
        const bool isHere = p == moment.pass && moment.round == 0;
        const size_t done = isHere ? moment.path : m_passes[p].paths.size();
        for (size_t i = 0; i < done; ++i)
            draw(painter, m_passes[p].paths[i], m_passes[p].operation);
        if (isHere && moment.what == Moment::What::Line && now->share > 0) {
            const geometry::Line& line = m_load->passes[p].paths[moment.path].line;
            const double along = now->share * geometry::contourLength(line);
            draw(painter,
                 now->share >= 1 ? m_passes[p].paths[moment.path]
                                 : pathOf(geometry::stretchOfLine(line, 0, along), m_corner),
                 m_passes[p].operation);
        }
    }
    painter.restore();
    paintTears(painter, map);
    // The tool: a ring while it is lifted, a full dot while it is down.
    const QPointF at = map.toWidget(now->at + m_corner);
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(QColor("#FFFFFF"), 2));
    painter.setBrush(moment.what == Moment::What::Line ? QBrush(theme().accent) : QBrush(QColor("#FFFFFF")));
    painter.drawEllipse(at, 8, 8);
    painter.setPen(QPen(theme().accent, 2.5));
    painter.drawEllipse(at, 6, 6);
    painter.restore();
}

} // namespace thinline::app
