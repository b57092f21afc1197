// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/trace/TonesWay.h"

#include "design/Stack.h"

#include <QLabel>
#include <QSignalBlocker>
#include <QSlider>
#include <QVBoxLayout>

#include <algorithm>

namespace thinline::app {

TonesWay::TonesWay(QObject* parent) : TraceWay(parent) {
    constexpr int kFewest = 2, kMost = 8;
    m_tones = addSlider(plainLines(), tr("Tones"), kFewest, kMost, tr("Change the number of tones"),
                        [](trace::Recipe& recipe, int tones) { recipe.tones = tones; });
    connect(m_tones.slider, &QSlider::valueChanged, this,
            [this](int tones) { m_tones.value->setText(QString::number(tones)); });
    m_neck =
        addLength(plainLines(), tr("Narrowest part"), tr("No part of a layer, and no gap in it, is narrower"),
                  tr("Change the narrowest part"), &trace::Recipe::neckMm, false);
    m_bridges =
        addLength(plainLines(), tr("Bridges up to"),
                  tr("Loose parts this near to the rest of their layer are joined to it. 0 for none."),
                  tr("Bridge loose parts"), &trace::Recipe::bridgesMm, true);
}

void TonesWay::show(const job::Job&, const job::Source& source, base::LengthUnit unit) {
    const auto& picture = std::get<job::Picture>(source.what);
    m_neck->showLength(picture.recipe.neckMm, unit);
    m_bridges->showLength(picture.recipe.bridgesMm, unit);
    const QSignalBlocker quiet(m_tones.slider);
    if (isSettling())
        return;
    m_tones.slider->setValue(picture.recipe.tones);
    m_tones.value->setText(QString::number(picture.recipe.tones));
}

void TonesWay::answer(const job::Picture&, const design::StackMeasures& m, Rows& rows) const {
    // Each layer's parts beyond its first lie loose on the one below.
    rows.append({tr("Loose parts"), QString::number(std::max(0, m.pieces - m.layers))});
}

} // namespace thinline::app
