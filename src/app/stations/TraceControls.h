// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "design/Stack.h"
#include "trace/Recipe.h"

#include <QAbstractButton>
#include <QColor>
#include <QWidget>

#include <vector>

class QButtonGroup;

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

/// One of a few words to choose, side by side.
class WordChoice : public QWidget {
    Q_OBJECT
  public:
    explicit WordChoice(const QStringList& words, QWidget* parent = nullptr);
    void choose(int index);

  signals:
    void chosen(int index);

  private:
    QButtonGroup* m_group;
};

/// The colours found in a picture as chips: a click leaves one out of the cut or takes it in again, dragging
/// one onto another lets it go with that one.
class PaletteChips : public QWidget {
    Q_OBJECT
  public:
    explicit PaletteChips(QWidget* parent = nullptr);
    struct Chip {
        raster::Rgb colour{};
        bool isPaper = false;
        bool isCut = true;
    };
    void show(std::vector<Chip> chips);
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
    std::vector<Chip> m_chips;
    int m_held = -1;   ///< pressed
    int m_current = 0; ///< where the keys are
    QPointF m_at;      ///< of a chip being dragged
    bool m_isDragging = false;
};

} // namespace thinline::app
