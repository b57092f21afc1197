// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/stations/StationPanel.h"

class QLineEdit;

namespace thinline::app {

/// Who gets what?
class PackStation : public StationPanel {
    Q_OBJECT
  public:
    PackStation(Workbench& bench, base::FileStore& store, QWidget* parent = nullptr);
    void refresh() override;
    void setActive(bool isActive) override { bench().wantSheets(isActive); }
    ScenePtr scene() override;
    Ground ground() const override { return Ground::Sheets; }
    QString emptyText() const override;
    bool isSettled() const override { return !m_task.isRunning(); }

    void setFolder(const QString& folder);
    /// The folder the files go to; "~" is the person's own.
    QString folder() const;

  signals:
    void written(const QString& folder);

  private:
    template <class Dialog>
    void offerDialog(const QString& words, const QString& help, const QString& action);
    void write();
    struct Written;
    static Written packed(base::FileStore& store, const job::State& state, const std::string& folder,
                          const base::Progress& progress);
    base::FileStore& m_store;
    Task m_task;
    QLineEdit* m_folder;
    QLabel* m_files;
    QLabel* m_foldsHeading;
    WordChoice* m_foldsAs;
    WordChoice* m_goesTo;
    QLabel* m_folds;
    QLabel* m_result;
    QPushButton* m_layAnew; ///< where the arrangement would spoil card
    std::shared_ptr<const design::Arrangement> m_writtenFor;
};

} // namespace thinline::app
