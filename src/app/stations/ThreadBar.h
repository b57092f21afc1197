// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractButton>
#include <QString>
#include <QVector>
#include <QWidget>

namespace thinline::app {

/// The nine stations in the order people work.
enum class Station { Source, Trace, Shape, Size, Folds, Split, Sheets, Cut, Pack };
inline constexpr int kStationCount = 9;

struct StationInfo {
    Station station;
    const char* name;
    const char* promise; ///< for stations that are not built: what they will do, in one line; null when built
};
const QVector<StationInfo>& stationInfos();

/// How a bead looks.
enum class BeadState { NotBuilt, Untouched, Done, HasFindings };

/// One station on the thread.
class Bead : public QAbstractButton {
    Q_OBJECT
  public:
    explicit Bead(const StationInfo& info, QWidget* parent = nullptr);
    void showState(BeadState state, bool isHere);
    QSize sizeHint() const override { return {84, 50}; }

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    BeadState m_state = BeadState::Untouched;
    bool m_isHere = false;
};

/// The thread: the stations as beads on one thin line.
class ThreadBar : public QWidget {
    Q_OBJECT
  public:
    explicit ThreadBar(QWidget* parent = nullptr);
    void showStations(Station here, const QVector<BeadState>& states);
    Bead* bead(Station station) const { return m_beads[static_cast<int>(station)]; }

  signals:
    void chosen(Station station);

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    QVector<Bead*> m_beads;
};

} // namespace thinline::app
