// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/BenchView.h"

#include "app/settings/Theme.h"

#include <QApplication>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <cmath>

namespace thinline::app {
namespace {

using geometry::Box;
using geometry::Point;

constexpr int kRulerPx = 20;
constexpr double kLeastZoom = 0.05,
                 kMostZoom = 200; // px per mm: a mat as a stamp, a needle's eye as a window

/// 1, 2 or 5 times a power of ten: the smallest such step that is at least `least`.
double roundStep(double least) {
    const double power = std::pow(10, std::floor(std::log10(least)));
    for (double times : {1.0, 2.0, 5.0})
        if (power * times >= least)
            return power * times;
    return power * 10;
}

/// Adds a shape on the bench to a path in mm: to be looked at, not cut.
void addOutline(QPainterPath& path, const geometry::Shape& shape) {
    constexpr double kFlatMm = 0.02;
    for (const geometry::Polygon& ring : geometry::flatten(shape, kFlatMm)) {
        QPolygonF polygon;
        for (Point p : ring)
            polygon << QPointF(p.x, p.y);
        polygon << polygon.front();
        path.addPolygon(polygon);
    }
}

} // namespace

BenchView::BenchView(QWidget* parent) : QWidget(parent) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(320, 240);
    setAccessibleName(tr("Bench"));
    setAccessibleDescription(
        tr("The work at true scale. Arrows scroll, plus and minus zoom, Home shows all."));
    connect(&m_tiles, &TileCache::arrived, this, [this] {
        update();
        if (isSharp())
            emit becameSharp();
    });
}

namespace {

/// What is shown when all is to be seen: everything, but where mats and sheets lie on each other the work and
/// the smallest of them that holds it.
Box homeBox(const Scene& scene) {
    const bool areNested = std::any_of(scene.ghosts().begin(), scene.ghosts().end(),
                                       [](const SceneGhost& ghost) { return ghost.labelAtRight; });
    if (!areNested || scene.items().empty())
        return scene.box();
    Box work;
    for (const SceneItem& item : scene.items())
        work.include(geometry::bounds(geometry::transformed(*item.shape, item.map)));
    const SceneGhost* smallest = nullptr;
    for (const SceneGhost& ghost : scene.ghosts()) {
        const bool holds =
            ghost.labelAtRight && ghost.box.contains(work.least) && ghost.box.contains(work.most);
        if (holds && (!smallest || ghost.box.height() * ghost.box.width() <
                                       smallest->box.height() * smallest->box.width()))
            smallest = &ghost;
    }
    if (!smallest)
        return scene.box();
    work.include(smallest->box);
    return work;
}

} // namespace

QRect BenchView::benchRect() const {
    return rect().adjusted(kRulerPx, kRulerPx, 0, 0);
}

BenchPart BenchView::part() const {
    return {m_corner, m_pxPerMm, devicePixelRatioF(), benchRect().size()};
}

bool BenchView::isSharp() const {
    return m_tiles.isComplete(part());
}

QPointF BenchView::toWidget(Point mm) const {
    return {(mm.x - m_corner.x) * m_pxPerMm + kRulerPx, (mm.y - m_corner.y) * m_pxPerMm + kRulerPx};
}

Point BenchView::toBench(QPointF widget) const {
    return {(widget.x() - kRulerPx) / m_pxPerMm + m_corner.x,
            (widget.y() - kRulerPx) / m_pxPerMm + m_corner.y};
}

void BenchView::setScene(std::shared_ptr<const Scene> scene, bool keepsView) {
    m_scene = std::move(scene);
    m_tiles.setScene(m_scene, keepsView);
    rebuildChoice();
    m_hovered = -1;
    m_dragged = -1;
    m_isDragging = false;
    if (!keepsView) {
        m_followsSize = true;
        m_marked = {};
    }
    if (m_followsSize)
        showAll();
    m_tiles.request(part());
    update();
}

QCursor BenchView::ownCursor() const {
    return m_mode == Mode::CloseGap || m_mode == Mode::Measure ? Qt::CrossCursor : Qt::ArrowCursor;
}

void BenchView::setMode(Mode mode) {
    m_mode = mode;
    m_gapStart.reset();
    m_measureFrom.reset();
    m_measureTo.reset();
    setCursor(ownCursor());
    update();
}

void BenchView::setUnit(base::LengthUnit unit) {
    m_unit = unit;
    update();
}

void BenchView::setChosen(std::vector<design::PieceId> pieces) {
    m_chosen = std::move(pieces);
    rebuildChoice();
    update();
}

/// Paths of what is chosen are made when the choice or the scene changes, not at every move of the mouse.
void BenchView::rebuildChoice() {
    m_choice = {};
    m_firstPlace.reset();
    if (!m_scene)
        return;
    for (const SceneItem& item : m_scene->items()) {
        const auto at = std::find(m_chosen.begin(), m_chosen.end(), item.piece);
        if (at == m_chosen.end())
            continue;
        addOutline(m_choice, geometry::transformed(*item.shape, item.map));
        if (at == m_chosen.begin() && m_chosen.size() > 1)
            m_firstPlace = item.map(geometry::pointInside(*item.shape));
    }
}

void BenchView::setGhost(const std::vector<geometry::Shape>& shapes) {
    m_ghost = {};
    for (const geometry::Shape& shape : shapes)
        addOutline(m_ghost, shape);
    update();
}

void BenchView::setEmptyText(const QString& text) {
    m_emptyText = text;
    update();
}

void BenchView::setView(double pxPerMm, Point corner) {
    m_pxPerMm = pxPerMm;
    // Tiles lie on whole device pixels, so the corner does too.
    const double zoom = part().devicePxPerMm();
    m_corner = {std::round(corner.x * zoom) / zoom, std::round(corner.y * zoom) / zoom};
    m_tiles.request(part());
    update();
}

void BenchView::showAll() {
    if (m_scene && !m_scene->box().isEmpty()) {
        zoomTo(homeBox(*m_scene));
        m_followsSize = true;
    }
}

void BenchView::zoomTo(const Box& box) {
    const QRect area = benchRect();
    constexpr double kSidePx = 24, kEndPx = 40; // above and below: labels
    const double fit = std::min((area.width() - 2 * kSidePx) / std::max(box.width(), 1e-3),
                                (area.height() - 2 * kEndPx) / std::max(box.height(), 1e-3));
    const double zoom = std::clamp(fit, kLeastZoom, 40.0);
    m_followsSize = false;
    setView(zoom, box.centre() - Point{area.width() / zoom / 2, area.height() / zoom / 2});
}

void BenchView::mark(const Box& box) {
    m_marked = box;
    update();
}

void BenchView::zoomAt(QPointF widget, double factor) {
    const Point under = toBench(widget);
    const double zoom = std::clamp(m_pxPerMm * factor, kLeastZoom, kMostZoom);
    m_followsSize = false;
    setView(zoom, under - Point{(widget.x() - kRulerPx) / zoom, (widget.y() - kRulerPx) / zoom});
}

// ---- painting
// ----------------------------------------------------------------------------------------------

void BenchView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), theme().desk);
    if (!m_scene) {
        painter.setPen(theme().soft);
        QFont font = painter.font();
        font.setPixelSize(15);
        painter.setFont(font);
        painter.drawText(rect().adjusted(40, 40, -40, -40), Qt::AlignCenter | Qt::TextWordWrap, m_emptyText);
        return;
    }
    painter.setClipRect(benchRect());
    m_tiles.paint(painter, part(), benchRect().topLeft());
    painter.setRenderHint(QPainter::Antialiasing);
    paintLabels(painter);
    paintHandles(painter);
    paintHover(painter);
    painter.setClipping(false);
    paintRulers(painter);
    if (hasFocus()) {
        painter.setRenderHint(QPainter::Antialiasing, false);
        painter.setPen(theme().accent);
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(benchRect().adjusted(0, 0, -1, -1));
    }
}

void BenchView::paintLabels(QPainter& painter) {
    QFont font = painter.font();
    font.setPixelSize(12);
    for (const SceneGhost& ghost : m_scene->ghosts()) {
        if (ghost.label.isEmpty())
            continue;
        const QPointF below = toWidget({ghost.box.least.x, ghost.box.most.y}),
                      beside = toWidget(ghost.box.most);
        const QPointF at = ghost.labelAtRight ? beside + QPointF(8, -4) : below + QPointF(0, 16);
        if (ghost.labelAtRight && m_scene->itemAt(toBench(at), m_pxPerMm) >= 0)
            continue; // the work lies over it
        const int room = ghost.labelAtRight ? 200 : static_cast<int>(beside.x() - below.x());
        font.setBold(!ghost.secondLine.isEmpty());
        painter.setFont(font);
        painter.setPen(theme().ink);
        painter.drawText(at, QFontMetrics(font).elidedText(ghost.label, Qt::ElideRight, room));
        font.setBold(false);
        painter.setFont(font);
        painter.setPen(theme().soft);
        painter.drawText(at + QPointF(0, 15),
                         QFontMetrics(font).elidedText(ghost.secondLine, Qt::ElideRight, room));
    }
}

void BenchView::paintRulers(QPainter& painter) {
    const Theme& t = theme();
    painter.setRenderHint(QPainter::Antialiasing, false);
    painter.fillRect(QRect(0, 0, width(), kRulerPx), t.panel);
    painter.fillRect(QRect(0, 0, kRulerPx, height()), t.panel);
    painter.setPen(t.hairline);
    painter.drawLine(0, kRulerPx, width(), kRulerPx);
    painter.drawLine(kRulerPx, 0, kRulerPx, height());
    const double perUnit = m_unit == base::LengthUnit::Inch ? base::kMmPerInch : 1;
    const double step = roundStep(70 / (m_pxPerMm * perUnit)); // in the unit; numbers at least 70 px apart
    QFont font = painter.font();
    font.setPixelSize(10);
    painter.setFont(font);
    const auto ticks = [&](bool isAcross) {
        const double from = (isAcross ? m_corner.x : m_corner.y) / perUnit,
                     length = (isAcross ? width() : height()) / m_pxPerMm / perUnit;
        for (long i = static_cast<long>(std::floor(from / step * 10));
             i <= static_cast<long>((from + length) / step * 10); ++i) {
            const double mm = static_cast<double>(i) * step / 10 * perUnit;
            const double at = isAcross ? toWidget({mm, 0}).x() : toWidget({0, mm}).y();
            if (at < kRulerPx)
                continue;
            const int size = i % 10 == 0 ? 10 : i % 5 == 0 ? 7 : 4, px = static_cast<int>(at);
            painter.setPen(t.soft);
            isAcross ? painter.drawLine(px, kRulerPx - size, px, kRulerPx - 1)
                     : painter.drawLine(kRulerPx - size, px, kRulerPx - 1, px);
            if (i % 10 == 0) {
                const QString number = QString::number(static_cast<double>(i / 10) * step);
                if (isAcross) {
                    painter.drawText(px + 3, 10, number);
                } else {
                    painter.save();
                    painter.translate(10, px + 3);
                    painter.rotate(90);
                    painter.drawText(0, 0, number);
                    painter.restore();
                }
            }
        }
    };
    ticks(true);
    ticks(false);
    painter.fillRect(QRect(0, 0, kRulerPx, kRulerPx), t.panel);
    painter.setPen(t.soft);
    painter.drawText(QRect(0, 0, kRulerPx, kRulerPx), Qt::AlignCenter,
                     m_unit == base::LengthUnit::Inch ? "in" : "mm");
}

QPainterPath BenchView::outlineOf(int item, Point by) const {
    const auto outlines = m_scene->flat(m_pxPerMm);
    QPainterPath path;
    for (const geometry::Polygon& ring : (*outlines)[static_cast<size_t>(item)].rings) {
        QPolygonF polygon;
        for (Point p : ring)
            polygon << toWidget(p + by);
        polygon << polygon.front();
        path.addPolygon(polygon);
    }
    return path;
}

/// Chosen pieces are hatched and outlined, the first has a numbered disc; the ghost is dashed.
void BenchView::paintChoice(QPainter& painter) {
    const QColor strong = Theme::light().accent;
    const QTransform map(m_pxPerMm, 0, 0, m_pxPerMm, toWidget({}).x(), toWidget({}).y());
    if (!m_choice.isEmpty()) {
        QColor veil = strong;
        veil.setAlpha(110);
        painter.setBrush(QBrush(veil, Qt::BDiagPattern));
        painter.setPen(QPen(strong, 2));
        painter.drawPath(map.map(m_choice));
    }
    if (m_firstPlace) {
        const QPointF at = toWidget(*m_firstPlace);
        painter.setBrush(strong);
        painter.setPen(QPen(QColor("#FFFFFF"), 1.5));
        painter.drawEllipse(at, 10, 10);
        QFont font = painter.font();
        font.setPixelSize(12);
        font.setBold(true);
        painter.setFont(font);
        painter.drawText(QRectF(at.x() - 10, at.y() - 10, 20, 20), Qt::AlignCenter, "1");
    }
    if (m_ghost.isEmpty())
        return;
    QColor veil = strong;
    veil.setAlpha(60);
    painter.setBrush(veil);
    painter.setPen(QPen(QColor("#FFFFFF"), 3.5));
    painter.drawPath(map.map(m_ghost));
    QPen dashes(strong, 2);
    dashes.setDashPattern({4, 2.5});
    painter.setBrush(Qt::NoBrush);
    painter.setPen(dashes);
    painter.drawPath(map.map(m_ghost));
}

void BenchView::paintHandles(QPainter& painter) {
    const Theme& t = theme();
    const QColor strong = Theme::light().accent; // the paper under it is light in both themes
    if (!m_marked.isEmpty()) {
        const QPointF a = toWidget(m_marked.least), b = toWidget(m_marked.most);
        const QPointF middle = (a + b) / 2;
        const double radius = std::clamp(std::hypot(b.x() - a.x(), b.y() - a.y()) / 2, 14.0, 4000.0);
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(Theme::light().spoils, 2.5));
        painter.drawEllipse(middle, radius, radius);
    }
    paintChoice(painter);
    paintMeasure(painter);
    if (m_hovered >= 0 && !m_isDragging && m_mode != Mode::CloseGap && m_mode != Mode::Measure) {
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(strong, 2.5));
        painter.drawPath(outlineOf(m_hovered, {}));
    }
    if (m_isDragging && m_dragged >= 0) {
        const raster::Rgb c = m_scene->items()[static_cast<size_t>(m_dragged)].fill;
        painter.setBrush(QColor(c[0], c[1], c[2], 200));
        painter.setPen(QPen(strong, 2));
        painter.drawPath(outlineOf(m_dragged, m_dragBy));
    }
    if (m_mode == Mode::CloseGap && m_gapStart) {
        painter.setPen(QPen(Theme::light().spoils, 3, Qt::SolidLine, Qt::RoundCap));
        painter.drawLine(toWidget(*m_gapStart), m_pointer);
        painter.setBrush(t.panel);
        painter.drawEllipse(toWidget(*m_gapStart), 4, 4);
    }
}

Scene::Snap BenchView::snapped(QPointF at) const {
    constexpr double kReachPx = 9;
    return m_scene->snapAt(toBench(at), kReachPx / m_pxPerMm, m_pxPerMm);
}

/// The tape between two places, its length beside it; what the pointer holds on to is marked by its kind.
void BenchView::paintMeasure(QPainter& painter) {
    if (m_mode != Mode::Measure)
        return;
    const QColor strong = Theme::light().accent;
    const Scene::Snap here = snapped(m_pointer);
    const QPointF at = toWidget(here.at);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(strong, 2));
    switch (here.kind) {
    case Scene::Snap::Kind::Node:
        painter.drawRect(QRectF(at.x() - 5, at.y() - 5, 10, 10));
        break;
    case Scene::Snap::Kind::Centre:
        painter.drawEllipse(at, 6, 6);
        painter.drawPoint(at);
        break;
    case Scene::Snap::Kind::Edge:
        painter.drawLine(at + QPointF(-5, -5), at + QPointF(5, 5));
        painter.drawLine(at + QPointF(-5, 5), at + QPointF(5, -5));
        break;
    case Scene::Snap::Kind::Free:
        break;
    }
    if (!m_measureFrom)
        return;
    const Point to = m_measureTo ? *m_measureTo : here.at;
    const QPointF a = toWidget(*m_measureFrom), b = toWidget(to);
    painter.setPen(QPen(QColor("#FFFFFF"), 4.5, Qt::SolidLine, Qt::FlatCap));
    painter.drawLine(a, b);
    painter.setPen(QPen(strong, 2, Qt::SolidLine, Qt::FlatCap));
    painter.drawLine(a, b);
    const QPointF along = b - a;
    const double length = std::hypot(along.x(), along.y());
    if (length > 1) {
        const QPointF across(-along.y() / length * 7, along.x() / length * 7);
        painter.drawLine(a - across, a + across);
        painter.drawLine(b - across, b + across);
    }
    const QString words =
        QString::fromStdString(base::formatLength(geometry::distance(*m_measureFrom, to), m_unit));
    QFont font = painter.font();
    font.setPixelSize(13);
    font.setBold(true);
    painter.setFont(font);
    const QFontMetrics metrics(font);
    QRectF box(0, 0, metrics.horizontalAdvance(words) + 16, metrics.height() + 8);
    box.moveCenter((a + b) / 2 + QPointF(0, -20));
    painter.setPen(Qt::NoPen);
    painter.setBrush(strong);
    painter.drawRoundedRect(box, 5, 5);
    painter.setPen(QColor("#FFFFFF"));
    painter.drawText(box, Qt::AlignCenter, words);
}

void BenchView::paintHover(QPainter& painter) {
    if (m_hovered < 0 || m_isDragging || !m_hoverText || m_mode == Mode::CloseGap || m_mode == Mode::Measure)
        return;
    const QString text = m_hoverText(m_scene->items()[static_cast<size_t>(m_hovered)]);
    if (text.isEmpty())
        return;
    QFont font = painter.font();
    font.setPixelSize(12);
    painter.setFont(font);
    const QRect bounds = QFontMetrics(font).boundingRect(QRect(0, 0, 320, 200), Qt::AlignLeft, text);
    QRectF box(m_pointer + QPointF(16, 16), QSizeF(bounds.width() + 20, bounds.height() + 14));
    if (box.right() > width() - 8)
        box.moveRight(m_pointer.x() - 12);
    if (box.bottom() > height() - 8)
        box.moveBottom(m_pointer.y() - 12);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor("#1E2A31"));
    painter.drawRoundedRect(box, 6, 6);
    painter.setPen(QColor("#ECE7DF"));
    painter.drawText(box.adjusted(10, 7, -10, -7), Qt::AlignLeft, text);
}

// ---- pointer and keys
// --------------------------------------------------------------------------------------

void BenchView::resizeEvent(QResizeEvent*) {
    if (m_followsSize)
        showAll();
    m_tiles.request(part());
}

void BenchView::wheelEvent(QWheelEvent* event) {
    if (m_scene && event->angleDelta().y() != 0)
        zoomAt(event->position(), std::pow(1.0015, event->angleDelta().y()));
    event->accept();
}

void BenchView::updateHover(QPointF at) {
    m_pointer = at;
    m_hovered = m_scene && benchRect().contains(at.toPoint()) ? m_scene->itemAt(toBench(at), m_pxPerMm) : -1;
    update();
}

void BenchView::mousePressEvent(QMouseEvent* event) {
    const QPointF at = event->position();
    if (!m_scene || !benchRect().contains(at.toPoint()))
        return;
    if (event->button() == Qt::MiddleButton || (event->button() == Qt::LeftButton && m_isSpaceDown)) {
        m_isPanning = true;
        m_panFrom = at;
        m_panCorner = m_corner;
        setCursor(Qt::ClosedHandCursor);
        return;
    }
    if (event->button() != Qt::LeftButton)
        return;
    updateHover(at);
    if (m_mode == Mode::CloseGap) {
        const Point here = toBench(at);
        if (!m_gapStart) {
            m_gapStart = here;
        } else {
            const Point from = *m_gapStart;
            m_gapStart.reset();
            emit gapClosed(from, here);
        }
        update();
        return;
    }
    if (m_mode == Mode::Measure) {
        const Point here = snapped(at).at;
        if (!m_measureFrom || m_measureTo) {
            m_measureFrom = here;
            m_measureTo.reset();
        } else {
            m_measureTo = here;
            emit measured(*m_measureFrom, here);
        }
        update();
        return;
    }
    if (m_mode == Mode::Look || (m_mode == Mode::Choose && m_hovered < 0))
        emit placeClicked(toBench(at),
                          m_hovered < 0 ? 0 : m_scene->items()[static_cast<size_t>(m_hovered)].piece);
    if (m_hovered < 0)
        return;
    if (m_mode == Mode::Choose) { // a click tells on release, a drag moves
        m_dragged = m_hovered;
        m_dragStart = toBench(at);
        m_dragBy = {};
        return;
    }
    if (m_mode == Mode::Arrange) {
        m_dragged = m_hovered;
        m_dragStart = toBench(at);
        m_dragBy = {};
    }
    const SceneItem item = m_scene->items()[static_cast<size_t>(m_hovered)];
    emit itemClicked(item);
}

void BenchView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF at = event->position();
    if (m_isPanning) {
        const QPointF by = at - m_panFrom;
        m_followsSize = false;
        setView(m_pxPerMm, m_panCorner - Point{by.x() / m_pxPerMm, by.y() / m_pxPerMm});
        return;
    }
    if (m_dragged >= 0) {
        m_dragBy = toBench(at) - m_dragStart;
        m_isDragging =
            m_isDragging || geometry::length(m_dragBy) * m_pxPerMm > QApplication::startDragDistance();
        m_pointer = at;
        update();
        return;
    }
    updateHover(at);
    if (m_mode == Mode::Paint && event->buttons() == Qt::LeftButton && m_hovered >= 0)
        emit itemClicked(m_scene->items()[static_cast<size_t>(m_hovered)]); // sweeping paints too
}

void BenchView::mouseReleaseEvent(QMouseEvent* event) {
    if (m_isPanning) {
        m_isPanning = false;
        setCursor(ownCursor());
        return;
    }
    if (m_dragged < 0 || event->button() != Qt::LeftButton)
        return;
    const SceneItem item = m_scene->items()[static_cast<size_t>(m_dragged)];
    const Box box = geometry::bounds(geometry::transformed(*item.shape, item.map));
    const Point corner = box.least + m_dragBy;
    const Point moved = m_dragBy;
    const bool wasDragging = m_isDragging;
    m_dragged = -1;
    m_isDragging = false;
    update();
    if (m_mode == Mode::Choose && wasDragging)
        emit itemMoved(item, moved);
    else if (m_mode == Mode::Choose)
        emit itemClicked(item);
    else if (wasDragging)
        emit itemDragged(item, corner);
}

void BenchView::mouseDoubleClickEvent(QMouseEvent* event) {
    updateHover(event->position());
    if (m_hovered >= 0 && m_mode == Mode::Arrange)
        emit itemDoubleClicked(m_scene->items()[static_cast<size_t>(m_hovered)]);
    else
        mousePressEvent(event);
}

void BenchView::keyPressEvent(QKeyEvent* event) {
    const double step = 40 / m_pxPerMm;
    const QPointF middle = QRectF(benchRect()).center();
    switch (event->key()) {
    case Qt::Key_Space:
        if (!event->isAutoRepeat()) {
            m_isSpaceDown = true;
            setCursor(Qt::OpenHandCursor);
        }
        return;
    case Qt::Key_Home:
        showAll();
        return;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        zoomAt(middle, 1.25);
        return;
    case Qt::Key_Minus:
        zoomAt(middle, 0.8);
        return;
    case Qt::Key_Left:
        m_followsSize = false;
        setView(m_pxPerMm, m_corner - Point{step, 0});
        return;
    case Qt::Key_Right:
        m_followsSize = false;
        setView(m_pxPerMm, m_corner + Point{step, 0});
        return;
    case Qt::Key_Up:
        m_followsSize = false;
        setView(m_pxPerMm, m_corner - Point{0, step});
        return;
    case Qt::Key_Down:
        m_followsSize = false;
        setView(m_pxPerMm, m_corner + Point{0, step});
        return;
    case Qt::Key_Escape:
        m_gapStart.reset();
        m_measureFrom.reset();
        m_measureTo.reset();
        m_dragged = -1;
        m_isDragging = false;
        m_marked = {};
        update();
        return;
    default:
        QWidget::keyPressEvent(event);
    }
}

void BenchView::keyReleaseEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Space && !event->isAutoRepeat()) {
        m_isSpaceDown = false;
        setCursor(ownCursor());
    }
    QWidget::keyReleaseEvent(event);
}

void BenchView::leaveEvent(QEvent*) {
    m_hovered = -1;
    update();
}

} // namespace thinline::app
