// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Stack.h"

#include <QAbstractButton>
#include <QColor>
#include <QVector>
#include <QWidget>

#include <vector>

class QButtonGroup;
class QGridLayout;

/// What the Trace station shows besides sliders and fields.
namespace thinline::app {

/// A stock to lay: a chip of the card itself with its name below.
class Swatch : public QAbstractButton {
  public:
    Swatch(const design::Stock& stock, const QString& hint);

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    QColor m_colour;
};

/// The stocks of the drawer, one of them chosen.
class StockChoice : public QWidget {
    Q_OBJECT
  public:
    explicit StockChoice(QWidget* parent = nullptr);
    void show(const std::vector<design::Stock>& stocks);
    const std::string& chosen() const { return m_chosen; }

  private:
    std::vector<design::Stock> m_shown;
    QGridLayout* m_grid;
    QButtonGroup* m_group;
    std::string m_chosen;
};

/// The colours found in a picture as chips: a click leaves one out of the cut or takes it in again, dragging
/// one onto another lets it go with that one.
class PaletteChips : public QWidget {
    Q_OBJECT
  public:
    explicit PaletteChips(QWidget* parent = nullptr);
    struct Chip {
        raster::Rgb colour{};
        QString words; ///< what it is: the card it becomes, "paper", "left out"
        bool isCut = true;
    };
    void show(std::vector<Chip> chips);
    const std::vector<Chip>& chips() const { return m_chips; }
    QRect placeOf(int chip) const;
    QSize sizeHint() const override;
    int heightForWidth(int) const override;

  signals:
    void toggled(int chip);
    void merged(int from, int into);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;

  private:
    int chipAt(QPointF place) const;
    /// Few have words below them, many are small.
    bool areFew() const;
    void paintChip(QPainter& painter, int chip) const;
    std::vector<Chip> m_chips;
    int m_held = -1;   ///< pressed
    int m_current = 0; ///< where the keys are
    QPointF m_at;      ///< of a chip being dragged
    bool m_isDragging = false;
};

} // namespace thinline::app
