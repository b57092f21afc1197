// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/TraceControls.h"

#include "app/settings/Theme.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QToolTip>

namespace thinline::app {

Swatch::Swatch(const design::Stock& stock, const QString& hint)
    : m_colour(stock.colour[0], stock.colour[1], stock.colour[2]) {
    setText(QString::fromStdString(stock.name));
    setCheckable(true);
    setFixedSize(60, 50);
    setAccessibleName(text());
    setToolTip(hint);
    setFocusPolicy(Qt::StrongFocus);
}

void Swatch::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF chip(1.5, 1.5, width() - 3.0, 32);
    painter.setBrush(m_colour);
    painter.setPen(QPen(t.hairline, 1));
    painter.drawRoundedRect(chip, 4, 4);
    if (isChecked()) { // a ring and a dot, not colour alone
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(t.ink, 2.5));
        painter.drawRoundedRect(chip, 4, 4);
        painter.setPen(Qt::NoPen);
        painter.setBrush(m_colour.lightness() > 128 ? QColor("#1E2A31") : QColor("#FFFFFF"));
        painter.drawEllipse(QPointF(width() - 11.0, 11), 3.5, 3.5);
    }
    if (hasFocus()) {
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(t.accent, 1.5, Qt::DashLine));
        painter.drawRoundedRect(chip.adjusted(3, 3, -3, -3), 3, 3);
    }
    QFont font = this->font();
    font.setPixelSize(11);
    font.setBold(isChecked());
    painter.setFont(font);
    painter.setPen(isChecked() ? t.ink : t.soft);
    painter.drawText(QRect(0, 35, width(), 15), Qt::AlignCenter,
                     QFontMetrics(font).elidedText(text(), Qt::ElideRight, width()));
}

WordChoice::WordChoice(const QStringList& words, QWidget* parent)
    : QWidget(parent), m_group(new QButtonGroup(this)) {
    auto* line = new QHBoxLayout(this);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(4);
    for (int i = 0; i < words.size(); ++i) {
        auto* button = new QPushButton(words[i]);
        button->setCheckable(true);
        button->setObjectName("word");
        button->setAccessibleName(words[i]);
        m_group->addButton(button, i);
        line->addWidget(button, 1);
    }
    connect(m_group, &QButtonGroup::idClicked, this, &WordChoice::chosen);
}

void WordChoice::choose(int index) {
    if (QAbstractButton* button = m_group->button(index))
        button->setChecked(true);
}

namespace {
constexpr int kChipWidth = 60, kChipHeight = 46, kChipGap = 6, kChipsAcross = 4;
}

PaletteChips::PaletteChips(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Colours of the picture"));
    setMouseTracking(false);
    QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    setSizePolicy(policy);
}

void PaletteChips::show(std::vector<Chip> chips) {
    m_chips = std::move(chips);
    m_held = -1;
    m_isDragging = false;
    m_current = std::min(m_current, std::max(0, static_cast<int>(m_chips.size()) - 1));
    setFixedHeight(heightForWidth(width()));
    update();
}

QSize PaletteChips::sizeHint() const {
    return {kChipsAcross * (kChipWidth + kChipGap) - kChipGap, heightForWidth(0)};
}

int PaletteChips::heightForWidth(int) const {
    const int rows = (static_cast<int>(m_chips.size()) + kChipsAcross - 1) / kChipsAcross;
    return std::max(1, rows) * (kChipHeight + kChipGap) - kChipGap;
}

QRect PaletteChips::placeOf(int chip) const {
    return {(chip % kChipsAcross) * (kChipWidth + kChipGap), (chip / kChipsAcross) * (kChipHeight + kChipGap),
            kChipWidth, kChipHeight};
}

int PaletteChips::chipAt(QPointF place) const {
    for (int i = 0; i < static_cast<int>(m_chips.size()); ++i)
        if (placeOf(i).contains(place.toPoint()))
            return i;
    return -1;
}

void PaletteChips::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    QFont small = font();
    small.setPixelSize(11);
    painter.setFont(small);
    const int target = m_isDragging ? chipAt(m_at) : -1;
    for (int i = 0; i < static_cast<int>(m_chips.size()); ++i) {
        const Chip& chip = m_chips[static_cast<size_t>(i)];
        const QColor colour(chip.colour[0], chip.colour[1], chip.colour[2]);
        const QRectF body = QRectF(placeOf(i)).adjusted(1.5, 1.5, -1.5, -16.5);
        // Left out of the cut: only an outline and a word are left, not colour alone.
        painter.setBrush(chip.isCut ? QBrush(colour) : QBrush(colour, Qt::BDiagPattern));
        painter.setPen(i == target && target != m_held
                           ? QPen(t.accent, 2.5)
                           : QPen(t.hairline, 1, chip.isCut ? Qt::SolidLine : Qt::DashLine));
        painter.drawRoundedRect(body, 4, 4);
        if (hasFocus() && i == m_current) {
            painter.setBrush(Qt::NoBrush);
            painter.setPen(QPen(t.accent, 1.5, Qt::DashLine));
            painter.drawRoundedRect(body.adjusted(3, 3, -3, -3), 3, 3);
        }
        painter.setPen(chip.isCut ? t.ink : t.soft);
        const QRect place = placeOf(i);
        painter.drawText(QRect(place.left(), place.bottom() - 14, place.width(), 15), Qt::AlignCenter,
                         chip.isPaper ? tr("paper")
                         : chip.isCut ? tr("cut")
                                      : tr("not cut"));
    }
    if (m_isDragging && m_held >= 0) {
        const Chip& chip = m_chips[static_cast<size_t>(m_held)];
        painter.setBrush(QColor(chip.colour[0], chip.colour[1], chip.colour[2]));
        painter.setPen(QPen(t.ink, 1));
        painter.drawRoundedRect(QRectF(m_at.x() - 14, m_at.y() - 10, 28, 20), 4, 4);
    }
}

void PaletteChips::mousePressEvent(QMouseEvent* event) {
    m_held = chipAt(event->position());
    m_at = event->position();
    if (m_held >= 0)
        m_current = m_held;
    update();
}

void PaletteChips::mouseMoveEvent(QMouseEvent* event) {
    if (m_held < 0)
        return;
    constexpr double kStill = 6;
    m_isDragging = m_isDragging || (event->position() - m_at).manhattanLength() > kStill;
    if (m_isDragging)
        m_at = event->position();
    update();
}

void PaletteChips::mouseReleaseEvent(QMouseEvent* event) {
    const int held = std::exchange(m_held, -1), there = chipAt(event->position());
    const bool wasDragging = std::exchange(m_isDragging, false);
    update();
    if (held < 0 || there < 0)
        return;
    if (held == there && !wasDragging)
        emit toggled(held);
    else if (held != there)
        emit merged(held, there);
}

void PaletteChips::keyPressEvent(QKeyEvent* event) {
    const int last = static_cast<int>(m_chips.size()) - 1;
    switch (event->key()) {
    case Qt::Key_Left:
        m_current = std::max(0, m_current - 1);
        break;
    case Qt::Key_Right:
        m_current = std::min(last, m_current + 1);
        break;
    case Qt::Key_Space:
        if (m_current <= last)
            emit toggled(m_current);
        break;
    default:
        QWidget::keyPressEvent(event);
        return;
    }
    update();
}

bool PaletteChips::event(QEvent* event) {
    if (event->type() == QEvent::ToolTip) {
        auto* help = static_cast<QHelpEvent*>(event);
        const int chip = chipAt(help->pos());
        if (chip >= 0)
            QToolTip::showText(
                help->globalPos(),
                m_chips[static_cast<size_t>(chip)].isPaper
                    ? tr("The paper: it runs along the picture's edge and is not cut")
                    : tr("Click to cut it or leave it out; drag it onto the colour it belongs to"),
                this);
        return true;
    }
    return QWidget::event(event);
}

} // namespace thinline::app
