// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Marks are asked for by layer, since that is how people glue: one layer after the other, each onto what is there already.
// The lowest layer has nothing below it to be marked. How marks are made is said once for the job; the rows for it are shown
// when somebody wants marks at all.
#include "app/stations/MarksPanel.h"

#include "job/LayerSteps.h"

#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QSignalBlocker>
#include <QVBoxLayout>

namespace thinline::app {

MarksPanel::MarksPanel(Workbench& bench, QWidget* parent) : QWidget(parent), m_bench(bench) {
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(0, 4, 0, 0);
    lines->setSpacing(6);
    auto* heading = new QLabel(tr("Marks show where these go"));
    heading->setObjectName("heading");
    lines->addWidget(heading);
    m_layers = new QGridLayout;
    m_layers->setContentsMargins(0, 0, 0, 0);
    m_layers->setVerticalSpacing(2);
    lines->addLayout(m_layers);
    m_how = new QWidget;
    auto* rows = new QVBoxLayout(m_how);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(6);
    m_as = new QComboBox;
    m_as->setAccessibleName(tr("Marks are"));
    m_as->addItems({tr("outlines"), tr("corners"), tr("short stretches")});
    rows->addWidget(labelled(tr("Marks are"), m_as, 144));
    m_by = new WordChoice({tr("scored"), tr("drawn")});
    rows->addWidget(labelled(tr("They are"), m_by, 144));
    m_inset = new LengthField(tr("Inside the edge by"));
    m_inset->allowZero();
    m_inset->setToolTip(tr("What lifts a piece is added: one looks in under its edge"));
    rows->addWidget(labelled(tr("Inside the edge by"), m_inset));
    lines->addWidget(m_how);
    connect(m_as, &QComboBox::currentIndexChanged, this, [this](int index) {
        change([index](folds::MarkPlan& plan) { plan.as = static_cast<folds::MarksAs>(index); });
    });
    connect(m_by, &WordChoice::chosen, this,
            [this](int index) { change([index](folds::MarkPlan& plan) { plan.areScored = index == 0; }); });
    connect(m_inset, &LengthField::entered, this,
            [this](double mm) { change([mm](folds::MarkPlan& plan) { plan.insetMm = mm; }); });
    connect(m_inset, &LengthField::refused, this, &MarksPanel::refused);
}

void MarksPanel::change(const std::function<void(folds::MarkPlan&)>& change) {
    folds::MarkPlan plan = m_bench.job().marks;
    change(plan);
    auto job = job::withMarks(m_bench.job(), plan);
    if (!job)
        emit refused(text(job.error().message));
    else
        m_bench.act(tr("Say how marks are made"), job.take());
}

/// The layers above the lowest one, those behind the base among them, by the names they are called by.
void MarksPanel::showLayers() {
    std::vector<std::pair<design::LayerId, std::string>> now;
    if (const design::Stack* work = m_bench.work()) {
        for (size_t i = 1; i < work->layers.size(); ++i)
            now.emplace_back(work->layers[i].id, design::layerName(*work, work->layers[i]));
    }
    if (now == m_shown)
        return;
    m_shown = now;
    m_boxes.clear();
    emptyLayout(m_layers);
    for (size_t i = 0; i < now.size(); ++i) {
        auto* box = new QCheckBox(text(now[i].second));
        box->setAccessibleName(tr("Marks for %1").arg(text(now[i].second)));
        connect(box, &QCheckBox::toggled, this, [this, layer = now[i].first](bool isOn) {
            m_bench.act(isOn ? tr("Mark where a layer's pieces go") : tr("Take a layer's marks off"),
                        job::withLayerMarked(m_bench.job(), layer, isOn));
        });
        m_layers->addWidget(box, static_cast<int>(i / 2), static_cast<int>(i % 2));
        m_boxes.push_back(box);
    }
}

void MarksPanel::refresh() {
    showLayers();
    setVisible(!m_shown.empty());
    bool isAny = false;
    for (size_t i = 0; i < m_boxes.size(); ++i) {
        const design::Layer* layer = design::findLayer(m_bench.job().layers, m_shown[i].first);
        const QSignalBlocker quiet(m_boxes[i]);
        m_boxes[i]->setChecked(layer && layer->isMarked);
        isAny = isAny || (layer && layer->isMarked);
    }
    m_how->setVisible(isAny);
    const folds::MarkPlan& plan = m_bench.job().marks;
    const QSignalBlocker quiet(m_as);
    m_as->setCurrentIndex(static_cast<int>(plan.as));
    m_by->choose(plan.areScored ? 0 : 1);
    m_inset->showLength(plan.insetMm, m_bench.job().unit);
}

} // namespace thinline::app
