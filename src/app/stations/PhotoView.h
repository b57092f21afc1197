// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "job/MatPhoto.h"

#include <QPixmap>
#include <QWidget>

namespace thinline::app {

/// A photo with the four corners of a mat, which can be dragged, and what was found on it.
class PhotoView : public QWidget {
    Q_OBJECT
  public:
    explicit PhotoView(QWidget* parent = nullptr);
    void setPhoto(const raster::Picture& photo);
    void setCorners(const std::array<geometry::Point, 4>& corners);
    void setFound(const job::OnMat& found, std::vector<bool> areUsed);
    const std::array<geometry::Point, 4>& corners() const { return m_corners; }
    /// Where a place of the photo is shown.
    QPointF shownAt(geometry::Point px) const;

  signals:
    void cornersMoved();

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent*) override;

  private:
    double scale() const;
    QPointF origin() const;

    QPixmap m_photo;
    QSize m_size; ///< of the photo, px
    std::array<geometry::Point, 4> m_corners{};
    std::optional<size_t> m_held;
    std::vector<geometry::Polygons> m_outlines; ///< px of the photo
    std::vector<bool> m_areUsed;
};

} // namespace thinline::app
