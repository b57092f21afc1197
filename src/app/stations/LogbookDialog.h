// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "app/stations/Fields.h"
#include "logbook/Logbook.h"

#include <QDialog>
#include <QTimer>

class QComboBox;
class QLabel;
class QLineEdit;
class QSpinBox;
class QTableWidget;

namespace thinline::app {

/// What was cut how: looked through, entered by hand, taken in from files and given out. Workers read and write.
class LogbookDialog : public QDialog {
    Q_OBJECT
  public:
    LogbookDialog(Workbench& bench, base::FileStore& store, QWidget* parent = nullptr);
    bool isSettled() const { return !m_task.isRunning() && !m_later.isActive(); }
    const std::vector<logbook::Entry>& shown() const { return m_entries; }

    void exportTo(const QString& path);
    void importFrom(const QString& path);

  signals:
    void changed(); ///< something was entered or taken out

  private:
    QWidget* buildEntry();
    void look();
    void showEntries();
    void enter();
    void remove();
    /// Changes the logbook by a worker, then looks again.
    void write(const QString& title, std::function<base::Result<QString>(logbook::Logbook&)> work);
    void choose(bool isImport);

    Workbench& m_bench;
    base::FileStore& m_store;
    QLineEdit* m_words;
    QTableWidget* m_table;
    QLabel* m_count;
    QComboBox* m_what;
    QComboBox* m_stock;
    QComboBox* m_blade;
    QComboBox* m_outcome;
    QSpinBox* m_force;
    QSpinBox* m_passes;
    LengthField* m_step;
    double m_stepMm = 0;
    QLineEdit* m_remark;
    QLabel* m_note;
    QTimer m_later; ///< a moment after the last key
    Task m_task;
    std::vector<logbook::Entry> m_entries;
};

} // namespace thinline::app
