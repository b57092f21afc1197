// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "devices/PrintResult.h"
#include "pack/PrintFiles.h"

#include <QDialog>

class QCheckBox;
class QLabel;
class QPushButton;
class QSpinBox;
class QVBoxLayout;

namespace thinline::app {

class LengthField;
class WordChoice;

/// The pages of a job: how they are printed, and what comes of printing and cutting them on simulated machines.
class PrintDialog : public QDialog {
    Q_OBJECT
  public:
    PrintDialog(Workbench& bench, base::FileStore& store, QWidget* parent = nullptr);
    bool isSettled() const { return !m_task.isRunning() && !m_painting.isRunning() && !m_bench.isBusy(); }
    /// Writes all pages: a PDF by its name, else PNGs into a folder.
    void writeTo(const QString& path);
    void tryIt();

  private:
    QWidget* buildPages();
    QWidget* buildPlan();
    QWidget* buildTrial();
    void refresh();
    void showStocks();
    void showPage();
    void changePlan(const QString& name, const std::function<void(job::PrintPlan&)>& change);
    void print();
    void say(const QString& sentence, bool isProblem = false);

    /// A face of a page.
    struct Face {
        job::PrintPage page;
        bool isBack = false;
    };
    const Face& shownFace() const;

    Workbench& m_bench;
    base::FileStore& m_store;
    std::vector<Face> m_faces;
    std::shared_ptr<const devices::PrintRun> m_run; ///< of the page shown, when it was tried
    job::Decoded m_art;
    class PageView* m_pages;
    QLabel *m_room, *m_result, *m_note;
    QPushButton *m_writePdf, *m_writePng, *m_print, *m_try;
    WordChoice *m_look, *m_dpi, *m_how;
    QVBoxLayout* m_stocks;
    LengthField* m_margin;
    QCheckBox* m_marks;
    std::vector<QCheckBox*> m_errors;
    QSpinBox* m_seed;
    Task m_task;
    Task m_painting; ///< of the page that is shown
};

} // namespace thinline::app
