// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/CardDialog.h"

#include "app/settings/Theme.h"
#include "app/stations/Fields.h"
#include "base/Length.h"
#include "job/SheetSteps.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <set>

namespace thinline::app {
namespace {

QIcon chipOf(raster::Rgb colour) {
    QPixmap chip(16, 16);
    chip.fill(QColor(colour[0], colour[1], colour[2]));
    return QIcon(chip);
}

} // namespace

CardDialog::CardDialog(Workbench& bench, QWidget* parent) : QDialog(parent), m_bench(bench) {
    setWindowTitle(tr("Card that is there"));
    auto* inside = new QWidget;
    auto* parts = new QVBoxLayout(inside);
    parts->setContentsMargins(0, 0, 0, 0);
    parts->setSpacing(8);
    parts->addWidget(buildSheets());
    parts->addSpacing(8);
    parts->addWidget(buildScraps());
    parts->addSpacing(8);
    parts->addWidget(buildMat());
    parts->addStretch(1);
    auto* area = new QScrollArea;
    area->setWidgetResizable(true);
    area->setFrameShape(QFrame::NoFrame);
    area->setWidget(inside);
    m_note = sentenceLabel();
    m_note->setObjectName("warning");
    auto* done = new QPushButton(tr("Done"));
    done->setObjectName("main");
    auto* last = new QHBoxLayout;
    last->addWidget(m_note, 1);
    last->addWidget(done);
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(20, 16, 20, 16);
    lines->setSpacing(12);
    lines->addWidget(area, 1);
    lines->addLayout(last);
    resize(560, 640);
    connect(done, &QPushButton::clicked, this, &QDialog::accept);
    connect(&m_bench, &Workbench::changed, this, &CardDialog::refresh);
    if (auto drawer = m_bench.drawer())
        m_drawer = drawer.take();
    else
        m_note->setText(text(drawer.error().message));
    refresh();
    for (QPushButton* button : findChildren<QPushButton*>())
        button->setAutoDefault(false); // Enter takes what was typed and closes nothing
}

QWidget* CardDialog::buildSheets() {
    auto* part = new QWidget;
    auto* lines = new QVBoxLayout(part);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->addWidget(headingLabel(tr("Sheets of each stock")));
    m_sheets = new QGridLayout;
    m_sheets->setColumnStretch(0, 1);
    lines->addLayout(m_sheets);
    m_from = new QComboBox;
    m_from->setAccessibleName(tr("The corner of the mat at which sheets begin"));
    m_from->addItems({tr("from the upper left"), tr("from the upper right"), tr("from the lower left"),
                      tr("from the lower right")});
    m_way = new QComboBox;
    m_way->setAccessibleName(tr("Which way sheets lie"));
    m_way->addItems({tr("as most fit on the mat"), tr("portrait"), tr("landscape")});
    auto* row = new QHBoxLayout;
    row->addWidget(new QLabel(tr("They lie")));
    row->addWidget(m_way);
    row->addWidget(m_from);
    row->addStretch(1);
    lines->addLayout(row);
    for (QComboBox* choice : {m_from, m_way})
        connect(choice, &QComboBox::activated, this, [this] {
            job::SheetPlan plan = m_bench.job().plan;
            plan.lies = {static_cast<design::SheetLie::From>(m_from->currentIndex()),
                         static_cast<design::SheetLie::Way>(m_way->currentIndex())};
            take(tr("Lay sheets another way"), job::withPlan(m_bench.job(), plan));
        });
    return part;
}

QWidget* CardDialog::buildScraps() {
    auto* part = new QWidget;
    auto* lines = new QVBoxLayout(part);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->addWidget(headingLabel(tr("Scraps, used before sheets are")));
    m_scraps = new QVBoxLayout;
    m_scraps->setSpacing(2);
    lines->addLayout(m_scraps);
    m_stock = new QComboBox;
    m_stock->setAccessibleName(tr("Stock of the scrap"));
    m_size = new QLineEdit;
    m_size->setAccessibleName(tr("Size of the scrap"));
    m_size->setPlaceholderText(tr("80 × 120 mm"));
    auto* add = new QPushButton(tr("Add it"));
    auto* row = new QHBoxLayout;
    row->addWidget(m_stock, 2);
    row->addWidget(m_size, 2);
    row->addWidget(add);
    lines->addLayout(row);
    auto* drawn =
        linkButton(tr("From a drawing of its outline"), tr("An SVG, DXF or PDF with one closed outline"));
    auto* photo =
        linkButton(tr("From a photo of the loaded mat"),
                   tr("Scraps are found by colour and edge, and pieces laid on them where they lie"));
    auto* links = new QHBoxLayout;
    links->addWidget(drawn);
    links->addSpacing(16);
    links->addWidget(photo);
    links->addStretch(1);
    lines->addLayout(links);
    m_inDrawer = new QLabel(tr("In the drawer"));
    m_inDrawer->setObjectName("soft");
    m_drawerScraps = new QVBoxLayout;
    m_drawerScraps->setSpacing(2);
    lines->addWidget(m_inDrawer);
    lines->addLayout(m_drawerScraps);
    connect(add, &QPushButton::clicked, this, &CardDialog::addTyped);
    connect(m_size, &QLineEdit::returnPressed, this, &CardDialog::addTyped);
    connect(drawn, &QPushButton::clicked, this, &CardDialog::addDrawn);
    connect(photo, &QPushButton::clicked, this, &CardDialog::addPhoto);
    return part;
}

QWidget* CardDialog::buildMat() {
    auto* part = new QWidget;
    auto* lines = new QVBoxLayout(part);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->addWidget(headingLabel(tr("What stays free")));
    m_taped = new QCheckBox(tr("The corners of sheets are taped"));
    m_taped->setToolTip(tr("Nothing is cut in the corners of whole sheets"));
    lines->addWidget(m_taped);
    m_kept = new QVBoxLayout;
    m_kept->setSpacing(2);
    lines->addLayout(m_kept);
    auto* draw = linkButton(tr("Draw a worn spot on the mat"), tr("Nothing is cut there, on any load"));
    auto* keep =
        linkButton(tr("Keep for new jobs"), tr("New jobs begin with these spots and with this job's stocks"));
    auto* links = new QHBoxLayout;
    links->addWidget(draw);
    links->addSpacing(16);
    links->addWidget(keep);
    links->addStretch(1);
    lines->addLayout(links);
    connect(keep, &QPushButton::clicked, this, [this] {
        const auto kept = m_bench.keepDrawer();
        m_note->setText(kept ? tr("Kept. New jobs begin with these spots and stocks.")
                             : text(kept.error().message));
    });
    connect(m_taped, &QCheckBox::clicked, this, [this](bool isOn) {
        job::SheetPlan plan = m_bench.job().plan;
        plan.areCornersTaped = isOn;
        take(tr("Tape the corners"), job::withPlan(m_bench.job(), plan));
    });
    connect(draw, &QPushButton::clicked, this, [this] {
        emit wantsKeepOut();
        accept();
    });
    return part;
}

void CardDialog::take(const QString& name, base::Result<job::Job> job) {
    m_note->setText(job ? QString() : text(job.error().message));
    if (job)
        m_bench.act(name, job.take());
    else
        refresh();
}

std::string CardDialog::scrapStock() const {
    return m_stock->currentData().toString().toStdString();
}

void CardDialog::addTyped() {
    const auto size = base::parseSize(m_size->text().trimmed().toStdString(), m_bench.job().unit);
    if (!size)
        return m_note->setText(text(size.error().message));
    design::Scrap scrap;
    scrap.stockId = scrapStock();
    scrap.rings = job::scrapRectangle(size->width.inMm(), size->height.inMm());
    auto job = job::withScrap(m_bench.job(), std::move(scrap));
    if (job)
        m_size->clear();
    take(tr("Add a scrap"), std::move(job));
}

void CardDialog::addDrawn() {
    const QString path = QFileDialog::getOpenFileName(this, tr("A drawing of the scrap's outline"), {},
                                                      tr("Drawings (*.svg *.dxf *.pdf)"), nullptr,
                                                      QFileDialog::DontUseNativeDialog);
    if (path.isEmpty())
        return;
    const auto bytes = m_bench.files().read(path.toStdString(), base::kMostFileBytes);
    if (!bytes)
        return m_note->setText(text(bytes.error().message));
    const std::string name = QFileInfo(path).fileName().toStdString();
    const job::Incoming file{*bytes, name, job::recognise(*bytes, &m_bench.pages())};
    auto rings = job::scrapOutline(file, m_bench.fonts());
    if (!rings)
        return m_note->setText(text(rings.error().message));
    design::Scrap scrap;
    scrap.stockId = scrapStock();
    scrap.name = name;
    scrap.rings = rings.take();
    take(tr("Add a scrap"), job::withScrap(m_bench.job(), std::move(scrap)));
}

void CardDialog::addPhoto() {
    const QString path = QFileDialog::getOpenFileName(this, tr("A photo of the loaded mat"), {},
                                                      tr("Pictures (*.png *.jpg *.jpeg *.heic *.webp)"),
                                                      nullptr, QFileDialog::DontUseNativeDialog);
    if (path.isEmpty())
        return;
    emit wantsPhoto(path);
    accept();
}

// ---- showing -------------------------------------------------------------------------------------------------

void CardDialog::refresh() {
    const job::Job& job = m_bench.job();
    showSheets();
    const QSignalBlocker quiet(m_stock);
    const QVariant stock = m_stock->currentData();
    m_stock->clear();
    for (const std::string& id : m_shown)
        m_stock->addItem(chipOf(design::colourOf(job.stocks, id)), text(design::stockName(job.stocks, id)),
                         text(id));
    m_stock->setCurrentIndex(std::max(0, m_stock->findData(stock)));
    m_taped->setChecked(job.plan.areCornersTaped);
    m_from->setCurrentIndex(static_cast<int>(job.plan.lies.from));
    m_way->setCurrentIndex(static_cast<int>(job.plan.lies.way));
    showScraps();
    showDrawer();
    std::vector<Line> kept;
    for (const geometry::Box& box : job::keepOutsOf(job.plan))
        kept.push_back({text(base::formatSize(box.width(), box.height(), job.unit) + ", " +
                             base::formatLength(box.least.x, job.unit) + " from the left, " +
                             base::formatLength(box.least.y, job.unit) + " from the top"),
                        {{tr("take out"), [this, at = kept.size()] {
                              take(tr("Use a worn spot again"), job::withoutKeepOut(m_bench.job(), at));
                          }}}});
    showList(m_kept, kept);
}

void CardDialog::showScraps() {
    const job::Job& job = m_bench.job();
    std::vector<Line> scraps;
    for (const design::Scrap& scrap : job.plan.scraps) {
        Line line{text(job::scrapWords(scrap, job.stocks, job.unit)), {}};
        if (scrap.drawerId == 0 && !scrap.at)
            line.deeds.push_back({tr("keep in the drawer"), [this, scrap] { keepInDrawer(scrap); }});
        line.deeds.push_back({tr("take out"), [this, id = scrap.id] {
                                  take(tr("Take a scrap out"), job::withoutScrap(m_bench.job(), id));
                              }});
        scraps.push_back(std::move(line));
    }
    showList(m_scraps, scraps);
}

/// Scraps of the drawer that this job does not use; only of stocks it has.
void CardDialog::showDrawer() {
    const job::Job& job = m_bench.job();
    std::vector<Line> lines;
    for (const design::Scrap& scrap : m_drawer.scraps) {
        const bool isUsed = std::any_of(job.plan.scraps.begin(), job.plan.scraps.end(),
                                        [&](const design::Scrap& one) { return one.drawerId == scrap.drawerId; });
        if (isUsed || !design::findStock(job.stocks, scrap.stockId))
            continue;
        lines.push_back({text(job::scrapWords(scrap, job.stocks, job.unit)),
                         {{tr("use it"),
                           [this, id = scrap.drawerId] {
                               take(tr("Use a scrap of the drawer"), job::withScrapFromDrawer(m_bench.job(), m_drawer, id));
                           }},
                          {tr("throw away"), [this, id = scrap.drawerId] {
                               changeDrawer([id](const design::Drawer& now) { return job::withoutScrapKept(now, id); },
                                            tr("It is not in the drawer any more."));
                           }}}});
    }
    m_inDrawer->setVisible(!lines.empty());
    showList(m_drawerScraps, lines);
}

/// The scrap is the drawer's from now on: it leaves the drawer when a load on it was cut.
void CardDialog::keepInDrawer(const design::Scrap& scrap) {
    if (!changeDrawer([&](const design::Drawer& now) { return job::withScrapKept(now, scrap); },
                      tr("Kept in the drawer, for other jobs too, until a load on it was cut.")))
        return;
    m_bench.act(tr("Keep a scrap in the drawer"),
                job::withScrapOfDrawer(m_bench.job(), scrap.id, m_drawer.scraps.back().drawerId));
}

/// Another window may have changed the drawer meanwhile: it is read anew before.
bool CardDialog::changeDrawer(
    const std::function<base::Result<design::Drawer>(const design::Drawer&)>& change, const QString& told) {
    const auto now = m_bench.drawer();
    auto changed = now ? change(*now) : base::Result<design::Drawer>(now.error());
    const auto put = changed ? m_bench.putDrawer(*changed) : base::Status(changed.error());
    m_note->setText(put ? told : text(put.error().message));
    if (!put)
        return false;
    m_drawer = changed.take();
    showDrawer();
    return true;
}

/// A row for every stock that something is cut from.
void CardDialog::showSheets() {
    const job::Job& job = m_bench.job();
    std::vector<std::string> ids;
    const design::Stack* work = m_bench.work();
    for (size_t i = 0; work && i < work->pieces.size(); ++i)
        if (const std::string& id = work->layerOf(work->pieces[i]).stockId;
            std::find(ids.begin(), ids.end(), id) == ids.end())
            ids.push_back(id);
    if (ids != m_shown) {
        while (QLayoutItem* item = m_sheets->takeAt(0)) {
            item->widget()->deleteLater();
            delete item;
        }
        m_choices.clear();
        m_tapedStocks.clear();
        m_shown = ids;
        for (size_t i = 0; i < ids.size(); ++i) {
            auto* choice = new QComboBox;
            choice->setAccessibleName(tr("Sheets of %1").arg(text(design::stockName(job.stocks, ids[i]))));
            choice->addItem(tr("as chosen for all"), QString());
            for (const design::SheetFormat& format : m_bench.catalogue().formats.sheets)
                choice->addItem(text(format.name), text(format.id));
            for (const design::Stock::Size& size : design::findStock(job.stocks, ids[i])->sizes)
                choice->addItem(text(base::formatSize(size.widthMm, size.heightMm, job.unit)),
                                QSizeF(size.widthMm, size.heightMm));
            connect(choice, &QComboBox::activated, this, [this, choice, id = ids[i]] {
                std::optional<design::SheetFormat> sheet;
                const QVariant said = choice->currentData();
                if (said.typeId() == QMetaType::QSizeF) {
                    sheet = m_bench.job().plan.ownSheet;
                    sheet->name = choice->currentText().toStdString();
                    sheet->widthMm = said.toSizeF().width();
                    sheet->heightMm = said.toSizeF().height();
                } else if (const auto* format =
                               m_bench.catalogue().formats.sheet(said.toString().toStdString())) {
                    sheet = *format;
                }
                take(tr("Choose the sheets of a stock"), job::withSheetOf(m_bench.state(), id, sheet));
            });
            auto* name = new QLabel(text(design::stockName(job.stocks, ids[i])));
            m_sheets->addWidget(name, static_cast<int>(i), 0);
            auto* taped = new QCheckBox(tr("two taped together"));
            taped->setAccessibleName(tr("Two sheets of %1 are taped together").arg(name->text()));
            taped->setToolTip(tr("For pieces larger than a sheet: two are taped edge to edge on their backs, lie on the mat with "
                                 "the tape up and are cut across the join. Pieces lie mirrored on them."));
            connect(taped, &QCheckBox::clicked, this, [this, id = ids[i]](bool isOn) {
                take(isOn ? tr("Tape two sheets together") : tr("Lay sheets one by one"),
                     job::withSheetsTaped(m_bench.state(), id, isOn));
            });
            m_sheets->addWidget(choice, static_cast<int>(i), 1);
            m_sheets->addWidget(taped, static_cast<int>(i), 2);
            m_choices.push_back(choice);
            m_tapedStocks.push_back(taped);
        }
    }
    for (size_t i = 0; i < ids.size(); ++i) {
        const auto own = job.plan.sheetOf.find(ids[i]);
        const int at = own == job.plan.sheetOf.end() ? 0 : m_choices[i]->findText(text(own->second.name));
        m_choices[i]->setCurrentIndex(std::max(0, at));
        m_tapedStocks[i]->setChecked(job.plan.tapedStocks.contains(ids[i]));
    }
}

void CardDialog::showList(QVBoxLayout* into, const std::vector<Line>& lines) {
    while (QLayoutItem* item = into->takeAt(0)) {
        item->widget()->deleteLater();
        delete item;
    }
    for (const Line& line : lines) {
        auto* row = new QWidget;
        auto* words = new QHBoxLayout(row);
        words->setContentsMargins(0, 0, 0, 0);
        words->addWidget(new QLabel(line.words), 1);
        for (const Line::Deed& deed : line.deeds) {
            auto* button = linkButton(deed.label, QStringLiteral("%1: %2").arg(capitalised(deed.label), line.words));
            button->setAutoDefault(false);
            connect(button, &QPushButton::clicked, this, [act = deed.act] { act(); });
            words->addWidget(button);
        }
        into->addWidget(row);
    }
}

} // namespace thinline::app
