// SPDX-FileCopyrightText: Thin Line contributors
// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench/BenchView.h"

#include "app/settings/Theme.h"

#include <QApplication>
#include <QMouseEvent>
#include <QPainterPath>

#include <algorithm>
#include <cmath>

namespace thinline::app {
namespace {

using geometry::Box;
using geometry::Point;

constexpr double kLeastZoom = 0.05,
                 kMostZoom = 200; // px per mm: a mat as a stamp, a needle's eye as a window

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
    return m_mode == Mode::CloseGap || m_mode == Mode::Measure || isDrawing() ? Qt::CrossCursor
                                                                              : Qt::ArrowCursor;
}

void BenchView::setMode(Mode mode) {
    m_mode = mode;
    m_gapStart.reset();
    m_drawn.clear();
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

void BenchView::setFolds(const std::vector<geometry::Line>& folds) {
    m_folds.clear();
    for (const geometry::Line& fold : folds) {
        QPainterPath path({fold.start.x, fold.start.y});
        for (const geometry::Segment& s : fold.segments)
            if (s.isLine)
                path.lineTo(s.end.x, s.end.y);
            else
                path.cubicTo(s.control1.x, s.control1.y, s.control2.x, s.control2.y, s.end.x, s.end.y);
        m_folds.push_back(path);
    }
    update();
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
    if (isDrawing()) {
        m_drawn = {toBench(at)};
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
    if (!m_drawn.empty()) {
        if (m_mode == Mode::Box)
            m_drawn.resize(1);
        m_drawn.push_back(toBench(at));
        m_pointer = at;
        update();
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
    if (!m_drawn.empty()) {
        const std::vector<Point> drawn = std::exchange(m_drawn, {});
        update();
        emit dragDrawn(drawn);
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
