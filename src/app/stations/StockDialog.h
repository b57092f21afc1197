// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "app/stations/Fields.h"
#include "job/StockSteps.h"

#include <QDialog>

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QFormLayout;
class QLabel;
class QListWidget;

namespace thinline::app {

/// What the job may be cut from: every stock with its figures. Each change is a step of the job.
class StockDialog : public QDialog {
    Q_OBJECT
  public:
    explicit StockDialog(Workbench& bench, QWidget* parent = nullptr);

  private:
    QWidget* buildList();
    QWidget* buildForm();
    void connectForm();
    void refresh();
    void showStock();
    const design::Stock* stock() const;
    void change(const std::function<void(design::Stock&)>& what);
    void take(const QString& name, base::Result<job::Job> job);
    void addStock();
    void chooseColour();
    void readSizes();

    Workbench& m_bench;
    std::string m_chosen;
    QListWidget* m_list;
    QLineEdit* m_name;
    QComboBox* m_kind;
    QPushButton* m_colour;
    QDoubleSpinBox* m_thickness;
    QDoubleSpinBox* m_weight;
    QComboBox* m_cut;
    QComboBox *m_faces, *m_prints;
    QDoubleSpinBox* m_bleed;
    QComboBox* m_turns;
    QCheckBox* m_byHand;
    QCheckBox* m_translucent;
    QComboBox* m_glued[3];
    QFormLayout* m_form;
    QWidget* m_gluedRow;
    QLineEdit* m_sizes;
    QDoubleSpinBox* m_price;
    QLabel* m_note;
};

} // namespace thinline::app
