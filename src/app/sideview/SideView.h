// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"

#include <QWidget>

class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QToolButton;

namespace thinline::app {

/// The cross-section: layers at true thickness, bottom to top, with their lifts. Layers are chosen here by
/// click or by the up and down keys; H hides, Alt+Up and Alt+Down reorder.
class CrossSection : public QWidget {
    Q_OBJECT
  public:
    explicit CrossSection(Workbench& bench, QWidget* parent = nullptr);
    int chosen() const { return m_chosen; }
    void choose(int layer);
    /// The layer drawn at a point of the widget, or -1.
    int layerAt(QPoint at) const;
    /// The middle of a layer's bar, for tests and tooltips.
    QPoint middleOf(int layer) const;
    QString scaleText() const;

  signals:
    void layerChosen(int layer);
    void wantsMove(int by);
    void wantsHide();

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

  private:
    struct Bar {
        double top = 0;
        double height = 0;
        double liftHeight = 0;
        double labelY = 0;
    };
    std::vector<Bar> bars() const;
    double pxPerMm() const;
    Workbench& m_bench;
    int m_chosen = 0;
};

/// The side view: cross-section at the left, the chosen layer's stock, lift and place at the right.
class SideView : public QWidget {
    Q_OBJECT
  public:
    explicit SideView(Workbench& bench, QWidget* parent = nullptr);
    void refresh();
    CrossSection* section() const { return m_section; }

  private:
    void act(const QString& name, const std::function<document::Job(const document::Job&, size_t)>& step);
    void move(int by);
    Workbench& m_bench;
    CrossSection* m_section;
    QLabel* m_scale;
    QWidget* m_controls;
    QLabel* m_name;
    QComboBox* m_stock;
    QDoubleSpinBox* m_lift;
    QToolButton* m_up;
    QToolButton* m_down;
    QToolButton* m_hide;
};

} // namespace thinline::app
