// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/PhotoView.h"

#include "app/settings/Theme.h"

#include <QMouseEvent>
#include <QPainter>

namespace thinline::app {

using geometry::Point;

PhotoView::PhotoView(QWidget* parent) : QWidget(parent) {
    setMinimumSize(420, 320);
    setAccessibleName(tr("The photo"));
    setAccessibleDescription(tr("Four corners of the mat, to be dragged"));
}

void PhotoView::setPhoto(const raster::Picture& photo) {
    constexpr int kMostPx = 1400; // more than a window shows
    m_size = {photo.width, photo.height};
    const QImage image(photo.rgb.data(), photo.width, photo.height, 3 * photo.width, QImage::Format_RGB888);
    m_photo =
        QPixmap::fromImage(std::max(photo.width, photo.height) > kMostPx
                               ? image.scaled(kMostPx, kMostPx, Qt::KeepAspectRatio, Qt::SmoothTransformation)
                               : image.copy());
    const double w = photo.width, h = photo.height;
    setCorners({Point{0.2 * w, 0.15 * h}, {0.8 * w, 0.15 * h}, {0.8 * w, 0.85 * h}, {0.2 * w, 0.85 * h}});
}

void PhotoView::setCorners(const std::array<Point, 4>& corners) {
    m_corners = corners;
    update();
}

void PhotoView::setFound(const job::OnMat& found, std::vector<bool> areUsed) {
    m_outlines.clear();
    for (const raster::FoundScrap& scrap : found.look.scraps) {
        geometry::Polygons rings = scrap.rings;
        for (geometry::Polygon& ring : rings)
            for (Point& p : ring)
                p = found.seen.toPx(p);
        m_outlines.push_back(std::move(rings));
    }
    m_areUsed = std::move(areUsed);
    update();
}

double PhotoView::scale() const {
    return m_size.isEmpty() ? 1
                            : std::min(static_cast<double>(width()) / m_size.width(),
                                       static_cast<double>(height()) / m_size.height());
}
QPointF PhotoView::origin() const {
    return {(width() - m_size.width() * scale()) / 2, (height() - m_size.height() * scale()) / 2};
}
QPointF PhotoView::shownAt(Point px) const {
    return origin() + QPointF(px.x, px.y) * scale();
}

void PhotoView::paintEvent(QPaintEvent*) {
    constexpr double kHandlePx = 7;
    const Theme& theme = Theme::light();
    QPainter painter(this);
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    painter.fillRect(rect(), theme.desk);
    painter.drawPixmap(QRectF(origin(), QSizeF(m_size) * scale()), m_photo, QRectF(m_photo.rect()));
    for (size_t i = 0; i < m_outlines.size(); ++i) {
        const bool isUsed = i < m_areUsed.size() && m_areUsed[i];
        painter.setBrush(Qt::NoBrush);
        for (const QPen& pen : {QPen(Qt::white, 4), QPen(isUsed ? theme.accent : theme.soft, 2,
                                                         isUsed ? Qt::SolidLine : Qt::DashLine)}) {
            painter.setPen(pen);
            for (const geometry::Polygon& ring : m_outlines[i]) {
                QPolygonF line;
                for (const Point p : ring)
                    line << shownAt(p);
                painter.drawPolygon(line);
            }
        }
        const QPointF middle = shownAt(geometry::bounds(m_outlines[i]).centre());
        painter.setPen(Qt::NoPen);
        painter.setBrush(theme.accent);
        painter.drawEllipse(middle, 11, 11);
        painter.setPen(Qt::white);
        painter.drawText(QRectF(middle - QPointF(11, 11), QSizeF(22, 22)), Qt::AlignCenter,
                         QString::number(i + 1));
    }
    QPolygonF mat;
    for (const Point p : m_corners)
        mat << shownAt(p);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(theme.accent, 1, Qt::DashLine));
    painter.drawPolygon(mat);
    painter.setPen(QPen(Qt::white, 2));
    painter.setBrush(theme.accent);
    for (const QPointF& p : mat)
        painter.drawEllipse(p, kHandlePx, kHandlePx);
}

void PhotoView::mousePressEvent(QMouseEvent* event) {
    constexpr double kReachPx = 16;
    m_held.reset();
    double least = kReachPx;
    for (size_t i = 0; i < m_corners.size(); ++i)
        if (const double away = QLineF(shownAt(m_corners[i]), event->position()).length(); away < least) {
            least = away;
            m_held = i;
        }
}
void PhotoView::mouseMoveEvent(QMouseEvent* event) {
    if (!m_held)
        return;
    const QPointF at = (event->position() - origin()) / scale();
    m_corners[*m_held] = {std::clamp(at.x(), 0.0, static_cast<double>(m_size.width())),
                          std::clamp(at.y(), 0.0, static_cast<double>(m_size.height()))};
    m_outlines.clear(); // they belong to where the corners were
    update();
}
void PhotoView::mouseReleaseEvent(QMouseEvent*) {
    if (std::exchange(m_held, std::nullopt))
        emit cornersMoved();
}

} // namespace thinline::app
