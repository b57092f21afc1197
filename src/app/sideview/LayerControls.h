// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/sideview/CrossSection.h"

class QComboBox;
class QDoubleSpinBox;
class QLineEdit;
class QPushButton;

namespace thinline::app {

/// A stock's colour and name as a line to choose.
void addStock(QComboBox* box, const design::Stock& stock);
/// A field for the height of foam or glue.
QDoubleSpinBox* liftField(const QString& accessibleName);

/// What can be said of the layer chosen in the side view: its name, stock, lift, place and order.
class LayerControls : public QWidget {
    Q_OBJECT
  public:
    LayerControls(Workbench& bench, CrossSection* section, QWidget* parent = nullptr);
    void refresh();

  private:
    void connectControls();
    void showStocks();
    void act(const QString& name, const std::function<job::Job(const job::Job&, design::LayerId)>& step);
    /// The same for steps that may be refused.
    void tryTo(const QString& name, const std::function<base::Result<job::Job>(design::LayerId)>& step);
    void move(int by);
    const design::Layer* layer() const;
    Workbench& m_bench;
    CrossSection* m_section;
    QLineEdit* m_name;
    QComboBox* m_stock;
    std::vector<design::Stock> m_shownStocks;
    QDoubleSpinBox* m_lift;
    QComboBox* m_place;
    QPushButton* m_up;
    QPushButton* m_down;
    QPushButton* m_hide;
    QPushButton* m_add;
    QPushButton* m_out;
};

} // namespace thinline::app
