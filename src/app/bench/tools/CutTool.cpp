// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/tools/CutTool.h"

#include "app/bench/Labels.h"
#include "app/bench/Paths.h"
#include "app/settings/Theme.h"
#include "geometry/Measures.h"

#include <QPainter>

namespace thinline::app {
namespace {

using cutplan::Moment;
using design::Operation;

/// Lines lie on card of any colour: a pale rim lets them be seen.
void draw(QPainter& painter, const QPainterPath& path, Operation operation) {
    const bool isCut =
        operation == Operation::Cut || operation == Operation::CutInside || operation == Operation::Perforate;
    const double width = isCut ? 2.6 : 1.8;
    const auto stroke = [&](const QColor& colour, double px) {
        QPen pen(colour, px, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin);
        pen.setCosmetic(true);
        painter.setPen(pen);
        painter.drawPath(path);
    };
    stroke(QColor(255, 255, 255, 190), width + 2.4);
    stroke(isCut ? QColor("#1E2A31") : theme().accent, width);
}

} // namespace

void CutTool::show(std::shared_ptr<const design::PlannedLoad> load,
                   std::shared_ptr<const cutplan::Timeline> timeline) {
    m_load = std::move(load);
    m_timeline = std::move(timeline);
    m_after = nullptr;
    m_done = {};
}

/// Paints what comes before a path of a pass.
void CutTool::paintDone(QPainter& painter, const BenchMap& map, size_t pass, size_t path) const {
    const double ratio = painter.device()->devicePixelRatioF();
    const QSize size = (QSizeF(painter.viewport().size()) * ratio).toSize();
    const bool isBehind = std::pair(pass, path) < std::pair(m_done.pass, m_done.path);
    if (isBehind || m_done.picture.size() != size || m_done.map != map.transform()) {
        m_done = {QPixmap(size), map.transform()};
        m_done.picture.setDevicePixelRatio(ratio);
        m_done.picture.fill(Qt::transparent);
    }
    QPainter on(&m_done.picture);
    on.setRenderHint(QPainter::Antialiasing);
    on.setTransform(m_done.map);
    for (; m_done.pass < m_load->passes.size() && m_done.pass <= pass; ++m_done.pass, m_done.path = 0) {
        const design::Pass& one = m_load->passes[m_done.pass];
        const size_t upTo = m_done.pass == pass ? path : one.paths.size();
        for (; m_done.path < upTo; ++m_done.path)
            draw(on, pathOf(one.paths[m_done.path].line), one.operation);
        if (m_done.pass == pass)
            break;
    }
    painter.drawPixmap(0, 0, m_done.picture);
}

/// A ring round each strip that will not hold; beside the narrowest ones how wide they are.
void CutTool::paintTears(QPainter& painter, const BenchMap& map) const {
    if (!m_after)
        return;
    constexpr double kRingPx = 13;
    constexpr size_t kTold = 3;
    painter.setBrush(Qt::NoBrush);
    const auto ring = [&](geometry::Point place, const QColor& colour) {
        const QPointF at = map.toWidget(place);
        for (const auto& [rim, px] : {std::pair{QColor("#FFFFFF"), 5.0}, {colour, 2.5}}) {
            painter.setPen(QPen(rim, px));
            painter.drawEllipse(at, kRingPx, kRingPx);
        }
    };
    for (const devices::Slip& slip : m_after->slips)
        ring(slip.at, theme().risks);
    for (size_t i = 0; i < std::min(kTold, m_after->slips.size()); ++i)
        paintWords(painter, map.toWidget(m_after->slips[i].at) + QPointF(kRingPx, 0),
                   QString::fromStdString(devices::slipText(m_after->slips[i])), painter.viewport().size());
    for (const devices::Tear& tear : m_after->tears)
        ring(tear.at, theme().spoils);
    for (size_t i = 0; i < std::min(kTold, m_after->tears.size()); ++i)
        paintWords(painter, map.toWidget(m_after->tears[i].at) + QPointF(kRingPx, 0),
                   QObject::tr("%1 mm: tears here").arg(m_after->tears[i].widthMm, 0, 'f', 2),
                   painter.viewport().size());
}

void CutTool::paint(QPainter& painter, const BenchMap& map) const {
    const auto now = m_load && m_timeline ? m_timeline->at(m_seconds) : std::nullopt;
    if (!now)
        return;
    const Moment& moment = m_timeline->moments()[now->moment];
    // In a later round every line of its pass was followed once already.
    const bool isFirst = moment.round == 0;
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    paintDone(painter, map, isFirst ? moment.pass : moment.pass + 1, isFirst ? moment.path : 0);
    if (isFirst && moment.what == Moment::What::Line && now->share > 0) {
        const design::Pass& pass = m_load->passes[moment.pass];
        const geometry::Line& line = pass.paths[moment.path].line;
        const double along = now->share * geometry::contourLength(line);
        painter.save();
        painter.setTransform(map.transform(), true);
        painter.setBrush(Qt::NoBrush);
        draw(painter, pathOf(now->share >= 1 ? line : geometry::stretchOfLine(line, 0, along)),
             pass.operation);
        painter.restore();
    }
    paintTears(painter, map);
    // The tool: a ring while it is lifted, a full dot while it is down.
    const QPointF at = map.toWidget(now->at);
    painter.setPen(QPen(QColor("#FFFFFF"), 2));
    painter.setBrush(moment.what == Moment::What::Line ? QBrush(theme().accent) : QBrush(QColor("#FFFFFF")));
    painter.drawEllipse(at, 8, 8);
    painter.setPen(QPen(theme().accent, 2.5));
    painter.drawEllipse(at, 6, 6);
    painter.restore();
}

} // namespace thinline::app
