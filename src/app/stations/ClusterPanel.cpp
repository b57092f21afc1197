// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What the panel says depends on what is chosen. Nothing: what is proposed, at most two lines, for a list would push
// the plan out of view. Pieces of no cluster: that they can be kept together. One cluster and nothing besides: its
// frame, if its stock has a carrier, and the way to part it. Refusals (two stocks, two sides) come from the step and
// are told where the station tells things, so that the panel never decides what may be.
#include "app/stations/ClusterPanel.h"

#include "design/Cluster.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace thinline::app {

ClusterPanel::ClusterPanel(Workbench& bench, QWidget* parent)
    : QWidget(parent), m_bench(bench), m_words(sentenceLabel({}, "soft")) {
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(4);
    auto* heading = new QLabel(tr("Lifted off together"));
    heading->setObjectName("heading");
    lines->addWidget(heading);
    lines->addWidget(m_words);
    m_keep = linkButton(tr("Keep these together"), tr("Keep the chosen pieces together on the sheet"));
    m_part = linkButton(tr("Part them again"), tr("Part the cluster into its pieces again"));
    for (QPushButton* button : {m_keep, m_part})
        lines->addWidget(button, 0, Qt::AlignLeft);
    m_frame = new LengthField(tr("Room to a frame round them"));
    m_frame->allowZero();
    m_frame->setToolTip(
        tr("A frame this far away is cut to the carrier, so that the whole can be weeded and lifted "
           "off. 5 mm is usual, 0 for none."));
    m_frameRow = labelled(tr("Frame round them"), m_frame, 96);
    lines->addWidget(m_frameRow);
    m_through = new QCheckBox(tr("Cut the frame through the carrier"));
    m_through->setToolTip(tr("Then the whole comes off as a sheet of its own, backing and all"));
    lines->addWidget(m_through);
    m_proposals = new QVBoxLayout;
    m_proposals->setSpacing(0);
    lines->addLayout(m_proposals);
    connect(m_keep, &QPushButton::clicked, this,
            [this] { take(tr("Keep pieces together"), job::withCluster(m_bench.state(), "", m_chosen)); });
    connect(m_part, &QPushButton::clicked, this, [this] {
        if (m_cluster)
            take(tr("Part a cluster"), job::withoutCluster(m_bench.job(), *m_cluster));
    });
    connect(m_frame, &LengthField::entered, this, [this](double mm) {
        if (m_cluster)
            take(tr("Set a cluster's frame"), job::withClusterFrame(m_bench.state(), *m_cluster, mm));
    });
    connect(m_through, &QCheckBox::clicked, this, [this](bool isOn) {
        if (m_cluster)
            take(tr("Cut a frame through the carrier"),
                 job::withFrameThrough(m_bench.job(), *m_cluster, isOn));
    });
    connect(m_frame, &LengthField::refused, this, &ClusterPanel::refused);
}

void ClusterPanel::take(const QString& name, base::Result<job::Job> job) {
    emit refused(job ? QString() : text(job.error().message));
    if (job)
        m_bench.act(name, job.take());
}

std::optional<size_t> ClusterPanel::onlyCluster() const {
    const design::Stack* work = m_bench.work();
    if (m_chosen.empty() || !work)
        return std::nullopt;
    const design::ClusterIndex clusters = design::clusterIndex(*work);
    const auto clusterOf = [&](design::PieceId id) {
        const auto at = clusters.find(id);
        return at == clusters.end() ? nullptr : at->second;
    };
    const design::Cluster* first = clusterOf(m_chosen.front());
    const bool isOnly = first && std::all_of(m_chosen.begin(), m_chosen.end(),
                                             [&](design::PieceId id) { return clusterOf(id) == first; });
    return isOnly ? job::clusterWith(m_bench.state(), m_chosen.front()) : std::nullopt;
}

/// What was proposed stays until more is known.
void ClusterPanel::findProposals() {
    if (m_bench.made().finished == m_proposedFor)
        return;
    m_proposedFor = m_bench.made().finished;
    m_finder.start(tr("Looking for clusters"),
                   [this, state = m_bench.state()](const base::Progress& progress) -> Task::Conclusion {
                       return [this, found = job::proposedClusters(state, progress)] {
                           m_proposed = found;
                           showProposals();
                       };
                   });
}

void ClusterPanel::showProposals() {
    emptyLayout(m_proposals);
    constexpr size_t kMost = 2;
    for (size_t i = 0; m_chosen.empty() && i < std::min(kMost, m_proposed.size()); ++i) {
        const job::ProposedCluster& one = m_proposed[i];
        const QString words = tr("Keep together: %1, %2")
                                  .arg(text(one.name), countOf(static_cast<qsizetype>(one.pieces.size()),
                                                               tr("piece"), tr("pieces")));
        auto* button = linkButton(fontMetrics().elidedText(words, Qt::ElideMiddle, 250), words);
        button->setToolTip(text(one.why));
        connect(button, &QPushButton::clicked, this, [this, one] {
            take(tr("Keep pieces together"), job::withCluster(m_bench.state(), one.name, one.pieces));
        });
        m_proposals->addWidget(button, 0, Qt::AlignLeft);
    }
}

void ClusterPanel::show(const std::vector<design::PieceId>& chosen) {
    m_chosen = chosen;
    m_cluster = onlyCluster();
    const design::Stack* work = m_bench.work();
    const design::Cluster* cluster = m_cluster ? &m_bench.job().clusters[*m_cluster] : nullptr;
    m_keep->setVisible(!cluster && m_chosen.size() > 1);
    m_part->setVisible(cluster != nullptr);
    bool hasCarrier = false;
    if (const design::Laid* laid = cluster && work ? work->find(m_chosen.front()) : nullptr) {
        const design::Stock* stock = design::findStock(work->stocks, work->layerOf(*laid).stockId);
        hasCarrier = stock && stock->cut == design::Depth::ToCarrier;
    }
    m_frameRow->setVisible(hasCarrier || (cluster && cluster->frameMm > 0));
    m_through->setVisible(hasCarrier && cluster->frameMm > 0);
    if (cluster) {
        m_through->setChecked(cluster->isFrameThrough);
        m_words->setText(tr("%1 keep their distances.").arg(capitalised(text(cluster->name))));
        m_frame->showLength(cluster->frameMm, m_bench.job().unit);
    } else {
        m_words->setText(m_chosen.size() > 1 ? tr("%1 pieces are chosen.").arg(m_chosen.size())
                                             : tr("Choose pieces that keep their distances."));
    }
    findProposals();
    showProposals();
}

} // namespace thinline::app
