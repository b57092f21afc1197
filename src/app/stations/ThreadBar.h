// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/Station.h"

#include <QAbstractButton>
#include <QString>
#include <QVector>
#include <QWidget>

namespace thinline::app {

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
