// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "pack/Names.h"

#include <QDialog>

class QLabel;
class QPlainTextEdit;
class QPushButton;
class QTableWidget;

namespace thinline::app {

/// Names from a list in the place of a word: typed, pasted or read from a file, looked through, saved as a job each or all
/// in one.
class NamesDialog : public QDialog {
    Q_OBJECT
  public:
    NamesDialog(Workbench& bench, job::NamedSlot slot, QWidget* parent = nullptr);
    bool isSettled() const { return !m_work.isRunning(); }
    /// Writes what was looked through into a folder.
    void saveInto(const QString& folder);
    /// Writes all of it as one job, side by side.
    void saveTogether(const QString& path);

  private:
    void openList();
    void look();
    void showNames();
    void setSaving(bool may);

    Workbench& m_bench;
    job::NamedSlot m_slot;
    QString m_heading; ///< of the list, which is no name
    std::shared_ptr<const std::vector<pack::Named>> m_names;
    QPlainTextEdit* m_list;
    QTableWidget* m_table;
    QLabel* m_words;
    QPushButton *m_look, *m_save, *m_saveOne;
    Task m_work;
};

/// Asks for names in the place of a word, or of what is printed; does nothing when it is gone.
void askForNames(Workbench& bench, const job::Slot& slot, QWidget* parent);

} // namespace thinline::app
