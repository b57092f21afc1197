// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/tools/SeamTool.h"

#include "app/bench/Labels.h"
#include "app/settings/Theme.h"
#include "geometry/Measures.h"

#include <QPainter>
#include <QPainterPath>

namespace thinline::app {
namespace {

using geometry::Point;

constexpr double kReachPx = 8;

QPainterPath pathOf(const geometry::Line& line, const BenchMap& map) {
    QPainterPath out(map.toWidget(line.start));
    for (const geometry::Segment& segment : line.segments) {
        if (segment.isLine)
            out.lineTo(map.toWidget(segment.end));
        else
            out.cubicTo(map.toWidget(segment.control1), map.toWidget(segment.control2),
                        map.toWidget(segment.end));
    }
    return out;
}

QPainterPath pathOf(const geometry::Polygon& ring, const BenchMap& map) {
    QPolygonF out;
    for (const Point p : ring)
        out << map.toWidget(p);
    QPainterPath path;
    path.addPolygon(out);
    path.closeSubpath();
    return path;
}

/// A seam as a stitched band: what it is shows on any card.
void paintSeam(QPainter& painter, const QPainterPath& path, const QColor& thread, bool isChosen) {
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(QColor("#FFFFFF"), isChosen ? 7 : 5, Qt::SolidLine, Qt::FlatCap));
    painter.drawPath(path);
    QPen stitches(thread, isChosen ? 3.2 : 2.2, Qt::CustomDashLine, Qt::FlatCap);
    stitches.setDashPattern({3, 2});
    painter.setPen(stitches);
    painter.drawPath(path);
}

} // namespace

int SeamTool::seamAt(const Pointer& pointer) const {
    const double reach = kReachPx / pointer.pxPerMm;
    int best = -1;
    double nearest = reach;
    for (size_t i = 0; i < m_shown.seams.size(); ++i)
        if (const double away = geometry::distanceTo(m_shown.seams[i].path, pointer.at); away < nearest) {
            nearest = away;
            best = static_cast<int>(i);
        }
    return best;
}

std::optional<Point> SeamTool::nodeAt(const Pointer& pointer) const {
    const double reach = kReachPx / pointer.pxPerMm;
    std::optional<Point> best;
    double nearest = reach;
    const auto offer = [&](Point p) {
        if (const double away = geometry::distance(p, pointer.at); away < nearest) {
            nearest = away;
            best = p;
        }
    };
    for (const SeamsShown::Seam& seam : m_shown.seams) {
        offer(seam.path.start);
        for (const geometry::Segment& segment : seam.path.segments)
            offer(segment.end);
    }
    return best;
}

void SeamTool::press(const Pointer& pointer) {
    m_at = pointer.at;
    const int seam = seamAt(pointer);
    if (pointer.withShift && pointer.on()) {
        const SceneItem item = *pointer.on(); // the call may bring another scene
        return m_calls.kept(item);
    }
    if (m_isDrawing) {
        m_held = Held{pointer.at, pointer.at, -1, true};
        return;
    }
    if (const auto node = nodeAt(pointer))
        m_held = Held{*node, *node};
    else if (seam >= 0)
        m_held = Held{pointer.at, pointer.at, seam};
    m_calls.chosen(seam);
}

void SeamTool::move(const Pointer& pointer) {
    m_at = pointer.at;
    m_over = m_isDrawing ? -1 : seamAt(pointer);
    if (!m_held)
        return;
    constexpr double kBeginsPx = 4;
    m_held->to = pointer.at;
    m_held->isDragged =
        m_held->isDragged || geometry::distance(m_held->from, pointer.at) * pointer.pxPerMm > kBeginsPx;
}

void SeamTool::release(const Pointer& pointer) {
    move(pointer);
    const auto held = std::exchange(m_held, std::nullopt);
    if (!held || !held->isDragged)
        return;
    if (held->isNew)
        m_calls.drawn(held->from, held->to);
    else if (held->seam >= 0)
        m_calls.bent(static_cast<size_t>(held->seam), held->from, held->to);
    else
        m_calls.moved(held->from, held->to);
}

void SeamTool::paint(QPainter& painter, const BenchMap& map) const {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    const QColor thread = Theme::light().accent;
    QColor shade = thread;
    shade.setAlpha(60);
    for (const geometry::Shape& strip : m_shown.strips) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(shade);
        for (const geometry::Polygon& ring : geometry::flatten({strip.outline, {}}, 0.2))
            painter.drawPath(pathOf(ring, map));
    }
    for (size_t i = 0; i < m_shown.seams.size(); ++i)
        paintSeam(painter, pathOf(m_shown.seams[i].path, map), m_shown.seams[i].isFaulty ? t.spoils : thread,
                  static_cast<int>(i) == m_shown.chosen);
    painter.setPen(QPen(QColor("#1E2A31"), 1));
    painter.setBrush(QColor("#FFFFFF"));
    for (const geometry::Polygon& window : m_shown.windows)
        painter.drawPath(pathOf(window, map));
    for (const SeamsShown::Seam& seam : m_shown.seams) { // what can be taken hold of
        painter.setPen(QPen(thread, 1.5));
        painter.drawEllipse(map.toWidget(seam.path.start), 3.5, 3.5);
        for (const geometry::Segment& segment : seam.path.segments)
            painter.drawEllipse(map.toWidget(segment.end), 3.5, 3.5);
    }
    QFont font = painter.font();
    font.setBold(true);
    painter.setFont(font);
    for (const SeamsShown::Part& part : m_shown.parts) {
        const QPointF at = map.toWidget(part.at);
        painter.setPen(QPen(QColor("#1E2A31"), 1));
        painter.setBrush(QColor("#F8F6F2"));
        painter.drawEllipse(at, 13, 13);
        painter.drawText(QRectF(at.x() - 13, at.y() - 13, 26, 26), Qt::AlignCenter, part.number);
    }
    if (m_held && m_held->isDragged) {
        painter.setPen(QPen(thread, 2, Qt::DotLine));
        painter.drawLine(map.toWidget(m_held->from), map.toWidget(m_held->to));
    }
    painter.restore();
    if (!m_held && m_over >= 0 && m_over < static_cast<int>(m_shown.seams.size()))
        paintWords(painter, map.toWidget(m_at), m_shown.seams[static_cast<size_t>(m_over)].words,
                   {painter.device()->width(), painter.device()->height()});
}

} // namespace thinline::app
