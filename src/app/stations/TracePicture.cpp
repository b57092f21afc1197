// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/Fields.h"
#include "app/stations/Stations.h"
#include "raster/Turn.h"

#include <QCheckBox>
#include <QDoubleSpinBox>
#include <QFile>
#include <QFileInfo>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSlider>

#include <algorithm>
#include <array>
#include <cmath>

// How the picture is looked at before it is traced: turned, in parts, by colours taken from it or from a
// copy.
namespace thinline::app {

std::shared_ptr<const raster::Picture> TraceStation::lookedAt() const {
    const auto picture = bench().picture();
    const double degrees = bench().job().recipe.turnDeg;
    if (!picture || degrees == 0)
        return picture;
    if (m_turnedFrom != picture || m_turnedBy != degrees) {
        m_turned = std::make_shared<const raster::Picture>(raster::turned(*picture, degrees));
        m_turnedFrom = picture;
        m_turnedBy = degrees;
    }
    return m_turned;
}

/// Of a large picture a reduced copy is traced first, to show at once what a setting does.
void TraceStation::lookAhead(const std::function<void(trace::Recipe&)>& change) {
    constexpr double kLarge = 3e6, kReduced = 4e5; // px
    const auto picture = bench().picture();
    const document::Job& job = bench().job();
    if (!picture || !job.tracing || static_cast<double>(picture->pixels()) < kLarge)
        return;
    trace::Recipe recipe = job.recipe;
    change(recipe);
    const trace::Sizing sizing = document::sizingOf(job);
    m_looker.start(tr("Looking ahead"),
                   [this, picture, recipe, sizing](const base::Progress& progress) -> Task::Conclusion {
                       const double factor = std::sqrt(kReduced / static_cast<double>(picture->pixels()));
                       const raster::Picture small = raster::reduced(*picture, factor);
                       trace::Sizing scaled = sizing;
                       scaled.mmPerPx = sizing.mmPerPx * picture->width / small.width;
                       const auto found =
                           trace::traced(small, scaled.mmPerPx, trace::reducedBy(recipe, factor), progress);
                       if (!found)
                           return nullptr; // the whole picture will say why
                       const geometry::Transform map = trace::pictureToDesign(*found, scaled);
                       auto pieces = std::make_shared<std::vector<geometry::Shape>>();
                       for (const trace::Area& area : found->areas)
                           pieces->push_back(geometry::transformed(area.shape, map));
                       return [this, pieces] { emit foreseen(*pieces); };
                   });
}

void TraceStation::turnTo(double degrees) {
    const auto picture = bench().picture();
    if (!picture || degrees == bench().job().recipe.turnDeg)
        return;
    retrace(tr("Turn the picture"), [degrees, picture](trace::Recipe& recipe) {
        recipe = trace::turnedTo(std::move(recipe), degrees, picture->width, picture->height);
    });
}

void TraceStation::takeColour(geometry::Point at) {
    const auto picture = lookedAt();
    if (!picture)
        return;
    const int x = static_cast<int>(at.x), y = static_cast<int>(at.y);
    if (x < 0 || y < 0 || x >= picture->width || y >= picture->height)
        return;
    // The middle of the pixels around, channel by channel: one grain says nothing.
    raster::Rgb colour{};
    for (size_t k = 0; k < 3; ++k) {
        std::array<std::uint8_t, 9> around{};
        for (int i = 0; i < 9; ++i)
            around[static_cast<size_t>(i)] = picture->row(std::clamp(
                y + i / 3 - 1, 0,
                picture->height -
                    1))[static_cast<size_t>(std::clamp(x + i % 3 - 1, 0, picture->width - 1)) * 3 + k];
        std::nth_element(around.begin(), around.begin() + 4, around.end());
        colour[k] = around[4];
    }
    retrace(tr("Take a colour from the picture"),
            [colour](auto& recipe) { recipe.picked.push_back(colour); });
}

void TraceStation::colourFrom(const QString& path) {
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly)) {
        tell(m_note, tr("%1 cannot be read: %2.").arg(path, file.errorString()));
        return;
    }
    const QByteArray bytes = file.read(static_cast<qint64>(base::kMostFileBytes));
    tell(m_note, {});
    bench().run(tr("Take colours from a copy"),
                [copy = base::Bytes(bytes.begin(), bytes.end()),
                 name = QFileInfo(path).fileName().toStdString()](const document::Job& job,
                                                                  const base::Progress& progress) {
                    return document::colouredFrom(job, copy, name, document::shippedCatalogue(), progress);
                });
}

std::vector<geometry::Line> TraceStation::folds() const {
    const document::Job& job = bench().job();
    std::vector<geometry::Line> out;
    if (!job.tracing)
        return out;
    const geometry::Transform map = trace::pictureToDesign(*job.tracing, document::sizingOf(job));
    for (const geometry::Line& fold : job.tracing->folds)
        out.push_back(geometry::transformed(fold, map));
    return out;
}

void TraceStation::refreshParts() {
    const document::Job& job = bench().job();
    const trace::Recipe& recipe = job.recipe;
    const bool isReady = bench().picture() != nullptr;
    m_foldsBelow->showLength(recipe.foldsBelowMm, job.unit);
    m_bridges->showLength(recipe.bridgesMm, job.unit);
    m_dashesFold->setChecked(recipe.dashesFold);
    m_partRow->setVisible(!recipe.ownParts.empty());
    m_copyColours->setVisible(isReady && job.tracing);
    m_noPicked->setVisible(!recipe.picked.empty());
    m_turn->setEnabled(isReady);
    m_level->setEnabled(isReady);
    const QSignalBlocker a(m_partThreshold), b(m_turn);
    m_turn->setValue(recipe.turnDeg);
    if (!recipe.ownParts.empty() && !m_settle.isActive()) {
        const std::optional<int> own = recipe.ownParts.back().threshold;
        m_partThreshold->setValue(own ? *own : 128);
        m_partText->setText(own ? QString::number(*own) : tr("by itself"));
    }
}

} // namespace thinline::app
