// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How the bench is painted: tiles, labels, rulers, what is chosen, ghosts, the tape, the hover label.
#include "app/bench/BenchView.h"
#include "app/settings/Theme.h"

#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <cmath>

namespace thinline::app {
namespace {

using geometry::Point;

/// 1, 2 or 5 times a power of ten: the smallest such step that is at least `least`.
double roundStep(double least) {
    const double power = std::pow(10, std::floor(std::log10(least)));
    for (double times : {1.0, 2.0, 5.0})
        if (power * times >= least)
            return power * times;
    return power * 10;
}

} // namespace

void BenchView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), theme().desk);
    if (!m_scene) {
        painter.setPen(theme().soft);
        QFont font = painter.font();
        font.setPixelSize(15);
        painter.setFont(font);
        painter.drawText(rect().adjusted(40, 40, -40, -40), Qt::AlignCenter | Qt::TextWordWrap, m_emptyText);
        return;
    }
    painter.setClipRect(benchRect());
    m_tiles.paint(painter, part(), benchRect().topLeft());
    painter.setRenderHint(QPainter::Antialiasing);
    paintLabels(painter);
    paintHandles(painter);
    paintHover(painter);
    painter.setClipping(false);
    paintRulers(painter);
    if (hasFocus()) {
        painter.setRenderHint(QPainter::Antialiasing, false);
        painter.setPen(theme().accent);
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(benchRect().adjusted(0, 0, -1, -1));
    }
}

void BenchView::paintLabels(QPainter& painter) {
    QFont font = painter.font();
    font.setPixelSize(12);
    for (const SceneGhost& ghost : m_scene->ghosts()) {
        if (ghost.label.isEmpty())
            continue;
        const QPointF below = toWidget({ghost.box.least.x, ghost.box.most.y}),
                      beside = toWidget(ghost.box.most);
        const QPointF at = ghost.labelAtRight ? beside + QPointF(8, -4) : below + QPointF(0, 16);
        if (ghost.labelAtRight && m_scene->itemAt(toBench(at), m_pxPerMm) >= 0)
            continue; // the work lies over it
        const int room = ghost.labelAtRight ? 200 : static_cast<int>(beside.x() - below.x());
        font.setBold(!ghost.secondLine.isEmpty());
        painter.setFont(font);
        painter.setPen(theme().ink);
        painter.drawText(at, QFontMetrics(font).elidedText(ghost.label, Qt::ElideRight, room));
        font.setBold(false);
        painter.setFont(font);
        painter.setPen(theme().soft);
        painter.drawText(at + QPointF(0, 15),
                         QFontMetrics(font).elidedText(ghost.secondLine, Qt::ElideRight, room));
    }
}

void BenchView::paintRulers(QPainter& painter) {
    const Theme& t = theme();
    painter.setRenderHint(QPainter::Antialiasing, false);
    painter.fillRect(QRect(0, 0, width(), kRulerPx), t.panel);
    painter.fillRect(QRect(0, 0, kRulerPx, height()), t.panel);
    painter.setPen(t.hairline);
    painter.drawLine(0, kRulerPx, width(), kRulerPx);
    painter.drawLine(kRulerPx, 0, kRulerPx, height());
    const double perUnit = m_unit == base::LengthUnit::Inch ? base::kMmPerInch : 1;
    const double step = roundStep(70 / (m_pxPerMm * perUnit)); // in the unit; numbers at least 70 px apart
    QFont font = painter.font();
    font.setPixelSize(10);
    painter.setFont(font);
    const auto ticks = [&](bool isAcross) {
        const double from = (isAcross ? m_corner.x : m_corner.y) / perUnit,
                     length = (isAcross ? width() : height()) / m_pxPerMm / perUnit;
        for (long i = static_cast<long>(std::floor(from / step * 10));
             i <= static_cast<long>((from + length) / step * 10); ++i) {
            const double mm = static_cast<double>(i) * step / 10 * perUnit;
            const double at = isAcross ? toWidget({mm, 0}).x() : toWidget({0, mm}).y();
            if (at < kRulerPx)
                continue;
            const int size = i % 10 == 0 ? 10 : i % 5 == 0 ? 7 : 4, px = static_cast<int>(at);
            painter.setPen(t.soft);
            isAcross ? painter.drawLine(px, kRulerPx - size, px, kRulerPx - 1)
                     : painter.drawLine(kRulerPx - size, px, kRulerPx - 1, px);
            if (i % 10 == 0) {
                const QString number = QString::number(static_cast<double>(i / 10) * step);
                if (isAcross) {
                    painter.drawText(px + 3, 10, number);
                } else {
                    painter.save();
                    painter.translate(10, px + 3);
                    painter.rotate(90);
                    painter.drawText(0, 0, number);
                    painter.restore();
                }
            }
        }
    };
    ticks(true);
    ticks(false);
    painter.fillRect(QRect(0, 0, kRulerPx, kRulerPx), t.panel);
    painter.setPen(t.soft);
    painter.drawText(QRect(0, 0, kRulerPx, kRulerPx), Qt::AlignCenter,
                     m_unit == base::LengthUnit::Inch ? "in" : "mm");
}

QPainterPath BenchView::outlineOf(int item, Point by) const {
    const auto outlines = m_scene->flat(m_pxPerMm);
    QPainterPath path;
    for (const geometry::Polygon& ring : (*outlines)[static_cast<size_t>(item)].rings) {
        QPolygonF polygon;
        for (Point p : ring)
            polygon << toWidget(p + by);
        polygon << polygon.front();
        path.addPolygon(polygon);
    }
    return path;
}

/// Chosen pieces are hatched and outlined, the first has a numbered disc; the ghost is dashed.
void BenchView::paintChoice(QPainter& painter) {
    const QColor strong = Theme::light().accent;
    const QTransform map(m_pxPerMm, 0, 0, m_pxPerMm, toWidget({}).x(), toWidget({}).y());
    if (!m_choice.isEmpty()) {
        QColor veil = strong;
        veil.setAlpha(110);
        painter.setBrush(QBrush(veil, Qt::BDiagPattern));
        painter.setPen(QPen(strong, 2));
        painter.drawPath(map.map(m_choice));
    }
    if (m_firstPlace) {
        const QPointF at = toWidget(*m_firstPlace);
        painter.setBrush(strong);
        painter.setPen(QPen(QColor("#FFFFFF"), 1.5));
        painter.drawEllipse(at, 10, 10);
        QFont font = painter.font();
        font.setPixelSize(12);
        font.setBold(true);
        painter.setFont(font);
        painter.drawText(QRectF(at.x() - 10, at.y() - 10, 20, 20), Qt::AlignCenter, "1");
    }
    if (m_ghost.isEmpty())
        return;
    QColor veil = strong;
    veil.setAlpha(60);
    painter.setBrush(veil);
    painter.setPen(QPen(QColor("#FFFFFF"), 3.5));
    painter.drawPath(map.map(m_ghost));
    QPen dashes(strong, 2);
    dashes.setDashPattern({4, 2.5});
    painter.setBrush(Qt::NoBrush);
    painter.setPen(dashes);
    painter.drawPath(map.map(m_ghost));
}

void BenchView::paintFolds(QPainter& painter) {
    const QTransform map(m_pxPerMm, 0, 0, m_pxPerMm, toWidget({}).x(), toWidget({}).y());
    const QColor strong = Theme::light().accent; // the card under it is light or dark in both themes
    for (const QPainterPath& fold : m_folds) {
        const QPainterPath there = map.map(fold);
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(QColor("#FFFFFF"), 3.5, Qt::SolidLine, Qt::RoundCap));
        painter.drawPath(there);
        painter.setPen(QPen(strong, 1.5, Qt::SolidLine, Qt::RoundCap));
        painter.drawPath(there);
        painter.setPen(QPen(QColor("#FFFFFF"), 1));
        painter.setBrush(strong);
        constexpr double kBead = 3;
        painter.drawEllipse(there.pointAtPercent(0), kBead, kBead);
        painter.drawEllipse(there.pointAtPercent(1), kBead, kBead);
    }
}

void BenchView::paintHandles(QPainter& painter) {
    const Theme& t = theme();
    const QColor strong = Theme::light().accent; // the paper under it is light in both themes
    if (!m_marked.isEmpty()) {
        const QPointF a = toWidget(m_marked.least), b = toWidget(m_marked.most);
        const QPointF middle = (a + b) / 2;
        const double radius = std::clamp(std::hypot(b.x() - a.x(), b.y() - a.y()) / 2, 14.0, 4000.0);
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(Theme::light().spoils, 2.5));
        painter.drawEllipse(middle, radius, radius);
    }
    paintFolds(painter);
    paintChoice(painter);
    paintMeasure(painter);
    paintDrawn(painter);
    if (m_hovered >= 0 && !m_isDragging && m_mode != Mode::CloseGap && m_mode != Mode::Measure &&
        !isDrawing()) {
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(strong, 2.5));
        painter.drawPath(outlineOf(m_hovered, {}));
    }
    if (m_isDragging && m_dragged >= 0) {
        const raster::Rgb c = m_scene->items()[static_cast<size_t>(m_dragged)].fill;
        painter.setBrush(QColor(c[0], c[1], c[2], 200));
        painter.setPen(QPen(strong, 2));
        painter.drawPath(outlineOf(m_dragged, m_dragBy));
    }
    if (m_mode == Mode::CloseGap && m_gapStart) {
        painter.setPen(QPen(Theme::light().spoils, 3, Qt::SolidLine, Qt::RoundCap));
        painter.drawLine(toWidget(*m_gapStart), m_pointer);
        painter.setBrush(t.panel);
        painter.drawEllipse(toWidget(*m_gapStart), 4, 4);
    }
}

Scene::Snap BenchView::snapped(QPointF at) const {
    constexpr double kReachPx = 9;
    return m_scene->snapAt(toBench(at), kReachPx / m_pxPerMm, m_pxPerMm);
}

/// The box or stroke being dragged.
void BenchView::paintDrawn(QPainter& painter) {
    if (m_drawn.empty())
        return;
    QColor veil = Theme::light().accent;
    if (m_mode == Mode::Box) {
        painter.setPen(QPen(veil, 1.5, Qt::DashLine));
        veil.setAlpha(40);
        painter.setBrush(veil);
        painter.drawRect(QRectF(toWidget(m_drawn.front()), toWidget(m_drawn.back())).normalized());
        return;
    }
    veil.setAlpha(90);
    QPolygonF way;
    for (const Point p : m_drawn)
        way.append(toWidget(p));
    painter.setPen(
        QPen(veil, std::max(2.0, m_strokeWidthMm * m_pxPerMm), Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    painter.setBrush(Qt::NoBrush);
    if (way.size() > 1)
        painter.drawPolyline(way);
    else
        painter.drawPoint(way.front());
}

/// The tape between two places, its length beside it; what the pointer holds on to is marked by its kind.
void BenchView::paintMeasure(QPainter& painter) {
    if (m_mode != Mode::Measure)
        return;
    const QColor strong = Theme::light().accent;
    const Scene::Snap here = snapped(m_pointer);
    const QPointF at = toWidget(here.at);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(strong, 2));
    switch (here.kind) {
    case Scene::Snap::Kind::Node:
        painter.drawRect(QRectF(at.x() - 5, at.y() - 5, 10, 10));
        break;
    case Scene::Snap::Kind::Centre:
        painter.drawEllipse(at, 6, 6);
        painter.drawPoint(at);
        break;
    case Scene::Snap::Kind::Edge:
        painter.drawLine(at + QPointF(-5, -5), at + QPointF(5, 5));
        painter.drawLine(at + QPointF(-5, 5), at + QPointF(5, -5));
        break;
    case Scene::Snap::Kind::Free:
        break;
    }
    if (!m_measureFrom)
        return;
    const Point to = m_measureTo ? *m_measureTo : here.at;
    const QPointF a = toWidget(*m_measureFrom), b = toWidget(to);
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
    const QString words =
        QString::fromStdString(base::formatLength(geometry::distance(*m_measureFrom, to), m_unit));
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

void BenchView::paintHover(QPainter& painter) {
    if (m_hovered < 0 || m_isDragging || !m_hoverText || m_mode == Mode::CloseGap ||
        m_mode == Mode::Measure || isDrawing())
        return;
    const QString text = m_hoverText(m_scene->items()[static_cast<size_t>(m_hovered)]);
    if (text.isEmpty())
        return;
    QFont font = painter.font();
    font.setPixelSize(12);
    painter.setFont(font);
    const QRect bounds = QFontMetrics(font).boundingRect(QRect(0, 0, 320, 200), Qt::AlignLeft, text);
    QRectF box(m_pointer + QPointF(16, 16), QSizeF(bounds.width() + 20, bounds.height() + 14));
    if (box.right() > width() - 8)
        box.moveRight(m_pointer.x() - 12);
    if (box.bottom() > height() - 8)
        box.moveBottom(m_pointer.y() - 12);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor("#1E2A31"));
    painter.drawRoundedRect(box, 6, 6);
    painter.setPen(QColor("#ECE7DF"));
    painter.drawText(box.adjusted(10, 7, -10, -7), Qt::AlignLeft, text);
}

} // namespace thinline::app
