// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/bench/tools/MeasureTool.h"

#include <QObject>

namespace thinline::app {

/// Measuring on the bench: for the eye, or for whoever wants to know a distance. While it goes on, its tool takes the
/// place of the station's.
class Measuring : public QObject {
    Q_OBJECT
  public:
    using Wanted = std::function<void(double mm)>;
    explicit Measuring(QObject* parent = nullptr);
    /// Begins; `wanted` is told the distance once and ends it. Without it every distance is told in words.
    void begin(Wanted wanted = nullptr);
    void end();
    /// The tape in hand; null when nobody measures.
    Tool* tool() { return m_isOn ? &m_tool : nullptr; }
    void setUnit(base::LengthUnit unit);

  signals:
    void changed();
    void told(const QString& sentence);

  private:
    void measured(geometry::Point from, geometry::Point to);
    MeasureTool m_tool;
    base::LengthUnit m_unit = base::LengthUnit::Millimetre;
    Wanted m_wanted;
    bool m_isOn = false;
};

} // namespace thinline::app
