// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sideview/SideView.h"

#include "job/LayerSteps.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QSignalBlocker>
#include <QToolButton>
#include <QVBoxLayout>

namespace thinline::app {
namespace {

QToolButton* linkOf(const QString& words, const QString& tip) {
    auto* button = new QToolButton;
    button->setObjectName("link");
    button->setText(words);
    button->setToolTip(tip);
    return button;
}

} // namespace

SideView::SideView(Workbench& bench, QWidget* parent) : QWidget(parent), m_bench(bench) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(18, 8, 16, 6);
    column->setSpacing(6);
    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("Side view"));
    title->setObjectName("soft");
    m_scale = new QLabel;
    m_scale->setObjectName("soft");
    head->addWidget(title, 1);
    head->addWidget(m_scale);
    column->addLayout(head);
    auto* line = new QHBoxLayout;
    line->setSpacing(12);
    m_section = new CrossSection(bench);
    line->addWidget(m_section, 1);
    m_controls = buildControls();
    line->addWidget(m_controls);
    column->addLayout(line, 1);
    connectControls();
}

QWidget* SideView::buildControls() {
    auto* out = new QWidget;
    auto* controls = new QVBoxLayout(out);
    controls->setContentsMargins(0, 0, 0, 0);
    controls->setSpacing(4);
    m_name = new QLabel;
    m_name->setObjectName("heading");
    m_stock = new QComboBox;
    m_stock->setAccessibleName(tr("Stock of the layer"));
    m_lift = new QDoubleSpinBox;
    m_lift->setRange(0, 50);
    m_lift->setButtonSymbols(QAbstractSpinBox::NoButtons);
    m_lift->setDecimals(1);
    m_lift->setSingleStep(0.5);
    m_lift->setPrefix(tr("lift "));
    m_lift->setSuffix(tr(" mm"));
    m_lift->setKeyboardTracking(false);
    m_lift->setAccessibleName(tr("Lift below the layer"));
    m_lift->setToolTip(tr("Foam or glue height below this layer"));
    m_up = linkOf(tr("Raise"), tr("Move the layer up in the stack (Alt+Up)"));
    m_down = linkOf(tr("Lower"), tr("Move the layer down in the stack (Alt+Down)"));
    m_hide = linkOf(tr("Hide"), tr("Leave the layer out of bench and sheets (H)"));
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(2);
    buttons->addWidget(m_up);
    buttons->addWidget(m_down);
    buttons->addWidget(m_hide);
    controls->addWidget(m_name);
    controls->addWidget(m_stock);
    controls->addWidget(m_lift);
    controls->addLayout(buttons);
    controls->addStretch(1);
    out->setFixedWidth(164);
    return out;
}

void SideView::connectControls() {
    connect(m_section, &CrossSection::layerChosen, this, [this] { refresh(); });
    connect(m_section, &CrossSection::wantsMove, this, &SideView::move);
    connect(m_section, &CrossSection::wantsHide, m_hide, &QToolButton::click);
    connect(m_up, &QToolButton::clicked, this, [this] { move(1); });
    connect(m_down, &QToolButton::clicked, this, [this] { move(-1); });
    connect(m_hide, &QToolButton::clicked, this, [this] {
        act(tr("Hide or show a layer"),
            [isHidden = layer() && layer()->isHidden](const job::Job& job, design::LayerId id) {
                return job::withLayerHidden(job, id, !isHidden);
            });
    });
    connect(m_stock, &QComboBox::activated, this, [this] {
        act(tr("Change a layer's stock"),
            [stock = m_stock->currentData().toString().toStdString()](
                const job::Job& job, design::LayerId id) { return job::withLayerStock(job, id, stock); });
    });
    connect(m_lift, &QDoubleSpinBox::valueChanged, this, [this](double mm) {
        act(tr("Change a lift"),
            [mm](const job::Job& job, design::LayerId id) { return job::withLayerLift(job, id, mm); });
    });
}

const design::Layer* SideView::layer() const {
    return design::findLayer(m_bench.job().layers, m_section->chosen());
}

void SideView::act(const QString& name,
                   const std::function<job::Job(const job::Job&, design::LayerId)>& step) {
    if (layer())
        m_bench.act(name, step(m_bench.job(), m_section->chosen()));
}

void SideView::move(int by) {
    const design::LayerId to = m_section->beside(m_section->chosen(), by);
    if (to != m_section->chosen())
        act(tr("Move a layer"),
            [to](const job::Job& job, design::LayerId id) { return job::withLayerMoved(job, id, to); });
}

void SideView::showStocks() {
    if (m_shownStocks == m_bench.job().stocks)
        return;
    m_shownStocks = m_bench.job().stocks;
    m_stock->clear();
    for (const design::Stock& stock : m_shownStocks) {
        QPixmap chip(14, 14);
        chip.fill(QColor(stock.colour[0], stock.colour[1], stock.colour[2]));
        m_stock->addItem(QIcon(chip), QString::fromStdString(stock.name), QString::fromStdString(stock.id));
    }
}

void SideView::refresh() {
    m_section->refresh();
    const design::Layer* now = m_bench.work() ? layer() : nullptr;
    m_controls->setVisible(now != nullptr);
    m_scale->setText(m_section->scaleText());
    if (!now)
        return;
    const QSignalBlocker a(m_stock), b(m_lift);
    m_name->setText(QString::fromStdString(design::layerName(*m_bench.work(), *now)));
    showStocks();
    m_stock->setCurrentIndex(m_stock->findData(QString::fromStdString(now->stockId)));
    m_lift->setValue(now->liftMm);
    m_up->setEnabled(m_section->beside(now->id, 1) != now->id);
    m_down->setEnabled(m_section->beside(now->id, -1) != now->id);
    m_hide->setText(now->isHidden ? tr("Show") : tr("Hide"));
}

} // namespace thinline::app
