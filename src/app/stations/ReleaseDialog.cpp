// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/ReleaseDialog.h"

#include "app/stations/Fields.h"
#include "base/Length.h"
#include "design/Cuts.h"
#include "job/Catalogue.h"
#include "sheets/Nest.h"
#include "split/Steps.h"

#include <QCheckBox>
#include <QDir>
#include <QFileDialog>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

#include <cmath>

namespace thinline::app {

ReleaseDialog::ReleaseDialog(Workbench& bench, base::FileStore& store, QWidget* parent)
    : QDialog(parent), m_bench(bench), m_store(store) {
    setWindowTitle(tr("A package for others"));
    m_note = sentenceLabel({}, "soft");
    const QStringList columns{tr("variant"), tr("size"),     tr("loads"),         tr("sheets"),
                              tr("pieces"),  tr("smallest"), tr("can it be cut?")};
    m_table = plainTable(tr("Variants"), columns);
    m_table->setSelectionMode(QAbstractItemView::NoSelection);
    m_folder = new QPushButton(tr("Into a folder…"));
    m_zip = new QPushButton(tr("As a zip…"));
    auto* done = new QPushButton(tr("Done"));
    done->setObjectName("main");
    auto* last = new QHBoxLayout;
    last->addWidget(m_folder);
    last->addWidget(m_zip);
    last->addWidget(m_note, 1);
    last->addWidget(done);
    auto* lines = new QVBoxLayout(this);
    lines->setContentsMargins(20, 16, 20, 16);
    lines->setSpacing(12);
    lines->addWidget(buildChoices());
    lines->addWidget(m_table, 1);
    lines->addLayout(last);
    resize(900, 560);
    for (QPushButton* button : findChildren<QPushButton*>())
        button->setAutoDefault(false); // Enter takes what was typed and closes nothing
    connect(done, &QPushButton::clicked, this, &QDialog::accept);
    connect(m_folder, &QPushButton::clicked, this, [this] {
        const QString path =
            QFileDialog::getExistingDirectory(this, tr("Where to write the package"), QDir::homePath());
        if (!path.isEmpty())
            packTo(path);
    });
    connect(m_zip, &QPushButton::clicked, this, [this] {
        QString path = QFileDialog::getSaveFileName(
            this, tr("Where to write the package"),
            QDir::homePath() + "/" + fileNameOf(m_bench.job().name) + ".zip", tr("Zip (*.zip)"));
        if (path.isEmpty())
            return;
        packTo(path.endsWith(".zip") ? path : path + ".zip");
    });
    lookAnew();
}

QVector<QCheckBox*> ReleaseDialog::addChoices(QGridLayout* grid, int row, const QString& heading,
                                              const QStringList& words, const QStringList& names) {
    QVector<QCheckBox*> out;
    grid->addWidget(new QLabel(heading), row, 0);
    for (int i = 0; i < words.size(); ++i) {
        auto* box = new QCheckBox(words[i]);
        box->setProperty("choice", names[i]);
        grid->addWidget(box, row, i + 1);
        out.append(box);
    }
    return out;
}

QWidget* ReleaseDialog::buildChoices() {
    auto* out = new QWidget;
    auto* grid = new QGridLayout(out);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(16);
    QStringList sheetNames, sheetIds, folds;
    for (const design::SheetFormat& sheet : m_bench.catalogue().formats.sheets) {
        sheetNames << text(sheet.name);
        sheetIds << text(sheet.id);
    }
    for (const char* word : design::kFoldsAsWords)
        folds << word;
    m_folds = addChoices(grid, 0, tr("Folds"), {tr("scored"), tr("perforated"), tr("by hand")}, folds);
    const bool doesFold = m_bench.work() && design::hasFolds(*m_bench.work());
    for (QCheckBox* box : m_folds) {
        box->setEnabled(doesFold);
        box->setToolTip(doesFold ? QString() : tr("Nothing folds in this work"));
    }
    m_sheets = addChoices(grid, 1, tr("Sheets"), sheetNames, sheetIds);
    m_ownSheet = new QLineEdit;
    m_ownSheet->setAccessibleName(tr("A sheet of another size"));
    m_ownSheet->setPlaceholderText(tr("another: 200 x 280 mm"));
    grid->addWidget(m_ownSheet, 1, static_cast<int>(sheetNames.size()) + 1);
    connect(m_ownSheet, &QLineEdit::editingFinished, this, &ReleaseDialog::lookAnew);
    grid->addWidget(new QLabel(tr("Sizes")), 2, 0);
    m_sizes = new QLineEdit;
    m_sizes->setAccessibleName(tr("Sizes in per cent"));
    m_sizes->setPlaceholderText(tr("in per cent: 100, 80"));
    grid->addWidget(m_sizes, 2, 1, 1, 2);
    m_closer = new QCheckBox(tr("closer layouts, which takes longer"));
    grid->addWidget(m_closer, 2, 3, 1, 2);
    connect(m_closer, &QCheckBox::toggled, this, &ReleaseDialog::lookAnew);
    m_parts = addChoices(grid, 3, tr("Parts"), {tr("as divided"), tr("whole")}, {"divided", "whole"});
    const bool isDivided = std::any_of(m_bench.job().steps.begin(), m_bench.job().steps.end(),
                                       [](const auto& step) { return split::isDivision(*step); });
    for (QCheckBox* box : m_parts) {
        box->setEnabled(isDivided);
        box->setToolTip(isDivided ? QString() : tr("Nothing of this work is divided"));
    }
    m_formats = addChoices(grid, 4, tr("Files"), {tr("SVG"), tr("DXF"), tr("PDF"), tr("plotter files")},
                           {"svg", "dxf", "pdf", "plotter"});
    m_formats += addChoices(grid, 5, {}, {tr("SVG, filled"), tr("DXF with curves"), tr("on paper, by hand")},
                            {"svg-filled", "dxf-curves", "by-hand"});
    m_formats[0]->setChecked(true);
    grid->setColumnStretch(5, 1);
    for (QCheckBox* box : m_folds + m_sheets + m_parts)
        connect(box, &QCheckBox::toggled, this, &ReleaseDialog::lookAnew);
    connect(m_sizes, &QLineEdit::editingFinished, this, &ReleaseDialog::lookAnew);
    return out;
}

base::Result<std::vector<pack::Variant>> ReleaseDialog::variants() const {
    std::vector<design::FoldsAs> folds;
    std::vector<std::string> sheets;
    std::vector<double> percents;
    for (int i = 0; i < m_folds.size(); ++i)
        if (m_folds[i]->isChecked())
            folds.push_back(static_cast<design::FoldsAs>(i));
    for (const QCheckBox* box : m_sheets)
        if (box->isChecked())
            sheets.push_back(box->property("choice").toString().toStdString());
    if (const QString own = m_ownSheet->text().trimmed(); !own.isEmpty())
        sheets.push_back(own.toStdString());
    for (const QString& word : m_sizes->text().split(',', Qt::SkipEmptyParts)) {
        bool isNumber = false;
        percents.push_back(word.trimmed().remove('%').toDouble(&isNumber));
        if (!isNumber)
            return base::Error{
                base::Code::InvalidArgument,
                tr("'%1' is no size in per cent; write 100, 80.").arg(word.trimmed()).toStdString()};
    }
    std::vector<pack::Parts> parts;
    for (int i = 0; i < m_parts.size(); ++i)
        if (m_parts[i]->isChecked())
            parts.push_back(static_cast<pack::Parts>(i));
    auto out = pack::variantsOf(folds, sheets, percents, parts);
    if (!out || !m_closer->isChecked())
        return out;
    std::vector<pack::Variant> closer = out.take();
    for (pack::Variant& one : closer)
        one.closerSteps = sheets::NestBudget{}.steps;
    return closer;
}

std::vector<pack::Format> ReleaseDialog::formats() const {
    std::vector<pack::Format> out;
    for (int i = 0; i < m_formats.size(); ++i)
        if (m_formats[i]->isChecked())
            out.push_back(static_cast<pack::Format>(i));
    return out;
}

void ReleaseDialog::say(const QString& sentence, bool isProblem) {
    sayIn(m_note, sentence, isProblem);
}

void ReleaseDialog::lookAnew() {
    const auto wanted = variants();
    if (!wanted) {
        m_rows.clear();
        showRows();
        return say(text(wanted.error().message), true);
    }
    say(tr("Making them…"));
    m_task.start(tr("Making variants"),
                 [this, state = m_bench.state(),
                  wanted = *wanted](const base::Progress& progress) -> Task::Conclusion {
                     auto rows = pack::tableOf(state, wanted, progress);
                     return [this, rows = std::move(rows)] {
                         m_rows = rows ? *rows : std::vector<pack::VariantRow>{};
                         say(rows ? QString() : text(rows.error().message), !rows);
                         showRows();
                     };
                 });
}

void ReleaseDialog::showRows() {
    const base::LengthUnit unit = m_bench.job().unit;
    bool canAny = false;
    QVector<QStringList> rows;
    for (const pack::VariantRow& row : m_rows) {
        canAny = canAny || row.canBeCut();
        const QString why =
            text(row.whyNot) + (row.help.empty() ? QString() : tr(" But %1.").arg(text(row.help)));
        rows << QStringList{
            text(row.variant.name),          text(base::formatSize(row.widthMm, row.heightMm, unit)),
            QString::number(row.loads),      QString::number(row.sheets),
            QString::number(row.pieces),     text(base::formatLength(row.smallestMm, unit)),
            row.canBeCut() ? tr("yes") : why};
    }
    fillTable(m_table, rows);
    m_folder->setEnabled(canAny);
    m_zip->setEnabled(canAny);
}

void ReleaseDialog::packTo(const QString& path) {
    const auto wanted = variants();
    if (!wanted)
        return say(text(wanted.error().message), true);
    say(tr("Packing…"));
    m_task.start(
        tr("Packing"),
        [this, path, state = m_bench.state(), wanted = *wanted, as = formats(),
         &store = m_store](const base::Progress& progress) -> Task::Conclusion {
            const auto pack = [&]() -> base::Result<QString> {
                const auto release = pack::makeRelease(state, wanted, as, progress);
                if (!release)
                    return release.error();
                for (const pack::ReadBack& one : release->checks)
                    if (!one.problem.empty())
                        return base::Error{base::Code::IoError, one.name + ": " + one.problem};
                QString more = release->rights.empty() ? QString() : " " + text(release->rights);
                if (path.endsWith(".zip")) {
                    const auto zip = pack::zipOf(*release, QFileInfo(path).completeBaseName().toStdString());
                    if (!zip)
                        return zip.error();
                    if (auto done = store.writeWhole(path.toStdString(), *zip); !done)
                        return done.error();
                } else {
                    const auto replaced = pack::writeRelease(store, path.toStdString(), *release);
                    if (!replaced)
                        return replaced.error();
                    if (replaced->gone > 0)
                        more += tr(" %1 of an earlier package taken away.")
                                    .arg(countOf(replaced->gone, tr("file"), tr("files")));
                    if (!replaced->kept.empty())
                        more +=
                            tr(" Left, because somebody changed it: %1.").arg(text(replaced->kept.front()));
                }
                return tr("%1 in %2; %3 opened again and compared, worst difference %4 um.")
                           .arg(countOf(static_cast<qsizetype>(release->files.size()), tr("file"),
                                        tr("files")),
                                path)
                           .arg(release->checks.size())
                           .arg(1000 * release->worstMm(), 0, 'f', 1) +
                       more;
            };
            const auto done = pack();
            return [this, done] { say(done ? *done : text(done.error().message), !done); };
        });
}

} // namespace thinline::app
