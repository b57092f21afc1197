// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// How the bench is painted: tiles, labels, rulers, what is chosen, ghosts, the hover label.
#include "app/bench/BenchView.h"
#include "app/bench/Labels.h"
#include "app/bench/Paths.h"
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
    m_marks.paint(painter, map());
    paintMarked(painter);
    paintChoice(painter);
    paintLineMarks(painter);
    paintPanels(painter);
    m_section.paint(painter, map());
    if (m_isStale) {
        QColor veil = theme().desk;
        veil.setAlpha(150);
        painter.fillRect(benchRect(), veil);
    } else if (m_tool) {
        m_tool->paint(painter, map());
    }
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

/// Chosen pieces are hatched and outlined, the first has a numbered disc; the ghost is dashed.
void BenchView::paintChoice(QPainter& painter) {
    const QColor strong = Theme::light().accent;
    const QTransform map = this->map().transform();
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

/// Chosen lines are thick with a light core, so that they are told apart in any colour; ghosts are dashed.
void BenchView::paintLineMarks(QPainter& painter) {
    const QColor strong = Theme::light().accent;
    const QTransform map = this->map().transform();
    painter.setBrush(Qt::NoBrush);
    for (const geometry::Line& line : m_lineMarks.chosen)
        for (const QPen& pen : {QPen(strong, 6, Qt::SolidLine, Qt::RoundCap),
                                QPen(QColor("#FFFFFF"), 2, Qt::SolidLine, Qt::RoundCap)}) {
            painter.setPen(pen);
            painter.drawPath(map.map(pathOf(line)));
        }
    QPen dashes(strong, 2.5);
    dashes.setDashPattern({4, 2.5});
    for (const geometry::Line& line : m_lineMarks.ghost)
        for (const QPen& pen : {QPen(QColor("#FFFFFF"), 4.5), dashes}) {
            painter.setPen(pen);
            painter.drawPath(map.map(pathOf(line)));
        }
}

/// An arrow for each panel, its name behind the shaft; panels with no room for both are left alone.
void BenchView::paintPanels(QPainter& painter) {
    constexpr double kLeastPx = 26, kShaftPx = 16;
    QFont font = painter.font();
    font.setPixelSize(12);
    for (const PanelMark& panel : m_lineMarks.panels) {
        if (panel.roomMm * m_pxPerMm < kLeastPx)
            continue;
        font.setBold(panel.isChosen);
        painter.setFont(font);
        const QPointF at = toWidget(panel.middle),
                      up(std::sin(panel.upRad) * kShaftPx, -std::cos(panel.upRad) * kShaftPx),
                      side(-up.y() * 0.3, up.x() * 0.3), tip = at + up;
        const QFontMetrics metrics(font);
        const bool hasName = metrics.horizontalAdvance(panel.name) + 8 < panel.roomMm * m_pxPerMm;
        QRectF words(0, 0, metrics.horizontalAdvance(panel.name) + 8, metrics.height());
        words.moveCenter(at - up - QPointF(0, up.y() < 0 ? -6 : up.y() > 0 ? 6 : 0));
        if (std::abs(up.y()) < 1)
            words.moveCenter(at + QPointF(0, 16));
        for (const QColor& colour : {QColor("#FFFFFF"), Theme::light().ink}) {
            painter.setPen(QPen(colour, colour == QColor("#FFFFFF") ? 5 : 2, Qt::SolidLine, Qt::RoundCap));
            painter.drawLine(at - up * 0.6, tip);
            painter.drawLine(tip, tip - up * 0.4 + side);
            painter.drawLine(tip, tip - up * 0.4 - side);
        }
        if (!hasName)
            continue;
        painter.setPen(Qt::NoPen);
        painter.setBrush(QColor(255, 255, 255, 200));
        painter.drawRoundedRect(words, 4, 4);
        painter.setPen(Theme::light().ink);
        painter.drawText(words, Qt::AlignCenter, panel.name);
    }
}

void BenchView::paintMarked(QPainter& painter) {
    if (m_marked.isEmpty())
        return;
    const QPointF a = toWidget(m_marked.least), b = toWidget(m_marked.most);
    const double radius = std::clamp(std::hypot(b.x() - a.x(), b.y() - a.y()) / 2, 14.0, 4000.0);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(Theme::light().spoils, 2.5));
    painter.drawEllipse((a + b) / 2, radius, radius);
}

void BenchView::paintHover(QPainter& painter) {
    if (!showsHover())
        return;
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(Theme::light().accent, 2.5)); // the paper under it is light in both themes
    painter.drawPath(map().transform().map(m_hoverPath));
    if (m_hoverWords.isEmpty())
        return;
    paintWords(painter, m_pointer, m_hoverWords, size());
}

} // namespace thinline::app
