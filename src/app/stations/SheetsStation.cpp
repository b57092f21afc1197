// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/Stations.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QVBoxLayout>

namespace thinline::app {

SheetsStation::SheetsStation(Workbench& bench, QWidget* parent)
    : StationPanel(bench, tr("Which sheet lies where?"),
                   tr("Drag a piece to pin it; a double click lets it go again."),
                   tr("Take this arrangement"), parent) {
    m_mat = new QComboBox;
    m_sheet = new QComboBox;
    for (const design::MatFormat& mat : bench.catalogue().formats.mats)
        m_mat->addItem(QString::fromStdString(mat.name), QString::fromStdString(mat.id));
    for (const design::SheetFormat& sheet : bench.catalogue().formats.sheets)
        m_sheet->addItem(QString::fromStdString(sheet.name), QString::fromStdString(sheet.id));
    m_sheet->addItem(tr("own size"), "own");
    m_mat->setAccessibleName(tr("Mat"));
    m_sheet->setAccessibleName(tr("Sheets in the drawer"));
    addRow(tr("Mat"), m_mat, 132);
    addRow(tr("Sheets in the drawer"), m_sheet, 132);
    m_ownWidth = new LengthField(tr("Sheet width"));
    m_ownHeight = new LengthField(tr("Sheet height"));
    m_ownWidthRow = addRow(tr("Sheet width"), m_ownWidth);
    m_ownHeightRow = addRow(tr("Sheet height"), m_ownHeight);
    m_spacing = addLength(tr("Between pieces"));
    m_spacing->allowZero();
    m_turn = new QCheckBox(tr("Turn pieces by 90° where it helps"));
    controls()->addWidget(m_turn);
    m_note = addNote();
    m_note->setObjectName("warning");
    m_unpin = new QPushButton(tr("Let the pinned pieces go"));
    controls()->addWidget(m_unpin);
    addHeading(tr("Copies"));
    m_copiesOf = addNote();
    m_copies = new QSpinBox;
    m_copies->setRange(1, 999);
    m_copies->setAlignment(Qt::AlignRight);
    m_copies->setAccessibleName(tr("Copies of the chosen piece"));
    m_copiesRow = addRow(tr("How many"), m_copies, 72);

    connect(m_mat, &QComboBox::activated, this, [this] {
        changePlan(tr("Choose a mat"),
                   [this](auto& plan) { plan.matId = m_mat->currentData().toString().toStdString(); });
    });
    connect(m_sheet, &QComboBox::activated, this, [this] {
        changePlan(tr("Choose a sheet"),
                   [this](auto& plan) { plan.sheetId = m_sheet->currentData().toString().toStdString(); });
    });
    connect(m_ownWidth, &LengthField::entered, this, [this](double mm) {
        changePlan(tr("Set the sheet's size"), [mm](auto& plan) { plan.ownSheet.widthMm = mm; });
    });
    connect(m_ownHeight, &LengthField::entered, this, [this](double mm) {
        changePlan(tr("Set the sheet's size"), [mm](auto& plan) { plan.ownSheet.heightMm = mm; });
    });
    connect(m_spacing, &LengthField::entered, this, [this](double mm) {
        changePlan(tr("Set the spacing"), [mm](auto& plan) { plan.spacingMm = mm; });
    });
    connect(m_turn, &QCheckBox::clicked, this, [this](bool isOn) {
        changePlan(tr("Turn pieces"), [isOn](auto& plan) { plan.mayTurn = isOn; });
    });
    connect(m_unpin, &QPushButton::clicked, this,
            [this] { changePlan(tr("Let pinned pieces go"), [](auto& plan) { plan.pins.clear(); }); });
    for (LengthField* field : {m_ownWidth, m_ownHeight, m_spacing})
        connect(field, &LengthField::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(m_copies, &QSpinBox::valueChanged, this, [this](int copies) {
        this->bench().run(tr("Set the copies"),
                          [copies, piece = m_piece](const document::Job& job, const base::Progress&) {
                              return document::withCopies(job, piece, copies);
                          });
    });
    connect(mainButton(), &QPushButton::clicked, this, &StationPanel::done);
}

void SheetsStation::changePlan(const QString& name, const std::function<void(document::SheetPlan&)>& change) {
    tell(m_note, {});
    document::SheetPlan plan = bench().job().plan;
    change(plan);
    bench().run(name, [plan](const document::Job& job, const base::Progress& progress) {
        return document::arranged(document::withPlan(job, plan), document::shippedCatalogue().formats,
                                  progress);
    });
}

void SheetsStation::choosePiece(design::PieceId piece) {
    m_piece = piece;
    refresh();
}

void SheetsStation::setActive(bool isActive) {
    m_isActive = isActive;
    if (isActive)
        bench().wantArrangement();
}

void SheetsStation::refresh() {
    if (m_isActive)
        bench().wantArrangement();
    const document::Job& job = bench().job();
    const QSignalBlocker a(m_mat), b(m_sheet), c(m_turn), d(m_copies);
    m_mat->setCurrentIndex(m_mat->findData(QString::fromStdString(job.plan.matId)));
    m_sheet->setCurrentIndex(m_sheet->findData(QString::fromStdString(job.plan.sheetId)));
    m_ownWidthRow->setVisible(job.plan.sheetId == "own");
    m_ownHeightRow->setVisible(job.plan.sheetId == "own");
    m_ownWidth->showLength(job.plan.ownSheet.widthMm, job.unit);
    m_ownHeight->showLength(job.plan.ownSheet.heightMm, job.unit);
    m_spacing->showLength(job.plan.spacingMm, job.unit);
    m_turn->setChecked(job.plan.mayTurn);
    m_unpin->setVisible(!job.plan.pins.empty());
    m_unpin->setText(job.plan.pins.size() == 1 ? tr("Let the pinned piece go")
                                               : tr("Let the %1 pinned pieces go").arg(job.plan.pins.size()));
    const design::Piece* piece = bench().isTraced() ? design::findPiece(*job.stack, m_piece) : nullptr;
    m_copiesRow->setVisible(piece != nullptr);
    tell(m_copiesOf, piece ? tr("of %1").arg(QString::fromStdString(design::pieceName(*job.stack, m_piece)))
                           : tr("Click a piece to say how many of it are cut."));
    if (piece)
        m_copies->setValue(piece->copies);
    mainButton()->setEnabled(job.arrangement != nullptr);
    if (!job.arrangement) {
        setAnswer({{tr("Mats"), bench().isTraced() ? tr("not laid yet") : tr("nothing traced yet")}});
        return;
    }
    const sheets::ArrangementMeasures m = sheets::measure(*job.arrangement, *job.stack);
    QVector<std::pair<QString, QString>> rows{{tr("Mats"), QString::number(m.loads)},
                                              {tr("Sheets of card"), QString::number(m.sheets)},
                                              {tr("Pieces laid"), QString::number(m.pieces)},
                                              {tr("Waste"), tr("%1 %").arg(100 * m.wasteShare, 0, 'f', 0)}};
    if (!job.arrangement->unplaced.empty())
        rows.append({tr("Too large"), QString::number(job.arrangement->unplaced.size())});
    setAnswer(rows, tr("Waste is the card outside all pieces, over the area of all sheets"));
}

} // namespace thinline::app
