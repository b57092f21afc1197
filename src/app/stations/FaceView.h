// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "geometry/Shape.h"
#include "print/Place.h"

#include <QImage>
#include <QWidget>

namespace thinline::app {

/// A piece with its print, as it is seen from the side that is printed: what lies beyond the cut is pale. The print that is chosen is
/// dragged, sized by the wheel and turned with Shift, or by the keys: arrows, plus and minus, comma and full stop.
class FaceView : public QWidget {
    Q_OBJECT
  public:
    explicit FaceView(QWidget* parent = nullptr);

    /// What is to be seen of the design, mm, mirrored for a back.
    void setField(const geometry::Box& field, bool isMirrored, geometry::Polygons outline);
    /// The print of the field as it is seen, and the colour of the card.
    void setPrint(QImage print) {
        m_print = std::move(print);
        update();
    }
    /// The frame of the chosen print, mm in the design; none without.
    void setFrame(const std::optional<geometry::Transform>& place);
    QSize printSize() const; ///< px of the field as it is shown

    /// Where a place of the design is shown.
    QPointF shownAt(geometry::Point mm) const;

  signals:
    /// The chosen print is to be changed so, in mm and turns as they are seen on the design; `isDone` when the hand lets go.
    void shifted(const thinline::print::Shift& shift, bool isDone);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    double scale() const;
    QPointF origin() const;
    geometry::Point seen(QPointF by) const; ///< a way on the screen, mm in the design

    geometry::Box m_field{{0, 0}, {1, 1}};
    bool m_isMirrored = false;
    geometry::Polygons m_outline;
    QImage m_print;
    std::optional<geometry::Transform> m_frame;
    std::optional<QPointF> m_held;
};

} // namespace thinline::app
