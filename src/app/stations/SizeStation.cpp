// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/Stations.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace thinline::app {

SizeStation::SizeStation(Workbench& bench, QWidget* parent)
    : StationPanel(bench, tr("How large, and on what?"),
                   tr("The size of the finished design, from edge to edge of its backing."),
                   tr("Keep this size"), parent) {
    m_width = addLength(tr("Width"));
    m_height = addLength(tr("Height"));
    m_keep = new QCheckBox(tr("Keep the proportions"));
    m_keep->setChecked(true);
    controls()->addWidget(m_keep);
    m_note = addNote();
    m_note->setObjectName("warning");
    addHeading(tr("Largest that fits"));
    auto* frame = new QWidget;
    m_largest = new QGridLayout(frame);
    m_largest->setContentsMargins(0, 0, 0, 0);
    m_largest->setVerticalSpacing(4);
    m_largest->setColumnStretch(0, 1);
    controls()->addWidget(frame);
    connect(m_width, &LengthField::entered, this, [this](double mm) { setSize(true, mm); });
    connect(m_height, &LengthField::entered, this, [this](double mm) { setSize(false, mm); });
    for (LengthField* field : {m_width, m_height})
        connect(field, &LengthField::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(mainButton(), &QPushButton::clicked, this, &StationPanel::done);
}

void SizeStation::setSize(bool isWidth, double mm) {
    tell(m_note, {});
    bench().run(tr("Set the size"), [isWidth, mm, keeps = m_keep->isChecked()](
                                        const document::Job& job, const base::Progress& progress) {
        const geometry::Box box = document::designBox(job);
        const double width = isWidth ? mm : keeps ? box.width() * mm / box.height() : box.width();
        const double height = !isWidth ? mm : keeps ? box.height() * mm / box.width() : box.height();
        return document::resized(job, width, height, progress);
    });
}

void SizeStation::refresh() {
    while (QLayoutItem* item = m_largest->takeAt(0)) {
        if (item->widget())
            item->widget()->deleteLater();
        delete item;
    }
    const document::Job& job = bench().job();
    const bool isReady = bench().isTraced();
    for (QWidget* w : {static_cast<QWidget*>(m_width), static_cast<QWidget*>(m_height),
                       static_cast<QWidget*>(m_keep), static_cast<QWidget*>(mainButton())})
        w->setEnabled(isReady);
    if (!isReady) {
        setAnswer({{tr("Size"), tr("nothing traced yet")}});
        return;
    }
    const geometry::Box box = document::designBox(job);
    m_width->showLength(box.width(), job.unit);
    m_height->showLength(box.height(), job.unit);
    int row = 0;
    const auto offer = [&](const QString& name, double usableWidthMm, double usableHeightMm) {
        const sheets::LargestFit fit =
            sheets::largestThatFits(*job.stack, usableWidthMm, usableHeightMm, job.plan.mayTurn);
        auto* text = new QLabel(QStringLiteral("%1<br><span style='color:%2'>%3</span>")
                                    .arg(name, palette().color(QPalette::PlaceholderText).name(),
                                         sizeText(box.width() * fit.scale, box.height() * fit.scale)));
        text->setToolTip(tr("Now times %1, limited by %2%3, usable %4")
                             .arg(fit.scale, 0, 'f', 3)
                             .arg(QString::fromStdString(design::pieceName(*job.stack, fit.limitedBy)),
                                  fit.isTurned ? tr(" turned by 90°") : QString(),
                                  sizeText(usableWidthMm, usableHeightMm)));
        auto* take = new QPushButton(tr("Take"));
        take->setObjectName("link");
        take->setAccessibleName(tr("Take the largest size for %1").arg(name));
        connect(take, &QPushButton::clicked, this, [this, scale = fit.scale] {
            this->bench().run(tr("Take the largest size"),
                              [scale](const document::Job& now, const base::Progress& progress) {
                                  return document::scaled(now, scale, progress);
                              });
        });
        m_largest->addWidget(text, row, 0);
        m_largest->addWidget(take, row++, 1);
    };
    const design::Formats& formats = bench().catalogue().formats;
    for (const design::MatFormat& mat : formats.mats)
        offer(tr("mat %1").arg(QString::fromStdString(mat.name)), mat.usableWidthMm(), mat.usableHeightMm());
    for (const design::SheetFormat& sheet : formats.sheets)
        if (!formats.mat(sheet.id)) // a sheet as large as its mat gives the same answer
            offer(tr("sheet %1").arg(QString::fromStdString(sheet.name)), sheet.usableWidthMm(),
                  sheet.usableHeightMm());

    QVector<std::pair<QString, QString>> answer{{tr("Size"), sizeText(box.width(), box.height())}};
    int pieces = 0;
    for (const design::Layer& layer : job.stack->layers)
        pieces += static_cast<int>(layer.pieces.size());
    for (const design::MatFormat& mat : formats.mats) {
        int fitting = 0;
        for (const design::Layer& layer : job.stack->layers)
            for (const design::Piece& piece : layer.pieces)
                fitting += sheets::fits(geometry::bounds(*piece.shape), mat.usableWidthMm(),
                                        mat.usableHeightMm(), job.plan.mayTurn)
                               ? 1
                               : 0;
        answer.append(
            {tr("Fit the mat %1").arg(QString::fromStdString(mat.name)),
             fitting == pieces ? tr("all %1").arg(pieces) : tr("%1 of %2").arg(fitting).arg(pieces)});
    }
    setAnswer(answer, tr("A piece fits when it lies within the mat's margins, upright or turned by 90°"));
}

} // namespace thinline::app
