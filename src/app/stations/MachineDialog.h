// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "app/stations/Fields.h"

#include <QDialog>
#include <QVector>

class QCheckBox;
class QDoubleSpinBox;
class QLabel;
class QLineEdit;
class QSpinBox;

namespace thinline::app {

/// The machine as its owner knows it, and what is done to lines for one that does it not itself. Each change is a step of
/// the job, and the machine is kept for new jobs.
class MachineDialog : public QDialog {
    Q_OBJECT
  public:
    explicit MachineDialog(Workbench& bench, QWidget* parent = nullptr);

  private:
    QWidget* buildMachine();
    QWidget* buildTools();
    QWidget* buildLines();
    void refresh();
    /// Changes the machine; from then on it is somebody's own, unless only its tools and force were said.
    void change(const QString& name, bool makesItOwn, const std::function<void(design::Machine&)>& what);
    void changeAids(const QString& name, const std::function<void(design::CutAids&)>& what);
    QDoubleSpinBox* figure(const QString& name, double most, int decimals, const QString& unit,
                           double design::Machine::*field);

    Workbench& m_bench;
    QLineEdit* m_name;
    LengthField* m_width;
    LengthField* m_longest;
    struct Figure {
        QDoubleSpinBox* box;
        double design::Machine::*field;
    };
    QVector<Figure> m_figures;
    struct Mark {
        QCheckBox* box;
        int holder; ///< -1: whether there is such a tool
        design::ToolKind tool;
    };
    QVector<Mark> m_marks;
    QDoubleSpinBox* m_offset;
    LengthField* m_overcut;
    QSpinBox* m_tabs;
    LengthField* m_tabWidth;
    QCheckBox* m_tiles;
    QLabel* m_note;
};

} // namespace thinline::app
