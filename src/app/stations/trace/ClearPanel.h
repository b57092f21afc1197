// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Task.h"
#include "app/stations/trace/TraceWay.h"

class QDoubleSpinBox;

namespace thinline::app {

/// What is not to be traced is taken out, and the picture is laid level. The artwork itself stays whole.
class ClearPanel : public QWidget {
    Q_OBJECT
  public:
    ClearPanel(ToolButtons& tools, QWidget* parent = nullptr);
    void show(const trace::Recipe& recipe, std::shared_ptr<const raster::Picture> picture);

  signals:
    /// Something was marked in mm of the design; its width is in mm too.
    void marked(trace::Erasure::Kind kind, const std::vector<geometry::Point>& points, double widthMm);
    void wantsAllBack();
    void wantsSheet(); ///< the picture is the photo of a sheet
    void turned(double degrees);
    void told(const QString& sentence);

  private:
    void buildTaking(ToolButtons& tools, QVBoxLayout* lines);
    void layLevel();
    std::shared_ptr<const raster::Picture> m_picture;
    QDoubleSpinBox* m_turn;
    QPushButton* m_level;
    QPushButton* m_whole;
    Task m_looker;
};

} // namespace thinline::app
