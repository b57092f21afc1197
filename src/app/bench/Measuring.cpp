// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/Measuring.h"

#include <cmath>

namespace thinline::app {

Measuring::Measuring(QObject* parent)
    : QObject(parent), m_tool([this](geometry::Point from, geometry::Point to) { measured(from, to); }) {}

void Measuring::setUnit(base::LengthUnit unit) {
    m_unit = unit;
    m_tool.setUnit(unit);
}

void Measuring::begin(Wanted wanted) {
    m_wanted = std::move(wanted);
    m_isOn = true;
    emit told(tr("Click two points; nodes, edges and centres hold the tape. Esc ends it."));
    emit changed();
}

void Measuring::end() {
    if (!m_isOn)
        return;
    m_isOn = false;
    m_wanted = nullptr;
    emit changed();
}

void Measuring::measured(geometry::Point from, geometry::Point to) {
    const double mm = geometry::distance(from, to);
    if (m_wanted) {
        const Wanted wanted = std::exchange(m_wanted, nullptr);
        end();
        return wanted(mm);
    }
    const auto words = [&](double length) {
        return QString::fromStdString(base::formatLength(std::abs(length), m_unit));
    };
    emit told(tr("%1 apart: %2 across, %3 down.").arg(words(mm), words(to.x - from.x), words(to.y - from.y)));
}

} // namespace thinline::app
