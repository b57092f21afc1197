// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/FaceView.h"

#include "app/settings/Theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QWheelEvent>

#include <array>
#include <numbers>

namespace thinline::app {

using geometry::Point;

namespace {
constexpr double kRimPx = 14;
constexpr double kDegree = std::numbers::pi / 180;
} // namespace

FaceView::FaceView(QWidget* parent) : QWidget(parent) {
    setMinimumSize(420, 420);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("The piece and what is printed on it"));
    setToolTip(tr("Drag the chosen print. Wheel: larger or smaller; with Shift: turn. Keys: arrows, + and −, "
                  "comma and full stop"));
}

void FaceView::setField(const geometry::Box& field, bool isMirrored, geometry::Polygons outline) {
    m_field = field;
    m_isMirrored = isMirrored;
    m_outline = std::move(outline);
    update();
}

void FaceView::setFrame(const std::optional<geometry::Transform>& place) {
    m_frame = place;
    update();
}

double FaceView::scale() const {
    return std::max(0.01, std::min((width() - 2 * kRimPx) / std::max(0.1, m_field.width()),
                                   (height() - 2 * kRimPx) / std::max(0.1, m_field.height())));
}

QPointF FaceView::origin() const {
    return {(width() - m_field.width() * scale()) / 2, (height() - m_field.height() * scale()) / 2};
}

QSize FaceView::printSize() const {
    return {std::max(1, static_cast<int>(m_field.width() * scale())),
            std::max(1, static_cast<int>(m_field.height() * scale()))};
}

QPointF FaceView::shownAt(Point mm) const {
    const double x = m_isMirrored ? m_field.most.x - mm.x : mm.x - m_field.least.x;
    return origin() + QPointF(x, mm.y - m_field.least.y) * scale();
}

Point FaceView::seen(QPointF by) const {
    return Point{m_isMirrored ? -by.x() : by.x(), by.y()} * (1 / scale());
}

void FaceView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    const QRectF place(shownAt(m_isMirrored ? Point{m_field.most.x, m_field.least.y} : m_field.least),
                       QSizeF(m_field.width() * scale(), m_field.height() * scale()));
    if (!m_print.isNull())
        painter.drawImage(place, m_print);
    QPainterPath outline;
    for (const geometry::Polygon& ring : m_outline) {
        QPolygonF shown;
        for (const Point p : ring)
            shown << shownAt(p);
        outline.addPolygon(shown);
        outline.closeSubpath();
    }
    // Beyond the cut it is pale: that goes away.
    QPainterPath beyond;
    beyond.addRect(rect());
    QColor veil = palette().window().color();
    veil.setAlpha(170);
    painter.fillPath(beyond.subtracted(outline), veil);
    painter.setPen(QPen(palette().windowText().color(), 1.2));
    painter.drawPath(outline);
    if (!m_frame)
        return;
    const std::array<Point, 4> corners{Point{0, 0}, {1, 0}, {1, 1}, {0, 1}};
    QPolygonF frame;
    for (const Point corner : corners)
        frame << shownAt((*m_frame)(corner));
    painter.setPen(QPen(palette().highlight().color(), hasFocus() ? 2 : 1.2, Qt::DashLine));
    painter.drawPolygon(frame);
}

void FaceView::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton && m_frame)
        m_held = event->position();
}

void FaceView::mouseMoveEvent(QMouseEvent* event) {
    if (!m_held)
        return;
    emit shifted({seen(event->position() - *m_held)}, false);
    m_held = event->position();
}

void FaceView::mouseReleaseEvent(QMouseEvent* event) {
    if (!m_held)
        return;
    emit shifted({seen(event->position() - *m_held)}, true);
    m_held.reset();
}

void FaceView::wheelEvent(QWheelEvent* event) {
    event->accept();
    if (!m_frame)
        return;
    // Some systems turn a wheel with Shift into one that goes sideways.
    const double notches = (event->angleDelta().y() + event->angleDelta().x()) / 120.0;
    print::Shift shift;
    if (event->modifiers() & Qt::ShiftModifier)
        shift.turnRad = (m_isMirrored ? -1 : 1) * notches * kDegree;
    else
        shift.scale = std::pow(1.04, notches);
    emit shifted(shift, true);
}

void FaceView::keyPressEvent(QKeyEvent* event) {
    constexpr double kStepMm = 0.5, kSize = 1.02;
    print::Shift shift;
    const double along = m_isMirrored ? -1 : 1;
    switch (event->key()) {
    case Qt::Key_Left:
        shift.by.x = -along * kStepMm;
        break;
    case Qt::Key_Right:
        shift.by.x = along * kStepMm;
        break;
    case Qt::Key_Up:
        shift.by.y = -kStepMm;
        break;
    case Qt::Key_Down:
        shift.by.y = kStepMm;
        break;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        shift.scale = kSize;
        break;
    case Qt::Key_Minus:
        shift.scale = 1 / kSize;
        break;
    case Qt::Key_Comma:
        shift.turnRad = -along * kDegree;
        break;
    case Qt::Key_Period:
        shift.turnRad = along * kDegree;
        break;
    default:
        return QWidget::keyPressEvent(event);
    }
    if (m_frame)
        emit shifted(shift, true);
}

} // namespace thinline::app
