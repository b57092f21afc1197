// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/Paths.h"

#include <QPolygonF>

namespace thinline::app {
namespace {

QPointF at(geometry::Point p) {
    return {p.x, p.y};
}

void add(QPainterPath& path, geometry::Point start, const std::vector<geometry::Segment>& segments) {
    path.moveTo(at(start));
    for (const geometry::Segment& s : segments)
        if (s.isLine)
            path.lineTo(at(s.end));
        else
            path.cubicTo(at(s.control1), at(s.control2), at(s.end));
}

} // namespace

QPainterPath pathOf(const geometry::Polygons& rings) {
    QPainterPath path;
    for (const geometry::Polygon& ring : rings) {
        QPolygonF polygon;
        for (const geometry::Point p : ring)
            polygon << at(p);
        if (!polygon.isEmpty())
            polygon << polygon.front();
        path.addPolygon(polygon);
    }
    return path;
}

QPainterPath pathOf(const geometry::Shape& shape) {
    QPainterPath path;
    add(path, shape.outline.start, shape.outline.segments);
    for (const geometry::Contour& opening : shape.openings)
        add(path, opening.start, opening.segments);
    return path;
}

QPainterPath pathOf(const geometry::Line& line) {
    QPainterPath path;
    add(path, line.start, line.segments);
    return path;
}

QImage imageOf(const raster::Picture& picture) {
    return QImage(picture.rgb.data(), picture.width, picture.height, picture.width * 3, QImage::Format_RGB888)
        .copy();
}

} // namespace thinline::app
