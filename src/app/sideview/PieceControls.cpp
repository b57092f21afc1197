// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// What is said of single pieces wins over what is said of their layer, so it stands where the layer's controls stand and
// takes their place while pieces are chosen.
#include "app/sideview/PieceControls.h"

#include "app/sideview/LayerControls.h"
#include "app/stations/Fields.h"
#include "job/LayerSteps.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>

namespace thinline::app {

PieceControls::PieceControls(Workbench& bench, CrossSection* section, QWidget* parent)
    : QWidget(parent), m_bench(bench), m_section(section), m_words(new QLabel), m_layer(new QComboBox),
      m_lift(liftField(tr("Lift below the chosen"))), m_side(new QComboBox),
      m_through(new QCheckBox(tr("through the carrier"))),
      m_asLayer(linkButton(tr("Lift as the layer"), tr("Let the layer's lift count for the chosen again"))),
      m_each(linkButton(tr("A layer each"), tr("Give each of the chosen a layer of its own"))) {
    m_words->setObjectName("heading");
    m_layer->setAccessibleName(tr("Layer of the chosen"));
    m_side->setAccessibleName(tr("Side of the chosen that faces up"));
    m_side->addItems({tr("front up"), tr("back up")});
    m_side->setToolTip(tr("With its back up a piece is turned over: it is cut from the back of its card"));
    m_each->setToolTip(tr("From below upwards, cut from the stocks of the drawer in their order"));
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(3);
    lines->addWidget(m_words);
    lines->addWidget(m_layer);
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    row->addWidget(m_lift);
    row->addWidget(m_side);
    lines->addLayout(row);
    m_through->setAccessibleName(tr("Cut the chosen through their carrier"));
    m_through->setToolTip(
        tr("The knife goes through the carrier too, so that each comes off as it is, backing and all"));
    lines->addWidget(m_through);
    lines->addWidget(m_asLayer, 0, Qt::AlignLeft);
    lines->addWidget(m_each, 0, Qt::AlignLeft);
    lines->addStretch(1);
    connectControls();
}

void PieceControls::connectControls() {
    connect(m_layer, &QComboBox::activated, this, [this] {
        m_bench.act(tr("Lay pieces in a layer"),
                    job::laidIn(m_bench.job(), m_pieces, design::LayerId{m_layer->currentData().toInt()}));
    });
    connect(m_lift, &QDoubleSpinBox::valueChanged, this, [this](double mm) {
        tryTo(tr("Change a lift"), job::withPiecesLift(m_bench.job(), m_pieces, mm));
    });
    connect(m_asLayer, &QPushButton::clicked, this, [this] {
        tryTo(tr("Change a lift"), job::withPiecesLift(m_bench.job(), m_pieces, std::nullopt));
    });
    connect(m_side, &QComboBox::activated, this, [this](int index) {
        m_bench.act(tr("Turn pieces over"),
                    job::withPiecesUp(m_bench.job(), m_pieces,
                                      index == 1 ? design::Side::Back : design::Side::Front));
    });
    connect(m_through, &QCheckBox::clicked, this, [this](bool isOn) {
        tryTo(tr("Cut through the carrier"), job::withPiecesThrough(m_bench.state(), m_pieces, isOn));
    });
    connect(m_each, &QPushButton::clicked, this, [this] {
        tryTo(tr("Give pieces layers of their own"), job::withLayerEach(m_bench.state(), m_pieces));
    });
}

void PieceControls::tryTo(const QString& name, const base::Result<job::Job>& job) {
    job ? m_bench.act(name, *job) : m_bench.tell(job.error());
}

void PieceControls::show(const std::vector<design::PieceId>& pieces) {
    m_pieces = pieces;
    refresh();
}

std::vector<const design::Laid*> PieceControls::laid() const {
    std::vector<const design::Laid*> out;
    if (const design::Stack* work = m_bench.work())
        for (const design::Laid& one : work->pieces)
            if (std::find(m_pieces.begin(), m_pieces.end(), one.id()) != m_pieces.end())
                out.push_back(&one);
    return out;
}

void PieceControls::refresh() {
    const std::vector<const design::Laid*> all = laid();
    if (all.empty())
        return;
    const QSignalBlocker a(m_layer), b(m_lift), c(m_side);
    m_words->setText(all.size() == 1 ? capitalised(text(design::pieceName(*m_bench.work(), *all.front())))
                                     : tr("%1 pieces chosen").arg(all.size()));
    m_words->setToolTip(m_words->text());
    m_layer->clear();
    const std::vector<design::Layer> layers = job::layersFromBelow(m_bench.job());
    for (auto layer = layers.rbegin(); layer != layers.rend(); ++layer)
        m_layer->addItem(tr("in %1").arg(m_section->nameOf(layer->id)), numberOf(layer->id));
    const design::Laid& first = *all.front();
    const auto alike = [&](auto of) {
        return std::all_of(all.begin(), all.end(),
                           [&](const design::Laid* one) { return of(*one) == of(first); });
    };
    m_layer->setCurrentIndex(alike([](const design::Laid& one) { return one.layer; })
                                 ? m_layer->findData(numberOf(first.layer))
                                 : -1);
    m_lift->setValue(first.liftMm);
    m_side->setCurrentIndex(alike([](const design::Laid& one) { return one.up; })
                                ? (first.up == design::Side::Back ? 1 : 0)
                                : -1);
    m_through->setVisible(std::all_of(all.begin(), all.end(), [this](const design::Laid* one) {
        const design::Stack& work = *m_bench.work();
        const design::Stock* stock = design::findStock(work.stocks, work.layerOf(*one).stockId);
        return stock && stock->cut == design::Depth::ToCarrier;
    }));
    m_through->setChecked(
        std::all_of(all.begin(), all.end(), [](const design::Laid* one) { return one->isCutThrough; }));
    m_asLayer->setEnabled(std::any_of(all.begin(), all.end(), [&](const design::Laid* one) {
        const design::Wish* wish = m_bench.job().wishes.find(one->id());
        return wish && wish->liftMm;
    }));
    m_each->setEnabled(all.size() > 1);
}

} // namespace thinline::app
