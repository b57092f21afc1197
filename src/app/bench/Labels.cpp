// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/Labels.h"

namespace thinline::app {

void paintWords(QPainter& painter, QPointF pointer, const QString& words, QSize within) {
    QFont font = painter.font();
    font.setPixelSize(12);
    painter.setFont(font);
    const QRect bounds = QFontMetrics(font).boundingRect(QRect(0, 0, 320, 200), Qt::AlignLeft, words);
    QRectF box(pointer + QPointF(16, 16), QSizeF(bounds.width() + 20, bounds.height() + 14));
    if (box.right() > within.width() - 8)
        box.moveRight(pointer.x() - 12);
    if (box.bottom() > within.height() - 8)
        box.moveBottom(pointer.y() - 12);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor("#1E2A31"));
    painter.drawRoundedRect(box, 6, 6);
    painter.setPen(QColor("#ECE7DF"));
    painter.drawText(box.adjusted(10, 7, -10, -7), Qt::AlignLeft, words);
}

} // namespace thinline::app
