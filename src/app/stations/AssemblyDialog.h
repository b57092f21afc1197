// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "pack/AssemblySheets.h"

#include <QDialog>
#include <QPixmap>

class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QPlainTextEdit;
class QPushButton;

namespace thinline::app {

/// How it is put together: the steps, their words, what the maker brings, and the pages as they will be printed.
class AssemblyDialog : public QDialog {
    Q_OBJECT
  public:
    AssemblyDialog(Workbench& bench, base::FileStore& store, QWidget* parent = nullptr);
    bool isSettled() const { return !m_task.isRunning() && !m_painting.isRunning(); }
    void writeTo(const QString& path); ///< a PDF

  private:
    QWidget* buildSteps();
    void lookAnew();
    void showSteps();
    void showStep(int row);
    void showPage(int page);
    void sayStep(const QString& words);
    void addItem();
    void takeItem();
    const assembly::Step* stepAt(int row) const;
    void say(const QString& sentence, bool isProblem = false);

    Workbench& m_bench;
    base::FileStore& m_store;
    std::shared_ptr<const pack::AssemblySheets> m_drawn;
    QListWidget* m_steps;
    QPlainTextEdit* m_words;
    QPushButton *m_saySo, *m_asBefore;
    class WordChoice* m_numbers;
    QListWidget* m_items;
    QLineEdit* m_item;
    QComboBox* m_into;
    QPushButton* m_takeItem;
    class PageView* m_pages;
    QPushButton* m_write;
    QLabel* m_note;
    Task m_task;
    Task m_painting; ///< of the page that is shown
};

} // namespace thinline::app
