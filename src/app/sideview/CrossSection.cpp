// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sideview/CrossSection.h"

#include "app/bench/SectionHandles.h"
#include "app/settings/Theme.h"
#include "job/LayerSteps.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QPainter>
#include <QToolTip>

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <utility>

namespace thinline::app {
namespace {

constexpr int kListWidth = 200;
constexpr double kLeastRowPx = 13.5, kMostRowPx = 19;
constexpr double kMostPxPerMm = 60;

} // namespace

CrossSection::CrossSection(Workbench& bench, QWidget* parent) : QWidget(parent), m_bench(bench) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Side view"));
    setAccessibleDescription(tr("The work from the side along the section line. Up and down choose a layer, "
                                "H hides it, Alt with up and "
                                "down moves it. Left and right move the line, with Ctrl they turn it."));
    setMinimumHeight(96);
}

void CrossSection::refresh() {
    m_rows.clear();
    m_finished = m_bench.made().finished;
    const geometry::Box before = std::exchange(m_work, {});
    if (m_finished) {
        const design::Stack& stack = m_finished->stack;
        m_work = m_finished->measures.box;
        std::map<design::LayerId, int> counts;
        for (const design::Laid& laid : stack.pieces)
            ++counts[laid.layer];
        for (const design::Layer& layer : job::layersFromBelow(m_bench.job())) {
            const raster::Rgb c = design::colourOf(stack.stocks, layer.stockId);
            const int count = counts[layer.id];
            m_rows.push_back({layer.id, nameOf(layer.id),
                              count == 0   ? tr("empty")
                              : count == 1 ? tr("1 piece")
                                           : tr("%1 pieces").arg(count),
                              QColor(c[0], c[1], c[2]), layer.isHidden,
                              layer.at == design::Layer::At::Front});
        }
    }
    if (m_work != before) // the line keeps its place in the work
        m_line =
            before.isEmpty() || m_work.isEmpty()
                ? design::acrossMiddle(m_work)
                : design::SectionLine{m_work.least + geometry::Point{(m_line.through.x - before.least.x) *
                                                                         m_work.width() / before.width(),
                                                                     (m_line.through.y - before.least.y) *
                                                                         m_work.height() / before.height()},
                                      m_line.turnRad};
    findSection();
    if (std::none_of(m_rows.begin(), m_rows.end(), [&](const Row& row) { return row.layer == m_chosen; }))
        m_chosen = m_rows.empty() ? design::LayerId{} : m_rows.front().layer;
    update();
}

QString CrossSection::nameOf(design::LayerId id) const {
    const job::Job& job = m_bench.job();
    const design::Layer* layer = design::findLayer(job.layers, id);
    if (!layer)
        return {};
    if (m_finished && m_finished->stack.layer(id))
        return QString::fromStdString(design::layerName(m_finished->stack, *layer));
    return QString::fromStdString(design::layerName({job.stocks, job.layers, {}}, *layer));
}

bool CrossSection::isBare(design::LayerId layer) const {
    return !m_finished || !m_finished->stack.layer(layer);
}

void CrossSection::findSection() {
    m_section = m_finished ? design::sectionOf(m_finished->stack, m_finished->heights, m_line,
                                               m_bench.outlines()->sections())
                           : design::Section{};
}

std::optional<design::SectionLine> CrossSection::line() const {
    return m_finished ? std::optional(m_line) : std::nullopt;
}

void CrossSection::setLine(const design::SectionLine& line) {
    m_line = line;
    findSection();
    update();
    emit lineChanged();
}

const CrossSection::Row& CrossSection::rowOf(std::size_t piece) const {
    const design::LayerId layer = m_finished->stack.pieces[piece].layer;
    return *std::find_if(m_rows.begin(), m_rows.end(), [&](const Row& row) { return row.layer == layer; });
}

double CrossSection::pxPerMm() const {
    const double tallMm = m_finished ? m_finished->heights.tallMm() : 0;
    return std::min(kMostPxPerMm, (height() - 14) / std::max(tallMm, 0.1));
}

QRectF CrossSection::cardOf(const design::SectionSpan& span) const {
    const double scale = pxPerMm(),
                 across = (width() - kListWidth - 12.0) / (m_section.toMm - m_section.fromMm);
    const double left = kListWidth + (span.fromMm - m_section.fromMm) * across,
                 lowest = m_finished->heights.lowestMm,
                 bottom = height() - 6 - (span.height.bottomMm - lowest) * scale,
                 top = height() - 6 - (span.height.topMm - lowest) * scale;
    constexpr double kLeastPx = 1.5;
    return {left, top, std::max(kLeastPx, (span.toMm - span.fromMm) * across), std::max(2.0, bottom - top)};
}

int CrossSection::spanAt(QPoint at) const {
    constexpr double kAimPx = 3; // cards may be thinner than a finger's aim
    for (size_t i = m_section.spans.size(); i-- > 0;)
        if (cardOf(m_section.spans[i]).adjusted(0, -kAimPx, 0, kAimPx).contains(at))
            return static_cast<int>(i);
    return -1;
}

/// Names in the order of the stack, the uppermost at the top; two columns when one has no room.
QRectF CrossSection::labelOf(size_t row) const {
    const size_t rows = std::max<size_t>(1, static_cast<size_t>((height() - 2) / kLeastRowPx));
    const size_t columns = m_rows.size() > rows ? 2 : 1, perColumn = (m_rows.size() + columns - 1) / columns;
    const double high = std::min(kMostRowPx, (height() - 2.0) / static_cast<double>(perColumn));
    const double wide = (kListWidth - 16.0) / static_cast<double>(columns);
    const size_t place = m_rows.size() - 1 - row;
    return {static_cast<double>(place / perColumn) * wide, 1 + static_cast<double>(place % perColumn) * high,
            wide, high};
}

QString CrossSection::scaleText() const {
    if (!m_finished)
        return {};
    constexpr double kScreenPxPerMm = 96 / 25.4;
    return tr("true heights × %1 · %2 mm tall")
        .arg(pxPerMm() / kScreenPxPerMm, 0, 'f', 0)
        .arg(m_finished->heights.tallMm(), 0, 'f', 1);
}

void CrossSection::choose(design::LayerId layer) {
    m_chosen = layer;
    update();
    emit layerChosen(layer);
}

design::LayerId CrossSection::beside(design::LayerId layer, int by) const {
    for (size_t i = 0; i < m_rows.size(); ++i)
        if (m_rows[i].layer == layer) {
            const auto last = static_cast<int>(m_rows.size()) - 1;
            return m_rows[static_cast<size_t>(std::clamp(static_cast<int>(i) + by, 0, last))].layer;
        }
    return layer;
}

design::LayerId CrossSection::besideOnItsSide(design::LayerId layer, int by) const {
    const auto rowOfLayer = [&](design::LayerId id) {
        return std::find_if(m_rows.begin(), m_rows.end(), [&](const Row& row) { return row.layer == id; });
    };
    const design::LayerId other = beside(layer, by);
    const auto from = rowOfLayer(layer), to = rowOfLayer(other);
    return from != m_rows.end() && to != m_rows.end() && from->isInFront == to->isInFront ? other : layer;
}

design::LayerId CrossSection::layerAt(QPoint at) const {
    for (size_t i = 0; i < m_rows.size(); ++i)
        if (labelOf(i).contains(at))
            return m_rows[i].layer;
    const int span = spanAt(at);
    return span < 0 ? design::LayerId{} : rowOf(m_section.spans[static_cast<size_t>(span)].piece).layer;
}

QPoint CrossSection::middleOf(design::LayerId layer) const {
    for (const design::SectionSpan& span : m_section.spans)
        if (m_finished->stack.pieces[span.piece].layer == layer)
            return cardOf(span).center().toPoint();
    for (size_t i = 0; i < m_rows.size(); ++i)
        if (m_rows[i].layer == layer)
            return labelOf(i).center().toPoint();
    return {-1, -1};
}

void CrossSection::paintLabel(QPainter& painter, size_t i) const {
    const Theme& t = theme();
    const Row& row = m_rows[i];
    const bool isChosen = row.layer == m_chosen;
    const QRectF label = labelOf(i);
    if (m_held && m_held->isDragged && m_held->over == row.layer) { // it would be laid in here
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(t.accent, 1.5));
        painter.drawRoundedRect(label.adjusted(-3, 0.5, -4, -0.5), 4, 4);
    }
    const QRectF chip(label.left(), label.center().y() - 4.5, 14, 9);
    painter.setBrush(row.isHidden ? QBrush(row.colour, Qt::BDiagPattern) : QBrush(row.colour));
    painter.setPen(QPen(isChosen ? t.ink : t.hairline, isChosen ? 2 : 1));
    painter.drawRoundedRect(chip, 2, 2);
    QFont font = this->font();
    font.setPixelSize(12);
    font.setBold(isChosen);
    painter.setFont(font);
    painter.setPen(isChosen ? t.ink : t.soft);
    const double countWidth = label.width() > 150 ? 66 : 0;
    const QRectF words(label.left() + 22, label.top(), label.width() - 26 - countWidth, label.height());
    const QString name = row.name + (row.isHidden ? tr(", hidden") : QString());
    painter.drawText(words, Qt::AlignLeft | Qt::AlignVCenter,
                     QFontMetrics(font).elidedText(name, Qt::ElideRight, static_cast<int>(words.width())));
    if (countWidth > 0)
        painter.drawText(QRectF(label.right() - countWidth - 8, label.top(), countWidth, label.height()),
                         Qt::AlignRight | Qt::AlignVCenter, row.count);
}

void CrossSection::paintSpans(QPainter& painter) const {
    const Theme& t = theme();
    const double scale = pxPerMm();
    for (const design::SectionSpan& span :
         m_section.spans) { // foam or glue, between the card and what carries it
        const double highPx = m_finished->stack.pieces[span.piece].liftMm * scale;
        const QRectF card = cardOf(span);
        if (highPx > 0)
            painter.fillRect(QRectF(card.left(),
                                    rowOf(span.piece).isInFront ? card.bottom() : card.top() - highPx,
                                    card.width(), highPx),
                             QBrush(t.hairline, Qt::Dense4Pattern));
    }
    for (const design::SectionSpan& span : m_section.spans) {
        const Row& row = rowOf(span.piece);
        const bool isChosen = row.layer == m_chosen;
        painter.setBrush(row.isHidden ? QBrush(row.colour, Qt::BDiagPattern) : QBrush(row.colour));
        painter.setPen(isChosen ? QPen(hasFocus() ? t.accent : t.ink, 2) : QPen(t.hairline, 1));
        painter.drawRect(cardOf(span));
    }
}

void CrossSection::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (!m_finished) {
        painter.setPen(theme().soft);
        painter.drawText(rect(), Qt::AlignCenter,
                         tr("The layers will be seen from the side here, bottom to top, at true thickness."));
        return;
    }
    paintSpans(painter);
    for (size_t i = 0; i < m_rows.size(); ++i)
        paintLabel(painter, i);
}

bool CrossSection::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip)
        return QWidget::event(event);
    const auto* help = static_cast<QHelpEvent*>(event);
    const int at = spanAt(help->pos());
    if (at < 0) {
        QToolTip::showText(
            help->globalPos(),
            tr("Click a layer to choose it, drag a card onto another layer to lay it in there.\n"
               "H hides a layer, Alt+Up and Alt+Down move it.\n"
               "Left and Right move the section line, with Ctrl they turn it."),
            this);
        return true;
    }
    const design::SectionSpan& span = m_section.spans[static_cast<size_t>(at)];
    const design::Laid& laid = m_finished->stack.pieces[span.piece];
    QToolTip::showText(help->globalPos(),
                       tr("%1: %2 to %3 mm high here")
                           .arg(QString::fromStdString(design::pieceName(m_finished->stack, laid)))
                           .arg(span.height.bottomMm, 0, 'f', 1)
                           .arg(span.height.topMm, 0, 'f', 1),
                       this);
    return true;
}

void CrossSection::mousePressEvent(QMouseEvent* event) {
    const int span = spanAt(event->pos());
    m_held.reset();
    if (event->button() == Qt::LeftButton && span >= 0)
        m_held = Held{m_finished->stack.pieces[m_section.spans[static_cast<size_t>(span)].piece].id(),
                      event->pos()};
    if (const design::LayerId layer = layerAt(event->pos()); numberOf(layer) != 0)
        choose(layer);
}

void CrossSection::mouseMoveEvent(QMouseEvent* event) {
    if (!m_held)
        return;
    constexpr int kStillPx = 6; // a hand that clicks is not quite still
    m_held->isDragged = m_held->isDragged || (event->pos() - m_held->from).manhattanLength() > kStillPx;
    m_held->over = m_held->isDragged ? layerAt(event->pos()) : design::LayerId{};
    setCursor(m_held->isDragged ? Qt::ClosedHandCursor : Qt::ArrowCursor);
    update();
}

void CrossSection::mouseReleaseEvent(QMouseEvent*) {
    const std::optional<Held> held = std::exchange(m_held, std::nullopt);
    unsetCursor();
    update();
    if (!held || !held->isDragged || numberOf(held->over) == 0)
        return;
    const design::Laid* laid = m_finished ? m_finished->stack.find(held->piece) : nullptr;
    if (laid && laid->layer != held->over)
        emit wantsLaying(held->piece, held->over);
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
    case Qt::Key_Left:
    case Qt::Key_Right: {
        const double way = event->key() == Qt::Key_Left ? -1 : 1;
        constexpr double kStep = 0.02, kTurnRad = 5 * std::numbers::pi / 180; // of the work; a key
        const geometry::Point normal{-m_line.along().y, m_line.along().x};
        const double size = std::max(m_work.width(), m_work.height());
        setLine(event->modifiers() & Qt::ControlModifier
                    ? turnedBy(m_line, way * kTurnRad, m_work)
                    : movedSideways(m_line, normal * (way * kStep * size), m_work));
        return;
    }
    default:
        QWidget::keyPressEvent(event);
    }
}

} // namespace thinline::app
