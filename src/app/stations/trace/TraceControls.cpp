// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/trace/TraceControls.h"

#include "app/settings/Theme.h"
#include "app/stations/Fields.h"

#include <QButtonGroup>
#include <QGridLayout>
#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>

namespace thinline::app {

Swatch::Swatch(const design::Stock& stock, const QString& hint)
    : m_colour(stock.colour[0], stock.colour[1], stock.colour[2]) {
    setText(QString::fromStdString(stock.name));
    setCheckable(true);
    setFixedSize(60, 48);
    setAccessibleName(text());
    setToolTip(hint);
    setFocusPolicy(Qt::StrongFocus);
}

void Swatch::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF chip(1.5, 1.5, width() - 3.0, 30);
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
    painter.drawText(QRect(0, 33, width(), 15), Qt::AlignCenter,
                     QFontMetrics(font).elidedText(text(), Qt::ElideRight, width()));
}

StockChoice::StockChoice(QWidget* parent)
    : QWidget(parent), m_grid(new QGridLayout(this)), m_group(new QButtonGroup(this)) {
    m_grid->setContentsMargins(0, 0, 0, 0);
    m_grid->setSpacing(6);
    connect(m_group, &QButtonGroup::idClicked, this,
            [this](int id) { m_chosen = m_shown[static_cast<size_t>(id)].id; });
}

void StockChoice::show(const std::vector<design::Stock>& stocks) {
    if (stocks == m_shown)
        return;
    m_shown = stocks;
    const auto old = m_group->buttons();
    for (QAbstractButton* button : old) {
        m_group->removeButton(button);
        delete button;
    }
    if (!design::findStock(stocks, m_chosen))
        m_chosen = stocks.empty() ? std::string() : stocks[std::min<size_t>(1, stocks.size() - 1)].id;
    constexpr int kAcross = 4;
    for (int i = 0; i < static_cast<int>(stocks.size()); ++i) {
        const design::Stock& stock = stocks[static_cast<size_t>(i)];
        auto* swatch = new Swatch(stock, tr("%1, %2 mm, %3 g/m²")
                                             .arg(QString::fromStdString(stock.name))
                                             .arg(stock.thicknessMm)
                                             .arg(stock.gramsPerM2));
        swatch->setChecked(stock.id == m_chosen);
        m_group->addButton(swatch, i);
        m_grid->addWidget(swatch, i / kAcross, i % kAcross);
    }
}

namespace {
constexpr int kChipWidth = 60, kChipHeight = 46, kChipGap = 6, kChipsAcross = 4;
constexpr int kSmallWidth = 27, kSmallHeight = 20, kSmallAcross = 8; // of many
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

bool PaletteChips::areFew() const {
    return m_chips.size() <= 2 * kChipsAcross;
}

int PaletteChips::heightForWidth(int) const {
    const int across = areFew() ? kChipsAcross : kSmallAcross, height = areFew() ? kChipHeight : kSmallHeight;
    const int rows = (static_cast<int>(m_chips.size()) + across - 1) / across;
    return std::max(1, rows) * (height + kChipGap) - kChipGap;
}

QRect PaletteChips::placeOf(int chip) const {
    const int across = areFew() ? kChipsAcross : kSmallAcross;
    const QSize size = areFew() ? QSize(kChipWidth, kChipHeight) : QSize(kSmallWidth, kSmallHeight);
    return {QPoint((chip % across) * (size.width() + kChipGap), (chip / across) * (size.height() + kChipGap)), size};
}

int PaletteChips::chipAt(QPointF place) const {
    for (int i = 0; i < static_cast<int>(m_chips.size()); ++i)
        if (placeOf(i).contains(place.toPoint()))
            return i;
    return -1;
}

/// What is left out of the cut is hatched with a dashed rim and says so: not told by colour alone.
void PaletteChips::paintChip(QPainter& painter, int i) const {
    const Theme& t = theme();
    const Chip& chip = m_chips[static_cast<size_t>(i)];
    const QColor colour(chip.colour[0], chip.colour[1], chip.colour[2]);
    const QRect place = placeOf(i);
    const QRectF body = QRectF(place).adjusted(1.5, 1.5, -1.5, areFew() ? -16.5 : -1.5);
    const bool isTarget = m_isDragging && i != m_held && i == chipAt(m_at);
    painter.setBrush(chip.isCut ? QBrush(colour) : QBrush(colour, Qt::BDiagPattern));
    painter.setPen(isTarget ? QPen(t.accent, 2.5) : QPen(t.hairline, 1, chip.isCut ? Qt::SolidLine : Qt::DashLine));
    painter.drawRoundedRect(body, 4, 4);
    if (hasFocus() && i == m_current) {
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(t.accent, 1.5, Qt::DashLine));
        painter.drawRoundedRect(body.adjusted(3, 3, -3, -3), 3, 3);
    }
    if (!areFew())
        return;
    painter.setPen(chip.isCut ? t.ink : t.soft);
    painter.drawText(QRect(place.left(), place.bottom() - 14, place.width(), 15), Qt::AlignCenter,
                     painter.fontMetrics().elidedText(chip.words, Qt::ElideRight, place.width()));
}

void PaletteChips::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    QFont small = font();
    small.setPixelSize(11);
    painter.setFont(small);
    for (int i = 0; i < static_cast<int>(m_chips.size()); ++i)
        paintChip(painter, i);
    if (m_isDragging && m_held >= 0) {
        const Chip& chip = m_chips[static_cast<size_t>(m_held)];
        painter.setBrush(QColor(chip.colour[0], chip.colour[1], chip.colour[2]));
        painter.setPen(QPen(theme().ink, 1));
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
                tr("%1. Click to cut it or leave it out; drag it onto the colour it belongs to. The paper runs along the "
                   "picture's edge and is not cut.")
                    .arg(capitalised(m_chips[static_cast<size_t>(chip)].words)),
                this);
        return true;
    }
    return QWidget::event(event);
}

} // namespace thinline::app
