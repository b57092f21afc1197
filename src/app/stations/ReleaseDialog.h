// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "pack/Release.h"

#include <QDialog>
#include <QVector>

class QCheckBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QTableWidget;

namespace thinline::app {

/// Who gets what: variants in numbers, formats, and the package written as a folder or a zip. Workers make and write.
class ReleaseDialog : public QDialog {
    Q_OBJECT
  public:
    ReleaseDialog(Workbench& bench, base::FileStore& store, QWidget* parent = nullptr);
    bool isSettled() const { return !m_task.isRunning(); }
    const std::vector<pack::VariantRow>& rows() const { return m_rows; }

    void packTo(const QString& path); ///< a folder, or a zip by its ending

  private:
    QWidget* buildChoices();
    QVector<QCheckBox*> addChoices(class QGridLayout* grid, int row, const QString& heading,
                                   const QStringList& words, const QStringList& names);
    base::Result<std::vector<pack::Variant>> variants() const;
    std::vector<pack::Format> formats() const;
    void lookAnew();
    void showRows();
    void say(const QString& sentence, bool isProblem = false);

    Workbench& m_bench;
    base::FileStore& m_store;
    QVector<QCheckBox*> m_folds, m_sheets, m_parts, m_formats;
    QLineEdit *m_sizes, *m_ownSheet;
    QCheckBox* m_closer;
    QTableWidget* m_table;
    QPushButton* m_folder;
    QPushButton* m_zip;
    QLabel* m_note;
    std::vector<pack::VariantRow> m_rows;
    Task m_task;
};

} // namespace thinline::app
