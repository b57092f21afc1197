// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/tools/MeasureTool.h"

#include "app/bench/tools/Holds.h"
#include "app/settings/Theme.h"

#include <QPainter>

#include <cmath>

namespace thinline::app {

void MeasureTool::press(const Pointer& pointer) {
    m_here = heldPlace(pointer);
    if (!m_from || m_to) {
        m_from = m_here.at;
        m_to.reset();
        return;
    }
    m_to = m_here.at;
    m_measured(*m_from, *m_to);
}

void MeasureTool::forget() {
    m_from.reset();
    m_to.reset();
}

void MeasureTool::paint(QPainter& painter, const BenchMap& map) const {
    paintHold(painter, m_here, map);
    if (!m_from)
        return;
    const QColor strong = Theme::light().accent;
    const geometry::Point to = m_to ? *m_to : m_here.at;
    const QPointF a = map.toWidget(*m_from), b = map.toWidget(to);
    painter.setPen(QPen(QColor("#FFFFFF"), 4.5, Qt::SolidLine, Qt::FlatCap));
    painter.drawLine(a, b);
    painter.setPen(QPen(strong, 2, Qt::SolidLine, Qt::FlatCap));
    painter.drawLine(a, b);
    const QPointF along = b - a;
    const double length = std::hypot(along.x(), along.y());
    if (length > 1) {
        const QPointF across(-along.y() / length * 7, along.x() / length * 7);
        painter.drawLine(a - across, a + across);
        painter.drawLine(b - across, b + across);
    }
    const QString words = QString::fromStdString(base::formatLength(geometry::distance(*m_from, to), m_unit));
    QFont font = painter.font();
    font.setPixelSize(13);
    font.setBold(true);
    painter.setFont(font);
    const QFontMetrics metrics(font);
    QRectF box(0, 0, metrics.horizontalAdvance(words) + 16, metrics.height() + 8);
    box.moveCenter((a + b) / 2 + QPointF(0, -20));
    painter.setPen(Qt::NoPen);
    painter.setBrush(strong);
    painter.drawRoundedRect(box, 5, 5);
    painter.setPen(QColor("#FFFFFF"));
    painter.drawText(box, Qt::AlignCenter, words);
}

} // namespace thinline::app
