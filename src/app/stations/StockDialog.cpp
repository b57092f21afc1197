// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later

// Each change is a step of the job at once, with a name in the history: there is no "apply" that could be forgotten,
// and undo works while the dialog stands. A value that cannot be is refused by the step; the form then shows what is
// true. Choosing a kind fills in what is usual for it, because a person who says "vinyl" has said how deep it is cut.
//
// Enter takes what was typed and closes nothing: dialogs that close on Enter lose the second field one wanted to fill.
#include "app/stations/StockDialog.h"

#include "app/settings/Theme.h"

#include <QCheckBox>
#include <QColorDialog>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPainter>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

namespace thinline::app {
namespace {

QDoubleSpinBox* figure(double most, int decimals, const QString& suffix, const QString& name) {
    auto* out = new QDoubleSpinBox;
    out->setRange(0, most);
    out->setDecimals(decimals);
    out->setSuffix(suffix);
    out->setButtonSymbols(QAbstractSpinBox::NoButtons);
    out->setAlignment(Qt::AlignRight);
    out->setKeyboardTracking(false);
    out->setAccessibleName(name);
    return out;
}

QComboBox* choiceOf(const QStringList& words, const QString& name) {
    auto* out = new QComboBox;
    out->addItems(words);
    out->setAccessibleName(name);
    return out;
}

QColor colourOf(raster::Rgb c) {
    return {c[0], c[1], c[2]};
}

} // namespace

StockDialog::StockDialog(Workbench& bench, QWidget* parent) : QDialog(parent), m_bench(bench) {
    setWindowTitle(tr("What it is cut from"));
    auto* columns = new QHBoxLayout;
    columns->setSpacing(16);
    columns->addWidget(buildList(), 2);
    columns->addWidget(buildForm(), 3);
    m_note = sentenceLabel();
    auto* keep = new QPushButton(tr("Keep these for new jobs"));
    keep->setToolTip(tr("Every new job begins with these stocks; jobs that are there keep their own"));
    auto* done = new QPushButton(tr("Done"));
    done->setObjectName("main");
    auto* last = new QHBoxLayout;
    last->addWidget(keep);
    last->addStretch(1);
    last->addWidget(done);
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(20, 16, 20, 16);
    lines->setSpacing(12);
    lines->addLayout(columns, 1);
    lines->addWidget(m_note);
    lines->addLayout(last);
    resize(720, 520);
    for (QPushButton* button : findChildren<QPushButton*>())
        button->setAutoDefault(false); // Enter takes what was typed and closes nothing
    connectForm();
    connect(done, &QPushButton::clicked, this, &QDialog::accept);
    connect(keep, &QPushButton::clicked, this, [this] {
        const auto kept = m_bench.keepDrawer();
        m_note->setText(kept ? tr("Kept. New jobs begin with these stocks.") : text(kept.error().message));
    });
    connect(&m_bench, &Workbench::changed, this, &StockDialog::refresh);
    refresh();
}

QWidget* StockDialog::buildList() {
    auto* side = new QWidget;
    auto* lines = new QVBoxLayout(side);
    lines->setContentsMargins(0, 0, 0, 0);
    m_list = new QListWidget;
    m_list->setAccessibleName(tr("Stocks"));
    lines->addWidget(m_list, 1);
    auto* row = new QHBoxLayout;
    auto* add = linkButton(tr("Add a stock"), tr("Add a stock"));
    auto* out = linkButton(tr("Take it out"), tr("Take the chosen stock out"));
    row->addWidget(add);
    row->addStretch(1);
    row->addWidget(out);
    lines->addLayout(row);
    connect(m_list, &QListWidget::currentRowChanged, this, [this](int at) {
        if (at >= 0 && at < static_cast<int>(m_bench.job().stocks.size()))
            m_chosen = m_bench.job().stocks[static_cast<size_t>(at)].id;
        showStock();
    });
    connect(add, &QPushButton::clicked, this, &StockDialog::addStock);
    connect(out, &QPushButton::clicked, this, [this] {
        take(tr("Take a stock out"), job::withoutStock(m_bench.job(), m_chosen, job::shippedCatalogue()));
    });
    return side;
}

QWidget* StockDialog::buildForm() {
    auto* side = new QWidget;
    auto* form = new QFormLayout(side);
    form->setContentsMargins(0, 0, 0, 0);
    form->setHorizontalSpacing(12);
    m_name = new QLineEdit;
    m_name->setAccessibleName(tr("Name of the stock"));
    m_kind = choiceOf(
        {tr("card"), tr("vinyl"), tr("acetate"), tr("translucent paper"), tr("board"), tr("laminate of two")},
        tr("Kind"));
    m_colour = new QPushButton;
    m_colour->setAccessibleName(tr("Colour"));
    m_thickness = figure(20, 2, tr(" mm"), tr("Thickness"));
    m_weight = figure(5000, 0, tr(" g/m²"), tr("Weight"));
    m_cut = choiceOf({tr("through"), tr("to the carrier")}, tr("Cut as a rule"));
    m_faces = choiceOf({tr("both may be seen"), tr("the front alone")}, tr("Faces"));
    m_prints = choiceOf({tr("on neither face"), tr("on the front"), tr("on both faces")}, tr("Printed"));
    m_bleed = figure(design::kMostBleedMm, 1, tr(" mm"), tr("Print beyond the cut"));
    m_turns = choiceOf({tr("any way"), tr("by half a turn"), tr("not at all")}, tr("Pieces may be turned"));
    m_byHand = new QCheckBox(tr("Cut by hand; it goes on no mat"));
    m_translucent = new QCheckBox(tr("Light goes through"));
    m_gluedRow = new QWidget;
    auto* glued = new QHBoxLayout(m_gluedRow);
    glued->setContentsMargins(0, 0, 0, 0);
    for (QComboBox*& box : m_glued)
        glued->addWidget(box = choiceOf({}, tr("Glued of")));
    m_sizes = new QLineEdit;
    m_sizes->setAccessibleName(tr("Sheets in the drawer"));
    m_sizes->setPlaceholderText(tr("3 of 210 × 297 mm; 12 × 12 in"));
    m_price = figure(100'000, 2, {}, tr("Price of a sheet"));
    m_price->setSpecialValueText(tr("not known"));
    form->addRow(tr("Name"), m_name);
    form->addRow(tr("Kind"), m_kind);
    form->addRow(tr("Glued of"), m_gluedRow);
    form->addRow(tr("Colour"), m_colour);
    form->addRow(tr("Thickness"), m_thickness);
    form->addRow(tr("Weight"), m_weight);
    form->addRow(tr("Cut as a rule"), m_cut);
    form->addRow(tr("Faces"), m_faces);
    form->addRow(tr("May be turned"), m_turns);
    form->addRow(tr("Can be printed"), m_prints);
    form->addRow(tr("Beyond the cut"), m_bleed);
    form->addRow(tr("Sheets there are"), m_sizes);
    form->addRow(tr("Price of a sheet"), m_price);
    form->addRow(m_byHand);
    form->addRow(m_translucent);
    for (int row = 0; row < form->rowCount(); ++row)
        if (QLayoutItem* label = form->itemAt(row, QFormLayout::LabelRole))
            label->widget()->setFixedHeight(m_name->sizeHint().height()); // level with its field
    m_form = form;
    return side;
}

void StockDialog::connectForm() {
    using design::Stock;
    connect(m_name, &QLineEdit::editingFinished, this,
            [this] { change([name = m_name->text().trimmed().toStdString()](Stock& s) { s.name = name; }); });
    connect(m_kind, &QComboBox::activated, this, [this](int index) {
        const auto kind = static_cast<Stock::Kind>(index);
        change([kind, this](Stock& s) {
            const Stock usual = job::usualStock(kind);
            s.kind = kind;
            s.thicknessMm = usual.thicknessMm;
            s.gramsPerM2 = usual.gramsPerM2;
            s.cut = usual.cut;
            s.faces = usual.faces;
            s.isCutByHand = usual.isCutByHand;
            s.isTranslucent = usual.isTranslucent;
            s.laminateOf.clear();
            for (const Stock& other : m_bench.job().stocks)
                if (kind == Stock::Kind::Laminate && other.id != s.id && other.kind != kind &&
                    s.laminateOf.size() < 2)
                    s.laminateOf.push_back(other.id);
        });
    });
    connect(m_colour, &QPushButton::clicked, this, &StockDialog::chooseColour);
    connect(m_thickness, &QDoubleSpinBox::valueChanged, this,
            [this](double mm) { change([mm](Stock& s) { s.thicknessMm = mm; }); });
    connect(m_weight, &QDoubleSpinBox::valueChanged, this,
            [this](double grams) { change([grams](Stock& s) { s.gramsPerM2 = grams; }); });
    connect(m_price, &QDoubleSpinBox::valueChanged, this,
            [this](double price) { change([price](Stock& s) { s.price = price; }); });
    connect(m_cut, &QComboBox::activated, this,
            [this](int i) { change([i](Stock& s) { s.cut = static_cast<design::Depth>(i); }); });
    connect(m_faces, &QComboBox::activated, this,
            [this](int i) { change([i](Stock& s) { s.faces = static_cast<Stock::Faces>(i); }); });
    connect(m_prints, &QComboBox::activated, this,
            [this](int i) { change([i](Stock& s) { s.prints = static_cast<Stock::Prints>(i); }); });
    connect(m_bleed, &QDoubleSpinBox::valueChanged, this,
            [this](double mm) { change([mm](Stock& s) { s.bleedMm = mm; }); });
    connect(m_turns, &QComboBox::activated, this,
            [this](int i) { change([i](Stock& s) { s.turns = static_cast<Stock::Turns>(i); }); });
    connect(m_byHand, &QCheckBox::clicked, this,
            [this](bool isOn) { change([isOn](Stock& s) { s.isCutByHand = isOn; }); });
    connect(m_translucent, &QCheckBox::clicked, this,
            [this](bool isOn) { change([isOn](Stock& s) { s.isTranslucent = isOn; }); });
    connect(m_sizes, &QLineEdit::editingFinished, this, &StockDialog::readSizes);
    for (size_t i = 0; i < std::size(m_glued); ++i)
        connect(m_glued[i], &QComboBox::activated, this, [this, i] {
            change([i, id = m_glued[i]->currentData().toString().toStdString()](Stock& s) {
                if (id.empty())
                    s.laminateOf.resize(2); // no third one
                else if (i < s.laminateOf.size())
                    s.laminateOf[i] = id;
                else
                    s.laminateOf.push_back(id);
            });
        });
}

const design::Stock* StockDialog::stock() const {
    return design::findStock(m_bench.job().stocks, m_chosen);
}

void StockDialog::take(const QString& name, base::Result<job::Job> job) {
    m_note->setText(job ? QString() : text(job.error().message));
    if (job)
        m_bench.act(name, job.take());
    else
        showStock(); // as it still is
}

void StockDialog::change(const std::function<void(design::Stock&)>& what) {
    if (!stock())
        return;
    design::Stock next = *stock();
    what(next);
    if (!(next == *stock()))
        take(tr("Change a stock"), job::withStock(m_bench.job(), next));
}

void StockDialog::addStock() {
    design::Stock fresh = job::usualStock(design::Stock::Kind::Card);
    const auto& stocks = m_bench.job().stocks;
    const auto isTaken = [&](const std::string& name) {
        return std::any_of(stocks.begin(), stocks.end(),
                           [&](const design::Stock& one) { return one.name == name; });
    };
    fresh.name = tr("new stock").toStdString();
    for (int n = 2; isTaken(fresh.name); ++n)
        fresh.name = tr("new stock %1").arg(n).toStdString();
    auto job = job::withNewStock(m_bench.job(), fresh);
    if (job)
        m_chosen = job->stocks.back().id;
    take(tr("Add a stock"), std::move(job));
    m_name->setFocus();
    m_name->selectAll();
}

void StockDialog::chooseColour() {
    if (!stock())
        return;
    const QColor chosen =
        QColorDialog::getColor(colourOf(stock()->colour), this, tr("Colour of %1").arg(text(stock()->name)),
                               QColorDialog::DontUseNativeDialog);
    if (chosen.isValid())
        change([&](design::Stock& s) {
            s.colour = {static_cast<std::uint8_t>(chosen.red()), static_cast<std::uint8_t>(chosen.green()),
                        static_cast<std::uint8_t>(chosen.blue())};
        });
}

void StockDialog::readSizes() {
    const auto sizes = job::readSizes(m_sizes->text().toStdString(), m_bench.job().unit);
    if (!sizes)
        return m_note->setText(text(sizes.error().message));
    change([&](design::Stock& s) { s.sizes = *sizes; });
}

// ---- showing -------------------------------------------------------------------------------------------------

void StockDialog::refresh() {
    const QSignalBlocker quiet(m_list);
    m_list->clear();
    const auto& stocks = m_bench.job().stocks;
    if (!stock() && !stocks.empty())
        m_chosen = stocks.front().id;
    for (const design::Stock& one : stocks) {
        QPixmap chip(18, 18);
        chip.fill(colourOf(one.colour));
        m_list->addItem(new QListWidgetItem(QIcon(chip), text(one.name)));
        if (one.id == m_chosen)
            m_list->setCurrentRow(m_list->count() - 1);
    }
    showStock();
}

void StockDialog::showStock() {
    const design::Stock* now = stock();
    if (!now)
        return;
    const QSignalBlocker a(m_thickness), b(m_weight), c(m_price), d(m_name), e(m_sizes), f(m_bleed);
    m_name->setText(text(now->name));
    m_kind->setCurrentIndex(static_cast<int>(now->kind));
    QPixmap chip(16, 16);
    chip.fill(Theme::light().soft);
    QPainter(&chip).fillRect(1, 1, 14, 14, colourOf(now->colour));
    m_colour->setIcon(QIcon(chip));
    m_colour->setText(text(job::colourText(now->colour)));
    m_thickness->setValue(now->thicknessMm);
    m_weight->setValue(now->gramsPerM2);
    m_cut->setCurrentIndex(static_cast<int>(now->cut));
    m_faces->setCurrentIndex(static_cast<int>(now->faces));
    m_turns->setCurrentIndex(static_cast<int>(now->turns));
    m_prints->setCurrentIndex(static_cast<int>(design::printsOf(*now)));
    m_bleed->setValue(design::bleedOf(*now));
    m_byHand->setChecked(now->isCutByHand);
    m_translucent->setChecked(now->isTranslucent);
    m_price->setValue(now->price);
    m_sizes->setText(text(job::sizesText(now->sizes, m_bench.job().unit)));
    const bool isGlued = now->laminateOf.size() >= 2;
    m_form->setRowVisible(m_gluedRow, isGlued);
    for (size_t i = 0; i < std::size(m_glued); ++i) {
        m_glued[i]->clear();
        if (i == 2)
            m_glued[i]->addItem(tr("two layers"), QString());
        for (const design::Stock& other : m_bench.job().stocks)
            if (other.id != now->id && other.kind != design::Stock::Kind::Laminate)
                m_glued[i]->addItem(text(other.name), text(other.id));
        const bool isLayer = i < now->laminateOf.size();
        m_glued[i]->setCurrentIndex(m_glued[i]->findData(isLayer ? text(now->laminateOf[i]) : QString()));
    }
}

} // namespace thinline::app
