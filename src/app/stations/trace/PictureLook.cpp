// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/trace/PictureLook.h"

#include "raster/Turn.h"
#include "trace/Deviation.h"

namespace thinline::app {
namespace {

std::shared_ptr<const trace::Tracing> tracingOf(const Workbench& bench) {
    const auto* picture = job::asA<job::Picture>(bench.pictureSource());
    return picture ? picture->tracing : nullptr;
}

double turnOf(const Workbench& bench) {
    const auto* picture = job::asA<job::Picture>(bench.pictureSource());
    return picture ? picture->recipe.turnDeg : 0;
}

} // namespace

PictureLook::PictureLook(Workbench& bench, QObject* parent)
    : QObject(parent), m_bench(bench),
      m_choice(new WordChoice({tr("Found"), tr("Picture"), tr("Differences")})) {
    m_choice->setToolTip(tr(
        "Compare the areas with the picture they came from (Ctrl+D): what was lost or added shows in red"));
    connect(m_choice, &WordChoice::chosen, this, [this](int shows) {
        m_shows = static_cast<Shows>(shows);
        refresh();
        emit changed();
    });
}

void PictureLook::refresh() {
    m_choice->choose(static_cast<int>(m_shows));
    m_choice->setEnabled(m_bench.picture() != nullptr);
    turn();
    compare();
}

void PictureLook::toggle() {
    m_shows = m_shows == Shows::Areas ? Shows::Picture : Shows::Areas;
    refresh();
    emit changed();
}

std::shared_ptr<const raster::Picture> PictureLook::lookedAt() const {
    const double degrees = turnOf(m_bench);
    if (degrees == 0)
        return m_bench.picture();
    return m_turnedFrom == m_bench.picture() && m_turnedBy == degrees ? m_turned : nullptr;
}

std::shared_ptr<const raster::Picture> PictureLook::shown() const {
    if (m_shows == Shows::Differences && m_compared && m_compared == tracingOf(m_bench))
        return m_differences;
    // While it is being traced for the first time there is only the picture to look at.
    return m_shows == Shows::Areas && tracingOf(m_bench) ? nullptr : lookedAt();
}

std::optional<double> PictureLook::differing() const {
    if (m_shows != Shows::Differences || !m_compared || m_compared != tracingOf(m_bench))
        return std::nullopt;
    return m_differing;
}

void PictureLook::turn() {
    const auto picture = m_bench.picture();
    const double degrees = turnOf(m_bench);
    if (!picture || lookedAt())
        return;
    m_turner.start(tr("Turning"), [this, picture, degrees](const base::Progress&) -> Task::Conclusion {
        auto turned = std::make_shared<const raster::Picture>(raster::turned(*picture, degrees));
        return [this, picture, degrees, turned] {
            m_turned = turned;
            m_turnedFrom = picture;
            m_turnedBy = degrees;
            compare();
            emit changed();
        };
    });
}

void PictureLook::compare() {
    const auto picture = lookedAt();
    const auto tracing = tracingOf(m_bench);
    if (m_shows != Shows::Differences || !picture || !tracing || m_compared == tracing)
        return;
    m_comparer.start(tr("Comparing"), [this, picture, tracing](const base::Progress&) -> Task::Conclusion {
        auto found = std::make_shared<const trace::Deviation>(trace::deviationOf(*picture, *tracing));
        return [this, tracing, found] {
            m_compared = tracing;
            m_differing = found->share;
            m_differences = std::shared_ptr<const raster::Picture>(found, &found->picture);
            emit changed();
        };
    });
}

} // namespace thinline::app
