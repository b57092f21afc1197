// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "folding/Draw.h"

#include <QDialog>
#include <QImage>

#include <memory>

class QCheckBox;
class QLabel;
class QSlider;
class QVBoxLayout;

namespace thinline::app {

/// Folded work, turned with the mouse and brought nearer with its wheel.
class FoldedView : public QWidget {
    Q_OBJECT
  public:
    explicit FoldedView(QWidget* parent = nullptr);
    void showImage(const QImage& image);
    const QImage& image() const { return m_image; }
    double turnRad() const { return m_turnRad; }
    double tiltRad() const { return m_tiltRad; }
    double zoom() const { return m_zoom; }

  signals:
    void looksElsewhere(); ///< turned, nearer, or larger

  protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override { emit looksElsewhere(); }
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void turn(double byRad, double tiltByRad);
    QImage m_image;
    QPointF m_last;
    double m_turnRad = folding::View{}.turnRad, m_tiltRad = folding::View{}.tiltRad, m_zoom = 1;
};

/// What a piece, or the work it belongs to, becomes once it is folded, from flat to done, and whether its joints meet.
class FoldedDialog : public QDialog {
    Q_OBJECT
  public:
    FoldedDialog(Workbench& bench, design::PieceId piece, QWidget* parent = nullptr);
    bool isSettled() const { return !m_folder.isRunning() && !m_drawer.isRunning(); }

  private:
    void foldUp();
    void draw();
    void tellJoints();
    void closeEarlier(const std::string& joint);
    void tellFaults(const std::vector<folding::Clash>& clashes, const std::vector<folding::Inside>& inside);

    Workbench& m_bench;
    design::PieceId m_piece;
    std::shared_ptr<const folding::Model> m_model;
    std::vector<folding::Closing> m_closings;
    FoldedView* m_view;
    QSlider* m_slider;
    QCheckBox* m_light;
    QLabel* m_words;
    QVBoxLayout* m_joints;
    Task m_folder, m_drawer;
};

/// Shows a piece folded; tells what is missing when there is none that folds.
void showFolded(Workbench& bench, design::PieceId piece, QWidget* parent);

} // namespace thinline::app
