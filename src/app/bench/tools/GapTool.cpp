// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/tools/GapTool.h"

#include "app/settings/Theme.h"

#include <QPainter>

namespace thinline::app {

void GapTool::press(const Pointer& pointer) {
    m_pointer = pointer.at;
    if (!m_from) {
        m_from = pointer.at;
        return;
    }
    const geometry::Point from = *std::exchange(m_from, std::nullopt);
    m_closed(from, pointer.at);
}

void GapTool::paint(QPainter& painter, const BenchMap& map) const {
    if (!m_from)
        return;
    painter.setPen(QPen(Theme::light().spoils, 3, Qt::SolidLine, Qt::RoundCap));
    painter.drawLine(map.toWidget(*m_from), map.toWidget(m_pointer));
    painter.setBrush(theme().panel);
    painter.drawEllipse(map.toWidget(*m_from), 4, 4);
}

} // namespace thinline::app
