// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/FoamPanel.h"

#include "base/Length.h"
#include "job/LayerSteps.h"

#include <QCheckBox>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>
#include <map>

namespace thinline::app {

FoamPanel::FoamPanel(Workbench& bench, QWidget* parent) : QWidget(parent), m_bench(bench) {
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(0, 4, 0, 0);
    lines->setSpacing(6);
    m_isAsked = new QCheckBox(tr("Foam under what is lifted"));
    m_isAsked->setAccessibleName(m_isAsked->text());
    m_isAsked->setToolTip(tr("Spots stay 3 mm inside the edge and off ways"));
    lines->addWidget(m_isAsked);
    m_across = new LengthField(tr("Spots are across"));
    m_acrossRow = labelled(tr("Spots are across"), m_across);
    lines->addWidget(m_acrossRow);
    connect(m_isAsked, &QCheckBox::toggled, this,
            [this](bool isOn) { change([isOn](folds::FoamPlan& plan) { plan.isAsked = isOn; }); });
    connect(m_across, &LengthField::entered, this,
            [this](double mm) { change([mm](folds::FoamPlan& plan) { plan.acrossMm = mm; }); });
    connect(m_across, &LengthField::refused, this, &FoamPanel::refused);
}

void FoamPanel::change(const std::function<void(folds::FoamPlan&)>& change) {
    folds::FoamPlan plan = m_bench.job().foam;
    change(plan);
    auto job = job::withFoam(m_bench.job(), plan);
    if (!job)
        emit refused(text(job.error().message));
    else
        m_bench.act(tr("Say whether foam is laid"), job.take());
}

QVector<std::pair<QString, QString>> FoamPanel::answer() const {
    const auto& finished = m_bench.made().finished;
    if (!finished || finished->foam.empty())
        return {};
    std::map<double, int> byHeight;
    for (const design::Laid& laid : finished->stack.pieces)
        for (const design::Zone& zone : laid.piece.body->zones)
            if (zone.kind == design::Zone::Kind::Foam)
                ++byHeight[zone.heightMm];
    QStringList said;
    for (const auto& [height, count] : byHeight)
        said << tr("%1 of %2").arg(count).arg(text(base::formatLength(height, m_bench.job().unit)));
    return {{tr("Foam"), said.isEmpty() ? tr("no room for any") : said.join(QStringLiteral(", "))}};
}

void FoamPanel::refresh() {
    const design::Stack* work = m_bench.work();
    const folds::FoamPlan& plan = m_bench.job().foam;
    setVisible(work && (plan.isAsked ||
                        std::any_of(work->pieces.begin(), work->pieces.end(), [](const design::Laid& laid) {
                            return laid.liftMm >= folds::kLeastFoamMm;
                        })));
    const QSignalBlocker quiet(m_isAsked);
    m_isAsked->setChecked(plan.isAsked);
    m_acrossRow->setVisible(plan.isAsked);
    m_across->showLength(plan.acrossMm, m_bench.job().unit);
}

} // namespace thinline::app
