// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "app/stations/Fields.h"

namespace thinline::app {

/// What lies on the bench at Trace: the areas, the picture as it is looked at, or where the two differ. Turning and
/// comparing are done by workers.
class PictureLook : public QObject {
    Q_OBJECT
  public:
    PictureLook(Workbench& bench, QObject* parent);
    QWidget* choice() const { return m_choice; }
    void refresh();
    /// The picture instead of the areas, and back.
    void toggle();
    /// What lies over the bench; null for the areas.
    std::shared_ptr<const raster::Picture> shown() const;
    /// The picture as it is looked at: turned. Null until it is.
    std::shared_ptr<const raster::Picture> lookedAt() const;
    /// The share of the picture that differs, when that is what is shown.
    std::optional<double> differing() const;
    bool isSettled() const { return !m_turner.isRunning() && !m_comparer.isRunning(); }

  signals:
    void changed();

  private:
    void turn();
    void compare();
    enum class Shows { Areas, Picture, Differences };
    Workbench& m_bench;
    WordChoice* m_choice;
    Shows m_shows = Shows::Areas;
    std::shared_ptr<const raster::Picture> m_turned, m_turnedFrom;
    double m_turnedBy = 0;
    std::shared_ptr<const trace::Tracing> m_compared; ///< what the differences are of
    std::shared_ptr<const raster::Picture> m_differences;
    double m_differing = 0;
    Task m_turner, m_comparer;
};

} // namespace thinline::app
