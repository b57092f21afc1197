// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sideview/LayerControls.h"

#include "app/stations/Fields.h"
#include "job/LayerSteps.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

namespace thinline::app {
namespace {

QPushButton* linkOf(const QString& words, const QString& tip) {
    QPushButton* button = linkButton(words, tip);
    button->setToolTip(tip);
    return button;
}

QHBoxLayout* lineOf(std::initializer_list<QWidget*> widgets, bool areLinks = false) {
    auto* line = new QHBoxLayout;
    line->setSpacing(4);
    for (QWidget* widget : widgets)
        line->addWidget(widget);
    if (areLinks) // they are as wide as their words
        line->addStretch(1);
    return line;
}

} // namespace

void addStock(QComboBox* box, const design::Stock& stock) {
    QPixmap chip(14, 14);
    chip.fill(QColor(stock.colour[0], stock.colour[1], stock.colour[2]));
    box->addItem(QIcon(chip), text(stock.name), text(stock.id));
}

QDoubleSpinBox* liftField(const QString& accessibleName) {
    auto* out = new QDoubleSpinBox;
    out->setRange(0, design::kMostLiftMm);
    out->setButtonSymbols(QAbstractSpinBox::NoButtons);
    out->setDecimals(1);
    out->setSingleStep(0.5);
    out->setPrefix(QObject::tr("lift "));
    out->setSuffix(QObject::tr(" mm"));
    out->setKeyboardTracking(false);
    out->setAccessibleName(accessibleName);
    out->setToolTip(QObject::tr("Foam or glue height below"));
    return out;
}

LayerControls::LayerControls(Workbench& bench, CrossSection* section, QWidget* parent)
    : QWidget(parent), m_bench(bench), m_section(section), m_name(new QLineEdit), m_stock(new QComboBox),
      m_lift(liftField(tr("Lift below the layer"))), m_place(new QComboBox),
      m_up(linkOf(tr("Raise"), tr("Move the layer up in the stack (Alt+Up)"))),
      m_down(linkOf(tr("Lower"), tr("Move the layer down in the stack (Alt+Down)"))),
      m_hide(linkOf(tr("Hide"), tr("Leave the layer out of bench and sheets (H)"))),
      m_add(linkOf(tr("New layer"), tr("Add a layer of this stock on top"))),
      m_out(linkOf(tr("Take out"), tr("Take out this layer, in which nothing lies"))) {
    m_name->setAccessibleName(tr("Name of the layer"));
    m_name->setToolTip(tr("Without a name a layer is called by its stock"));
    m_stock->setAccessibleName(tr("Stock of the layer"));
    m_place->setAccessibleName(tr("Place of the layer"));
    m_place->addItems({tr("in front"), tr("behind"), tr("on back")});
    m_place->setToolTip(tr("In front of the base, behind it, or on its rear side"));
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(3);
    lines->addWidget(m_name);
    lines->addWidget(m_stock);
    lines->addLayout(lineOf({m_lift, m_place}));
    lines->addLayout(lineOf({m_up, m_down, m_hide}, true));
    lines->addLayout(lineOf({m_add, m_out}, true));
    lines->addStretch(1);
    connectControls();
}

void LayerControls::connectControls() {
    connect(m_section, &CrossSection::wantsMove, this, &LayerControls::move);
    connect(m_section, &CrossSection::wantsHide, m_hide, &QPushButton::click);
    connect(m_up, &QPushButton::clicked, this, [this] { move(1); });
    connect(m_down, &QPushButton::clicked, this, [this] { move(-1); });
    connect(m_name, &QLineEdit::editingFinished, this, [this] {
        if (m_name->isModified())
            tryTo(tr("Name a layer"),
                  [this, name = m_name->text().trimmed().toStdString()](design::LayerId id) {
                      return job::withLayerNamed(m_bench.job(), id, name);
                  });
        m_name->setModified(false);
    });
    connect(m_hide, &QPushButton::clicked, this, [this] {
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
    connect(m_place, &QComboBox::activated, this, [this](int index) {
        act(tr("Change a layer's place"),
            [at = static_cast<design::Layer::At>(index)](const job::Job& job, design::LayerId id) {
                return job::withLayerPlace(job, id, at);
            });
    });
    connect(m_add, &QPushButton::clicked, this, [this] {
        tryTo(tr("Add a layer"),
              [this](design::LayerId) { return job::withNewLayer(m_bench.job(), layer()->stockId); });
        m_section->choose(m_bench.job().layers.back().id);
    });
    connect(m_out, &QPushButton::clicked, this, [this] {
        tryTo(tr("Take a layer out"),
              [this](design::LayerId id) { return job::withoutLayer(m_bench.state(), id); });
    });
}

const design::Layer* LayerControls::layer() const {
    return design::findLayer(m_bench.job().layers, m_section->chosen());
}

void LayerControls::act(const QString& name,
                        const std::function<job::Job(const job::Job&, design::LayerId)>& step) {
    if (layer())
        m_bench.act(name, step(m_bench.job(), m_section->chosen()));
}

void LayerControls::tryTo(const QString& name,
                          const std::function<base::Result<job::Job>(design::LayerId)>& step) {
    if (!layer())
        return;
    auto job = step(m_section->chosen());
    if (!job)
        return m_bench.tell(job.error());
    m_bench.act(name, job.take());
}

void LayerControls::move(int by) {
    const design::LayerId to = m_section->besideOnItsSide(m_section->chosen(), by);
    if (to != m_section->chosen())
        act(tr("Move a layer"),
            [to](const job::Job& job, design::LayerId id) { return job::withLayerMoved(job, id, to); });
}

void LayerControls::showStocks() {
    if (m_shownStocks == m_bench.job().stocks)
        return;
    m_shownStocks = m_bench.job().stocks;
    m_stock->clear();
    for (const design::Stock& stock : m_shownStocks)
        addStock(m_stock, stock);
}

void LayerControls::refresh() {
    const design::Layer* now = layer();
    if (!now)
        return;
    const QSignalBlocker a(m_stock), b(m_lift), c(m_place);
    m_name->setPlaceholderText(m_section->nameOf(now->id));
    if (!m_name->hasFocus() || !m_name->isModified())
        m_name->setText(text(now->name));
    showStocks();
    m_stock->setCurrentIndex(m_stock->findData(text(now->stockId)));
    m_lift->setValue(now->liftMm);
    m_place->setCurrentIndex(static_cast<int>(now->at));
    m_up->setEnabled(m_section->besideOnItsSide(now->id, 1) != now->id);
    m_down->setEnabled(m_section->besideOnItsSide(now->id, -1) != now->id);
    m_hide->setText(now->isHidden ? tr("Show") : tr("Hide"));
    m_out->setEnabled(m_section->isBare(now->id) && m_bench.job().layers.size() > 1);
}

} // namespace thinline::app
