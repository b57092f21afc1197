// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/Stations.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QRadioButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <cmath>

namespace thinline::app {

SourceStation::SourceStation(Workbench& bench, QWidget* parent)
    : StationPanel(bench, tr("What do we start from?"),
                   tr("A PNG or JPEG line drawing or an SVG file, and how large it really is."),
                   tr("Trace this picture"), parent) {
    auto* open = new QPushButton(tr("Open a picture or a drawing…"));
    open->setToolTip(tr("Open a PNG or JPEG picture, an SVG drawing or a job (Ctrl+O). You can also drop one "
                        "on the window."));
    controls()->addWidget(open);
    connect(open, &QPushButton::clicked, this, &SourceStation::wantsPicture);
    m_facts = addNote();
    m_sizeHeading = addHeading({});
    m_width = addLength(tr("Width"));
    m_height = addLength(tr("Height"));
    m_unit = new QComboBox;
    m_unit->addItems({tr("millimetres"), tr("inches")});
    m_unit->setAccessibleName(tr("Unit"));
    addRow(tr("Show sizes in"), m_unit);
    m_note = addNote();
    m_note->setObjectName("warning");
    m_guessHeading = addHeading(tr("The file states no size: which is it?"));
    auto* frame = new QWidget;
    m_guesses = new QVBoxLayout(frame);
    m_guesses->setContentsMargins(0, 0, 0, 0);
    m_guesses->setSpacing(4);
    controls()->addWidget(frame);

    connect(m_width, &LengthField::entered, this, &SourceStation::setWidth);
    connect(m_height, &LengthField::entered, this, [this](double heightMm) {
        const auto& art = *this->bench().job().artwork;
        setWidth(heightMm * art.widthPx / (art.heightPx * art.pixelAspect));
    });
    for (LengthField* field : {m_width, m_height})
        connect(field, &LengthField::refused, this, [this](const QString& why) { tell(m_note, why); });
    connect(m_unit, &QComboBox::activated, this, [this](int index) {
        document::Job job = this->bench().job();
        job.unit = index == 1 ? base::LengthUnit::Inch : base::LengthUnit::Millimetre;
        this->bench().apply(tr("Change the unit"), std::move(job));
    });
    connect(mainButton(), &QPushButton::clicked, this, [this] {
        if (!this->bench().isTraced() && this->bench().picture()) {
            const auto picture = this->bench().picture();
            this->bench().run(tr("Trace"), [picture](const document::Job& job,
                                                     const base::Progress& progress) {
                return document::traced(job, *picture, job.recipe, document::shippedCatalogue(), progress);
            });
        }
        emit done();
    });
}

void SourceStation::setWidth(double widthMm) {
    tell(m_note, {});
    bench().run(tr("Set the picture's size"),
                [widthMm](const document::Job& job, const base::Progress& progress) {
                    return document::withPictureWidth(job, widthMm, progress);
                });
}

void SourceStation::showGuesses() {
    while (QLayoutItem* item = m_guesses->takeAt(0)) {
        if (item->widget())
            item->widget()->deleteLater();
        delete item;
    }
    const document::Job& job = bench().job();
    const auto guesses = document::unitGuesses(job);
    m_guessHeading->setVisible(!guesses.empty());
    for (const document::UnitGuess& guess : guesses) {
        auto* take = new QRadioButton(
            tr("%1 to the inch: %2").arg(guess.perInch).arg(sizeText(guess.widthMm, guess.heightMm)));
        take->setChecked(std::abs(guess.widthMm - job.pictureWidthMm) < 1e-6 * guess.widthMm);
        take->setToolTip(
            tr("Take the file's units as %1 to the inch; or type a width or height you know above")
                .arg(guess.perInch));
        connect(take, &QRadioButton::clicked, this, [this, width = guess.widthMm] { setWidth(width); });
        m_guesses->addWidget(take);
    }
}

void SourceStation::refresh() {
    const document::Job& job = bench().job();
    showGuesses();
    m_sizeHeading->setText(job.artwork && job.artwork->isOutlines() ? tr("Real size of the whole page")
                                                                    : tr("Real size of the whole picture"));
    const bool hasPicture = job.artwork != nullptr;
    for (QWidget* field :
         {static_cast<QWidget*>(m_width), static_cast<QWidget*>(m_height), static_cast<QWidget*>(m_unit)})
        field->setEnabled(hasPicture);
    mainButton()->setEnabled(hasPicture && (bench().picture() || bench().isTraced()));
    mainButton()->setText(bench().isTraced() ? tr("On to the areas") : tr("Trace this picture"));
    const QSignalBlocker quiet(m_unit);
    m_unit->setCurrentIndex(job.unit == base::LengthUnit::Inch ? 1 : 0);
    if (!hasPicture) {
        tell(m_facts, {});
        setAnswer({{tr("Picture"), tr("none yet")}});
        return;
    }
    const auto& art = *job.artwork;
    const double heightMm = job.pictureWidthMm * art.heightPx / art.widthPx * art.pixelAspect;
    m_width->showLength(job.pictureWidthMm, job.unit);
    m_height->showLength(heightMm, job.unit);
    if (art.isOutlines()) {
        tell(m_facts, tr("%1, a drawing of outlines").arg(QString::fromStdString(art.fileName)));
        const design::StackMeasures m = job.stack ? design::measure(*job.stack) : design::StackMeasures{};
        setAnswer({{tr("Page"), sizeText(job.pictureWidthMm, heightMm)},
                   {tr("Pieces"), QString::fromStdString(base::formatCount(m.pieces))},
                   {tr("Nodes"), QString::fromStdString(base::formatCount(m.nodes))},
                   {tr("Size of all pieces"), sizeText(m.box.width(), m.box.height())}});
        return;
    }
    tell(m_facts, tr("%1, %2 × %3 pixels")
                      .arg(QString::fromStdString(art.fileName))
                      .arg(art.widthPx)
                      .arg(art.heightPx));
    const double pxPerMm = art.widthPx / job.pictureWidthMm;
    // Below about 4 px per mm a pen line of half a millimetre is two pixels wide, and gaps can no longer be
    // told from lines.
    const QString fitness = pxPerMm >= 8 ? tr("fine") : pxPerMm >= 4 ? tr("usable") : tr("coarse");
    setAnswer({{tr("Picture"), sizeText(job.pictureWidthMm, heightMm)},
               {tr("Pixels per mm"), QString::number(pxPerMm, 'f', 1)},
               {tr("For tracing"), fitness}},
              tr("Pixels per mm = %1 px / %2 mm").arg(art.widthPx).arg(job.pictureWidthMm, 0, 'f', 1));
}

} // namespace thinline::app
