// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/tools/Holds.h"

#include "app/settings/Theme.h"

#include <QPainter>

namespace thinline::app {

Scene::Snap heldPlace(const Pointer& pointer) {
    return pointer.scene ? pointer.scene->snapAt(pointer.at, kHoldReachPx / pointer.pxPerMm)
                         : Scene::Snap{pointer.at, Scene::Snap::Kind::Free};
}

void paintHold(QPainter& painter, const Scene::Snap& place, const BenchMap& map) {
    const QPointF at = map.toWidget(place.at);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(Theme::light().accent, 2));
    switch (place.kind) {
    case Scene::Snap::Kind::Node:
        painter.drawRect(QRectF(at.x() - 5, at.y() - 5, 10, 10));
        break;
    case Scene::Snap::Kind::Centre:
        painter.drawEllipse(at, 6, 6);
        painter.drawPoint(at);
        break;
    case Scene::Snap::Kind::Middle:
        painter.drawPolygon(QPolygonF({at + QPointF(0, -6), at + QPointF(6, 5), at + QPointF(-6, 5)}));
        break;
    case Scene::Snap::Kind::Edge:
        painter.drawLine(at + QPointF(-5, -5), at + QPointF(5, 5));
        painter.drawLine(at + QPointF(-5, 5), at + QPointF(5, -5));
        break;
    case Scene::Snap::Kind::Free:
        break;
    }
}

} // namespace thinline::app
