// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/settings/Theme.h"
#include "app/sideview/SideView.h"

#include <QKeyEvent>
#include <QPainter>

#include <algorithm>
#include <cmath>

namespace thinline::app {
namespace {

constexpr int kListWidth = 236;
constexpr double kLeastRowPx = 13.5, kMostRowPx = 19;
constexpr double kMostPxPerMm = 60;

} // namespace

double CrossSection::Card::lowest() const {
    double out = heights.front().bottomMm;
    for (const design::Height& height : heights)
        out = std::min(out, height.bottomMm);
    return out;
}

double CrossSection::Card::highest() const {
    double out = heights.front().topMm;
    for (const design::Height& height : heights)
        out = std::max(out, height.topMm);
    return out;
}

CrossSection::CrossSection(Workbench& bench, QWidget* parent) : QWidget(parent), m_bench(bench) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Side view"));
    setAccessibleDescription(tr(
        "The stack from the side. Up and down choose a layer, H hides it, Alt with up and down moves it."));
    setToolTip(tr("Click a layer to choose it. H hides it, Alt+Up and Alt+Down move it."));
    setMinimumHeight(96);
}

void CrossSection::refresh() {
    m_cards.clear();
    m_lowestMm = m_tallMm = 0;
    if (const auto finished = m_bench.made().finished) {
        const design::Stack& stack = finished->stack;
        const design::Heights& heights = finished->heights;
        m_lowestMm = heights.lowestMm;
        m_tallMm = heights.tallMm();
        for (size_t i = 0; i < stack.pieces.size(); ++i) {
            const design::Laid& laid = stack.pieces[i];
            if (m_cards.empty() || m_cards.back().layer != laid.layer) {
                const design::Layer& layer = stack.layerOf(laid);
                const raster::Rgb c = design::colourOf(stack.stocks, layer.stockId);
                const auto count = stack.in(layer.id).size();
                m_cards.push_back({layer.id,
                                   QString::fromStdString(design::layerName(stack, layer)),
                                   count == 1 ? tr("1 piece") : tr("%1 pieces").arg(count),
                                   QColor(c[0], c[1], c[2]),
                                   layer.isHidden,
                                   layer.liftMm,
                                   {}});
            }
            std::vector<design::Height>& known = m_cards.back().heights;
            constexpr double kSameMm = 0.005;
            if (std::none_of(known.begin(), known.end(), [&](const design::Height& h) {
                    return std::abs(h.bottomMm - heights.of[i].bottomMm) < kSameMm;
                }))
                known.push_back(heights.of[i]);
        }
    }
    giveSlots();
    if (std::none_of(m_cards.begin(), m_cards.end(),
                     [&](const Card& card) { return card.layer == m_chosen; }))
        m_chosen = m_cards.empty() ? design::LayerId{} : m_cards.front().layer;
    update();
}

/// Layers whose heights overlap, directly or through others, share the width.
void CrossSection::giveSlots() {
    std::vector<Card*> order;
    for (Card& card : m_cards)
        order.push_back(&card);
    std::stable_sort(order.begin(), order.end(),
                     [](const Card* a, const Card* b) { return a->lowest() < b->lowest(); });
    constexpr double kTouchMm = 0.01;
    for (size_t first = 0; first < order.size();) {
        double top = order[first]->highest();
        size_t last = first + 1;
        for (; last < order.size() && order[last]->lowest() < top - kTouchMm; ++last)
            top = std::max(top, order[last]->highest());
        for (size_t i = first; i < last; ++i) {
            order[i]->slot = static_cast<int>(i - first);
            order[i]->shared = static_cast<int>(last - first);
        }
        first = last;
    }
}

double CrossSection::pxPerMm() const {
    return std::min(kMostPxPerMm, (height() - 14) / std::max(m_tallMm, 0.1));
}

std::vector<QRectF> CrossSection::cardsOf(const Card& card) const {
    constexpr double kGapPx = 4;
    const double scale = pxPerMm(), all = width() - kListWidth - 12.0, slot = all / card.shared;
    const double left = kListWidth + slot * card.slot,
                 wide = std::max(3.0, slot - (card.shared > 1 ? kGapPx : 0));
    std::vector<QRectF> out;
    for (const design::Height& h : card.heights) {
        const double bottom = height() - 6 - (h.bottomMm - m_lowestMm) * scale,
                     top = height() - 6 - (h.topMm - m_lowestMm) * scale;
        out.emplace_back(left, top, wide, std::max(2.0, bottom - top));
    }
    return out;
}

/// Names in the order of the stack, the uppermost at the top; two columns when one has no room.
QRectF CrossSection::labelOf(size_t card) const {
    const size_t rows = std::max<size_t>(1, static_cast<size_t>((height() - 2) / kLeastRowPx));
    const size_t columns = m_cards.size() > rows ? 2 : 1,
                 perColumn = (m_cards.size() + columns - 1) / columns;
    const double high = std::min(kMostRowPx, (height() - 2.0) / static_cast<double>(perColumn));
    const double wide = (kListWidth - 16.0) / static_cast<double>(columns);
    const size_t place = m_cards.size() - 1 - card;
    return {static_cast<double>(place / perColumn) * wide, 1 + static_cast<double>(place % perColumn) * high,
            wide, high};
}

QString CrossSection::scaleText() const {
    if (m_cards.empty())
        return {};
    constexpr double kScreenPxPerMm = 96 / 25.4;
    return tr("true heights × %1 · %2 mm tall")
        .arg(pxPerMm() / kScreenPxPerMm, 0, 'f', 0)
        .arg(m_tallMm, 0, 'f', 1);
}

void CrossSection::choose(design::LayerId layer) {
    m_chosen = layer;
    update();
    emit layerChosen(layer);
}

design::LayerId CrossSection::beside(design::LayerId layer, int by) const {
    for (size_t i = 0; i < m_cards.size(); ++i)
        if (m_cards[i].layer == layer) {
            const auto last = static_cast<int>(m_cards.size()) - 1;
            return m_cards[static_cast<size_t>(std::clamp(static_cast<int>(i) + by, 0, last))].layer;
        }
    return layer;
}

design::LayerId CrossSection::layerAt(QPoint at) const {
    for (size_t i = 0; i < m_cards.size(); ++i)
        if (labelOf(i).contains(at))
            return m_cards[i].layer;
    constexpr double kAimPx = 3; // cards may be thinner than a finger's aim
    for (size_t i = m_cards.size(); i-- > 0;)
        for (const QRectF& card : cardsOf(m_cards[i]))
            if (card.adjusted(0, -kAimPx, 0, kAimPx).contains(at))
                return m_cards[i].layer;
    return {};
}

QPoint CrossSection::middleOf(design::LayerId layer) const {
    for (const Card& card : m_cards)
        if (card.layer == layer)
            return cardsOf(card).front().center().toPoint();
    return {-1, -1};
}

void CrossSection::paintLabel(QPainter& painter, size_t i) const {
    const Theme& t = theme();
    const Card& card = m_cards[i];
    const bool isChosen = card.layer == m_chosen;
    const QRectF label = labelOf(i);
    const QRectF chip(label.left(), label.center().y() - 4.5, 14, 9);
    painter.setBrush(card.isHidden ? QBrush(card.colour, Qt::BDiagPattern) : QBrush(card.colour));
    painter.setPen(QPen(isChosen ? t.ink : t.hairline, isChosen ? 2 : 1));
    painter.drawRoundedRect(chip, 2, 2);
    QFont font = this->font();
    font.setPixelSize(12);
    font.setBold(isChosen);
    painter.setFont(font);
    painter.setPen(isChosen ? t.ink : t.soft);
    const double countWidth = label.width() > 150 ? 84 : 0;
    const QRectF words(label.left() + 22, label.top(), label.width() - 26 - countWidth, label.height());
    const QString name = card.name + (card.isHidden ? tr(", hidden") : QString());
    painter.drawText(words, Qt::AlignLeft | Qt::AlignVCenter,
                     QFontMetrics(font).elidedText(name, Qt::ElideRight, static_cast<int>(words.width())));
    if (countWidth > 0)
        painter.drawText(QRectF(label.right() - countWidth - 8, label.top(), countWidth, label.height()),
                         Qt::AlignRight | Qt::AlignVCenter, card.count);
}

void CrossSection::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (m_cards.empty()) {
        painter.setPen(t.soft);
        painter.drawText(rect(), Qt::AlignCenter,
                         tr("The layers will be seen from the side here, bottom to top, at true thickness."));
        return;
    }
    const double scale = pxPerMm();
    for (size_t i = 0; i < m_cards.size(); ++i) {
        const Card& card = m_cards[i];
        const bool isChosen = card.layer == m_chosen;
        for (const QRectF& body : cardsOf(card)) {
            painter.setPen(Qt::NoPen);
            if (card.liftMm > 0) // foam or glue below
                painter.fillRect(
                    QRectF(body.left() + 6, body.bottom(), body.width() - 12, card.liftMm * scale),
                    QBrush(t.hairline, Qt::Dense4Pattern));
            painter.setBrush(card.isHidden ? QBrush(card.colour, Qt::BDiagPattern) : QBrush(card.colour));
            painter.setPen(isChosen ? QPen(hasFocus() ? t.accent : t.ink, 2) : QPen(t.hairline, 1));
            painter.drawRect(body);
        }
        paintLabel(painter, i);
    }
}

void CrossSection::mousePressEvent(QMouseEvent* event) {
    if (const design::LayerId layer = layerAt(event->pos()); numberOf(layer) != 0)
        choose(layer);
}

void CrossSection::keyPressEvent(QKeyEvent* event) {
    const bool isAlt = event->modifiers() & Qt::AltModifier;
    switch (event->key()) {
    case Qt::Key_Up:
        isAlt ? emit wantsMove(1) : choose(beside(m_chosen, 1));
        return;
    case Qt::Key_Down:
        isAlt ? emit wantsMove(-1) : choose(beside(m_chosen, -1));
        return;
    case Qt::Key_H:
        emit wantsHide();
        return;
    default:
        QWidget::keyPressEvent(event);
    }
}

} // namespace thinline::app
