// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/jobs/Workbench.h"
#include "app/stations/Fields.h"
#include "job/Clusters.h"

#include <optional>

class QCheckBox;
class QVBoxLayout;

namespace thinline::app {

/// What is lifted off together: made of what is chosen, taken as proposed, given a frame, parted.
class ClusterPanel : public QWidget {
    Q_OBJECT
  public:
    explicit ClusterPanel(Workbench& bench, QWidget* parent = nullptr);
    void show(const std::vector<design::PieceId>& chosen);
    /// The cluster that is chosen, and nothing besides.
    std::optional<size_t> cluster() const { return m_cluster; }

    bool isSettled() const { return !m_finder.isRunning(); }

  signals:
    void refused(const QString& sentence);

  private:
    void take(const QString& name, base::Result<job::Job> job);
    void findProposals();
    void showProposals();
    std::optional<size_t> onlyCluster() const;

    Workbench& m_bench;
    std::vector<design::PieceId> m_chosen;
    std::optional<size_t> m_cluster;
    QLabel* m_words;
    QPushButton* m_keep;
    QPushButton* m_part;
    QWidget* m_frameRow;
    QCheckBox* m_through;
    LengthField* m_frame;
    QVBoxLayout* m_proposals;
    job::Kept<job::Finished> m_proposedFor;
    std::vector<job::ProposedCluster> m_proposed;
    Task m_finder;
};

} // namespace thinline::app
