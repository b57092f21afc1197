// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/PhotoDialog.h"

#include "app/stations/Fields.h"
#include "formats/image/ImageFile.h"

#include <QComboBox>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace thinline::app {

PhotoDialog::PhotoDialog(Workbench& bench, const QString& path, QWidget* parent)
    : QDialog(parent), m_bench(bench) {
    setWindowTitle(tr("What lies on the mat"));
    m_view = new PhotoView;
    auto* inside = new QWidget;
    m_rows = new QVBoxLayout(inside);
    m_rows->setContentsMargins(0, 0, 0, 0);
    m_rows->setSpacing(4);
    auto* area = new QScrollArea;
    area->setWidgetResizable(true);
    area->setFrameShape(QFrame::NoFrame);
    area->setWidget(inside);
    m_words = sentenceLabel();
    m_words->setObjectName("help");
    m_take = new QPushButton(tr("Lay pieces on them"));
    m_take->setObjectName("main");
    m_take->setEnabled(false);
    auto* side = new QVBoxLayout;
    side->setSpacing(10);
    auto* help = sentenceLabel(
        tr("Drag the corners onto those of the mat where they are not. Each scrap takes the stock "
           "whose colour is nearest; change what is wrong."),
        "help");
    side->addWidget(help);
    side->addWidget(area, 1);
    side->addWidget(m_words);
    side->addWidget(m_take);
    auto* columns = new QHBoxLayout(this);
    columns->setContentsMargins(16, 16, 16, 16);
    columns->setSpacing(16);
    columns->addWidget(m_view, 1);
    auto* right = new QWidget;
    right->setFixedWidth(280);
    side->setContentsMargins(0, 0, 0, 0);
    right->setLayout(side);
    columns->addWidget(right);
    resize(1000, 620);
    m_take->setAutoDefault(false);
    connect(m_view, &PhotoView::cornersMoved, this, [this] { look(true); });
    connect(m_take, &QPushButton::clicked, this, &PhotoDialog::takeScraps);
    open(path);
}

void PhotoDialog::open(const QString& path) {
    m_name = QFileInfo(path).fileName().toStdString();
    const auto bytes = m_bench.files().read(path.toStdString(), base::kMostFileBytes);
    auto photo =
        bytes ? formats::image::decode(*bytes) : base::Result<formats::image::DecodedPicture>(bytes.error());
    if (!photo)
        return m_words->setText(text(photo.error().message));
    m_photo = std::make_shared<const raster::Picture>(photo.take().picture);
    m_view->setPhoto(*m_photo);
    look(false);
}

void PhotoDialog::look(bool byHand) {
    if (!m_photo)
        return;
    m_take->setEnabled(false);
    m_words->setText(tr("Looking for the mat and what lies on it."));
    std::optional<std::array<geometry::Point, 4>> corners;
    if (byHand)
        corners = m_view->corners();
    const double bend = m_found ? m_found->seen.bend() : 0;
    m_looker.start(tr("Looking at the mat"),
                   [this, corners, bend, photo = m_photo,
                    state = m_bench.state()](const base::Progress& progress) -> Task::Conclusion {
                       auto found = job::foundOnMat(state, *photo, job::shippedCatalogue().formats, corners,
                                                    bend, progress);
                       return [this, found = std::move(found)]() mutable {
                           if (!found)
                               return m_words->setText(text(found.error().message));
                           m_found = found.take();
                           showFound();
                       };
                   });
}

void PhotoDialog::showFound() {
    while (QLayoutItem* item = m_rows->takeAt(0)) {
        if (item->widget())
            item->widget()->deleteLater();
        delete item;
    }
    m_choices.clear();
    m_view->setCorners(m_found->seen.corners());
    for (size_t i = 0; i < m_found->look.scraps.size(); ++i) {
        auto* row = new QWidget;
        auto* parts = new QHBoxLayout(row);
        parts->setContentsMargins(0, 0, 0, 0);
        const raster::FoundScrap& scrap = m_found->look.scraps[i];
        const geometry::Box box = geometry::bounds(scrap.rings);
        parts->addWidget(new QLabel(QString::number(i + 1)));
        auto* choice = new QComboBox;
        choice->setAccessibleName(tr("Stock of scrap %1").arg(i + 1));
        choice->addItem(tr("not used"), QString());
        for (const design::Stock& stock : m_bench.job().stocks)
            if (!stock.isCutByHand)
                choice->addItem(text(stock.name), text(stock.id));
        choice->setCurrentIndex(scrap.isDoubtful ? 0
                                                 : std::max(0, choice->findData(text(m_found->stocks[i]))));
        parts->addWidget(choice, 1);
        parts->addWidget(new QLabel(text(base::formatSize(box.width(), box.height(), m_bench.job().unit))));
        m_rows->addWidget(row);
        m_choices.push_back(choice);
        connect(choice, &QComboBox::activated, this, &PhotoDialog::showUsed);
        if (scrap.isDoubtful)
            m_rows->addWidget(sentenceLabel(tr("%1 may be a shadow or the mat itself.").arg(i + 1), "help"));
    }
    m_rows->addStretch(1);
    m_words->setText(m_found->look.scraps.empty() ? tr("Nothing lies on the mat.")
                                                  : text(job::straightText(m_found->look.grid)));
    showUsed();
}

void PhotoDialog::showUsed() {
    std::vector<bool> used;
    for (const std::string& stock : stocks())
        used.push_back(!stock.empty());
    m_take->setEnabled(std::find(used.begin(), used.end(), true) != used.end());
    m_view->setFound(*m_found, std::move(used));
}

std::vector<std::string> PhotoDialog::stocks() const {
    std::vector<std::string> out;
    for (const QComboBox* choice : m_choices)
        out.push_back(choice->currentData().toString().toStdString());
    return out;
}

void PhotoDialog::takeScraps() {
    auto job = job::withScrapsOnMat(m_bench.job(), *m_found, stocks(), m_name);
    if (!job)
        return m_words->setText(text(job.error().message));
    m_bench.act(tr("Take the scraps on the mat"), job.take());
    accept();
}

} // namespace thinline::app
