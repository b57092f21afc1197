// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/SheetDialog.h"

#include "app/stations/Fields.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace thinline::app {

SheetDialog::SheetDialog(Workbench& bench, QWidget* parent)
    : QDialog(parent), m_bench(bench), m_of(bench.pictureInHand()) {
    setWindowTitle(tr("A sheet in a photo"));
    m_view = new PhotoView;
    m_view->setAccessibleDescription(tr("Four corners of the sheet, to be dragged"));
    m_size = new QComboBox;
    m_size->setAccessibleName(tr("Real size of the sheet"));
    for (const job::PaperSize& paper : job::kPaperSizes)
        m_size->addItem(tr("%1, %2").arg(paper.name, text(base::formatSize(paper.widthMm, paper.heightMm,
                                                                           bench.job().unit))));
    m_size->setCurrentIndex(1);
    m_words = sentenceLabel();
    m_words->setObjectName("help");
    m_take = new QPushButton(tr("Lay it straight"));
    m_take->setObjectName("main");
    m_take->setAutoDefault(false);
    m_take->setEnabled(false);
    m_asItIs = linkButton(tr("Take the photo as it is again"), tr("The table around the sheet comes back"));
    auto* right = new QWidget;
    right->setFixedWidth(280);
    auto* side = new QVBoxLayout(right);
    side->setContentsMargins(0, 0, 0, 0);
    side->setSpacing(10);
    side->addWidget(sentenceLabel(tr("Drag the corners onto those of the sheet where they are not. What lies around it is "
                                     "left out, and what is traced has its real size."),
                                  "help"));
    side->addWidget(labelled(tr("It is"), m_size, 180));
    side->addWidget(m_words);
    side->addStretch(1);
    side->addWidget(m_asItIs, 0, Qt::AlignLeft);
    side->addWidget(m_take);
    auto* columns = new QHBoxLayout(this);
    columns->setContentsMargins(16, 16, 16, 16);
    columns->setSpacing(16);
    columns->addWidget(m_view, 1);
    columns->addWidget(right);
    resize(1000, 620);
    connect(m_view, &PhotoView::cornersMoved, this, [this] { look(true); });
    connect(m_size, &QComboBox::activated, this, [this] { look(m_sheet.has_value()); });
    connect(m_take, &QPushButton::clicked, this, [this] { take(m_sheet); });
    connect(m_asItIs, &QPushButton::clicked, this, [this] { take({}); });
    openPhoto();
}

void SheetDialog::openPhoto() {
    const auto* picture = job::asA<job::Picture>(m_bench.pictureSource());
    m_asItIs->setVisible(picture && picture->sheet);
    if (!picture)
        return;
    job::Picture whole = *picture;
    const std::optional<job::SheetInPhoto> before = whole.sheet;
    whole.sheet.reset();
    m_words->setText(tr("Opening the photo."));
    m_looker.start(tr("Opening the picture"), [this, whole, before](const base::Progress&) -> Task::Conclusion {
        auto pixels = job::pixelsOf(whole);
        return [this, pixels, before] {
            if (!pixels)
                return m_words->setText(text(pixels.error().message));
            m_photo = *pixels;
            m_view->setPhoto(*m_photo);
            if (before)
                m_view->setCorners(before->corners);
            look(before.has_value());
        };
    });
}

void SheetDialog::look(bool byHand) {
    if (!m_photo)
        return;
    m_take->setEnabled(false);
    m_words->setText(tr("Looking for the sheet."));
    std::optional<std::array<geometry::Point, 4>> corners;
    if (byHand)
        corners = m_view->corners();
    const job::PaperSize paper = job::kPaperSizes[static_cast<size_t>(std::max(0, m_size->currentIndex()))];
    const double bend = m_sheet ? m_sheet->bend : 0;
    m_looker.start(tr("Looking for the sheet"),
                   [this, corners, bend, paper, photo = m_photo](const base::Progress&) -> Task::Conclusion {
                       auto found = job::sheetIn(*photo, paper.widthMm, paper.heightMm, corners, bend);
                       return [this, found = std::move(found)]() mutable {
                           if (!found)
                               return m_words->setText(text(found.error().message));
                           m_sheet = found.take();
                           m_view->setCorners(m_sheet->corners);
                           m_words->setText(
                               tr("%1, with %2 pixels to the millimetre.")
                                   .arg(text(base::formatSize(m_sheet->widthMm, m_sheet->heightMm, m_bench.job().unit)))
                                   .arg(m_sheet->pxPerMm, 0, 'f', 1));
                           m_take->setEnabled(true);
                       };
                   });
}

void SheetDialog::take(const std::optional<job::SheetInPhoto>& sheet) {
    m_bench.run(tr("Lay a photographed sheet straight"),
                [sheet, of = m_of](const job::State& now, const base::Progress& progress) {
                    return job::tracedFromSheet(now.job, sheet, job::shippedCatalogue(), progress, of);
                });
    accept();
}

} // namespace thinline::app
