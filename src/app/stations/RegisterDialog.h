// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "job/Registering.h"
#include "pack/PrintFiles.h"

#include <QDialog>

class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace thinline::app {

/// A printed page on the machine: where its marks were seen, and how far blade and sensor are apart.
class RegisterDialog : public QDialog {
    Q_OBJECT
  public:
    RegisterDialog(Workbench& bench, base::FileStore& store, QWidget* parent = nullptr);
    bool isSettled() const { return !m_task.isRunning() && !m_bench.isBusy(); }
    void writeLoad(const QString& folder);
    void writeSheet(const QString& path);

  private:
    QWidget* buildMarks();
    QWidget* buildCalibration();
    void refresh();
    void solve();
    job::Sighting seen(QString& problem) const;
    void takeReadings();
    void takeNewest();
    void say(const QString& sentence, bool isProblem = false);

    Workbench& m_bench;
    base::FileStore& m_store;
    std::shared_ptr<const design::CutPlan> m_plan;
    std::optional<job::RegisteredLoad> m_found;
    job::Sighting m_solved; ///< what was last looked for, on which load
    int m_solvedLoad = -1;
    std::optional<pack::CalibrationSheet> m_sheet;
    QComboBox *m_load, *m_paper;
    std::array<QLineEdit*, 4> m_across{}, m_down{};
    std::array<QLabel*, 4> m_off{};
    QLabel *m_told, *m_standing, *m_note;
    QPushButton *m_write, *m_take, *m_newest, *m_forget;
    std::vector<QLineEdit*> m_readings;
    Task m_task;
};

} // namespace thinline::app
