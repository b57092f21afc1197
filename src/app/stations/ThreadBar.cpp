// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/ThreadBar.h"

#include "app/settings/Theme.h"

#include <QHBoxLayout>
#include <QPainter>

namespace thinline::app {
namespace {

constexpr int kThreadY = 17; ///< height of the line within a bead

} // namespace

const QVector<StationInfo>& stationInfos() {
    static const QVector<StationInfo> infos{
        {Station::Source, QT_TR_NOOP("Source"), nullptr}, {Station::Trace, QT_TR_NOOP("Trace"), nullptr},
        {Station::Shape, QT_TR_NOOP("Shape"), nullptr},   {Station::Size, QT_TR_NOOP("Size"), nullptr},
        {Station::Folds, QT_TR_NOOP("Folds"), nullptr},   {Station::Split, QT_TR_NOOP("Split"), nullptr},
        {Station::Sheets, QT_TR_NOOP("Sheets"), nullptr}, {Station::Cut, QT_TR_NOOP("Cut"), nullptr},
        {Station::Pack, QT_TR_NOOP("Pack"), nullptr},
    };
    return infos;
}

Bead::Bead(const StationInfo& info, QWidget* parent) : QAbstractButton(parent) {
    setText(tr(info.name));
    setEnabled(info.promise == nullptr);
    setFocusPolicy(info.promise ? Qt::NoFocus : Qt::StrongFocus);
    setToolTip(info.promise ? tr(info.promise)
                            : tr("%1 (Ctrl+%2)").arg(tr(info.name)).arg(static_cast<int>(info.station) + 1));
    setAccessibleName(text());
    setCursor(info.promise ? Qt::ArrowCursor : Qt::PointingHandCursor);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void Bead::showState(BeadState state, bool isHere) {
    if (m_state == state && m_isHere == isHere && !accessibleDescription().isEmpty())
        return;
    m_state = state;
    m_isHere = isHere;
    const char* word = state == BeadState::NotBuilt      ? "not built yet"
                       : state == BeadState::Done        ? "done"
                       : state == BeadState::HasFindings ? "has findings"
                                                         : "untouched";
    setAccessibleDescription(isHere ? tr("here, %1").arg(tr(word)) : tr(word));
    update();
}

void Bead::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QPointF centre(width() / 2.0, kThreadY);
    painter.setBrush(t.panel);
    if (m_state == BeadState::NotBuilt) {
        painter.setPen(QPen(t.hairline, 1.5));
        painter.drawEllipse(centre, 3, 3);
    } else if (m_isHere) {
        painter.setBrush(m_state == BeadState::HasFindings ? t.spoils : t.accent);
        painter.setPen(Qt::NoPen);
        painter.drawEllipse(centre, 8.5, 8.5);
        painter.setBrush(t.panel);
        painter.drawEllipse(centre, 3.2, 3.2);
    } else if (m_state == BeadState::HasFindings) {
        painter.setPen(QPen(t.spoils, 2));
        painter.drawEllipse(centre, 5.5, 5.5);
        painter.drawLine(centre + QPointF(0, -4), centre + QPointF(0, 0.5));
    } else {
        painter.setPen(QPen(t.accent, 1.6));
        painter.setBrush(m_state == BeadState::Done ? t.accent : t.panel);
        painter.drawEllipse(centre, 5.5, 5.5);
    }
    QFont font = this->font();
    font.setPixelSize(m_state == BeadState::NotBuilt ? 12 : 13);
    font.setBold(m_isHere);
    painter.setFont(font);
    painter.setPen(m_isHere ? t.ink : t.soft);
    if (m_state == BeadState::NotBuilt) {
        QColor faint = t.soft;
        faint.setAlpha(170);
        painter.setPen(faint);
    }
    const QRect textRect(0, 29, width(), 18);
    painter.drawText(textRect, Qt::AlignCenter, text());
    if (hasFocus()) {
        painter.setPen(QPen(t.accent, 1));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(QRectF(rect()).adjusted(6, 1.5, -6, -1.5), 4, 4);
    }
}

ThreadBar::ThreadBar(QWidget* parent) : QWidget(parent) {
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(0, 6, 0, 2);
    line->setSpacing(0);
    setAccessibleName(tr("Stations"));
    for (const StationInfo& info : stationInfos()) {
        auto* bead = new Bead(info, this);
        line->addWidget(bead);
        m_beads.append(bead);
        connect(bead, &QAbstractButton::clicked, this,
                [this, station = info.station] { emit chosen(station); });
    }
}

void ThreadBar::showStations(Station here, const QVector<BeadState>& states) {
    for (int i = 0; i < kStationCount; ++i)
        m_beads[i]->showState(states[i], i == static_cast<int>(here));
}

void ThreadBar::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(theme().accent, 1.4));
    const auto middle = [](const Bead* bead) {
        return bead->geometry().topLeft() + QPointF(bead->width() / 2.0, kThreadY);
    };
    painter.drawLine(middle(m_beads.first()), middle(m_beads.last()));
}

} // namespace thinline::app
