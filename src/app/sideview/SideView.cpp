// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sideview/SideView.h"

#include "app/sideview/LayerControls.h"
#include "app/sideview/PieceControls.h"
#include "job/LayerSteps.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QStackedWidget>
#include <QVBoxLayout>

#include <unordered_set>

namespace thinline::app {

SideView::SideView(Workbench& bench, QWidget* parent)
    : QWidget(parent), m_section(new CrossSection(bench)), m_scale(new QLabel),
      m_controls(new QStackedWidget), m_layer(new LayerControls(bench, m_section)),
      m_pieces(new PieceControls(bench, m_section)), m_bench(bench) {
    constexpr int kControlsWidth = 176;
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(18, 8, 16, 6);
    line->setSpacing(12);
    auto* column = new QVBoxLayout;
    column->setSpacing(6);
    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("Side view"));
    for (QLabel* label : {title, m_scale})
        label->setObjectName("soft");
    head->addWidget(title, 1);
    head->addWidget(m_scale);
    column->addLayout(head);
    column->addWidget(m_section, 1);
    line->addLayout(column, 1);
    m_controls->addWidget(m_layer);
    m_controls->addWidget(m_pieces);
    m_controls->setFixedWidth(kControlsWidth);
    line->addWidget(m_controls);
    connect(m_section, &CrossSection::layerChosen, this, &SideView::showControls);
    connect(m_section, &CrossSection::wantsLaying, this,
            [this](design::PieceId piece, design::LayerId layer) {
                m_bench.act(tr("Lay a piece in another layer"), job::laidIn(m_bench.job(), {piece}, layer));
            });
}

void SideView::showPieces(const std::vector<design::PieceId>& pieces) {
    if (pieces == m_chosen)
        return;
    m_chosen = pieces;
    showControls();
}

void SideView::refresh() {
    m_section->refresh();
    showControls();
}

void SideView::showControls() {
    m_scale->setText(m_section->scaleText());
    const bool hasLayer = m_bench.work() && numberOf(m_section->chosen()) != 0;
    m_controls->setVisible(hasLayer);
    if (!hasLayer)
        return;
    const bool ofPieces = !m_chosen.empty() && !isWholeLayer();
    m_controls->setCurrentWidget(ofPieces ? static_cast<QWidget*>(m_pieces) : m_layer);
    if (ofPieces)
        m_pieces->show(m_chosen);
    else
        m_layer->refresh();
}

/// Whether the chosen pieces are those of the chosen layer: then the layer is what is meant.
bool SideView::isWholeLayer() const {
    const design::Stack& work = *m_bench.work();
    std::unordered_set<design::PieceId> chosen(m_chosen.begin(), m_chosen.end());
    for (const design::Laid* laid : work.in(m_section->chosen()))
        if (chosen.erase(laid->id()) == 0)
            return false;
    return chosen.empty();
}

} // namespace thinline::app
