// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/HandPanel.h"

#include "app/stations/Fields.h"
#include "job/HandSteps.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <numbers>

namespace thinline::app {

HandPanel::HandPanel(Workbench& bench, QWidget* parent) : QWidget(parent), m_bench(bench) {
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(6);
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    lines->addLayout(row);
    m_turn = new QDoubleSpinBox;
    m_turn->setRange(-180, 180);
    m_turn->setDecimals(1);
    m_turn->setSuffix(QStringLiteral("°"));
    m_turn->setButtonSymbols(QAbstractSpinBox::NoButtons);
    m_turn->setAlignment(Qt::AlignRight);
    m_turn->setKeyboardTracking(false);
    m_turn->setAccessibleName(tr("Turned by"));
    m_turn->setToolTip(tr("Turned by, clockwise. The wheel turns a piece while it is dragged"));
    m_turn->setFixedWidth(72);
    m_flip = new QPushButton(tr("Flip"));
    m_flip->setToolTip(tr("Cut from the other face"));
    m_send = new QComboBox;
    m_send->setAccessibleName(tr("Send to"));
    row->addWidget(m_turn);
    row->addWidget(m_flip);
    row->addWidget(m_send, 1);
    m_fill = linkButton(
        tr("Fill the rest with it"),
        tr("As many more copies as go onto the sheets that are cut anyway; all is pinned where it lies"));
    lines->addWidget(m_fill, 0, Qt::AlignLeft);
    connect(m_fill, &QPushButton::clicked, this, [this] {
        m_bench.run(tr("Fill the rest of the sheets"),
                    [piece = m_what->piece](const job::State& now, const base::Progress& progress) {
                        return job::withRestFilled(now, piece, progress);
                    });
    });
    connect(m_turn, &QDoubleSpinBox::valueChanged, this, [this](double degrees) {
        take(tr("Turn a piece on its sheet"),
             job::turnedTo(m_bench.state(), *m_what, degrees * std::numbers::pi / 180));
    });
    connect(m_flip, &QPushButton::clicked, this,
            [this] { take(tr("Flip a piece over"), job::flippedOver(m_bench.state(), *m_what)); });
    connect(m_send, &QComboBox::activated, this, [this](int index) {
        if (index > 0)
            take(tr("Send a piece to another sheet"),
                 job::sentTo(m_bench.state(), *m_what, static_cast<size_t>(m_send->itemData(index).toInt())));
    });
}

void HandPanel::take(const QString& name, base::Result<job::Job> job) {
    emit refused(job ? QString() : text(job.error().message));
    if (job)
        m_bench.act(name, job.take());
    else
        show(m_what);
}

void HandPanel::show(const std::optional<design::CopyOf>& what) {
    m_what = what;
    const auto at = what ? job::placeOf(m_bench.state(), *what) : std::nullopt;
    const design::Stack* work = m_bench.work();
    const design::Laid* laid = at && work ? work->find(what->piece) : nullptr;
    setVisible(laid != nullptr);
    if (!laid)
        return;
    const QSignalBlocker quiet(m_turn);
    if (!m_turn->hasFocus())
        m_turn->setValue(at->pose.turnRad * 180 / std::numbers::pi);
    const std::string& stock = work->layerOf(*laid).stockId;
    m_send->clear();
    m_send->addItem(tr("Send to"));
    const auto& loads = m_bench.made().sheets->loads;
    for (size_t l = 0; l < loads.size(); ++l)
        if (l != at->load &&
            std::any_of(loads[l].sheets.begin(), loads[l].sheets.end(),
                        [&](const design::PlacedSheet& sheet) { return sheet.stockId == stock; }))
            m_send->addItem(tr("load %1").arg(l + 1), static_cast<int>(l));
    m_send->addItem(tr("a fresh sheet"), static_cast<int>(loads.size()));
}

} // namespace thinline::app
